// walk: the eye around and about, and another model, as edits of the scene.
#pragma once

#include <string>
#include <vector>

#include "yurvo/live/edit.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// The eye around the target, by radians; never over the top.
std::vector<edit> orbited(const view& of, double around, double up);
/// Nearer to the target or farther, by a factor; nothing where it would be too near.
std::vector<edit> zoomed(const view& of, double factor);
/// Eye and target across the view, by pixels.
std::vector<edit> panned(const view& of, double dx, double dy);
/// Back or forth on the line from target to eye, and aside, so that all objects are seen; nothing where there
/// is none with corners.
std::vector<edit> fitted(const scene& the_scene);

/// Another model, a built-in one or a C++ one by its name, with the keys that it cannot do without and
/// without those that it does not take: `cel` gets bands and is per fragment, what was `cel` loses them.
std::vector<edit> with_model(const scene& the_scene, const std::string& name);

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
