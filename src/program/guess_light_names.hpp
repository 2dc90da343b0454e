// guess_light_names: which of a light's quantities a name says.
#pragma once

#include <string>

namespace yurvo::inline v0_1::program {

// A property, or several for the numbers of one vector, of a member with so many numbers (`whole`: of
// integers); empty where the name says none.
std::string guess_light(const std::string& member, int components, bool whole);
// What the fourth number of a vector is, by the last word of its name.
std::string fourth_of_light(const std::string& word);

} // namespace yurvo::inline v0_1::program
