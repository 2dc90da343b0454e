// choices: which model, which terms, how they are put together: what a scene says of its shading, as plain
// data.
#pragma once

#include <cstdint>
#include <vector>

#include "yurvo/numeric/rgb.hpp"

namespace yurvo {

enum class model_kind : std::uint8_t { unlit, lambert, phong, blinn_phong, cel };
enum class ambient_rule : std::uint8_t { add, max };

/// Which terms are summed; a term left out contributes zero.
struct term_choice {
    bool ambient = true, diffuse = true, specular = true, emission = true;

    friend bool operator==(const term_choice&, const term_choice&) = default;
};

/// How the terms are put together, the same for every point of a picture.
template <class Scalar> struct finish_settings {
    rgb<Scalar> ambient_light; ///< ambient.color · ambient.strength
    ambient_rule rule = ambient_rule::add;
    term_choice terms;
};

/// The model `cel`: flat bands of the base colour, chosen by how much light falls on the surface.
struct cel_settings {
    std::vector<double> thresholds{0.3, 0.8}; ///< strictly ascending
    std::vector<rgb<double>> bands{rgb<double>(0.2), rgb<double>(0.6),
                                   rgb<double>(1.0)}; ///< one more than thresholds
    double outline = 0.2;                             ///< where n·v is less, outline_color is used
    rgb<double> outline_color{0, 0, 0};

    friend bool operator==(const cel_settings&, const cel_settings&) = default;
};

} // namespace yurvo
