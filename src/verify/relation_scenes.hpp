// relation_scenes: which scenes can show a relation.
#pragma once

#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// The picture is a sum over lights and terms.
bool sums_lights(const scene& the_scene);
// Likewise, of which some light is directional.
bool has_directional(const scene& the_scene);
// Channels can be exchanged: no formula tells one from another.
bool channels_are_alike(const scene& the_scene);
// One level plane at rate vertex, lit by one lamp above it that falls off smoothly.
bool smoothly_lit_planes(const scene& the_scene);
// Nothing but planes that face up, seen from one side.
bool level_planes(const scene& the_scene);

} // namespace yurvo::inline v0_1::verify
