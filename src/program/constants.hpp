// constants: what is written into a shader, set in the scenes that it is to draw.
#pragma once

#include "program/claims.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::program {

// Sets every constant of a claim: of every material, of the light that it names. Lights that are not there
// are passed over. Throws yurvo::error where a quantity cannot be set, or its numbers are as many as it has
// not.
void set_constants(const claims& claimed, scene& of);

// The first constant that the scene does not have after all were set, since another contradicts it; null
// where all agree.
const claimed_constant* contradiction(const claims& claimed, const scene& of);

} // namespace yurvo::inline v0_1::program
