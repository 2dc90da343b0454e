// What of a picture is compared with the right one, by how much it is off, and what is seen of a mistake.
#include <cmath>
#include <limits>
#include <memory>
#include <utility>

#include <doctest/doctest.h>

#include "support/facing_eye.hpp"
#include "verify/cast.hpp"
#include "verify/compared_picture.hpp"
#include "verify/expectations.hpp"
#include "verify/makeup.hpp"
#include "verify/point_by_point.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/diagnose.hpp"

using namespace yurvo;

namespace {

// A plank of two triangles beside each other's middle, each half of a colour of its own, over the whole
// picture.
scene painted_halves(double left, double right) {
    scene made = testing::facing_eye(model_kind::unlit);
    mesh all;
    for (const double side : {0.0, 1.0}) {
        const auto first = static_cast<std::uint32_t>(all.positions.size());
        for (const auto& [x, y] : {std::pair{0.0, -3.0}, {3.0, -3.0}, {3.0, 3.0}, {0.0, 3.0}}) {
            all.positions.push_back({x - 3 * (1 - side), y, 0});
            all.normals.push_back({0, 0, 1});
            all.colors.push_back(rgb<double>(side > 0 ? right : left));
        }
        all.triangles.push_back({first, first + 1, first + 2});
        all.triangles.push_back({first, first + 2, first + 3});
    }
    mesh_shape halves;
    halves.data = std::make_shared<const mesh>(all);
    halves.file = "halves.obj";
    object plank;
    plank.shape = halves;
    made.objects = {plank};
    return made;
}

} // namespace

TEST_CASE("not compared is what lies beside a border of colours, or of objects; triangles alone are none") {
    const auto edges = [](const scene& of) {
        const picture found = draw(of);
        const renderer& by = built_in_renderer();
        return verify::compared_picture(of, found, pixel_format::floats, {}, by).edges();
    };
    CHECK(edges(painted_halves(0.5, 0.5)).empty());
    CHECK(edges(painted_halves(0.5, 0.51)).empty()); // two codes apart
    const std::vector<verify::pixel_place> beside = edges(painted_halves(0.2, 0.8));
    CHECK(beside.size() == 80);
    for (const verify::pixel_place& each : beside) {
        CHECK((each.x == 19 || each.x == 20));
    }
    scene before = painted_halves(0.5, 0.5);
    before.objects.push_back(before.objects.front());
    before.objects.back().placed.position = {0, 3.5, 1}; // its lower edge a sixth of a metre above the middle
    const double row = 20 - 0.5 / 3 / 0.5 * 20;
    const std::vector<verify::pixel_place> along = edges(before);
    CHECK(along.size() == 80);
    for (const verify::pixel_place& each : along) {
        CHECK(std::abs(each.y + 0.5 - row) < 1);
    }
}

TEST_CASE("pixels are as far apart as the channel that is farthest; no number is infinitely far") {
    const scene of = painted_halves(0.5, 0.5);
    const picture found = draw(of);
    const renderer& by = built_in_renderer();
    verify::compared_picture compared(of, found, pixel_format::floats, {}, by);
    constexpr double none = std::numeric_limits<double>::quiet_NaN();
    CHECK(compared.off_by({1, 2, 3, 4}, {1, 2, 3, 4}) == 0);
    CHECK(compared.off_by({1, 2, 3, 4}, {2, 5, 1, 4}) == 3);
    CHECK(compared.off_by({1, 2, 3, 4}, {2, 5, 1, 9}) == 5);
    CHECK(std::isinf(compared.off_by({1, none, 3, 4}, {1, 2, 3, 4})));
    CHECK(compared.off_by({1, none, 3, 4}, {2, none, 3, 4}) == 1); // a mistake may give just that
    compared.with_alpha = false;
    CHECK(compared.off_by({1, 2, 3, 4}, {2, 5, 1, 9}) == 3);
    CHECK(verify::diagnose(of, found, pixel_format::floats).compared == 1600); // all of them
}

