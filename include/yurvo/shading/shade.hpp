// shade: a model evaluated at one point under all lights. The plain form; the pipeline runs the same steps
// over blocks of points.
#pragma once

#include <span>

#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The colour of a surface under all lights: the model for each light, then the terms put together.
template <class Formula = formula, class Model, class Real>
outgoing<Real> shade(const Model& model, const surface<Real>& s,
                     std::span<const ready_light<scalar_t<Real>>> lights,
                     const finish_settings<scalar_t<Real>>& settings) {
    reflected<Real> sum;
    if constexpr (needs_lights<Model>) {
        for (const auto& light : lights) {
            const arrival<Real> in = arrive<Formula>(light, s.position);
            if constexpr (takes_parts<Model>) {
                sum = sum + of_parts(light, model(s, in));
                sum.ambient = sum.ambient + ambient_of<Formula>(light, s.position, light.law());
            } else {
                sum = sum + model(s, in);
            }
        }
    }
    return finish(model, s, sum, settings);
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
