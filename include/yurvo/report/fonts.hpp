// fonts: the font that comes with Yurvo, so that all that is drawn looks the same everywhere.
#pragma once

#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// The bytes of an OpenType font, for text.
std::string_view text_font();

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
