// on_screen: a picture as a window shows it.
#pragma once

#include "yurvo/live/workspace.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::live {

// The bytes of `before` are used again.
screen_picture on_screen(const yurvo::picture& drawn, screen_picture before, double draw_milliseconds,
                         encoding how = encoding::srgb);

} // namespace yurvo::inline v0_1::live
