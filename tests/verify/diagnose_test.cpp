// A verdict from one picture: mistakes by name, right ones left in peace, and what pictures from elsewhere
// bring with them.
#include <doctest/doctest.h>

#include <atomic>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <random>

#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "verify/cast.hpp"
#include "yurvo/model.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/diagnose.hpp"

using namespace yurvo;
using enum verify::mistake;

using verify::mistake;
using verify::verdict_kind;

namespace {

scene reference(const std::string& name, int width = 320, int height = 200) {
    scene made = verify::find_reference(name)->scene;
    made.expects.clear();
    made.view.width = width;
    made.view.height = height;
    return made;
}

// As a PNG has it.
picture through_codes(const picture& of) { return picture_of(of.width, of.height, codes_of(of)); }

picture with(const scene& of, const verify::mistake_set& wrong) {
    return picture_of(of.view.width, of.view.height,
                      verify::codes_with(verify::draw_with_mistakes(of, wrong), wrong));
}

bool names(const verify::diagnosis& found, mistake which) {
    if (found.verdict != verdict_kind::mistake) {
        return false;
    }
    bool named = found.mistakes.front().which == std::vector{which};
    for (const mistake tied : found.ties) {
        named = named || tied == which;
    }
    return named;
}

std::size_t pixels_apart(const picture& a, const picture& b) {
    std::size_t count = 0;
    for (std::size_t i = 0; i < a.values.size(); i += 4) {
        int most = 0;
        for (std::size_t c = 0; c < 4; ++c) {
            most = std::max(most, std::abs(static_cast<int>(code_of(a.values[i + c])) -
                                           static_cast<int>(code_of(b.values[i + c]))));
        }
        count += most >= 4 ? 1U : 0U;
    }
    return count;
}

bool remarked(const verify::diagnosis& found, const std::string& part) {
    for (const std::string& remark : found.remarks) {
        if (remark.find(part) != std::string::npos) {
            return true;
        }
    }
    return false;
}

double factor_of(const verify::diagnosis& found, const std::string& light, const std::string& term) {
    for (const verify::makeup_part& part : found.makeup) {
        if (part.light == light && part.term == term) {
            return part.factor;
        }
    }
    return -1000;
}

} // namespace

TEST_CASE("each mistake is named from its 8-bit picture, in the scenes that reveal it" *
          doctest::test_suite("slow")) {
    testing::part_of_list part;
    testing::part_of_list scenes;
    std::size_t tried = 0;
    std::size_t named = 0;
    for (const verify::reference_scene& one : verify::reference_scenes()) {
        // Of many lanterns, many objects and formulas a smaller picture, which is harder to tell.
        const bool many =
            one.scene.lights.size() > 16 || one.scene.objects.size() > 16 || one.scene.formulas.any();
        const scene of = many ? reference(one.name, 160, 100) : reference(one.name, 240, 150);
        const picture right = through_codes(draw(of));
        CAPTURE(one.name);
        if (scenes.asks_next()) {
            CHECK(verify::diagnose(of, right, pixel_format::srgb_codes).verdict == verdict_kind::right);
        }
        for (const verify::mistake_entry& entry : verify::all_mistakes()) {
            // What many scenes reveal need not be asked of the one with the most objects as well.
            constexpr std::size_t many_reveal = 6;
            if (!part.asks_next() || !verify::applies(entry.which, of) ||
                (one.scene.objects.size() > 16 && entry.scenes.size() > many_reveal)) {
                continue;
            }
            const picture wrong = with(of, {entry.which});
            if (pixels_apart(wrong, right) < (many ? 64U : 144U)) { // 64 of 160x100
                continue;
            }
            ++tried;
            CAPTURE(entry.id);
            const bool found = names(verify::diagnose(of, wrong, pixel_format::srgb_codes), entry.which);
            CHECK(found);
            named += found ? 1U : 0U;
        }
    }
    std::printf("%zu of %zu pictures: the mistake is first or among the ties\n", named, tried);
    CHECK((tried > 300 || !testing::whole));
}

