// What a claim leaves out: what it hides by that, and how it is widened again.
#include <algorithm>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/guess_text.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

bool reads_any(const shader_program& of, const char* quantity) {
    return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
        return std::any_of(each.means.begin(), each.means.end(), [&](const auto& one) {
            const std::string* means = std::get_if<std::string>(&one);
            return means != nullptr && means->find(quantity) != std::string::npos;
        });
    });
}

namespace {

// Of an angle, a reach or a place there is one for each light: by two names it hides what is done with both.
bool binds_twice(const shader_program& of) {
    std::set<std::string> bound;
    for (const shader_binding& each : of.uniforms) {
        const std::string means = text_of(each);
        std::string property = means.starts_with("lights") ? means.substr(means.find_last_of('.') + 1) : "";
        for (const char* const angle : {"inner", "outer"}) { // itself, in degrees, its cosine
            property = property.find(angle) == std::string::npos ? property : angle;
        }
        const bool one_each = property == "inner" || property == "outer" || property == "range" ||
                              property == "exponent" || property == "intensity" ||
                              property.starts_with("coefficients") || property.starts_with("position");
        if (one_each && !bound.insert(means.substr(0, means.find_last_of('.')) + property).second) {
            return true;
        }
    }
    return false;
}

} // namespace

bool leaves_unseen(const shader_program& of) {
    if (binds_twice(of)) {
        return true;
    }
    const auto takes = [&](light_kind kind) {
        return !of.kinds || std::find(of.kinds->begin(), of.kinds->end(), kind) != of.kinds->end();
    };
    using enum light_kind;
    const bool placed = reads_any(of, "].position") || reads_any(of, "].place");
    const bool coned = reads_any(of, "].inner") || reads_any(of, "].outer") || reads_any(of, "].cos_inner") ||
                       reads_any(of, "].cos_outer") || reads_any(of, "].exponent");
    // Without its outer angle no light is a spot, whatever else is bound of cones.
    const bool edged = reads_any(of, "].outer") || reads_any(of, "].cos_outer") ||
                       std::any_of(of.constants.begin(), of.constants.end(), [](const shader_constant& each) {
                           return each.quantity.find("outer") != std::string::npos;
                       });
    const bool falls = reads_any(of, "].coefficients") || reads_any(of, "].range");
    const bool of_a_kind = (reads_any(of, "lights.spot[") && !takes(spot)) ||
                           (reads_any(of, "lights.point[") && !takes(point)) ||
                           (reads_any(of, "lights.directional[") && !takes(directional));
    const auto any_of = [](const auto& claimed, auto... wanted) {
        return !claimed || std::any_of(claimed->begin(), claimed->end(),
                                       [&](const auto& each) { return ((each == wanted) || ...); });
    };
    const std::string& formula = of.formulas[slot::falloff];
    const auto speaks_of = [&](const char* what) { return formula.find(what) != std::string::npos; };
    const bool by_law =
        formula.empty() ? any_of(of.falloffs, falloff_kind::polynomial) : speaks_of("coefficients");
    const bool by_range = formula.empty() ? any_of(of.falloffs, falloff_kind::linear, falloff_kind::windowed)
                                          : speaks_of("range");
    const bool by_cone = !of.formulas[slot::penumbra].empty() || any_of(of.penumbras, penumbra_kind::power);
    const bool shines = of.model == model_kind::phong || of.model == model_kind::blinn_phong ||
                        !of.formulas[slot::specular].empty();
    const bool directed = reads_any(of, "].shines") || reads_any(of, "].axis") || reads_any(of, "].to_light");
    // As spots alone are, beside a cone.
    const bool aimed = reads_any(of, "].shines") || reads_any(of, "].axis") ||
                       std::any_of(of.constants.begin(), of.constants.end(), [](const shader_constant& each) {
                           return each.quantity.ends_with(".shines") || each.quantity.ends_with(".axis");
                       });
    // Who binds ambient light does not go without it.
    const bool none_of_ambient =
        std::find(of.without.begin(), of.without.end(), "ambient") != of.without.end() &&
        reads_any(of, "ambient.");
    // Nor is a highlight to be seen under a factor that is next to nothing.
    const bool no_highlight =
        std::any_of(of.constants.begin(), of.constants.end(), [](const shader_constant& each) {
            return each.quantity == "material.specular" &&
                   std::all_of(each.numbers.begin(), each.numbers.end(),
                               [](double number) { return number < 0.02; });
        });
    // Who reads a polynomial's first coefficient reads another: alone it is 0 or 1 as often as not.
    const bool first_alone = reads_any(of, "coefficients[0]") && !reads_any(of, "coefficients[1]") &&
                             !reads_any(of, "coefficients[2]");
    return of_a_kind || none_of_ambient || no_highlight || first_alone ||
           (placed && !(takes(point) || takes(spot) || reads_any(of, "].place"))) ||
           (directed && !(takes(directional) || takes(spot))) ||
           (reads_any(of, "].kind") && of.kinds && of.kinds->size() < 2) ||
           (coned && !(placed && takes(spot) && aimed && edged)) ||
           (falls && !(placed && (takes(point) || takes(spot)))) ||
           (reads_any(of, "].coefficients") && !by_law) || (reads_any(of, "].range") && !by_range) ||
           (reads_any(of, "].exponent") && !by_cone) || (reads_any(of, "material.shininess") && !shines);
}

