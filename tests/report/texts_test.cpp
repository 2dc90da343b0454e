// What people read of a study: whole texts, with figures set by hand.
#include <doctest/doctest.h>

#include <string>
#include <vector>

#include "support/run.hpp"
#include "yurvo/report/comparison.hpp"
#include "yurvo/report/cost.hpp"
#include "yurvo/report/diagnosis.hpp"
#include "yurvo/report/machine.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/verify/diagnose.hpp"

using namespace yurvo;
using testing::has;

namespace {

// Without line breaks and indents, which depend on where lines are broken.
std::string flowing(const std::string& text) {
    std::string result;
    for (const char each : text) {
        const bool space = each == ' ' || each == '\n';
        if (!space || (!result.empty() && result.back() != ' ')) {
            result += space ? ' ' : each;
        }
    }
    return result;
}

verify::diagnosis found_to_be(verify::verdict_kind verdict) {
    verify::diagnosis found;
    found.verdict = verdict;
    found.compared = 64000;
    found.off = 1234;
    found.off_with = 5;
    found.tolerance = 0.75;
    found.residual = 12.25;
    return found;
}

} // namespace

TEST_CASE("texts: what a machine has, and what brings the rest") {
    const std::vector<study::machine_part> parts{
        {"threads", true, "2", "", ""},
        {"driver", false, "EGL is not installed", "--program: shaders of your own",
         "libegl1 and libgl1-mesa-dri"},
        {"window", false, "there is no display", "`yurvo view`", ""}};
    CHECK(report::machine_text(parts) == "threads  here     2\n"
                                         "driver   missing  EGL is not installed\n"
                                         "                  without it: --program: shaders of your own\n"
                                         "                  Debian's libegl1 and libgl1-mesa-dri\n"
                                         "window   missing  there is no display\n"
                                         "                  without it: `yurvo view`\n"
                                         "\n2 of 3 missing.\n");
    CHECK(report::machine_text({parts[0]}) == "threads  here     2\n\nAll is here.\n");
    CHECK(report::machine_text({}) == "\nAll is here.\n");
}

TEST_CASE("texts: a right picture, and one that is right but for its exposure") {
    verify::diagnosis found = found_to_be(verify::verdict_kind::right);
    CHECK(flowing(report::diagnosis_text(found, "shot.png", "buoys")) ==
          "shot.png is right: buoys evidence 1,234 of 64,000 compared pixels are off by more than 0.75 "
          "codes; the residual "
          "is 12.2 codes ");
    found.exposure = 1.5;
    CHECK(report::diagnosis_text(found, "shot.png", "buoys")
              .starts_with("shot.png is right but for its exposure, 1.5 times what it should be: buoys\n"));
    found.remarks = {"the picture is half as large"};
    CHECK(has(flowing(report::diagnosis_text(found, "shot.png", "buoys")),
              "remark the picture is half as large"));
}

TEST_CASE("texts: a mistake with its cause and its fix, its evidence, and what is the same here") {
    verify::diagnosis found = found_to_be(verify::verdict_kind::mistake);
    found.mistakes = {{{verify::mistake::falloff_missing}, 0.5, 1}};
    found.x = 7;
    found.y = 9;
    const verify::mistake_entry& entry = verify::entry_of(verify::mistake::falloff_missing);
    std::string text = flowing(report::diagnosis_text(found, "shot.png", "buoys"));
    CHECK(text.starts_with("shot.png: falloff-missing "));
    CHECK(has(text, flowing("what it is " + std::string(entry.what))));
    CHECK(has(text, flowing("cause " + std::string(entry.cause))));
    CHECK(has(text, flowing("fix " + std::string(entry.fix))));
    CHECK(has(
        text,
        "evidence 1,234 of 64,000 compared pixels are off against the right picture, 5 against this one; the "
        "residual falls from 12.2 to 0.5 codes"));
    CHECK(has(text, "look at pixel (7, 9), where the two differ most; `yurvo explain buoys --pixel 7,9` "
                    "works it by hand"));
    CHECK_FALSE(has(text, "the same here"));

    found.ties = {verify::mistake::encode_twice, verify::mistake::cosine_not_clamped};
    text = flowing(report::diagnosis_text(found, "shot.png", "buoys"));
    CHECK(has(text, "the same here encode-twice, cosine-not-clamped"));
    CHECK(has(text, "told apart by no single reference scene"));
    found.separated_by = "penumbras";
    CHECK(has(flowing(report::diagnosis_text(found, "shot.png", "buoys")), "told apart by penumbras"));

    found.mistakes = {{{verify::mistake::falloff_missing, verify::mistake::encode_twice}, 0.5, 1}};
    text = flowing(report::diagnosis_text(found, "shot.png", "buoys"));
    CHECK(text.starts_with("shot.png: falloff-missing + encode-twice "));
    CHECK(has(text, "mistake falloff-missing what it is"));
    CHECK(has(text, "mistake encode-twice what it is"));
}

