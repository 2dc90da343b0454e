#include "verify/point_lighting.hpp"

#include <limits>
#include <utility>

#include "verify/mistaken_formula.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using enum mistake;

double luminance(const rgb<double>& c) { return 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b; }

// A model of one's own, called as the built-in ones are.
struct own_model_call {
    const point_model& model;

    reflected<double> operator()(const surface<double>& s, const arrival<double>& in) const {
        return model.reflect(s, in);
    }
    [[nodiscard]] outgoing<double> finish(const surface<double>& s, const reflected<double>& sum,
                                          const finish_settings<double>& settings) const {
        return model.finish(s, sum, settings);
    }
};

template <class Model> constexpr bool is_own = std::is_same_v<Model, own_model_call>;

// Calls use(model) with the scene's model over mistaken equations, or with one's own.
template <class Use>
auto with_mistaken_model(const shading_choice& shading, const point_model* own,
                         const mistaken_formula& equations, Use&& use) {
    if (own != nullptr) {
        own_model_call model{*own};
        return use(model);
    }
    const auto call = [&](auto model) {
        model.equations = equations;
        return use(model);
    };
    switch (shading.model) {
    case model_kind::unlit: {
        unlit model;
        return use(model);
    }
    case model_kind::lambert:
        return call(lambert<mistaken_formula>{});
    case model_kind::phong:
        return call(phong<mistaken_formula>{});
    case model_kind::cel:
        return call(cel<mistaken_formula>(&shading.cel));
    case model_kind::blinn_phong:
        break;
    }
    return call(blinn_phong<mistaken_formula>{});
}

template <class Model> void tell_light_to(Model& model, explained_light* lit) {
    if constexpr (requires { model.equations.told; }) {
        model.equations.told = lit;
    }
}

// Of `cel`, for people: which band the gradient chose.
void tell_band(const cel_settings& cel, const surface<double>& s, double gradient, explained_point& point) {
    point.gradient = clamp(gradient, 0.0, 1.0);
    point.band = 0;
    for (const double threshold : cel.thresholds) {
        point.band += threshold <= point.gradient ? 1 : 0;
    }
    point.band = dot(s.normal, s.to_eye) < cel.outline ? -1 : point.band;
}

} // namespace

point_lighting::point_lighting(const scene& the_scene, const pipeline::stage& staged,
                               const std::vector<lighting_data>& data, const mistake_set& wrong,
                               const term_choice& terms, const point_model* own, bool cosines_end_at_one)
    : of_(the_scene),
      own_(own),
      wrong_(wrong),
      equations_(std::make_unique<mistaken_formula>()),
      view_eye_(staged.seen_from.eye),
      backward_(staged.seen_from.axes.backward),
      eye_(wrong.has(specular_eye_at_origin) ? vec3<double>{} : staged.lit_eye),
      vertex_rays_(wrong.has(to_light_normalized_per_vertex) && staged.rate == rate::fragment),
      settings_{staged.ambient_light, the_scene.shading.ambient_rule, terms} {
    equations_->wrong = wrong;
    equations_->ends_at_one = cosines_end_at_one;
    equations_->all_unit =
        !(wrong.has(normal_not_renormalized) || wrong.has(half_not_normalized) ||
          wrong.has(to_light_not_normalized) || vertex_rays_ || wrong.has(shines_not_normalized));
    if (own_ == nullptr && the_scene.formulas.any()) {
        formulas_.emplace(the_scene);
        equations_->all_unit = equations_->all_unit && !formulas_->has_new_direction();
    }
    for (const lighting_data& of_object : data) {
        std::vector<handed_light>& handed = lights_.emplace_back();
        for (const light& lamp : of_object.lights) {
            handed.push_back(hand(lamp));
        }
    }
}

point_lighting::~point_lighting() = default;
point_lighting::point_lighting(point_lighting&&) noexcept = default;

point_lighting::handed_light point_lighting::hand(const light& lamp) const {
    handed_light result{lamp, make_ready<double>(lamp), make_ready<double>(lamp, view_eye_)};
    if (wrong_.has(cone_angle_in_degrees)) {
        // The cosine of an angle in degrees, taken as if it were in radians.
        result.ready.inner_versine = 1 - std::cos(degrees(lamp.inner));
        result.ready.outer_versine = 1 - std::cos(degrees(lamp.outer));
        if (lamp.kind == light_kind::spot) {
            result.ready.cos_inner = std::cos(degrees(lamp.inner));
            result.ready.cos_outer = std::cos(degrees(lamp.outer));
        }
    }
    if (wrong_.has(shines_not_normalized)) {
        result.ready.axis = lamp.shines;
        result.ready.to_light = -lamp.shines;
    }
    return result;
}

