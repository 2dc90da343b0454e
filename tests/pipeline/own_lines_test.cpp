// What the pipeline says of a model that it cannot run.
#include <doctest/doctest.h>

#include <memory>

#include "support/buoy_scene.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

namespace {

// A model that answers for one point at a time, and was never made known to the pipeline.
class moonlight : public point_model {
    [[nodiscard]] bool needs_lights() const override { return true; }
    [[nodiscard]] bool has_own_finish() const override { return false; }
    [[nodiscard]] reflected<double> reflect(const surface<double>& /*at*/,
                                            const arrival<double>& in) const override {
        return {.diffuse = in.light};
    }
    [[nodiscard]] std::optional<double> follows(const surface<double>& /*at*/,
                                                const arrival<double>& /*in*/) const override {
        return std::nullopt;
    }
    [[nodiscard]] outgoing<double> finish(const surface<double>& /*at*/, const reflected<double>& sum,
                                          const finish_settings<double>& /*settings*/) const override {
        return {.tinted = sum.diffuse};
    }
};

} // namespace

TEST_CASE("a model that is known at points alone is not drawn, and is told what it lacks") {
    scene made = testing::buoy_scene(model_kind::lambert);
    made.shading.own = {"moonlight", std::make_shared<moonlight>()};
    CHECK_THROWS_WITH_AS(static_cast<void>(draw(made)),
                         "shading.model: `moonlight` is known at points alone; the shared() of an any_model",
                         error);
}
