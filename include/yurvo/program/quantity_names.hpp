// What the names of a shader can mean, by name: for documents and completions. The values are program's own.
#pragma once

#include <array>
#include <string_view>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A quantity of a light: `lights[*].NAME`.
struct light_quantity_name {
    std::string_view name;       ///< after the dot
    int numbers = 1;             ///< how many it has
    std::array<bool, 3> kinds{}; ///< whether directional, point and spot lights have it
};

/// Those of the object, the view, the material, ambient light and shading, whole: `object.to_world`.
std::vector<std::string_view> scene_quantity_names();
/// Those of lights.
std::vector<light_quantity_name> light_quantity_names();

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
