#include "yurvo/pipeline/draw.hpp"

namespace yurvo {

picture draw(const scene& from, const draw_settings& settings, work_done* done) {
    return draw_with<formula>(from, settings, done);
}

} // namespace yurvo
