// written_formulas: what the text of the stage that lights works out, as formulas that a claim may have: its
// falloff, its diffuse and specular shares, what it does with the colour at last. They are readings, which
// drawing confirms or does not.
#pragma once

#include <string>
#include <vector>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// A formula, and the uniforms that are numbers of the claim in it, by what it calls them.
struct written_formula {
    formulas::slot where{};
    std::string text;
    struct number {
        std::string uniform, name;
        std::vector<double> values;
        bool told = false; // its name says that it is one: `fogDensity`, `exposure`
    };
    std::vector<number> numbers;
    bool whole = false; // of a specular formula: the diffuse share is in it
};

// The sources without comments.
struct stage_texts {
    std::string vertex, fragment;

    explicit stage_texts(const shader_program& of);
    // Of the stage that works out the light.
    [[nodiscard]] const std::string& lit_at(rate at) const { return at == rate::vertex ? vertex : fragment; }
};

// What says no more than the models' own formulas is left
// out, and what would not be taken as a formula.
std::vector<written_formula> written_formulas(const shader_program& of, const stage_texts& texts);

} // namespace yurvo::inline v0_1::program
