// Every path of the pipeline beside the one per fragment: each reference scene at each rate, unlit, under one
// light, without its textures, as `cel`, and written out as formulas; medians of frames drawn in turn, as
// ratios.
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "measuring.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/scene/shape_list.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;

namespace {

constexpr int frames = 15;

scene at_rate(scene of, rate at) {
    of.shading.rate = at;
    return of;
}

scene with_model(scene of, model_kind model) {
    of.shading.model = model;
    of.shading.own = {};
    of.formulas = {};
    return of;
}

scene without_textures(scene of) {
    for (named_material& each : of.materials) {
        each.image = nullptr;
        each.texture_file.clear();
    }
    return of;
}

bool textured(const scene& of) {
    return std::any_of(of.materials.begin(), of.materials.end(),
                       [](const named_material& each) { return each.image != nullptr; });
}

bool possible(const scene& of, rate at) {
    const std::vector<rate> all = possible_rates(of);
    return std::find(all.begin(), all.end(), at) != all.end();
}

} // namespace

int main() {
    std::printf("medians of %d frames in turn, 1280x800; ms per fragment, the others as parts of it\n",
                frames);
    std::printf("%-28s %9s %7s %7s %7s %7s %9s %9s %9s\n", "scene", "fragment", "vertex", "face", "unlit",
                "lambert", "cel/lamb", "v.1/unlit", "untextured");
    for (const verify::reference_scene& entry : verify::reference_scenes()) {
        yurvo::scene made = entry.scene;
        made.view.width = 1280;
        made.view.height = 800;
        std::vector<std::unique_ptr<repeated_drawing>> drawings;
        std::vector<std::function<void()>> works;
        std::vector<int> index;
        const auto add = [&](const scene& of, bool wanted) {
            index.push_back(wanted ? static_cast<int>(works.size()) : -1);
            if (wanted) {
                drawings.push_back(built_in_renderer().repeat(of, {}));
                works.emplace_back([drawing = drawings.back().get()] { drawing->draw(); });
            }
        };
        const scene fragment = at_rate(made, rate::fragment);
        add(fragment, true);
        add(at_rate(made, rate::vertex), possible(made, rate::vertex));
        add(at_rate(made, rate::face), possible(made, rate::face));
        add(with_model(fragment, model_kind::unlit), true);
        add(with_model(fragment, model_kind::lambert), true);
        scene cel = with_model(fragment, model_kind::cel);
        add(cel, true);
        scene one = at_rate(made, rate::vertex);
        one.lights.resize(std::min<std::size_t>(1, one.lights.size()));
        add(one, possible(made, rate::vertex) && !one.lights.empty());
        add(without_textures(fragment), textured(fragment));
        const std::vector<double> taken = bench::medians_in_turn(works, frames);
        const auto of = [&](std::size_t i) {
            return index[i] < 0 ? std::nan("") : taken[static_cast<std::size_t>(index[i])];
        };
        std::printf("%-28s %9.2f %7.2f %7.2f %7.2f %7.2f %9.2f %9.2f %9.2f\n", entry.name.c_str(), of(0),
                    of(1) / of(0), of(2) / of(0), of(3) / of(0), of(4) / of(0), of(5) / of(4), of(6) / of(3),
                    of(0) / of(7));
        std::fflush(stdout);
    }
}
