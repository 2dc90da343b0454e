#include "yurvo/study/sampled.hpp"

#include <algorithm>

#include "yurvo/numeric/assert.hpp"

namespace yurvo::inline v0_1::study {

int most_samples(const view& of) {
    constexpr int largest = 16384;
    return largest / std::max(of.width, of.height);
}

picture draw_sampled(const scene& the_scene, const renderer& by, int samples, const draw_settings& settings,
                     draw_statistics* statistics) {
    YURVO_ASSERT(samples >= 1 && samples <= most_samples(the_scene.view));
    if (samples == 1) {
        return by.draw(the_scene, settings, statistics);
    }
    scene large = the_scene;
    large.view.width *= samples;
    large.view.height *= samples;
    large.expects.clear(); // their pixels are of another picture
    const picture all = by.draw(large, settings, statistics);
    picture result(the_scene.view.width, the_scene.view.height);
    const double share = 1.0 / (samples * samples);
    for (int y = 0; y < result.height; ++y) {
        for (int x = 0; x < result.width; ++x) {
            rgb<double> sum;
            double alpha = 0;
            for (int i = 0; i < samples * samples; ++i) {
                const int column = x * samples + i % samples;
                const int row = y * samples + i / samples;
                const double weight = all.alpha(column, row);
                sum = sum + rgb<double>(all.color(column, row)) * weight;
                alpha += weight;
            }
            const rgb<double> color = alpha > 0 ? sum * (1 / alpha) : rgb<double>();
            result.set(x, y, rgb<float>(color), static_cast<float>(alpha * share));
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
