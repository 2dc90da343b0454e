#include "pipeline/formula_program.hpp"

#include <algorithm>
#include <map>
#include <optional>

namespace yurvo::inline v0_1::pipeline {

namespace {

using formulas::expression;
using formulas::function;
using formulas::input;
using formulas::slot;
using formulas::step_kind;
using enum lane_operation;

// When a number is known: with the block, with a light, once its light has arrived, with the sum.
enum class phase : std::uint8_t { once, each_light, arrived, finishing };

using node_number = std::int32_t;
constexpr node_number nothing = -1;

// One operation; its results have the numbers from its own on.
struct node {
    std::optional<lane_operation> what; // none: an input's component, or a constant
    std::array<node_number, 7> from{nothing, nothing, nothing, nothing, nothing, nothing, nothing};
    std::size_t taken = 0;
    std::uint8_t results = 1;
    phase when{};
    bool uniform = false;
    bool fixed = false; // its lane is kept throughout
    lane_number lane = formula_program::none;
};

// What a value is: a node for each component.
struct value {
    std::array<node_number, 4> components{nothing, nothing, nothing, nothing};
    std::uint8_t width = 1;

    [[nodiscard]] node_number at(std::size_t i) const { return components[width == 1 ? 0 : i]; }
};

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
    std::vector<node> nodes_;
    std::map<std::pair<lane_operation, std::array<node_number, 7>>, node_number> known_;
    std::map<double, node_number> constants_;
    std::map<std::pair<std::uint32_t, std::uint8_t>, node_number> inputs_;
    std::array<std::optional<value>, formulas::slot_count> made_;
    const formulas::formula_set& set_;
    std::vector<std::pair<node_number, double>> fixed_numbers_;

    node_number add_node(const node& made) {
        const auto at = static_cast<node_number>(nodes_.size());
        nodes_.push_back(made);
        for (std::uint8_t i = 1; i < made.results; ++i) { // the other results follow
            node other = made;
            other.what.reset();
            other.results = 0;
            nodes_.push_back(other);
        }
        return at;
    }

    node_number operation(lane_operation what, std::initializer_list<node_number> from,
                          std::uint8_t results = 1) {
        node made;
        made.what = what;
        made.results = results;
        made.uniform = true;
        for (const node_number each : from) {
            made.from[made.taken++] = each;
            const node& used = nodes_[static_cast<std::size_t>(each)];
            made.when = std::max(made.when, used.when);
            made.uniform = made.uniform && used.uniform;
        }
        const auto [found, fresh] = known_.try_emplace({what, made.from}, 0);
        if (fresh) {
            found->second = add_node(made);
        }
        return found->second;
    }

    node_number constant(double number) {
        const auto [found, fresh] = constants_.try_emplace(number, 0);
        if (fresh) {
            node made;
            made.uniform = true;
            made.fixed = true;
            found->second = add_node(made);
            fixed_numbers_.emplace_back(found->second, number);
        }
        return found->second;
    }

    // As the pipeline gives it.
    node_number given(input which, std::uint8_t component) {
        const auto [found, fresh] = inputs_.try_emplace({index_of(which), component}, 0);
        if (fresh) {
            using formulas::varies;
            node made;
            made.fixed = true;
            const varies how = descriptor_of(which).how;
            made.uniform = how == varies::never || how == varies::by_material || how == varies::by_light;
            made.when = which == input::light                                          ? phase::arrived
                        : which == input::c                                            ? phase::finishing
                        : how == varies::by_light || how == varies::by_point_and_light ? phase::each_light
                                                                                       : phase::once;
            found->second = add_node(made);
        }
        return found->second;
    }
    value given(input which) {
        value result;
        result.width = descriptor_of(which).type.width;
        for (std::uint8_t i = 0; i < result.width; ++i) {
            result.components[i] = given(which, i);
        }
        return result;
    }

    static value three(node_number first) { return {{first, first + 1, first + 2, nothing}, 3}; }

    // l, v, h and r: given anew or as the model has them. A formula for one of them (`within`) sees that one
    // as the model has it.
    value direction(slot which, std::optional<slot> within) {
        if (within != which && made_[static_cast<std::size_t>(which)]) {
            return *made_[static_cast<std::size_t>(which)];
        }
        switch (which) {
        case slot::l:
            return given(input::l);
        case slot::v:
            return given(input::v);
        case slot::h: {
            const value l = direction(slot::l, within);
            const value v = direction(slot::v, within);
            return three(operation(half_vector, {l.at(0), l.at(1), l.at(2), v.at(0), v.at(1), v.at(2)}, 3));
        }
        default: {
            const value n = given(input::n);
            const value l = direction(slot::l, within);
            return three(operation(mirrored, {n.at(0), n.at(1), n.at(2), l.at(0), l.at(1), l.at(2)}, 3));
        }
        }
    }
    value known(std::uint32_t index, slot within) {
        if (index >= formulas::input_count) {
            const formulas::named_number& number = set_.numbers[index - formulas::input_count];
            value result;
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
            return {{constant(3.14159265358979323846), nothing, nothing, nothing}, 1};
        default:
            return given(which);
        }
    }

