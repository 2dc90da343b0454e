// The eye around and about: where it comes to be, by hand; and which keys another model brings and takes.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/live/walk.hpp"

using namespace yurvo;
using namespace yurvo::live;

namespace {

// Numbers are written to a tenth of a thousandth: half of that is what rounding may change.
constexpr double rounding = 0.5e-4 * (1 + 1e-9);

vec3<double> numbers_of(const std::vector<edit>& edits, const std::string& place) {
    const auto found =
        std::find_if(edits.begin(), edits.end(), [&](const edit& each) { return each.place == place; });
    REQUIRE(found != edits.end());
    vec3<double> result;
    REQUIRE(std::sscanf(found->value.c_str(), "[%lf, %lf, %lf]", &result.x, &result.y, &result.z) == 3);
    return result;
}

void near(const vec3<double>& found, const vec3<double>& expected) {
    CHECK(std::abs(found.x - expected.x) <= rounding);
    CHECK(std::abs(found.y - expected.y) <= rounding);
    CHECK(std::abs(found.z - expected.z) <= rounding);
}

view from(const vec3<double>& eye, const vec3<double>& target) {
    view of;
    of.eye = eye;
    of.target = target;
    return of;
}

std::string value_at(const std::vector<edit>& edits, const std::string& place) {
    const auto found =
        std::find_if(edits.begin(), edits.end(), [&](const edit& each) { return each.place == place; });
    return found == edits.end() ? "not there" : found->value;
}

} // namespace

TEST_CASE("walk: a quarter of a turn around the target, as far away and as high as before") {
    const view of = from({1, 3, 6}, {1, 2, 1}); // 5 m in front, 1 m above
    near(numbers_of(orbited(of, pi / 2, 0), "view.eye"), {6, 3, 1});
    near(numbers_of(orbited(of, -pi / 2, 0), "view.eye"), {-4, 3, 1});
    near(numbers_of(orbited(of, pi, 0), "view.eye"), {1, 3, -4});
    near(numbers_of(orbited(of, 0, 0), "view.eye"), {1, 3, 6});
    CHECK(orbited(of, 1, 1).size() == 1); // the target stays
}

TEST_CASE("walk: up and down, but never over the top") {
    const view level = from({0, 0, 2}, {0, 0, 0});
    near(numbers_of(orbited(level, 0, pi / 6), "view.eye"), {0, 1, std::sqrt(3.0)});
    near(numbers_of(orbited(level, 0, -pi / 6), "view.eye"), {0, -1, std::sqrt(3.0)});
    // At most 1.5 radians, short of straight up, where `up` would lie along the view.
    near(numbers_of(orbited(level, 0, 10), "view.eye"), {0, 2 * std::sin(1.5), 2 * std::cos(1.5)});
    near(numbers_of(orbited(level, 0, -10), "view.eye"), {0, -2 * std::sin(1.5), 2 * std::cos(1.5)});
}

TEST_CASE("walk: nearer and farther by a factor; not nearer than what is cut off there") {
    view of = from({1, 2, 9}, {1, 2, 1});
    near(numbers_of(zoomed(of, 0.5), "view.eye"), {1, 2, 5});
    near(numbers_of(zoomed(of, 2), "view.eye"), {1, 2, 17});
    of.near = 0.25;
    CHECK(zoomed(of, 0.05).empty());                      // 0.4 m, of which twice `near` would be cut off
    CHECK_FALSE(zoomed(of, 0.0625 * (1 + 1e-9)).empty()); // 0.5 m
}

TEST_CASE("walk: a pixel to the side moves eye and target by what a pixel is at the target") {
    view of = from({0, 0, 10}, {0, 0, 0});
    of.width = 400;
    of.height = 200;
    of.fov = 2 * std::atan(0.5); // 10 m of height at 10 m: 0.05 m a pixel
    const std::vector<edit> aside = panned(of, 20, 0);
    near(numbers_of(aside, "view.eye"), {-1, 0, 10}); // what is seen goes with the hand
    near(numbers_of(aside, "view.target"), {-1, 0, 0});
    const std::vector<edit> down = panned(of, 0, 40);
    near(numbers_of(down, "view.eye"), {0, 2, 10});
    near(numbers_of(down, "view.target"), {0, 2, 0});
}

TEST_CASE("walk: all objects are seen: a sphere around them fits the view") {
    scene of;
    of.view = from({0, 0, 3}, {0, 0, 0});
    of.view.fov = radians(60); // its half has the sine 0.5
    of.materials.push_back({.name = "planks"});
    object crate;
    crate.shape = box_shape{{2, 2, 2}};
    crate.placed.position = {5, 0, 0};
    of.objects.push_back(crate);
    std::vector<edit> edits = fitted(of);
    near(numbers_of(edits, "view.target"), {5, 0, 0});
    // Half the diagonal is √3, seen from 2√3 away, as before from the front.
    near(numbers_of(edits, "view.eye"), {5, 0, 2 * std::sqrt(3.0)});
    CHECK(value_at(edits, "view.far") == "not there");
    of.view.far = 4; // 3√3 = 5.2 m to the far end of it
    edits = fitted(of);
    CHECK(std::stod(value_at(edits, "view.far")) == 6);
    // A second one: the middle of both.
    crate.placed.position = {-3, 0, 0};
    of.objects.push_back(crate);
    near(numbers_of(fitted(of), "view.target"), {1, 0, 0});
}

TEST_CASE("walk: what has no corners cannot be fitted") {
    scene of;
    of.view = from({0, 0, 3}, {0, 0, 0});
    CHECK(fitted(of).empty());
    object buoy;
    buoy.shape = field_shape{};
    of.objects.push_back(buoy);
    CHECK(fitted(of).empty());
}

TEST_CASE("walk: cel brings its bands and is per fragment; another model takes them out again") {
    scene of;
    of.shading.model = model_kind::lambert;
    of.shading.rate = rate::vertex;
    std::vector<edit> edits = with_model(of, "cel");
    CHECK(value_at(edits, "shading.model") == "\"cel\"");
    CHECK(value_at(edits, "shading.rate") == "\"fragment\"");
    CHECK(value_at(edits, "shading.thresholds") != "not there");
    CHECK(value_at(edits, "shading.bands") != "not there");
    of.shading.rate = rate::fragment;
    CHECK(value_at(with_model(of, "cel"), "shading.rate") == "not there");

    of.shading.model = model_kind::cel;
    edits = with_model(of, "phong");
    CHECK(value_at(edits, "shading.model") == "\"phong\"");
    for (const char* const key : {"thresholds", "bands", "outline", "outline_color"}) {
        CAPTURE(key);
        CHECK(value_at(edits, std::string("shading.") + key).empty()); // taken out
    }
    CHECK(with_model(of, "cel").size() == 1);
    of.shading.model = model_kind::phong;
    CHECK(with_model(of, "lambert").size() == 1);
    CHECK(with_model(of, "wrapped").size() == 1); // a C++ model by its name
}
