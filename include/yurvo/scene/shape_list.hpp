// shape_list: the shapes and the simple fields, one descriptor each. The reader, the writer, ranges,
// messages, meshes and finer or coarser cells follow from it.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string_view>
#include <vector>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The numbers of one size: one, two (along x, z) or three (along x, y, z); each in metres, above 0.
struct size_numbers {
    std::array<double*, 3> at{}; ///< the first `count` of them
    std::size_t count = 0;       ///< 0 to 3

    /// For loops.
    [[nodiscard]] double* const* begin() const { return at.data(); }
    /// For loops.
    [[nodiscard]] double* const* end() const { return at.data() + count; }
};

/// One size of a shape, under its key in scene files.
struct shape_size {
    std::string_view key; ///< in scene files
    /// Where a shape of that kind has it. The shape has to be of that kind.
    size_numbers (*of)(any_shape& shape) = nullptr;
    bool has_default = false; ///< a scene file may leave it out
};

/// How finely a shape is made of triangles: its two numbers of cells, and the least of each.
struct shape_cells {
    std::uint32_t* (*of)(any_shape& shape) = nullptr;       ///< two numbers; null where the shape has none
    std::array<std::uint32_t, 2> least{1, 1};               ///< around or across; along
    std::array<std::uint32_t, 2> least_for_triangles{1, 1}; ///< fewer give no triangle
};

/// A shape: its name, keys, sizes and mesh.
struct shape_descriptor {
    std::string_view name;         ///< in files and messages
    any_shape (*make)() = nullptr; ///< one of its default sizes
    std::vector<shape_size> sizes; ///< in the order in which they are written
    shape_cells cells;             ///< none for an implicit surface
    /// Keys of the shape in scene files that are neither a size nor cells.
    std::vector<std::string_view> other_keys;
    /// The mesh, with smooth normals; no triangle for an implicit surface.
    mesh (*build)(const any_shape& shape) = nullptr;
    /// The number of that mesh's triangles, without building it.
    std::uint64_t (*triangles)(const any_shape& shape) = nullptr;
};

/// In the order of any_shape.
const std::vector<shape_descriptor>& shape_list();
/// Of that shape.
const shape_descriptor& descriptor_of(const any_shape& shape);

/// A simple field's size: a member of its part, one number or three.
struct field_size {
    std::string_view key;                        ///< in scene files
    double field_part::*number = nullptr;        ///< where it is one number
    vec3<double> field_part::*numbers = nullptr; ///< where it is three
};

/// The sizes of a simple field of that kind; none for a smooth union, which is made of parts.
const std::vector<field_size>& sizes_of(field_kind kind);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
