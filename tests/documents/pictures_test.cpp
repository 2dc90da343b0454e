// The pictures in the documents are those that the commands draw now. By at most one code: two instruction
// sets may round a colour between two codes differently. So are those of terminals, windows and pages, but
// for what is measured or told of the machine.
#include <algorithm>
#include <array>
#include <cstdlib>
#include <filesystem>
#include <regex>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "documents/reader.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/verify/mistakes.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

namespace fs = std::filesystem;
const fs::path root = YURVO_ROOT;

struct code_picture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> codes; // four a pixel
};

code_picture read_codes(const fs::path& file) {
    REQUIRE_MESSAGE(fs::exists(file), file.string());
    const picture read = read_picture(file.string());
    return {read.width, read.height, codes_of(read)};
}

code_picture part_of(const code_picture& whole, int left, int top, int width, int height) {
    code_picture part{width, height, {}};
    for (int y = top; y < top + height; ++y) {
        const auto begin = whole.codes.begin() + (static_cast<std::ptrdiff_t>(y) * whole.width + left) * 4;
        part.codes.insert(part.codes.end(), begin, begin + static_cast<std::ptrdiff_t>(width) * 4);
    }
    return part;
}

int farthest(const code_picture& a, const code_picture& b) {
    REQUIRE(a.width == b.width);
    REQUIRE(a.height == b.height);
    int most = 0;
    for (std::size_t i = 0; i < a.codes.size(); ++i) {
        most = std::max(most, std::abs(int(a.codes[i]) - int(b.codes[i])));
    }
    return most;
}

// Pixels that differ by more than one code, but for the rows from `top` to before `bottom`.
std::size_t pixels_that_differ(const code_picture& a, const code_picture& b, std::size_t top,
                               std::size_t bottom) {
    REQUIRE(a.width == b.width);
    REQUIRE(a.height == b.height);
    std::size_t count = 0;
    for (std::size_t i = 0; i < a.codes.size(); i += 4) {
        const std::size_t row = i / 4 / static_cast<std::size_t>(a.width);
        bool off = false;
        for (std::size_t c = 0; c < 4; ++c) {
            off = off || std::abs(int(a.codes[i + c]) - int(b.codes[i + c])) > 1;
        }
        count += static_cast<std::size_t>(off && (row < top || row >= bottom));
    }
    return count;
}

// As a page shows what is see-through: before its own colour.
code_picture on_page(code_picture drawn) {
    constexpr std::array<int, 3> page{14, 20, 30};
    for (std::size_t i = 0; i < drawn.codes.size(); ++i) {
        const int alpha = drawn.codes[i / 4 * 4 + 3];
        if (i % 4 != 3) {
            drawn.codes[i] =
                static_cast<std::uint8_t>((drawn.codes[i] * alpha + page[i % 4] * (255 - alpha)) / 255);
        }
    }
    return drawn;
}

// Of the colours alone.
double apart(const code_picture& a, const code_picture& b) {
    REQUIRE(a.codes.size() == b.codes.size());
    double sum = 0;
    for (std::size_t i = 0; i < a.codes.size(); ++i) {
        sum += i % 4 == 3 ? 0 : std::abs(int(a.codes[i]) - int(b.codes[i]));
    }
    return sum;
}

} // namespace