TEST_CASE("of a driver's picture what a light's border explains is not off, and what it does not is") {
    // A hard cone upright over the plank: a disc whose border passes a thousandth of a pixel beside a centre.
    scene made = painted_halves(0.5, 0.5);
    made.view.height = 41; // the middle row's centres are in the middle
    const double pixels_a_metre = 20.5 / 2;
    const double radius = 10.501 / pixels_a_metre; // pixel 30 is just within, so is pixel 9
    made.shading.model = model_kind::lambert;
    named_light lantern;
    lantern.light.kind = light_kind::spot;
    lantern.light.position = {0, 0, 2};
    lantern.light.shines = {0, 0, -1};
    lantern.light.penumbra = penumbra_kind::hard;
    lantern.light.outer = std::atan(radius / 2);
    lantern.light.inner = lantern.light.outer / 2;
    lantern.light.falloff = falloff_kind::none;
    made.lights = {lantern};
    const picture right = draw(made);
    REQUIRE(right.color(30, 20).g > right.color(31, 20).g);
    const tolerance_model driver{.precision = 27, .snap = 1.0 / 256};
    for (const int x : {8, 9, 10, 29, 30, 31}) {
        CAPTURE(x);
        picture found = right;
        const bool lit = x >= 9 && x <= 30;
        found.set(x, 20, right.color(lit ? 2 : 20, 20), 1); // as on the other side
        const bool at_border = x == 9 || x == 30;
        const verify::diagnosis told = verify::diagnose(made, found, pixel_format::floats, driver);
        CHECK(told.off == (at_border ? 0 : 1));
        CHECK((told.verdict == verify::verdict_kind::right) == at_border);
    }
}

TEST_CASE("of a driver's picture what a neighbouring triangle explains is not off, and what it does not is") {
    // The border of two colours that are near enough to be compared passes a 400th of a pixel beside the
    // centres of column 20; a pixel is a tenth of a metre there.
    scene made = painted_halves(0.5, 0.51);
    made.objects[0].placed.position.x = 0.1 * (0.5 + 0.0025); // a 256th is 0.0039
    const picture right = draw(made);
    REQUIRE(right.color(20, 7).g == 0.5F);
    const tolerance_model driver{.precision = 27, .snap = 1.0 / 256};
    for (const int x : {18, 19, 20}) {
        CAPTURE(x);
        picture found = right;
        found.set(x, 7, rgb<float>(0.51F), 1);
        const verify::diagnosis told = verify::diagnose(made, found, pixel_format::floats, driver);
        CHECK(told.off == (x == 20 ? 0 : 1));
        CHECK((told.verdict == verify::verdict_kind::right) == (x == 20));
        // The pipeline's own pictures are snapped as they are: nothing of the kind explains theirs.
        CHECK(verify::diagnose(made, found, pixel_format::floats).off == 1);
    }
}

TEST_CASE("a subject's tolerance comes to what is expected: a code, and what a quotient of two changes by") {
    scene made = painted_halves(0.2, 0.8);
    const tolerance_model driver{.precision = 100, .snap = 0, .unit_at_vertices = false};
    verify::expectation expected;
    expected.x = 5;
    expected.y = 7;
    expected.tolerance = rgb<double>(1e-9);
    expected.is_code = true;
    CHECK(verify::widened(expected, made, driver).tolerance == rgb<double>(1.0));
    expected.is_code = false;
    const verify::caster casts(made, driver);
    const verify::cast_color left = casts.at(5.5, 7.5);
    const verify::cast_color right = casts.at(35.5, 7.5);
    CHECK(verify::widened(expected, made, driver).tolerance.g ==
          doctest::Approx(1e-7 + left.tolerance.g).epsilon(1e-9));
    expected.is_ratio = true;
    expected.other_x = 35;
    expected.other_y = 7;
    const double most = (0.2 + left.tolerance.g) / (0.8 - right.tolerance.g) - 0.2 / 0.8;
    CHECK(verify::widened(expected, made, driver).tolerance.g == doctest::Approx(1e-7 + most).epsilon(1e-4));
}

