// The pipeline against the second method.
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <memory>
#include <random>
#include <utility>
#include <variant>

#include <doctest/doctest.h>

#include "support/facing_eye.hpp"
#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "support/told_result.hpp"
#include "verify/cast.hpp"
#include "verify/judge.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/check.hpp"

using namespace yurvo;

TEST_CASE("random scenes agree with rays cast in double") {
    const std::uint64_t last = testing::random_scene_count(50);
    double most_used = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        testing::random_scenes random(seed, true);
        const scene made = random.next(96, 60);
        const verify::check_result result = verify::hold_against_second_method(made, draw(made));
        CAPTURE(seed);
        CAPTURE(name_of(made.shading.model));
        CAPTURE(name_of(made.shading.rate));
        INFO(testing::told(result));
        CHECK(result.passed);
        CHECK(result.used <= 0.5);
        most_used = std::max(most_used, result.used);
    }
    MESSAGE("seeds 1 to " << last << ": at most " << most_used << " of the tolerance is used");
}

// The same texels, decoded before they are blended.
std::shared_ptr<const texture> in_linear_numbers(const texture& image) {
    auto result = std::make_shared<texture>(image);
    for (rgb<float>& texel : result->texels) {
        texel = image.of_codes ? texture::decoded(texel) : texel;
    }
    result->of_codes = false;
    return result;
}

// A quay of two triangles before the eye, close by or not: `along` repetitions of its boards, its corners'
// colours as they are given, and as far into the picture as `away`.
scene boarded_quay(double along, bool close, double away, const std::array<rgb<double>, 4>& corners,
                   bool of_codes) {
    scene made = testing::facing_eye(model_kind::blinn_phong);
    made.view.width = close ? 96 : 240;
    made.view.height = close ? 64 : 160;
    made.view.eye = close ? vec3<double>{0, 0.6, 2} : vec3<double>{0.3, 4, 3};
    made.view.target = {0, 0, 0};
    made.view.near = 0.05;
    made.materials[0].look.base = {0.9, 0.8, 0.7};
    made.materials[0].look.specular = {0.5, 0.4, 0.3};
    made.materials[0].look.shininess = 12;
    auto boards = std::make_shared<texture>();
    boards->width = boards->height = 8;
    boards->texels.clear();
    std::mt19937 random(31);
    for (int i = 0; i < 64; ++i) { // from black to white, texel by texel
        const auto of = [&] { return static_cast<float>(random() % 256) / 255; };
        boards->texels.emplace_back(of(), of(), of());
    }
    boards->of_codes = of_codes;
    made.materials[0].image = boards;
    made.materials[0].texture_file = "boards.png";
    auto quay = std::make_shared<mesh>();
    quay->positions = {{-1.6, 0, 1.6}, {1.6, 0, 1.6}, {1.6, 0, -away}, {-1.6, 0, -away}};
    quay->normals.assign(4, {0, 1, 0});
    quay->texcoords = {{0.3, 0.2}, {0.3 + along, 0.2}, {0.3 + along, 0.2 + along}, {0.3, 0.2 + along}};
    quay->colors.assign(corners.begin(), corners.end());
    quay->triangles = {{0, 1, 2}, {0, 2, 3}};
    object all;
    all.shape = mesh_shape{.data = quay};
    made.objects.push_back(all);
    named_light lantern{.name = "lantern"};
    lantern.light.kind = light_kind::point;
    lantern.light.position = {0.5, 1.5, 0.5};
    lantern.light.intensity = 2;
    made.lights.push_back(lantern);
    return made;
}

