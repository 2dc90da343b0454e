// plain_lighting: one point lit by angles and scalars, with the interval that float would leave.
#pragma once

#include <string>
#include <vector>

#include "verify/range.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::verify {

// The falloff at d > 0 metres, written again without looking at the pipeline's.
double falloff_of(const light& light, double d);

struct plain_light {
    light given;           // its place and direction in world space
    vec3<double> position; // the same, found without the pipeline's camera
    vec3<double> shines;   // unit
};

// The point to be lit.
struct plain_point {
    vec3<double> position;
    vec3<double> normal;     // unit, or zero
    double normal_error = 0; // radians by which float may have turned it
    range3 base;
};

struct plain_lit {
    range3 tinted, untinted;
};

class plain_lighting {
    const scene& scene_;
    std::vector<plain_light> lights_;

    struct light_sums {
        range3 diffuse, specular; // before the material's factors
        range gradient;           // without colour
    };
    // Over all lights, at a point whose normal is not zero.
    [[nodiscard]] light_sums sum_lights(const plain_point& point, const vec3<double>& to_eye,
                                        double shininess) const;

  public:
    explicit plain_lighting(const scene& the_scene);

    // How each light's interval at a point comes about, a line each.
    [[nodiscard]] std::vector<std::string> derivation(const vec3<double>& position) const;

    [[nodiscard]] plain_lit light_point(const plain_point& point, const material& look) const;
};

} // namespace yurvo::verify
