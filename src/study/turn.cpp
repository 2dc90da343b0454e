#include "yurvo/study/turn.hpp"

#include <algorithm>

#include "pipeline/probe.hpp"
#include "pipeline/visibility.hpp"
#include "verify/point_lighting.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/comparison.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::study {

namespace {

struct seen_middle {
    pipeline::stage staged;
    std::optional<pipeline::seen_point> point;
};

seen_middle middle_of(const scene& the_scene) {
    seen_middle found{pipeline::make_stage(the_scene), std::nullopt};
    found.point = pipeline::probe(found.staged, pipeline::find_visible(found.staged),
                                  the_scene.view.width / 2, the_scene.view.height / 2);
    return found;
}

// What all lights of a scene make of one term at a point.
rgb<double> term_at(const seen_middle& at, const scene& the_scene, const term_choice& term,
                    const point_model* own) {
    std::vector<verify::lighting_data> data;
    for (const pipeline::staged_object& staged : at.staged.objects) {
        data.push_back(verify::lighting_data_of(at.staged, staged, {}));
    }
    const verify::point_lighting lighting(the_scene, at.staged, data, {}, term, own);
    const material& look = at.staged.materials[at.point->material].look;
    verify::point_input input;
    input.position = at.point->position;
    input.normal = at.point->normal;
    input.base = look.base;
    const outgoing<double> lit = lighting.evaluate(0, look, input, nullptr).lit;
    return lit.tinted + lit.untinted;
}

void require_name(const scene& the_scene, turned_part what, const std::string& name) {
    if (what == turned_part::eye) {
        throw error({"--name", 0, 0}, "there is only one eye", "--what object or light, or no --name");
    }
    std::vector<std::string_view> known;
    if (what == turned_part::object) {
        for (const object& item : the_scene.objects) {
            known.emplace_back(item.name);
        }
    } else {
        for (const named_light& lamp : the_scene.lights) {
            known.emplace_back(lamp.name);
        }
    }
    if (std::find(known.begin(), known.end(), name) == known.end()) {
        throw error({"--name", 0, 0}, "there is no `" + name + "`",
                    instead_of(name, known, "the name of one of the scene's"));
    }
}

} // namespace

turn turn_around(const scene& the_scene, turned_part what, int steps, const std::string& name,
                 const renderer& by) {
    YURVO_ASSERT(steps >= 1 && steps <= 64);
    if (!name.empty()) {
        require_name(the_scene, what, name);
    }
    const seen_middle middle = middle_of(the_scene);
    turn result{by.name_for(the_scene), what, name, std::nullopt, {}};
    if (middle.point) {
        const std::size_t object = middle.point->object;
        result.point = {label_of(the_scene.objects[object], object), middle.point->position};
    }
    for (int i = 0; i < steps; ++i) {
        turn_step& step = result.steps.emplace_back();
        step.angle = 2 * pi * i / steps;
        const scene turned_scene = turned(the_scene, what, step.angle, name);
        step.drawn = by.draw(turned_scene);
        step.mean = compare(picture(step.drawn.width, step.drawn.height), step.drawn).mean_signed;
        step.largest_difference = compare(result.steps.front().drawn, step.drawn).largest;
        if (!middle.point) {
            continue;
        }
        // A point that stays where it is: under the turned eye or lights, or, where objects turn, whatever is
        // there.
        const seen_middle now = what == turned_part::object
                                    ? middle_of(turned_scene)
                                    : seen_middle{pipeline::make_stage(turned_scene), middle.point};
        if (now.point) {
            step.diffuse =
                term_at(now, turned_scene, {false, true, false, false}, own_model_of(turned_scene, by));
            step.specular =
                term_at(now, turned_scene, {false, false, true, false}, own_model_of(turned_scene, by));
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
