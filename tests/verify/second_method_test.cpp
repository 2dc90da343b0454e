// The pipeline against the second method.
#include <cstdlib>

#include <doctest/doctest.h>

#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/check.hpp"

using namespace yurvo;

TEST_CASE("random scenes agree with rays cast in double") {
    // YURVO_RANDOM_SCENES asks for more than the sample.
    const char* asked = std::getenv("YURVO_RANDOM_SCENES");
    const std::uint64_t last = asked != nullptr ? std::strtoull(asked, nullptr, 10) : 50;
    double most_used = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        testing::random_scenes random(seed, true);
        const scene made = random.next(96, 60);
        const verify::check_result result = verify::hold_against_second_method(made, draw(made));
        CAPTURE(seed);
        CAPTURE(name_of(made.shading.model));
        CAPTURE(name_of(made.shading.rate));
        CAPTURE(result.x);
        CAPTURE(result.y);
        CAPTURE(result.remark);
        CAPTURE(result.measured);
        CAPTURE(result.expected);
        CAPTURE(result.tolerance);
        CHECK(result.passed);
        CHECK(result.used <= 0.5);
        most_used = std::max(most_used, result.used);
    }
    MESSAGE("seeds 1 to " << last << ": at most " << most_used << " of the tolerance is used");
}

TEST_CASE("beside a triangle's edge, snapped over a pixel's centre, a field shows as it is at the centre") {
    // A plank before a round float, its left edge within half a step of the snap of the centres of one
    // column; the float is lit so closely that its colour changes over a 256th of a pixel by more than is
    // allowed.
    scene made;
    made.view.eye = {0, 0, 4};
    made.view.target = {0, 0, 0};
    made.view.fov = 2 * std::atan(0.5);
    made.view.width = 16;
    made.view.height = 10;
    made.shading.model = model_kind::blinn_phong;
    made.materials = {{"paint", {}}};
    made.materials[0].look.base = rgb<double>(0.5);
    made.materials[0].look.shininess = 40;
    object buoy;
    field ball;
    ball.parts = {{}};
    ball.parts[0].radius = 1.6;
    buoy.shape = field_shape{ball};
    object plank;
    plank.shape = plane_shape{{2, 6}, {1, 1}};
    plank.placed.rotation.x = std::acos(-1.0) / 2; // it faces the eye, one metre before the middle
    plank.placed.rotation.z = 0.17;
    plank.placed.position.z = 2;
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
        CAPTURE(result.x);
        CAPTURE(result.y);
        CAPTURE(result.measured);
        CAPTURE(result.expected);
        CHECK(result.used <= 0.5);
        on_borders += result.remark.find(" 0 of them") == std::string::npos ? 1U : 0U;
    }
    CHECK(on_borders > 0); // else nothing was asked
}
