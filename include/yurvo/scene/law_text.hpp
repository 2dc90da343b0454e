// law_text: the laws that a light goes by, written out with its numbers.
#pragma once

#include <string>

#include "yurvo/shading/light.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// `1 / 2.5²`: the falloff's law of a distance written as `distance`, numbers with so many digits.
std::string falloff_law_text(const light& lamp, const std::string& distance, int digits);

/// The law of a penumbra of the angle whose cosine is written as `cosine`. `law` is the light's own, or
/// `hard` where inner equals outer.
std::string penumbra_law_text(const light& lamp, penumbra_kind law, const std::string& cosine, int digits);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
