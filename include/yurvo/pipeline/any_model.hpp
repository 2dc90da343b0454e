// any_model: a model of one's own behind one type, so that it can be chosen by name.
#pragma once

#include <functional>
#include <initializer_list>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "yurvo/pipeline/draw.hpp"

namespace yurvo {

class any_model {
    std::function<picture&(const pipeline::stage&, pipeline::frame&)> draw_;

  public:
    template <class Model>
    requires(!std::same_as<Model, any_model>) any_model(Model model) // NOLINT: a model is any model
        : draw_([model](const pipeline::stage& from, pipeline::frame& into) -> picture& {
              return into.draw(from, pipeline::make_shader<formula, float>(model));
          }) {
        require_lighting_model<Model>();
    }

    [[nodiscard]] picture draw(const scene& from, rate at, const draw_settings& settings = {},
                               work_done* done = nullptr) const {
        return pipeline::draw_placed(from, at, settings, done, draw_);
    }
    // Into a frame that is kept from one picture to the next.
    picture& draw_into(pipeline::frame& into, const pipeline::stage& from) const { return draw_(from, into); }
};

// Models of one's own by their names.
class models {
    std::vector<std::pair<std::string, any_model>> list_;

  public:
    models() = default;
    models(std::initializer_list<std::pair<std::string, any_model>> list) : list_(list) {}

    [[nodiscard]] const any_model* find(std::string_view name) const {
        for (const auto& [known, model] : list_) {
            if (known == name) {
                return &model;
            }
        }
        return nullptr;
    }
    [[nodiscard]] std::vector<std::string_view> names() const {
        std::vector<std::string_view> names;
        for (const auto& [name, model] : list_) {
            names.emplace_back(name);
        }
        return names;
    }
};

} // namespace yurvo
