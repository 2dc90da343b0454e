// Models of a test's own: one compiled for every instruction set (tests/CMakeLists.txt), the same again
// compiled once, and once more run point by point.
#pragma once

#include "yurvo/model.hpp"

template <int Copy> struct sheen {
    float share = 0.5F;
    template <class Real>
    yurvo::reflected<Real> operator()(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& in) const {
        const Real facing = max(dot(s.normal, in.to_light), Real(0));
        const Real grazing = Real(1) - max(dot(s.normal, s.to_eye), Real(0));
        return {in.light * facing * (1 - share), in.light * (facing * grazing * grazing * share)};
    }
};

using rope_sheen = sheen<1>;
using rope_sheen_again = sheen<2>;
struct rope_sheen_by_point : sheen<3> {
    static constexpr bool one_at_a_time = true;
};