// l as the model is given it.
vec3<double> point_lighting::to_light_as_used(const handed_light& from, const point_input& at,
                                              const vec3<double>& right) const {
    vec3<double> l = right;
    if (from.given.kind != light_kind::directional) {
        if (vertex_rays_ && at.corners != nullptr) {
            l = {};
            for (std::size_t k = 0; k < 3; ++k) {
                l = l + normalize(from.ready.position - at.corners->position[k]) * at.corners->share[k];
            }
        }
        if (wrong_.has(to_light_not_normalized)) {
            l = from.ready.position - at.position;
        }
    }
    return wrong_.has(light_direction_flipped) ? -l : l;
}

// What one light makes the surface reflect.
template <class Model>
reflected<double> point_lighting::reflect(const Model& model, const handed_light& from, const point_input& at,
                                          const surface<double>& s, explained_light* lit) const {
    const read_law law = from.ready.law();
    arrival<double> in = arrive(from.ready, at.position, law, *equations_);
    if constexpr (is_own<Model>) {
        in.lamp = &from.seen;
    }
    const vec3<double> right = in.to_light;
    in.to_light = to_light_as_used(from, at, right);
    const bool placed = law.kind != light_kind::directional;
    const bool bare = wrong_.has(specular_without_falloff) && placed && in.distance > 0;
    if (in.brightness == 0 && lit == nullptr && !bare && !is_own<Model> && !has_ambient(from.given)) {
        return {}; // it does not reach
    }
    reflected<double> result = model(s, in);
    if (bare) {
        arrival<double> without_falloff = in;
        without_falloff.brightness = from.given.intensity;
        without_falloff.light = from.given.color * from.given.intensity;
        result.specular = model(s, without_falloff).specular;
    }
    if (sums_terms()) {
        if (wrong_.has(clamp_per_light)) {
            result.diffuse = min(result.diffuse, rgb<double>(1.0));
        }
        if (wrong_.has(factor_pi)) {
            result.diffuse = result.diffuse * (1 / pi);
        }
        if (is_own<Model> && wrong_.has(specular_times_cosine)) {
            result.specular = result.specular * dot(s.normal, in.to_light);
        }
    }
    if constexpr (takes_parts<Model>) {
        result = of_parts(from.ready, result);
        result.ambient = ambient_of(from.ready, at.position, law, *equations_);
        if constexpr (is_own<Model>) {
            const std::optional<double> follows = in.distance > 0 ? own_->follows(s, in) : std::nullopt;
            result.ambient = follows ? from.ready.ambient * *follows : result.ambient;
        }
    }
    if (lit != nullptr) {
        tell_light(*lit, from, at, in, right);
        lit->half = equations_->half(in.to_light, s.to_eye);
        lit->reflected = equations_->reflect(s.normal, in.to_light);
        lit->cosine = dot(s.normal, in.to_light);
    }
    return result;
}

// What is told of a light whatever the model.
void point_lighting::tell_light(explained_light& lit, const handed_light& from, const point_input& at,
                                const arrival<double>& in, const vec3<double>& right) const {
    const read_law law = from.ready.law();
    const bool placed = law.kind != light_kind::directional;
    const bool reaches = placed && in.distance > 0;
    const bool spot = reaches && law.kind == light_kind::spot;
    lit.kind = law.kind;
    lit.falloff_law = law.falloff;
    lit.penumbra_law = law.penumbra;
    lit.whole = placed ? from.ready.position - at.position : right;
    lit.to_light = right;
    lit.distance = in.distance;
    lit.falloff = !placed ? 1 : reaches ? falloff_at(from.ready, in.distance, law, *equations_) : 0;
    lit.cone_cosine = spot ? 1 - equations_->penumbra_versine(right, from.ready.axis) : 1;
    lit.penumbra = spot ? penumbra_at(from.ready, right, law, *equations_) : 1;
    lit.arriving = in.light;
    const bool by_angle = from.given.follows == ambient_follows::cone;
    lit.ambient_factor = !placed    ? 1
                         : !reaches ? 0
                         : from.given.follows == ambient_follows::nothing
                             ? 1
                             : lit.falloff * (by_angle ? lit.penumbra : 1);
}

