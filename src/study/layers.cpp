#include "yurvo/study/layers.hpp"

#include <algorithm>

namespace yurvo::inline v0_1::study {

namespace {

// The layers' names and terms; their pictures are yet to be drawn.
std::vector<layer> terms_of(const scene& the_scene, const renderer& by) {
    const bool own = own_model_of(the_scene, by) != nullptr;
    const auto is = [&](model_kind kind) { return !own && the_scene.shading.model == kind; };
    std::vector<layer> result{{"unlit", {false, false, false, false}, {}, 0, {}}};
    if (is(model_kind::unlit)) {
        return result;
    }
    if (is(model_kind::cel)) {
        result.push_back({"cel", {}, {}, 0, {}});
        return result;
    }
    const auto any = [&](auto&& has) {
        return std::any_of(the_scene.materials.begin(), the_scene.materials.end(),
                           [&](const named_material& material) { return has(material.look); });
    };
    term_choice terms{true, false, false, false};
    const auto add = [&](const char* name) { result.push_back({name, terms, {}, 0, {}}); };
    add("ambient");
    terms.diffuse = true;
    add(the_scene.shading.ambient_rule == ambient_rule::max ? "max with diffuse" : "+ diffuse");
    const bool specular = own || model_of(the_scene).specular;
    const bool more = !own && the_scene.formulas.has(formulas::slot::more);
    if (specular && (more || any([](const material& look) { return look.specular != rgb<double>(); }))) {
        terms.specular = true;
        add("+ specular");
    }
    if (any([](const material& look) { return look.emission != rgb<double>(); })) {
        terms.emission = true;
        add("+ emission");
    }
    return result;
}

} // namespace

layers build_up(const scene& the_scene, const renderer& by) {
    layers result{by.name_for(the_scene), terms_of(the_scene, by)};
    scene flat = the_scene;
    flat.shading.model = model_kind::unlit;
    flat.shading.own = {};
    flat.formulas = {};
    for (std::size_t i = 0; i < result.list.size(); ++i) {
        layer& each_layer = result.list[i];
        each_layer.drawn = i == 0 ? draw(flat) : by.draw(the_scene, {each_layer.terms});
        each_layer.mean =
            compare(picture(each_layer.drawn.width, each_layer.drawn.height), each_layer.drawn).mean_signed;
        if (i >= 2) {
            each_layer.adds = compare(result.list[i - 1].drawn, each_layer.drawn);
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
