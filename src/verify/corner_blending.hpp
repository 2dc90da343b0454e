// corner_blending: what a triangle's corners have, blended; and the weights of those who forget the depth.
#pragma once

#include <array>
#include <cmath>

#include "verify/point_lighting.hpp"

namespace yurvo::inline v0_1::verify {

inline rgb<double> blended(const std::array<rgb<double>, 3>& corners, const corner_weights& by) {
    return corners[0] * by[0] + corners[1] * by[1] + corners[2] * by[2];
}
inline vec3<double> blended(const std::array<vec3<double>, 3>& corners, const corner_weights& by) {
    return corners[0] * by[0] + corners[1] * by[1] + corners[2] * by[2];
}

// Weights on the screen, without the division by depth. Where a corner lies behind the eye there are none,
// and the right ones are taken.
inline corner_weights affine_weights(const std::array<vec3<double>, 3>& corners, double x, double y,
                                     const corner_weights& right_ones) {
    if (!(corners[0].z > 0 && corners[1].z > 0 && corners[2].z > 0)) {
        return right_ones;
    }
    const auto at = [&](std::size_t i) {
        return std::array<double, 2>{corners[i].x / corners[i].z, corners[i].y / corners[i].z};
    };
    const auto [ax, ay] = at(0);
    const auto [bx, by] = at(1);
    const auto [cx, cy] = at(2);
    const double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (!(std::abs(area) > 1e-9)) {
        return right_ones;
    }
    const double of_b = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area;
    const double of_c = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
    return {1 - of_b - of_c, of_b, of_c};
}

} // namespace yurvo::inline v0_1::verify
