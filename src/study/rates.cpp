#include "yurvo/study/rates.hpp"

#include <limits>

#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::study {

namespace {

float luminance(const rgb<float>& c) { return 0.2126F * c.r + 0.7152F * c.g + 0.0722F * c.b; }

drawn_rate draw_at(const scene& the_scene, const renderer& by, rate at) {
    scene changed = the_scene;
    changed.shading.rate = at;
    drawn_rate result;
    result.at = at;
    result.drawn = by.draw(changed, {}, &result.statistics);
    for (int y = 0; y < result.drawn.height; ++y) {
        for (int x = 0; x < result.drawn.width; ++x) {
            const rgb<float> color = result.drawn.color(x, y);
            if (luminance(color) > luminance(result.brightest)) {
                result.brightest = color;
                result.x = x;
                result.y = y;
            }
        }
    }
    return result;
}

void require_every_rate(const named_scene& named, const renderer& by) {
    for (std::size_t i = 0; i < named.scene.objects.size(); ++i) {
        if (std::holds_alternative<field_shape>(named.scene.objects[i].shape)) {
            throw error({named.name, 0, 0},
                        "`" + label_of(named.scene.objects[i], i) + "` is a field, drawn per fragment only",
                        "a scene without fields");
        }
    }
    if (by.rates_for(named.scene).size() < 3) {
        throw error({named.name, 0, 0},
                    "the model `" + by.name_for(named.scene) + "` is evaluated per fragment only",
                    "a scene with another model, or --model lambert");
    }
}

} // namespace

rates compare_rates(const named_scene& named, const renderer& by) {
    require_every_rate(named, by);
    rates result;
    result.model = by.name_for(named.scene);
    result.face = draw_at(named.scene, by, rate::face);
    result.vertex = draw_at(named.scene, by, rate::vertex);
    result.fragment = draw_at(named.scene, by, rate::fragment);
    result.face_off = compare(result.fragment.drawn, result.face.drawn);
    result.vertex_off = compare(result.fragment.drawn, result.vertex.drawn);
    return result;
}

rate_claim find_rate(const named_scene& named, const renderer& by) {
    rate_claim result;
    result.drawn_by = by.drawn_by();
    result.claimed = named.scene.shading.rate;
    result.drawn = by.draw(named.scene);
    double least = std::numeric_limits<double>::infinity();
    for (const rate at : possible_rates(named.scene)) {
        scene changed = named.scene;
        changed.shading.rate = at;
        rate_distance& distance = result.rates.emplace_back();
        distance.at = at;
        distance.right = draw(changed);
        distance.off = compare(distance.right, result.drawn);
        if (distance.off.mean < least) {
            least = distance.off.mean;
            result.nearest = at;
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
