// explanation: a pixel worked by hand, in words.
#pragma once

#include <string>

#include "yurvo/study/named_scene.hpp"
#include "yurvo/study/pixel.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// Every number on the way; `model` is what drew.
std::string explanation_text(const study::named_scene& named, const std::string& model,
                             const verify::explanation& explained, int x, int y);
/// What another picture, or a program, shows there.
std::string found_pixel_text(const verify::explanation& explained, const study::found_pixel& found,
                             const std::string& file);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
