#include "verify/point_formulas.hpp"

#include <cmath>
#include <utility>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

using formulas::input;
using formulas::slot;

point_formulas::point_formulas(const scene& the_scene)
    : set_(parse_all(the_scene.formulas, the_scene.numbers)) {}

bool point_formulas::has_new_direction() const {
    return has(slot::l) || has(slot::v) || has(slot::h) || has(slot::r);
}

point_formulas::asking::asking(const point_formulas& of, std::vector<explained_formula>* told)
    : of_(of), inputs_(formulas::input_count + of.set_.numbers.size()), told_(told) {
    put(input::pi, pi);
    for (std::size_t i = 0; i < of.set_.numbers.size(); ++i) {
        const std::vector<double>& values = of.set_.numbers[i].values;
        for (std::size_t k = 0; k < values.size(); ++k) {
            inputs_[formulas::input_count + i][k] = values[k];
        }
    }
}

void point_formulas::asking::set_light(const light& lamp, const ready_light<double>& ready,
                                       std::string label) {
    light_ = std::move(label);
    set(input::light_color, lamp.color * lamp.intensity);
    set(input::coefficients, ready.coefficients);
    set(input::range, ready.seen_range);
    set(input::inner, ready.inner);
    set(input::outer, ready.outer);
    set(input::cos_inner, ready.cos_inner);
    set(input::cos_outer, ready.cos_outer);
    set(input::exponent, ready.seen_exponent);
}

rgb<double> point_formulas::asking::color(slot which) {
    const formulas::expression& formula = *of_.set_[which];
    const formulas::components value = evaluate(formula, inputs_);
    const std::size_t width = formula.type().width;
    constexpr double largest_float = 3.4028234663852886e38;
    for (std::size_t i = 0; i < width; ++i) {
        failed_ = failed_ || !(std::abs(value[i]) <= largest_float);
    }
    if (told_ != nullptr) {
        explained_formula told;
        told.name = descriptor_of(which).name;
        told.light = descriptor_of(which).of_light ? light_ : "";
        told.text = formula.text;
        told.value.assign(value.begin(), value.begin() + static_cast<std::ptrdiff_t>(width));
        for (std::uint32_t i = 0; i < inputs_.size(); ++i) {
            if (formula.uses(i)) {
                const bool own = i >= formulas::input_count;
                const std::size_t components = own ? of_.set_.numbers[i - formulas::input_count].values.size()
                                                   : formulas::input_list[i].type.width;
                told.inputs.push_back(
                    {own ? of_.set_.numbers[i - formulas::input_count].name
                         : std::string(formulas::input_list[i].name),
                     {inputs_[i].begin(), inputs_[i].begin() + static_cast<std::ptrdiff_t>(components)}});
            }
        }
        told_->push_back(std::move(told));
    }
    return width == 1 ? rgb<double>(value[0]) : rgb<double>(value[0], value[1], value[2]);
}

double point_formulas::asking::number(slot which) { return color(which).r; }

vec3<double> point_formulas::asking::vector(slot which) {
    const rgb<double> value = color(which);
    return {value.r, value.g, value.b};
}

} // namespace yurvo::inline v0_1::verify
