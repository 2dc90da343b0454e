// The tutorial is worked through as a reader would: its files written, its commands run in order, what they
// print and draw held to what the pages show. YURVO_WRITE_DOCUMENTS=1 writes anew what the pages show
// (scripts/tutorial).
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <regex>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "documents/page.hpp"
#include "documents/reader.hpp"
#include "support/sampling.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/picture/encoding.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

namespace fs = std::filesystem;
const fs::path root = YURVO_ROOT;
const bool writes = std::getenv("YURVO_WRITE_DOCUMENTS") != nullptr;

// `text` begins with a table's header: it takes the place of that table, up to the next header.
std::string with_table(const std::string& file, const std::string& text) {
    const std::string header = text.substr(0, text.find('\n') + 1);
    const std::size_t begin = file.find(header);
    REQUIRE_MESSAGE(begin != std::string::npos, header);
    std::size_t end = file.find("\n[", begin);
    end = end == std::string::npos ? file.size() : end + 1;
    return file.substr(0, begin) + text + (end < file.size() ? "\n" : "") + file.substr(end);
}

void write_as_told(const reader& by, const fenced_block& block) {
    const std::string& name = block.words[0];
    const std::string how = block.words.size() > 1 ? block.words[1] : "";
    const std::string path = by.path_of(name);
    const std::string before = fs::exists(path) ? read_whole(path) : "";
    if (how == "append") {
        write_whole(path, before + "\n" + block.text);
    } else if (how == "table") {
        write_whole(path, with_table(before, block.text));
    } else {
        REQUIRE(how.empty());
        fs::create_directories(fs::path(path).parent_path());
        write_whole(path, block.text);
    }
}

// By at most one code: two instruction sets may round a colour between two codes differently.
void hold_picture(const std::string& found, const fs::path& shown) {
    REQUIRE(fs::exists(found));
    if (writes) {
        fs::copy_file(found, shown, fs::copy_options::overwrite_existing);
    }
    REQUIRE(fs::exists(shown));
    const picture now = read_picture(found);
    const picture before = read_picture(shown.string());
    REQUIRE(now.width == before.width);
    REQUIRE(now.height == before.height);
    const std::vector<std::uint8_t> a = codes_of(now);
    const std::vector<std::uint8_t> b = codes_of(before);
    int farthest = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        farthest = std::max(farthest, std::abs(int(a[i]) - int(b[i])));
    }
    CHECK(farthest <= 1);
}

struct counted {
    std::size_t commands = 0, pictures = 0, files = 0;
};

void work_through(const fs::path& document, const reader& by, counted& all) {
    std::string text = read_whole(document.string());
    const std::size_t blocks = blocks_of(text).size();
    for (std::size_t b = 0; b < blocks; ++b) {
        const fenced_block block = blocks_of(text)[b]; // anew: what is written moves those behind it
        CAPTURE(block.line);
        if (block.language == "console") {
            std::string written;
            for (const shown_command& one : commands_of(block.text)) {
                CAPTURE(one.command);
                const std::vector<std::string> printed = by.type(one.command);
                const bool same = agrees(printed, one.output);
                std::string shown;
                for (const std::string& line : printed) {
                    shown += line + "\n";
                }
                CHECK_MESSAGE((same || writes), "it printed:\n" << shown);
                if (same) {
                    shown.clear();
                    for (const std::string& line : one.output) {
                        shown += line + "\n";
                    }
                }
                written += "$ " + one.command + "\n" + shown;
                ++all.commands;
            }
            if (writes) {
                text = with_block(text, block, written);
            }
        } else if (!block.words.empty() && fs::exists(root / block.words[0])) {
            // A part of a file that is built and run elsewhere.
            CHECK(without_spaces(read_whole((root / block.words[0]).string()))
                      .find(without_spaces(block.text)) != std::string::npos);
            ++all.files;
        } else if (!block.words.empty()) {
            write_as_told(by, block);
            ++all.files;
        } else {
            CHECK_MESSAGE(block.language.empty(),
                          "a block of " << block.language << " without a file's name");
        }
    }
    if (writes) {
        write_whole(document.string(), text);
    }
    static const std::regex shown(R"(!\[[^\]]*\]\(([^)]+\.png)\))");
    for (std::sregex_iterator at(text.begin(), text.end(), shown), end; at != end; ++at) {
        const std::string name = (*at)[1];
        CAPTURE(name);
        if (name.find('/') == std::string::npos) { // else it is another document's
            hold_picture(by.path_of(name), document.parent_path() / name);
            ++all.pictures;
        }
    }
}

std::vector<fs::path> pages() {
    std::vector<fs::path> found;
    for (const fs::directory_entry& entry : fs::directory_iterator(root / "docs/tutorial")) {
        if (entry.path().extension() == ".md") {
            found.push_back(entry.path());
        }
    }
    std::sort(found.begin(), found.end());
    return found;
}

} // namespace

TEST_CASE("a line of dots stands for any lines, and for nothing else") {
    CHECK(agrees({"a", "b"}, {"a", "b"}));
    CHECK_FALSE(agrees({"a", "b"}, {"a"}));
    CHECK_FALSE(agrees({"a"}, {"a", "b"}));
    CHECK(agrees({"a", "x", "y", "b"}, {"a", "...", "b"}));
    CHECK(agrees({"a", "b"}, {"a", "...", "b"}));
    CHECK_FALSE(agrees({"a", "x", "c"}, {"a", "...", "b"}));
    CHECK(agrees({"a", "b", "c"}, {"...", "c"}));
    CHECK_FALSE(agrees({}, {"a"}));
}

TEST_CASE("what a machine decides may differ, and nothing beside it") {
    CHECK(agrees({"held  buoys  12 checks; at most 6 % of a tolerance used"},
                 {"held  buoys  12 checks; at most 19 % of a tolerance used"}));
    // Numbers count, but where fewer pixels are looked at than elsewhere.
    CHECK(agrees({"held  buoys  12 checks; at most 6 % of a tolerance used"},
                 {"held  buoys  11 checks; at most 6 % of a tolerance used"}) == !testing::patient);
    CHECK(agrees({"50 % of pixels"}, {"60 % of pixels"}) == !testing::patient);
    CHECK_FALSE(agrees({"held  buoys  12 checks"}, {"held  buoys  twelve checks"}));
}

TEST_CASE("a table takes the place of the one with its header") {
    const std::string file = "[a]\nx = 1\n\n[b]\ny = 2\n";
    CHECK(with_table(file, "[a]\nx = 3\n") == "[a]\nx = 3\n\n[b]\ny = 2\n");
    CHECK(with_table(file, "[b]\ny = 5\n") == "[a]\nx = 1\n\n[b]\ny = 5\n");
}

TEST_CASE("the tutorial, worked through: each command prints, and each picture shows, what the page says") {
    const reader by;
    counted all;
    part_of_list part;
    for (const fs::path& page : pages()) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(page.filename().string());
        work_through(page, by, all);
    }
    MESSAGE(all.commands << " commands, " << all.pictures << " pictures, " << all.files << " files");
    CHECK(all.commands > (testing::whole ? 40 : 0));
    CHECK(all.pictures > (testing::whole ? 12 : 0));
}
