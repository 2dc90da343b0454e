// draw: scene in, picture out.
#pragma once

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/frame.hpp"
#include "yurvo/pipeline/parallel.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo {

using pipeline::work_done;

struct draw_settings {
    term_choice terms; // which terms the picture holds
    int threads = 0;   // at most so many; 0 is as many as the machine has. The picture is the same.
};

namespace pipeline {

// A stage drawn with a model: the same picture whatever is asked of `done`.
template <class Formula = formula, class Scalar = float, class Model>
picture draw_stage(const stage& from, const Model& model, work_done* done = nullptr) {
    frame once;
    once.draw(from, make_shader<Formula, Scalar>(model));
    if (done != nullptr) {
        *done = once.done();
    }
    return once.take();
}

// Calls use(model) with the built-in model of that kind, its formulas those of Formula.
template <class Formula, class Use> auto with_model(const shading_choice& shading, Use&& use) {
    switch (shading.model) {
    case model_kind::unlit:
        return use(unlit{});
    case model_kind::lambert:
        return use(lambert<Formula>{});
    case model_kind::phong:
        return use(phong<Formula>{});
    case model_kind::cel:
        return use(cel<Formula>(&shading.cel));
    case model_kind::blinn_phong:
        break;
    }
    return use(blinn_phong<Formula>{});
}

} // namespace pipeline

// The scene with its own model and rate. Throws yurvo::error where the scene is not valid. Scalar is the
// number in which surfaces are lit, float or double; Formula may replace any equation (see formula).
template <class Formula, class Scalar = float>
picture draw_with(const scene& from, const draw_settings& settings = {}, work_done* done = nullptr) {
    require_valid(from);
    pipeline::stage staged = pipeline::make_stage(from);
    staged.terms = settings.terms;
    picture made;
    pipeline::with_threads(settings.threads, [&] {
        made = pipeline::with_model<Formula>(from.shading, [&](const auto& model) {
            return pipeline::draw_stage<Formula, Scalar>(staged, model, done);
        });
    });
    return made;
}

// The same with the built-in formulas, in float.
picture draw(const scene& from, const draw_settings& settings = {}, work_done* done = nullptr);

template <class Model> constexpr void require_lighting_model() {
    static_assert(
        lighting_model<Model>,
        "This is no lighting model. A model is called with (const surface<Real>&, const arrival<Real>&) and "
        "returns reflected<Real>, for float and for double: make its call operator a template over Real.");
}

namespace pipeline {

// A scene with a model of one's own, which `drawn(stage, frame)` draws. Throws yurvo::error where the scene
// is not valid.
template <class Drawn>
picture draw_placed(const scene& from, rate at, const draw_settings& settings, work_done* done,
                    Drawn&& drawn) {
    scene placed = from;
    placed.shading.model = model_kind::lambert; // whose keys are always valid; the model given is what runs
    placed.shading.rate = at;
    require_valid(placed);
    stage staged = make_stage(placed);
    staged.terms = settings.terms;
    frame once;
    with_threads(settings.threads, [&] { drawn(staged, once); });
    if (done != nullptr) {
        *done = once.done();
    }
    return once.take();
}

} // namespace pipeline

// The scene with a model of your own, at the rate asked for.
template <class Scalar = float, class Model>
picture draw(const scene& from, const Model& model, rate at = rate::fragment,
             const draw_settings& settings = {}, work_done* done = nullptr) {
    require_lighting_model<Model>();
    return pipeline::draw_placed(from, at, settings, done,
                                 [&](const pipeline::stage& staged, pipeline::frame& into) {
                                     into.draw(staged, pipeline::make_shader<formula, Scalar>(model));
                                 });
}

} // namespace yurvo
