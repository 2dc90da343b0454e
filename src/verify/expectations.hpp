// expectations: colours and ratios expected at single pixels, and how a picture holds against them.
#pragma once

#include "yurvo/verify/check.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::verify {

check_result hold_expectation(const expectation& expected, const scene& the_scene, const picture& found,
                              pixel_format held);

// The expectation is one of the scene's rate and model.
bool concerns(const expectation& expected, const scene& the_scene);

// An expectation's tolerance is a float's; a subject of coarser arithmetic gets what it takes at that pixel.
expectation widened(const expectation& expected, const scene& the_scene, const tolerance_model& allowed);

} // namespace yurvo::inline v0_1::verify
