#include "yurvo/scene/scene.hpp"
#include "yurvo/geometry/transform.hpp"

#include "yurvo/geometry/normals.hpp"
#include "yurvo/geometry/shapes.hpp"

namespace yurvo {

namespace {

template <class... Cases> struct cases : Cases... { using Cases::operator()...; };

} // namespace

std::uint64_t triangle_count(const any_shape& shape) {
    const auto grid = [](const std::uint32_t(&cells)[2]) {
        return 2 * static_cast<std::uint64_t>(cells[0]) * cells[1];
    };
    return std::visit(
        cases{[&](const plane_shape& plane) { return grid(plane.cells); },
              [&](const box_shape&) { return std::uint64_t{12}; },
              [&](const sphere_shape& sphere) {
                  const std::uint64_t rows = sphere.cells[1];
                  return rows < 2 ? 0 : 2 * static_cast<std::uint64_t>(sphere.cells[0]) * (rows - 1);
              },
              [&](const cylinder_shape& cylinder) {
                  return grid(cylinder.cells) + 2 * static_cast<std::uint64_t>(cylinder.cells[0]);
              },
              [&](const cone_shape& cone) { return grid(cone.cells); },
              [&](const torus_shape& torus) { return grid(torus.cells); },
              [&](const mesh_shape& given) { return std::uint64_t{given.data->triangles.size()}; },
              [&](const field_shape&) { return std::uint64_t{0}; }},
        shape);
}

mesh build_mesh(const object& from) {
    mesh smooth = std::visit(
        cases{[](const plane_shape& plane) {
                  return make_plane(plane.size[0], plane.size[1], plane.cells[0], plane.cells[1]);
              },
              [](const box_shape& box) { return make_box(box.size); },
              [](const sphere_shape& sphere) {
                  return make_sphere(sphere.radius, sphere.cells[0], sphere.cells[1]);
              },
              [](const cylinder_shape& cylinder) {
                  return make_cylinder(cylinder.radius, cylinder.height, cylinder.cells[0],
                                       cylinder.cells[1]);
              },
              [](const cone_shape& cone) {
                  return make_cone(cone.radius, cone.height, cone.cells[0], cone.cells[1]);
              },
              [](const torus_shape& torus) {
                  return make_torus(torus.radius, torus.tube, torus.cells[0], torus.cells[1]);
              },
              [](const mesh_shape& given) { return *given.data; }, [](const field_shape&) { return mesh(); }},
        from.shape);
    switch (from.normals) {
    case normals_kind::flat:
        return with_flat_normals(smooth);
    case normals_kind::shared:
        return with_shared_normals(smooth);
    case normals_kind::smooth:
        break;
    }
    return smooth;
}

camera make_camera(const view& from) {
    camera made;
    made.eye = from.eye;
    made.axes = look_at(from.eye, from.target, from.up);
    made.tangent = std::tan(from.fov / 2);
    made.near = from.near;
    made.far = from.far;
    made.width = from.width;
    made.height = from.height;
    return made;
}

light light_in_world(const named_light& given, const camera& seen_from) {
    light moved = given.light;
    if (given.space == light_space::view) {
        moved.position = seen_from.point_to_world(moved.position);
        moved.shines = seen_from.direction_to_world(moved.shines);
    }
    return moved;
}

std::string label_of(const object& of, std::size_t index) {
    return of.name.empty() ? "objects[" + std::to_string(index) + "]" : of.name;
}

std::string label_of(const named_light& of, std::size_t index) {
    return of.name.empty() ? "lights[" + std::to_string(index) + "]" : of.name;
}

} // namespace yurvo
