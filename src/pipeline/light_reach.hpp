// light_reach: how far lights reach, so that those which cannot reach a block of points are left out.
//
// Only those are left out whose falloff or penumbra is exactly 0 at every point of the block, or that lie
// behind its every surface, with room for the rounding of the kernel: adding nothing changes no digit, so
// neither does leaving it out.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "pipeline/wide/attributes.hpp"
#include "yurvo/shading/light.hpp"

namespace yurvo::inline v0_1::pipeline {

// Metres from a light that lies behind, to be left out for that.
inline constexpr double nearest_behind = 1e-3;
inline constexpr double farthest_behind = 1e7;

class light_reach {
    // By light; those without a limit have an infinite one.
    std::vector<float> x_, y_, z_, squared_;
    struct cone {
        std::size_t light;
        vec3<double> tip, axis;
        double cosine, sine; // of the outer half-angle
    };
    std::vector<cone> cones_;
    struct source {
        vec3<double> place; // its position, or where it shines from
        bool directional;
    };
    std::vector<source> sources_;
    bool limited_ = false;

  public:
    // Positions are measured from `origin`.
    light_reach(const std::vector<light>& lights, const vec3<double>& origin);

    // False where every light reaches everywhere.
    [[nodiscard]] bool limited() const { return limited_; }

    // Sets reached[i] to 0 for lights that bring exactly nothing to any point of a box, to 1 for others.
    void find(const wide::box& points, std::vector<unsigned char>& reached) const;

    // Sets reached[i] to 0 for lights that lie behind every surface at points of one box with normals, of any
    // length up to 1, in another, and are as far away as said above, if they have a place.
    void leave_out_behind(const wide::box& points, const wide::box& normals,
                          std::vector<unsigned char>& reached) const;
};

} // namespace yurvo::inline v0_1::pipeline
