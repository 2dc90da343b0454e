// A scene with its objects, its eye or its lights turned: where everything comes to be, by hand.
#include <doctest/doctest.h>

#include <cmath>
#include <random>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/turn.hpp"

using namespace yurvo;

namespace {

// A few sines and products of numbers below ten.
void near(const vec3<double>& found, const vec3<double>& expected) {
    CHECK(std::abs(found.x - expected.x) < 1e-13);
    CHECK(std::abs(found.y - expected.y) < 1e-13);
    CHECK(std::abs(found.z - expected.z) < 1e-13);
}

scene quay() {
    scene made;
    made.view.eye = {1, 3, 6};
    made.view.target = {1, 2, 1};
    made.view.up = {0.5, 1, 0};
    object crate;
    crate.name = "crate";
    crate.placed.position = {4, 0, 0};
    made.objects.push_back(crate);
    crate.name = "buoy";
    crate.placed.rotation = {0, radians(30), 0};
    made.objects.push_back(crate);
    named_light lantern{.name = "lantern"};
    lantern.light.kind = light_kind::spot;
    lantern.light.position = {1, 5, 3};
    lantern.light.shines = {0, -3, -2};
    made.lights.push_back(lantern);
    lantern.name = "head lamp";
    lantern.space = light_space::view;
    lantern.light.position = {0, 0, 0};
    lantern.light.shines = {0, 0, -1};
    made.lights.push_back(lantern);
    return made;
}

} // namespace

TEST_CASE("turn: the eye walks around the target, from +Z towards +X, with its up") {
    const scene found = turned(quay(), turned_part::eye, pi / 2);
    near(found.view.eye, {6, 3, 1});
    near(found.view.target, {1, 2, 1});
    near(found.view.up, {0, 1, -0.5});
    CHECK(found.objects == quay().objects);
    CHECK(found.lights == quay().lights);
}

TEST_CASE(
    "turn: lights walk around the target with the way in which they shine, from where the eye has them") {
    const scene found = turned(quay(), turned_part::light, pi / 2);
    near(found.lights[0].light.position, {3, 5, 1});
    near(found.lights[0].light.shines, {-2, -3, 0});
    // One that hangs at the eye is a light in the world from then on: at the eye, looking at the target.
    CHECK(found.lights[1].space == light_space::world);
    near(found.lights[1].light.position, {6, 3, 1});
    const double d = std::sqrt(26.0); // 5 m to the front, 1 m down
    near(found.lights[1].light.shines, {-5 / d, -1 / d, 0});
    CHECK(found.view == quay().view);
}

TEST_CASE("turn: only the light or object of that name") {
    const scene found = turned(quay(), turned_part::light, 1, "head lamp");
    CHECK(found.lights[0] == quay().lights[0]);
    CHECK_FALSE(found.lights[1] == quay().lights[1]);
    const scene other = turned(quay(), turned_part::object, 1, "buoy");
    CHECK(other.objects[0] == quay().objects[0]);
    CHECK_FALSE(other.objects[1] == quay().objects[1]);
}

TEST_CASE("turn: objects turn in place") {
    const scene found = turned(quay(), turned_part::object, radians(45));
    near(found.objects[0].placed.position, {4, 0, 0});
    near(found.objects[0].placed.rotation, {0, radians(45), 0});
    near(found.objects[1].placed.rotation, {0, radians(75), 0});
    CHECK(found.view == quay().view);
}

TEST_CASE("turn: whatever an object's rotation, the turn follows it") {
    constexpr unsigned seed = 20261128;
    MESSAGE("seed " << seed);
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> angles(-pi, pi);
    scene of = quay();
    for (int i = 0; i < 200; ++i) {
        vec3<double>& rotation = of.objects[0].placed.rotation;
        rotation = {angles(random), i % 4 == 0 ? std::copysign(pi / 2, angles(random)) : angles(random),
                    angles(random)}; // a quarter turn about Y puts X and Z on one axis
        of.objects[0].placed.scale = {1, 2, 3};
        const double angle = angles(random);
        const placement after = turned(of, turned_part::object, angle).objects[0].placed;
        const matrix4 before = object_to_world(of.objects[0].placed);
        const vec3<double> corner{angles(random), angles(random), angles(random)};
        const vec3<double> was = transform_point(before, corner) - after.position;
        const vec3<double> expected{std::cos(angle) * was.x + std::sin(angle) * was.z, was.y,
                                    std::cos(angle) * was.z - std::sin(angle) * was.x};
        const vec3<double> found = transform_point(object_to_world(after), corner) - after.position;
        // Near a quarter turn an angle is an arc sine of nearly 1, which keeps half of the digits.
        CHECK(length(found - expected) < (i % 4 == 0 ? 1e-6 : 1e-12) * 20);
    }
}
