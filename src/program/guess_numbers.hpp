// guess_numbers: numbers that are written into a source, and stand in no uniform.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "program/guess_moves.hpp"
#include "yurvo/verify/one_number.hpp"

namespace yurvo::inline v0_1::program {

// What a line of [constants] is known as where it is told how each was settled.
std::string about_constant(const std::string& quantity);

// The numbers of a text within a tenth of that.
std::set<double> written_near(double value, const std::vector<double>& literals);

// Numbers that were found by fitting, as constants: first those of the text that are near, then the one
// found. None for what a name brings, or says whatever it is taken for at the moment.
std::vector<move> moves_of_numbers(const std::vector<verify::needed_number>& found, const shader_program& in,
                                   const std::vector<std::string>& said, const std::vector<double>& literals);

} // namespace yurvo::inline v0_1::program
