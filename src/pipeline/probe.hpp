// probe: the surface seen at one pixel, and what it looks like from elsewhere or under other lights.
#pragma once

#include <cstddef>
#include <optional>

#include "pipeline/stage.hpp"
#include "pipeline/visibility.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

struct seen_point {
    std::size_t object = 0;   // index in the scene
    std::size_t material = 0; // index in the scene
    vec3<double> position;    // world
    vec3<double> normal; // world, unit or zero; turned where the material is two-sided and seen from behind
    double depth = 0;    // metres along the view
};

// Nothing where the pixel shows the background.
std::optional<seen_point> probe(const stage& from, const visibility& visible, int x, int y);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
