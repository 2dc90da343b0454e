// draw: scene in, picture out.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The pipeline under each scene's own model: what draw() and every study use where no other renderer is
/// named.
const renderer& built_in_renderer();

/// The pipeline under a model of your own, at the rate that each scene asks for.
class model_renderer final : public renderer {
    std::string name_;
    any_model model_;

  public:
    /// The name is what reports call it.
    model_renderer(std::string name, any_model model) : name_(std::move(name)), model_(std::move(model)) {}

    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings = {},
                               draw_statistics* statistics = nullptr) const override;
    [[nodiscard]] std::unique_ptr<repeated_drawing> repeat(const scene& the_scene,
                                                           const draw_settings& settings) const override;
    [[nodiscard]] std::string name_for(const scene& the_scene) const override;
    /// Where the model claims to equal a built-in one, fit() makes that the scene's.
    [[nodiscard]] bool claims_scene_model() const override {
        return model_->equals().has_value() || model_->equals_scene();
    }
    [[nodiscard]] fitted_scene fit(const scene& the_scene) const override;
    [[nodiscard]] std::vector<rate> rates_for(const scene& the_scene) const override;
    [[nodiscard]] const point_model* own_model() const override { return &*model_; }
    /// The model it draws with.
    [[nodiscard]] const any_model& model() const { return model_; }
};

/// The scene with its own model and rate. Throws yurvo::error where the scene is not valid.
picture draw(const scene& the_scene, const draw_settings& settings = {},
             draw_statistics* statistics = nullptr);

/// The scene with a model of your own, at the rate asked for. Throws yurvo::error where the scene is not
/// valid.
picture draw(const scene& the_scene, const any_model& model, rate at = rate::fragment,
             const draw_settings& settings = {}, draw_statistics* statistics = nullptr);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
