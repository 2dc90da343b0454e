#include "yurvo/study/rates.hpp"

#include <limits>

#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::study {

namespace {

float luminance(const rgb<float>& c) { return 0.2126F * c.r + 0.7152F * c.g + 0.0722F * c.b; }

drawn_rate draw_at(const scene& of, const renderer& by, rate at) {
    scene changed = of;
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

void require_every_rate(const named_scene& of, const renderer& by) {
    for (std::size_t i = 0; i < of.scene.objects.size(); ++i) {
        if (std::holds_alternative<field_shape>(of.scene.objects[i].shape)) {
            throw error({of.name, 0, 0},
                        "`" + label_of(of.scene.objects[i], i) + "` is a field, drawn per fragment only",
                        "a scene without fields");
        }
    }
    if (by.rates_for(of.scene).size() < 3) {
        throw error({of.name, 0, 0},
                    "the model `" + by.name_for(of.scene) + "` is evaluated per fragment only",
                    "a scene with another model, or --model lambert");
    }
}

} // namespace

rates compare_rates(const named_scene& of, const renderer& by) {
    require_every_rate(of, by);
    rates result;
    result.model = by.name_for(of.scene);
    result.face = draw_at(of.scene, by, rate::face);
    result.vertex = draw_at(of.scene, by, rate::vertex);
    result.fragment = draw_at(of.scene, by, rate::fragment);
    result.face_off = compare(result.fragment.drawn, result.face.drawn);
    result.vertex_off = compare(result.fragment.drawn, result.vertex.drawn);
    return result;
}

rate_claim find_rate(const named_scene& of, const renderer& by) {
    rate_claim result;
    result.drawn_by = by.drawn_by();
    result.claimed = of.scene.shading.rate;
    result.drawn = by.draw(of.scene);
    double least = std::numeric_limits<double>::infinity();
    for (const rate at : possible_rates(of.scene)) {
        scene changed = of.scene;
        changed.shading.rate = at;
        rate_distance& one = result.rates.emplace_back();
        one.at = at;
        one.right = draw(changed);
        one.off = compare(one.right, result.drawn);
        if (one.off.mean < least) {
            least = one.off.mean;
            result.nearest = at;
        }
    }
    return result;
}

} // namespace yurvo::study
