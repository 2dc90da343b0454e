// curves: falloff and penumbra, in words and plotted.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/named_scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// Each light's laws, in words.
std::string curves_text(const study::curves& found);
/// The plots.
picture curves_sheet(const study::named_scene& named, const study::curves& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
