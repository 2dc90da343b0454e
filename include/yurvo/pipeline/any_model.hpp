// any_model: a model of one's own behind one type. yurvo/model.hpp makes one from a model's type.
#pragma once

#include <concepts>
#include <initializer_list>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/shading/model.hpp"
#include "yurvo/shading/point_model.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

class model_numbers;

namespace pipeline {
template <class Scalar> struct shader;
}

/// What is known of a model whose type is not.
class erased_model : public point_model {
  public:
    /// The model for the pipeline, in float; it lives as long as this.
    [[nodiscard]] virtual pipeline::shader<float> in_float() const = 0;
    /// The built-in model that it claims to equal, by `static constexpr auto equals = model_kind::…`.
    [[nodiscard]] virtual std::optional<model_kind> equals() const = 0;
    /// Whether it claims to equal each scene's own model, formulas and all, by `static constexpr bool
    /// equals_scene = true`.
    [[nodiscard]] virtual bool equals_scene() const = 0;
    /// The numbers that it lists (list_numbers), by name.
    [[nodiscard]] virtual std::vector<std::string> number_names() const = 0;
    /// The same with the numbers of those names that it has; others are passed over. One value fills all
    /// three components. Throws yurvo::error where one has another count.
    [[nodiscard]] virtual std::shared_ptr<const erased_model>
    with_numbers(const std::vector<formulas::named_number>& numbers) const = 0;
};

/// Sets those of a model's numbers that are in the list, by their names. Throws yurvo::error where one has
/// other than one component or as many as the model's.
void set_numbers(const model_numbers& held, const std::vector<formulas::named_number>& numbers);

/// An erased_model of one type; defined in yurvo/model.hpp, which files that write a model include.
template <class Model> class model_of_type;

/// Any lighting model, its type forgotten.
class any_model {
    std::shared_ptr<const erased_model> model_;

  public:
    /// From any lighting model. Needs yurvo/model.hpp. What is itself an any_model is ruled out first: to ask
    /// whether it is a model would ask whether it can be copied, and so ask this constructor again.
    template <class Model>
    requires(!std::same_as<Model, any_model> && lighting_model<Model>) any_model(Model model) // NOLINT
        : model_(std::make_shared<const model_of_type<Model>>(std::move(model))) {}
    explicit any_model(std::shared_ptr<const erased_model> model) : model_(std::move(model)) {} ///< not null

    /// The same model with the numbers of a scene's or a program file's [numbers].
    [[nodiscard]] any_model with(const std::vector<formulas::named_number>& numbers) const {
        return any_model(model_->with_numbers(numbers));
    }
    /// The model, shared.
    [[nodiscard]] const std::shared_ptr<const erased_model>& shared() const { return model_; }

    /// The model.
    [[nodiscard]] const erased_model& operator*() const { return *model_; }
    /// The model.
    [[nodiscard]] const erased_model* operator->() const { return model_.get(); }
};

/// Models of one's own by their names.
class models {
    std::vector<std::pair<std::string, any_model>> list_;

  public:
    models() = default;
    /// Of names and models; names are as commands and files write them.
    models(std::initializer_list<std::pair<std::string, any_model>> list) : list_(list) {}

    /// Null where there is none of that name.
    [[nodiscard]] const any_model* find(std::string_view name) const {
        for (const auto& [known, model] : list_) {
            if (known == name) {
                return &model;
            }
        }
        return nullptr;
    }
    /// In the order given.
    [[nodiscard]] std::vector<std::string_view> names() const {
        std::vector<std::string_view> names;
        for (const auto& [name, model] : list_) {
            names.emplace_back(name);
        }
        return names;
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
