#include "yurvo/pipeline/layers.hpp"

#include <algorithm>

namespace yurvo {

std::vector<layer> build_up(const scene& from, const term_drawer& drawn) {
    const term_drawer drawer =
        drawn ? drawn
              : term_drawer([](const scene& s, const draw_settings& settings) { return draw(s, settings); });
    std::vector<layer> layers;
    scene flat = from;
    flat.shading.model = model_kind::unlit;
    layers.push_back({"unlit", {false, false, false, false}, draw(flat)});
    if (!drawn && from.shading.model == model_kind::unlit) {
        return layers;
    }
    if (!drawn && from.shading.model == model_kind::cel) {
        layers.push_back({"cel", {}, drawer(from, {})});
        return layers;
    }
    const auto any = [&](auto&& has) {
        return std::any_of(from.materials.begin(), from.materials.end(),
                           [&](const named_material& material) { return has(material.look); });
    };
    const bool lambertian = !drawn && from.shading.model == model_kind::lambert;
    const bool specular =
        !lambertian && any([](const material& look) { return look.specular != rgb<double>(); });
    const bool emission = any([](const material& look) { return look.emission != rgb<double>(); });
    term_choice terms{true, false, false, false};
    layers.push_back({"ambient", terms, drawer(from, {terms})});
    terms.diffuse = true;
    layers.push_back(
        {from.shading.ambient_rule == ambient_rule::max ? "max with diffuse" : "+ diffuse", terms, {}});
    if (specular) {
        terms.specular = true;
        layers.push_back({"+ specular", terms, {}});
    }
    if (emission) {
        terms.emission = true;
        layers.push_back({"+ emission", terms, {}});
    }
    for (layer& one : layers) {
        if (one.made.values.empty()) {
            one.made = drawer(from, {one.terms});
        }
    }
    return layers;
}

} // namespace yurvo
