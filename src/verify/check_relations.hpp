// check_relations: the relations of a scene whose tolerances are known.
#pragma once

#include "verify/pixel_tolerances.hpp"
#include "yurvo/verify/relations.hpp"

namespace yurvo::inline v0_1::verify {

// As the public one; the tolerances are those of the scene in the relations' size, by the same model.
std::vector<check_result> check_relations(const pixel_tolerances& of, const renderer& by, known_model known,
                                          const tolerance_model& allowed);

} // namespace yurvo::inline v0_1::verify
