// formula_lights: which lights may be left out where formulas stand for parts of the model.
#pragma once

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::pipeline {

// As a model says of itself (shading_kernel.hpp): for every light of the scene, at every point.
struct adds_nothing {
    bool dark = false;   // one that does not reach
    bool behind = false; // one behind the surface, and from nearest_behind to farthest_behind away
};

// What interval arithmetic proves: that the share of such a light is exactly 0, and that no formula fails
// there, so that none would have been counted as one that does.
adds_nothing proved_for(const scene& the_scene, const formulas::formula_set& set);

} // namespace yurvo::inline v0_1::pipeline