TEST_CASE(
    "boards and vertex colours of large triangles agree with rays cast in double, close by and far away") {
    const std::array<rgb<double>, 4> alike{
        {{0.5, 0.6, 0.7}, {0.6, 0.5, 0.8}, {0.7, 0.6, 0.5}, {0.5, 0.7, 0.6}}};
    const std::array<rgb<double>, 4> apart{{{0.001, 1, 0.01}, {1, 0.001, 1}, {0.001, 1, 0.01}, {1, 0.01, 1}}};
    double most_used = 0;
    for (const double along : {0.2, 1.0, 12.0, 150.0}) {
        for (const auto& [close, away] :
             {std::pair{true, -1.2}, {true, 2.0}, {true, 90.0}, {false, -1.2}, {false, 2.0}}) {
            for (const auto* corners : {&alike, &apart}) {
                for (const auto& [at, of_codes] : {std::pair{rate::fragment, false},
                                                   {rate::vertex, false},
                                                   {rate::fragment, true},
                                                   {rate::vertex, true},
                                                   {rate::face, true}}) {
                    scene made = boarded_quay(along, close, away, *corners, of_codes);
                    made.shading.rate = at;
                    const verify::check_result result = verify::hold_against_second_method(made, draw(made));
                    CAPTURE(along);
                    CAPTURE(made.view.eye.z);
                    CAPTURE(corners == &apart);
                    CAPTURE(name_of(at));
                    CAPTURE(of_codes);
                    INFO(testing::told(result));
                    CHECK(result.used <= 0.5);
                    most_used = std::max(most_used, result.used);
                    // Blended linear, it is another picture.
                    scene blended_otherwise = made;
                    blended_otherwise.materials[0].image = in_linear_numbers(*made.materials[0].image);
                    CHECK((!of_codes ||
                           !verify::hold_against_second_method(made, draw(blended_otherwise)).passed));
                }
            }
        }
    }
    MESSAGE("at most " << most_used << " of the tolerance is used");
}

TEST_CASE("beside a triangle's edge, snapped over a pixel's centre, a field shows as it is at the centre") {
    // A plank before a round float, its left edge within half a step of the snap of the centres of one
    // column; the float is lit so closely that its colour changes over a 256th of a pixel by more than is
    // allowed.
    scene made = testing::facing_eye(model_kind::blinn_phong);
    made.view.width = 16;
    made.view.height = 10;
    made.materials[0].look.base = rgb<double>(0.5);
    made.materials[0].look.shininess = 40;
    object buoy;
    field ball;
    ball.parts = {{}};
    ball.parts[0].radius = 1.6;
    buoy.shape = field_shape{ball};
    object plank = testing::facing_plank(2, 6);
    plank.placed.rotation.z = 0.17;
    plank.placed.position.z = 2; // metres before the middle
    made.objects = {buoy, plank};
    named_light lantern;
    lantern.light.position = {0.3, 0.4, 1.9};
    lantern.light.falloff = falloff_kind::inverse_square;
    lantern.light.intensity = 0.2;
    made.lights = {lantern};
    const double pixel = 2 * 2 * 0.5 / made.view.height; // of the plank, two metres before the eye
    std::size_t on_borders = 0;
    for (int step = 560; step < 1280; ++step) {
        const double beside = step / 4000.0; // of a pixel
        made.objects[1].placed.position.x = (8 + beside - made.view.width / 2.0) * pixel + 1;
        const verify::check_result result = verify::hold_against_second_method(made, draw(made));
        CAPTURE(beside);
        INFO(testing::told(result));
        CHECK(result.used <= 0.5);
        on_borders += result.remark.find(" 0 of them") == std::string::npos ? 1U : 0U;
    }
    CHECK(on_borders > 0); // else nothing was asked
}

namespace {

// one joins it at the picture's middle, if asked for.
scene planks_facing_the_eye(bool with_a_neighbour) {
    scene made = testing::facing_eye(model_kind::lambert);
    made.ambient_strength = 0;
    made.materials.push_back({.name = "painted"});
    made.materials[0].look.base = rgb<double>(0.5);
    made.materials[1].look.base = rgb<double>(0.0);
    made.materials[1].look.emission = rgb<double>(1.0);
    object plank = testing::facing_plank(6, 6);
    made.objects = {plank};
    if (with_a_neighbour) {
        made.objects[0].placed.position.x = 3; // from the middle to the right
        plank.placed.position.x = -3;
        plank.material = 1;
        made.objects.push_back(plank);
    }
    named_light lantern;
    lantern.light.position = {0.7, 0.2, 1.5};
    lantern.light.falloff = falloff_kind::inverse_square;
    made.lights = {lantern};
    return made;
}

// What it shows in grey: 0.5 times cosine over distance squared, at a place in the picture.
double grey_at(double x, double y) {
    const double right = (x / 20 - 1) * 0.5 * 4;
    const double up = (1 - y / 20) * 0.5 * 4;
    const double squared = (0.7 - right) * (0.7 - right) + (0.2 - up) * (0.2 - up) + 1.5 * 1.5;
    return 0.5 * 1.5 / std::sqrt(squared) / squared;
}

} // namespace

