// The table of rooms: no include runs upwards or sideways.
#include <doctest/doctest.h>

#include <filesystem>
#include <map>
#include <regex>
#include <sstream>
#include <string>

#include "support/run.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"
#include "yurvo/version.hpp"

using namespace yurvo;
namespace fs = std::filesystem;

namespace {

const std::string root = YURVO_ROOT;

// The table of rooms: floor by room.
const std::map<std::string, int> floors{{"numeric", 1}, {"shading", 2}, {"formula", 2},      {"geometry", 2},
                                        {"picture", 2}, {"scene", 3},   {"pipeline", 4},     {"verify", 5},
                                        {"files", 6},   {"program", 6}, {"study", 7},        {"report", 8},
                                        {"live", 9},    {"apps", 10},   {"command_line", 10}};

// Every include of a room's header that the files under a folder have, public (`yurvo/ROOM/...`) or of the
// house's own (`ROOM/...`): file and line, room.
template <class Use> void each_include(const std::string& folder, Use&& use) {
    const std::regex include(R"rx(^\s*#\s*include\s*"(yurvo/)?([a-z_]+)/[^"]*")rx");
    for (const auto& entry : fs::recursive_directory_iterator(folder)) {
        if (entry.path().extension() != ".cpp" && entry.path().extension() != ".hpp") {
            continue;
        }
        std::istringstream text(read_whole(entry.path().string()));
        std::string line;
        for (int number = 1; std::getline(text, line); ++number) {
            std::smatch found;
            if (std::regex_search(line, found, include) && found[2].str() != "oneapi" &&
                found[2].str() != "yurvo") {
                use(entry.path().string() + ":" + std::to_string(number), found[2].str());
            }
        }
    }
}

// The headers that a source made of some includes brings, by the compiler's own list of what it opened. (What
// a build would depend on is more: Clang counts what was only asked for by __has_include.)
std::string headers_brought_by(const std::string& includes) {
    const testing::temporary_folder folder;
    const std::string source = folder / "user.cpp";
    write_whole(source, includes + "\nint main() {}\n");
    const testing::outcome listed = testing::run(
        std::string(YURVO_COMPILER) + " -std=c++20 -fsyntax-only -H -I" + root + "/include " + source);
    REQUIRE(listed.status == 0);
    return listed.err;
}

} // namespace

TEST_CASE("each room includes itself and rooms below it") {
    int seen = 0;
    for (const std::string base : {"/include/yurvo/", "/src/"}) {
        for (const auto& entry : fs::directory_iterator(root + base)) {
            if (!entry.is_directory()) {
                continue;
            }
            const std::string room = entry.path().filename().string();
            CAPTURE(room);
            REQUIRE(floors.count(room) == 1);
            each_include(entry.path().string(), [&](const std::string& where, const std::string& other) {
                CAPTURE(where);
                CAPTURE(other);
                REQUIRE(floors.count(other) == 1);
                CHECK((other == room || floors.at(other) < floors.at(room)));
                ++seen;
            });
        }
    }
    CHECK(seen > 50);
}

TEST_CASE("a public header includes public headers only") {
    each_include(root + "/include", [&](const std::string& where, const std::string& other) {
        CAPTURE(where);
        CAPTURE(other);
        const std::string line = where.substr(0, where.find_last_of(':'));
        CHECK(read_whole(line).find("#include \"" + other + "/") == std::string::npos);
    });
}

TEST_CASE("what users include brings no SIMD wrapper, thread library, matrix library or sanitizer") {
    const std::string all = headers_brought_by("#include <yurvo/yurvo.hpp>");
    CHECK(all.find("yurvo/study/rates.hpp") != std::string::npos);
    for (const char* heavy : {"xsimd", "tbb/", "Eigen", "immintrin.h", "sanitizer/", "fmt/", "nlohmann",
                              "CLI/", "shading_kernel"}) {
        CAPTURE(heavy);
        CHECK(all.find(heavy) == std::string::npos);
    }
}

TEST_CASE("the formulas alone need no package: the compiler's own headers and Yurvo's are all they bring") {
    std::istringstream listed(
        headers_brought_by("#include <yurvo/shading/shade.hpp>\n#include <yurvo/shading/models.hpp>"));
    std::size_t looked_at = 0;
    for (std::string header; listed >> header;) {
        if (header == "\\" || header.find(".hpp") == std::string::npos) {
            continue; // the standard library has none of that ending
        }
        CAPTURE(header);
        CHECK(header.starts_with(root + "/include/yurvo/"));
        ++looked_at;
    }
    CHECK(looked_at > 8);
}

TEST_CASE("the core neither prints nor opens files") {
    const std::regex forbidden(
        R"rx(#\s*include\s*<(iostream|fstream|cstdio|fmt/.*|filesystem|unistd\.h)>)rx");
    for (const std::string room :
         {"numeric", "shading", "geometry", "picture", "scene", "pipeline", "verify"}) {
        for (const std::string base : {"/include/yurvo/", "/src/"}) {
            if (!fs::exists(root + base + room)) {
                continue; // header-only
            }
            for (const auto& entry : fs::recursive_directory_iterator(root + base + room)) {
                if (entry.is_directory()) {
                    continue;
                }
                CAPTURE(entry.path().string());
                CHECK_FALSE(std::regex_search(read_whole(entry.path().string()), forbidden));
            }
        }
    }
}

TEST_CASE("the scene files of the reference scenes are those built in code") {
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        CAPTURE(reference.name);
        const std::string path = root + "/scenes/reference/" + reference.name + ".toml";
        // `yurvo scenes NAME -o FILE` writes it anew.
        CHECK(read_whole(path) == scene_text(reference.scene));
        CHECK(read_scene(path) == reference.scene);
    }
}

