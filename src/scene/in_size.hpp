// A scene in another size.
#pragma once

#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1 {

// `width` and `height` are at least 1. What the scene expects is said of pixels of its own size, and is left
// out.
scene in_size(scene of, int width, int height);

} // namespace yurvo::inline v0_1
