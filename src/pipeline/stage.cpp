#include "pipeline/stage.hpp"

#include "pipeline/parallel.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

// With fewer triangles it takes longer to ask about clusters than it saves.
constexpr std::size_t many_triangles = 4096;

std::shared_ptr<const mesh_clusters> clusters_of(const mesh& shape) {
    if (shape.triangles.size() < many_triangles) {
        return nullptr;
    }
    auto result = std::make_shared<mesh_clusters>();
    result->list.resize(mesh_clusters::count_for(shape));
    constexpr std::size_t piece = 64;
    in_pieces(result->list.size(), piece, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            result->list[i] = make_cluster(shape, i);
        }
    });
    return result;
}

} // namespace

stage make_stage(const scene& from) {
    YURVO_ASSERT(!find_fault(from));
    stage result;
    result.view = from.view;
    result.seen_from = make_camera(from.view);
    result.lit_eye = from.view.eye;
    result.materials = from.materials;
    result.ambient_light = from.ambient_color * from.ambient_strength;
    result.rule = from.shading.ambient_rule;
    result.rate = from.shading.rate;
    result.lights.emplace_back();
    for (const named_light& light : from.lights) {
        result.lights.front().push_back(light_in_world(light, result.seen_from));
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
        if (const auto* the_shape = std::get_if<field_shape>(&object.shape)) {
            staged.shape = std::make_shared<const mesh>();
            staged.field = std::make_shared<const field>(the_shape->field);
            result.objects.push_back(std::move(staged));
            continue;
        }
        const auto* the_shape = std::get_if<mesh_shape>(&object.shape);
        // A mesh of several materials is drawn as several objects in one place.
        for (mesh_part& part : split_by_material(build_mesh(object))) {
            staged_object each = staged;
            each.shape = std::make_shared<const mesh>(std::move(part.shape));
            each.clusters = clusters_of(*each.shape);
            if (the_shape != nullptr && part.material != mesh::no_material) {
                each.material = the_shape->materials[part.material];
            }
            result.objects.push_back(std::move(each));
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::pipeline
