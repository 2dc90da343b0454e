// makeup: a picture as a sum of the layers of each light and term.
#pragma once

#include <array>
#include <vector>

#include "verify/point_by_point.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::inline v0_1::verify {

struct makeup_sample {
    int x = 0, y = 0;            // in the scene's picture
    rgb<double> linear;          // what was found there
    rgb<double> weight{1, 1, 1}; // 1 / how far that may be off; 0 leaves it out
};

// By least squares, each sample weighted by how well it is known; samples that fit badly count for less.
// Factors that nothing in the picture decides stay at 1.
struct makeup {
    std::vector<makeup_part> parts;
    double fits = 1; // the share of the samples that the sum comes near to
};
makeup makeup_of(const point_painter& painter, const scene& the_scene,
                 const std::vector<makeup_sample>& samples);

// False where the terms are not summed: unlit, cel, the ambient rule max, and models of one's own that finish
// themselves. `own` may be null.
bool has_makeup(const scene& the_scene, const point_model* own);

} // namespace yurvo::inline v0_1::verify
