#include "yurvo/scene/renderer.hpp"

#include <algorithm>

#include "yurvo/scene/names.hpp"

namespace yurvo {

namespace {

class drawn_anew final : public repeated_drawing {
    const renderer& by_;
    scene of_;
    draw_settings settings_;
    picture last_;
    draw_statistics statistics_;

  public:
    drawn_anew(const renderer& by, const scene& of, const draw_settings& settings)
        : by_(by), of_(of), settings_(settings) {}

    const picture& draw() override {
        last_ = by_.draw(of_, settings_, &statistics_);
        return last_;
    }
    [[nodiscard]] draw_statistics statistics() const override { return statistics_; }
};

} // namespace

std::unique_ptr<repeated_drawing> renderer::repeat(const scene& of, const draw_settings& settings) const {
    return std::make_unique<drawn_anew>(*this, of, settings);
}

std::string renderer::name_for(const scene& of) const { return std::string(name_of(of.shading.model)); }

std::vector<rate> renderer::rates_for(const scene& of) const { return possible_rates(of); }

picture function_renderer::draw(const scene& of, const draw_settings& /*settings*/,
                                draw_statistics* /*statistics*/) const {
    return draw_(of);
}

std::vector<rate> possible_rates(const scene& of) {
    const bool fields = std::any_of(of.objects.begin(), of.objects.end(), [](const object& one) {
        return std::holds_alternative<field_shape>(one.shape);
    });
    if (descriptor_of(of.shading.model).fragment_only || fields) {
        return {rate::fragment};
    }
    return {rate::face, rate::vertex, rate::fragment};
}

} // namespace yurvo
