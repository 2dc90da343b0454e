// carried_lights: which lights and laws what is bound of lights can carry.
#pragma once

#include <array>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "program/claims.hpp"

namespace yurvo::inline v0_1::program {

// The numbers of a light's laws, of which each light has its own.
inline constexpr std::array<std::string_view, 5> numbers_of_laws{"range", "coefficients", "inner", "outer",
                                                                 "exponent"};
// Which of them a property is, whatever it is measured in (`cos_inner`, `outer_degrees`); empty for none.
std::string number_of_law(const std::string& property);

// The kinds of light; `sets_by_kind`: those that have sets of their own.
std::vector<light_kind> carried_kinds(const claims& claimed, const std::set<light_kind>& sets_by_kind);
// The laws, the likeliest first.
std::vector<falloff_kind> carried_falloffs(const claims& claimed);
std::vector<penumbra_kind> carried_penumbras(const claims& claimed);

} // namespace yurvo::inline v0_1::program