TEST_CASE("texts: what no mistake explains, with the nearest, and what it is made up of") {
    verify::diagnosis found = found_to_be(verify::verdict_kind::unknown);
    found.mistakes = {{{verify::mistake::falloff_missing}, 3.5, 1}};
    found.makeup = {{"lantern", "diffuse", 0.5, "half of the light is lost"}, {"", "ambient", 1, ""}};
    const std::string text = report::diagnosis_text(found, "shot.png", "buoys");
    CHECK(flowing(text).starts_with(
        "shot.png is wrong, and no known mistake explains it: buoys evidence 1,234 of 64,000"));
    CHECK(has(flowing(text), "nearest falloff-missing, which leaves 3.5 codes"));
    CHECK(has(text, "\nIts make-up: how much of each term the picture holds, 1 in a right one\n"));
    CHECK(has(flowing(text), "lantern's diffuse 0.500 half of the light is lost"));
    CHECK(has(flowing(text), " ambient 1.000 "));
}

TEST_CASE("texts: two pictures, the same and not") {
    picture a(4, 2, {0.25F, 0.5F, 0.75F});
    picture b = a;
    const auto text = [&] {
        return report::comparison_text({"right.png", "mine.png", a, b}, study::compare_pictures(a, b));
    };
    CHECK(text() == "right.png and mine.png are the same, 4x2\n");
    b.set(3, 1, {0.25F, 0.625F, 0.75F}, 1.0F);
    const std::string said = flowing(text());
    CHECK(said.starts_with(
        "mine.png against right.png, 4x2 largest mean mean, signed pixels largest at linear 0.125 "));
    CHECK(has(said, " 1 3, 1 codes "));
    CHECK(has(said, "at (3, 1) right.png holds (0.25, 0.5, 0.75), mine.png (0.25, 0.625, 0.75)"));
}

TEST_CASE("texts: whether a program's picture holds, by the share of its tolerance") {
    verify::check_result held;
    held.passed = true;
    held.used = 0.375;
    held.remark = "of 2,000 pixels";
    CHECK(report::held_text(held) ==
          "within the tolerance of `check`: at most 38 % of it is used (of 2,000 pixels)\n");
    held.passed = false;
    held.used = 123.4;
    held.x = 3;
    held.y = 4;
    CHECK(report::held_text(held) ==
          "beyond the tolerance of `check`: 123 times of it at (3, 4) (of 2,000 pixels)\n");
}

TEST_CASE("texts: what rates cost, of the pipeline and of a driver") {
    study::named_scene named;
    named.name = "quay";
    named.scene.view.width = 64;
    named.scene.view.height = 40;
    study::cost found;
    found.model = "phong";
    found.instruction_set = "avx2";
    study::rate_cost fragment;
    fragment.at = rate::fragment;
    fragment.median = 1.5;
    fragment.lower = 1.25;
    fragment.upper = 2;
    fragment.vertices = 0.25;
    fragment.visibility = 0.5;
    fragment.shading = 0.75;
    fragment.encoding = 0.125;
    fragment.statistics.evaluations = 4321;
    fragment.statistics.pixels = 2560;
    found.rates = {fragment};
    found.advice = {"Per fragment, 50 % of the time goes into pixels."};
    const std::string text = flowing(report::cost_text(named, found, 15));
    CHECK(text.starts_with(
        "quay, phong, 64x40: medians of 15 frames, from the loaded scene to the picture in memory (avx2) "));
    CHECK(has(text, "fragment 1.50 1.25 to 2.00 4,321 2,560 0.25 + 0.50 + 0.75, 0.12 "));
    CHECK(text.ends_with("Per fragment, 50 % of the time goes into pixels. "));
    found.drawn_by = "a driver";
    CHECK(report::cost_text(named, found, 15) == "quay, phong, 64x40: 1.50 ms, half of 15 frames within 1.25 "
                                                 "to 2.00, by a driver; with what it takes to hand the "
                                                 "driver its scene and to read the picture back\n");
}
