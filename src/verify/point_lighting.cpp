#include "verify/point_lighting.hpp"

#include <limits>
#include <utility>

#include "verify/mistaken_formula.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

namespace yurvo::verify {

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

template <class Model> void tell_light_to(Model& model, explained_light* told) {
    if constexpr (requires { model.equations.told; }) {
        model.equations.told = told;
    }
}

// Of `cel`, for people: which band the gradient chose.
void tell_band(const cel_settings& cel, const surface<double>& s, double gradient, explained_point& told) {
    told.gradient = clamp(gradient, 0.0, 1.0);
    told.band = 0;
    for (const double threshold : cel.thresholds) {
        told.band += threshold <= told.gradient ? 1 : 0;
    }
    told.band = dot(s.normal, s.to_eye) < cel.outline ? -1 : told.band;
}

} // namespace

point_lighting::point_lighting(const scene& of, const pipeline::stage& staged,
                               const std::vector<lighting_data>& data, const mistake_set& wrong,
                               const term_choice& terms, const point_model* own)
    : of_(of),
      own_(own),
      wrong_(wrong),
      equations_(std::make_unique<mistaken_formula>()),
      view_eye_(staged.seen_from.eye),
      eye_(wrong.has(specular_eye_at_origin) ? vec3<double>{} : staged.lit_eye),
      vertex_rays_(wrong.has(to_light_normalized_per_vertex) && staged.rate == rate::fragment),
      settings_{staged.ambient_light, of.shading.ambient_rule, terms} {
    equations_->wrong = wrong;
    equations_->all_unit =
        !(wrong.has(normal_not_renormalized) || wrong.has(half_not_normalized) ||
          wrong.has(to_light_not_normalized) || vertex_rays_ || wrong.has(shines_not_normalized));
    for (const lighting_data& of_object : data) {
        std::vector<handed_light>& handed = lights_.emplace_back();
        for (const light& one : of_object.lights) {
            handed.push_back(hand(one));
        }
    }
}

point_lighting::~point_lighting() = default;
point_lighting::point_lighting(point_lighting&&) noexcept = default;

point_lighting::handed_light point_lighting::hand(const light& given) const {
    handed_light made{given, make_ready<double>(given)};
    if (wrong_.has(cone_angle_in_degrees)) {
        // The cosine of an angle in degrees, taken as if it were in radians.
        made.ready.inner_versine = 1 - std::cos(degrees(given.inner));
        made.ready.outer_versine = 1 - std::cos(degrees(given.outer));
    }
    if (wrong_.has(shines_not_normalized)) {
        made.ready.axis = given.shines;
        made.ready.to_light = -given.shines;
    }
    return made;
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
                                          const surface<double>& s, explained_light* told) const {
    const read_law law = from.ready.law();
    arrival<double> in = arrive(from.ready, at.position, law, *equations_);
    const vec3<double> right = in.to_light;
    in.to_light = to_light_as_used(from, at, right);
    const bool placed = law.kind != light_kind::directional;
    const bool bare = wrong_.has(specular_without_falloff) && placed && in.distance > 0;
    if (in.brightness == 0 && told == nullptr && !bare && !is_own<Model>) {
        return {}; // it does not reach
    }
    reflected<double> made = model(s, in);
    if (bare) {
        arrival<double> without_falloff = in;
        without_falloff.brightness = from.given.intensity;
        without_falloff.light = from.given.color * from.given.intensity;
        made.specular = model(s, without_falloff).specular;
    }
    if (sums_terms()) {
        if (wrong_.has(clamp_per_light)) {
            made.diffuse = min(made.diffuse, rgb<double>(1.0));
        }
        if (wrong_.has(factor_pi)) {
            made.diffuse = made.diffuse * (1 / pi);
        }
        if (is_own<Model> && wrong_.has(specular_times_cosine)) {
            made.specular = made.specular * dot(s.normal, in.to_light);
        }
    }
    if (told != nullptr) {
        const bool reaches = placed && in.distance > 0;
        const bool spot = reaches && law.kind == light_kind::spot;
        told->kind = law.kind;
        told->falloff_law = law.falloff;
        told->penumbra_law = law.penumbra;
        told->whole = placed ? from.ready.position - at.position : right;
        told->to_light = right;
        told->distance = in.distance;
        told->cosine = dot(s.normal, in.to_light);
        told->falloff = !placed ? 1 : reaches ? falloff_at(from.ready, in.distance, law, *equations_) : 0;
        told->cone_cosine = spot ? 1 - equations_->penumbra_versine(right, from.ready.axis) : 1;
        told->penumbra = spot ? penumbra_at(from.ready, right, law, *equations_) : 1;
        told->arriving = in.light;
        told->half = equations_->half(in.to_light, s.to_eye);
        told->reflected = equations_->reflect(s.normal, in.to_light);
    }
    return made;
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
                                        const point_input& at, explained_point* told) const {
    const bool terms = sums_terms();
    const bool lit = own_ != nullptr ? own_->needs_lights() : descriptor_of(of_.shading.model).lit;
    reflected<double> sum;
    for (std::size_t i = 0; lit && i < lights_[object].size(); ++i) {
        explained_light one;
        tell_light_to(model, told != nullptr ? &one : nullptr);
        const reflected<double> made =
            reflect(model, lights_[object][i], at, s, told != nullptr ? &one : nullptr);
        sum = sum + made;
        if (told != nullptr) {
            one.name = label_of(of_.lights[i], i);
            if (terms) {
                one.diffuse = made.diffuse * s.diffuse * s.base;
                one.specular = made.specular * s.specular;
            } else {
                one.gradient = made.diffuse.r;
            }
            told->lights.push_back(std::move(one));
        }
    }
    point_result made;
    made.lit = finish(model, s, sum, settings_);
    if (terms) {
        if (wrong_.has(specular_tinted_by_base)) {
            finish_settings<double> part = settings_;
            part.terms.specular = false;
            const outgoing<double> others = finish(model, s, sum, part);
            const rgb<double> specular = made.lit.untinted - others.untinted;
            made.lit = {others.tinted + specular * s.base, others.untinted};
        }
        made.lightness = lightness_of(s, sum);
    }
    if (told != nullptr) {
        if (terms) {
            const term_choice& asked = settings_.terms;
            told->ambient =
                finish_terms(s, {},
                             {settings_.ambient_light, settings_.rule, {asked.ambient, false, false, false}})
                    .tinted;
            told->emission = asked.emission ? s.emission : rgb<double>{};
        } else if (own_ == nullptr && of_.shading.model == model_kind::cel) {
            tell_band(of_.shading.cel, s, sum.diffuse.r, *told);
        }
    }
    return made;
}

point_result point_lighting::evaluate(std::size_t object, const material& look, const point_input& at,
                                      explained_point* told) const {
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
    if (wrong_.has(eye_vector_flipped)) {
        s.to_eye = -s.to_eye;
    }
    s.base = at.base;
    s.ambient = look.ambient;
    s.diffuse = look.diffuse;
    s.specular = look.specular;
    s.shininess = look.shininess;
    s.emission = look.emission;
    const point_result made = with_mistaken_model(
        of_.shading, own_, *equations_, [&](auto& model) { return light_with(model, object, s, at, told); });
    if (told != nullptr) {
        told->position = at.position;
        told->normal = s.normal;
        told->normal_length = length(at.normal);
        told->to_eye = s.to_eye;
        told->eye_distance = length(eye_ - at.position);
        told->base = at.base;
        told->color = made.lit.tinted + made.lit.untinted;
    }
    return made;
}

} // namespace yurvo::verify
