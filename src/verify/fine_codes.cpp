#include "verify/fine_codes.hpp"

#include <algorithm>
#include <cmath>

#include "verify/judge.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

double fine_code(double linear, const mistake_set& wrong, pixel_format held) {
    const encoding how = held == pixel_format::linear_codes ? encoding::linear : encoding::srgb;
    if (wrong.has(mistake::output_wraps) && !is_float(held)) {
        return code_with(linear, wrong, how); // modulo needs whole codes
    }
    double value = linear;
    if (!is_float(held)) {
        value = std::clamp(value, 0.0, 1.0);
        int times = how == encoding::srgb ? 1 : 0;
        times = wrong.has(mistake::encode_missing) ? 0 : wrong.has(mistake::encode_twice) ? 2 * times : times;
        for (int i = 0; i < times; ++i) {
            value = srgb_encoded(value);
        }
        return 255 * value;
    }
    if (holds_encoded_floats(held)) { // was clamped and decoded
        value = std::clamp(value, 0.0, 1.0);
    }
    // Floats are compared on the curve too, which goes on beyond 1 and, straight, below 0.
    for (const mistake which : {mistake::encode_twice, mistake::encode_missing}) {
        if (wrong.has(which)) {
            value = with_curve_mistaken(value, which, held);
            break;
        }
    }
    return 255 * srgb_encoded(value);
}

bool is_float(pixel_format held) { return holds_floats(held); }

double with_curve_mistaken(double linear, mistake which, pixel_format held) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    const bool missing = which == mistake::encode_missing;
    if (held == pixel_format::gamma_floats) {
        return std::pow(kept, missing ? usual_gamma : 1 / usual_gamma);
    }
    return missing ? srgb_decoded(kept) : srgb_encoded(kept);
}

codes fine_codes(const lit_pixel& pixel, const mistake_set& wrong, pixel_format held, double exposure) {
    return {fine_code(pixel.color.r * exposure, wrong, held),
            fine_code(pixel.color.g * exposure, wrong, held),
            fine_code(pixel.color.b * exposure, wrong, held), 255 * pixel.alpha};
}

} // namespace yurvo::inline v0_1::verify
