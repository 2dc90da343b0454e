#include "program/written_colors.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::program {

double as_written(const shader_program& of, double linear) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    switch (of.output) {
    case output_kind::srgb:
        return srgb_encoded(kept);
    case output_kind::gamma:
        return std::pow(kept, 1 / of.gamma);
    case output_kind::linear:
        break;
    }
    return linear;
}

void make_linear(const shader_program& of, picture& written) {
    if (of.output == output_kind::linear) {
        return;
    }
    for (std::size_t i = 0; i < written.values.size(); ++i) {
        if (i % 4 == 3 || std::isnan(written.values[i])) {
            continue;
        }
        const double kept = std::clamp(static_cast<double>(written.values[i]), 0.0, 1.0);
        written.values[i] = static_cast<float>(of.output == output_kind::srgb ? srgb_decoded(kept)
                                                                              : std::pow(kept, of.gamma));
    }
}

int codes_off_by_precision(const picture& high, const picture& as_the_source_says) {
    std::size_t beyond = 0;
    int most = 0;
    for (std::size_t i = 0; i + 3 < high.values.size(); i += 4) {
        int here = 0;
        for (std::size_t c = 0; c < 3; ++c) {
            here = std::max(
                here, std::abs(static_cast<int>(code_of(high.values[i + c], encoding::srgb)) -
                               static_cast<int>(code_of(as_the_source_says.values[i + c], encoding::srgb))));
        }
        beyond += here > most_codes_off ? 1U : 0U;
        most = std::max(most, here);
    }
    const bool of_edges = beyond <= high.pixels() / 500;
    return of_edges ? std::min(most, most_codes_off) : most;
}

} // namespace yurvo::inline v0_1::program
