// written_colors: what a shader writes for linear colours, and the other way round.
#pragma once

#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// What the shader writes for a linear colour, 0 to 1 where it encodes: as the program's `output` says.
double as_written(const shader_program& of, double linear);

// A picture as the shader has written it is made linear. What is no number stays none.
void make_linear(const shader_program& of, picture& written);

// How far off, in sRGB codes, the picture by the source's own precisions is of one in high precision. A pixel
// that an edge has crossed says nothing: where those are few, no more than `most_codes_off`.
constexpr int most_codes_off = 2;
int codes_off_by_precision(const picture& high, const picture& as_the_source_says);

} // namespace yurvo::inline v0_1::program