bool point_lighting::sums_terms() const {
    return own_ != nullptr ? !own_->has_own_finish() : descriptor_of(of_.shading.model).sums_terms;
}

double point_lighting::lightness_of(const surface<double>& s, const reflected<double>& sum) const {
    surface<double> white = s;
    white.base = rgb<double>(1.0);
    const term_choice factors{settings_.terms.ambient, settings_.terms.diffuse, false, false};
    return luminance(finish_terms(white, sum, {settings_.ambient_light, ambient_rule::add, factors}).tinted);
}

template <class Model>
point_result point_lighting::light_with(Model& model, std::size_t object, const surface<double>& s,
                                        const point_input& at, explained_point* point) const {
    const bool terms = sums_terms();
    const bool lit = own_ != nullptr ? own_->needs_lights() : descriptor_of(of_.shading.model).lit;
    reflected<double> sum;
    for (std::size_t i = 0; lit && i < lights_[object].size(); ++i) {
        explained_light lamp;
        tell_light_to(model, point != nullptr ? &lamp : nullptr);
        const reflected<double> result =
            reflect(model, lights_[object][i], at, s, point != nullptr ? &lamp : nullptr);
        sum = sum + result;
        if (point != nullptr) {
            lamp.name = label_of(of_.lights[i], i);
            if (terms) {
                lamp.ambient = settings_.terms.ambient ? result.ambient * s.ambient * s.base : rgb<double>{};
                lamp.diffuse = result.diffuse * s.diffuse * s.base;
                lamp.specular = result.specular * s.specular;
            } else {
                lamp.gradient = result.diffuse.r;
            }
            point->lights.push_back(std::move(lamp));
        }
    }
    point_result result;
    result.lit = finish(model, s, sum, settings_);
    if (terms) {
        if (wrong_.has(specular_tinted_by_base)) {
            finish_settings<double> part = settings_;
            part.terms.specular = false;
            const outgoing<double> others = finish(model, s, sum, part);
            const rgb<double> specular = result.lit.untinted - others.untinted;
            result.lit = {others.tinted + specular * s.base, others.untinted};
        }
        result.lightness = lightness_of(s, sum);
    }
    if (point != nullptr) {
        if (terms) {
            const term_choice& wanted = settings_.terms;
            point->ambient =
                finish_terms(s, {},
                             {settings_.ambient_light, settings_.rule, {wanted.ambient, false, false, false}})
                    .tinted;
            point->emission = wanted.emission ? s.emission : rgb<double>{};
        } else if (own_ == nullptr && of_.shading.model == model_kind::cel) {
            tell_band(of_.shading.cel, s, sum.diffuse.r, *point);
        }
    }
    return result;
}

point_result point_lighting::evaluate(std::size_t object, const material& look, const point_input& at,
                                      explained_point* point) const {
    surface<double> s;
    s.position = at.position - view_eye_;
    s.normal = at.normal;
    if (!at.between_vertices || !wrong_.has(normal_not_renormalized)) {
        s.normal = formula::interpolated_normal(s.normal);
    }
    if (wrong_.has(normal_flipped)) {
        s.normal = -s.normal;
    }
    s.to_eye = formula::to_eye(at.position, eye_);
    if (wrong_.has(viewer_at_infinity)) {
        s.to_eye = backward_;
    }
    if (wrong_.has(eye_vector_flipped)) {
        s.to_eye = -s.to_eye;
    }
    s.base = at.base;
    s.ambient = look.ambient;
    s.diffuse = look.diffuse;
    s.specular = look.specular;
    s.shininess = look.shininess;
    s.emission = look.emission;
    s.eye = view_eye_;
    s.axis = backward_;
    s.front = at.front ? 1 : 0;
    const point_result result =
        formulas_ ? light_by_formulas(object, s, at, point)
                  : with_mistaken_model(of_.shading, own_, *equations_,
                                        [&](auto& model) { return light_with(model, object, s, at, point); });
    if (point != nullptr) {
        point->position = at.position;
        point->normal = s.normal;
        point->normal_length = length(at.normal);
        point->to_eye = s.to_eye;
        point->eye_distance = length(eye_ - at.position);
        point->base = at.base;
        point->color = result.lit.tinted + result.lit.untinted;
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
