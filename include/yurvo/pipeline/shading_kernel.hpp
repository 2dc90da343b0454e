// shading_kernel: a model run over blocks of points, many of one material shaded together, attribute by
// attribute, light by light. For files that write a model (yurvo/model.hpp) and the pipeline itself.
#pragma once

#include <array>
#include <cstddef>
#include <type_traits>
#include <typeinfo>

#include "yurvo/numeric/four.hpp"
#include "yurvo/pipeline/shading_block.hpp"
#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

/// Under a sanitizer one loop that reads the law serves, and formulas stay calls: every law's own loop with
/// all its checks inlined keeps the compiler busy for a quarter of an hour a file.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
#define YURVO_FLATTENED
#else
#define YURVO_FLATTENED [[gnu::flatten]]
#endif

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr bool loop_for_each_law = false;
#else
/// Whether each law of a light has a loop of its own, so that nothing is decided per point.
inline constexpr bool loop_for_each_law = true;
#endif

/// Numbers of a block from i on, as many as a Real has lanes.
template <class Real> vec3<Real> load_vector(const lane3<scalar_t<Real>>& from, std::size_t i) {
    return {load_lanes<Real>(&from.x[i]), load_lanes<Real>(&from.y[i]), load_lanes<Real>(&from.z[i])};
}
/// Of points i and following.
template <class Real> rgb<Real> load_color(const lane3<scalar_t<Real>>& from, std::size_t i) {
    return {load_lanes<Real>(&from.x[i]), load_lanes<Real>(&from.y[i]), load_lanes<Real>(&from.z[i])};
}
/// To points i and following.
template <class Real> void store(lane3<scalar_t<Real>>& to, std::size_t i, const vec3<Real>& v) {
    store_lanes(&to.x[i], v.x);
    store_lanes(&to.y[i], v.y);
    store_lanes(&to.z[i], v.z);
}
/// To points i and following.
template <class Real> void store(lane3<scalar_t<Real>>& to, std::size_t i, const rgb<Real>& c) {
    store_lanes(&to.x[i], c.r);
    store_lanes(&to.y[i], c.g);
    store_lanes(&to.z[i], c.b);
}

/// Points i, i + 1, ... of a block, as many as a Real has lanes, with what they share. `own_base` is the
/// block's. (What a loop reads at every point it keeps copies of: a batch that is stored might be anything
/// that is read.)
template <class Real>
surface<Real> surface_at(const block<scalar_t<Real>>& points, std::size_t i, bool own_base,
                         const surface<scalar_t<Real>>& material) {
    surface<Real> s;
    s.position = load_vector<Real>(points.position, i);
    s.normal = load_vector<Real>(points.normal, i);
    s.to_eye = load_vector<Real>(points.to_eye, i);
    s.base = own_base ? load_color<Real>(points.base, i) : rgb<Real>(material.base);
    s.ambient = rgb<Real>(material.ambient);
    s.diffuse = rgb<Real>(material.diffuse);
    s.specular = rgb<Real>(material.specular);
    s.shininess = Real(material.shininess);
    s.emission = rgb<Real>(material.emission);
    return s;
}

/// The same, with its place where the model asks for it.
template <class Model, class Real>
void place_surface(surface<Real>& s, const shade_request<scalar_t<Real>>& request, std::size_t i) {
    if constexpr (asks_for_place<Model>) {
        s.eye = vec3<Real>(request.world_eye);
        s.axis = vec3<Real>(request.axis);
        s.front = load_lanes<Real>(&request.points.front[i]);
    }
}

/// Where the sums so far are read from: the block, or before the first light a zero for all.
template <class Real> class sums_so_far {
    using scalar = scalar_t<Real>;
    alignas(64) static constexpr std::array<scalar, lanes_of<Real>> nothing{};
    std::array<const scalar*, 6> from_;
    std::size_t step_; ///< 1, or 0 where it is always the same zero

  public:
    /// Of points that earlier lights have lit, where there were any.
    sums_so_far(const block<scalar>& points, bool any)
        : from_{points.lit.x.data(),      points.lit.y.data(),      points.lit.z.data(),
                points.specular.x.data(), points.specular.y.data(), points.specular.z.data()},
          step_(any ? 1 : 0) {
        if (!any) {
            from_.fill(nothing.data());
        }
    }
    /// Of points i and following.
    [[nodiscard]] reflected<Real> at(std::size_t i) const {
        const auto value = [&](std::size_t k) { return load_lanes<Real>(from_[k] + i * step_); };
        return {{value(0), value(1), value(2)}, {value(3), value(4), value(5)}};
    }
};

