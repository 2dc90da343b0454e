// fit: scenes made to suit what a program claims.
#pragma once

#include "program/claims.hpp"
#include "yurvo/scene/renderer.hpp"

namespace yurvo::inline v0_1::program {

fitted_scene fit_to(const claims& claimed, const scene& the_scene);

} // namespace yurvo::inline v0_1::program