std::vector<move> moves_that_widen(const shader_program& of) {
    std::vector<move> all;
    for (const move& each : moves_that_omit()) { // who wrote `without` knows which mistake it takes out
        shader_program only;
        each.make(only);
        if (only.without.empty() ||
            std::find(of.without.begin(), of.without.end(), only.without.front()) == of.without.end()) {
            continue;
        }
        all.push_back(
            {"without", "",
             [what = only.without.front()](shader_program& from) { std::erase(from.without, what); },
             each.omits});
    }
    if (of.kinds) {
        all.push_back({"kinds", "", [](shader_program& from) { from.kinds.reset(); }, ""});
    }
    if (of.scale == scale_claim::none) { // a little first
        all.push_back({"scale", "tried: only there it fits",
                       [](shader_program& from) { from.scale = scale_claim::uniform; }, ""});
    }
    if (of.scale != scale_claim::any) {
        all.push_back({"scale", "", [](shader_program& from) { from.scale = scale_claim::any; },
                       "normal-without-inverse-transpose"});
    }
    return all;
}

std::vector<move> moves_that_gate(const shader_program& of) {
    const std::string& specular = of.formulas[slot::specular];
    const auto mistakes = mistakes_in_formulas(of);
    const bool open = std::any_of(mistakes.begin(), mistakes.end(),
                                  [](const auto& each) { return each.second == "specular-on-unlit-side"; });
    if (specular.empty() || !open) {
        return {};
    }
    std::vector<move> all;
    for (const auto& [lobe, model] :
         {std::pair("pow(max(dot(r, v), 0.0), shininess)", model_kind::phong),
          std::pair("pow(max(dot(n, h), 0.0), shininess)", model_kind::blinn_phong)}) {
        if (specular == lobe) { // the model's own
            all.push_back({"specular", "",
                           [model = model](shader_program& changed) {
                               changed.formulas[slot::specular].clear();
                               changed.model = model;
                           },
                           "specular-on-unlit-side"});
        }
    }
    const std::string lobe = specular.find('?') == std::string::npos ? specular : "(" + specular + ")";
    for (const char* const nothing : {"0.0", "vec3(0.0)"}) { // of the type that it has
        const std::string gated = "dot(n, l) > 0.0 ? " + lobe + " : " + nothing;
        all.push_back({"specular", "",
                       [gated](shader_program& changed) { changed.formulas[slot::specular] = gated; },
                       "specular-on-unlit-side"});
    }
    std::erase_if(all, [&](const move& each) {
        shader_program made = of;
        each.make(made);
        try {
            formulas::parse_all(made.formulas, made.numbers);
            return false;
        } catch (const formulas::fault_in_text&) {
            return true;
        }
    });
    return all;
}

std::vector<std::pair<std::string, std::string>> claimed_mistakes(const shader_program& of) {
    std::vector<std::pair<std::string, std::string>> found;
    const auto add = [&](const std::string& about, const std::string& mistake) {
        const std::pair<std::string, std::string> made{about, mistake};
        if (std::find(found.begin(), found.end(), made) == found.end()) {
            found.push_back(made);
        }
    };
    const auto as_file = [](const shader_program& each) {
        std::string text = written_claim(each);
        std::erase(text, ' '); // formulas are spaced as people like
        return text;
    };
    const std::string said = as_file(of);
    for (const move& each : unlikely_moves_of_claim()) {
        shader_program made = of;
        if (!each.omits.empty()) {
            each.make(made);
            if (as_file(made) == said) { // it is claimed already
                add(each.about, each.omits);
            }
        }
    }
    std::string specular = of.formulas[slot::specular];
    std::erase(specular, ' ');
    const bool both = of.formulas[slot::diffuse] == "0.0"; // the diffuse share is in it
    if (specular.find("*base") != std::string::npos && !both) {
        add("specular", "specular-tinted-by-base");
    }
    for (const auto& [about, mistake] : mistakes_in_formulas(of)) {
        add(about, mistake);
    }
    // Normals that are moved as points are need scales that leave them where they are.
    const bool own_matrix = reads_any(of, "normal_to_");
    if (of.scale != scale_claim::any && !own_matrix && of.normals == normals_claim::any) {
        add("scale", "normal-without-inverse-transpose");
    }
    for (const shader_binding& each : of.uniforms) {
        for (const auto& means : each.means) {
            const std::string* const text = std::get_if<std::string>(&means);
            if (text != nullptr && text->starts_with("= -lights") &&
                text->find(".axis") != std::string::npos) {
                add(each.name, "cone-axis-flipped");
            }
        }
    }
    return found;
}

} // namespace yurvo::inline v0_1::program
