// What a light is: plain values, in world space, angles in radians.
#pragma once

#include <array>
#include <cstdint>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/shading/falloff_list.hpp"
#include "yurvo/shading/penumbra_list.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Light from one direction, from a place all around, from a place into a cone.
enum class light_kind : std::uint8_t { directional, point, spot };

/// What a light's ambient part falls off with: its falloff and penumbra, its falloff alone, or nothing.
enum class ambient_follows : std::uint8_t { cone, distance, nothing };

/// A light as it is described. What a kind, falloff or penumbra does not use is ignored.
struct light {
    light_kind kind = light_kind::point; ///< directional, point or spot
    vec3<double> position;               ///< metres; point and spot
    vec3<double> shines{0, -1, 0};       ///< the direction in which light travels, any length but zero
    rgb<double> color{1, 1, 1};          ///< ≥ 0
    double intensity = 1;                ///< ≥ 0
    falloff_kind falloff = falloff_kind::inverse_square; ///< over distance; not of a directional light
    /// k0, k1, k2 of `polynomial`; ≥ 0, not all 0. All 0: none were given.
    std::array<double, 3> coefficients{0, 0, 0};
    double range = 0; ///< metres, > 0; `linear` and `windowed`. 0: none was given.
    penumbra_kind penumbra = penumbra_kind::smooth; ///< over the angle in the cone; of a spot
    double inner = 0;                               ///< radians, half-angle; 0 ≤ inner ≤ outer
    double outer = pi;   ///< radians, half-angle; 0 < outer ≤ π (≤ π/2 for `power`)
    double exponent = 0; ///< > 0; `power`. 0: none was given.
    /// The light's parts: its share of each term, beside its colour. ≥ 0.
    ///@{
    rgb<double> ambient{0, 0, 0}, diffuse{1, 1, 1}, specular{1, 1, 1};
    ///@}
    ambient_follows follows = ambient_follows::cone; ///< what its ambient part falls off with

    friend bool operator==(const light&, const light&) = default;
};

/// The light has an ambient part.
inline bool has_ambient(const light& lamp) { return lamp.ambient != rgb<double>{}; }
/// The light has parts of its own: they are not 0, 1 and 1.
inline bool has_parts(const light& lamp) {
    return has_ambient(lamp) || lamp.diffuse != rgb<double>(1.0) || lamp.specular != rgb<double>(1.0);
}

/// The coefficients that formulas and shaders see of a light: those it was given, or those of its falloff.
inline std::array<double, 3> coefficients_of(const light& lamp) {
    if (lamp.kind == light_kind::directional) {
        return {1, 0, 0};
    }
    const falloff_descriptor& falloff = descriptor_of(lamp.falloff);
    const bool given = lamp.coefficients != std::array<double, 3>{};
    return given || falloff.coefficients ? lamp.coefficients : falloff.fixed_coefficients;
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
