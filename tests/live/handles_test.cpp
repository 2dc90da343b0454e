// What of a scene the mouse can take, and what the scene becomes: places, directions, borders of cones,
// turns.
#include <doctest/doctest.h>

#include <cmath>
#include <optional>
#include <string>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/live/workspace.hpp"

using namespace yurvo;
using namespace yurvo::live;

namespace {

// The eye looks along −Z from 10 m; a metre at the origin is 400 / (2 · 10 · tan 20°) pixels.
const std::string beacon = R"(format = 1
[view]
eye = [0, 0, 10]
target = [0, 0, 0]
fov = 40
size = [600, 400]
[materials.deck]
base = [0.4, 0.3, 0.2]
[[objects]]
name = "crate"
shape = "box"
size = [1, 1, 1]
material = "deck"
)";
const std::string moon = "[[lights]]\nname = \"moon\"\nkind = \"directional\"\nshines = [0, -1, 0]\n";
const std::string lamp =
    "[[lights]]\nname = \"searchlight\"\nkind = \"spot\"\nposition = [0, 0, 0]\nshines = "
    "[2, 0, 0]\ninner = 12\nouter = 20\n";

const double half_angle = radians(20);
const double a_metre = 400 / (2 * 10 * std::tan(half_angle));

scene_source source_of(const std::string& text) {
    scene_source made;
    made.name = "beacon";
    made.text = text;
    return made;
}

handle the(handle_kind kind, const workspace& on) {
    for (const handle& each : on.handles()) {
        if (each.kind == kind) {
            return each;
        }
    }
    FAIL("there is no such handle");
    return {};
}

bool drag(workspace& on, handle_kind kind, double x, double y, drag_along along = drag_along::ground) {
    const handle taken = the(kind, on);
    REQUIRE(on.hold(taken, taken.x + 2, taken.y - 1)); // not taken in its middle: it does not jump
    return on.drag_held(x + 2, y - 1, along);
}

// The largest difference between two rotations' components.
double apart(const matrix3& a, const matrix3& b) {
    double most = 0;
    for (std::size_t i = 0; i < 9; ++i) {
        most = std::max(most, std::abs(a.values[i] - b.values[i]));
    }
    return most;
}
matrix3 turn_of(const vec3<double>& rotation) {
    placement placed;
    placed.rotation = rotation;
    return linear_part(object_to_world(placed));
}

} // namespace

TEST_CASE("a light without a place is turned by its end: towards the mouse on a sphere about the target") {
    workspace on(source_of(beacon + moon), {});
    const handle before = the(handle_kind::light_direction, on);
    CHECK(before.from_x == doctest::Approx(300));
    CHECK(before.from_y == doctest::Approx(200));
    // Straight above the target, by 0.55 of half the picture's height.
    CHECK(before.x == doctest::Approx(300));
    CHECK(before.y == doctest::Approx(200 - 0.55 * 200));
    CHECK_FALSE(handle_at(on.handles(), 5, 5, 14));
    CHECK(handle_at(on.handles(), before.x + 9, before.y - 9, 14)->kind == handle_kind::light_direction);
    REQUIRE(drag(on, handle_kind::light_direction, 300, 200)); // in the middle: from the eye
    vec3<double> shines = on.edited().shown().lights[0].light.shines;
    CHECK(shines.x == doctest::Approx(0));
    CHECK(std::abs(shines.z + 1) < 1e-4); // to a tenth of a thousandth, as a hand means it
    // Within the sphere its handle is where the mouse is; outside it stays at the rim, square to the ray.
    REQUIRE(drag(on, handle_kind::light_direction, 355, 230));
    const handle there = the(handle_kind::light_direction, on);
    CHECK(std::abs(there.x - 355) < 0.1);
    CHECK(std::abs(there.y - 230) < 0.1);
    CHECK(on.edited().shown().lights[0].light.shines.z < 0); // still on the eye's side
    REQUIRE(drag(on, handle_kind::light_direction, 590, 200));
    shines = on.edited().shown().lights[0].light.shines;
    const double off_axis = std::atan(290 / 200.0 * std::tan(half_angle)); // of the ray through the mouse
    CHECK(std::abs(shines.x + std::cos(off_axis)) < 2e-4);
    CHECK(std::abs(shines.z + std::sin(off_axis)) < 2e-4);
}

