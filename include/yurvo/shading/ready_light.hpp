// ready_light: a light made ready for many points.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/shading/law.hpp"
#include "yurvo/shading/light.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A light made ready for many points: what does not depend on the point is worked out once, in double, and
/// rounded once.
template <class Scalar> struct ready_light {
    light_kind kind{};                               ///< directional, point or spot
    falloff_kind falloff{};                          ///< over distance
    penumbra_kind penumbra{};                        ///< over the angle in the cone
    vec3<Scalar> position;                           ///< metres, from the same origin as the surfaces'
    vec3<Scalar> to_light;                           ///< directional: unit
    vec3<Scalar> axis;                               ///< spot: unit
    rgb<Scalar> color;                               ///< color · intensity
    Scalar intensity{};                              ///< as given
    Scalar k0{}, k1{}, k2{};                         ///< of the polynomial falloff
    Scalar range{};                                  ///< metres; of linear and windowed
    Scalar inner_versine{}, outer_versine{};         ///< 1 − cos of the half-angles
    Scalar exponent{};                               ///< of the power penumbra
    rgb<Scalar> ambient;                             ///< color · intensity · the ambient part
    rgb<Scalar> diffuse{1, 1, 1}, specular{1, 1, 1}; ///< the parts, factors
    bool whole = true;                               ///< the diffuse and the specular part are 1
    ambient_follows follows{};                       ///< what its ambient part falls off with
    /// What formulas of one's own see of it besides; 0 where the light has none, a cosine 1.
    ///@{
    Scalar seen_range{}, inner{}, outer{}, cos_inner{1}, cos_outer{1}, seen_exponent{};
    ///@}
    vec3<Scalar> coefficients{1, 0, 0}; ///< k0, k1, k2

    /// Which loop lights by it.
    [[nodiscard]] read_law law() const { return {kind, falloff, penumbra}; }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
