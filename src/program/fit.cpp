#include "program/fit.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

namespace yurvo::program {

namespace {

template <class Value> bool contains(const std::vector<Value>& all, Value one) {
    return std::find(all.begin(), all.end(), one) != all.end();
}

// Which kinds of light the bound properties can carry.
std::vector<light_kind> carried_kinds(const claims& claimed, const std::set<light_kind>& sets_by_kind) {
    const auto has = [&](std::initializer_list<const char*> any) {
        return std::any_of(any.begin(), any.end(),
                           [&](const char* one) { return claimed.light_bound.count(one) > 0; });
    };
    if (!sets_by_kind.empty()) {
        return {sets_by_kind.begin(), sets_by_kind.end()};
    }
    const bool place = has({"place", "place_view"});
    const bool placed = place || has({"position", "position_view"});
    const bool directed = has({"shines", "shines_view"});
    const bool cone = directed && has({"outer", "outer_degrees", "cos_outer"});
    const bool told = place || has({"kind"});
    std::vector<light_kind> made;
    if (place || (directed && (told || !placed)) || has({"to_light", "to_light_view"})) {
        made.push_back(light_kind::directional);
    }
    if (placed && (told || !cone)) {
        made.push_back(light_kind::point);
    }
    if (placed && cone && (claimed.light_bound.count("kind") > 0 || !told)) {
        made.push_back(light_kind::spot);
    }
    return made;
}

// The laws that a program's bindings can carry, the likeliest first.
std::vector<falloff_kind> carried_falloffs(const claims& claimed) {
    const auto has = [&](const char* one) { return claimed.light_bound.count(one) > 0; };
    std::vector<falloff_kind> made;
    for (const falloff_descriptor& one : falloff_list) {
        const bool numbers = (!one.coefficients || has("coefficients")) && (!one.range || has("range"));
        if (numbers && (has("falloff") || (has("coefficients") && one.as_coefficients))) {
            made.push_back(one.kind);
        }
    }
    if (made.empty()) {
        return {has("range") ? falloff_kind::windowed : falloff_kind::inverse_square};
    }
    std::swap(made[0], *std::find(made.begin(), made.end(), falloff_kind::inverse_square));
    return made;
}

std::vector<penumbra_kind> carried_penumbras(const claims& claimed) {
    const auto has = [&](const char* one) { return claimed.light_bound.count(one) > 0; };
    if (!has("penumbra")) {
        return {has("exponent")                                            ? penumbra_kind::power
                : has("inner") || has("inner_degrees") || has("cos_inner") ? penumbra_kind::smooth
                                                                           : penumbra_kind::hard};
    }
    std::vector<penumbra_kind> made{penumbra_kind::smooth};
    for (const penumbra_descriptor& one : penumbra_list) {
        if (one.kind != penumbra_kind::smooth && (!one.exponent || has("exponent"))) {
            made.push_back(one.kind);
        }
    }
    return made;
}

// One scene on its way to another: every change is told once.
class fitting {
    const claims& claimed_;
    scene made_;
    std::vector<std::string> changes_;

    void change(const std::string& what) {
        if (std::find(changes_.begin(), changes_.end(), what) == changes_.end()) {
            changes_.push_back(what);
        }
    }
    [[nodiscard]] bool bound(const char* what) const { return claimed_.bound.count(what) > 0; }
    [[nodiscard]] bool light_bound(std::initializer_list<const char*> any) const {
        return std::any_of(any.begin(), any.end(),
                           [&](const char* one) { return claimed_.light_bound.count(one) > 0; });
    }
    // Sets a value where it differs.
    template <class Value> void neutral(Value& value, const Value& to, const std::string& what) {
        if (!(value == to)) {
            value = to;
            change(what);
        }
    }