TEST_CASE("a spot is turned by its arrow and opened by its border, never narrower inside than out") {
    workspace on(source_of(beacon + lamp), {});
    CHECK(on.handles().size() == 1); // its place; the rest once it is chosen
    on.choose_light(0);
    REQUIRE(on.handles().size() == 3);
    const double radius = 0.3 * 10 * std::tan(half_angle);
    const handle tip = the(handle_kind::light_direction, on);
    CHECK(tip.x == doctest::Approx(300 + radius * a_metre));
    CHECK(tip.y == doctest::Approx(200));
    const handle border = the(handle_kind::cone_border, on);
    CHECK(border.x == doctest::Approx(300 + radius * std::cos(radians(20)) * a_metre));
    CHECK(border.y == doctest::Approx(200 + radius * std::sin(radians(20)) * a_metre)); // below, on this side
    // In the plane that is square to the view, angles are as on the screen.
    for (const double angle : {35.0, 60.0, 8.0}) {
        CAPTURE(angle);
        REQUIRE(drag(on, handle_kind::cone_border, 300 + 70 * std::cos(radians(angle)),
                     200 + 70 * std::sin(radians(angle))));
        const light now = on.edited().shown().lights[0].light;
        CHECK(std::abs(degrees(now.outer) - angle) <= 0.0501); // in tenths
        CHECK(now.inner <= now.outer);
    }
    CHECK(degrees(on.edited().shown().lights[0].light.inner) == doctest::Approx(8).epsilon(0.01));
    REQUIRE(drag(on, handle_kind::cone_border, 200, 203)); // behind the lamp: as wide as goes
    CHECK(degrees(on.edited().shown().lights[0].light.outer) == doctest::Approx(90));
    REQUIRE(drag(on, handle_kind::light_direction, 300, 200 - 0.5 * radius * a_metre));
    const vec3<double> shines = on.edited().shown().lights[0].light.shines;
    CHECK(std::abs(length(shines) - 1) < 2e-4);
    CHECK(std::abs(the(handle_kind::light_direction, on).y - (200 - 0.5 * radius * a_metre)) < 0.1);
    // Seen along its axis the border is a circle about the lamp; half as far out is a narrower cone.
    REQUIRE(on.edited().apply_all({set_numbers("lights[0].shines", {0, 0, -1}),
                                   set_number("lights[0].inner", 5), set_number("lights[0].outer", 20)}));
    const handle ring = the(handle_kind::cone_border, on);
    CHECK(on.circle(ring).size() > 20);
    const double out = std::hypot(ring.x - 300, ring.y - 200);
    for (const std::array<double, 2>& each : on.circle(ring)) {
        CHECK(std::hypot(each[0] - 300, each[1] - 200) == doctest::Approx(out).epsilon(1e-9));
    }
    REQUIRE(drag(on, handle_kind::cone_border, 300 + (ring.x - 300) / 2, 200 + (ring.y - 200) / 2));
    const double narrower = degrees(on.edited().shown().lights[0].light.outer);
    CHECK(narrower > 5);
    CHECK(narrower < 15);
}

TEST_CASE("a light in view space is dragged as it is seen, and written in view space") {
    workspace on(
        source_of(beacon + "[[lights]]\nkind = \"point\"\nspace = \"view\"\nposition = [0, 0, -6]\n"), {});
    REQUIRE(on.edited().apply(set_numbers("view.eye", {10, 0, 0}))); // it goes with the eye
    const handle before = the(handle_kind::light_place, on);
    CHECK(before.x == doctest::Approx(300));
    REQUIRE(drag(on, handle_kind::light_place, 340, 170, drag_along::view));
    const handle now = the(handle_kind::light_place, on);
    CHECK(std::abs(now.x - 340) < 0.1);
    CHECK(std::abs(now.y - 170) < 0.1);
    const vec3<double> at = on.edited().shown().lights[0].light.position;
    CHECK(at.x > 0); // to the right, up, as far away as before
    CHECK(at.y > 0);
    CHECK(at.z == doctest::Approx(-6));
}

