// layers: a picture built up, in words and as a sheet.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/layers.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// What each term adds, in words.
std::string layers_text(const study::layers& found);
/// The pictures built up, side by side.
picture layers_sheet(const study::named_scene& named, const study::layers& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