TEST_CASE("what is compiled for a wider instruction set shares no function with the rest") {
    // A weak function from there could be the one the linker keeps for all, and stop an older processor.
    std::istringstream objects(YURVO_WIDE_OBJECTS);
    std::string object;
    int looked_at = 0;
    while (std::getline(objects, object, '|')) {
        CAPTURE(object);
        const testing::outcome symbols = testing::run("nm " + object);
        REQUIRE(symbols.status == 0);
        CHECK_FALSE(std::regex_search(symbols.out, std::regex(R"([0-9a-f]+ [WwuU] )")));
        ++looked_at;
    }
    MESSAGE(looked_at << " objects");
}

TEST_CASE(
    "all that users include stands in the version's namespace, and is seen from outside of its library") {
    const std::string space = "namespace yurvo::inline v" + std::to_string(YURVO_VERSION_MAJOR) + "_" +
                              std::to_string(YURVO_VERSION_MINOR);
    CHECK(std::string(YURVO_VERSION) == std::to_string(YURVO_VERSION_MAJOR) + "." +
                                            std::to_string(YURVO_VERSION_MINOR) + "." +
                                            std::to_string(YURVO_VERSION_PATCH));
    const std::regex opened(R"(\nnamespace yurvo[^{]*\{)"); // others stand within
    int looked_at = 0;
    for (const auto& entry : fs::recursive_directory_iterator(root + "/include/yurvo")) {
        if (entry.is_directory()) {
            continue;
        }
        const std::string text = read_whole(entry.path().string());
        CAPTURE(entry.path().string());
        std::string rest = text;
        int spaces = 0;
        for (std::smatch found; std::regex_search(rest, found, opened); rest = found.suffix()) {
            CHECK(found.str().find(space) == 1);
            ++spaces;
        }
        const bool seen = text.find("#pragma GCC visibility push(default)\n") != std::string::npos &&
                          text.find("#pragma GCC visibility pop\n") != std::string::npos;
        CHECK(seen == (spaces > 0));
        ++looked_at;
    }
    CHECK(looked_at > 100);
}

TEST_CASE("the pipeline carries no trace of a mistake") {
    std::istringstream objects(YURVO_PIPELINE_OBJECTS);
    std::string object;
    int looked_at = 0;
    while (std::getline(objects, object, '|')) {
        if (object.empty()) {
            continue;
        }
        CAPTURE(object);
        const testing::outcome symbols = testing::run("nm -C " + object);
        const testing::outcome texts = testing::run("strings " + object);
        REQUIRE(symbols.status == 0);
        REQUIRE(texts.status == 0);
        CHECK(symbols.out.size() > 100);
        CHECK(symbols.out.find("mistake") == std::string::npos);
        CHECK(symbols.out.find("yurvo::v0_1::verify") == std::string::npos);
        CHECK(symbols.out.find("yurvo::v0_1::") != std::string::npos); // that is how names are printed
        for (const verify::mistake_entry& one : verify::all_mistakes()) {
            std::string name(one.id);
            CHECK(texts.out.find(name) == std::string::npos);
            for (char& c : name) {
                c = c == '-' ? '_' : c;
            }
            CHECK(symbols.out.find(name) == std::string::npos);
        }
        ++looked_at;
    }
    CHECK(looked_at > 8);
}
