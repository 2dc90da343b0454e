// fonts: the font that comes with Yurvo, so that all that is drawn looks the same everywhere.
#pragma once

#include <string_view>

namespace yurvo::report {

/// The bytes of an OpenType font, for text.
std::string_view text_font();

} // namespace yurvo::report
