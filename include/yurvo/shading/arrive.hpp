// arrive: what one light brings to a point.
#pragma once

#include <limits>

#include "yurvo/shading/formula.hpp"
#include "yurvo/shading/law.hpp"
#include "yurvo/shading/light.hpp"
#include "yurvo/shading/surface.hpp"

namespace yurvo {

// A light made ready for many points: what does not depend on the point is worked out once, in double, and
// rounded once.
template <class Scalar> struct ready_light {
    light_kind kind{};
    falloff_kind falloff{};
    penumbra_kind penumbra{};
    vec3<Scalar> position; // metres, from the same origin as the surfaces'
    vec3<Scalar> to_light; // directional: unit
    vec3<Scalar> axis;     // spot: unit
    rgb<Scalar> color;
    Scalar intensity{};
    Scalar k0{}, k1{}, k2{};
    Scalar range{};
    Scalar inner_versine{}, outer_versine{};
    Scalar exponent{};

    [[nodiscard]] read_law law() const { return {kind, falloff, penumbra}; }
};

// `origin` is the point, in world space, from which the surfaces' positions are measured.
template <class Scalar, class Formula = formula>
ready_light<Scalar> make_ready(const light& given, const vec3<double>& origin = {},
                               const Formula& equations = {}) {
    ready_light<Scalar> ready;
    ready.kind = given.kind;
    ready.falloff = given.falloff;
    // An inner that equals outer leaves no room for a ramp: the penumbra is hard. So it is where the two
    // cannot be told apart in Scalar.
    const double inner_versine = equations.cone_versine(given.inner);
    const double outer_versine = equations.cone_versine(given.outer);
    ready.inner_versine = static_cast<Scalar>(inner_versine);
    ready.outer_versine = static_cast<Scalar>(outer_versine);
    const bool ramped = given.penumbra == penumbra_kind::ramp || given.penumbra == penumbra_kind::squared ||
                        given.penumbra == penumbra_kind::smooth;
    ready.penumbra =
        ramped && ready.inner_versine == ready.outer_versine ? penumbra_kind::hard : given.penumbra;
    // A cone as wide as everything has no border: rounding must not cut a hole opposite its axis.
    if (ready.penumbra == penumbra_kind::hard && given.outer >= pi) {
        ready.outer_versine = std::numeric_limits<Scalar>::infinity();
    }
    ready.position = vec3<Scalar>(given.position - origin);
    const vec3<double> axis = equations.axis(given.shines);
    ready.axis = vec3<Scalar>(axis);
    ready.to_light = vec3<Scalar>(-axis);
    ready.color = rgb<Scalar>(given.color);
    ready.intensity = static_cast<Scalar>(given.intensity);
    ready.k0 = static_cast<Scalar>(given.coefficients[0]);
    ready.k1 = static_cast<Scalar>(given.coefficients[1]);
    ready.k2 = static_cast<Scalar>(given.coefficients[2]);
    ready.range = static_cast<Scalar>(given.range);
    ready.exponent = static_cast<Scalar>(given.exponent);
    return ready;
}

// Formulas of one's own need not take 1 / d.
template <class Formula, class Real>
inline constexpr bool takes_inverse = requires(const Formula& equations, const Real& d) {
    equations.falloff_inverse_square(d, d);
};
template <class Formula, class Real>
inline constexpr bool windowed_takes_inverse = requires(const Formula& equations, const Real& d) {
    equations.falloff_windowed(d, d, d);
};

// `inverse` is 1 / d.
template <class Formula, class Real, class Law>
Real falloff_at(const ready_light<scalar_t<Real>>& light, const Real& d, const Real& inverse, const Law& law,
                const Formula& equations = {}) {
    switch (law.falloff) {
    case falloff_kind::inverse_square:
        if constexpr (takes_inverse<Formula, Real>) {
            return equations.falloff_inverse_square(d, inverse);
        } else {
            return equations.falloff_inverse_square(d);
        }
    case falloff_kind::polynomial:
        return equations.falloff_polynomial(d, Real(light.k0), Real(light.k1), Real(light.k2));
    case falloff_kind::linear:
        return equations.falloff_linear(d, Real(light.range));
    case falloff_kind::windowed:
        if constexpr (windowed_takes_inverse<Formula, Real>) {
            return equations.falloff_windowed(d, Real(light.range), inverse);
        } else {
            return equations.falloff_windowed(d, Real(light.range));
        }
    case falloff_kind::none:
        break;
    }
    return equations.falloff_none(d);
}

template <class Formula, class Real, class Law>
Real falloff_at(const ready_light<scalar_t<Real>>& light, const Real& d, const Law& law,
                const Formula& equations = {}) {
    return falloff_at<Formula>(light, d, one_over(d), law, equations);
}

template <class Formula, class Real, class Law>
Real penumbra_at(const ready_light<scalar_t<Real>>& light, const vec3<Real>& l, const Law& law,
                 const Formula& equations = {}) {
    const Real versine = equations.penumbra_versine(l, vec3<Real>(light.axis));
    const Real inner(light.inner_versine);
    const Real outer(light.outer_versine);
    switch (law.penumbra) {
    case penumbra_kind::hard:
        return equations.penumbra_hard(versine, outer);
    case penumbra_kind::ramp:
        return equations.penumbra_ramp(equations.penumbra_position(versine, inner, outer));
    case penumbra_kind::squared:
        return equations.penumbra_squared(equations.penumbra_position(versine, inner, outer));
    case penumbra_kind::smooth:
        return equations.penumbra_smooth(equations.penumbra_position(versine, inner, outer));
    case penumbra_kind::power:
        break;
    }
    return equations.penumbra_power(versine, outer, Real(light.exponent));
}

// True where a falloff is 0 if 1 / d is, which is how a distance of zero enters.
template <class Formula, class Real, class Law> constexpr bool zero_at_zero(const Law& law) {
    return (law.falloff == falloff_kind::inverse_square && takes_inverse<Formula, Real>) ||
           (law.falloff == falloff_kind::windowed && windowed_takes_inverse<Formula, Real>);
}

// E and l at a position measured from the lights' origin. A light at distance zero brings nothing. The law
// is the light's own, fixed or read.
template <class Formula, class Real, class Law>
arrival<Real> arrive(const ready_light<scalar_t<Real>>& light, const vec3<Real>& position, const Law& law,
                     const Formula& equations = {}) {
    arrival<Real> in;
    if (law.kind == light_kind::directional) {
        in.to_light = vec3<Real>(light.to_light);
        in.brightness = Real(light.intensity);
        in.distance = Real(std::numeric_limits<scalar_t<Real>>::infinity());
    } else {
        const vec3<Real> whole = vec3<Real>(light.position) - position;
        const Real squared = dot(whole, whole);
        const Real inverse = inverse_sqrt_or_zero(squared);
        const Real d = squared * inverse;
        in.distance = d;
        in.to_light = whole * inverse;
        Real factor = falloff_at<Formula>(light, d, inverse, law, equations);
        if (law.kind == light_kind::spot) {
            factor = factor * penumbra_at<Formula>(light, in.to_light, law, equations);
        }
        const Real brightness = Real(light.intensity) * factor;
        in.brightness =
            zero_at_zero<Formula, Real>(law) ? brightness : select(squared > Real(0), brightness, Real(0));
    }
    in.light = rgb<Real>(light.color) * in.brightness;
    return in;
}

template <class Formula, class Real>
arrival<Real> arrive(const ready_light<scalar_t<Real>>& light, const vec3<Real>& position) {
    return arrive<Formula>(light, position, light.law());
}

} // namespace yurvo
