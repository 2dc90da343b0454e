// starters: right shader programs to start from, in each language.
#pragma once

#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// One file of a starter.
struct starter_file {
    std::string name, text; ///< its name in the folder, and its content
};

/// What a starter is to be.
struct starter_choice {
    shading_language language = shading_language::glsl; ///< of its sources
    std::string version; ///< of GLSL and GLSL ES: 330, 450, 100, 300; empty for the first of them
    yurvo::rate rate = yurvo::rate::fragment;           ///< where it lights
    shading_choice shading;                             ///< its model and ambient rule
    int most_lights = 16;                               ///< how many its arrays have room for
    yurvo::formulas::formula_texts formulas;            ///< in the places of parts of the model
    std::vector<yurvo::formulas::named_number> numbers; ///< of formulas, which become uniforms
    ambient_follows follows = ambient_follows::cone;    ///< what lights' ambient parts fall off with
};

/// The stages and the program file `NAME.toml`. Throws yurvo::error where there is no such starter.
std::vector<starter_file> starter_files(const starter_choice& chosen, const std::string& name);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
