// curves: each light's falloff over distance and penumbra over angle.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "yurvo/scene/scene.hpp"

namespace yurvo::study {

/// One curve for all lights that follow the same law.
struct law_curve {
    std::string law;                               ///< `inverse-square: 1 / d²`
    std::vector<std::string> lights;               ///< that follow it
    std::vector<std::pair<double, double>> points; ///< metres or degrees, and the factor
};

struct light_laws {
    std::string name;
    light_kind kind{};
    std::string laws; ///< of distance and angle, in words
};

struct curves {
    std::vector<light_laws> lights;
    std::vector<law_curve> falloffs, penumbras;
    double farthest = 4; ///< metres that the falloffs' curves reach
    double widest = 5;   ///< degrees that the penumbras' curves reach
};

curves curves_of(const scene& the_scene);

} // namespace yurvo::study
