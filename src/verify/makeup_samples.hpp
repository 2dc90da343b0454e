// makeup_samples: a compared picture's light at some of its pixels.
#pragma once

#include <vector>

#include "verify/compared_picture.hpp"
#include "verify/makeup.hpp"

namespace yurvo::inline v0_1::verify {

// With what the mistakes did to the output undone.
std::vector<makeup_sample> makeup_samples(const compared_picture& on, const mistake_set& wrong);

} // namespace yurvo::inline v0_1::verify
