// diagnosis: which mistake explains a picture, in words and as evidence to look at.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/diagnose.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// `what` is the picture, `scene` what it should show.
std::string diagnosis_text(const verify::diagnosis& found, const std::string& what, const std::string& scene);
/// The picture that was given, the right one, the mistaken one, and where the first is off.
picture diagnosis_sheet(const verify::diagnosis& found, const picture& image, const std::string& what,
                        const renderer& right = built_in_renderer());

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
