// guess_looking: what a right reading does not look at, and how it was meant at first.
#pragma once

#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// Of names without effect (`lamps[*].cone.x`, as a renderer tells them) those with which the text does
// something, a vector for its components; what is only declared is no part of the shader.
std::vector<std::string> names_in_use(const std::vector<std::string>& names, const shader_program& sources);

// A reading with what those names were taken for in the first one, and with lights of all kinds.
shader_program as_meant_at_first(shader_program reading, const shader_program& first,
                                 const std::vector<std::string>& names);

} // namespace yurvo::inline v0_1::program
