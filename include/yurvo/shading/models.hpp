// The built-in models: what one light does at one point. Their equations are those of Formula.
#pragma once

#include "yurvo/shading/formula.hpp"
#include "yurvo/shading/model.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The base colour, whatever the lights.
struct unlit {
    static constexpr bool needs_lights = false; ///< it is not lit
    /// Nothing.
    template <class Real> reflected<Real> operator()(const surface<Real>&, const arrival<Real>&) const {
        return {};
    }
    /// The base colour, and emission.
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>&,
                          const finish_settings<scalar_t<Real>>&) const {
        return {s.base, {}};
    }
};

/// What a model may promise, so that lights are left out where they change nothing: a light of brightness 0
/// makes it reflect exactly nothing, and so does one behind the surface, n·l ≤ 0.
struct lit_from_the_front {
    static constexpr bool dark_adds_nothing = true;   ///< no light, no colour
    static constexpr bool behind_adds_nothing = true; ///< nothing from behind
};

/// max(n·l, 0) of each light (Lambert 1760), and no highlight.
template <class Formula = formula> struct lambert : lit_from_the_front {
    [[no_unique_address]] Formula equations{}; ///< may be replaced, each by name

    /// What one light does at one point.
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * equations.diffuse_cosine(s.normal, in.to_light), {}};
    }
};

/// Lambert's diffuse term and max(r·v, 0)^shininess (Phong 1975).
template <class Formula = formula> struct phong : lit_from_the_front {
    [[no_unique_address]] Formula equations{}; ///< may be replaced, each by name

    /// What one light does at one point.
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const vec3<Real> r = equations.reflect(s.normal, in.to_light);
        const Real highlight = equations.phong_highlight(r, s.to_eye, s.shininess);
        return {in.light * equations.diffuse_cosine(s.normal, in.to_light),
                in.light * equations.gate(s.normal, in.to_light, highlight)};
    }
};

/// Lambert's diffuse term and max(n·h, 0)^shininess (Blinn 1977).
template <class Formula = formula> struct blinn_phong : lit_from_the_front {
    [[no_unique_address]] Formula equations{}; ///< may be replaced, each by name

    /// What one light does at one point.
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const vec3<Real> h = equations.half(in.to_light, s.to_eye);
        const Real highlight = equations.blinn_phong_highlight(s.normal, h, s.shininess);
        return {in.light * equations.diffuse_cosine(s.normal, in.to_light),
                in.light * equations.gate(s.normal, in.to_light, highlight)};
    }
};

/// Flat bands of the base colour, chosen by how much light falls on the surface; an outline where it turns
/// away. Per fragment only.
template <class Formula = formula> struct cel : lit_from_the_front {
    static constexpr bool takes_parts = false; ///< its bands are of the sum
    const cel_settings* settings;              ///< not null; outlives the model
    [[no_unique_address]] Formula equations{}; ///< may be replaced, each by name

    /// Settings that outlive the model.
    explicit cel(const cel_settings* thresholds) : settings(thresholds) {}

    /// The light's share of the gradient, in every component of diffuse.
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {rgb<Real>(in.brightness * equations.diffuse_cosine(s.normal, in.to_light)), {}};
    }

    /// The band of the sum, and the outline.
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>& sum,
                          const finish_settings<scalar_t<Real>>&) const {
        using scalar = scalar_t<Real>;
        const Real gradient = clamp(sum.diffuse.r, Real(0), Real(1));
        rgb<Real> band(rgb<scalar>(settings->bands[0]));
        for (std::size_t i = 0; i < settings->thresholds.size(); ++i) {
            const Real threshold(static_cast<scalar>(settings->thresholds[i]));
            band = select(threshold <= gradient, rgb<Real>(rgb<scalar>(settings->bands[i + 1])), band);
        }
        const auto outlined = dot(s.normal, s.to_eye) < Real(static_cast<scalar>(settings->outline));
        const rgb<Real> line(rgb<scalar>(settings->outline_color));
        return {select(outlined, rgb<Real>(Real(0)), band * s.base),
                select(outlined, line, rgb<Real>(Real(0)))};
    }
};

/// The models with the built-in equations.
namespace built_in {
using unlit = yurvo::unlit;               ///< under its own equations
using lambert = yurvo::lambert<>;         ///< under its own equations
using phong = yurvo::phong<>;             ///< under its own equations
using blinn_phong = yurvo::blinn_phong<>; ///< under its own equations
using cel = yurvo::cel<>;                 ///< under its own equations
} // namespace built_in

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