    void fit_shading() {
        neutral(made_.shading.model, claimed_.model,
                "drawn with the model " + std::string(name_of(claimed_.model)));
        neutral(made_.shading.rate, claimed_.rate, "drawn per " + std::string(name_of(claimed_.rate)));
        neutral(made_.shading.ambient_rule, claimed_.rule,
                "the ambient rule is " + std::string(name_of(claimed_.rule)));
        if (!bound("ambient.light") && !bound("ambient.color") && !bound("ambient.strength")) {
            neutral(made_.ambient_strength, 0.0, "no ambient light");
        } else if (!bound("ambient.light")) {
            if (!bound("ambient.color")) {
                neutral(made_.ambient_color, rgb<double>(1.0), "white ambient light");
            }
            if (!bound("ambient.strength")) {
                neutral(made_.ambient_strength, 1.0, "ambient strength 1");
            }
        }
    }

    void fit_materials() {
        for (named_material& one : made_.materials) {
            material& look = one.look;
            if (!bound("material.base") && !bound("material.base_alpha")) {
                neutral(look.base, rgb<double>(1.0), "white base colours");
            }
            if (!bound("material.alpha") && !bound("material.base_alpha")) {
                neutral(look.alpha, 1.0, "alpha 1");
            }
            if (!bound("material.ambient")) {
                neutral(look.ambient, rgb<double>(1.0), "ambient factors 1");
            }
            if (!bound("material.diffuse")) {
                neutral(look.diffuse, rgb<double>(1.0), "diffuse factors 1");
            }
            const bool shines =
                claimed_.model == model_kind::phong || claimed_.model == model_kind::blinn_phong;
            if (shines && !bound("material.specular")) {
                neutral(look.specular, rgb<double>(1.0), "specular factors 1");
            }
            if (shines && !bound("material.shininess")) {
                neutral(look.shininess, 32.0, "shininess 32");
            }
            if (!bound("material.emission")) {
                neutral(look.emission, rgb<double>(), "no emission");
            }
            if (!bound("material.two_sided")) {
                neutral(look.two_sided, false, "no two-sided materials");
            }
            const bool textures =
                (bound("material.texture") || bound("material.texture_codes")) && claimed_.texcoords;
            if (!textures && one.image) {
                one.image = nullptr;
                one.texture_file.clear();
                change("no textures");
            }
        }
    }

    void fit_objects() {
        const std::size_t before = made_.objects.size();
        std::erase_if(made_.objects,
                      [](const object& one) { return std::holds_alternative<field_shape>(one.shape); });
        if (made_.objects.size() != before) {
            change("without implicit surfaces, which have no vertices");
        }
        for (object& one : made_.objects) {
            vec3<double>& scale = one.placed.scale;
            if (claimed_.scale == scale_claim::none) {
                neutral(scale, vec3<double>{1, 1, 1}, "no scale");
            } else if (claimed_.scale == scale_claim::uniform &&
                       !(scale.x == scale.y && scale.y == scale.z)) {
                const double even = std::cbrt(std::abs(scale.x * scale.y * scale.z));
                scale = {even, even, even};
                change("even scales");
            }
            auto* given = std::get_if<mesh_shape>(&one.shape);
            if (given != nullptr && !given->data->colors.empty() && !claimed_.colors) {
                auto data = std::make_shared<mesh>(*given->data);
                data->colors.clear();
                given->data = data;
                change("no vertex colours");
            }
        }
    }

    void fit_law(light& one) {
        if (one.kind != light_kind::directional && !contains(claimed_.falloffs, one.falloff)) {
            const falloff_kind to = claimed_.falloffs.front();
            change("falloff " + std::string(name_of(to)) + " for " + std::string(name_of(one.falloff)));
            if (descriptor_of(to).coefficients) {
                one.coefficients = {1, 0.1, 0.2};
            }
            if (descriptor_of(to).range && !descriptor_of(one.falloff).range) {
                one.range = 10;
            }
            one.falloff = to;
        }
        if (one.kind != light_kind::spot) {
            return;
        }
        const bool ramped = descriptor_of(one.penumbra).ramped;
        const penumbra_kind is = ramped && one.inner == one.outer ? penumbra_kind::hard : one.penumbra;
        if (!contains(claimed_.penumbras, is)) {
            const penumbra_kind to = claimed_.penumbras.front();
            change("penumbra " + std::string(name_of(to)) + " for " + std::string(name_of(is)));
            one.penumbra = to;
            one.outer = std::min(one.outer, radians(descriptor_of(to).most_outer));
            if (descriptor_of(to).exponent) {
                one.exponent = 8;
            } else if (descriptor_of(to).ramped && (!ramped || one.inner >= one.outer)) {
                one.inner = 0.7 * one.outer;
            }
        }
    }

