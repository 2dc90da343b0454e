// cast_geometry: what rays are cast at, made once for all scenes that differ in nothing that rays meet: the
// same scene under another model, at another rate, in another light.
#pragma once

#include <atomic>
#include <cstddef>
#include <limits>
#include <memory>
#include <mutex>
#include <vector>

#include "verify/triangle_tree.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// The nearest field on a ray.
struct field_hit {
    std::size_t object = 0;
    double depth = std::numeric_limits<double>::infinity();
};

// An angle about each axis.
class turn_by_angles {
    vec3<double> cosines_, sines_;

  public:
    explicit turn_by_angles(const vec3<double>& angles); // in radians
    // About x, then y, then z.
    [[nodiscard]] vec3<double> of(const vec3<double>& v) const {
        const vec3<double>& c = cosines_;
        const vec3<double>& s = sines_;
        const vec3<double> about_x{v.x, c.x * v.y - s.x * v.z, s.x * v.y + c.x * v.z};
        const vec3<double> about_y{c.y * about_x.x + s.y * about_x.z, about_x.y,
                                   -s.y * about_x.x + c.y * about_x.z};
        return {c.z * about_y.x - s.z * about_y.y, s.z * about_y.x + c.z * about_y.y, about_y.z};
    }
    // Back again: about z, then y, then x.
    [[nodiscard]] vec3<double> undone(const vec3<double>& v) const {
        const vec3<double>& c = cosines_;
        const vec3<double>& s = sines_;
        const vec3<double> about_z{c.z * v.x + s.z * v.y, c.z * v.y - s.z * v.x, v.z};
        const vec3<double> about_y{c.y * about_z.x - s.y * about_z.z, about_z.y,
                                   s.y * about_z.x + c.y * about_z.z};
        return {about_y.x, c.x * about_y.y + s.x * about_y.z, c.x * about_y.z - s.x * about_y.y};
    }
};

// In the world, whoever looks.
struct cast_shapes {
    std::vector<object> objects;
    std::vector<mesh> meshes;
    std::vector<turn_by_angles> turns;              // of the objects
    std::vector<std::vector<vec3<double>>> normals; // of the meshes' vertices in the world; of length 1, or 0
    triangle_tree tree;
    std::vector<vec3<double>> faces; // normals of the tree's triangles, mirrored or not

    explicit cast_shapes(const std::vector<object>& of);
};

// And from where it is seen.
struct cast_geometry {
    std::shared_ptr<const cast_shapes> shapes;
    view seen_from;

    cast_geometry(std::shared_ptr<const cast_shapes> of, const view& from)
        : shapes(std::move(of)), seen_from(from) {}

    // What the rays through the pixels' centres meet, row by row, once anybody has asked for all of them.
    struct centre {
        triangle_hit triangle;
        field_hit field;
    };
    mutable std::once_flag all_centres_asked;
    mutable std::vector<centre> centres;
    mutable std::atomic<bool> centres_known = false; // whoever sees it set may read them
};

vec3<double> unit_or_zero(const vec3<double>& v);

// A place of an object in the world, and a normal, which shrinks where its surface is stretched.
vec3<double> place_in_world(const placement& placed, const turn_by_angles& turn, const vec3<double>& p);
vec3<double> normal_in_world(const placement& placed, const turn_by_angles& turn, const vec3<double>& n);

// The last few are kept, and the last few shapes, as long as they are small.
std::shared_ptr<const cast_geometry> geometry_of(const scene& the_scene);

} // namespace yurvo::inline v0_1::verify
