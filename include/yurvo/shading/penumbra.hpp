// What the angle θ between a spot's axis and the way to the surface does near the border of its cone.
//
// Angles enter as versines, 1 − cos: the quotient of `ramp` is the same as with cosines, and a narrow cone
// keeps its digits.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/numeric/vec3.hpp"

namespace yurvo {

struct penumbra_formulas {
    // The spot's axis: the unit vector in which it shines.
    template <class Real> static vec3<Real> axis(const vec3<Real>& shines) { return normalize(shines); }

    // 1 − cos of a half-angle of the cone in radians, as 2 sin²(angle / 2).
    template <class Real> static Real cone_versine(const Real& angle) {
        const Real sine = std::sin(angle / 2);
        return 2 * sine * sine;
    }

    // 1 − cos θ with cos θ = −l · axis.
    template <class Real> static Real penumbra_versine(const vec3<Real>& l, const vec3<Real>& axis) {
        return versine(-l, axis);
    }

    // t = clamp((cos θ − cos outer) / (cos inner − cos outer), 0, 1); inner ≠ outer.
    template <class Real>
    static Real penumbra_position(const Real& theta_versine, const Real& inner_versine,
                                  const Real& outer_versine) {
        return clamp((outer_versine - theta_versine) / (outer_versine - inner_versine), Real(0), Real(1));
    }

    template <class Real> static Real penumbra_hard(const Real& theta_versine, const Real& outer_versine) {
        return select(theta_versine <= outer_versine, Real(1), Real(0));
    }
    template <class Real> static Real penumbra_ramp(const Real& t) { return t; }
    template <class Real> static Real penumbra_squared(const Real& t) { return t * t; }
    template <class Real> static Real penumbra_smooth(const Real& t) {
        return t * t * (Real(3) - Real(2) * t);
    }
    template <class Real>
    static Real penumbra_power(const Real& theta_versine, const Real& outer_versine, const Real& exponent) {
        return select(theta_versine <= outer_versine, cosine_power(theta_versine, exponent), Real(0));
    }
};

} // namespace yurvo
