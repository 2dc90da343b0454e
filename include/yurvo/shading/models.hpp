// The models: what one light does at one point, and how the terms are put together.
//
// A model is any type whose call operator takes a surface and an arrival and returns what is reflected, for
// every Real. It may have its own finish(); without one, ambient, base, the material's factors and emission
// are added for it by finish_terms().
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <string_view>
#include <vector>

#include "yurvo/numeric/unqualified.hpp"
#include "yurvo/shading/formula.hpp"
#include "yurvo/shading/surface.hpp"

namespace yurvo {

enum class model_kind : std::uint8_t { unlit, lambert, phong, blinn_phong, cel };
enum class ambient_rule : std::uint8_t { add, max };

// Which terms are summed; a term left out contributes zero.
struct term_choice {
    bool ambient = true, diffuse = true, specular = true, emission = true;

    friend bool operator==(const term_choice&, const term_choice&) = default;
};

// How the terms are put together, the same for every point of a picture.
template <class Scalar> struct finish_settings {
    rgb<Scalar> ambient_light; // ambient.color · ambient.strength
    ambient_rule rule = ambient_rule::add;
    term_choice terms;
};

// ambient + diffuse (or the greater of the two), tinted by base; specular and emission on top.
template <class Real>
outgoing<Real> finish_terms(const surface<Real>& s, const reflected<Real>& sum,
                            const finish_settings<scalar_t<Real>>& settings) {
    const rgb<Real> none(Real(0));
    const rgb<Real> ambient = settings.terms.ambient ? rgb<Real>(settings.ambient_light) * s.ambient : none;
    const rgb<Real> diffuse = settings.terms.diffuse ? sum.diffuse * s.diffuse : none;
    const rgb<Real> both = settings.rule == ambient_rule::max ? max(ambient, diffuse) : ambient + diffuse;
    rgb<Real> untinted = settings.terms.specular ? sum.specular * s.specular : none;
    if (settings.terms.emission) {
        untinted = untinted + s.emission;
    }
    return {both * s.base, untinted};
}

// The base colour, whatever the lights.
struct unlit {
    static constexpr bool needs_lights = false;
    template <class Real> reflected<Real> operator()(const surface<Real>&, const arrival<Real>&) const {
        return {};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>&,
                          const finish_settings<scalar_t<Real>>&) const {
        return {s.base, {}};
    }
};

// What a model may promise, so that lights are left out where they change nothing: a light of brightness 0
// makes it reflect exactly nothing, and so does one behind the surface, n·l ≤ 0.
struct lit_from_the_front {
    static constexpr bool dark_adds_nothing = true;
    static constexpr bool behind_adds_nothing = true;
};

template <class Formula = formula> struct lambert : lit_from_the_front {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * Formula::diffuse_cosine(s.normal, in.to_light), {}};
    }
};

template <class Formula = formula> struct phong : lit_from_the_front {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const vec3<Real> r = Formula::reflect(s.normal, in.to_light);
        const Real highlight = Formula::phong_highlight(r, s.to_eye, s.shininess);
        return {in.light * Formula::diffuse_cosine(s.normal, in.to_light),
                in.light * Formula::gate(s.normal, in.to_light, highlight)};
    }
};

template <class Formula = formula> struct blinn_phong : lit_from_the_front {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const vec3<Real> h = Formula::half(in.to_light, s.to_eye);
        const Real highlight = Formula::blinn_phong_highlight(s.normal, h, s.shininess);
        return {in.light * Formula::diffuse_cosine(s.normal, in.to_light),
                in.light * Formula::gate(s.normal, in.to_light, highlight)};
    }
};

// Flat bands of the base colour, chosen by how much light falls on the surface; an outline where it turns
// away. Per fragment only.
struct cel_settings {
    std::vector<double> thresholds{0.3, 0.8}; // strictly ascending
    std::vector<rgb<double>> bands{rgb<double>(0.2), rgb<double>(0.6),
                                   rgb<double>(1.0)}; // one more than those
    double outline = 0.2;                             // where n·v is less
    rgb<double> outline_color{0, 0, 0};

    friend bool operator==(const cel_settings&, const cel_settings&) = default;
};

template <class Formula = formula> struct cel : lit_from_the_front {
    const cel_settings* settings;

    explicit cel(const cel_settings* given) : settings(given) {}

    // The light's share of the gradient, in every component of diffuse.
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {rgb<Real>(in.brightness * Formula::diffuse_cosine(s.normal, in.to_light)), {}};
    }

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

template <class Model>
inline constexpr bool needs_lights = [] {
    if constexpr (requires { Model::needs_lights; }) {
        return Model::needs_lights;
    } else {
        return true;
    }
}();

// A lighting model: callable with a surface and an arrival of float and of double, giving what is reflected.
// The call operator has to be a template over Real, so that one formula serves both, and batches.
template <class Model>
concept lighting_model = requires(const Model& model, const surface<float>& s, const arrival<float>& in) {
    { model(s, in) } -> std::same_as<reflected<float>>;
}
&&requires(const Model& model, const surface<double>& s, const arrival<double>& in) {
    { model(s, in) } -> std::same_as<reflected<double>>;
};

// True where a model puts its terms together itself, for that Real.
template <class Model, class Real>
concept has_finish = requires(const Model& model, const surface<Real>& s, const reflected<Real>& sum,
                              const finish_settings<scalar_t<Real>>& settings) {
    model.finish(s, sum, settings);
};

// The model's own finish, or the sum of the terms.
template <class Model, class Real>
outgoing<Real> finish(const Model& model, const surface<Real>& s, const reflected<Real>& sum,
                      const finish_settings<scalar_t<Real>>& settings) {
    if constexpr (has_finish<Model, Real>) {
        return model.finish(s, sum, settings);
    } else {
        return finish_terms(s, sum, settings);
    }
}

} // namespace yurvo
