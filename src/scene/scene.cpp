#include "yurvo/scene/scene.hpp"
#include "yurvo/geometry/transform.hpp"

#include "yurvo/geometry/normals.hpp"
#include "yurvo/scene/shape_list.hpp"

namespace yurvo::inline v0_1 {

std::uint64_t triangle_count(const any_shape& shape) { return descriptor_of(shape).triangles(shape); }

mesh build_mesh(const object& from) {
    mesh smooth = descriptor_of(from.shape).build(from.shape);
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

model_descriptor model_of(const scene& the_scene) {
    using enum formulas::slot;
    if (const point_model* own = the_scene.shading.own.model.get()) {
        return {.lit = own->needs_lights(), .sums_terms = !own->has_own_finish()};
    }
    model_descriptor model = descriptor_of(the_scene.shading.model);
    if (!the_scene.formulas.any()) {
        return model;
    }
    model.specular = model.specular || the_scene.formulas.has(specular) || the_scene.formulas.has(more);
    const formulas::formula_set parsed = formulas::parse_all(the_scene.formulas, the_scene.numbers);
    // The built-in highlight goes where a formula stands for it.
    model.looks_at_eye = model.looks_at_eye && !parsed.has(specular);
    for (const formulas::input each : {formulas::input::v, formulas::input::h, formulas::input::r}) {
        model.looks_at_eye = model.looks_at_eye || parsed.uses(each);
    }
    return model;
}

camera make_camera(const view& from) {
    camera result;
    result.eye = from.eye;
    result.axes = look_at(from.eye, from.target, from.up);
    result.tangent = std::tan(from.fov / 2);
    result.near = from.near;
    result.far = from.far;
    result.width = from.width;
    result.height = from.height;
    return result;
}

light light_in_world(const named_light& lamp, const camera& seen_from) {
    light moved = lamp.light;
    if (lamp.space == light_space::view) {
        moved.position = seen_from.point_to_world(moved.position);
        moved.shines = seen_from.direction_to_world(moved.shines);
    }
    return moved;
}

std::string label_of(const object& item, std::size_t index) {
    return item.name.empty() ? "objects[" + std::to_string(index) + "]" : item.name;
}

std::string label_of(const named_light& item, std::size_t index) {
    return item.name.empty() ? "lights[" + std::to_string(index) + "]" : item.name;
}

} // namespace yurvo::inline v0_1
