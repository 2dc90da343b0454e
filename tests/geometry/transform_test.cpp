#include <doctest/doctest.h>

#include <cmath>

#include "yurvo/geometry/transform.hpp"

using namespace yurvo;

namespace {
bool near(const vec3<double>& a, const vec3<double>& b) { return length(a - b) <= 1e-14 * (1 + length(b)); }
} // namespace

TEST_CASE("placement: scale, then X, then Y, then Z, then position") {
    placement placed;
    placed.scale = {2, 3, 4};
    placed.rotation = {radians(90), radians(90), 0};
    placed.position = {10, 20, 30};
    const matrix4 matrix = object_to_world(placed);
    // (0, 1, 0) · 3 about X by 90° is (0, 0, 3), then about Y by 90° is (3, 0, 0).
    CHECK(near(transform_point(matrix, {0, 1, 0}), {13, 20, 30}));
    // (0, 0, 1) · 4 about X is (0, −4, 0), which Y leaves.
    CHECK(near(transform_point(matrix, {0, 0, 1}), {10, 16, 30}));
    CHECK_FALSE(mirrors(matrix));
    placed.scale.x = -2;
    CHECK(mirrors(object_to_world(placed)));
}

TEST_CASE("normals stay square to what they were square to") {
    placement placed;
    placed.scale = {2, 0.5, -3};
    placed.rotation = {0.3, -1.1, 2.0};
    const matrix4 matrix = object_to_world(placed);
    const vec3<double> normal{1, 2, -1};
    const vec3<double> along{2, -1, 0}; // square to it
    const vec3<double> moved_normal = transform_direction(normal_matrix(matrix), normal);
    const vec3<double> moved_along = transform_point(matrix, along) - transform_point(matrix, {});
    CHECK(std::abs(dot(moved_normal, moved_along)) <= 1e-14);
}

TEST_CASE("camera: the target is in the middle, up is up, and rays lead back") {
    camera seen_from;
    seen_from.eye = {1, 2, 3};
    seen_from.axes = look_at(seen_from.eye, {4, 2, -1}, {0, 1, 0});
    seen_from.tangent = std::tan(radians(45) / 2);
    seen_from.width = 640;
    seen_from.height = 400;
    const vec3<double> target = seen_from.to_pixels(vec3<double>{4, 2, -1} - seen_from.eye);
    CHECK(std::abs(target.x / target.z - 320) <= 1e-10);
    CHECK(std::abs(target.y / target.z - 200) <= 1e-10);
    CHECK(std::abs(target.z - 5) <= 1e-14);
    const vec3<double> above = seen_from.to_pixels(vec3<double>{4, 2.5, -1} - seen_from.eye);
    CHECK(above.y / above.z < 200);
    // Half the height of the view at distance 1 is the tangent of half the field of view.
    const vec3<double> top = seen_from.ray(320, 0);
    CHECK(std::abs(std::acos(dot(normalize(top), -seen_from.axes.backward)) - radians(22.5)) <= 1e-12);
    const vec3<double> back = seen_from.to_pixels(seen_from.ray(17.25, 301.5) * 9.0);
    CHECK(std::abs(back.x / back.z - 17.25) <= 1e-10);
    CHECK(std::abs(back.y / back.z - 301.5) <= 1e-10);
    // View space: x to the right, y up, −z ahead.
    CHECK(near(seen_from.point_to_world({0, 0, -5}), {4, 2, -1}));
}
