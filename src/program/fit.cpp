#include "program/fit.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

namespace yurvo::program {

namespace {

template <class Value> bool contains(const std::vector<Value>& all, Value value) {
    return std::find(all.begin(), all.end(), value) != all.end();
}

class fitting {
    const claims& claimed_;
    formulas::formula_set formulas_;
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
                           [&](const char* letter) { return claimed_.light_bound.count(letter) > 0; });
    }
    // Sets a value where it differs.
    template <class Value> void neutral(Value& value, const Value& to, const std::string& what) {
        if (!(value == to)) {
            value = to;
            change(what);
        }
    }

    void fit_shading() {
        if (claimed_.own.name.empty()) {
            neutral(made_.shading.model, claimed_.model,
                    "drawn with the model " + std::string(name_of(claimed_.model)));
        } else {
            made_.shading.model = claimed_.model;
        }
        neutral(made_.shading.own, claimed_.own,
                claimed_.own.name.empty() ? "without its C++ model"
                                          : "drawn with the model " + claimed_.own.name);
        neutral(made_.formulas, claimed_.formulas,
                claimed_.formulas.any() ? "with the program's formulas" : "without formulas");
        made_.numbers = claimed_.numbers;
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
        for (named_material& entry : made_.materials) {
            material& look = entry.look;
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
                descriptor_of(claimed_.model).specular || claimed_.formulas.has(formulas::slot::specular);
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
            const bool color_comes_first =
                claimed_.formulas.has(formulas::slot::color) && claimed_.rate != rate::fragment;
            if ((!textures || color_comes_first) && entry.image) {
                entry.image = nullptr;
                entry.texture_file.clear();
                change("no textures");
            }
        }
    }

    void fit_objects() {
        const std::size_t before = made_.objects.size();
        std::erase_if(made_.objects,
                      [](const object& item) { return std::holds_alternative<field_shape>(item.shape); });
        if (made_.objects.size() != before) {
            change("without implicit surfaces, which have no vertices");
        }
        for (object& item : made_.objects) {
            vec3<double>& scale = item.placed.scale;
            if (claimed_.scale == scale_claim::none) {
                neutral(scale, vec3<double>{1, 1, 1}, "no scale");
            } else if (claimed_.scale == scale_claim::uniform &&
                       !(scale.x == scale.y && scale.y == scale.z)) {
                const double even = std::cbrt(std::abs(scale.x * scale.y * scale.z));
                scale = {even, even, even};
                change("even scales");
            }
            auto* the_shape = std::get_if<mesh_shape>(&item.shape);
            if (the_shape != nullptr && !the_shape->data->colors.empty() && !claimed_.colors) {
                auto data = std::make_shared<mesh>(*the_shape->data);
                data->colors.clear();
                the_shape->data = data;
                change("no vertex colours");
            }
        }
    }

    [[nodiscard]] bool asks(formulas::input which) const { return formulas_.uses(which); }

    void fit_law(light& lamp) {
        if (lamp.kind != light_kind::directional && !contains(claimed_.falloffs, lamp.falloff)) {
            const falloff_kind to = claimed_.falloffs.front();
            change("falloff " + std::string(name_of(to)) + " for " + std::string(name_of(lamp.falloff)));
            if (descriptor_of(to).coefficients) {
                lamp.coefficients = {1, 0.1, 0.2};
            }
            if (descriptor_of(to).range && !descriptor_of(lamp.falloff).range) {
                lamp.range = 10;
            }
            lamp.falloff = to;
        }
        if (lamp.kind != light_kind::directional && lamp.range == 0 && asks(formulas::input::range)) {
            lamp.range = 10;
            change("a range of 10, which a formula asks for");
        }
        if (lamp.kind != light_kind::spot) {
            return;
        }
        if (lamp.exponent == 0 && asks(formulas::input::exponent)) {
            lamp.exponent = 8;
            change("an exponent of 8, which a formula asks for");
        }
        const bool ramped = descriptor_of(lamp.penumbra).ramped;
        const penumbra_kind is = ramped && lamp.inner == lamp.outer ? penumbra_kind::hard : lamp.penumbra;
        if (!contains(claimed_.penumbras, is)) {
            const penumbra_kind to = claimed_.penumbras.front();
            change("penumbra " + std::string(name_of(to)) + " for " + std::string(name_of(is)));
            lamp.penumbra = to;
            lamp.outer = std::min(lamp.outer, radians(descriptor_of(to).most_outer));
            if (descriptor_of(to).exponent) {
                lamp.exponent = 8;
            } else if (descriptor_of(to).ramped && (!ramped || lamp.inner >= lamp.outer)) {
                lamp.inner = 0.7 * lamp.outer;
            }
        }
    }

