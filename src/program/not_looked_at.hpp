// not_looked_at: names of a program's of which no value changes a picture of the scenes that a check goes
// through.
#pragma once

#include <string>
#include <vector>

#include "yurvo/program/program_renderer.hpp"

namespace yurvo::inline v0_1::program {

// None where the program is stopped, of which whoever draws for a verdict is told.
std::vector<std::string> not_looked_at(const program_renderer& by);

} // namespace yurvo::inline v0_1::program
