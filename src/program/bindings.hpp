// bindings: the names that the linked program reads, each with what it means.
#pragma once

#include <string>
#include <variant>
#include <vector>

#include "program/binding_expression.hpp"
#include "program/messages.hpp"
#include "program/quantities.hpp"
#include "program/translate.hpp"

namespace yurvo::inline v0_1::program {

// A literal, a quantity, or what is worked out of several.
using meaning = std::variant<double, quantity, binding_expression>;
// A text of the program file's as one. Throws yurvo::error at `where`.
meaning parse_meaning(const std::string& text, const source_location& where);
// All that a name means, in order. Throws as above.
std::vector<meaning> meanings_of_binding(const shader_binding& key);
// The word for what an attribute has at each vertex; null where it is the same at every one.
const std::string* attribute_word(const shader_binding& key);
// The quantities that it asks for.
std::vector<const quantity*> quantities_of(const meaning& means);

// One active uniform: literals, quantities and expressions that fill its components in order.
struct bound_uniform {
    active_uniform active;
    std::vector<meaning> means;
    int each = 0; // what [*] stands for
    source_location where;
    bool attribute = false; // of the vertex stage: the same at every vertex, its location an attribute's
};
struct bound_attribute {
    active_attribute active;
    std::string means; // one of vertex_attributes
};

struct bindings {
    std::vector<bound_uniform> uniforms;
    std::vector<bound_attribute> attributes;
    std::vector<std::string> remarks;
};

// Every active name must be bound and every bound name declared. Throws yurvo::error with the nearest names.
bindings bind(const shader_program& the_program, const translated_program& translated,
              const linked_program& linked);

// How many numbers a type of the driver's has: 1 to 16; 0 for one that cannot be bound. Columns and rows of a
// matrix, or 0.
struct type_shape {
    int components = 0;
    int columns = 0, rows = 0;
    bool whole = false;   // of integers
    bool texture = false; // a sampler
    std::string name;
    int bytes = 4; // of a component in a block
};
type_shape shape_of(std::uint32_t type);
// `lamps[*].place` of `lamps[2].place`.
std::string of_all_elements(const std::string& name);
// A vec3 and a vec4, as the driver numbers types.
inline constexpr std::uint32_t type_of_color = 0x8B51;
inline constexpr std::uint32_t type_of_color_and_alpha = 0x8B52;

// The numbers that an active uniform is given, as many as its type has; matrices column by column.
std::vector<float> numbers_for(const bound_uniform& each, const quantity_context& in, bool transposed);

} // namespace yurvo::inline v0_1::program
