// What distance does to a light; d > 0 in metres. Some are also given 1 / d, where that is known already:
// then nothing has to be divided.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/shading/falloff_list.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What distance d does to a light, d in metres and above 0.
struct falloff_formulas {
    template <class Real> static Real falloff_none(const Real&) { return Real(1); } ///< 1

    /// 1 / d², of 1 / d.
    template <class Real> static Real falloff_inverse_square(const Real&, const Real& inverse) {
        return inverse * inverse;
    }
    /// 1 / d².
    template <class Real> static Real falloff_inverse_square(const Real& d) { return one_over(d * d); }

    /// 1 / (k0 + k1·d + k2·d²).
    template <class Real>
    static Real falloff_polynomial(const Real& d, const Real& k0, const Real& k1, const Real& k2) {
        return one_over(k0 + k1 * d + k2 * d * d);
    }

    /// max(0, 1 − d / range).
    template <class Real> static Real falloff_linear(const Real& d, const Real& range) {
        return max(Real(0), Real(1) - d / range);
    }

    /// clamp(1 − (d / range)⁴, 0, 1) / d², of 1 / d.
    template <class Real>
    static Real falloff_windowed(const Real& d, const Real& range, const Real& inverse) {
        const Real ratio = d / range;
        const Real squared = ratio * ratio;
        return clamp(Real(1) - squared * squared, Real(0), Real(1)) * (inverse * inverse);
    }
    /// clamp(1 − (d / range)⁴, 0, 1) / d².
    template <class Real> static Real falloff_windowed(const Real& d, const Real& range) {
        return falloff_windowed(d, range, one_over(d));
    }
};

/// Each falloff of falloff_list by its equation: at(equations, light, d, 1 / d). `light` has k0, k1, k2 and
/// range. Equations of one's own need not take 1 / d.
template <falloff_kind Kind> struct falloff_equation;

template <> struct falloff_equation<falloff_kind::none> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light&, const Real& d, const Real&) {
        return equations.falloff_none(d);
    }
};
template <> struct falloff_equation<falloff_kind::inverse_square> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light&, const Real& d, const Real& inverse) {
        if constexpr (zero_with_inverse<Formula, Real>) {
            return equations.falloff_inverse_square(d, inverse);
        } else {
            return equations.falloff_inverse_square(d);
        }
    }
    template <class Formula, class Real>
    static constexpr bool zero_with_inverse = requires(const Formula& equations, const Real& d) {
        equations.falloff_inverse_square(d, d);
    };
};
template <> struct falloff_equation<falloff_kind::polynomial> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& d, const Real&) {
        return equations.falloff_polynomial(d, Real(light.k0), Real(light.k1), Real(light.k2));
    }
};
template <> struct falloff_equation<falloff_kind::linear> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& d, const Real&) {
        return equations.falloff_linear(d, Real(light.range));
    }
};
template <> struct falloff_equation<falloff_kind::windowed> {
    template <class Formula, class Light, class Real>
    static Real at(const Formula& equations, const Light& light, const Real& d, const Real& inverse) {
        if constexpr (zero_with_inverse<Formula, Real>) {
            return equations.falloff_windowed(d, Real(light.range), inverse);
        } else {
            return equations.falloff_windowed(d, Real(light.range));
        }
    }
    template <class Formula, class Real>
    static constexpr bool zero_with_inverse = requires(const Formula& equations, const Real& d) {
        equations.falloff_windowed(d, d, d);
    };
};

/// True where a falloff is 0 if 1 / d is, which is how a distance of zero enters.
template <falloff_kind Kind, class Formula, class Real> constexpr bool zero_with_inverse() {
    if constexpr (requires { falloff_equation<Kind>::template zero_with_inverse<Formula, Real>; }) {
        return falloff_equation<Kind>::template zero_with_inverse<Formula, Real>;
    } else {
        return false;
    }
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
