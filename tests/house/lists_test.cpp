// Every entry of the lists is in the documents, by the name that files and messages use.
#include <fstream>
#include <iterator>
#include <set>
#include <sstream>
#include <string>

#include "yurvo/scene/shape_list.hpp"
#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/falloff_list.hpp"
#include "yurvo/shading/penumbra_list.hpp"
#include "yurvo/study/study_list.hpp"
#include "yurvo/verify/mistakes.hpp"
#include <doctest/doctest.h>

using namespace yurvo;

namespace {

std::string document(const std::string& name) {
    std::ifstream file(std::string(YURVO_ROOT) + (name == "README.md" ? "/" : "/docs/") + name);
    std::stringstream text;
    text << file.rdbuf();
    return text.str();
}

// The row of the document's table that is about a key of the scene file.
std::string row_of(const std::string& text, const std::string& key) {
    std::stringstream lines(text);
    std::string line;
    while (std::getline(lines, line)) {
        if (line.starts_with('|') && line.find("| `" + key + "` |") != std::string::npos) {
            return line;
        }
    }
    return "";
}

// Each entry has a name of its own, stands at its kind's place, and its key's row names it.
template <class List> void check_named(const List& list, const std::string& row) {
    REQUIRE_FALSE(row.empty());
    std::set<std::string> seen;
    for (std::size_t i = 0; i < list.size(); ++i) {
        const std::string name(list[i].name);
        CAPTURE(name);
        CHECK(seen.insert(name).second);
        CHECK(static_cast<std::size_t>(list[i].kind) == i);
        CHECK(row.find("`" + name + "`") != std::string::npos);
    }
}

} // namespace

TEST_CASE("lists: every falloff, penumbra and model is in the scene file's document") {
    const std::string text = document("scene-file.md");
    check_named(falloff_list, row_of(text, "falloff"));
    check_named(penumbra_list, row_of(text, "penumbra"));
    check_named(model_list, row_of(text, "model"));
}

TEST_CASE("lists: every mistake is in its document") {
    const std::string text = document("mistakes.md");
    REQUIRE(text.size() > 100);
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        CAPTURE(entry.id);
        CHECK(text.find("\n## " + std::string(entry.id) + "\n") != std::string::npos);
    }
}

TEST_CASE("lists: every shape is in the scene file's document, with its keys and its default cells") {
    const std::string text = document("scene-file.md");
    for (const shape_descriptor& known : shape_list()) {
        CAPTURE(known.name);
        // The first row that begins with its name, or names it second, as that of cylinder and cone.
        std::stringstream lines(text);
        std::string line;
        std::string row;
        const std::string name = "`" + std::string(known.name) + "`";
        while (row.empty() && std::getline(lines, line)) {
            const std::string first = line.starts_with("| `") ? line.substr(0, line.find('|', 1)) : "";
            row = first.find(name) != std::string::npos ? line : "";
        }
        REQUIRE_FALSE(row.empty());
        for (const shape_size& size : known.sizes) {
            CHECK(row.find("`" + std::string(size.key) + "`") != std::string::npos);
            const bool is_required = row.find("required") != std::string::npos;
            CHECK(is_required == !size.has_default);
        }
        for (const std::string_view key : known.other_keys) {
            CAPTURE(key);
            CHECK(text.find("`" + std::string(key) + "`") != std::string::npos);
        }
        if (known.cells.of != nullptr) {
            any_shape made = known.make();
            const std::uint32_t* cells = known.cells.of(made);
            CHECK(row.find("`[" + std::to_string(cells[0]) + ", " + std::to_string(cells[1]) + "]`") !=
                  std::string::npos);
        }
    }
}

TEST_CASE("lists: every study is in the README, and stands at its kind's place") {
    const std::string text = document("README.md");
    for (std::size_t i = 0; i < study::study_list.size(); ++i) {
        const study::study_descriptor& known = study::study_list[i];
        CAPTURE(known.name);
        CHECK(static_cast<std::size_t>(known.kind) == i);
        CHECK(text.find("yurvo " + std::string(known.name) + " ") != std::string::npos);
    }
}

// A line that is broken on purpose must be one that is still there.
TEST_CASE("lists: every line that mutants break is in its file") {
    const auto read = [](const std::string& path) {
        std::ifstream file(std::string(YURVO_ROOT) + "/" + path);
        std::string text{std::istreambuf_iterator<char>(file), std::istreambuf_iterator<char>()};
        // However lines are broken: one blank for all that lie between two words.
        std::string result;
        for (const char each : text) {
            const bool blank = each == ' ' || each == '\n';
            if (!blank || result.empty() || result.back() != ' ') {
                result += blank ? ' ' : each;
            }
        }
        return result;
    };
    std::ifstream list(std::string(YURVO_ROOT) + "/tests/mutants.txt");
    std::string line;
    int count = 0;
    while (std::getline(list, line)) {
        if (line.empty() || line.front() == '#') {
            continue;
        }
        CAPTURE(line);
        const std::string between = " ::: ";
        const std::size_t first = line.find(between);
        REQUIRE(first != std::string::npos);
        const std::size_t begin = first + between.size();
        std::string broken = line.substr(begin, line.find(between, begin) - begin);
        for (const std::string mark : {"«", "»"}) { // around what is exchanged, in what it stands in
            if (const std::size_t at = broken.find(mark); at != std::string::npos) {
                broken.erase(at, mark.size());
            }
        }
        CHECK(read(line.substr(0, first)).find(broken) != std::string::npos);
        ++count;
    }
    CHECK(count > 200);
}
