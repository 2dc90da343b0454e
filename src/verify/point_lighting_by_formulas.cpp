// point_lighting's part about formulas of one's own: what they are given, mistakes and all, and what becomes
// of their values.
#include <limits>
#include <utility>

#include "verify/mistaken_formula.hpp"
#include "verify/point_lighting.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::verify {

using enum mistake;
using formulas::input;
using formulas::slot;

// One point on its way.
struct point_lighting::formula_point {
    surface<double> s;
    point_formulas::asking ask;
    vec3<double> l, v, h, r; // as given anew
    bool has_normal = true;
};

void point_lighting::give_directions(formula_point& on, const vec3<double>& l) const {
    const auto given = [&](slot which, input known, const vec3<double>& by_model) {
        on.ask.set(known, by_model);
        vec3<double> result = by_model;
        if (formulas_->has(which)) {
            result = on.ask.vector(which);
            on.ask.set(known, result);
        }
        return result;
    };
    on.l = given(slot::l, input::l, l);
    on.v = given(slot::v, input::v, on.s.to_eye);
    on.h = given(slot::h, input::h, equations_->half(on.l, on.v));
    on.r = given(slot::r, input::r, equations_->reflect(on.s.normal, on.l));
}

// The model's own, where no formula stands for it.
double point_lighting::model_highlight(const formula_point& on, explained_light* lit) const {
    mistaken_formula equations = *equations_; // other threads light other points
    equations.told = lit;
    switch (of_.shading.model) {
    case model_kind::phong:
        return equations.gate(on.s.normal, on.l, equations.phong_highlight(on.r, on.v, on.s.shininess));
    case model_kind::blinn_phong:
        return equations.gate(on.s.normal, on.l,
                              equations.blinn_phong_highlight(on.s.normal, on.h, on.s.shininess));
    default:
        return 0;
    }
}

reflected<double> point_lighting::reflect_by_formulas(formula_point& on, const handed_light& from,
                                                      const point_input& at, const std::string& label,
                                                      explained_light* lit) const {
    const read_law law = from.ready.law();
    const bool placed = law.kind != light_kind::directional;
    const bool spot = law.kind == light_kind::spot;
    const bool own_falloff = placed && formulas_->has(slot::falloff);
    const bool own_penumbra = spot && formulas_->has(slot::penumbra);
    // Laws that formulas replace may lack their numbers.
    ready_light<double> by_law = from.ready;
    by_law.falloff = own_falloff ? falloff_kind::none : by_law.falloff;
    arrival<double> in = arrive(by_law, at.position, by_law.law(), *equations_);
    if (placed && in.distance == 0) {
        return {};
    }
    const vec3<double> right = in.to_light;
    in.to_light = to_light_as_used(from, at, right);
    on.ask.set_light(from.given, from.ready, label);
    on.ask.set(input::d, !placed ? 0.0 : wrong_.has(falloff_after_normalize) ? 1.0 : in.distance);
    on.ask.set(input::cos_theta, spot ? 1 - equations_->penumbra_versine(right, from.ready.axis) : 1.0);
    give_directions(on, in.to_light);
    double falloff = placed ? falloff_at(by_law, in.distance, by_law.law(), *equations_) : 1;
    double penumbra = spot && !own_penumbra ? penumbra_at(by_law, right, by_law.law(), *equations_) : 1;
    if (own_falloff) {
        falloff = on.ask.number(slot::falloff);
    }
    if (own_penumbra) {
        penumbra = on.ask.number(slot::penumbra);
    }
    in.brightness = from.given.intensity * falloff * penumbra;
    in.light = from.given.color * in.brightness;
    reflected<double> result;
    if (on.has_normal) {
        on.ask.set(input::light, in.light);
        const rgb<double> diffuse = formulas_->has(slot::diffuse)
                                        ? on.ask.color(slot::diffuse)
                                        : rgb<double>(equations_->diffuse_cosine(on.s.normal, on.l));
        const bool bare = wrong_.has(specular_without_falloff) && placed;
        const rgb<double> shining = bare ? from.given.color * from.given.intensity : in.light;
        on.ask.set(input::light, shining);
        rgb<double> specular;
        if (formulas_->has(slot::specular)) {
            specular = on.ask.color(slot::specular);
            specular = wrong_.has(specular_times_cosine) ? specular * dot(on.s.normal, on.l) : specular;
        } else {
            specular = rgb<double>(model_highlight(on, lit));
        }
        result.diffuse = in.light * diffuse;
        result.specular = shining * specular;
        if (wrong_.has(clamp_per_light)) {
            result.diffuse = min(result.diffuse, rgb<double>(1.0));
        }
        if (wrong_.has(factor_pi)) {
            result.diffuse = result.diffuse * (1 / pi);
        }
    }
    result = of_parts(from.ready, result);
    const bool by_angle = from.given.follows == ambient_follows::cone;
    const double follows =
        !placed || from.given.follows == ambient_follows::nothing ? 1 : falloff * (by_angle ? penumbra : 1);
    result.ambient = from.ready.ambient * follows;
    if (lit != nullptr) {
        handed_light told = from;
        told.ready = by_law;
        tell_light(*lit, told, at, in, right);
        lit->falloff = falloff;
        lit->penumbra = penumbra;
        lit->ambient_factor = follows;
        lit->half = on.h;
        lit->reflected = on.r;
        lit->cosine = dot(on.s.normal, in.to_light);
    }
    return result;
}

