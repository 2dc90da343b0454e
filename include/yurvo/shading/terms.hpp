// The terms: what ambient, diffuse and specular light do at a point with unit normal n, unit l towards the
// light and unit v towards the eye.
#pragma once

#include "yurvo/numeric/functions.hpp"
#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The terms of a model, each one equation.
struct term_formulas {
    /// What is left of a normal between vertices: its direction. The length shrinks on the way.
    template <class Real> static vec3<Real> interpolated_normal(const vec3<Real>& n) { return normalize(n); }

    /// v, from the surface to the eye.
    template <class Real> static vec3<Real> to_eye(const vec3<Real>& position, const vec3<Real>& eye) {
        return normalize(eye - position);
    }

    /// Lambert 1760: max(n·l, 0).
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        return max(dot(n, l), Real(0));
    }

    /// r = 2(n·l)n − l
    template <class Real> static vec3<Real> reflect(const vec3<Real>& n, const vec3<Real>& l) {
        return Real(2) * dot(n, l) * n - l;
    }

    /// h = normalize(l + v)
    template <class Real> static vec3<Real> half(const vec3<Real>& l, const vec3<Real>& v) {
        return normalize(l + v);
    }

    /// Phong 1975: max(r·v, 0)^shininess.
    template <class Real>
    static Real phong_highlight(const vec3<Real>& r, const vec3<Real>& v, const Real& shininess) {
        return cosine_power(versine(r, v), shininess);
    }

    /// Blinn 1977: max(n·h, 0)^shininess. Where l = −v there is no half vector, and n·h is 0.
    template <class Real>
    static Real blinn_phong_highlight(const vec3<Real>& n, const vec3<Real>& h, const Real& shininess) {
        return select(has_direction(h), cosine_power(versine(n, h), shininess), Real(0));
    }

    /// The highlight only where the light is in front of the surface: n·l > 0.
    template <class Real> static Real gate(const vec3<Real>& n, const vec3<Real>& l, const Real& highlight) {
        return select(dot(n, l) > Real(0), highlight, Real(0));
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
