#include "program/fit.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <memory>

#include "program/constants.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/validate.hpp"

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
    [[nodiscard]] bool bound(const char* what) const { return claimed_.has(what); }
    [[nodiscard]] bool light_bound(const char* what) const { return claimed_.light_has(what); }
    // An essential that is meant not to be there; one that is neither bound nor meant keeps the scene's
    // value, so that a shader that forgot it fails.
    [[nodiscard]] bool meant_without(const char* what) const { return claimed_.without.count(what) > 0; }
    [[nodiscard]] bool grey(const char* what) const { return claimed_.grey.count(what) > 0; }
    [[nodiscard]] bool whole(const char* what) const { return claimed_.whole.count(what) > 0; }
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
        const bool color = bound("ambient.color");
        const bool strength = bound("ambient.strength");
        if (meant_without("ambient")) {
            neutral(made_.ambient_strength, 0.0, "no ambient light");
        } else if (color && !strength) {
            neutral(made_.ambient_strength, 1.0, "ambient strength 1");
        } else if (strength && !color) {
            neutral(made_.ambient_color, rgb<double>(1.0), "white ambient light");
        }
        if (grey("ambient.color")) {
            make_grey(made_.ambient_color, "grey ambient light");
        }
        fit_lists();
    }

    // As many thresholds and bands as the arrays that they are bound to.
    void fit_lists() {
        if (made_.shading.model != model_kind::cel) {
            return;
        }
        cel_settings& cel = made_.shading.cel;
        std::size_t bands = claimed_.bands.value_or(cel.bands.size());
        if (claimed_.thresholds) {
            bands = std::min(bands, *claimed_.thresholds + 1);
            bands = claimed_.bands ? bands : *claimed_.thresholds + 1;
        }
        if (bands == cel.bands.size() || bands == 0) {
            return;
        }
        change(std::to_string(bands) + " bands");
        cel.bands.clear();
        cel.thresholds.clear();
        for (std::size_t i = 0; i < bands; ++i) {
            const double share = bands == 1 ? 1 : static_cast<double>(i) / static_cast<double>(bands - 1);
            cel.bands.emplace_back(0.15 + 0.85 * share);
            if (i > 0) {
                cel.thresholds.push_back(0.1 + 0.7 * static_cast<double>(i - 1) / static_cast<double>(bands));
            }
        }
    }

    void make_grey(rgb<double>& color, const std::string& what) {
        neutral(color, rgb<double>(color.r), what);
    }
    void make_whole(double& number, const std::string& what) { neutral(number, std::round(number), what); }

    void fit_materials() {
        for (named_material& entry : made_.materials) {
            material& look = entry.look;
            if (meant_without("material.base")) {
                neutral(look.base, rgb<double>(1.0), "white base colours");
            }
            if (!bound("material.alpha")) {
                neutral(look.alpha, 1.0, "alpha 1");
            }
            if (!bound("material.ambient")) {
                neutral(look.ambient, rgb<double>(1.0), "ambient factors 1");
            }
            if (!bound("material.diffuse")) {
                neutral(look.diffuse, rgb<double>(1.0), "diffuse factors 1");
            }
            if (meant_without("material.specular")) {
                neutral(look.specular, rgb<double>(1.0), "specular factors 1");
            }
            if (!bound("material.emission")) {
                neutral(look.emission, rgb<double>(), "no emission");
            }
            if (claimed_.normals == normals_claim::face) {
                neutral(look.two_sided, true, "two-sided materials, since the normals face the eye");
            } else if (!bound("material.two_sided")) {
                neutral(look.two_sided, false, "no two-sided materials");
            }
            for (const auto& [what, color] : {std::pair{"material.base", &look.base},
                                              {"material.ambient", &look.ambient},
                                              {"material.diffuse", &look.diffuse},
                                              {"material.specular", &look.specular},
                                              {"material.emission", &look.emission}}) {
                if (grey(what)) {
                    make_grey(*color, "grey where only one component is bound");
                }
                if (whole(what)) {
                    neutral(*color,
                            rgb<double>(std::round(color->r), std::round(color->g), std::round(color->b)),
                            "whole numbers where a shader has them");
                }
            }
            if (whole("material.shininess")) {
                neutral(look.shininess, std::max(1.0, std::round(look.shininess)),
                        "whole numbers where a shader has them");
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
            if (claimed_.normals == normals_claim::face) {
                neutral(item.normals, normals_kind::flat, "flat normals");
            }
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
        // Coefficients that were given for a formula are none of a law that does not use them.
        if (!claimed_.formulas.has(formulas::slot::falloff) && !descriptor_of(lamp.falloff).coefficients) {
            lamp.coefficients = {0, 0, 0};
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
        if (meant_without("light.color")) {
            neutral(lamp.color, rgb<double>(1.0), "white lights");
        }
        if (meant_without("light.intensity")) {
            neutral(lamp.intensity, 1.0, "intensities 1");
        }
        if (!light_bound("ambient")) {
            neutral(lamp.ambient, rgb<double>(), "lights without ambient parts");
        } else if (has_ambient(lamp) && lamp.kind != light_kind::directional) {
            neutral(lamp.follows, claimed_.follows,
                    "ambient parts that follow `" + std::string(name_of(claimed_.follows)) + "`");
        }
        if (!light_bound("diffuse")) {
            neutral(lamp.diffuse, rgb<double>(1.0), "diffuse parts of 1");
        }
        if (!light_bound("specular")) {
            neutral(lamp.specular, rgb<double>(1.0), "specular parts of 1");
        }
        for (const auto& [what, color] : {std::pair{"lights.color", &lamp.color},
                                          {"lights.ambient", &lamp.ambient},
                                          {"lights.diffuse", &lamp.diffuse},
                                          {"lights.specular", &lamp.specular}}) {
            if (grey(what)) {
                make_grey(*color, "grey where only one component is bound");
            }
        }
        for (const auto& [what, number] : {std::pair{"lights.intensity", &lamp.intensity},
                                           {"lights.range", &lamp.range},
                                           {"lights.exponent", &lamp.exponent}}) {
            if (whole(what) && *number > 0) {
                neutral(*number, std::max(1.0, std::round(*number)), "whole numbers where a shader has them");
            }
        }
    }

    // ---- which lights

    [[nodiscard]] vec3<double> target() const { return made_.view.target; }

    // What a placed light at that distance lets arrive, by the law that it will have.
    [[nodiscard]] double falloff_at(double d) const {
        if (claimed_.formulas.has(formulas::slot::falloff)) {
            return 1 / (1 + d * d / 2);
        }
        switch (claimed_.falloffs.empty() ? falloff_kind::inverse_square : claimed_.falloffs.front()) {
        case falloff_kind::none:
            return 1;
        case falloff_kind::linear:
            return std::max(0.1, 1 - d / 10);
        case falloff_kind::polynomial:
            return 1 / (1 + 0.1 * d + 0.2 * d * d);
        case falloff_kind::windowed:
        case falloff_kind::inverse_square:
            break;
        }
        return 1 / (d * d);
    }

    // The same light as one of another kind: at the same place, or 4 m from the view's target against
    // `shines`; its cone around the target.
    void convert(named_light& named, light_kind to) const {
        constexpr double away = 4;
        named.light = light_in_world(named, make_camera(made_.view));
        named.space = light_space::world;
        light& lamp = named.light;
        const light_kind from = lamp.kind;
        const vec3<double> to_target = target() - lamp.position;
        const double d = std::max(length(to_target), 0.5);
        if (to == light_kind::directional) {
            lamp.shines = length(to_target) > 0 ? to_target : vec3<double>{0, -1, 0};
            lamp.intensity *= falloff_of_law(lamp, d);
        } else if (from == light_kind::directional) {
            lamp.position = target() - away * normalize(lamp.shines);
            lamp.falloff =
                claimed_.falloffs.empty() ? falloff_kind::inverse_square : claimed_.falloffs.front();
            lamp.coefficients = {0, 0, 0};
            if (descriptor_of(lamp.falloff).coefficients) {
                lamp.coefficients = {1, 0.1, 0.2};
            }
            lamp.range = descriptor_of(lamp.falloff).range ? 10 : 0;
            lamp.intensity /= falloff_at(away);
        }
        if (to == light_kind::spot) {
            const vec3<double> aimed = target() - lamp.position;
            lamp.shines = length(aimed) > 0 ? normalize(aimed) : vec3<double>{0, -1, 0};
            lamp.penumbra = penumbra_kind::smooth;
            lamp.inner = radians(14);
            lamp.outer = radians(32);
            lamp.exponent = 0;
        } else if (from == light_kind::spot) {
            const light usual;
            lamp.penumbra = usual.penumbra;
            lamp.inner = usual.inner;
            lamp.outer = usual.outer;
            lamp.exponent = usual.exponent;
            lamp.shines = to == light_kind::directional ? lamp.shines : usual.shines;
        }
        lamp.kind = to;
    }

    static double falloff_of_law(const light& lamp, double d) {
        switch (lamp.falloff) {
        case falloff_kind::none:
            return 1;
        case falloff_kind::linear:
            return std::max(0.05, 1 - d / lamp.range);
        case falloff_kind::polynomial:
            return 1 / (lamp.coefficients[0] + lamp.coefficients[1] * d + lamp.coefficients[2] * d * d);
        case falloff_kind::windowed:
        case falloff_kind::inverse_square:
            break;
        }
        return 1 / (d * d);
    }

    // The kind that a light of that kind becomes, of those allowed.
    static light_kind nearest_kind(light_kind from, const std::vector<light_kind>& allowed) {
        using enum light_kind;
        const std::array<light_kind, 3> order = from == directional ? std::array{directional, spot, point}
                                                : from == point     ? std::array{point, spot, directional}
                                                                    : std::array{spot, point, directional};
        for (const light_kind kind : order) {
            if (contains(allowed, kind)) {
                return kind;
            }
        }
        return from;
    }

    // One more light, where a scene has too few: from another side each.
    [[nodiscard]] named_light another(std::size_t number, light_kind kind) const {
        named_light result;
        const double angle = 0.8 + 2.4 * static_cast<double>(number);
        result.light.kind = light_kind::directional;
        result.light.shines = {std::cos(angle), -1.1, std::sin(angle)};
        result.light.color = number % 3 == 0   ? rgb<double>{1.0, 0.82, 0.55}
                             : number % 3 == 1 ? rgb<double>{0.55, 0.75, 1.0}
                                               : rgb<double>{0.8, 1.0, 0.6};
        result.light.intensity = 0.6;
        if (kind != light_kind::directional) {
            convert(result, kind);
        }
        return result;
    }

    void change_kind(named_light& lamp, light_kind to) {
        if (lamp.light.kind != to) {
            change("a " + std::string(name_of(lamp.light.kind)) + " light made " + std::string(name_of(to)));
            convert(lamp, to);
        }
    }

    // Light i is of kinds[i]: the first of that kind that is left, or another one made so.
    void put_in_order() {
        std::vector<named_light> left = std::move(made_.lights);
        std::vector<named_light> ordered;
        const auto wanted =
            std::min(claimed_.kinds.size(), static_cast<std::size_t>(std::max(claimed_.most, 0)));
        for (std::size_t i = 0; i < wanted; ++i) {
            const bool needed = static_cast<int>(i) < std::max(claimed_.fewest, 1);
            auto found = std::find_if(left.begin(), left.end(), [&](const named_light& lamp) {
                return lamp.light.kind == claimed_.kinds[i];
            });
            found = found == left.end() ? left.begin() : found;
            if (found == left.end()) {
                if (!needed) {
                    break;
                }
                ordered.push_back(another(i, claimed_.kinds[i]));
                change("lights added");
                continue;
            }
            ordered.push_back(*found);
            left.erase(found);
            change_kind(ordered.back(), claimed_.kinds[i]);
        }
        if (!left.empty()) {
            change("of its lights the first " + std::to_string(wanted));
        }
        made_.lights = std::move(ordered);
    }

    [[nodiscard]] int room_of(light_kind kind) const {
        const auto found = claimed_.most_of_kind.find(kind);
        const bool only_by_kind = !claimed_.most_of_kind.empty() && !claimed_.in_any_order;
        return only_by_kind ? (found == claimed_.most_of_kind.end() ? 0 : found->second) : claimed_.most;
    }

    // Every light as one that the program takes, as many as it takes.
    void take_lights() {
        std::vector<named_light> kept;
        std::map<light_kind, int> of_kind;
        // Those that it calls by name are never left out.
        std::stable_partition(made_.lights.begin(), made_.lights.end(), [&](const named_light& lamp) {
            return claimed_.names.empty() || claimed_.names.count(lamp.name) > 0;
        });
        for (named_light& lamp : made_.lights) {
            if (static_cast<int>(kept.size()) >= claimed_.most) {
                break;
            }
            std::vector<light_kind> roomy;
            for (const light_kind kind : claimed_.kinds) {
                if (of_kind[kind] < room_of(kind)) {
                    roomy.push_back(kind);
                }
            }
            if (roomy.empty()) {
                break;
            }
            change_kind(lamp, nearest_kind(lamp.light.kind, roomy));
            ++of_kind[lamp.light.kind];
            kept.push_back(lamp);
        }
        if (kept.size() < made_.lights.size()) {
            change("of its lights the first " + std::to_string(kept.size()));
        }
        made_.lights = std::move(kept);
        const auto add = [&](light_kind kind) {
            made_.lights.push_back(another(made_.lights.size(), kind));
            ++of_kind[kind];
            change("lights added");
        };
        for (const auto& [kind, fewest] : claimed_.fewest_of_kind) {
            while (of_kind[kind] < fewest) {
                add(kind);
            }
        }
        while (static_cast<int>(made_.lights.size()) < claimed_.fewest && !claimed_.kinds.empty()) {
            light_kind kind = claimed_.kinds[made_.lights.size() % claimed_.kinds.size()];
            for (const light_kind other : claimed_.kinds) {
                kind = of_kind[kind] < room_of(kind) ? kind : other;
            }
            add(kind);
        }
    }

    // A program that calls its lights by name has lights of those names.
    void name_lights() {
        for (const std::string& name : claimed_.names) {
            const auto called = [&](const named_light& lamp) { return lamp.name == name; };
            if (std::any_of(made_.lights.begin(), made_.lights.end(), called)) {
                continue;
            }
            auto free = std::find_if(made_.lights.begin(), made_.lights.end(), [&](const named_light& lamp) {
                return claimed_.names.count(lamp.name) == 0;
            });
            if (free == made_.lights.end()) {
                made_.lights.push_back(another(made_.lights.size(), claimed_.kinds.empty()
                                                                        ? light_kind::point
                                                                        : claimed_.kinds.front()));
                free = made_.lights.end() - 1;
            }
            free->name = name;
            change("a light called `" + name + "`");
        }
        for (named_light& lamp : made_.lights) {
            const auto kind = claimed_.kind_of_name.find(lamp.name);
            if (kind != claimed_.kind_of_name.end()) {
                change_kind(lamp, kind->second);
            }
        }
    }

    void fit_lights() {
        if (claimed_.in_order) {
            put_in_order();
        } else {
            take_lights();
        }
        name_lights();
        for (named_light& lamp : made_.lights) {
            fit_law(lamp.light);
            fit_light_values(lamp.light);
        }
    }

  public:
    fitting(const claims& claimed, const scene& the_scene)
        : claimed_(claimed), formulas_(parse_all(claimed.formulas, claimed.numbers)), made_(the_scene) {}

    fitted_scene run() {
        fitted_scene result;
        fit_shading();
        fit_materials();
        fit_objects();
        if (made_.objects.empty()) {
            result.skipped = "nothing is left to show: its surfaces have no vertices";
            return result;
        }
        fit_lights();
        const scene without_constants = made_;
        set_constants(claimed_, made_);
        if (!(made_ == without_constants)) {
            change("the program's constants");
        }
        if (const std::optional<fault> found = find_fault(made_)) {
            result.skipped = "with the program's claims it is no valid scene: " + found->wrong;
            return result;
        }
        result.changes = changes_;
        if (!changes_.empty()) {
            made_.expects.clear(); // they are of the scene as it was
        }
        result.fitted = std::move(made_);
        return result;
    }
};

} // namespace

fitted_scene fit_to(const claims& claimed, const scene& the_scene) {
    return fitting(claimed, the_scene).run();
}

} // namespace yurvo::program