TEST_CASE("an object is moved by its place and turned about the vertical, however it stands") {
    workspace on(source_of(beacon), {});
    CHECK(on.handles().empty());
    on.choose_object(0);
    REQUIRE(on.handles().size() == 2);
    REQUIRE(drag(on, handle_kind::object_place, 300 + a_metre, 200 - 2 * a_metre, drag_along::view));
    vec3<double> at = on.edited().shown().objects[0].placed.position;
    CHECK(at.x == doctest::Approx(1).epsilon(1e-4));
    CHECK(at.y == doctest::Approx(2).epsilon(1e-4));
    CHECK(at.z == doctest::Approx(0));
    CHECK(on.edited().undo());
    // From above, where the ring is met by the ray: a quarter round, from +X to −Z.
    REQUIRE(
        on.edited().apply_all({set_numbers("view.eye", {0, 10, 0.001}), set_numbers("view.up", {0, 0, -1})}));
    CHECK(on.circle(the(handle_kind::object_turn, on)).size() > 20);
    for (const vec3<double>& stands : {vec3<double>{0, 0, 0}, vec3<double>{0, 30, 0}, vec3<double>{40, 10, 0},
                                       vec3<double>{20, -65, 130}, vec3<double>{25, 90, 10}}) {
        CAPTURE(stands.x);
        CAPTURE(stands.y);
        REQUIRE(on.edited().apply(set_numbers("objects[0].rotation", {stands.x, stands.y, stands.z})));
        const vec3<double> before = on.edited().shown().objects[0].placed.rotation;
        const handle knob = the(handle_kind::object_turn, on);
        const double x = knob.x - 300;
        const double y = knob.y - 200;
        REQUIRE(drag(on, handle_kind::object_turn, 300 + y, 200 - x)); // against the clock, seen from above
        const vec3<double> after = on.edited().shown().objects[0].placed.rotation;
        // Three angles in tenths of a degree; the mouse two pixels beside the knob, of 60: below half a
        // degree.
        CHECK(apart(turn_of(after), turn_about_y(pi / 2) * turn_of(before)) < 0.06);
        if (stands.x == 0 && stands.z == 0) {
            CHECK(after.x == 0);
            CHECK(after.z == 0);
        }
    }
}

TEST_CASE("what is held and then taken out of the scene is let go; what is behind the eye cannot be taken") {
    workspace on(source_of(beacon + lamp), {});
    const handle place = the(handle_kind::light_place, on);
    REQUIRE(on.hold(place, place.x, place.y));
    REQUIRE(on.edited().apply({"lights[0]", ""}));
    CHECK_FALSE(on.drag_held(10, 10, drag_along::view));
    CHECK(on.edited().undo());
    REQUIRE(on.edited().apply(set_numbers("lights[0].position", {0, 0, 20})));
    CHECK_FALSE(the(handle_kind::light_place, on).in_front);
    CHECK_FALSE(on.hold(the(handle_kind::light_place, on), 300, 200));
    CHECK_FALSE(handle_at(on.handles(), 0, 0, 14));
}

TEST_CASE("places follow the mouse: along the ground, up and down, across the view") {
    workspace on(open_scene("harbour"), {});
    on.set_size(876, 726);
    std::size_t moved = 0;
    for (const handle& marker : on.handles()) {
        if (marker.kind != handle_kind::light_place || !marker.in_front || marker.x < 0 || marker.x > 876 ||
            marker.y < 0 || marker.y > 726) {
            continue;
        }
        CAPTURE(marker.index);
        const auto position = [&] { return on.edited().shown().lights[marker.index].light.position; };
        for (const drag_along along : {drag_along::ground, drag_along::height, drag_along::view}) {
            const vec3<double> before = position();
            const double to_x = along == drag_along::height ? marker.x : marker.x + 20;
            const double to_y = along == drag_along::ground ? marker.y + 8 : marker.y - 30;
            REQUIRE(on.hold(marker, marker.x, marker.y));
            on.drag_held((marker.x + to_x) / 2, (marker.y + to_y) / 2, along); // from where it was taken
            REQUIRE(on.drag_held(to_x, to_y, along));
            const vec3<double> after = position();
            CHECK(length(after - before) > 0.01);
            if (along == drag_along::ground) {
                CHECK(after.y == doctest::Approx(before.y).epsilon(1e-4));
            } else if (along == drag_along::height) {
                CHECK(after.x == before.x);
                CHECK(after.z == before.z);
            }
            for (const handle& now : on.handles()) {
                if (now.kind == marker.kind && now.index == marker.index) {
                    // To a tenth of a millimetre, which is far below a pixel here. Where the ground is seen
                    // edge-on a lamp goes to and fro, and its marker not up and down.
                    const bool edge_on = along == drag_along::ground;
                    CHECK(std::abs(now.x - to_x) < (edge_on ? 6 : 0.5));
                    CHECK((edge_on || std::abs(now.y - to_y) < 0.5));
                }
            }
            while (on.edited().undo()) {
            }
            ++moved;
        }
    }
    CHECK(moved >= 3);
    // From high above the ground is met where the mouse is.
    REQUIRE(
        on.edited().apply_all({set_numbers("view.eye", {3, 12, 9}), set_numbers("view.target", {0, 1, 0})}));
    const auto lantern = [&] {
        for (const handle& each : on.handles()) {
            if (each.kind == handle_kind::light_place && each.index == 1) {
                return each;
            }
        }
        return handle{};
    };
    const handle before = lantern();
    REQUIRE(on.hold(before, before.x + 3, before.y));
    REQUIRE(on.drag_held(before.x + 43, before.y + 25, drag_along::ground));
    CHECK(std::abs(lantern().x - before.x - 40) < 0.5);
    CHECK(std::abs(lantern().y - before.y - 25) < 0.5);
}
