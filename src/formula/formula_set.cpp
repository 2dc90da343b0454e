#include "yurvo/formula/formula_set.hpp"

#include <algorithm>

namespace yurvo::inline v0_1::formulas {

std::optional<slot> slot_named(std::string_view name) {
    for (const slot_descriptor& each : slot_list) {
        if (each.name == name) {
            return each.which;
        }
    }
    return std::nullopt;
}

bool formula_set::uses(input which) const {
    return std::any_of(of.begin(), of.end(),
                       [&](const auto& each) { return each && each->uses(index_of(which)); });
}

namespace {

bool of_light(varies how) { return how == varies::by_light || how == varies::by_point_and_light; }

bool asks_for_a_light(const expression& formula) {
    return std::any_of(formula.steps.begin(), formula.steps.end(), [](const step& each) {
        return each.kind == step_kind::input && each.from[0] < input_count &&
               of_light(input_list[each.from[0]].how);
    });
}

// Whether an input is known in a slot; `v_of_light`: the formula for v asks for a light.
bool is_known(input what, slot in, bool v_of_light) {
    switch (what) {
    case input::light:
        return in == slot::diffuse || in == slot::specular;
    case input::c:
        return in == slot::color;
    case input::v:
        return in != slot::l && (descriptor_of(in).of_light || !v_of_light);
    case input::h:
        return in != slot::l && in != slot::v && descriptor_of(in).of_light;
    case input::r:
        return in != slot::l && in != slot::v && in != slot::h && descriptor_of(in).of_light;
    default:
        return descriptor_of(in).of_light || !of_light(descriptor_of(what).how);
    }
}

std::string wanted_of(const slot_descriptor& of) {
    return of.may_be_number && of.may_be_vector ? "a float or a vec3"
           : of.may_be_number                   ? "a float"
                                                : "a vec3";
}

expression parse_one(slot where, const std::string& text, const std::vector<named_number>& numbers,
                     bool v_of_light) {
    std::vector<known_name> known;
    std::vector<std::uint32_t> index;
    for (const input_descriptor& each : input_list) {
        if (is_known(each.which, where, v_of_light)) {
            known.push_back({std::string(each.name), each.type});
            index.push_back(index_of(each.which));
        }
    }
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        known.push_back({numbers[i].name, {static_cast<std::uint8_t>(numbers[i].values.size()), false}});
        index.push_back(static_cast<std::uint32_t>(input_count + i));
    }
    expression result = parse(text, known);
    for (step& each : result.steps) {
        if (each.kind == step_kind::input) {
            each.from[0] = index[each.from[0]];
        }
    }
    const value_type type = result.type();
    const slot_descriptor& wanted = descriptor_of(where);
    if (!((wanted.may_be_number && type == float_type) || (wanted.may_be_vector && type == vec3_type))) {
        throw fault_in_text(0, "the formula gives a " + name_of(type),
                            wanted_of(wanted) + " for `" + std::string(wanted.name) + "`");
    }
    return result;
}

} // namespace

formula_set parse_all(const formula_texts& texts, const std::vector<named_number>& numbers) {
    formula_set result;
    result.numbers = numbers;
    bool v_of_light = false;
    for (const slot_descriptor& each : slot_list) {
        if (!texts.has(each.which)) {
            continue;
        }
        try {
            auto& made = result.of[static_cast<std::size_t>(each.which)];
            made = parse_one(each.which, texts[each.which], numbers, v_of_light);
            v_of_light = v_of_light || (each.which == slot::v && asks_for_a_light(*made));
        } catch (const fault_in_text& fault) {
            throw fault_in_formula(each.which, fault);
        }
    }
    return result;
}

std::string fault_in_number_name(std::string_view name) {
    const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; };
    const bool formed =
        !name.empty() && letter(name[0]) &&
        std::all_of(name.begin(), name.end(), [&](char c) { return letter(c) || (c >= '0' && c <= '9'); });
    if (!formed) {
        return "it is no name: letters, digits and _, no digit first";
    }
    for (const input_descriptor& each : input_list) {
        if (each.name == name) {
            return "formulas know that name already: " + std::string(each.means);
        }
    }
    const auto is = [&](const auto& each) { return each.name == name; };
    static constexpr std::array<std::string_view, 7> taken{"true", "false", "vec2", "vec3",
                                                           "vec4", "float", "bool"};
    if (std::any_of(function_list.begin(), function_list.end(), is) ||
        std::find(taken.begin(), taken.end(), name) != taken.end()) {
        return "that is a function of formulas, or a word of their syntax";
    }
    return "";
}

} // namespace yurvo::inline v0_1::formulas
