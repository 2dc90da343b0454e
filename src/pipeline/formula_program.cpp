#include "pipeline/formula_program.hpp"

#include <algorithm>
#include <optional>

#include "pipeline/formula_nodes.hpp"
#include "yurvo/numeric/functions.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

using formulas::expression;
using formulas::function;
using formulas::input;
using formulas::slot;
using formulas::step_kind;
using enum lane_operation;

constexpr std::array<std::optional<lane_operation>, formulas::function_list.size()> by_function = [] {
    std::array<std::optional<lane_operation>, formulas::function_list.size()> table{};
    const auto put = [&](function which, lane_operation what) {
        table[static_cast<std::size_t>(which)] = what;
    };
    put(function::radians, radians);
    put(function::degrees, degrees);
    put(function::sin, lane_operation::sin);
    put(function::cos, lane_operation::cos);
    put(function::tan, lane_operation::tan);
    put(function::asin, lane_operation::asin);
    put(function::acos, lane_operation::acos);
    put(function::pow, lane_operation::pow);
    put(function::exp, lane_operation::exp);
    put(function::log, lane_operation::log);
    put(function::exp2, lane_operation::exp2);
    put(function::log2, lane_operation::log2);
    put(function::sqrt, lane_operation::sqrt);
    put(function::inversesqrt, lane_operation::inverse_sqrt);
    put(function::abs, lane_operation::abs);
    put(function::sign, sign);
    put(function::floor, lane_operation::floor);
    put(function::ceil, lane_operation::ceil);
    put(function::fract, fract);
    put(function::mod, mod);
    put(function::min, lane_operation::min);
    put(function::max, lane_operation::max);
    put(function::clamp, lane_operation::clamp);
    put(function::mix, mix);
    put(function::step, lane_operation::step);
    put(function::smoothstep, smoothstep);
    return table;
}();

constexpr std::array<std::pair<step_kind, lane_operation>, 12> by_step{{
    {step_kind::negate, negate},
    {step_kind::add, add},
    {step_kind::subtract, subtract},
    {step_kind::multiply, multiply},
    {step_kind::divide, divide},
    {step_kind::less, less},
    {step_kind::less_or_equal, less_or_equal},
    {step_kind::negation, negation},
    {step_kind::conjunction, conjunction},
    {step_kind::disjunction, disjunction},
    {step_kind::choice, choice},
    {step_kind::equal, equal},
}};

class compiler {
    formula_nodes nodes_;
    std::array<std::optional<node_value>, formulas::slot_count> made_;
    const formulas::formula_set& set_;

    node_number operation(lane_operation what, std::initializer_list<node_number> from,
                          std::uint8_t results = 1) {
        return nodes_.operation(what, from, results);
    }
    node_number constant(double number) { return nodes_.constant(number); }
    node_value given(input which) { return nodes_.given(which); }

    // l, v, h and r: given anew or as the model has them. A formula for one of them (`within`) sees that one
    // as the model has it.
    node_value direction(slot which, std::optional<slot> within) {
        if (within != which && made_[static_cast<std::size_t>(which)]) {
            return *made_[static_cast<std::size_t>(which)];
        }
        switch (which) {
        case slot::l:
            return given(input::l);
        case slot::v:
            return given(input::v);
        case slot::h: {
            const node_value l = direction(slot::l, within);
            const node_value v = direction(slot::v, within);
            return node_value::three(
                operation(half_vector, {l.at(0), l.at(1), l.at(2), v.at(0), v.at(1), v.at(2)}, 3));
        }
        default: {
            const node_value n = given(input::n);
            const node_value l = direction(slot::l, within);
            return node_value::three(
                operation(mirrored, {n.at(0), n.at(1), n.at(2), l.at(0), l.at(1), l.at(2)}, 3));
        }
        }
    }
    node_value known(std::uint32_t index, slot within) {
        if (index >= formulas::input_count) {
            const formulas::named_number& number = set_.numbers[index - formulas::input_count];
            node_value result;
            result.width = static_cast<std::uint8_t>(number.values.size());
            for (std::size_t i = 0; i < result.width; ++i) {
                result.components[i] = constant(number.values[i]);
            }
            return result;
        }
        const auto which = static_cast<input>(index);
        switch (which) {
        case input::l:
            return direction(slot::l, within);
        case input::v:
            return direction(slot::v, within);
        case input::h:
            return direction(slot::h, within);
        case input::r:
            return direction(slot::r, within);
        case input::pi:
            return node_value(constant(yurvo::pi));
        default:
            return given(which);
        }
    }

