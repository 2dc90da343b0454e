#include "pipeline/stage.hpp"

#include "pipeline/parallel.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::pipeline {

namespace {

// With fewer triangles it takes longer to ask about clusters than it saves.
constexpr std::size_t many_triangles = 4096;

std::shared_ptr<const mesh_clusters> clusters_of(const mesh& shape) {
    if (shape.triangles.size() < many_triangles) {
        return nullptr;
    }
    auto made = std::make_shared<mesh_clusters>();
    made->list.resize(mesh_clusters::count_for(shape));
    constexpr std::size_t piece = 64;
    in_pieces(made->list.size(), piece, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            made->list[i] = make_cluster(shape, i);
        }
    });
    return made;
}

} // namespace

stage make_stage(const scene& from) {
    YURVO_ASSERT(!find_fault(from));
    stage made;
    made.view = from.view;
    made.seen_from = make_camera(from.view);
    made.lit_eye = from.view.eye;
    made.materials = from.materials;
    made.ambient_light = from.ambient_color * from.ambient_strength;
    made.rule = from.shading.ambient_rule;
    made.rate = from.shading.rate;
    made.lights.emplace_back();
    for (const named_light& light : from.lights) {
        made.lights.front().push_back(light_in_world(light, made.seen_from));
    }
    for (std::size_t i = 0; i < from.objects.size(); ++i) {
        const object& object = from.objects[i];
        staged_object staged;
        staged.source = i;
        staged.to_world = object_to_world(object.placed);
        staged.to_world_of_light = staged.to_world;
        staged.normal_to_world = normal_matrix(staged.to_world);
        staged.mirrored = mirrors(staged.to_world);
        staged.material = object.material;
        if (const auto* given = std::get_if<field_shape>(&object.shape)) {
            staged.shape = std::make_shared<const mesh>();
            staged.field = std::make_shared<const field>(given->field);
            made.objects.push_back(std::move(staged));
            continue;
        }
        const auto* given = std::get_if<mesh_shape>(&object.shape);
        // A mesh of several materials is drawn as several objects in one place.
        for (mesh_part& part : split_by_material(build_mesh(object))) {
            staged_object one = staged;
            one.shape = std::make_shared<const mesh>(std::move(part.shape));
            one.clusters = clusters_of(*one.shape);
            if (given != nullptr && part.material != mesh::no_material) {
                one.material = given->materials[part.material];
            }
            made.objects.push_back(std::move(one));
        }
    }
    return made;
}

} // namespace yurvo::pipeline
