// mistaken_scene: the mistakes that are another scene, and those that are other data for a step.
#pragma once

#include "pipeline/stage.hpp"
#include "pipeline/visibility.hpp"
#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

// The scene, rewritten by those mistakes that can be told as a scene.
scene mistaken_scene(const scene& the_scene, const mistake_set& wrong);

// What the lighting of one object is handed.
struct lighting_data {
    matrix4 to_world;        // places the points that are lit
    matrix4 normal_to_world; // moves normals; with a translation where one is added by mistake
    std::vector<light> lights;
};
lighting_data lighting_data_of(const pipeline::stage& from, const pipeline::staged_object& object,
                               const mistake_set& wrong);

// Which triangle is seen where, by another rule than the nearest.
pipeline::visibility mistaken_visibility(const pipeline::stage& from, const mistake_set& wrong);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
