// ready_light: a light made ready for many points.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/shading/law.hpp"
#include "yurvo/shading/light.hpp"

namespace yurvo {

/// A light made ready for many points: what does not depend on the point is worked out once, in double, and
/// rounded once.
template <class Scalar> struct ready_light {
    light_kind kind{};
    falloff_kind falloff{};
    penumbra_kind penumbra{};
    vec3<Scalar> position; ///< metres, from the same origin as the surfaces'
    vec3<Scalar> to_light; ///< directional: unit
    vec3<Scalar> axis;     ///< spot: unit
    rgb<Scalar> color;
    Scalar intensity{};
    Scalar k0{}, k1{}, k2{};
    Scalar range{};
    Scalar inner_versine{}, outer_versine{};
    Scalar exponent{};
    rgb<Scalar> ambient; ///< color · intensity · the ambient part
    rgb<Scalar> diffuse{1, 1, 1}, specular{1, 1, 1};
    bool whole = true; ///< the diffuse and the specular part are 1
    ambient_follows follows{};
    /// What formulas of one's own see of it besides; 0 where the light has none, a cosine 1.
    Scalar seen_range{}, inner{}, outer{}, cos_inner{1}, cos_outer{1}, seen_exponent{};
    vec3<Scalar> coefficients{1, 0, 0};

    [[nodiscard]] read_law law() const { return {kind, falloff, penumbra}; }
};

} // namespace yurvo
