// placement: how an object stands in the world.
#pragma once

#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// How an object is placed: world = T · Rz · Ry · Rx · S.
struct placement {
    vec3<double> position{0, 0, 0}; ///< metres
    vec3<double> rotation{0, 0, 0}; ///< radians about X, then Y, then Z, axes fixed
    vec3<double> scale{1, 1, 1};    ///< none zero; negative ones mirror

    friend bool operator==(const placement&, const placement&) = default;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
