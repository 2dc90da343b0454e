// guess_first: what names, types and the text say of a shader, before anything is drawn.
#pragma once

#include <map>
#include <string>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

inline constexpr const char* by_name = "by its name and type";

// `how` gets, for each uniform, how it was settled.
shader_program first_reading(const shader_program& sources, const guessed_bindings& guessed,
                             std::map<std::string, std::string>& how);

} // namespace yurvo::inline v0_1::program
