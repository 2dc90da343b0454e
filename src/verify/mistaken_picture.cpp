#include <algorithm>
#include <cmath>

#include "verify/point_by_point.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::verify {

using enum mistake;

picture draw_with_mistakes(const scene& the_scene, const mistake_set& wrong, const term_choice& terms,
                           const point_model* own) {
    YURVO_ASSERT(!find_fault(the_scene));
    return point_painter(the_scene, wrong, see(the_scene), {terms, true, own}).whole();
}

picture mistaken_renderer::draw(const scene& the_scene, const draw_settings& settings,
                                draw_statistics* /*statistics*/) const {
    return draw_with_mistakes(the_scene, wrong_, settings.terms, own_model_of(the_scene, right_));
}

std::uint8_t code_with(double linear, const mistake_set& wrong, encoding how) {
    int times = how == encoding::srgb ? 1 : 0;
    if (wrong.has(encode_missing)) {
        times = 0;
    }
    if (wrong.has(encode_twice)) {
        times *= 2;
    }
    const bool wraps = wrong.has(output_wraps);
    double value = wraps ? linear : std::clamp(linear, 0.0, 1.0);
    if (std::isnan(value)) {
        return 0;
    }
    for (int i = 0; i < times; ++i) {
        value = srgb_encoded(value);
    }
    const double code = std::round(255 * value);
    return static_cast<std::uint8_t>(wraps ? code - 256 * std::floor(code / 256) : code);
}

std::vector<std::uint8_t> codes_with(const picture& linear, const mistake_set& wrong, encoding how) {
    std::vector<std::uint8_t> codes = codes_of(linear, how);
    if (!(wrong.has(encode_missing) || wrong.has(encode_twice) || wrong.has(output_wraps))) {
        return codes;
    }
    for (std::size_t i = 0; i < linear.values.size(); ++i) {
        if (i % 4 != 3) {
            codes[i] = code_with(static_cast<double>(linear.values[i]), wrong, how);
        }
    }
    return codes;
}

} // namespace yurvo::inline v0_1::verify
