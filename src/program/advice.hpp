// What a program file leaves out or claims that is seldom meant.
#pragma once

#include <string>
#include <vector>

#include "program/claims.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// Lines for people: quantities that nothing brings, and claims that take a catalogued mistake out.
std::vector<std::string> advice_on(const claims& claimed, const shader_program& source);

} // namespace yurvo::inline v0_1::program
