// For files that write a lighting model: the number types that formulas run on, the built-in formulas and
// models, and the kernels by which the pipeline runs a model. It brings the SIMD wrapper; yurvo/yurvo.hpp,
// which uses models, does not.
#pragma once

#include <type_traits>

#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/pipeline/shading_kernel.hpp"
#include "yurvo/shading/model_numbers.hpp"
#include "yurvo/shading/models.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

template <class Model> class model_of_type final : public erased_model {
    using real = pipeline::number_of<double, Model>;
    Model model_;

    /// The same values as a model's number type has them, and back.
    template <class To, class From> static vec3<To> as(const vec3<From>& v) { return vec3<To>(v); }
    template <class To, class From> static rgb<To> as(const rgb<From>& c) { return rgb<To>(c); }
    static surface<real> as_real(const surface<double>& s) {
        return {as<real>(s.position), as<real>(s.normal),  as<real>(s.to_eye),   as<real>(s.base),
                as<real>(s.ambient),  as<real>(s.diffuse), as<real>(s.specular), real(s.shininess),
                as<real>(s.emission), as<real>(s.eye),     as<real>(s.axis),     real(s.front)};
    }
    static arrival<real> as_real(const arrival<double>& in) {
        return {as<real>(in.light), as<real>(in.to_light), real(in.brightness), real(in.distance), in.lamp};
    }

  public:
    /// Keeps a copy of the model.
    explicit model_of_type(Model model) : model_(std::move(model)) {}

    [[nodiscard]] bool needs_lights() const override { return yurvo::needs_lights<Model>; }
    [[nodiscard]] bool has_own_finish() const override { return has_finish<Model, real>; }
    [[nodiscard]] reflected<double> reflect(const surface<double>& at,
                                            const arrival<double>& in) const override {
        const reflected<real> result = model_(as_real(at), as_real(in));
        return {as<double>(result.diffuse), as<double>(result.specular)};
    }
    [[nodiscard]] outgoing<double> finish(const surface<double>& at, const reflected<double>& sum,
                                          const finish_settings<double>& settings) const override {
        const outgoing<real> result = yurvo::finish(
            model_, as_real(at),
            reflected<real>{as<real>(sum.diffuse), as<real>(sum.specular), as<real>(sum.ambient)}, settings);
        return {as<double>(result.tinted), as<double>(result.untinted)};
    }
    [[nodiscard]] std::optional<double> follows(const surface<double>& at,
                                                const arrival<double>& in) const override {
        if constexpr (has_follows<Model, real>) {
            return static_cast<double>(model_.follows(as_real(at), as_real(in)));
        } else {
            return std::nullopt;
        }
    }
    [[nodiscard]] bool equals_scene() const override {
        if constexpr (requires { Model::equals_scene; }) {
            return Model::equals_scene;
        } else {
            return false;
        }
    }
    [[nodiscard]] std::vector<std::string> number_names() const override {
        std::vector<std::string> names;
        if constexpr (has_numbers<Model>) {
            Model copy = model_;
            model_numbers numbers;
            copy.list_numbers(numbers);
            for (const model_number& each : numbers.list()) {
                names.emplace_back(each.name);
            }
        }
        return names;
    }
    [[nodiscard]] std::shared_ptr<const erased_model>
    with_numbers(const std::vector<formulas::named_number>& numbers) const override {
        Model copy = model_;
        if constexpr (has_numbers<Model>) {
            model_numbers held;
            copy.list_numbers(held);
            set_numbers(held, numbers);
        }
        return std::make_shared<const model_of_type>(std::move(copy));
    }
    [[nodiscard]] pipeline::shader<float> in_float() const override {
        return pipeline::make_shader<formula, float>(model_);
    }
    [[nodiscard]] std::optional<model_kind> equals() const override {
        if constexpr (requires { Model::equals; }) {
            return Model::equals;
        } else {
            return std::nullopt;
        }
    }
};

namespace detail {
template <class> inline constexpr bool never = false;
}

/// A type that is no model is refused in words.
template <class Model>
requires(std::is_class_v<Model> && !lighting_model<Model> && !std::is_convertible_v<Model, any_model> &&
         !std::is_convertible_v<Model, draw_settings>) picture
    draw(const scene& /*of*/, const Model& /*model*/, rate /*at*/ = rate::fragment,
         const draw_settings& /*settings*/ = {}, draw_statistics* /*statistics*/ = nullptr) {
    static_assert(detail::never<Model>,
                  "This is no lighting model. A model is called with (const surface<Real>&, const "
                  "arrival<Real>&) and returns reflected<Real>, for every Real: make its call operator a "
                  "template over Real.");
    return {};
}

namespace pipeline {

/// Draws with a built-in model whose shader is made by the caller; what draw_with() and its kind share.
template <class Scalar>
picture draw_with_shader(const scene& the_scene, const shader<Scalar>& with, const draw_settings& settings,
                         draw_statistics* statistics);
/// Draws with a kernel of floats; see draw().
extern template picture draw_with_shader(const scene&, const shader<float>&, const draw_settings&,
                                         draw_statistics*);
/// Draws with a kernel of doubles; see draw().
extern template picture draw_with_shader(const scene&, const shader<double>&, const draw_settings&,
                                         draw_statistics*);

/// Calls use(model) with the built-in model of that kind, its equations those of Formula.
template <class Formula, class Use> auto with_model(const shading_choice& shading, Use&& use) {
    switch (shading.model) {
    case model_kind::unlit:
        return use(unlit{});
    case model_kind::lambert:
        return use(lambert<Formula>{});
    case model_kind::phong:
        return use(phong<Formula>{});
    case model_kind::cel:
        return use(cel<Formula>(&shading.cel));
    case model_kind::blinn_phong:
        break;
    }
    return use(blinn_phong<Formula>{});
}

} // namespace pipeline

/// The scene with its own model and rate, but Formula in the place of the built-in equations (see formula).
/// Scalar is the number in which surfaces are lit. Throws yurvo::error where the scene is not valid.
template <class Formula, class Scalar = float>
picture draw_with(const scene& the_scene, const draw_settings& settings = {},
                  draw_statistics* statistics = nullptr) {
    return pipeline::with_model<Formula>(the_scene.shading, [&](const auto& model) {
        return pipeline::draw_with_shader(the_scene, pipeline::make_shader<Formula, Scalar>(model), settings,
                                          statistics);
    });
}

/// The pipeline with Formula in the place of the built-in equations, as a renderer.
template <class Formula> class formula_renderer final : public renderer {
  public:
    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings = {},
                               draw_statistics* statistics = nullptr) const override {
        return draw_with<Formula>(the_scene, settings, statistics);
    }
    /// Its equations are what is to be looked at: formulas of the scene's own would stand in their places.
    [[nodiscard]] fitted_scene fit(const scene& the_scene) const override {
        fitted_scene result{the_scene, {}, ""};
        result.fitted->formulas = {};
        return result;
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
