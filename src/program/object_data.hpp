// object_data: what an object's mesh, values and texture are as the driver takes them.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "program/bindings.hpp"
#include "program/messages.hpp"
#include "yurvo/geometry/mesh.hpp"
#include "yurvo/picture/texture.hpp"

namespace yurvo::inline v0_1::program {

// Writes a value into a block's bytes where the driver has it: column by column at its stride, or row by row.
void write_into(std::vector<std::uint8_t>& block, const active_uniform& at, const type_shape& shape,
                const std::vector<float>& numbers);

// A sampler's texture: the material's (null is white), decoded or as codes / 255; or one of a number or a
// factor everywhere. Throws yurvo::error where that kind of sampler takes no such thing.
texture_values texture_for(const bound_uniform& sampler, const texture* image, const quantity_context& in);

// `what` (one of vertex_attributes) of every corner of every triangle.
std::vector<float> attribute_of(const mesh& shape, const std::string& what, int components);

// An attribute that is the same at every vertex; a matrix is an attribute for each of its columns.
void put_same_everywhere(int location, const type_shape& shape, const std::vector<float>& numbers,
                         std::vector<attribute_values>& into);

} // namespace yurvo::inline v0_1::program