TEST_CASE(
    "a picture of which alpha alone is wrong is told so, at borders too; one wrong colour, and it is not") {
    // Both sides of the plank's border are right at the centres of column 29, as in the test below.
    scene made = planks_facing_the_eye(false);
    made.objects[0].placed.position.x = (29.5 - 0.8 / 256 - 20) * 0.1 - 3;
    made.lights[0].light.kind = light_kind::directional;
    made.lights[0].light.shines = {0, 0, -1};
    made.view.background = rgb<double>(0.0);
    const picture right = draw(made);
    CHECK_FALSE(verify::hold_against_second_method(made, right).by_alpha);
    picture found = right;
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < found.width; ++x) {
            found.set(x, y, right.color(x == 29 ? 28 : x, y), 2);
        }
    }
    const verify::check_result by_alpha = verify::hold_against_second_method(made, found);
    CHECK_FALSE(by_alpha.passed);
    CHECK(by_alpha.by_alpha);
    CHECK(by_alpha.remark.find("; colours are right, alpha alone is not") != std::string::npos);
    picture both = found;
    both.set(10, 10, rgb<float>(0.9F * found.color(10, 10).r), 2);
    CHECK_FALSE(verify::hold_against_second_method(made, both).by_alpha);
    picture colors = right;
    colors.set(10, 10, rgb<float>(0.9F * right.color(10, 10).r), 1);
    const verify::check_result by_color = verify::hold_against_second_method(made, colors);
    CHECK_FALSE(by_color.passed);
    CHECK_FALSE(by_color.by_alpha);
}

TEST_CASE("what is told of a wrong picture is no pixel that a border excuses, however many are wrong") {
    // The plank's right edge lies four fifths of a step of the snap to the left of the centres of column 29,
    // so that both sides are right there.
    scene made = planks_facing_the_eye(false);
    made.objects[0].placed.position.x = (29.5 - 0.8 / 256 - 20) * 0.1 - 3;
    made.lights[0].light.kind = light_kind::directional;
    made.lights[0].light.shines = {0, 0, -1};
    made.view.background = rgb<double>(0.0);
    picture found = draw(made);
    REQUIRE(found.color(29, 20).r == 0.0F);
    REQUIRE(found.color(28, 20).r == doctest::Approx(0.5));
    for (int y = 0; y < found.height; ++y) {
        found.set(29, y, found.color(28, y), 1);
    }
    const verify::check_result excused = verify::hold_against_second_method(made, found);
    CHECK(excused.used <= 0.5);
    CHECK(excused.remark == "1600 pixels, 40 of them on a border, more than 3");
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < 29; ++x) {
            found.set(x, y, rgb<float>(1.05F * found.color(x, y).r), 1);
        }
    }
    const verify::check_result result = verify::hold_against_second_method(made, found);
    CHECK_FALSE(result.passed);
    CHECK(result.x < 29);
    CHECK(result.largest == doctest::Approx(0.05 * 0.5).epsilon(1e-3));
    REQUIRE(result.expected.size() == 4);
    CHECK(result.expected[0] == doctest::Approx(0.5));
    CHECK(result.measured[0] == doctest::Approx(0.525));
}

TEST_CASE("a tolerance that is no number allows nothing") {
    const double none = std::numeric_limits<double>::quiet_NaN();
    CHECK(verify::judge(rgb<double>(1.0), rgb<double>(1.5), {1.0, none, 1.0}).used ==
          std::numeric_limits<double>::infinity());
    CHECK(verify::judge(rgb<double>(1.0), rgb<double>(1.0), {1.0, none, 1.0}).used == 0);
    CHECK(verify::judge(rgb<double>(1.0), rgb<double>(1.5), rgb<double>(1.0)).used == 0.5);
}