    void fit_light_values(light& one) {
        if (!light_bound({"light"})) {
            if (!light_bound({"color"})) {
                neutral(one.color, rgb<double>(1.0), "white lights");
            }
            if (!light_bound({"intensity"})) {
                neutral(one.intensity, 1.0, "intensities 1");
            }
        }
    }

    std::string fit_lights() {
        std::vector<named_light> kept;
        std::vector<bool> taken(made_.lights.size(), false);
        const auto take = [&](std::size_t i) {
            kept.push_back(made_.lights[i]);
            taken[i] = true;
        };
        if (claimed_.in_order) {
            for (const light_kind kind : claimed_.kinds) {
                std::size_t i = 0;
                while (i < made_.lights.size() && (taken[i] || made_.lights[i].light.kind != kind)) {
                    ++i;
                }
                if (i == made_.lights.size() || static_cast<int>(kept.size()) >= claimed_.most) {
                    break;
                }
                take(i);
            }
        } else {
            std::map<light_kind, int> of_kind;
            for (std::size_t i = 0; i < made_.lights.size(); ++i) {
                const light_kind kind = made_.lights[i].light.kind;
                const auto most = claimed_.most_of_kind.find(kind);
                const bool fits = contains(claimed_.kinds, kind) &&
                                  static_cast<int>(kept.size()) < claimed_.most &&
                                  (most == claimed_.most_of_kind.end() || of_kind[kind] < most->second) &&
                                  (claimed_.names.empty() || claimed_.names.count(made_.lights[i].name) > 0);
                if (fits) {
                    ++of_kind[kind];
                    take(i);
                }
            }
        }
        for (const std::string& name : claimed_.names) {
            if (std::none_of(kept.begin(), kept.end(),
                             [&](const named_light& one) { return one.name == name; })) {
                return "the program wants a light `" + name + "`";
            }
        }
        if (static_cast<int>(kept.size()) < claimed_.fewest) {
            return "the program wants " + std::to_string(claimed_.fewest) +
                   (claimed_.fewest == 1 ? " light" : " lights") + " of its kinds, the scene has " +
                   std::to_string(kept.size());
        }
        for (const auto& [kind, fewest] : claimed_.fewest_of_kind) {
            const light_kind wanted = kind;
            if (std::count_if(kept.begin(), kept.end(),
                              [&](const named_light& one) { return one.light.kind == wanted; }) < fewest) {
                return "the program wants " + std::to_string(fewest) + " " + std::string(name_of(kind)) +
                       (fewest == 1 ? " light" : " lights");
            }
        }
        if (kept.size() != made_.lights.size()) {
            change(std::to_string(kept.size()) + " of " + std::to_string(made_.lights.size()) + " lights");
        }
        made_.lights = kept;
        for (named_light& one : made_.lights) {
            fit_law(one.light);
            fit_light_values(one.light);
        }
        return "";
    }

  public:
    fitting(const claims& claimed, const scene& given) : claimed_(claimed), made_(given) {}

