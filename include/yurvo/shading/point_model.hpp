// point_model: a lighting model evaluated at one point, in double, behind one type.
#pragma once

#include <optional>

#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/surface.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What a model makes of a point, whichever model it is.
class point_model {
  public:
    virtual ~point_model() = default;

    /// Whether the model looks at lights at all.
    [[nodiscard]] virtual bool needs_lights() const = 0;
    /// Whether it puts its terms together itself, so that they are no sum.
    [[nodiscard]] virtual bool has_own_finish() const = 0;
    /// What one light makes the surface reflect.
    [[nodiscard]] virtual reflected<double> reflect(const surface<double>& at,
                                                    const arrival<double>& in) const = 0;
    /// What a light's ambient part falls off with, where the model says so itself.
    [[nodiscard]] virtual std::optional<double> follows(const surface<double>& at,
                                                        const arrival<double>& in) const = 0;
    /// The lit colour, from the sum over all lights.
    [[nodiscard]] virtual outgoing<double> finish(const surface<double>& at, const reflected<double>& sum,
                                                  const finish_settings<double>& settings) const = 0;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