    node_number dot_of(const value& a, const value& b) {
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
    value scaled(const value& a, node_number by, lane_operation how = multiply) {
        value result;
        result.width = a.width;
        for (std::size_t i = 0; i < a.width; ++i) {
            result.components[i] = operation(how, {a.at(i), by});
        }
        return result;
    }

    value each_component(lane_operation what, std::uint8_t width, const std::vector<value>& of) {
        value result;
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

    [[nodiscard]] const node& of(node_number number) const {
        return nodes_[static_cast<std::size_t>(number)];
    }
    // Vectors that have length 1 whatever a scene holds.
    [[nodiscard]] bool is_unit(const std::array<node_number, 7>& from, std::size_t first) const {
        const auto is = [&](node_number base) {
            return from[first] == base && from[first + 1] == base + 1 && from[first + 2] == base + 2;
        };
        for (const input each : {input::n, input::l, input::v}) {
            const auto found = inputs_.find({index_of(each), 0});
            if (found != inputs_.end() && is(found->second)) {
                return true;
            }
        }
        const node_number base = from[first];
        if (!is(base) || !of(base).what) {
            return false;
        }
        const node& made = of(base);
        return (*made.what == half_vector || *made.what == mirrored) && is_unit(made.from, 0) &&
               is_unit(made.from, 3);
    }
    // pow(max(dot(a, b), 0), e) of unit vectors, and e > 0 for certain: the model's own equation, which does
    // not lose the digits that a cosine near 1 loses.
    std::optional<node_number> as_highlight(const value& base, const value& exponent) {
        const node& outer = of(base.at(0));
        if (base.width != 1 || !outer.what || *outer.what != lane_operation::max) {
            return std::nullopt;
        }
        const auto zero = constants_.find(0.0);
        const node& inner = of(outer.from[0]);
        if (zero == constants_.end() || outer.from[1] != zero->second || !inner.what || *inner.what != dot3 ||
            !is_unit(inner.from, 0) || !is_unit(inner.from, 3)) {
            return std::nullopt;
        }
        const node_number e = exponent.at(0);
        const auto shininess = inputs_.find({index_of(input::shininess), 0});
        bool positive = shininess != inputs_.end() && e == shininess->second;
        for (const auto& [number, its] : constants_) {
            positive = positive || (its == e && number > 0);
        }
        if (!positive) {
            return std::nullopt;
        }
        return operation(highlight, {inner.from[0], inner.from[1], inner.from[2], inner.from[3],
                                     inner.from[4], inner.from[5], e});
    }

    value call(const formulas::step& of_it, const std::vector<value>& given_values) {
        const value& a = given_values[0];
        switch (of_it.called) {
        case function::dot:
            return {{dot_of(a, given_values[1]), nothing, nothing, nothing}, 1};
        case function::length:
            if (a.width == 1) {
                return each_component(lane_operation::abs, 1, {a});
            }
            return {{operation(lane_operation::sqrt, {dot_of(a, a)}), nothing, nothing, nothing}, 1};
        case function::distance: {
            const value between = each_component(subtract, a.width, {a, given_values[1]});
            return {{operation(lane_operation::sqrt, {dot_of(between, between)}), nothing, nothing, nothing},
                    1};
        }
        case function::cross: {
            const value& b = given_values[1];
            value result;
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
                return three(operation(normalize3, {a.at(0), a.at(1), a.at(2)}, 3));
            }
            return scaled(a, operation(lane_operation::sqrt, {dot_of(a, a)}), divide);
        case function::reflect: {
            const node_number twice = operation(multiply, {constant(2), dot_of(given_values[1], a)});
            return each_component(subtract, a.width, {a, scaled(given_values[1], twice)});
        }
        case function::faceforward: {
            const node_number kept = operation(less, {dot_of(given_values[2], given_values[1]), constant(0)});
            return each_component(
                choice, a.width,
                {{{kept, nothing, nothing, nothing}, 1}, a, each_component(negate, a.width, {a})});
        }
        case function::pow:
            if (const auto found = as_highlight(a, given_values[1])) {
                return {{*found, nothing, nothing, nothing}, 1};
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

    static value constructed(const formulas::step& of_it, const std::vector<value>& from) {
        value result;
        result.width = of_it.type.width;
        std::size_t filled = 0;
        for (const value& each : from) {
            for (std::size_t i = 0; i < each.width && filled < result.width; ++i) {
                result.components[filled++] = each.components[i];
            }
        }
        for (; filled < result.width; ++filled) {
            result.components[filled] = result.components[0];
        }
        return result;
    }

    value value_of(const formulas::step& each, const std::vector<value>& values, slot within) {
        std::vector<value> from;
        if (each.kind == step_kind::constant) {
            return {{constant(each.numbers[0]), nothing, nothing, nothing}, 1};
        }
        if (each.kind == step_kind::input) {
            return known(each.from[0], within);
        }
        for (std::size_t i = 0; i < each.count; ++i) {
            from.push_back(values[each.from[i]]);
        }
        if (each.kind == step_kind::swizzle) {
            value result;
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
            return {{all, nothing, nothing, nothing}, 1};
        }
        return each_component(known_step->second, each.type.width, from);
    }

    // A formula, operation by operation; its result stands for the slot from here on.
    void compile(slot which, const expression& formula) {
        std::vector<value> values;
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

    // Hands out lanes: a lane is free again once the last that reads it is done.
    class lane_owner {
        std::vector<lane_number> free_;
        lane_number next_ = 0;

      public:
        lane_number take() {
            if (free_.empty()) {
                return next_++;
            }
            const lane_number lane = free_.back();
            free_.pop_back();
            return lane;
        }
        void give_back(lane_number lane) { free_.push_back(lane); }
        [[nodiscard]] lane_number count() const { return next_; }
    };

    [[nodiscard]] std::vector<std::size_t> in_order() const {
        std::vector<std::size_t> order;
        for (const phase when : {phase::once, phase::each_light, phase::arrived, phase::finishing}) {
            for (std::size_t i = 0; i < nodes_.size(); ++i) {
                if (nodes_[i].what && nodes_[i].when == when) {
                    order.push_back(i);
                }
            }
        }
        return order;
    }

    // The place in the order after which each node's lane is free.
    [[nodiscard]] std::vector<std::size_t> last_uses(const std::vector<std::size_t>& order) const {
        std::vector<std::size_t> last(nodes_.size(), 0);
        const std::size_t end = order.size();
        std::size_t lights_end = 0;
        for (std::size_t at = 0; at < order.size(); ++at) {
            lights_end = nodes_[order[at]].when <= phase::arrived ? at : lights_end;
        }
        for (std::size_t at = 0; at < order.size(); ++at) {
            const node& reader = nodes_[order[at]];
            for (std::size_t i = 0; i < reader.taken; ++i) {
                const auto used = static_cast<std::size_t>(reader.from[i]);
                const bool again = nodes_[used].when == phase::once && reader.when != phase::once &&
                                   reader.when != phase::finishing;
                last[used] = std::max(last[used], again ? lights_end : at);
            }
        }
        for (const std::optional<value>& made : made_) {
            for (std::size_t i = 0; made && i < made->width; ++i) {
                last[static_cast<std::size_t>(made->components[i])] = end;
            }
        }
        return last;
    }

    void place_lanes(formula_program& result) {
        lane_owner owner;
        for (node& each : nodes_) {
            if (each.fixed) {
                each.lane = owner.take();
            }
        }
        const std::vector<std::size_t> order = in_order();
        const std::vector<std::size_t> last = last_uses(order);
        std::multimap<std::size_t, lane_number> ending;
        for (std::size_t at = 0; at < order.size(); ++at) {
            const std::size_t first = order[at];
            lane_instruction made;
            made.what = *nodes_[first].what;
            made.uniform = nodes_[first].uniform;
            for (std::size_t i = 0; i < nodes_[first].taken; ++i) {
                const node& used = of(nodes_[first].from[i]);
                made.from[i] = used.lane;
                made.uniforms = static_cast<std::uint8_t>(made.uniforms | (used.uniform ? 1U << i : 0U));
            }
            for (std::size_t i = 0; i < nodes_[first].results; ++i) {
                nodes_[first + i].lane = owner.take();
                made.to[i] = nodes_[first + i].lane;
                ending.emplace(std::max(last[first + i], at), made.to[i]);
            }
            for (auto done = ending.begin(); done != ending.end() && done->first <= at;) {
                owner.give_back(done->second);
                done = ending.erase(done);
            }
            const phase when = nodes_[first].when;
            (when == phase::once         ? result.once
             : when == phase::each_light ? result.each_light
             : when == phase::arrived    ? result.arrived
                                         : result.finishing)
                .push_back(made);
        }
        result.lanes = owner.count();
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
        place_lanes(result);
        for (auto& lanes : result.inputs) {
            lanes.fill(formula_program::none);
        }
        for (const auto& [key, number] : inputs_) {
            result.inputs[key.first][key.second] = of(number).lane;
        }
        for (const auto& [number, constant] : fixed_numbers_) {
            result.constants.emplace_back(of(number).lane, static_cast<float>(constant));
        }
        for (std::size_t s = 0; s < made_.size(); ++s) {
            if (made_[s]) {
                lane_result& to = result.results[s];
                to.present = true;
                to.width = made_[s]->width;
                for (std::size_t i = 0; i < to.width; ++i) {
                    const node& from = of(made_[s]->components[i]);
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
