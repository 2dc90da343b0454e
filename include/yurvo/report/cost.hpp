// cost: what the rates cost, in words and plotted.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/named_scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// `repeat` frames were measured.
std::string cost_text(const study::named_scene& named, const study::cost& found, int repeat);
/// Milliseconds over triangles and lights.
picture growth_sheet(const study::named_scene& named, const std::string& model,
                     const study::cost_growth& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