TEST_CASE("no right picture is accused: random scenes by the second method") {
    const std::uint64_t count = testing::random_scene_count(25);
    std::printf("seeds 1 to %llu\n", static_cast<unsigned long long>(count));
    for (std::uint64_t seed = 1; seed <= count; ++seed) {
        const scene of = testing::random_scenes(seed, true).next(160, 100);
        CAPTURE(seed);
        const verify::diagnosis found =
            verify::diagnose(of, through_codes(verify::cast_picture(of)), pixel_format::srgb_codes);
        CHECK(found.verdict == verdict_kind::right);
    }
}

TEST_CASE("two mistakes together are both named") {
    const scene of = reference("buoys");
    for (const auto& each :
         {std::pair{falloff_missing, encode_missing}, std::pair{picture_upside_down, channels_swapped},
          std::pair{ambient_missing, specular_times_cosine}, std::pair{half_not_normalized, encode_twice}}) {
        const auto& a = each.first;
        const auto& b = each.second;
        const verify::diagnosis found = verify::diagnose(of, with(of, {a, b}), pixel_format::srgb_codes);
        CAPTURE(verify::entry_of(a).id);
        CAPTURE(verify::entry_of(b).id);
        REQUIRE(found.verdict == verdict_kind::mistake);
        CHECK(found.mistakes.front().set() == verify::mistake_set{a, b});
        // Where one alone is asked for, none explains it.
        const verify::diagnosis alone = verify::diagnose(of, with(of, {a, b}), pixel_format::srgb_codes, {},
                                                         built_in_renderer(), 64'000, 1);
        CHECK(alone.verdict == verdict_kind::unknown);
        REQUIRE_FALSE(alone.mistakes.empty());
        CHECK(alone.mistakes.front().which.size() == 1);
    }
}

TEST_CASE("a picture that holds what is no number is not right, whichever component it is") {
    const scene of = reference("buoys");
    for (const float none :
         {std::numeric_limits<float>::quiet_NaN(), std::numeric_limits<float>::infinity()}) {
        for (std::size_t component = 0; component < 4; ++component) {
            picture found = draw(of);
            for (std::size_t pixel = 0; pixel < found.values.size() / 4; pixel += 7) {
                found.values[4 * pixel + component] = none;
            }
            CAPTURE(component);
            CAPTURE(none);
            const verify::diagnosis told = verify::diagnose(of, found, pixel_format::floats);
            CHECK(told.verdict == verdict_kind::unknown);
            CHECK(told.off > told.compared / 8);
            CHECK(remarked(told, std::to_string((found.values.size() / 4 + 6) / 7) +
                                     " pixels hold NaN or infinity, the first at (0, 0)"));
            CHECK(told.makeup.empty());
        }
    }
}

TEST_CASE("one pixel that holds no number is wrong wherever it is") {
    const scene of = reference("buoys", 80, 50);
    const picture right = draw(of);
    for (int y = 0; y < 50; y += 7) { // at edges, on surfaces and before nothing
        for (int x = 0; x < 80; x += 3) {
            picture found = right;
            found.set(x, y, rgb<float>(std::numeric_limits<float>::quiet_NaN()), 1);
            CAPTURE(x);
            CAPTURE(y);
            const verify::diagnosis told = verify::diagnose(of, found, pixel_format::floats);
            CHECK(told.verdict == verdict_kind::unknown);
            CHECK(told.off == 1);
            CHECK(remarked(told, "1 pixel holds NaN or infinity, at (" + std::to_string(x) + ", " +
                                     std::to_string(y) + ")"));
        }
    }
}

TEST_CASE("what pictures from elsewhere bring: another size, exposure, noise, missing alpha") {
    const scene of = reference("buoys");
    const scene other = reference("buoys", 200, 125);
    verify::diagnosis found = verify::diagnose(of, through_codes(draw(other)), pixel_format::srgb_codes);
    CHECK(found.verdict == verdict_kind::right);
    CHECK(remarked(found, "200x125"));
    found = verify::diagnose(of, with(other, {falloff_missing}), pixel_format::srgb_codes);
    CHECK(names(found, falloff_missing));

    picture exposed = draw(of);
    for (std::size_t i = 0; i < exposed.values.size(); ++i) {
        exposed.values[i] *= i % 4 == 3 ? 1.0F : 0.6F;
    }
    found = verify::diagnose(of, through_codes(exposed), pixel_format::srgb_codes);
    CHECK(found.verdict == verdict_kind::right);
    CHECK(found.exposure == doctest::Approx(0.6).epsilon(0.01));
    CHECK(remarked(found, "exposure"));
    picture both = verify::draw_with_mistakes(of, {specular_times_cosine});
    for (std::size_t i = 0; i < both.values.size(); ++i) {
        both.values[i] *= i % 4 == 3 ? 1.0F : 0.7F;
    }
    found = verify::diagnose(of, through_codes(both), pixel_format::srgb_codes);
    CHECK(names(found, specular_times_cosine));
    CHECK(found.mistakes.front().exposure == doctest::Approx(0.7).epsilon(0.01));

    // Noise of ±2 codes on every component, as light compression leaves it.
    std::printf("seed 7\n");
    std::mt19937_64 random(7);
    const auto noisy = [&](const picture& given) {
        std::vector<std::uint8_t> codes = codes_of(given);
        for (std::size_t i = 0; i < codes.size(); ++i) {
            const int off = i % 4 == 3 ? 0 : static_cast<int>(random() % 5) - 2;
            codes[i] = static_cast<std::uint8_t>(std::clamp(static_cast<int>(codes[i]) + off, 0, 255));
        }
        return picture_of(given.width, given.height, codes);
    };
    found = verify::diagnose(of, noisy(draw(of)), pixel_format::srgb_codes);
    CHECK(found.verdict == verdict_kind::right);
    CHECK(remarked(found, "noisy"));
    for (const mistake one : {falloff_missing, light_direction_flipped, encode_missing, ambient_missing}) {
        CAPTURE(verify::entry_of(one).id);
        CHECK(names(verify::diagnose(of, noisy(with(of, {one})), pixel_format::srgb_codes), one));
    }

    const scene glassy = reference("lantern-quay");
    REQUIRE(has_transparency(draw(glassy)));
    picture opaque = through_codes(draw(glassy));
    for (std::size_t i = 3; i < opaque.values.size(); i += 4) {
        opaque.values[i] = 1;
    }
    found = verify::diagnose(glassy, opaque, pixel_format::srgb_codes);
    CHECK(found.verdict == verdict_kind::right);
    CHECK(remarked(found, "no alpha"));
}

TEST_CASE("a picture of floats, or of codes without the curve") {
    const scene of = reference("buoys-phong");
    CHECK(verify::diagnose(of, draw(of), pixel_format::floats).verdict == verdict_kind::right);
    CHECK(names(verify::diagnose(of, verify::draw_with_mistakes(of, {specular_half_for_reflect}),
                                 pixel_format::floats),
                specular_half_for_reflect));
    const picture linear_codes =
        picture_of(of.view.width, of.view.height, codes_of(draw(of), encoding::linear), encoding::linear);
    CHECK(verify::diagnose(of, linear_codes, pixel_format::linear_codes).verdict == verdict_kind::right);
}

TEST_CASE("a tie is told, with the scene that separates it") {
    const scene of = reference("lantern-quay-inverse-square");
    const verify::diagnosis found =
        verify::diagnose(of, with(of, {falloff_missing}), pixel_format::srgb_codes);
    CHECK(names(found, falloff_missing));
    CHECK(names(found, falloff_after_normalize));
    REQUIRE_FALSE(found.separated_by.empty());
    // There the two are told apart.
    const scene apart = reference(found.separated_by);
    CHECK(names(verify::diagnose(apart, with(apart, {falloff_missing}), pixel_format::srgb_codes),
                falloff_missing));
    CHECK_FALSE(names(verify::diagnose(apart, with(apart, {falloff_missing}), pixel_format::srgb_codes),
                      falloff_after_normalize));
}

TEST_CASE("what no mistake explains is unknown, with its make-up") {
    scene of = reference("buoys");
    REQUIRE(of.lights[1].name == "lantern");
    scene other = of;
    other.lights[1].light.intensity *= 0.4; // no mistake of the catalogue
    const verify::diagnosis found =
        verify::diagnose(of, through_codes(draw(other)), pixel_format::srgb_codes);
    CHECK(found.verdict == verdict_kind::unknown);
    CHECK(factor_of(found, "lantern", "diffuse") == doctest::Approx(0.4).epsilon(0.02));
    CHECK(factor_of(found, "lantern", "specular") == doctest::Approx(0.4).epsilon(0.05));
    CHECK(factor_of(found, "moon", "diffuse") == doctest::Approx(1).epsilon(0.02));
    CHECK(factor_of(found, "", "ambient") == doctest::Approx(1).epsilon(0.03));
    // Not a picture of this scene at all.
    picture plain(of.view.width, of.view.height, rgb<float>(0.5F));
    CHECK(verify::diagnose(of, plain, pixel_format::srgb_codes).verdict == verdict_kind::unknown);
    plain = picture(1, 1, rgb<float>(0.5F));
    CHECK(verify::diagnose(of, plain, pixel_format::srgb_codes).verdict != verdict_kind::mistake);
}

TEST_CASE("the make-up says what a term's factor looks like") {
    const scene of = reference("buoys");
    const std::vector<std::pair<double, std::string>> all{
        {pi, "it is multiplied by π"}, {1 / pi, "it is divided by π"}, {2, "it is counted 2 times"},
        {4, "it is counted 4 times"},  {0.5, "it is divided by 2"},    {0.25, "it is divided by 4"},
        {0.7, "it is too dim"},        {1.6, "it is too bright"},      {1, ""}};
    testing::part_of_list asked;
    for (const auto& each : all) {
        if (!asked.asks_next()) {
            continue;
        }
        const auto& factor = each.first;
        const auto& says = each.second;
        CAPTURE(factor);
        scene other = of;
        other.lights[1].light.diffuse = rgb<double>(factor);
        other.lights[0].light.specular = rgb<double>(0.55); // so that no one mistake explains it
        const verify::diagnosis found = verify::diagnose(of, draw(other), pixel_format::floats);
        REQUIRE(!found.makeup.empty());
        for (const verify::makeup_part& part : found.makeup) {
            if (part.light == "lantern" && part.term == "diffuse") {
                CHECK(part.factor == doctest::Approx(factor).epsilon(0.01));
                CHECK(part.suggests == says);
            } else if (part.light == "moon" && part.term == "diffuse") {
                CHECK(part.suggests == "");
            }
        }
    }
}

TEST_CASE("the make-up of a mistake points at it") {
    const scene of = reference("buoys");
    verify::diagnosis found = verify::diagnose(of, with(of, {ambient_missing}), pixel_format::srgb_codes);
    CHECK(factor_of(found, "", "ambient") == doctest::Approx(0).scale(1).epsilon(0.03));
    found = verify::diagnose(of, with(of, {factor_pi}), pixel_format::srgb_codes);
    CHECK(factor_of(found, "moon", "diffuse") == doctest::Approx(1 / pi).epsilon(0.03));
    bool suggested = false;
    for (const verify::makeup_part& part : found.makeup) {
        suggested = suggested || part.suggests == "it is divided by π";
    }
    CHECK(suggested);
    found = verify::diagnose(of, with(of, {single_light_only}), pixel_format::srgb_codes);
    CHECK(factor_of(found, "lantern", "diffuse") == doctest::Approx(0).scale(1).epsilon(0.03));
}
