// quantity_list: what the names of a shader can mean, one descriptor each. Reading, the guess, messages and
// values follow from it.
#pragma once

#include <string_view>
#include <vector>

#include "program/quantities.hpp"

namespace yurvo::inline v0_1::program {

struct light_quantity {
    std::string_view name; // after `lights[*].`
    int size = 1;          // numbers
    bool (*has)(const light& lamp) = nullptr;
    // Only for a light that has it.
    value_of_quantity (*value)(const light& lamp, const quantity_context& in) = nullptr;
};
const std::vector<light_quantity>& light_quantity_list();
// Null where there is none of that name.
const light_quantity* find_light_quantity(std::string_view name);

struct scene_quantity {
    std::string_view name; // whole: `object.to_world`
    value_of_quantity (*value)(const quantity_context& in) = nullptr;
};
const std::vector<scene_quantity>& scene_quantity_list();
const scene_quantity* find_scene_quantity(std::string_view name);

} // namespace yurvo::inline v0_1::program
