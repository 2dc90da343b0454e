#include "verify/relation_scenes.hpp"

#include <algorithm>
#include <vector>

#include "verify/scene_changes.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

bool sums_lights(const scene& the_scene) {
    return the_scene.shading.ambient_rule == ambient_rule::add && yurvo::model_of(the_scene).sums_terms;
}

bool channels_are_alike(const scene& the_scene) {
    if (!the_scene.formulas.any()) {
        return true;
    }
    using formulas::input;
    const formulas::formula_set set = parse_all(the_scene.formulas, the_scene.numbers);
    for (const input each : {input::base, input::light, input::light_color, input::material_ambient,
                             input::material_diffuse, input::material_specular, input::emission}) {
        if (set.uses(each)) {
            return false;
        }
    }
    for (const formulas::slot each :
         {formulas::slot::diffuse, formulas::slot::specular, formulas::slot::ambient}) {
        if (set.has(each) && set[each]->type().width > 1) {
            return false;
        }
    }
    if (!set.has(formulas::slot::color)) {
        return !set.has(formulas::slot::more);
    }
    // A curve of c and of single numbers, the same for each component.
    const std::vector<formulas::step>& steps = set[formulas::slot::color]->steps;
    const bool by_component = std::all_of(steps.begin(), steps.end(), [](const formulas::step& step) {
        const bool splits = step.kind == formulas::step_kind::swizzle ||
                            (step.kind == formulas::step_kind::construct && step.count > 1);
        const bool vector = step.kind == formulas::step_kind::input && step.type.width > 1 &&
                            step.from[0] != index_of(input::c);
        return !splits && !vector;
    });
    return by_component && !set.has(formulas::slot::more);
}

bool smoothly_lit_planes(const scene& the_scene) {
    const bool even =
        std::all_of(the_scene.lights.begin(), the_scene.lights.end(), [](const named_light& lamp) {
            return lamp.light.kind == light_kind::point &&
                   (lamp.light.falloff == falloff_kind::inverse_square ||
                    lamp.light.falloff == falloff_kind::polynomial);
        });
    const bool in_front = std::none_of(the_scene.lights.begin(), the_scene.lights.end(),
                                       [](const named_light& lamp) { return lamp.light.position.y <= 0; });
    return !the_scene.formulas.any() && the_scene.shading.own.model == nullptr && even && in_front &&
           the_scene.lights.size() == 1 && the_scene.objects.size() == 1 && only_planes(the_scene) &&
           the_scene.shading.model == model_kind::lambert && the_scene.shading.rate == rate::vertex &&
           the_scene.objects[0].placed == placement{};
}

bool level_planes(const scene& the_scene) {
    return only_planes(the_scene) &&
           std::all_of(the_scene.objects.begin(), the_scene.objects.end(),
                       [](const object& item) {
                           return item.placed.rotation == vec3<double>{} && item.placed.scale.y > 0;
                       }) &&
           std::none_of(the_scene.materials.begin(), the_scene.materials.end(),
                        [](const named_material& entry) { return entry.look.two_sided; });
}

bool has_directional(const scene& the_scene) {
    return sums_lights(the_scene) &&
           std::any_of(the_scene.lights.begin(), the_scene.lights.end(),
                       [](const named_light& lamp) { return lamp.light.kind == light_kind::directional; });
}

} // namespace yurvo::inline v0_1::verify
