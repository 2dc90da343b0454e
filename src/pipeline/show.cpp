#include "yurvo/pipeline/show.hpp"

#include <algorithm>

namespace yurvo {

picture depth_to_look_at(const picture& metres, double& least, double& most) {
    least = std::numeric_limits<double>::infinity();
    most = 0;
    for (std::size_t i = 0; i < metres.values.size(); i += 4) {
        const double depth = metres.values[i];
        if (depth > 0) {
            least = std::min(least, depth);
            most = std::max(most, depth);
        }
    }
    picture made(metres.width, metres.height);
    for (std::size_t i = 0; i < metres.values.size(); i += 4) {
        const double depth = metres.values[i];
        // Linear in nearness, as perspective is; the farthest stays apart from the background.
        const double share = most > least ? (1 / depth - 1 / most) / (1 / least - 1 / most) : 1;
        const auto grey = static_cast<float>(depth > 0 ? 0.12 + 0.88 * share : 0);
        std::fill_n(made.values.begin() + static_cast<std::ptrdiff_t>(i), 3, grey);
    }
    return made;
}

picture show_overflow(const picture& of, std::size_t& pixels) {
    picture made(of.width, of.height);
    pixels = 0;
    for (std::size_t i = 0; i < of.values.size(); i += 4) {
        const float greatest = std::max({of.values[i], of.values[i + 1], of.values[i + 2]});
        const float grey = 0.6F * std::min(1.0F, 0.2126F * of.values[i] + 0.7152F * of.values[i + 1] +
                                                     0.0722F * of.values[i + 2]);
        const bool above = greatest > 1;
        pixels += above ? 1U : 0U;
        made.values[i] = above ? 1.0F : grey;
        made.values[i + 1] = above ? 0.05F : grey;
        made.values[i + 2] = above ? 0.08F : grey;
    }
    return made;
}

} // namespace yurvo
