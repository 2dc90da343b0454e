// What makes a scene valid: every range, in one place.
#pragma once

#include <optional>
#include <string>

#include "yurvo/scene/scene.hpp"

namespace yurvo {

/// The first thing wrong with a scene: where (`objects[1].radius`), what is wrong, what would be right.
struct fault {
    std::string path;
    std::string wrong;
    std::string right;
};

std::optional<fault> find_fault(const scene& the_scene);

/// Throws yurvo::error, its place the path of the fault, where there is one.
void require_valid(const scene& the_scene);

} // namespace yurvo
