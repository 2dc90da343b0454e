// relight: a picture taken apart into what each light's each term adds, so that other brightnesses and
// colours can be added up again.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// What one light, or ambient light, or emission adds by one term. A light's is that of color (1, 1, 1) and
/// intensity 1, ambient light's that of color (1, 1, 1) and strength 1.
struct linear_layer {
    term what = term::ambient;        ///< which
    std::optional<std::size_t> light; ///< index in relight::lights; nothing for ambient light and emission
    picture drawn;                    ///< without background
};

/// A light as the page may change it.
struct relit_light {
    std::string name;       ///< as people read it
    rgb<double> color;      ///< linear, with its intensity
    double intensity = 1;   ///< 1 for a group, whose layers hold the lights' own
    std::size_t lights = 1; ///< above 1 for a group
};

/// What a page needs to light a scene anew: pictures of each light's each term, which add up.
struct relight {
    std::string why_not;              ///< why the picture is no sum of layers; empty where it is one
    std::vector<relit_light> lights;  ///< in the scene's order
    rgb<double> ambient_color;        ///< linear
    double ambient_strength = 0;      ///< ≥ 0
    picture background;               ///< where nothing is seen; black elsewhere
    std::vector<linear_layer> layers; ///< those that are not black
    double largest_off = 0; ///< of the sum from what is drawn, at the scene's own lights and at others
};

/// At most eight lights have layers of their own; the others are one group. That the layers add up is not
/// taken for granted: the sum is held against what is drawn, at the scene's own lights and at others.
relight take_apart(const scene& the_scene, const renderer& by = built_in_renderer());

/// The picture of some colours and intensities: one factor for each layer.
picture add_up(const relight& parts, const std::vector<rgb<double>>& factors);
/// A layer's factor under the scene's own lights.
rgb<double> own_factor(const relight& parts, const linear_layer& of);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
