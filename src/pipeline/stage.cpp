#include "yurvo/pipeline/stage.hpp"

namespace yurvo::pipeline {

stage make_stage(const scene& from) {
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
    for (const object& object : from.objects) {
        staged_object staged;
        staged.shape = std::make_shared<const mesh>(build_mesh(object));
        staged.to_world = object_to_world(object.placed);
        staged.to_world_of_light = staged.to_world;
        staged.normal_to_world = normal_matrix(staged.to_world);
        staged.mirrored = mirrors(staged.to_world);
        staged.material = object.material;
        made.objects.push_back(std::move(staged));
    }
    return made;
}

} // namespace yurvo::pipeline