    void fit_light_values(light& lamp) {
        if (!light_bound({"light", "diffuse_light", "specular_light"})) {
            if (!light_bound({"color"})) {
                neutral(lamp.color, rgb<double>(1.0), "white lights");
            }
            if (!light_bound({"intensity"})) {
                neutral(lamp.intensity, 1.0, "intensities 1");
            }
        }
        if (!light_bound({"ambient", "ambient_light"})) {
            neutral(lamp.ambient, rgb<double>(), "lights without ambient parts");
        } else if (has_ambient(lamp) && lamp.kind != light_kind::directional) {
            neutral(lamp.follows, claimed_.follows,
                    "ambient parts that follow `" + std::string(name_of(claimed_.follows)) + "`");
        }
        if (!light_bound({"diffuse", "diffuse_light"})) {
            neutral(lamp.diffuse, rgb<double>(1.0), "diffuse parts of 1");
        }
        if (!light_bound({"specular", "specular_light"})) {
            neutral(lamp.specular, rgb<double>(1.0), "specular parts of 1");
        }
    }

    // One light of each kind in the order of the kinds, as far as they go.
    [[nodiscard]] std::vector<named_light> lights_in_order() const {
        std::vector<named_light> kept;
        std::vector<bool> taken(made_.lights.size(), false);
        for (const light_kind kind : claimed_.kinds) {
            std::size_t i = 0;
            while (i < made_.lights.size() && (taken[i] || made_.lights[i].light.kind != kind)) {
                ++i;
            }
            if (i == made_.lights.size() || static_cast<int>(kept.size()) >= claimed_.most) {
                break;
            }
            kept.push_back(made_.lights[i]);
            taken[i] = true;
        }
        return kept;
    }

    // Every light that the program can be given, from the first.
    [[nodiscard]] std::vector<named_light> lights_that_fit() const {
        std::vector<named_light> kept;
        std::map<light_kind, int> of_kind;
        for (const named_light& lamp : made_.lights) {
            const light_kind kind = lamp.light.kind;
            const auto most = claimed_.most_of_kind.find(kind);
            if (contains(claimed_.kinds, kind) && static_cast<int>(kept.size()) < claimed_.most &&
                (most == claimed_.most_of_kind.end() || of_kind[kind] < most->second) &&
                (claimed_.names.empty() || claimed_.names.count(lamp.name) > 0)) {
                ++of_kind[kind];
                kept.push_back(lamp);
            }
        }
        return kept;
    }

    // What the program wants and the lights that are kept do not give; empty where they do.
    [[nodiscard]] std::string missing_light(const std::vector<named_light>& kept) const {
        for (const std::string& name : claimed_.names) {
            if (std::none_of(kept.begin(), kept.end(),
                             [&](const named_light& lamp) { return lamp.name == name; })) {
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
                              [&](const named_light& lamp) { return lamp.light.kind == wanted; }) < fewest) {
                return "the program wants " + std::to_string(fewest) + " " + std::string(name_of(kind)) +
                       (fewest == 1 ? " light" : " lights");
            }
        }
        return "";
    }

    // Gives why it cannot be done, or nothing.
    std::string fit_lights() {
        const std::vector<named_light> kept = claimed_.in_order ? lights_in_order() : lights_that_fit();
        if (std::string missing = missing_light(kept); !missing.empty()) {
            return missing;
        }
        if (kept.size() != made_.lights.size()) {
            change(std::to_string(kept.size()) + " of " + std::to_string(made_.lights.size()) + " lights");
        }
        made_.lights = kept;
        for (named_light& lamp : made_.lights) {
            fit_law(lamp.light);
            fit_light_values(lamp.light);
        }
        return "";
    }

  public:
    fitting(const claims& claimed, const scene& the_scene)
        : claimed_(claimed), formulas_(parse_all(claimed.formulas, claimed.numbers)), made_(the_scene) {}

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

fitted_scene fit_to(const claims& claimed, const scene& the_scene) {
    return fitting(claimed, the_scene).run();
}

} // namespace yurvo::program
