// docs/reference/json.md has every field that commands write, and none that none writes.
#include <algorithm>
#include <map>
#include <regex>
#include <set>
#include <string>
#include <vector>

#include <doctest/doctest.h>
#include <nlohmann/json.hpp>

#include "documents/page.hpp"
#include "documents/reader.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

using fields = std::set<std::string>;

void collect(const nlohmann::json& value, const std::string& path, fields& into) {
    if (value.is_object()) {
        for (const auto& [name, inner] : value.items()) {
            collect(inner, path.empty() ? name : path + "." + name, into);
        }
    } else if (value.is_array() && !value.empty() && value.front().is_object()) {
        for (const nlohmann::json& inner : value) {
            collect(inner, path + "[]", into);
        }
    } else if (!(value.is_array() && value.empty())) { // of an empty list nothing is known of its members
        into.insert(path);
    }
}

// By command: the names in backticks of the rows' first cells.
std::map<std::string, fields> documented() {
    std::map<std::string, fields> found;
    std::string command;
    static const std::regex name("`([^`]+)`");
    for (const std::string& line :
         lines_of(read_whole(std::string(YURVO_ROOT) + "/docs/reference/json.md"))) {
        if (line.starts_with("## ")) {
            command = line.substr(3);
        } else if (line.starts_with("| `")) {
            const std::string cell = line.substr(0, line.find('|', 1));
            for (std::sregex_iterator at(cell.begin(), cell.end(), name), end; at != end; ++at) {
                found[command].insert((*at)[1]);
            }
        }
    }
    return found;
}

// `a.*` stands for all below a.
bool matches(const std::string& field, const std::string& row) {
    return row.ends_with(".*") ? field.starts_with(row.substr(0, row.size() - 1)) : field == row;
}

} // namespace

TEST_CASE("the page of JSON has the fields that are written, and no others" * doctest::test_suite("slow")) {
    const reader by;
    REQUIRE(by.run_here("yurvo new program lantern --rate fragment --quiet").status == 0);
    REQUIRE(by.run_here("cp -r lantern bad && sed -i 's|return 1.0 / (d \\* d);|return 1.0 / d;|' "
                        "bad/per-fragment.frag")
                .status == 0);
    REQUIRE(by.run_here("yurvo draw buoys --mistake falloff-not-squared -o wrong.png && yurvo draw buoys -o "
                        "right.png")
                .status == 0);
    std::map<std::string, fields> written;
    for (const char* const words : {"scenes",
                                    "scenes bollard",
                                    "draw buoys -o d.png",
                                    "draw buoys --show depth -o d.png",
                                    "layers wet-planks -o l.png",
                                    "rates buoys -o r.png",
                                    "rates buoys --program lantern/per-fragment.toml -o r.png",
                                    "turn bollard-with-rope -o t.png --steps 2",
                                    "curves searchlight-on-hull -o c.png",
                                    "cost buoys --repeat 2",
                                    "explain buoys --pixel 640,420",
                                    "explain buoys --pixel 640,420 --rate vertex",
                                    "explain foggy-harbour --pixel 640,500",
                                    "explain buoys --pixel 1000,270 --picture wrong.png",
                                    "check buoys",
                                    "check buoys --program lantern/per-fragment.toml",
                                    "check --program lantern/per-fragment.toml",
                                    "check buoys --program bad/per-fragment.toml",
                                    "compare right.png wrong.png",
                                    "diagnose buoys --picture wrong.png",
                                    "diagnose buoys --program bad/per-fragment.toml",
                                    "diagnose buoys --picture right.png",
                                    "mistakes",
                                    "pack buoys",
                                    "pack buoys --program lantern/per-fragment.toml",
                                    "export wet-planks -o p.glb",
                                    "doctor"}) {
        CAPTURE(words);
        const outcome done = by.run_here(std::string("yurvo ") + words + " --json found.json");
        REQUIRE_MESSAGE(done.status <= 1, done.err);
        const std::string command = std::string(words).substr(0, std::string(words).find(' '));
        collect(nlohmann::json::parse(read_whole(by.path_of("found.json"))), "", written[command]);
    }
    const std::map<std::string, fields> page = documented();
    CHECK(page.size() == written.size());
    for (const auto& each : written) {
        const auto& command = each.first;
        const auto& names = each.second;
        CAPTURE(command);
        REQUIRE(page.contains(command));
        const fields& rows = page.at(command);
        for (const std::string& field : names) {
            CAPTURE(field);
            CHECK(std::any_of(rows.begin(), rows.end(),
                              [&](const std::string& row) { return matches(field, row); }));
        }
    }
    // The other way round; but for what only some pictures have.
    const fields rare{"penumbras[].lights", "blocks[].*", "fitted", "advice", "coverage.unseen", "ties"};
    for (const auto& each : page) {
        const auto& command = each.first;
        const auto& rows = each.second;
        for (const std::string& row : rows) {
            CAPTURE(command);
            CAPTURE(row);
            const fields& names = written[command];
            CHECK((rare.contains(row) ||
                   std::any_of(names.begin(), names.end(),
                               [&](const std::string& field) { return matches(field, row); })));
        }
    }
}
