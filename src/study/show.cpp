#include "yurvo/study/show.hpp"

#include <vector>

#include "yurvo/pipeline/show.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::study {

namespace {

// The scene with one light left, by its name; the first where none is named.
scene with_one_light(const scene& the_scene, const std::string& name) {
    scene result = the_scene;
    result.lights.clear();
    std::vector<std::string_view> known;
    for (const named_light& light : the_scene.lights) {
        known.emplace_back(light.name);
        if (result.lights.empty() && (name.empty() || light.name == name)) {
            result.lights.push_back(light);
        }
    }
    if (result.lights.empty()) {
        throw error({"--light", 0, 0},
                    name.empty() ? "the scene has no light" : "there is no light `" + name + "`",
                    instead_of(name, known, "a scene's light by its name"));
    }
    return result;
}

} // namespace

shown show(const scene& the_scene, const renderer& by, const show_settings& settings) {
    scene without_background = the_scene;
    without_background.view.background = {};
    shown result;
    result.what = settings.what;
    result.for_the_eye = settings.for_the_eye;
    switch (settings.what) {
    case shown_part::normals:
        result.drawn = show_normals(without_background, &result.statistics);
        result.how = encoding::linear;
        break;
    case shown_part::cosine: {
        const scene lit = with_one_light(without_background, settings.light);
        result.light = label_of(lit.lights[0], 0);
        result.drawn = show_cosine(lit, &result.statistics);
        break;
    }
    case shown_part::depth:
        result.drawn = show_depth(without_background, &result.statistics);
        if (settings.for_the_eye) {
            result.drawn = depth_to_look_at(result.drawn, result.nearest, result.farthest);
        }
        break;
    case shown_part::overflow:
        result.drawn =
            show_overflow(by.draw(the_scene, {settings.terms}, &result.statistics), result.overflowing);
        break;
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
