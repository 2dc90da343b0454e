// What a surface reflects: the factors of the terms.
#pragma once

#include "yurvo/numeric/rgb.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What a surface does with light.
struct material {
    rgb<double> base{1, 1, 1};     ///< linear, ≥ 0
    double alpha = 1;              ///< 0 to 1, straight; never lit
    rgb<double> ambient{1, 1, 1};  ///< factors ≥ 0
    rgb<double> diffuse{1, 1, 1};  ///< factor of base, 0 to 1 or above
    rgb<double> specular{0, 0, 0}; ///< linear
    double shininess = 32;         ///< > 0
    rgb<double> emission{0, 0, 0}; ///< ≥ 0
    bool two_sided = false;        ///< a triangle that faces away has its normals negated

    friend bool operator==(const material&, const material&) = default;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
