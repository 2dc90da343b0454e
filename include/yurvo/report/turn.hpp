// turn: views around a scene, in words and as a sheet.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/turn.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// The figures of each step, in words.
std::string turn_text(const study::turn& found);
/// The steps, side by side.
picture turn_sheet(const study::named_scene& named, const study::turn& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
