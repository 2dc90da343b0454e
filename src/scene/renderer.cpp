#include "yurvo/scene/renderer.hpp"

#include <algorithm>

#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1 {

namespace {

class drawn_anew final : public repeated_drawing {
    const renderer& by_;
    scene of_;
    draw_settings settings_;
    picture last_;
    draw_statistics statistics_;

  public:
    drawn_anew(const renderer& by, const scene& the_scene, const draw_settings& settings)
        : by_(by), of_(the_scene), settings_(settings) {}

    const picture& draw() override {
        last_ = by_.draw(of_, settings_, &statistics_);
        return last_;
    }
    [[nodiscard]] draw_statistics statistics() const override { return statistics_; }
};

} // namespace

std::unique_ptr<repeated_drawing> renderer::repeat(const scene& the_scene,
                                                   const draw_settings& settings) const {
    return std::make_unique<drawn_anew>(*this, the_scene, settings);
}

std::string renderer::name_for(const scene& the_scene) const {
    if (!the_scene.shading.own.name.empty()) {
        return the_scene.shading.own.name;
    }
    return std::string(name_of(the_scene.shading.model)) + (the_scene.formulas.any() ? " with formulas" : "");
}

std::vector<rate> renderer::rates_for(const scene& the_scene) const { return possible_rates(the_scene); }

const point_model* own_model_of(const scene& the_scene, const renderer& by) {
    return by.own_model() != nullptr ? by.own_model() : the_scene.shading.own.model.get();
}

picture function_renderer::draw(const scene& the_scene, const draw_settings& /*settings*/,
                                draw_statistics* /*statistics*/) const {
    return draw_(the_scene);
}

std::vector<rate> possible_rates(const scene& the_scene) {
    const bool fields =
        std::any_of(the_scene.objects.begin(), the_scene.objects.end(),
                    [](const object& item) { return std::holds_alternative<field_shape>(item.shape); });
    const bool textures = std::any_of(the_scene.materials.begin(), the_scene.materials.end(),
                                      [](const named_material& entry) { return entry.image != nullptr; });
    // A texture is sampled after a coarser rate has evaluated the model, `color` included.
    const bool color_first = the_scene.formulas.has(formulas::slot::color) && textures;
    if (descriptor_of(the_scene.shading.model).fragment_only || fields || color_first) {
        return {rate::fragment};
    }
    return {rate::face, rate::vertex, rate::fragment};
}

} // namespace yurvo::inline v0_1
