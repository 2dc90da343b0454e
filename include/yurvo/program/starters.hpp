// starters: right shader programs to start from, in each language.
#pragma once

#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

namespace yurvo {

struct starter_file {
    std::string name, text;
};

struct starter_choice {
    shading_language language = shading_language::glsl;
    std::string version; ///< of GLSL and GLSL ES: 330, 450, 100, 300; empty for the first of them
    yurvo::rate rate = yurvo::rate::fragment;
    shading_choice shading; ///< its model and ambient rule
    int most_lights = 16;
    yurvo::formulas::formula_texts formulas; ///< in the places of parts of the model
    std::vector<yurvo::formulas::named_number> numbers;
    ambient_follows follows = ambient_follows::cone; ///< what lights' ambient parts fall off with
};

/// The stages and the program file `NAME.toml`. Throws yurvo::error where there is no such starter.
std::vector<starter_file> starter_files(const starter_choice& chosen, const std::string& name);

} // namespace yurvo
