// model: what a lighting model is.
//
// A model is any type whose call operator takes a surface and an arrival and returns what is reflected, for
// every Real. It may have its own finish(); without one, ambient, base, the material's factors and emission
// are added for it by finish_terms().
#pragma once

#include <concepts>

#include "yurvo/numeric/number.hpp"
#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/surface.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// ambient + diffuse (or the greater of the two), tinted by base; specular and emission on top.
template <class Real>
outgoing<Real> finish_terms(const surface<Real>& s, const reflected<Real>& sum,
                            const finish_settings<scalar_t<Real>>& settings) {
    const rgb<Real> none(Real(0));
    const rgb<Real> ambient =
        settings.terms.ambient ? (rgb<Real>(settings.ambient_light) + sum.ambient) * s.ambient : none;
    const rgb<Real> diffuse = settings.terms.diffuse ? sum.diffuse * s.diffuse : none;
    const rgb<Real> both = settings.rule == ambient_rule::max ? max(ambient, diffuse) : ambient + diffuse;
    rgb<Real> untinted = settings.terms.specular ? sum.specular * s.specular : none;
    if (settings.terms.emission) {
        untinted = untinted + s.emission;
    }
    return {both * s.base, untinted};
}

/// Whether a model looks at lights at all.
template <class Model>
inline constexpr bool needs_lights = [] {
    if constexpr (requires { Model::needs_lights; }) {
        return Model::needs_lights;
    } else {
        return true;
    }
}();

/// Whether the parts of lights weigh what a model makes of each: those that have no terms take none.
template <class Model>
inline constexpr bool takes_parts = [] {
    if constexpr (requires { Model::takes_parts; }) {
        return Model::takes_parts;
    } else {
        return needs_lights<Model>;
    }
}();

/// Whether a model asks where the eye is, along what it looks and which way a triangle faces.
template <class Model>
concept asks_for_place = requires {
    requires Model::asks_for_place;
};

/// Whether a model says itself what lights' ambient parts fall off with: follows(surface, arrival), a factor.
template <class Model, class Real>
concept has_follows = requires(const Model& model, const surface<Real>& s, const arrival<Real>& in) {
    { model.follows(s, in) } -> std::same_as<Real>;
};

/// A lighting model: callable with a surface and an arrival of float and of double, giving what is reflected.
/// The call operator has to be a template over Real, so that one formula serves both, and batches.
template <class Model>
concept lighting_model = std::copy_constructible<Model> &&
    requires(const Model& model, const surface<number<float>>& s, const arrival<number<float>>& in) {
    { model(s, in) } -> std::same_as<reflected<number<float>>>;
} && requires(const Model& model, const surface<number<double>>& s, const arrival<number<double>>& in) {
    { model(s, in) } -> std::same_as<reflected<number<double>>>;
};

/// True where a model puts its terms together itself, for that Real.
template <class Model, class Real>
concept has_finish = requires(const Model& model, const surface<Real>& s, const reflected<Real>& sum,
                              const finish_settings<scalar_t<Real>>& settings) {
    model.finish(s, sum, settings);
};

/// The model's own finish, or the sum of the terms.
template <class Model, class Real>
outgoing<Real> finish(const Model& model, const surface<Real>& s, const reflected<Real>& sum,
                      const finish_settings<scalar_t<Real>>& settings) {
    if constexpr (has_finish<Model, Real>) {
        return model.finish(s, sum, settings);
    } else {
        return finish_terms(s, sum, settings);
    }
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
