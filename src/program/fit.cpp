#include "program/fit.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

#include "program/constants.hpp"
#include "program/fit_lights.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// The same texture, of which a shader is given the codes.
std::shared_ptr<const texture> in_codes(const texture& image) {
    auto result = std::make_shared<texture>(image);
    result->of_codes = true;
    for (rgb<float>& texel : result->texels) {
        const auto code = [](float linear) {
            return static_cast<float>(srgb_encoded(static_cast<double>(linear)));
        };
        texel = {code(texel.r), code(texel.g), code(texel.b)};
    }
    return result;
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
    // An essential that is meant not to be there; one that is neither bound nor meant keeps the scene's
    // value, so that a shader that forgot it fails.
    // Nor is what is bound: whatever `without` says, the program is given it.
    [[nodiscard]] bool meant_without(const char* what) const {
        return claimed_.without.count(what) > 0 && !claimed_.has_essential(what);
    }
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
        if (bands != cel.bands.size() && bands != 0) {
            change(std::to_string(bands) + " bands");
            spread_bands(bands);
        }
        if (grey("shading.bands")) {
            for (rgb<double>& band : cel.bands) {
                make_grey(band, "grey bands");
            }
        }
    }

    void spread_bands(std::size_t bands) {
        cel_settings& cel = made_.shading.cel;
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
            } else if (entry.image && !entry.image->of_codes && !bound("material.texture")) {
                entry.image = in_codes(*entry.image);
                change("textures that are blended in codes and decoded then");
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

    void fit_law(light& lamp, const law_numbers& given) {
        if (lamp.kind != light_kind::directional && !contains(claimed_.falloffs, lamp.falloff)) {
            const falloff_kind to = claimed_.falloffs.front();
            change("falloff " + std::string(name_of(to)) + " for " + std::string(name_of(lamp.falloff)));
            if (descriptor_of(to).coefficients) {
                lamp.coefficients = given.coefficients;
            }
            if (descriptor_of(to).range && !descriptor_of(lamp.falloff).range) {
                lamp.range = given.range;
            }
            lamp.falloff = to;
        }
        // Coefficients that were given for a formula are none of a law that does not use them.
        if (!claimed_.formulas.has(formulas::slot::falloff) && !descriptor_of(lamp.falloff).coefficients) {
            lamp.coefficients = {0, 0, 0};
        }
        if (lamp.kind != light_kind::directional && lamp.range == 0 && asks(formulas::input::range)) {
            lamp.range = given.range;
            change("ranges from 10 to 5, which a formula asks for");
        }
        if (lamp.kind != light_kind::spot) {
            return;
        }
        if (lamp.exponent == 0 && asks(formulas::input::exponent)) {
            lamp.exponent = given.exponent;
            change("exponents from 8 to 18, which a formula asks for");
        }
        const bool ramped = descriptor_of(lamp.penumbra).ramped;
        const penumbra_kind is = ramped && lamp.inner == lamp.outer ? penumbra_kind::hard : lamp.penumbra;
        if (!contains(claimed_.penumbras, is)) {
            const penumbra_kind to = claimed_.penumbras.front();
            change("penumbra " + std::string(name_of(to)) + " for " + std::string(name_of(is)));
            lamp.penumbra = to;
            lamp.outer = std::min(lamp.outer, radians(descriptor_of(to).most_outer));
            if (descriptor_of(to).exponent) {
                lamp.exponent = given.exponent;
            } else if (descriptor_of(to).ramped && (!ramped || lamp.inner >= lamp.outer)) {
                lamp.inner = 0.7 * lamp.outer;
            }
        }
    }

    void fit_light_values(named_light& of, int index) {
        light& lamp = of.light;
        const auto has = [&](const char* part) { return claimed_.light_has(part, of, index); };
        if (meant_without("light.color")) {
            neutral(lamp.color, rgb<double>(1.0), "white lights");
        }
        if (meant_without("light.intensity")) {
            neutral(lamp.intensity, 1.0, "intensities 1");
        }
        if (!has("ambient")) {
            neutral(lamp.ambient, rgb<double>(), "lights without ambient parts");
        } else if (has_ambient(lamp) && lamp.kind != light_kind::directional) {
            neutral(lamp.follows, claimed_.follows,
                    "ambient parts that follow `" + std::string(name_of(claimed_.follows)) + "`");
        }
        if (!has("diffuse")) {
            neutral(lamp.diffuse, rgb<double>(1.0), "diffuse parts of 1");
        }
        if (!has("specular")) {
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

    void fit_lights() {
        take_lights(claimed_, made_, [this](const std::string& what) { change(what); });
        for (std::size_t i = 0; i < made_.lights.size(); ++i) {
            fit_law(made_.lights[i].light, law_numbers_of(i));
            fit_light_values(made_.lights[i], static_cast<int>(i));
        }
        if (made_.lights.size() > 1) {
            std::for_each(made_.lights.begin() + 1, made_.lights.end(),
                          [&](named_light& each) { share_numbers(each.light, made_.lights.front().light); });
        }
    }

    // What one name of the program's holds for all lights, each takes from the first.
    void share_numbers(light& lamp, const light& first) {
        const auto share = [&](const char* what, auto& value, const auto& of_first, bool has,
                               const char* kind = "") {
            if (has && claimed_.shared.contains(what)) {
                neutral(value, of_first, "one " + std::string(what) + kind + " for all lights");
            }
        };
        const bool cone = lamp.kind == light_kind::spot && first.kind == light_kind::spot;
        share("range", lamp.range, first.range, lamp.range > 0 && first.range > 0);
        share("coefficients", lamp.coefficients, first.coefficients,
              descriptor_of(lamp.falloff).coefficients && descriptor_of(first.falloff).coefficients);
        share("outer", lamp.outer, first.outer, cone, " angle");
        share("inner", lamp.inner, first.inner, cone, " angle");
        lamp.inner = cone ? std::min(lamp.inner, lamp.outer) : lamp.inner;
        share("exponent", lamp.exponent, first.exponent, cone && lamp.exponent > 0 && first.exponent > 0);
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

fitted_scene fit_to_the_end(const claims& claimed, const scene& the_scene) {
    constexpr int most_steps = 4;
    fitted_scene result = fit_to(claimed, the_scene);
    for (int i = 0; result.fitted && !result.changes.empty(); ++i) {
        fitted_scene further = fit_to(claimed, *result.fitted);
        if (further.fitted && further.changes.empty()) {
            return result;
        }
        if (!further.fitted || i == most_steps) {
            result.fitted.reset();
            result.skipped =
                further.fitted ? "what the program binds of lights excludes one another" : further.skipped;
            break;
        }
        result.fitted = std::move(further.fitted);
        for (std::string& change : further.changes) {
            if (std::find(result.changes.begin(), result.changes.end(), change) == result.changes.end()) {
                result.changes.push_back(std::move(change));
            }
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
