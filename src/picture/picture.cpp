#include "yurvo/picture/picture.hpp"

#include <cmath>
#include <limits>

#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/comparison.hpp"

namespace yurvo::inline v0_1 {

picture::picture(int width_, int height_, const rgb<float>& color, float alpha)
    : width(width_),
      height(height_),
      values(4 * static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_)) {
    for (std::size_t i = 0; i < values.size(); i += 4) {
        values[i] = color.r;
        values[i + 1] = color.g;
        values[i + 2] = color.b;
        values[i + 3] = alpha;
    }
}

namespace {

// b less a; what is no number differs by infinitely much from all but its like.
double apart(float a, float b) {
    if (a == b || (std::isnan(a) && std::isnan(b))) {
        return 0;
    }
    const double off = static_cast<double>(b) - a;
    return std::isnan(off) ? std::numeric_limits<double>::infinity() : off;
}

} // namespace

difference compare(const picture& a, const picture& b) {
    YURVO_ASSERT(a.width == b.width && a.height == b.height);
    difference found;
    double sum = 0;
    double sum_signed = 0;
    double squares = 0;
    for (int y = 0; y < a.height; ++y) {
        for (int x = 0; x < a.width; ++x) {
            const std::size_t at = a.index(x, y);
            bool differs = false;
            for (std::size_t c = 0; c < 3; ++c) {
                const double signed_difference = apart(a.values[at + c], b.values[at + c]);
                const double magnitude = std::abs(signed_difference);
                sum += magnitude;
                sum_signed += signed_difference;
                squares += magnitude * magnitude;
                differs = differs || magnitude > 0;
                if (magnitude > found.largest) {
                    found.largest = magnitude;
                    found.largest_x = x;
                    found.largest_y = y;
                }
            }
            found.pixels_that_differ += differs ? 1 : 0;
            found.largest_alpha =
                max(found.largest_alpha, std::abs(apart(a.values[at + 3], b.values[at + 3])));
        }
    }
    const auto count = static_cast<double>(3 * a.pixels());
    if (count > 0) {
        found.mean = sum / count;
        found.mean_signed = sum_signed / count;
        found.root_mean_square = std::sqrt(squares / count);
    }
    return found;
}

} // namespace yurvo::inline v0_1
