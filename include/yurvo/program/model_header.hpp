// model_header: a scene's model, its formulas and all, as a C++ header.
#pragma once

#include <string>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A header that defines `struct scene_model`, a lighting model for every Real. Throws yurvo::error where the
/// scene's model has no terms (`unlit`, `cel`).
std::string model_header(const scene& of);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
