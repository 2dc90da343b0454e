#include "program/guess_comparing.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// A code as the sRGB curve gives it, by a table: what is compared is not so fine. NaN stays NaN.
double code(double linear) {
    constexpr std::size_t steps = 1 << 13;
    static const std::vector<double> table = [] {
        std::vector<double> made(steps + 2);
        for (std::size_t i = 0; i < made.size(); ++i) {
            made[i] = 255 * srgb_encoded(std::min(1.0, static_cast<double>(i) / steps));
        }
        return made;
    }();
    if (std::isnan(linear)) {
        return linear;
    }
    const double at = std::clamp(linear, 0.0, 1.0) * steps;
    const auto below = static_cast<std::size_t>(at);
    return table[below] + (at - static_cast<double>(below)) * (table[below + 1] - table[below]);
}

} // namespace

bool alpha_goes_beyond(const picture& found) {
    constexpr float rounding = 1e-3F;
    for (std::size_t i = 3; i < found.values.size(); i += 4) {
        if (found.values[i] > 1 + rounding) {
            return true;
        }
    }
    return false;
}

std::optional<double> apart(const picture& found, const picture& right, const rgb<double>& background,
                            beyond_one alpha) {
    double off = 0;
    double light = 0;
    std::size_t beyond = 0;
    std::size_t lit = 0;
    const bool alpha_counts = alpha == beyond_one::counts || !alpha_goes_beyond(found);
    std::size_t clamped = 0; // of those: white in both, whatever is behind it
    const std::array<double, 3> behind{code(background.r), code(background.g), code(background.b)};
    for (std::size_t i = 0; i + 3 < found.values.size(); i += 4) {
        double most = 0;
        double held = 0;
        bool white = true;
        for (std::size_t c = 0; c < 3; ++c) {
            white = white && std::abs(found.values[i + c] - 1) < 1e-3F && right.values[i + c] > 1 - 1e-3F;
            const double a = code(static_cast<double>(found.values[i + c]));
            const double b = code(static_cast<double>(right.values[i + c]));
            most = std::max(most, std::isfinite(a) && std::isfinite(b) ? std::abs(a - b) : 255.0);
            held = std::max({held, std::abs(a - behind[c]), std::abs(b - behind[c])});
        }
        if (alpha_counts) {
            const double of_alpha = std::abs(static_cast<double>(found.values[i + 3] - right.values[i + 3]));
            most = std::isfinite(of_alpha) ? std::max(most, 32 * of_alpha) : 255.0;
        }
        beyond += most > 0.6 ? 1U : 0U;
        lit += held > 1 ? 1U : 0U;
        if (white) {
            ++clamped;
            continue;
        }
        off += std::min(most, 64.0);
        light += std::isfinite(held) ? std::min(held, 64.0) : 64.0;
    }
    const std::size_t telling = lit - std::min(lit, clamped);
    if (telling < found.pixels() / 50 || 4 * telling < lit) {
        return std::nullopt; // nothing is to be seen, or next to nothing but white
    }
    const double share = static_cast<double>(beyond) / static_cast<double>(telling);
    return share < 0.006 ? 0 : 0.3 * share + 0.7 * off / std::max(light, 1.0);
}

bool lights_reach(const std::vector<std::pair<scene, picture>>& drawn) {
    std::size_t reached = 0;
    for (const auto& [lit, right] : drawn) {
        scene dark = lit;
        dark.lights.clear();
        reached += apart(draw(dark), right, lit.view.background).value_or(0) > 0 ? 1U : 0U;
    }
    return reached > 1;
}

} // namespace yurvo::inline v0_1::program