/// What every light needs of a point: its normal at length 1, and v.
template <class Formula, class Real> void begin_points(block<scalar_t<Real>>& points, const vec3<Real>& eye) {
    constexpr std::size_t step = lanes_of<Real>;
    const std::size_t count = points.count;
    const bool between_vertices = points.between_vertices;
    for (std::size_t i = 0; i < count; i += step) {
        store<Real>(points.to_eye, i, Formula::to_eye(load_vector<Real>(points.position, i), eye));
        if (between_vertices) {
            store<Real>(points.normal, i, Formula::interpolated_normal(load_vector<Real>(points.normal, i)));
        }
    }
}

/// What one light adds to the sums, weighed by its parts or whole. A function of its own for each law, and
/// flattened: a formula that stayed a call would send its batches through memory.
template <class Formula, class Real, bool Parts, class Law, class Model>
YURVO_FLATTENED [[gnu::noinline]] void add_light(const shade_request<scalar_t<Real>>& request,
                                                 const ready_light<scalar_t<Real>>& lamp, bool first,
                                                 const Law& law, const Model& model) {
    constexpr std::size_t step = lanes_of<Real>;
    block<scalar_t<Real>>& points = request.points;
    const surface<scalar_t<Real>> material = request.material;
    const ready_light<scalar_t<Real>> light = lamp;
    const std::size_t count = points.count;
    const bool own_base = points.own_base;
    const sums_so_far<Real> sums(points, !first);
    for (std::size_t i = 0; i < count; i += step) {
        surface<Real> s = surface_at<Real>(points, i, own_base, material);
        place_surface<Model>(s, request, i);
        reflected<Real> sum = sums.at(i);
        if constexpr (Parts) {
            sum = sum + of_parts(light, model(s, arrive<Formula>(light, s.position, law)));
        } else {
            sum = sum + model(s, arrive<Formula>(light, s.position, law));
        }
        store<Real>(points.lit, i, sum.diffuse);
        store<Real>(points.specular, i, sum.specular);
    }
}

/// The sum of the lights' ambient parts. One loop that reads the law: few lights have one.
template <class Formula, class Real, class Model>
YURVO_FLATTENED [[gnu::noinline]] void add_ambient_parts(const shade_request<scalar_t<Real>>& request,
                                                         const Model& model) {
    constexpr std::size_t step = lanes_of<Real>;
    block<scalar_t<Real>>& points = request.points;
    bool first = true;
    for (const ready_light<scalar_t<Real>>* const light : request.with_ambient) {
        for (std::size_t i = 0; i < points.count; i += step) {
            rgb<Real> part;
            if constexpr (has_follows<Model, Real>) {
                surface<Real> s = surface_at<Real>(points, i, points.own_base, request.material);
                place_surface<Model>(s, request, i);
                const arrival<Real> in = arrive<Formula>(*light, s.position, light->law());
                part =
                    rgb<Real>(light->ambient) * select(in.distance > Real(0), model.follows(s, in), Real(0));
            } else {
                part = ambient_of<Formula>(*light, load_vector<Real>(points.position, i), light->law());
            }
            store<Real>(points.ambient, i, first ? part : load_color<Real>(points.ambient, i) + part);
        }
        first = false;
    }
}

/// From sums of light to colours.
template <class Formula, class Real, class Model>
void finish_points(const shade_request<scalar_t<Real>>& request, const Model& model) {
    constexpr std::size_t step = lanes_of<Real>;
    block<scalar_t<Real>>& points = request.points;
    const surface<scalar_t<Real>> material = request.material;
    const finish_settings<scalar_t<Real>> settings = request.settings;
    const std::size_t count = points.count;
    const bool own_base = points.own_base;
    const bool in_parts = points.in_parts;
    const sums_so_far<Real> sums(points, needs_lights<Model> && !request.lights.empty());
    const bool ambient_parts = takes_parts<Model> && !request.with_ambient.empty();
    for (std::size_t i = 0; i < count; i += step) {
        reflected<Real> sum = sums.at(i);
        if (ambient_parts) {
            sum.ambient = load_color<Real>(points.ambient, i);
        }
        surface<Real> s = surface_at<Real>(points, i, own_base, material);
        place_surface<Model>(s, request, i);
        const outgoing<Real> lit = finish(model, s, sum, settings);
        if (in_parts) {
            store<Real>(points.tinted, i, lit.tinted);
            store<Real>(points.untinted, i, lit.untinted);
        } else {
            store<Real>(points.lit, i, lit.tinted + lit.untinted);
        }
    }
}

