// mistaken_formula: the equations of lighting with those replaced that a set of mistakes gets wrong. All that
// is right is the built-in formula's own.
#pragma once

#include <algorithm>
#include <cmath>

#include "yurvo/shading/formula.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::verify {

struct mistaken_formula : formula {
    mistake_set wrong;
    bool all_unit = true;            // every vector that the equations take for unit is
    bool ends_at_one = false;        // cosines do, those of vectors that are too long
    explained_light* told = nullptr; // gets the numbers of a highlight; or null

    [[nodiscard]] bool has(mistake which) const { return wrong.has(which); }

    // Falloff.
    [[nodiscard]] double falloff_inverse_square(double d, double inverse) const {
        return has(mistake::falloff_not_squared) ? inverse : formula::falloff_inverse_square(d, inverse);
    }
    [[nodiscard]] double falloff_polynomial(double d, double k0, double k1, double k2) const {
        return has(mistake::falloff_not_squared) ? 1 / (k0 + k1 * d + k2 * d)
                                                 : formula::falloff_polynomial(d, k0, k1, k2);
    }
    [[nodiscard]] double falloff_windowed(double d, double range, double inverse) const {
        const double right = formula::falloff_windowed(d, range, inverse);
        return has(mistake::falloff_not_squared) ? right * d : right;
    }

    // The cone.
    [[nodiscard]] double penumbra_versine(const vec3<double>& l, const vec3<double>& axis) const {
        const double right = all_unit ? formula::penumbra_versine(l, axis) : 1 + dot(l, axis);
        return has(mistake::cone_axis_flipped) ? 2 - right : right;
    }
    [[nodiscard]] double penumbra_position(double theta, double inner, double outer) const {
        return has(mistake::cone_inner_outer_swapped) ? formula::penumbra_position(theta, outer, inner)
                                                      : formula::penumbra_position(theta, inner, outer);
    }
    [[nodiscard]] double penumbra_power(double theta, double outer, double exponent) const {
        if (all_unit) {
            return formula::penumbra_power(theta, outer, exponent);
        }
        return theta <= outer ? power(1 - theta, exponent) : 0;
    }

    // The terms.
    [[nodiscard]] double diffuse_cosine(const vec3<double>& n, const vec3<double>& l) const {
        return has(mistake::cosine_not_clamped) ? dot(n, l) : ended(formula::diffuse_cosine(n, l));
    }
    [[nodiscard]] vec3<double> half(const vec3<double>& l, const vec3<double>& v) const {
        return has(mistake::half_not_normalized) ? (l + v) * 0.5 : formula::half(l, v);
    }
    [[nodiscard]] vec3<double> reflect(const vec3<double>& n, const vec3<double>& l) const {
        const vec3<double> right = formula::reflect(n, l);
        return has(mistake::specular_reflect_flipped) ? -right : right;
    }
    [[nodiscard]] double phong_highlight(const vec3<double>& r, const vec3<double>& v,
                                         double shininess) const {
        tell_cosine(dot(r, v));
        return all_unit ? formula::phong_highlight(r, v, shininess) : power(ended(dot(r, v)), shininess);
    }
    [[nodiscard]] double blinn_phong_highlight(const vec3<double>& n, const vec3<double>& h,
                                               double shininess) const {
        tell_cosine(dot(n, h));
        return all_unit ? formula::blinn_phong_highlight(n, h, shininess)
                        : power(ended(dot(n, h)), shininess);
    }
    [[nodiscard]] double gate(const vec3<double>& n, const vec3<double>& l, double highlight) const {
        double result = has(mistake::specular_on_unlit_side) ? highlight : formula::gate(n, l, highlight);
        if (has(mistake::specular_times_cosine)) {
            result *= dot(n, l);
        }
        if (told != nullptr) {
            told->highlight = result;
        }
        return result;
    }

  private:
    // The greatest power that is carried on: that of a vector by far too long. A product with zero must stay
    // zero.
    static constexpr double most_power = 1e30;
    static double power(double cosine, double exponent) {
        return cosine > 0 ? std::min(std::pow(cosine, exponent), most_power) : 0;
    }
    [[nodiscard]] double ended(double cosine) const {
        return ends_at_one && !all_unit ? std::min(cosine, 1.0) : cosine;
    }
    void tell_cosine(double cosine) const {
        if (told != nullptr) {
            told->highlight_cosine = cosine;
        }
    }
};

} // namespace yurvo::inline v0_1::verify