    node_number dot_of(const node_value& a, const node_value& b) {
        if (a.width == 3) {
            return operation(dot3, {a.at(0), a.at(1), a.at(2), b.at(0), b.at(1), b.at(2)});
        }
        node_number sum = operation(multiply, {a.at(0), b.at(0)});
        for (std::size_t i = 1; i < a.width; ++i) {
            sum = operation(add, {sum, operation(multiply, {a.at(i), b.at(i)})});
        }
        return sum;
    }

    // The components of a value times a number.
    node_value scaled(const node_value& a, node_number by, lane_operation how = multiply) {
        node_value result;
        result.width = a.width;
        for (std::size_t i = 0; i < a.width; ++i) {
            result.components[i] = operation(how, {a.at(i), by});
        }
        return result;
    }

    node_value each_component(lane_operation what, std::uint8_t width, const std::vector<node_value>& of) {
        node_value result;
        result.width = width;
        for (std::size_t i = 0; i < width; ++i) {
            switch (of.size()) {
            case 1:
                result.components[i] = operation(what, {of[0].at(i)});
                break;
            case 2:
                result.components[i] = operation(what, {of[0].at(i), of[1].at(i)});
                break;
            default:
                result.components[i] = operation(what, {of[0].at(i), of[1].at(i), of[2].at(i)});
            }
        }
        return result;
    }

    // pow(max(dot(a, b), 0), e) of unit vectors, and e > 0 for certain: the model's own equation, which does
    // not lose the digits that a cosine near 1 loses.
    std::optional<node_number> as_highlight(const node_value& base, const node_value& exponent) {
        const node& outer = nodes_.of(base.at(0));
        if (base.width != 1 || !outer.what || *outer.what != lane_operation::max ||
            !nodes_.is_constant(outer.from[1], 0)) {
            return std::nullopt;
        }
        const node& inner = nodes_.of(outer.from[0]);
        const node_number e = exponent.at(0);
        if (!inner.what || *inner.what != dot3 || !nodes_.is_unit(inner.from, 0) ||
            !nodes_.is_unit(inner.from, 3) || !nodes_.is_positive(e)) {
            return std::nullopt;
        }
        return operation(highlight, {inner.from[0], inner.from[1], inner.from[2], inner.from[3],
                                     inner.from[4], inner.from[5], e});
    }

    node_value call(const formulas::step& of_it, const std::vector<node_value>& given_values) {
        const node_value& a = given_values[0];
        switch (of_it.called) {
        case function::dot:
            return node_value(dot_of(a, given_values[1]));
        case function::length:
            if (a.width == 1) {
                return each_component(lane_operation::abs, 1, {a});
            }
            return node_value(operation(lane_operation::sqrt, {dot_of(a, a)}));
        case function::distance: {
            const node_value between = each_component(subtract, a.width, {a, given_values[1]});
            return node_value(operation(lane_operation::sqrt, {dot_of(between, between)}));
        }
        case function::cross: {
            const node_value& b = given_values[1];
            node_value result;
            result.width = 3;
            for (std::size_t i = 0; i < 3; ++i) {
                const std::size_t j = (i + 1) % 3;
                const std::size_t k = (i + 2) % 3;
                result.components[i] = operation(subtract, {operation(multiply, {a.at(j), b.at(k)}),
                                                            operation(multiply, {a.at(k), b.at(j)})});
            }
            return result;
        }
        case function::normalize:
            if (a.width == 3) {
                return node_value::three(operation(normalize3, {a.at(0), a.at(1), a.at(2)}, 3));
            }
            return scaled(a, operation(lane_operation::sqrt, {dot_of(a, a)}), divide);
        case function::reflect: {
            const node_number twice = operation(multiply, {constant(2), dot_of(given_values[1], a)});
            return each_component(subtract, a.width, {a, scaled(given_values[1], twice)});
        }
        case function::faceforward: {
            const node_number kept = operation(less, {dot_of(given_values[2], given_values[1]), constant(0)});
            return each_component(choice, a.width,
                                  {node_value(kept), a, each_component(negate, a.width, {a})});
        }
        case function::pow:
            if (const auto found = as_highlight(a, given_values[1])) {
                return node_value(*found);
            }
            break;
        case function::atan:
            return each_component(given_values.size() == 2 ? atan_of_two : lane_operation::atan,
                                  of_it.type.width, given_values);
        default:
            break;
        }
        return each_component(*by_function[static_cast<std::size_t>(of_it.called)], of_it.type.width,
                              given_values);
    }