TEST_CASE("a component that is no number is wrong, alpha too") {
    const scene made = planks_facing_the_eye(false);
    const picture right = draw(made);
    CHECK(verify::hold_against_second_method(made, right).passed);
    constexpr float infinite = std::numeric_limits<float>::infinity();
    for (const float none : {std::numeric_limits<float>::quiet_NaN(), infinite, -infinite}) {
        for (std::size_t component = 0; component < 4; ++component) {
            picture found = right;
            found.values[found.index(7, 9) + component] = none;
            for (const pixel_format held :
                 {pixel_format::floats, pixel_format::linear_codes, pixel_format::srgb_codes}) {
                const verify::check_result result = verify::hold_against_second_method(made, found, held);
                CAPTURE(component);
                CAPTURE(none);
                // Codes hold an infinite colour as the most or the least there is.
                if (component == 3 || held == pixel_format::floats || std::isnan(none)) {
                    CHECK_FALSE(result.passed);
                    CHECK(result.x == 7);
                    CHECK(result.y == 9);
                }
            }
        }
    }
}

TEST_CASE(
    "what a subject's snapping allows is twice what its surface changes by, and nothing of its neighbour's") {
    constexpr double snap = 0.25;
    for (const bool with_a_neighbour : {false, true}) {
        const scene made = planks_facing_the_eye(with_a_neighbour);
        const verify::caster exact(made);
        const verify::caster snapped(made, {.snap = snap});
        // In the second column the white plank is nearer than the snap.
        for (const double x : {27.5, 20.125}) {
            for (const double y : {5.5, 22.25}) {
                CAPTURE(with_a_neighbour);
                CAPTURE(x);
                CAPTURE(y);
                const double here = grey_at(x, y);
                double most = 0;
                for (const auto& [dx, dy] : {std::pair{snap, 0.0}, {-snap, 0.0}, {0.0, snap}, {0.0, -snap}}) {
                    if (!with_a_neighbour || x + dx > 20) {
                        most = std::max(most, std::abs(grey_at(x + dx, y + dy) - here));
                    }
                }
                CHECK(exact.at(x, y).color.g == doctest::Approx(here).epsilon(1e-12));
                const double added = snapped.at(x, y).tolerance.g - exact.at(x, y).tolerance.g;
                CHECK(added == doctest::Approx(2 * most).epsilon(1e-9));
                CHECK(snapped.at_without_snap(x, y).tolerance.g == exact.at(x, y).tolerance.g);
            }
        }
    }
}

TEST_CASE("a place is near a border where its surroundings are another field, a triangle, or nothing") {
    // r over √(d² − r²).
    scene made = planks_facing_the_eye(false);
    const auto outline = [&](double radius, double away) {
        const double half_height = 0.5;
        return radius / std::sqrt(away * away - radius * radius) / half_height * made.view.height / 2;
    };
    const auto ball = [](double radius, double z) {
        object result;
        field shape;
        shape.parts = {{}};
        shape.parts[0].radius = radius;
        result.shape = field_shape{shape};
        result.placed.position.z = z;
        return result;
    };
    constexpr double step = 1.0 / 128;
    const auto expect_border = [&](const verify::caster& casts, double from_middle) {
        CAPTURE(from_middle);
        const double middle = made.view.width / 2.0;
        CHECK(casts.near_border(middle + from_middle, middle, step));
        CHECK_FALSE(casts.near_border(middle + from_middle - 2 * step, middle, step));
        CHECK_FALSE(casts.near_border(middle + from_middle + 2 * step, middle, step));
    };
    SUBCASE("fields before each other and before nothing") {
        made.objects = {ball(1, 0), ball(0.5, 1.5)};
        const verify::caster casts(made);
        expect_border(casts, outline(1, 4));
        expect_border(casts, outline(0.5, 2.5));
    }
    SUBCASE("a field before a plank, with as many objects between them as one likes") {
        object plank = made.objects[0];
        plank.placed.position.z = -1;
        object behind = plank;
        behind.placed.position.z = 10;
        for (const std::size_t index : {1U, 2U, 1000U, 1001U}) {
            CAPTURE(index);
            made.objects.assign(index, behind);
            made.objects[0] = plank;
            made.objects.push_back(ball(0.5, 1.5));
            expect_border(verify::caster(made), outline(0.5, 2.5));
        }
    }
}

