#include "scene/in_size.hpp"

namespace yurvo::inline v0_1 {

scene in_size(scene of, int width, int height) {
    of.view.width = width;
    of.view.height = height;
    of.expects.clear();
    return of;
}

} // namespace yurvo::inline v0_1