TEST_CASE("a texture that is not decoded shows the codes of its file") {
    scene made = painted_halves(1, 1);
    made.objects = {testing::facing_plank(6, 6)};
    texture grey;
    grey.texels[0] = {0.002F, 0.2F, 1};
    made.materials[0].image = std::make_shared<const texture>(grey);
    made.materials[0].texture_file = "grey.png";
    const rgb<float> shown =
        verify::draw_with_mistakes(made, {verify::mistake::texture_not_decoded}).color(20, 20);
    // By sRGB's own formulas (IEC 61966-2-1).
    CHECK(static_cast<double>(shown.r) == doctest::Approx(0.002 * 12.92).epsilon(1e-6));
    CHECK(static_cast<double>(shown.g) ==
          doctest::Approx(1.055 * std::pow(0.2, 1 / 2.4) - 0.055).epsilon(1e-6));
    CHECK(static_cast<double>(shown.b) == doctest::Approx(1).epsilon(1e-6));
    // Of one that is blended in codes, the codes that it has.
    grey.of_codes = true;
    grey.texels[0] = {0.25F, 0.5F, 1};
    made.materials[0].image = std::make_shared<const texture>(grey);
    CHECK(verify::draw_with_mistakes(made, {verify::mistake::texture_not_decoded}).color(20, 20) ==
          grey.texels[0]);
}

TEST_CASE("a curve that is left out or applied twice is seen where a subject writes codes, and only there") {
    using enum verify::mistake;
    const std::vector<verify::check_unit> units{verify::unit_of("painted halves", painted_halves(0.2, 0.8))};
    const std::vector<verify::mistake> of_curves{encode_missing, encode_twice};
    const verify::coverage of_gamma = verify::coverage_of(units, pixel_format::gamma_floats, {}, of_curves);
    CHECK(of_gamma.shown.size() == 2);
    CHECK(of_gamma.unseen.empty());
    const verify::coverage of_floats = verify::coverage_of(units, pixel_format::floats, {}, of_curves);
    CHECK(of_floats.could.empty());
    // What changes neither colour can be asked for nothing.
    const std::vector<verify::check_unit> white{verify::unit_of("white", painted_halves(1, 1))};
    CHECK(verify::coverage_of(white, pixel_format::gamma_floats, {}, of_curves).could.empty());
}

TEST_CASE("what lies beyond white in an encoded picture is no difference that could be seen") {
    // A lantern of 3 over the plank's middle and ambient light, on white or on grey: cut at 1 each light's
    // share is white still where the sum is, and 0.75 of what it was on a grey of 0.25.
    const auto lit = [](double paint) {
        scene made = testing::facing_eye(model_kind::lambert);
        made.objects = {testing::facing_plank(4, 4)};
        made.materials[0].look.base = rgb<double>(paint);
        made.ambient_color = rgb<double>(0.5);
        made.ambient_strength = 1;
        named_light lantern;
        lantern.name = "lantern";
        lantern.light.position = {0, 0, 1};
        lantern.light.intensity = 3;
        lantern.light.falloff = falloff_kind::none;
        made.lights = {lantern};
        return std::vector<verify::check_unit>{verify::unit_of("plank", made)};
    };
    const std::vector<verify::mistake> cut{verify::mistake::clamp_per_light};
    CHECK(verify::coverage_of(lit(1), pixel_format::floats, {}, cut).shown.size() == 1);
    CHECK(verify::coverage_of(lit(1), pixel_format::srgb_floats, {}, cut).could.empty());
    CHECK(verify::coverage_of(lit(0.25), pixel_format::srgb_floats, {}, cut).shown.size() == 1);
}

TEST_CASE("a make-up fits the share of the samples that are sums of its terms") {
    scene made = painted_halves(0.2, 0.8);
    made.shading.model = model_kind::lambert;
    named_light lantern;
    lantern.light.position = {0.3, 0.1, 2};
    made.lights = {lantern};
    const picture right = draw(made);
    const verify::point_painter painter(made, {}, verify::see(made), {});
    for (const int spoiled : {0, 1}) { // of four
        std::vector<verify::makeup_sample> samples;
        for (int i = 0; i < 400; ++i) {
            verify::makeup_sample each;
            each.x = i % 40;
            each.y = i / 40 * 4;
            each.linear = rgb<double>(right.color(each.x, each.y));
            each.weight = rgb<double>(1000.0);
            if (i % 4 < spoiled) { // brighter and darker in turn, which no factor gives
                each.linear = each.linear + rgb<double>(i % 8 < 4 ? 0.1 : -0.1);
            }
            samples.push_back(each);
        }
        CHECK(verify::makeup_of(painter, made, samples).fits == 1 - spoiled / 4.0);
    }
}