    fitted_scene run() {
        fitted_scene result;
        fit_shading();
        fit_materials();
        fit_objects();
        result.skipped = fit_lights();
        if (made_.objects.empty()) {
            result.skipped = "nothing is left to show: its surfaces have no vertices";
        }
        if (result.skipped.empty() && claimed_.model != model_kind::unlit && made_.lights.empty() &&
            made_.ambient_strength == 0) {
            result.skipped = "nothing is left to show: the program takes none of its lights";
        }
        result.changes = changes_;
        if (result.skipped.empty()) {
            if (!changes_.empty()) {
                made_.expects.clear(); // they are of the scene as it was
            }
            result.fitted = std::move(made_);
        }
        return result;
    }
};

} // namespace

claims claims_of(const shader_program& given, const bindings& bound) {
    claims made;
    made.model = given.model;
    made.rate = given.rate;
    made.rule = given.ambient_rule;
    made.in_order = given.in_order;
    made.scale = given.scale;
    std::set<light_kind> sets_by_kind;
    int most_general = 0;
    int fewest_general = 0; // lights[1] alone, without a count, wants two: nothing says that there is none
    bool counted = false;
    const auto look_at = [&](const quantity& one, int each) {
        if (one.of != "lights") {
            made.bound.insert(one.of + "." + one.property);
            return;
        }
        if (one.property == "count") {
            counted = true;
            return;
        }
        made.light_bound.insert(one.property);
        if (!one.each && !one.only) {
            made.by_index.insert(one.property);
        }
        if (!one.name.empty()) {
            made.names.insert(one.name);
            return;
        }
        const int needs = (one.each ? each : *one.index) + 1;
        if (one.only) {
            sets_by_kind.insert(*one.only);
            int& fewest = made.fewest_of_kind[*one.only];
            fewest = std::max(fewest, one.each ? 0 : needs);
            made.most_of_kind[*one.only] = std::max(made.most_of_kind[*one.only], needs);
        } else {
            most_general = std::max(most_general, needs);
            fewest_general = std::max(fewest_general, one.each ? 0 : needs);
        }
    };
    for (const bound_uniform& one : bound.uniforms) {
        for (const auto& means : one.means) {
            if (const quantity* asked = std::get_if<quantity>(&means)) {
                look_at(*asked, one.each);
            }
        }
    }
    // What the driver has found to be unused is claimed all the same, of one light at least.
    for (const shader_binding& one : given.uniforms) {
        const std::string array = one.name.substr(0, one.name.find("[*]"));
        const std::size_t dot = array.find_last_of('.');
        const int size = array.size() == one.name.size()
                             ? 0
                             : declared_size(given, dot == std::string::npos ? array : array.substr(dot + 1));
        for (const auto& means : one.means) {
            if (const std::string* text = std::get_if<std::string>(&means)) {
                look_at(parse_quantity(*text, one.where), std::max(0, size - 1));
            }
        }
    }
    for (const shader_binding& one : given.attributes) {
        const std::string& means = std::get<std::string>(one.means.front());
        made.texcoords = made.texcoords || means == "texcoord";
        made.colors = made.colors || means == "color";
    }
    for (const bound_attribute& one : bound.attributes) {
        made.texcoords = made.texcoords || one.means == "texcoord";
        made.colors = made.colors || one.means == "color";
    }
    made.kinds = given.kinds.value_or(carried_kinds(made, sets_by_kind));
    if (!given.kinds) {
        std::erase_if(made.kinds, [&](light_kind kind) {
            return std::any_of(made.by_index.begin(), made.by_index.end(),
                               [&](const std::string& property) { return !kind_has(kind, property); });
        });
    }
    made.falloffs = given.falloffs.value_or(carried_falloffs(made));
    made.penumbras = given.penumbras.value_or(carried_penumbras(made));
    int most = most_general + static_cast<int>(made.names.size());
    for (const auto& [kind, count] : made.most_of_kind) {
        most += count;
    }
    made.most = most;
    if (given.lights) {
        made.fewest = (*given.lights)[0];
        made.most = (*given.lights)[1];
    } else if (!counted) {
        // A shader written for one lamp is given one; one that reads lights[0] and lights[1], two.
        made.fewest = most == 1 ? 1 : fewest_general;
    }
    if (given.lights || counted) {
        made.fewest_of_kind.clear();
    }
    return made;
}

fitted_scene fit_to(const claims& claimed, const scene& given) { return fitting(claimed, given).run(); }

} // namespace yurvo::program
