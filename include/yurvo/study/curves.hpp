// curves: each light's falloff over distance and penumbra over angle.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// One curve for all lights that follow the same law.
struct law_curve {
    std::string law;                               ///< `inverse-square: 1 / d²`
    std::vector<std::string> lights;               ///< that follow it
    std::vector<std::pair<double, double>> points; ///< metres or degrees, and the factor
};

/// A light and the laws it follows.
struct light_laws {
    std::string name;  ///< as people read it
    light_kind kind{}; ///< directional, point or spot
    std::string laws;  ///< of distance and angle, in words
};

/// What distance and angle do to each light.
struct curves {
    std::vector<light_laws> lights;             ///< in the scene's order
    std::vector<law_curve> falloffs, penumbras; ///< over metres; over degrees
    double farthest = 4;                        ///< metres that the falloffs' curves reach
    double widest = 5;                          ///< degrees that the penumbras' curves reach
};

/// Of every light of a scene.
curves curves_of(const scene& the_scene);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
