// fit: scenes made to suit what a program claims.
#pragma once

#include "program/claims.hpp"
#include "yurvo/scene/renderer.hpp"

namespace yurvo::inline v0_1::program {

fitted_scene fit_to(const claims& claimed, const scene& the_scene);

// Made to suit a claim until nothing is left to change; skipped where that has no end, as of lights that a
// claim asks for things that exclude one another.
fitted_scene fit_to_the_end(const claims& claimed, const scene& the_scene);

} // namespace yurvo::inline v0_1::program