TEST_CASE("the screenshots are what is drawn and shown now" * doctest::test_suite("slow")) {
    const reader by;
    const outcome made = run("YURVO_TOOL=" + std::string(YURVO_TOOL) + " " +
                             (root / "scripts/screenshots").string() + " " + by.path_of("shots"));
    REQUIRE_MESSAGE(made.status == 0, made.err);
    // The rows of a picture that no two runs share: the times in a window's last line, what `doctor` finds on
    // this machine, the driver's name, the plots of what was measured. All else is the same, but for what
    // WebGL rounds otherwise in a page: one pixel of 1.9 million was seen, twenty are allowed.
    struct shot {
        const char* name;
        std::size_t top = 0, bottom = 0, may_differ = 0;
    };
    const shot all[]{
        {"harbour"},        {"foggy-harbour"},     {"layers"},          {"curves"},
        {"rates"},          {"diagnose"},          {"reference-scene"}, {"compare"},
        {"show"},           {"report", 0, 0, 20},  {"check"},           {"report-scene", 0, 0, 20},
        {"explain"},        {"mistakes"},          {"view", 776, 800},  {"view-verdict", 776, 800},
        {"help", 626, 800}, {"program", 188, 208}, {"cost", 130, 600}};
    std::size_t files = 0;
    for (const fs::directory_entry& entry : fs::directory_iterator(root / "docs/screenshots")) {
        files += static_cast<std::size_t>(entry.path().extension() == ".png");
    }
    CHECK(files == std::size(all));
    for (const shot& each : all) {
        CAPTURE(std::string(each.name));
        const std::string file = std::string(each.name) + ".png";
        const code_picture now = read_codes(by.path_of("shots/" + file));
        const code_picture shown = read_codes(root / "docs/screenshots" / file);
        CHECK(pixels_that_differ(now, shown, each.top, each.bottom) <= each.may_differ);
    }
}

TEST_CASE("the pictures of formulas are what is drawn now" * doctest::test_suite("slow")) {
    const reader by;
    const outcome drawn = run("YURVO_TOOL=" + std::string(YURVO_TOOL) + " " +
                              (root / "scripts/formulas").string() + " " + by.path_of("formulas"));
    REQUIRE_MESSAGE(drawn.status == 0, drawn.err);
    int looked_at = 0;
    for (const fs::directory_entry& entry : fs::directory_iterator(root / "docs/formulas")) {
        if (entry.path().extension() == ".png") {
            CAPTURE(entry.path().filename().string());
            CHECK(farthest(read_codes(by.path_of("formulas/" + entry.path().filename().string())),
                           read_codes(entry.path())) <= 1);
            ++looked_at;
        }
    }
    CHECK(looked_at == 7);
}

TEST_CASE(
    "each mistake's pair shows the right picture and the mistaken one, and its words are the catalogue's" *
    doctest::test_suite("slow")) {
    const reader by;
    const std::string text = read_whole((root / "docs/mistakes.md").string());
    static const std::regex pair(R"(!\[([a-z-]+), and right, on ([a-z-]+)\]\(mistakes/([a-z-]+)\.png\))");
    std::size_t pairs = 0;
    for (std::sregex_iterator at(text.begin(), text.end(), pair), end; at != end; ++at) {
        const std::string id = (*at)[1];
        const std::string scene = (*at)[2];
        CAPTURE(id);
        CHECK(id == (*at)[3]);
        const verify::mistake_entry* const entry = verify::find_mistake(id);
        REQUIRE(entry != nullptr);
        for (const std::string_view part :
             {entry->what, entry->symptom, entry->cause, entry->fix, entry->applies_to}) {
            CHECK(text.find(part) != std::string::npos);
        }
        REQUIRE(by.run_here("yurvo draw " + scene + " --size 256x160 -o a.png --quiet && yurvo draw " +
                            scene + " --size 256x160 -o b.png --quiet --mistake " + id)
                    .status == 0);
        const code_picture right = on_page(read_codes(by.path_of("a.png")));
        const code_picture wrong = on_page(read_codes(by.path_of("b.png")));
        // The pair has 64 colours, to be small: what it shows is nearer to what it is to show than to the
        // other.
        const code_picture both = read_codes(root / "docs/mistakes" / (id + ".png"));
        REQUIRE(both.width == 512);
        const code_picture left_half = part_of(both, 0, 0, 256, 160);
        const code_picture right_half = part_of(both, 256, 0, 256, 160);
        CHECK(apart(left_half, right) < apart(left_half, wrong));
        CHECK(apart(right_half, wrong) < apart(right_half, right));
        ++pairs;
    }
    CHECK(pairs == verify::all_mistakes().size());
}
