// scene_changes: a scene rewritten into another one whose picture is known from the first one's. Matrices are
// written out here: the pipeline's are what is judged.
#pragma once

#include <functional>
#include <optional>

#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// Every object's transform moved into its mesh. Not for fields.
scene baked(const scene& the_scene);
// Everything turned about Y by an angle in radians, then moved.
scene moved(const scene& the_scene, double angle, const vec3<double>& by);
// How much brighter a light must be so that twice as far away, with its law's lengths doubled, it gives the
// same: falloff(d) / stretched(2d). Nothing where that depends on d: a law with a length fixed in it keeps no
// shape.
std::optional<double> brighter_at_twice(const std::function<double(double)>& falloff,
                                        const std::function<double(double)>& stretched);
bool lengths_can_double(const scene& the_scene); // every light has such a factor
// Every length twice as long, and lights as much brighter as that takes.
scene doubled_lengths(const scene& the_scene);
// Every light, the ambient light, emission and the background times a factor.
scene brightened(const scene& the_scene, double factor);
// Red to green, green to blue, blue to red, in everything that has a colour.
scene permuted(const scene& the_scene);
rgb<double> permuted(const rgb<double>& color);
// Left and right exchanged.
scene mirrored(const scene& the_scene);
// Directional lights as point lights without falloff, that far away.
scene with_far_lights(const scene& the_scene, double distance);
// Every plane's cells times a factor.
scene subdivided(const scene& the_scene, std::uint32_t factor);

bool has_fields(const scene& the_scene);
bool only_planes(const scene& the_scene);

} // namespace yurvo::inline v0_1::verify
