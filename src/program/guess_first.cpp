#include "program/guess_first.hpp"

#include <algorithm>
#include <initializer_list>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_words.hpp"
#include "program/source_text.hpp"
#include "program/written_formulas.hpp"
#include "program/written_names.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Whether a text makes the vector half way between two that are unit: what it reflects besides is for a
// mirror's sake.
bool halves(const std::string& text) {
    static const text_pattern half(R"(\bnormalize\s*\(\s*\w+\s*\+\s*\w+\s*\))");
    return half.is_in(text);
}

} // namespace

shader_program first_reading(const shader_program& sources, const guessed_bindings& guessed,
                             std::map<std::string, std::string>& how) {
    shader_program first = sources;
    first.rate = likely_rate(sources, guessed);
    const std::string text =
        without_comments(sources.fragment.source) + without_comments(sources.vertex.source);
    const auto add = [&](std::vector<shader_binding>& to, const guessed_name& name,
                         const std::string& means) {
        shader_binding binding;
        binding.name = name.name;
        binding.means = {1.0};
        binding.where = {first.file, 0, 0};
        to.push_back(std::move(binding));
        if (!means.empty()) {
            take_as(to, name.name, means);
        }
    };
    for (const guessed_name& each : guessed.attributes) {
        add(first.attributes, each,
            each.means.empty() ? attribute_by_use(sources, guessed, each) : each.means);
    }
    for (const guessed_name& each : guessed.uniforms) {
        std::string means = each.means;
        if (means.empty()) {
            const std::vector<std::string> options = meanings_of(each);
            shader_binding called;
            called.name = each.name;
            const bool none = options.empty() || names_a_number(called); // see take_told()
            means = !each.alone.empty() ? means_by_components(text, each) : none ? "" : options.front();
            how[each.name] = "open: its name says nothing, and trying has not settled it";
        } else {
            how[each.name] = by_name;
        }
        add(first.uniforms, each, means);
    }
    // A specular term that nobody feeds is none.
    const auto means_any = [&](std::initializer_list<const char*> parts) {
        return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& each) {
            return std::any_of(parts.begin(), parts.end(),
                               [&](const char* part) { return each.means.find(part) != std::string::npos; });
        });
    };
    // `if (blinn) ... else ...`: it is, then.
    const bool chooses_half_vector =
        std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [](const guessed_name& each) {
            return each.means == "1" && lowered(each.name).find("blinn") != std::string::npos;
        });
    static const text_pattern power(R"(\b(?:pow|lit)\s*\()");
    const bool raises = power.is_in(text);
    if (!raises && !means_any({"specular", "shininess"})) {
        first.model = means_any({"lights"}) || text.find("dot") != std::string::npos ? model_kind::lambert
                                                                                     : model_kind::unlit;
    } else if (text.find("reflect") != std::string::npos && !chooses_half_vector && !halves(text)) {
        first.model = model_kind::phong;
    }
    // Without a base colour the other factors hold it.
    const bool base =
        std::any_of(first.uniforms.begin(), first.uniforms.end(), [](const shader_binding& each) {
            return text_of(each).starts_with("material.base") || text_of(each) == "material.texture";
        });
    const bool factors =
        std::any_of(first.uniforms.begin(), first.uniforms.end(),
                    [](const shader_binding& each) { return text_of(each) == "material.ambient"; });
    // Beside a diffuse colour an ambient one is a colour, too.
    const bool colors_of_terms =
        std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [](const guessed_name& each) {
            const std::string member = lowered(each.name.substr(each.name.find_last_of('.') + 1));
            return each.means == "material.base" &&
                   (member.find("kd") != std::string::npos || member.find("dif") != std::string::npos);
        });
    for (shader_binding& each : first.uniforms) {
        const std::string means = text_of(each);
        if (colors_of_terms && means == "material.ambient") {
            each.means = {"= material.base * material.ambient"};
        } else if (!base && means == "material.diffuse" && !factors) {
            each.means = {"material.base"};
        } else if (!base && (means == "material.diffuse" || means == "material.ambient")) {
            each.means = {"= material.base * " + means};
        }
    }
    // What has its colour from a texture or its vertices alone has no base colour besides.
    const auto brings = [](const std::vector<shader_binding>& names, const char* what) {
        return std::any_of(names.begin(), names.end(), [&](const shader_binding& each) {
            return text_of(each).find(what) != std::string::npos;
        });
    };
    if (!brings(first.uniforms, "material.base") &&
        (brings(first.uniforms, "material.texture") || brings(first.attributes, "color"))) {
        first.without.emplace_back("material.base");
    }
    // A power that nothing is raised to is a lamp's.
    for (const guessed_name& each : guessed.uniforms) {
        if (each.means == "material.shininess" && !raises &&
            lowered(each.name).find("power") != std::string::npos) {
            take_as(first.uniforms, each.name, "lights[0].intensity");
        }
    }
    take_output(first, text); // the display's curve is no formula
    // Before the hints: what is a number of the claim is no light's strength, for one.
    for (const std::string& place : take_told(first, stage_texts(sources))) {
        how[place] = as_the_text_has_it;
    }
    take_hints(first, text);
    for (const shader_binding& each : first.uniforms) { // no name says that
        if (text_of(each).starts_with("numbers.")) {
            how[each.name] = "by what the text does with it";
        }
    }
    return first;
}

} // namespace yurvo::inline v0_1::program
