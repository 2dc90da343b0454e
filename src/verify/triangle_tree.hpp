// triangle_tree: which triangle a ray meets first, by boxes within boxes.
#pragma once

#include <array>
#include <cstdint>
#include <limits>
#include <vector>

#include "yurvo/numeric/vec3.hpp"

namespace yurvo::inline v0_1::verify {

struct world_triangle {
    std::array<vec3<double>, 3> corners;
    std::uint32_t object = 0, index = 0;
};

struct triangle_hit {
    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();
    double distance = std::numeric_limits<double>::infinity(); // along the ray, in lengths of its direction
    std::uint32_t triangle = none;
    double second = 0, third = 0; // weights of the corners 1 and 2
};

class triangle_tree {
    struct node {
        vec3<double> low, high;
        std::uint32_t first = 0, count = 0; // triangles, in a leaf
        std::uint32_t right = 0;            // else the children are the next node and this one ...
        int axis = 0;                       // ... which lies higher along this axis
    };
    std::vector<world_triangle> triangles_;
    std::vector<std::uint32_t> order_;
    std::vector<node> nodes_;

    void build(std::uint32_t first, std::uint32_t count, std::size_t depth);
    // Puts the nearer ones along an axis first; how many those are.
    std::uint32_t cut(std::uint32_t first, std::uint32_t count, int axis, bool weighed);
    template <class Leaf>
    void walk(const vec3<double>& from, const vec3<double>& along, double nearest, const double& farthest,
              Leaf&& leaf) const;

  public:
    explicit triangle_tree(std::vector<world_triangle> triangles);

    [[nodiscard]] std::uint32_t size() const { return static_cast<std::uint32_t>(triangles_.size()); }
    [[nodiscard]] const world_triangle& triangle(std::uint32_t i) const { return triangles_[i]; }

    // The nearest triangle met between two distances; of several at the same distance, the first given. A
    // triangle that may well be it is asked first, which finds the rest sooner.
    [[nodiscard]] triangle_hit find(const vec3<double>& from, const vec3<double>& along, double nearest,
                                    double farthest, std::uint32_t likely = triangle_hit::none) const;

    // Every triangle met between two distances, in no order.
    [[nodiscard]] std::vector<triangle_hit> find_all(const vec3<double>& from, const vec3<double>& along,
                                                     double nearest, double farthest) const;

    // Where a ray meets the plane of one triangle, inside it or not.
    [[nodiscard]] triangle_hit meet_plane(std::uint32_t triangle, const vec3<double>& from,
                                          const vec3<double>& along) const;
};

} // namespace yurvo::inline v0_1::verify
