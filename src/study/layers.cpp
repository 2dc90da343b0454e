#include "yurvo/study/layers.hpp"

#include <algorithm>

namespace yurvo::study {

namespace {

// The layers' names and terms; their pictures are yet to be drawn.
std::vector<layer> terms_of(const scene& of, const renderer& by) {
    const bool own = by.own_model() != nullptr;
    const auto is = [&](model_kind kind) { return !own && of.shading.model == kind; };
    std::vector<layer> made{{"unlit", {false, false, false, false}, {}, 0, {}}};
    if (is(model_kind::unlit)) {
        return made;
    }
    if (is(model_kind::cel)) {
        made.push_back({"cel", {}, {}, 0, {}});
        return made;
    }
    const auto any = [&](auto&& has) {
        return std::any_of(of.materials.begin(), of.materials.end(),
                           [&](const named_material& material) { return has(material.look); });
    };
    term_choice terms{true, false, false, false};
    const auto add = [&](const char* name) { made.push_back({name, terms, {}, 0, {}}); };
    add("ambient");
    terms.diffuse = true;
    add(of.shading.ambient_rule == ambient_rule::max ? "max with diffuse" : "+ diffuse");
    if (!is(model_kind::lambert) &&
        any([](const material& look) { return look.specular != rgb<double>(); })) {
        terms.specular = true;
        add("+ specular");
    }
    if (any([](const material& look) { return look.emission != rgb<double>(); })) {
        terms.emission = true;
        add("+ emission");
    }
    return made;
}

} // namespace

layers build_up(const scene& of, const renderer& by) {
    layers result{by.name_for(of), terms_of(of, by)};
    scene flat = of;
    flat.shading.model = model_kind::unlit;
    for (std::size_t i = 0; i < result.list.size(); ++i) {
        layer& one = result.list[i];
        one.drawn = i == 0 ? draw(flat) : by.draw(of, {one.terms});
        one.mean = compare(picture(one.drawn.width, one.drawn.height), one.drawn).mean_signed;
        if (i >= 2) {
            one.adds = compare(result.list[i - 1].drawn, one.drawn);
        }
    }
    return result;
}

} // namespace yurvo::study
