// markers: where the lights of a scene are, drawn into its picture.
#pragma once

#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// A picture with the lights marked in it.
struct marked {
    picture drawn;                        ///< as it is displayed: clamped to [0, 1]
    std::vector<std::string> out_of_view; ///< lights that lie outside the picture
    std::vector<std::string> hidden;      ///< lights that something hides
};

/// A ring for a point light, an arrow through the view's target for a directional one, a cone for a spot,
/// each named. What lies nearer hides them: `inverse_depth` is 1 / depth for every pixel of the picture, 0 or
/// less than any surface's where there is none.
marked draw_markers(const scene& the_scene, const picture& drawn, const std::vector<float>& inverse_depth);
/// The same, with what the scene's own surfaces hide.
marked draw_markers(const scene& the_scene, const picture& drawn);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
