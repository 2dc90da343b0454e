// What a text works out, taken for formulas of the claim.
#include <algorithm>
#include <string>
#include <vector>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/written_formulas.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

void take(shader_program& changed, const written_formula& written) {
    changed.formulas[written.where] = written.text;
    if (written.whole) {
        changed.formulas[slot::diffuse] = "0.0";
        changed.model = model_kind::blinn_phong;
        const char* const factor = "material.specular";
        if (std::find(changed.without.begin(), changed.without.end(), factor) == changed.without.end()) {
            changed.without.emplace_back(factor);
        }
    }
    if (written.where == slot::falloff) {
        const auto speaks_of = [&](const char* what) { return written.text.find(what) != std::string::npos; };
        // Under any law the scenes have a range where a formula asks for one.
        changed.falloffs = std::vector{speaks_of("coefficients") ? falloff_kind::polynomial
                                       : speaks_of("range")      ? falloff_kind::linear
                                                                 : falloff_kind::inverse_square};
    }
    if (written.where == slot::penumbra) { // of the angles that it asks for
        changed.penumbras = std::vector{penumbra_kind::smooth};
    }
    for (const written_formula::number& number : written.numbers) {
        take_as(changed.uniforms, number.uniform, "numbers." + number.name);
        const bool known = std::any_of(changed.numbers.begin(), changed.numbers.end(),
                                       [&](const auto& other) { return other.name == number.name; });
        if (!known) {
            changed.numbers.push_back({number.name, number.values});
        }
    }
}

} // namespace

std::vector<move> moves_of_written(const shader_program& of, const stage_texts& texts) {
    std::vector<move> moves;
    for (const written_formula& each : written_formulas(of, texts)) {
        moves.push_back({std::string(formulas::descriptor_of(each.where).name), as_the_text_has_it,
                         [each](shader_program& changed) { take(changed, each); }, ""});
    }
    return moves;
}

std::vector<std::string> take_told(shader_program& of, const stage_texts& texts) {
    std::vector<std::string> taken;
    for (const written_formula& each : written_formulas(of, texts)) {
        const bool told = !each.numbers.empty() && std::all_of(each.numbers.begin(), each.numbers.end(),
                                                               [](const auto& one) { return one.told; });
        const std::string place(formulas::descriptor_of(each.where).name);
        if (told && of.formulas[each.where].empty()) {
            take(of, each);
            taken.push_back(place);
        }
    }
    return taken;
}

} // namespace yurvo::inline v0_1::program