TEST_CASE("what a subject's angles are off by is allowed at the border of a hard cone, and nowhere else") {
    // Two metres before the plank: the border is where tan θ is 1 / 2, a metre from the middle, ten pixels.
    // There θ changes by 2 / (2² + 1²) of a radian a metre, and 1 / d² · cos θ arrives.
    scene made = testing::facing_eye(model_kind::lambert);
    made.objects = {testing::facing_plank(40, 40)};
    made.ambient_strength = 0;
    named_light lamp;
    lamp.light.kind = light_kind::spot;
    lamp.light.position = {0, 0, 2};
    lamp.light.shines = {0, 0, -1};
    lamp.light.penumbra = penumbra_kind::hard;
    lamp.light.outer = std::atan(0.5);
    made.lights = {lamp};
    const double lit = 1.0 / 5 * 2 / std::sqrt(5.0) * made.materials[0].look.base.r;
    const double radians_a_pixel = 0.04;
    const verify::caster exact(made);
    const verify::caster coarse(made, {.angle = 3e-4});
    for (const double off : {-2e-4, 2e-4, -8e-4, 8e-4}) {
        CAPTURE(off);
        const double x = 30 + off / radians_a_pixel;
        const bool allowed = std::abs(off) < 3e-4;
        // It is cos³ θ / 2², which changes by 3 tan θ of itself a radian: by 1.2e-3 over 8e-4 of them.
        CHECK(exact.at(x, 20).color.r == doctest::Approx(off < 0 ? lit : 0).epsilon(2e-3));
        CHECK(coarse.at(x, 20).color.r == exact.at(x, 20).color.r);
        CHECK(exact.at(x, 20).tolerance.r < 1000 * 0x1p-24 * lit); // roundings of what arrives alone
        CHECK((coarse.at(x, 20).tolerance.r >= 0.998 * lit) == allowed);
        CHECK((coarse.at(x, 20).tolerance.r == exact.at(x, 20).tolerance.r) == !allowed);
    }
    // Where light fades there is no border.
    made.lights[0].light.penumbra = penumbra_kind::smooth;
    made.lights[0].light.inner = std::atan(0.4);
    CHECK(verify::caster(made, {.angle = 3e-4}).at(30, 20).tolerance.r ==
          verify::caster(made).at(30, 20).tolerance.r);
}

TEST_CASE("however coarse a subject is, its precision hides no more than two codes") {
    // By sRGB's own formulas (IEC 61966-2-1), the value two codes beyond, in small steps; beyond 1 in
    // proportion.
    const auto encoded = [](double linear) {
        return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
    };
    for (const double linear : {0.0005, 0.002, 0.1, 0.5, 1.0, 3.5}) {
        CAPTURE(linear);
        scene made = planks_facing_the_eye(false);
        made.lights.clear();
        made.materials[0].look.emission = rgb<double>(linear);
        const verify::cast_color cast = verify::caster(made, {.precision = 1e12}).at(10.5, 10.5);
        CHECK(cast.color.g == doctest::Approx(linear).epsilon(1e-12));
        const double kept = std::min(linear, 1.0);
        const double step = 1e-6 * kept;
        const double slope = (encoded(kept + step) - encoded(kept - step)) / (2 * step);
        CHECK(cast.tolerance.g == doctest::Approx(2 / slope / 255 * std::max(1.0, linear)).epsilon(1e-6));
    }
}

TEST_CASE("a check by the second method says how its tolerance comes about where it was the nearest") {
    const scene made = planks_facing_the_eye(false);
    const verify::check_result result = verify::hold_against_second_method(made, draw(made));
    std::string lines;
    for (const std::string& line : verify::caster(made).derivation(result.x + 0.5, result.y + 0.5)) {
        lines += line + "\n";
    }
    CHECK(lines.find(" m from the eye") != std::string::npos);
    CHECK(result.because.ends_with(lines));
}

TEST_CASE("within a field of which both sides are lit, a lantern lights what it stands before") {
    scene made = planks_facing_the_eye(false);
    object shed;
    field ball;
    ball.parts = {{}};
    ball.parts[0].radius = 6;
    shed.shape = field_shape{ball};
    made.objects = {shed};
    made.lights[0].light.position = {0, 0, 0};
    for (const bool two_sided : {false, true}) {
        CAPTURE(two_sided);
        made.materials[0].look.two_sided = two_sided;
        const verify::caster casts(made);
        const picture drawn = draw(made);
        for (const int x : {3, 20, 33}) {
            const double expected = two_sided ? 0.5 / 36 : 0;
            CHECK(casts.at(x + 0.5, 12.5).color.g == doctest::Approx(expected).epsilon(1e-9));
            CHECK(static_cast<double>(drawn.color(x, 12).g) == doctest::Approx(expected).epsilon(1e-5));
        }
    }
}
