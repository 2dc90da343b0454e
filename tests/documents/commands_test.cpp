// The commands, files and code in the other documents: each command is run, each file read, each piece of
// code compiled.
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "documents/page.hpp"
#include "documents/reader.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

namespace fs = std::filesystem;
const fs::path root = YURVO_ROOT;

// What the documents take for granted: pictures, sources and files of the reader's own.
void prepare(const reader& by) {
    for (const char* const command :
         {"yurvo scenes buoys -o my-scene.toml", "yurvo draw lantern-row -o from-elsewhere.png",
          "yurvo draw buoys -o right.png", "yurvo draw buoys --mistake specular-without-falloff -o mine.png",
          "yurvo new program theirs --quiet", "cp theirs/per-fragment.vert my.vert",
          "cp theirs/per-fragment.frag my.frag", "yurvo new program their-hlsl --language hlsl --quiet",
          "sed 's/vertex_main/VSMain/; s/fragment_main/PSMain/' their-hlsl/per-fragment.hlsl >my.hlsl"}) {
        CAPTURE(command);
        const outcome done = by.run_here(command);
        REQUIRE_MESSAGE(done.status == 0, done.err);
    }
    fs::create_directory_symlink(root / "examples", by.path_of("examples"));
}

// The commands that end with another status than 0, and why.
const std::map<std::string, int>& statuses() {
    static const std::map<std::string, int> list{
        {"yurvo explain buoys --pixel 640,420 --picture mine.png", 0},
        {"yurvo compare right.png mine.png -o difference.png", 0},
        {"yurvo diagnose buoys --picture mine.png -o evidence.png", 1}, // it holds a mistake
    };
    return list;
}

std::string without_comment(const std::string& line) {
    const std::size_t comment = line.find(" #");
    std::string command = line.substr(0, comment);
    command.erase(command.find_last_not_of(' ') + 1);
    return command;
}

// As a test can run it: a window as a still, a watcher for one look.
std::string to_run(const std::string& command) {
    if (command.starts_with("yurvo view") && command.find("--still") == std::string::npos) {
        return command + " --still window.png";
    }
    if (command.starts_with("yurvo watch")) {
        return command + " --once";
    }
    return command;
}

std::size_t run_all(const fs::path& document, const reader& by) {
    std::size_t commands = 0;
    for (const fenced_block& block : blocks_of(read_whole(document.string()))) {
        if (block.language != "sh") {
            continue;
        }
        for (const std::string& line : lines_of(block.text)) {
            const std::string command = without_comment(line);
            CAPTURE(block.line);
            CAPTURE(command);
            if (command.starts_with("scripts/")) {
                CHECK(fs::exists(root / command.substr(0, command.find(' '))));
                continue;
            }
            if (command.starts_with("cmake ")) {
                continue; // tests/consumers does that
            }
            REQUIRE((command.starts_with("yurvo ") || command.starts_with("mine ")));
            const outcome done = by.run_here(to_run(command));
            const auto known = statuses().find(command);
            CHECK_MESSAGE(done.status == (known == statuses().end() ? 0 : known->second),
                          done.out << done.err);
            ++commands;
        }
    }
    return commands;
}

// What a piece of a scene file is put into: what it may name is there.
const char* const around = R"(format = 1
[view]
eye = [0, 2, 5]
target = [0, 0, 0]
[materials.red]
[[objects]]
name = "quay"
material = "red"
shape = "plane"
[[lights]]
kind = "point"
position = [0, 2, 0]
)";

// A piece of a program file: sources, and what a whole one has to say besides.
const char* const around_program = R"(format = 1
language = "glsl"
vertex = "lantern.vert"
fragment = "lantern.frag"
)";

} // namespace

TEST_CASE("the commands of the README are run, in order, and end as they should" *
          doctest::test_suite("slow")) {
    const reader by;
    prepare(by);
    CHECK(run_all(root / "README.md", by) > 45);
}

TEST_CASE("the commands about shaders of one's own are run, in order" * doctest::test_suite("slow")) {
    const reader by;
    prepare(by);
    CHECK(run_all(root / "docs/programs.md", by) > 10);
}