    static node_value constructed(const formulas::step& of_it, const std::vector<node_value>& from) {
        node_value result;
        result.width = of_it.type.width;
        std::size_t filled = 0;
        for (const node_value& each : from) {
            for (std::size_t i = 0; i < each.width && filled < result.width; ++i) {
                result.components[filled++] = each.components[i];
            }
        }
        for (; filled < result.width; ++filled) {
            result.components[filled] = result.components[0];
        }
        return result;
    }

    node_value value_of(const formulas::step& each, const std::vector<node_value>& values, slot within) {
        std::vector<node_value> from;
        if (each.kind == step_kind::constant) {
            return node_value(constant(each.numbers[0]));
        }
        if (each.kind == step_kind::input) {
            return known(each.from[0], within);
        }
        for (std::size_t i = 0; i < each.count; ++i) {
            from.push_back(values[each.from[i]]);
        }
        if (each.kind == step_kind::swizzle) {
            node_value result;
            result.width = each.type.width;
            for (std::size_t i = 0; i < result.width; ++i) {
                result.components[i] = from[0].components[each.components[i]];
            }
            return result;
        }
        if (each.kind == step_kind::construct) {
            return constructed(each, from);
        }
        if (each.kind == step_kind::call) {
            return call(each, from);
        }
        const auto known_step = std::find_if(by_step.begin(), by_step.end(),
                                             [&](const auto& entry) { return entry.first == each.kind; });
        if (each.kind == step_kind::equal && from[0].width > 1) { // all of them
            node_number all = operation(equal, {from[0].at(0), from[1].at(0)});
            for (std::size_t i = 1; i < from[0].width; ++i) {
                all = operation(conjunction, {all, operation(equal, {from[0].at(i), from[1].at(i)})});
            }
            return node_value(all);
        }
        return each_component(known_step->second, each.type.width, from);
    }

    // A formula, operation by operation; its result stands for the slot from here on.
    void compile(slot which, const expression& formula) {
        std::vector<node_value> values;
        values.reserve(formula.steps.size());
        for (const formulas::step& each : formula.steps) {
            values.push_back(value_of(each, values, which));
        }
        made_[static_cast<std::size_t>(which)] = values.back();
    }

    // What the model has in the place of a formula.
    void compile_default(slot which, const char* text) {
        std::vector<formulas::known_name> names;
        names.reserve(formulas::input_list.size());
        for (const formulas::input_descriptor& each : formulas::input_list) {
            names.push_back({std::string(each.name), each.type});
        }
        compile(which, formulas::parse(text, names));
    }

  public:
    explicit compiler(const formulas::formula_set& set) : set_(set) {}

    formula_program program(model_kind model) {
        for (const formulas::slot_descriptor& each : formulas::slot_list) {
            if (set_.has(each.which)) {
                compile(each.which, *set_[each.which]);
            } else if (each.which == slot::diffuse) {
                compile_default(slot::diffuse, "max(dot(n, l), 0.0)");
            } else if (each.which == slot::specular && model == model_kind::phong) {
                compile_default(slot::specular,
                                "dot(n, l) > 0.0 ? pow(max(dot(r, v), 0.0), shininess) : 0.0");
            } else if (each.which == slot::specular && model == model_kind::blinn_phong) {
                compile_default(slot::specular,
                                "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0");
            }
        }
        formula_program result;
        nodes_.place_lanes(made_, result);
        for (std::size_t s = 0; s < made_.size(); ++s) {
            if (made_[s]) {
                lane_result& to = result.results[s];
                to.present = true;
                to.width = made_[s]->width;
                for (std::size_t i = 0; i < to.width; ++i) {
                    const node& from = nodes_.of(made_[s]->components[i]);
                    to.lanes[i] = from.lane;
                    to.uniform[i] = from.uniform;
                }
            }
        }
        return result;
    }
};

} // namespace

formula_program make_program(const formulas::formula_set& set, model_kind model) {
    return compiler(set).program(model);
}

} // namespace yurvo::inline v0_1::pipeline
