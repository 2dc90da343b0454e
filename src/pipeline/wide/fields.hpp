// fields: rays at implicit surfaces, and what lies where they meet. Compiled as vertices.hpp says: the same
// digits for every instruction set.
#pragma once

#include "geometry/field_lanes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

struct field_kernels {
    // Where each ray of a bundle first meets the surface, which lies in the box.
    void (*march)(const field_lanes::surface& of, const bounds& box, field_lanes::bundle& rays);
    // Moves places near the surface, at `met` of each ray, onto it; then what lies there.
    void (*polish)(const field_lanes::surface& of, field_lanes::bundle& rays, field_lanes::values& there);
};

} // namespace yurvo::inline v0_1::pipeline::wide