TEST_CASE("pieces of scene files and program files in the documents are read") {
    const temporary_folder folder;
    write_whole(folder / "lantern.vert", "void main() {}\n");
    write_whole(folder / "lantern.frag", "void main() {}\n");
    std::size_t read = 0;
    for (const char* const name :
         {"README.md", "docs/scene-file.md", "docs/programs.md", "docs/formulas.md"}) {
        CAPTURE(name);
        for (const fenced_block& block : blocks_of(read_whole((root / name).string()))) {
            CAPTURE(block.line);
            if (block.language != "toml") {
                continue;
            }
            const std::string file = folder / "piece.toml";
            if (!block.words.empty()) { // docs/formulas.md: put into its scene, as scripts/formulas does
                write_whole(file,
                            read_whole((root / "docs/formulas/buoys.toml").string()) + "\n" + block.text);
                CHECK_NOTHROW(read_scene(file));
            } else if (block.text.find("[uniforms]") != std::string::npos) {
                const bool whole = block.text.starts_with("format");
                write_whole(file, (whole ? "" : around_program) + block.text +
                                      (whole ? "" : "[attributes]\na_position = \"position\"\n"));
                CHECK_NOTHROW(read_program(file));
            } else {
                write_whole(file, around + block.text);
                CHECK_NOTHROW(read_scene(file));
            }
            ++read;
        }
    }
    CHECK(read >= 10);
}

TEST_CASE(
    "the code of the README compiles, and its lines for CMake are those that consumers under test have") {
    const temporary_folder folder;
    std::size_t looked_at = 0;
    for (const fenced_block& block : blocks_of(read_whole((root / "README.md").string()))) {
        CAPTURE(block.line);
        if (block.language == "cpp") {
            write_whole(folder / "mine.cpp", block.text);
            const outcome compiled = run(std::string(YURVO_COMPILER) + " -std=c++20 -fsyntax-only -I" +
                                         (root / "include").string() + " " + (folder / "mine.cpp"));
            CHECK_MESSAGE(compiled.status == 0, compiled.err);
            ++looked_at;
        } else if (block.language == "cmake") {
            const std::string consumer =
                without_spaces(read_whole((root / "tests/consumers/whole/CMakeLists.txt").string()));
            for (const std::string& line : lines_of(block.text)) {
                std::string call = without_spaces(without_comment(line));
                for (const auto& [theirs, ours] : std::vector<std::pair<std::string, std::string>>{
                         {"(mineMODEL", "(ownMODEL"},
                         {"(minePRIVATE", "(ownPRIVATE"},
                         {"HEADERwrapped", "HEADER${EXAMPLES}/wrapped"}}) {
                    const std::size_t at = call.find(theirs);
                    call = at == std::string::npos ? call : call.replace(at, theirs.size(), ours);
                }
                CAPTURE(call);
                CHECK(consumer.find(call) != std::string::npos);
            }
            ++looked_at;
        }
    }
    CHECK(looked_at == 2);
}

TEST_CASE("what the README shows of doctor names the parts that doctor names, in its order") {
    const reader by;
    std::vector<std::string> names;
    for (const std::string& line : by.type("yurvo doctor")) {
        if (!line.starts_with(' ')) {
            names.push_back(line.substr(0, line.find("  ")));
        }
    }
    std::vector<std::string> shown;
    for (const fenced_block& block : blocks_of(read_whole((root / "README.md").string()))) {
        if (block.language.empty()) {
            for (const std::string& line : lines_of(block.text)) {
                if (!line.starts_with(' ')) {
                    shown.push_back(line.substr(0, line.find("  ")));
                }
            }
        }
    }
    REQUIRE(shown.size() == 7);
    std::size_t at = 0;
    for (const std::string& name : names) {
        at += at < shown.size() && shown[at] == name ? 1U : 0U;
    }
    CHECK(at == shown.size());
}

TEST_CASE("the error that docs/formulas.md shows is the one that is printed there") {
    const reader by;
    write_whole(by.path_of("quay.toml"),
                std::string(around).substr(0, std::string(around).find("[materials")) +
                    "[numbers]\nwrap = 0.5\n\n[formulas]\n" +
                    "diffuse = \"wrp\"\n[materials.red]\n[[objects]]\n"
                    "material = \"red\"\nshape = \"plane\"\n");
    const outcome refused = by.run_here("yurvo draw quay.toml -o a.png");
    CHECK(refused.status == 2);
    const std::string document = read_whole((root / "docs/formulas.md").string());
    const fenced_block first = blocks_of(document).at(0);
    REQUIRE(first.language.empty());
    CHECK(has(refused.err, first.text.substr(0, first.text.size() - 1)));
}
