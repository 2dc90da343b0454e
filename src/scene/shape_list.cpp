#include "yurvo/scene/shape_list.hpp"

#include "yurvo/geometry/mesh.hpp"
#include "yurvo/geometry/shapes.hpp"

namespace yurvo::inline v0_1 {

namespace {

template <class Shape, auto Member> size_numbers numbers_at(any_shape& shape) {
    auto& held = std::get<Shape>(shape).*Member;
    if constexpr (requires { held.x; }) {
        return {{&held.x, &held.y, &held.z}, 3};
    } else if constexpr (requires { held[0]; }) {
        return {{&held[0], &held[1]}, 2};
    } else {
        return {{&held}, 1};
    }
}

template <class Shape> std::uint32_t* cells_at(any_shape& shape) {
    return static_cast<std::uint32_t*>(std::get<Shape>(shape).cells);
}

template <class Shape> any_shape make_default() { return Shape{}; }

// Two triangles in each cell.
template <class Shape> std::uint64_t grid_triangles(const any_shape& shape) {
    const Shape& cut = std::get<Shape>(shape);
    return 2 * static_cast<std::uint64_t>(cut.cells[0]) * cut.cells[1];
}

// Cells at a pole are single triangles.
std::uint64_t sphere_triangles(const any_shape& shape) {
    const sphere_shape& sphere = std::get<sphere_shape>(shape);
    const std::uint64_t rows = sphere.cells[1];
    return rows < 2 ? 0 : 2 * static_cast<std::uint64_t>(sphere.cells[0]) * (rows - 1);
}

// The two discs as well.
std::uint64_t cylinder_triangles(const any_shape& shape) {
    return grid_triangles<cylinder_shape>(shape) +
           2 * static_cast<std::uint64_t>(std::get<cylinder_shape>(shape).cells[0]);
}

} // namespace

const std::vector<shape_descriptor>& shape_list() {
    static const std::vector<shape_descriptor> list{
        {.name = "plane",
         .make = make_default<plane_shape>,
         .sizes = {{"size", numbers_at<plane_shape, &plane_shape::size>, true}},
         .cells = {cells_at<plane_shape>, {1, 1}, {1, 1}},
         .other_keys = {},
         .build =
             [](const any_shape& shape) {
                 const auto& plane = std::get<plane_shape>(shape);
                 return make_plane(plane.size[0], plane.size[1], plane.cells[0], plane.cells[1]);
             },
         .triangles = grid_triangles<plane_shape>},
        {.name = "box",
         .make = make_default<box_shape>,
         .sizes = {{"size", numbers_at<box_shape, &box_shape::size>}},
         .cells = {},
         .other_keys = {},
         .build = [](const any_shape& shape) { return make_box(std::get<box_shape>(shape).size); },
         .triangles = [](const any_shape& /*box*/) -> std::uint64_t { return 12; }},
        {.name = "sphere",
         .make = make_default<sphere_shape>,
         .sizes = {{"radius", numbers_at<sphere_shape, &sphere_shape::radius>}},
         .cells = {cells_at<sphere_shape>, {3, 1}, {3, 2}},
         .other_keys = {},
         .build =
             [](const any_shape& shape) {
                 const auto& sphere = std::get<sphere_shape>(shape);
                 return make_sphere(sphere.radius, sphere.cells[0], sphere.cells[1]);
             },
         .triangles = sphere_triangles},
        {.name = "cylinder",
         .make = make_default<cylinder_shape>,
         .sizes = {{"radius", numbers_at<cylinder_shape, &cylinder_shape::radius>},
                   {"height", numbers_at<cylinder_shape, &cylinder_shape::height>}},
         .cells = {cells_at<cylinder_shape>, {3, 1}, {3, 1}},
         .other_keys = {},
         .build =
             [](const any_shape& shape) {
                 const auto& cylinder = std::get<cylinder_shape>(shape);
                 return make_cylinder(cylinder.radius, cylinder.height, cylinder.cells[0], cylinder.cells[1]);
             },
         .triangles = cylinder_triangles},
        {.name = "cone",
         .make = make_default<cone_shape>,
         .sizes = {{"radius", numbers_at<cone_shape, &cone_shape::radius>},
                   {"height", numbers_at<cone_shape, &cone_shape::height>}},
         .cells = {cells_at<cone_shape>, {3, 1}, {3, 1}},
         .other_keys = {},
         .build =
             [](const any_shape& shape) {
                 const auto& cone = std::get<cone_shape>(shape);
                 return make_cone(cone.radius, cone.height, cone.cells[0], cone.cells[1]);
             },
         .triangles = grid_triangles<cone_shape>},
        {.name = "torus",
         .make = make_default<torus_shape>,
         .sizes = {{"radius", numbers_at<torus_shape, &torus_shape::radius>},
                   {"tube", numbers_at<torus_shape, &torus_shape::tube>}},
         .cells = {cells_at<torus_shape>, {3, 3}, {3, 3}},
         .other_keys = {},
         .build =
             [](const any_shape& shape) {
                 const auto& torus = std::get<torus_shape>(shape);
                 return make_torus(torus.radius, torus.tube, torus.cells[0], torus.cells[1]);
             },
         .triangles = grid_triangles<torus_shape>},
        {.name = "mesh",
         .make = make_default<mesh_shape>,
         .sizes = {},
         .cells = {},
         .other_keys = {"file"},
         .build = [](const any_shape& shape) { return *std::get<mesh_shape>(shape).data; },
         .triangles = [](const any_shape& shape) -> std::uint64_t {
             return std::get<mesh_shape>(shape).data->triangles.size();
         }},
        {.name = "field",
         .make = make_default<field_shape>,
         .sizes = {},
         .cells = {},
         .other_keys = {"field", "radius", "size", "rounding", "tube", "height", "parts", "blend"},
         .build = [](const any_shape& /*met by rays*/) { return mesh(); },
         .triangles = [](const any_shape& /*met by rays*/) -> std::uint64_t { return 0; }},
    };
    return list;
}

const shape_descriptor& descriptor_of(const any_shape& shape) { return shape_list()[shape.index()]; }

const std::vector<field_size>& sizes_of(field_kind kind) {
    static const std::array<std::vector<field_size>, 5> list{{
        {{"radius", &field_part::radius}},                                           // sphere
        {{"size", nullptr, &field_part::size}, {"rounding", &field_part::rounding}}, // rounded-box
        {{"radius", &field_part::radius}, {"tube", &field_part::tube}},              // torus
        {{"radius", &field_part::radius}, {"height", &field_part::height}},          // capsule
        {},                                                                          // smooth-union
    }};
    return list[static_cast<std::size_t>(kind)];
}

} // namespace yurvo::inline v0_1
