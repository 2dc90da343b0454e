// formulas: the kernel that runs a scene's formulas over a block of points.
#pragma once

#include <array>
#include <cstdint>

#include "pipeline/formula_program.hpp"
#include "yurvo/pipeline/shading_block.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// What the kernel writes on the way; each thread has its own.
struct formula_room {
    float* const* lanes = nullptr; // as many as the program has, block_room numbers each, aligned to 64 bytes
    float** placed = nullptr;      // as many pointers
    std::array<lane<float>, 4>* arriving =
        nullptr; // falloff, penumbra, brightness, whether the light is apart
};

struct formula_request {
    const shade_request<float>& shade;
    const formula_program& program;
    vec3<float> origin; // from which positions are measured, world
    vec3<float> eye;    // as formulas know it, world
    vec3<float> axis;
};

using formula_kernel = void (*)(const formula_request&, const formula_room&);

#define YURVO_FORMULAS_OF(set) formula_kernel set##_formulas();
YURVO_FORMULAS_OF(baseline)
YURVO_FORMULAS_OF(avx2)
YURVO_FORMULAS_OF(avx512)
#undef YURVO_FORMULAS_OF

} // namespace yurvo::inline v0_1::pipeline::wide
