// carried_lights: which lights and laws what is bound of lights can carry.
#pragma once

#include <set>
#include <vector>

#include "program/claims.hpp"

namespace yurvo::inline v0_1::program {

// The kinds of light; `sets_by_kind`: those that have sets of their own.
std::vector<light_kind> carried_kinds(const claims& claimed, const std::set<light_kind>& sets_by_kind);
// The laws, the likeliest first.
std::vector<falloff_kind> carried_falloffs(const claims& claimed);
std::vector<penumbra_kind> carried_penumbras(const claims& claimed);

} // namespace yurvo::inline v0_1::program