/// Shades a block in steps of as many points as a Real has lanes. With Fixed there is one loop for each law
/// of lights, so that nothing is decided per point; without, one loop reads the law: smaller, slower.
template <class Formula, class Real, bool Fixed, class Model>
void shade_block(const shade_request<scalar_t<Real>>& request, const Model& model) {
    static_assert(block_size % lanes_of<Real> == 0);
    begin_points<Formula>(request.points, vec3<Real>(request.eye));
    if constexpr (needs_lights<Model>) {
        bool first = true;
        for (const ready_light<scalar_t<Real>>* const light : request.lights) {
            if (takes_parts<Model> && !light->whole) { // one loop: few lights have parts
                add_light<Formula, Real, takes_parts<Model>>(request, *light, first, light->law(), model);
            } else if constexpr (Fixed) {
                with_fixed_law(light->law(), [&](const auto& law) {
                    add_light<Formula, Real, false>(request, *light, first, law, model);
                });
            } else {
                add_light<Formula, Real, false>(request, *light, first, light->law(), model);
            }
            first = false;
        }
    }
    if constexpr (takes_parts<Model>) {
        add_ambient_parts<Formula, Real>(request, model);
    }
    finish_points<Formula, Real>(request, model);
}

/// The kernel of a model, for where only its address is known.
template <class Formula, class Real, bool Fixed, class Model>
YURVO_FLATTENED void shade_with(const shade_request<scalar_t<Real>>& request) {
    shade_block<Formula, Real, Fixed>(request, *static_cast<const Model*>(request.model));
}

/// What a model says of itself with `static constexpr bool NAME = true`: see lit_from_the_front for the first
/// two.
template <class Model>
concept dark_adds_nothing = requires {
    requires Model::dark_adds_nothing;
};
template <class Model>
concept behind_adds_nothing = requires {
    requires Model::behind_adds_nothing;
};
/// It cannot take batches (it branches on its numbers, say), and is run point by point.
template <class Model>
concept one_at_a_time = requires {
    requires Model::one_at_a_time;
};

/// The batches of the instruction set that the including file is compiled for; a plain number where there is
/// none.
#if defined(XSIMD_NO_SUPPORTED_ARCHITECTURE)
using own_batch = number<float>;
#else
using own_batch = four<xsimd::batch<float>>;
#endif

/// The built-in models, whatever their formulas: they find max and the like without a class around a float.
template <class Model> inline constexpr bool is_yurvos = false;
/// It is one of Yurvo's.
template <> inline constexpr bool is_yurvos<unlit> = true;
/// It is one of Yurvo's.
template <class Formula> inline constexpr bool is_yurvos<lambert<Formula>> = true;
/// It is one of Yurvo's.
template <class Formula> inline constexpr bool is_yurvos<phong<Formula>> = true;
/// It is one of Yurvo's.
template <class Formula> inline constexpr bool is_yurvos<blinn_phong<Formula>> = true;
/// It is one of Yurvo's.
template <class Formula> inline constexpr bool is_yurvos<cel<Formula>> = true;

/// What a model is run on point by point: a float or a double, as a class for models that are not Yurvo's
/// own.
template <class Scalar, class Model>
using number_of = std::conditional_t<is_yurvos<Model>, Scalar, number<Scalar>>;

/// The built-in models are instantiated in kernel files of the library, and nowhere else.
template <class Model>
inline constexpr bool is_built_in =
    std::is_same_v<Model, built_in::unlit> || std::is_same_v<Model, built_in::lambert> ||
    std::is_same_v<Model, built_in::phong> || std::is_same_v<Model, built_in::blinn_phong> ||
    std::is_same_v<Model, built_in::cel>;

/// A shader for any model and formulas; the model must outlive it. Formulas that replace the built-in ones
/// are for looking at mistakes: they are run point by point, in one loop. So is a model of one's own that
/// yurvo_compile_model() has not compiled, but in batches: its own loop for each law takes a minute to
/// compile.
template <class Formula, class Scalar, class Model> shader<Scalar> make_shader(const Model& model) {
    constexpr bool plain = std::is_same_v<Formula, formula>;
    static_assert(one_at_a_time<Model> || has_finish<Model, number<float>> == has_finish<Model, own_batch>,
                  "This model's finish() takes plain numbers but no batches: its settings are a "
                  "finish_settings<scalar_t<Real>>, of one number for all lanes of a Real.");
    shader<Scalar> result;
    result.prepare = [](const light& lamp, const vec3<double>& origin) {
        return make_ready<Scalar, Formula>(lamp, origin);
    };
    result.model = &model;
    result.lit = needs_lights<Model>;
    result.asks_for_front = asks_for_place<Model>;
    result.dark_adds_nothing = plain && dark_adds_nothing<Model>;
    result.behind_adds_nothing = plain && behind_adds_nothing<Model>;
    if constexpr (plain && std::is_same_v<Scalar, float> && is_built_in<Model>) {
        result.shade = registered_kernel(typeid(Model));
    } else if constexpr (plain && std::is_same_v<Scalar, float> && !one_at_a_time<Model>) {
        result.shade = registered_kernel(typeid(Model));
        if (result.shade == nullptr) {
            result.shade = shade_with<Formula, own_batch, false, Model>;
        }
    } else {
        result.shade = shade_with<Formula, number_of<Scalar, Model>, false, Model>;
    }
    return result;
}

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
