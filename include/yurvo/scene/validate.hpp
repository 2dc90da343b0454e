// What makes a scene valid: every range, in one place.
#pragma once

#include <optional>
#include <string>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The first thing wrong with a scene: where (`objects[1].radius`), what is wrong, what would be right.
struct fault {
    std::string path;  ///< of the value, as scene files write it
    std::string wrong; ///< what is wrong
    std::string right; ///< what would be right
};

/// The first thing that is wrong with a scene; nothing where it is valid.
std::optional<fault> find_fault(const scene& the_scene);

/// Throws yurvo::error, its place the path of the fault, where there is one.
void require_valid(const scene& the_scene);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
