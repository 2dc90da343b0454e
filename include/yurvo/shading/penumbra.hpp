// What the angle θ between a spot's axis and the way to the surface does near the border of its cone.
//
// Angles enter as versines, 1 − cos: the quotient of `ramp` is the same as with cosines, and a narrow cone
// keeps its digits.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/shading/penumbra_list.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What the angle θ in a spot's cone does to its light.
struct penumbra_formulas {
    /// The spot's axis: the unit vector in which it shines.
    template <class Real> static vec3<Real> axis(const vec3<Real>& shines) { return normalize(shines); }

    /// 1 − cos of a half-angle of the cone in radians, as 2 sin²(angle / 2).
    template <class Real> static Real cone_versine(const Real& angle) {
        const Real sine = std::sin(angle / 2);
        return 2 * sine * sine;
    }

    /// 1 − cos θ with cos θ = −l · axis.
    template <class Real> static Real penumbra_versine(const vec3<Real>& l, const vec3<Real>& axis) {
        return versine(-l, axis);
    }

    /// t = clamp((cos θ − cos outer) / (cos inner − cos outer), 0, 1); inner ≠ outer.
    template <class Real>
    static Real penumbra_position(const Real& theta_versine, const Real& inner_versine,
                                  const Real& outer_versine) {
        return clamp((outer_versine - theta_versine) / (outer_versine - inner_versine), Real(0), Real(1));
    }

    /// 1 within the outer angle, else 0.
    template <class Real> static Real penumbra_hard(const Real& theta_versine, const Real& outer_versine) {
        return select(theta_versine <= outer_versine, Real(1), Real(0));
    }
    template <class Real> static Real penumbra_ramp(const Real& t) { return t; }        ///< t
    template <class Real> static Real penumbra_squared(const Real& t) { return t * t; } ///< t²
    /// t²(3 − 2t).
    template <class Real> static Real penumbra_smooth(const Real& t) {
        return t * t * (Real(3) - Real(2) * t);
    }
    /// cos θ^exponent within the outer angle, else 0.
    template <class Real>
    static Real penumbra_power(const Real& theta_versine, const Real& outer_versine, const Real& exponent) {
        return select(theta_versine <= outer_versine, cosine_power(theta_versine, exponent), Real(0));
    }
};

/// Each penumbra of penumbra_list by its equation: at(equations, light, 1 − cos θ). `light` has
/// inner_versine, outer_versine and exponent.
template <penumbra_kind Kind> struct penumbra_equation;

template <> struct penumbra_equation<penumbra_kind::hard> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& versine) {
        return equations.penumbra_hard(versine, Real(light.outer_versine));
    }
};
template <> struct penumbra_equation<penumbra_kind::ramp> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& versine) {
        return equations.penumbra_ramp(
            equations.penumbra_position(versine, Real(light.inner_versine), Real(light.outer_versine)));
    }
};
template <> struct penumbra_equation<penumbra_kind::squared> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& versine) {
        return equations.penumbra_squared(
            equations.penumbra_position(versine, Real(light.inner_versine), Real(light.outer_versine)));
    }
};
template <> struct penumbra_equation<penumbra_kind::smooth> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& versine) {
        return equations.penumbra_smooth(
            equations.penumbra_position(versine, Real(light.inner_versine), Real(light.outer_versine)));
    }
};
template <> struct penumbra_equation<penumbra_kind::power> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& versine) {
        return equations.penumbra_power(versine, Real(light.outer_versine), Real(light.exponent));
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
