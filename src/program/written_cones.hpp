// written_cones: whether what a text makes of the angle to a spot's axis is a cone, and none of the models'
// own.
#pragma once

#include <vector>

#include "yurvo/formula/formula_set.hpp"

namespace yurvo::inline v0_1::program {

// Whole along the axis, nothing beyond the outer angle, nowhere brighter further out, and whole within the
// inner angle, of those angles that it asks for: edges that are exchanged, doubled or taken in degrees are
// mistakes for the catalogue, and no formula. Nor is a formula what is one of the laws.
bool is_a_cone_of_its_own(const formulas::expression& penumbra,
                          const std::vector<formulas::named_number>& numbers);

} // namespace yurvo::inline v0_1::program
