// formula: every equation of lighting, each once, as a type. What uses the equations takes them as a template
// argument, so that one can be replaced by deriving:
//
//     struct cosine_not_clamped : yurvo::formula {
//         template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
//             return dot(n, l);
//         }
//     };
//
// They can also be called alone, in float, double or batches: formula::falloff_inverse_square(2.0) is 0.25.
#pragma once

#include "yurvo/shading/falloff.hpp"
#include "yurvo/shading/penumbra.hpp"
#include "yurvo/shading/terms.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

struct formula : falloff_formulas, penumbra_formulas, term_formulas {};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
