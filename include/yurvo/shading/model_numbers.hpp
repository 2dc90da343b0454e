// model_numbers: a model's own numbers by their names, so that a scene's [numbers] can set them.
#pragma once

#include <concepts>
#include <cstddef>
#include <functional>
#include <string_view>
#include <utility>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// One number of a model's: one component, or three.
struct model_number {
    std::string_view name;                  ///< in a scene's [numbers]
    std::size_t components;                 ///< 1 or 3
    std::function<void(const double*)> set; ///< from so many components
};

/// What a model lists its numbers in, each with where it holds it:
///     void list_numbers(yurvo::model_numbers& of) { of("wrap", wrap); }
class model_numbers {
    std::vector<model_number> list_;

  public:
    /// A number, under its name.
    template <std::floating_point Scalar> void operator()(std::string_view name, Scalar& held) {
        list_.push_back({name, 1, [&held](const double* from) { held = static_cast<Scalar>(*from); }});
    }
    /// A vector, under its name.
    template <std::floating_point Scalar> void operator()(std::string_view name, vec3<Scalar>& held) {
        list_.push_back({name, 3, [&held](const double* from) {
                             held = vec3<Scalar>(vec3<double>{from[0], from[1], from[2]});
                         }});
    }
    /// A colour, under its name.
    template <std::floating_point Scalar> void operator()(std::string_view name, rgb<Scalar>& held) {
        list_.push_back({name, 3, [&held](const double* from) {
                             held = rgb<Scalar>(rgb<double>{from[0], from[1], from[2]});
                         }});
    }

    /// In the order in which they were listed.
    [[nodiscard]] const std::vector<model_number>& list() const { return list_; }
};

/// Whether a model has numbers that scenes may set.
template <class Model>
concept has_numbers = requires(Model& model, model_numbers& of) {
    model.list_numbers(of);
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
