// quantities: what the names of a shader can mean, and their values in a scene.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "pipeline/stage.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

enum class quantity_kind : std::uint8_t { number, position, direction, color, matrix, texture };

// A quantity by its parts: `lights.spot[*].cos_outer`, `object.to_world.transposed`.
struct quantity {
    std::string text;     // as written
    std::string of;       // object, view, ambient, material, shading, lights
    std::string property; // `to_world`, `cos_outer`, `count`
    // lights: which of them
    std::optional<light_kind> only; // lights.spot
    std::optional<int> index;       // lights[2]
    bool each = false;              // lights[*]
    std::string name;               // lights.lantern
    bool transposed = false;
    std::optional<int> component; // of a matrix its column
};

// Throws yurvo::error at `where` with the nearest known one.
quantity parse_quantity(const std::string& text, const source_location& where);

// Every quantity that is no light's, and every property of a light.
std::vector<std::string_view> scene_quantities();
std::vector<std::string_view> light_properties();

struct value_of_quantity {
    std::vector<double> numbers; // matrices column by column
    int rows = 1;                // of a matrix: 3 or 4; else how many numbers
    quantity_kind kind = quantity_kind::number;
};

// Whether lights of a kind have a property.
bool kind_has(light_kind kind, const std::string& property);

// What a quantity is for one object of a staged scene; `each` is the index that stands for [*].
struct quantity_context {
    const scene& of;
    const pipeline::stage& staged;
    const pipeline::staged_object& object;
    const law_numbers& numbered;
};
// Whether the light that a quantity asks for is in the scene and has that property; true of what is no
// light's.
bool is_there(const quantity& wanted, int each, const quantity_context& in);
// Throws yurvo::error at `where`: a light that is not there, or has no such property.
value_of_quantity evaluate(const quantity& wanted, int each, const quantity_context& in,
                           const source_location& where);

} // namespace yurvo::inline v0_1::program
