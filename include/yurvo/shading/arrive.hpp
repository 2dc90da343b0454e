// arrive: what one light brings to a point.
#pragma once

#include <limits>

#include "yurvo/shading/formula.hpp"
#include "yurvo/shading/ready_light.hpp"
#include "yurvo/shading/surface.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// `origin` is the point, in world space, from which the surfaces' positions are measured.
template <class Scalar, class Formula = formula>
ready_light<Scalar> make_ready(const light& lamp, const vec3<double>& origin = {},
                               const Formula& equations = {}) {
    ready_light<Scalar> ready;
    ready.kind = lamp.kind;
    ready.falloff = lamp.falloff;
    // An inner that equals outer leaves no room for a ramp: the penumbra is hard. So it is where the two
    // cannot be told apart in Scalar.
    const double inner_versine = equations.cone_versine(lamp.inner);
    const double outer_versine = equations.cone_versine(lamp.outer);
    ready.inner_versine = static_cast<Scalar>(inner_versine);
    ready.outer_versine = static_cast<Scalar>(outer_versine);
    const bool ramped = descriptor_of(lamp.penumbra).ramped;
    ready.penumbra =
        ramped && ready.inner_versine == ready.outer_versine ? penumbra_kind::hard : lamp.penumbra;
    // A cone as wide as everything has no border: rounding must not cut a hole opposite its axis.
    if (ready.penumbra == penumbra_kind::hard && lamp.outer >= pi) {
        ready.outer_versine = std::numeric_limits<Scalar>::infinity();
    }
    ready.position = vec3<Scalar>(lamp.position - origin);
    const vec3<double> axis = equations.axis(lamp.shines);
    ready.axis = vec3<Scalar>(axis);
    ready.to_light = vec3<Scalar>(-axis);
    ready.color = rgb<Scalar>(lamp.color);
    ready.intensity = static_cast<Scalar>(lamp.intensity);
    ready.k0 = static_cast<Scalar>(lamp.coefficients[0]);
    ready.k1 = static_cast<Scalar>(lamp.coefficients[1]);
    ready.k2 = static_cast<Scalar>(lamp.coefficients[2]);
    ready.range = static_cast<Scalar>(lamp.range);
    ready.exponent = static_cast<Scalar>(lamp.exponent);
    ready.ambient = rgb<Scalar>(lamp.color * lamp.intensity * lamp.ambient);
    ready.diffuse = rgb<Scalar>(lamp.diffuse);
    ready.specular = rgb<Scalar>(lamp.specular);
    ready.whole = lamp.diffuse == rgb<double>(1.0) && lamp.specular == rgb<double>(1.0);
    ready.follows = lamp.follows;
    const std::array<double, 3> coefficients = coefficients_of(lamp);
    ready.coefficients = vec3<Scalar>(vec3<double>{coefficients[0], coefficients[1], coefficients[2]});
    if (lamp.kind != light_kind::directional) {
        ready.seen_range = static_cast<Scalar>(lamp.range);
    }
    if (lamp.kind == light_kind::spot) {
        ready.inner = static_cast<Scalar>(lamp.inner);
        ready.outer = static_cast<Scalar>(lamp.outer);
        ready.cos_inner = static_cast<Scalar>(1 - inner_versine);
        ready.cos_outer = static_cast<Scalar>(1 - outer_versine);
        ready.seen_exponent = static_cast<Scalar>(lamp.exponent);
    }
    return ready;
}

/// `inverse` is 1 / d. The law is the light's own, fixed or read.
template <class Formula, class Real, class Law>
Real falloff_at(const ready_light<scalar_t<Real>>& light, const Real& d, const Real& inverse, const Law& law,
                const Formula& equations = {}) {
    Real factor{};
    with_falloff(law,
                 [&](auto kind) { factor = falloff_equation<kind()>::at(equations, light, d, inverse); });
    return factor;
}

/// The light's falloff at a distance of d metres.
template <class Formula, class Real, class Law>
Real falloff_at(const ready_light<scalar_t<Real>>& light, const Real& d, const Law& law,
                const Formula& equations = {}) {
    return falloff_at<Formula>(light, d, one_over(d), law, equations);
}

/// The light's penumbra for a unit vector l towards it.
template <class Formula, class Real, class Law>
Real penumbra_at(const ready_light<scalar_t<Real>>& light, const vec3<Real>& l, const Law& law,
                 const Formula& equations = {}) {
    const Real versine = equations.penumbra_versine(l, vec3<Real>(light.axis));
    Real factor{};
    with_penumbra(law, [&](auto kind) { factor = penumbra_equation<kind()>::at(equations, light, versine); });
    return factor;
}

/// Whether a light's falloff is 0 at a distance of 0.
template <class Formula, class Real, class Law> constexpr bool zero_at_zero(const Law& law) {
    bool zero = false;
    with_falloff(law, [&](auto kind) { zero = zero_with_inverse<kind(), Formula, Real>(); });
    return zero;
}

/// E and l at a position measured from the lights' origin. A light at distance zero brings nothing.
template <class Formula, class Real, class Law>
arrival<Real> arrive(const ready_light<scalar_t<Real>>& light, const vec3<Real>& position, const Law& law,
                     const Formula& equations = {}) {
    arrival<Real> in;
    in.lamp = &light;
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

/// What the light's parts leave of what a model makes the surface reflect.
template <class Real>
reflected<Real> of_parts(const ready_light<scalar_t<Real>>& light, const reflected<Real>& whole) {
    return {whole.diffuse * rgb<Real>(light.diffuse), whole.specular * rgb<Real>(light.specular),
            whole.ambient};
}

/// The light's ambient part at a position: color · intensity · part · F. None at distance zero.
template <class Formula, class Real, class Law>
rgb<Real> ambient_of(const ready_light<scalar_t<Real>>& light, const vec3<Real>& position, const Law& law,
                     const Formula& equations = {}) {
    const rgb<Real> whole(light.ambient);
    if (law.kind == light_kind::directional) {
        return whole;
    }
    const vec3<Real> to_light = vec3<Real>(light.position) - position;
    const Real squared = dot(to_light, to_light);
    const Real inverse = inverse_sqrt_or_zero(squared);
    Real factor(1);
    if (light.follows != ambient_follows::nothing) {
        factor = falloff_at<Formula>(light, squared * inverse, inverse, law, equations);
    }
    if (light.follows == ambient_follows::cone && law.kind == light_kind::spot) {
        factor = factor * penumbra_at<Formula>(light, to_light * inverse, law, equations);
    }
    return whole * select(squared > Real(0), factor, Real(0));
}

/// What of a light arrives at a position, and from where.
template <class Formula, class Real>
arrival<Real> arrive(const ready_light<scalar_t<Real>>& light, const vec3<Real>& position) {
    return arrive<Formula>(light, position, light.law());
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
