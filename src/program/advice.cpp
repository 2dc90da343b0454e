#include "program/advice.hpp"

#include <algorithm>

#include "program/carried_lights.hpp"
#include "program/guess_moves.hpp"
#include "program/quantities.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Whether a law of the claim's, or a formula of it, uses a property of lights; true of what is no number of a
// law.
bool used_by_laws(const claims& claimed, const std::string& property) {
    using formulas::input;
    const formulas::formula_set written = parse_all(claimed.formulas, claimed.numbers);
    const auto falloffs = [&](auto uses) {
        return !claimed.formulas.has(formulas::slot::falloff) &&
               std::any_of(claimed.falloffs.begin(), claimed.falloffs.end(),
                           [&](falloff_kind each) { return uses(descriptor_of(each)); });
    };
    const auto penumbras = [&](auto uses) {
        return !claimed.formulas.has(formulas::slot::penumbra) &&
               std::any_of(claimed.penumbras.begin(), claimed.penumbras.end(),
                           [&](penumbra_kind each) { return uses(descriptor_of(each)); });
    };
    const std::string number = number_of_law(property);
    if (number == "range") {
        return written.uses(input::range) || falloffs([](const auto& law) { return law.range; });
    }
    if (number == "coefficients") {
        return written.uses(input::coefficients) ||
               falloffs([](const auto& law) { return law.coefficients || law.as_coefficients; });
    }
    if (number == "exponent") {
        return written.uses(input::exponent) || penumbras([](const auto& law) { return law.exponent; });
    }
    if (number == "inner") {
        return written.uses(input::inner) || written.uses(input::cos_inner) ||
               penumbras([](const auto& law) { return law.ramped; });
    }
    return true;
}

} // namespace

std::vector<std::string> advice_on(const claims& claimed, const shader_program& source) {
    const model_descriptor& model = descriptor_of(claimed.model);
    const bool own = !claimed.own.name.empty();
    const bool shines = model.specular || claimed.formulas.has(formulas::slot::specular);
    const bool lights = !claimed.light_bound.empty();
    const bool colored = (model.sums_terms || own) && !claimed.kinds.empty() && claimed.most > 0 && lights;
    struct essential {
        const char* name;
        bool needed;
        const char* what;
    };
    std::vector<std::string> lines;
    if ((model.lit || own) && !lights && claimed.most > 0) {
        lines.emplace_back("nothing is bound of any light: if it takes none, say so: lights = [0, 0]");
    }
    for (const essential& each :
         {essential{"ambient", model.sums_terms || own, "no ambient light"},
          {"light.color", colored, "white light"},
          {"light.intensity", colored || model.kind == model_kind::cel, "light of intensity 1"},
          {"material.base", true, "no base colour"},
          {"material.specular", shines, "a specular factor of 1"}}) {
        const bool there = claimed.has_essential(each.name);
        const bool without = claimed.without.count(each.name) > 0;
        if (each.needed && !there && !without) {
            lines.push_back("nothing is bound to `" + std::string(each.name) + "`: if " + each.what +
                            " is meant, say so: without = [\"" + each.name + "\"]");
        }
        if (there && without) {
            lines.push_back("`without` names `" + std::string(each.name) +
                            "`, which is bound: it is looked at all the same, so leave it out there");
        }
    }
    if (shines && !claimed.has("material.shininess") &&
        (!claimed.formulas.has(formulas::slot::specular) ||
         parse_all(claimed.formulas, claimed.numbers).uses(formulas::input::shininess))) {
        lines.emplace_back(
            "nothing is bound to `material.shininess`: if it is written into the shader, say so in "
            "[constants]: \"material.shininess\" = 32");
    }
    for (const std::string& property : claimed.light_bound) {
        const bool seen = std::any_of(claimed.kinds.begin(), claimed.kinds.end(),
                                      [&](light_kind kind) { return kind_has(kind, property); });
        if (!seen && claimed.most > 0) {
            lines.push_back(
                "`" + property +
                "` of lights is bound, and no light that the claim takes has it: what the shader does "
                "with it is not looked at");
        } else if (seen && !used_by_laws(claimed, property)) {
            lines.push_back("`" + property +
                            "` of lights is bound, and no law of the claim uses it: say which does, or leave "
                            "it out");
        }
    }
    for (const std::string& property : claimed.shared) {
        lines.push_back(
            "`" + property +
            "` is bound of the first light alone and taken for every light's: where each has its own, "
            "bind that too");
    }
    for (const auto& [about, mistake] : claimed_mistakes(source)) {
        lines.push_back("`" + about + "` claims what would otherwise be the mistake `" + mistake +
                        "`: keep it only if it is meant");
    }
    if (lets_light_through(source)) {
        lines.emplace_back("`diffuse` claims that light from straight behind a surface lights it: keep it "
                           "only if it is meant");
    }
    return lines;
}

} // namespace yurvo::inline v0_1::program
