// show: pictures of what lighting is made of, instead of the light.
#pragma once

#include <cstddef>

#include "yurvo/pipeline/draw.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// World-space normals: each component from −1 to 1 as 0 to 1. The background is the scene's.
picture show_normals(const scene& the_scene, draw_statistics* statistics = nullptr);

/// n·l of the scene's lights together, which should be one: from grey through white where it is lit, blue
/// where it is below zero.
picture show_cosine(const scene& the_scene, draw_statistics* statistics = nullptr);

/// Metres from the eye along the view.
picture show_depth(const scene& the_scene, draw_statistics* statistics = nullptr);

/// Depths for the eye: the nearest bright, the farthest dark; the background stays black. `least` and `most`
/// get the range.
picture depth_to_look_at(const picture& metres, double& least, double& most);

/// The picture in grey, and in red what a display cuts off because some component is above 1; `pixels` is how
/// many.
picture show_overflow(const picture& image, std::size_t& pixels);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
