#include "yurvo/study/pixel.hpp"

#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::study {

found_pixel find_pixel(const verify::explanation& right, const picture& found, int x, int y,
                       pixel_format format) {
    YURVO_ASSERT(x >= 0 && x < found.width && y >= 0 && y < found.height);
    found_pixel result;
    const rgb<float> color = found.color(x, y);
    result.linear = rgb<double>(color);
    result.encoded = {code_of(color.r), code_of(color.g), code_of(color.b)};
    result.changes = verify::changes_needed(right, result.linear, format);
    return result;
}

} // namespace yurvo::inline v0_1::study