point_result point_lighting::light_by_formulas(std::size_t object, const surface<double>& given,
                                               const point_input& at, explained_point* point) const {
    formula_point on{given,
                     point_formulas::asking(*formulas_, point != nullptr ? &point->formulas : nullptr),
                     {},
                     {},
                     {},
                     {},
                     dot(given.normal, given.normal) > 0};
    surface<double>& s = on.s;
    on.ask.set(input::n, s.normal);
    on.ask.set(input::v, s.to_eye);
    on.ask.set(input::position, at.position);
    on.ask.set(input::eye, view_eye_);
    on.ask.set(input::axis, backward_);
    on.ask.set(input::base, s.base);
    on.ask.set(input::material_ambient, s.ambient);
    on.ask.set(input::material_diffuse, s.diffuse);
    on.ask.set(input::material_specular, s.specular);
    on.ask.set(input::emission, s.emission);
    on.ask.set(input::shininess, s.shininess);
    on.ask.set(input::front, at.front ? 1.0 : 0.0);
    reflected<double> sum;
    std::vector<reflected<double>> each;
    for (std::size_t i = 0; i < lights_[object].size(); ++i) {
        explained_light lamp;
        const std::string label = point != nullptr ? label_of(of_.lights[i], i) : "";
        each.push_back(
            reflect_by_formulas(on, lights_[object][i], at, label, point != nullptr ? &lamp : nullptr));
        sum = sum + each.back();
        if (point != nullptr) {
            lamp.name = label;
            point->lights.push_back(std::move(lamp));
        }
    }
    // A v that asks for no light is known to what is asked once, as the last light left it.
    if (lights_[object].empty() && formulas_->has(slot::v)) {
        on.ask.set(input::v, s.to_eye);
        on.ask.set(input::v, on.ask.vector(slot::v));
    }
    if (formulas_->has(slot::ambient)) {
        s.ambient = s.ambient * on.ask.color(slot::ambient);
    }
    outgoing<double> lit = finish_terms(s, sum, settings_);
    if (wrong_.has(specular_tinted_by_base) && settings_.terms.specular) {
        const rgb<double> specular = sum.specular * s.specular;
        lit = {lit.tinted + specular * s.base, lit.untinted - specular};
    }
    if (formulas_->has(slot::more) && on.has_normal) {
        const rgb<double> more = on.ask.color(slot::more);
        lit.untinted = settings_.terms.specular ? lit.untinted + more : lit.untinted;
        if (point != nullptr) {
            point->more = settings_.terms.specular ? more : rgb<double>{};
        }
    }
    point_result result;
    result.lightness = lightness_of(s, sum);
    if (formulas_->has(slot::color)) {
        on.ask.set(input::c, lit.tinted + lit.untinted);
        lit = {{}, on.ask.color(slot::color)};
    }
    result.lit = on.ask.failed() ? outgoing<double>{} : lit;
    if (point != nullptr) {
        const term_choice& wanted = settings_.terms;
        for (std::size_t i = 0; i < each.size(); ++i) {
            explained_light& lamp = point->lights[i];
            lamp.ambient = wanted.ambient ? each[i].ambient * s.ambient * s.base : rgb<double>{};
            lamp.diffuse = each[i].diffuse * s.diffuse * s.base;
            lamp.specular = each[i].specular * s.specular;
        }
        point->ambient =
            finish_terms(s, {},
                         {settings_.ambient_light, settings_.rule, {wanted.ambient, false, false, false}})
                .tinted;
        point->emission = wanted.emission ? s.emission : rgb<double>{};
        point->failed = on.ask.failed();
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
