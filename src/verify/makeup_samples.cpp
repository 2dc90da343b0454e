#include "verify/makeup_samples.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

#include "verify/looked_at.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

std::vector<makeup_sample> makeup_samples(const compared_picture& on, const mistake_set& wrong) {
    const bool upside_down = wrong.has(mistake::picture_upside_down);
    const bool swapped = wrong.has(mistake::channels_swapped);
    const auto linear_of = [&](double code) {
        double value = code / 255;
        int times = on.held == pixel_format::linear_codes ? 0 : 1;
        times = wrong.has(mistake::encode_missing) ? 0 : wrong.has(mistake::encode_twice) ? 2 : times;
        if (on.held == pixel_format::gamma_floats) { // the code is that of what was decoded
            value = srgb_decoded(value);
            return times == 1 ? value : std::pow(value, times == 0 ? 1 / usual_gamma : usual_gamma);
        }
        for (int i = 0; i < times; ++i) {
            value = srgb_decoded(value);
        }
        return value;
    };
    std::vector<makeup_sample> samples;
    const std::size_t most = std::max(looked_at(400), looked_at(12'000) / (2 + on.the_scene.lights.size()));
    for (const pixel_place& at : some_of(on.compared, most)) {
        makeup_sample sample;
        sample.x = at.x;
        sample.y = upside_down ? on.found.height - 1 - at.y : at.y;
        if (on.seen->visible.triangles[on.seen->visible.index(sample.x, sample.y)] ==
            pipeline::visibility::nothing) {
            continue;
        }
        codes code = on.found_at(at);
        rgb<double> linear(on.found.color(at.x, at.y));
        const auto weigh = [&](double c, double& value) {
            if (is_float(on.held)) {
                return 1 / (1e-4 + 1e-3 * std::abs(value));
            }
            value = linear_of(c);
            const double error =
                (linear_of(std::min(255.0, c + 0.5)) - linear_of(std::max(0.0, c - 0.5))) * (0.5 + on.noise);
            return c < 1 || c > 254 ? 0 : 1 / error; // cut off: what is known is a bound
        };
        sample.weight = {weigh(code[0], linear.r), weigh(code[1], linear.g), weigh(code[2], linear.b)};
        sample.linear = linear;
        if (swapped) {
            std::swap(sample.linear.r, sample.linear.b);
            std::swap(sample.weight.r, sample.weight.b);
        }
        samples.push_back(sample);
    }
    return samples;
}

} // namespace yurvo::inline v0_1::verify
