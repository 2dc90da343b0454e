// What a surface reflects: the factors of the terms.
#pragma once

#include "yurvo/numeric/rgb.hpp"

namespace yurvo {

struct material {
    rgb<double> base{1, 1, 1};    ///< linear, ≥ 0
    double alpha = 1;             ///< 0 to 1, straight; never lit
    rgb<double> ambient{1, 1, 1}; ///< factors ≥ 0
    rgb<double> diffuse{1, 1, 1};
    rgb<double> specular{0, 0, 0};
    double shininess = 32;         ///< > 0
    rgb<double> emission{0, 0, 0}; ///< ≥ 0
    bool two_sided = false;        ///< a triangle that faces away has its normals negated

    friend bool operator==(const material&, const material&) = default;
};

} // namespace yurvo
