#include "yurvo/model.hpp"

#include <algorithm>
#include <array>

#include "pipeline/built_in_shader.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/parallel.hpp"
#include "pipeline/stage.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/shading/model_numbers.hpp"

namespace yurvo::inline v0_1 {

namespace pipeline {

namespace {

stage stage_of(const scene& the_scene, const draw_settings& settings) {
    require_valid(the_scene);
    stage result = make_stage(the_scene);
    result.terms = settings.terms;
    return result;
}

// One scene in one frame, under a shader that is kept by whoever made it.
class repeated_frame final : public repeated_drawing {
    scene of_;
    stage staged_;
    int threads_;
    owned_shader shader_;
    frame frame_;

  public:
    template <class Make>
    repeated_frame(const scene& the_scene, const draw_settings& settings, const Make& make_shader_for)
        : of_(the_scene),
          staged_(stage_of(the_scene, settings)),
          threads_(settings.threads),
          shader_(make_shader_for(of_)) {}

    const picture& draw() override {
        const picture* drawn = nullptr;
        with_threads(threads_, [&] { drawn = &frame_.draw(staged_, shader_.shade); });
        return *drawn;
    }
    [[nodiscard]] draw_statistics statistics() const override { return frame_.statistics(); }
};

} // namespace

template <class Scalar>
picture draw_with_shader(const scene& the_scene, const shader<Scalar>& with, const draw_settings& settings,
                         draw_statistics* statistics) {
    const stage staged = stage_of(the_scene, settings);
    frame once;
    with_threads(settings.threads, [&] { once.draw(staged, with); });
    if (statistics != nullptr) {
        *statistics = once.statistics();
    }
    return once.take();
}

template picture draw_with_shader(const scene&, const shader<float>&, const draw_settings&, draw_statistics*);
template picture draw_with_shader(const scene&, const shader<double>&, const draw_settings&,
                                  draw_statistics*);

} // namespace pipeline

namespace {

// The keys of `lambert` are always valid; the model given is what runs.
scene without_model(const scene& the_scene) {
    scene result = the_scene;
    result.shading.model = model_kind::lambert;
    result.shading.own = {};
    result.formulas = {};
    return result;
}

class scene_model_renderer final : public renderer {
  public:
    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings,
                               draw_statistics* statistics) const override {
        return yurvo::draw(the_scene, settings, statistics);
    }
    [[nodiscard]] std::unique_ptr<repeated_drawing> repeat(const scene& the_scene,
                                                           const draw_settings& settings) const override {
        return std::make_unique<pipeline::repeated_frame>(the_scene, settings, pipeline::built_in_shader);
    }
};

} // namespace

void set_numbers(const model_numbers& held, const std::vector<formulas::named_number>& numbers) {
    for (const model_number& each : held.list()) {
        for (const formulas::named_number& given : numbers) {
            if (given.name != each.name || given.values.empty()) {
                continue;
            }
            if (given.values.size() != 1 && given.values.size() != each.components) {
                throw error({"numbers." + given.name, 0, 0},
                            "the model's `" + given.name + "` has " + std::to_string(each.components) +
                                (each.components == 1 ? " component, not " : " components, not ") +
                                std::to_string(given.values.size()),
                            each.components == 1 ? "one number" : "three numbers, or one for all");
            }
            std::array<double, 3> values{};
            values.fill(given.values.front());
            std::copy(given.values.begin(), given.values.end(), values.begin());
            each.set(values.data());
        }
    }
}

const renderer& built_in_renderer() {
    static const scene_model_renderer only;
    return only;
}

picture model_renderer::draw(const scene& the_scene, const draw_settings& settings,
                             draw_statistics* statistics) const {
    return pipeline::draw_with_shader(without_model(the_scene), model_->in_float(), settings, statistics);
}

std::unique_ptr<repeated_drawing> model_renderer::repeat(const scene& the_scene,
                                                         const draw_settings& settings) const {
    return std::make_unique<pipeline::repeated_frame>(without_model(the_scene), settings, [&](const scene&) {
        return pipeline::owned_shader{nullptr, model_->in_float()};
    });
}

fitted_scene model_renderer::fit(const scene& the_scene) const {
    fitted_scene result{the_scene, {}, ""};
    if (model_->equals_scene()) {
        return result;
    }
    result.fitted->shading.model = model_->equals().value_or(the_scene.shading.model);
    result.fitted->shading.own = {};
    if (the_scene.formulas.any()) {
        result.fitted->formulas = {};
        result.changes.emplace_back("without formulas: the model is a program's own");
    }
    return result;
}

std::string model_renderer::name_for(const scene& /*of*/) const { return name_; }

std::vector<rate> model_renderer::rates_for(const scene& the_scene) const {
    return possible_rates(without_model(the_scene));
}

picture draw(const scene& the_scene, const draw_settings& settings, draw_statistics* statistics) {
    require_valid(the_scene); // before its formulas are read
    const pipeline::owned_shader own = pipeline::built_in_shader(the_scene);
    return pipeline::draw_with_shader(the_scene, own.shade, settings, statistics);
}

picture draw(const scene& the_scene, const any_model& model, rate at, const draw_settings& settings,
             draw_statistics* statistics) {
    scene placed = without_model(the_scene);
    placed.shading.rate = at;
    return pipeline::draw_with_shader(placed, model->in_float(), settings, statistics);
}

} // namespace yurvo::inline v0_1
