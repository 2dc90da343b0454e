#include "program/quantities.hpp"

#include <algorithm>

#include "program/quantity_list.hpp"

namespace yurvo::inline v0_1::program {

namespace {

template <class Entry> std::vector<std::string_view> names_in(const std::vector<Entry>& list) {
    std::vector<std::string_view> names;
    names.reserve(list.size());
    for (const Entry& entry : list) {
        names.push_back(entry.name);
    }
    return names;
}

bool take_suffix(std::string& text, std::string_view suffix) {
    if (!text.ends_with(suffix)) {
        return false;
    }
    text.resize(text.size() - suffix.size());
    return true;
}

[[noreturn]] void unknown(const std::string& text, const source_location& where) {
    std::vector<std::string> all;
    for (const std::string_view name : scene_quantities()) {
        all.emplace_back(name);
    }
    const std::size_t dot = text.find_last_of('.');
    const std::string before = dot == std::string::npos ? "lights[*]" : text.substr(0, dot);
    if (text.starts_with("lights")) {
        for (const std::string_view name : light_properties()) {
            all.push_back(before + "." + std::string(name));
        }
    }
    std::vector<std::string_view> names(all.begin(), all.end());
    if (text.starts_with("lights") && dot != std::string::npos &&
        find_light_quantity(text.substr(dot + 1)) != nullptr) { // then it is the light that is not named so
        throw error(where, "`" + before + "` names no light",
                    "lights[0], lights[*], lights.spot[0], or a light by its name: lights.NAME");
    }
    const std::string_view now = renamed(text.substr(dot + 1), light_properties());
    throw error(where, "there is no quantity `" + text + "`",
                now.empty() ? instead_of(text, names,
                                         "object.…, view.…, ambient.…, material.…, shading.… or lights[*].…")
                            : "it is called `" + before + "." + std::string(now) + "` now");
}

// Which of the lights: `[*]`, `[2]`, nothing.
void parse_index(quantity& result, const std::string& index, const source_location& where) {
    if (index.empty()) {
        if (result.name.empty()) {
            unknown(result.text, where);
        }
        return;
    }
    const std::string inside = index.substr(1, index.size() - 2);
    if (!index.ends_with(']') || inside.empty() || !result.name.empty()) {
        unknown(result.text, where);
    }
    if (inside == "*") {
        result.each = true;
    } else if (inside.find_first_not_of("0123456789") == std::string::npos && inside.size() < 6) {
        result.index = std::stoi(inside);
    } else {
        unknown(result.text, where);
    }
}

light dark_light(const vec3<double>& eye) {
    light result;
    result.kind = light_kind::directional;
    result.position = eye + vec3<double>{0, 1000, 0};
    result.color = {};
    result.diffuse = result.specular = {};
    result.range = 1;
    result.outer = pi / 2;
    result.exponent = 1;
    return result;
}

// The light that a quantity asks for; null where the scene has none such.
const light* light_of(const quantity& wanted, int each, const quantity_context& in) {
    const std::vector<light>& all = in.staged.lights.front();
    if (!wanted.name.empty()) {
        for (std::size_t i = 0; i < all.size(); ++i) {
            if (in.of.lights[i].name == wanted.name) {
                return &all[i];
            }
        }
        return nullptr;
    }
    auto left = wanted.each ? each : *wanted.index;
    for (const light& lamp : all) {
        if ((!wanted.only || lamp.kind == *wanted.only) && left-- == 0) {
            return &lamp;
        }
    }
    return nullptr;
}

value_of_quantity lights_value(const quantity& wanted, int each, const quantity_context& in,
                               const source_location& where) {
    const light* lamp = light_of(wanted, each, in);
    if (lamp == nullptr && !wanted.name.empty()) {
        throw error(where, "the scene has no light `" + wanted.name + "`", "lights[i] or lights[*]");
    }
    const light_quantity& known = *find_light_quantity(wanted.property);
    if (lamp == nullptr) { // beyond the scene's lights an array holds dark ones that are safe to evaluate
        return known.value(dark_light(in.staged.seen_from.eye), in);
    }
    if (!known.has(*lamp)) {
        if (!wanted.each) {
            throw error(where,
                        "`" + wanted.text + "`: a " + std::string(name_of(lamp->kind)) + " light has no " +
                            wanted.property,
                        "a light that has it, or `kinds` in the program file");
        }
        // As formulas see it: 0, a cosine 1, coefficients that fall off with nothing.
        std::vector<double> numbers(static_cast<std::size_t>(known.size), 0.0);
        numbers[0] = wanted.property.starts_with("cos_") || wanted.property == "coefficients" ? 1 : 0;
        return {numbers, known.size, quantity_kind::direction};
    }
    return known.value(*lamp, in);
}

// A number of one's own.
value_of_quantity own_number(const quantity& wanted, const quantity_context& in,
                             const source_location& where) {
    std::vector<std::string_view> names;
    for (const formulas::named_number& each : in.of.numbers) {
        if (each.name == wanted.property) {
            return {each.values, static_cast<int>(each.values.size()),
                    each.values.size() == 1 ? quantity_kind::number : quantity_kind::color};
        }
        names.emplace_back(each.name);
    }
    throw error(where, "there is no number `" + wanted.property + "`",
                instead_of(wanted.property, names, "one of [numbers] in the program file"));
}

// `object.to_world`, `lights.spot.count`: as the list of what is no light's calls it.
std::string name_of_set(const quantity& wanted) {
    const std::string only = wanted.only ? "." + std::string(name_of(*wanted.only)) : "";
    return wanted.of + only + "." + wanted.property;
}

} // namespace

std::vector<std::string_view> scene_quantities() { return names_in(scene_quantity_list()); }

std::vector<std::string_view> light_properties() { return names_in(light_quantity_list()); }

bool kind_has(light_kind kind, const std::string& property) {
    light lamp;
    lamp.kind = kind;
    lamp.range = lamp.exponent = 1;
    lamp.penumbra = property == "exponent" ? penumbra_kind::power : penumbra_kind::smooth;
    lamp.falloff = property == "range" ? falloff_kind::windowed : falloff_kind::inverse_square;
    return find_light_quantity(property)->has(lamp);
}

quantity parse_quantity(const std::string& text, const source_location& where) {
    quantity result;
    result.text = text;
    std::string rest = text;
    for (int i = 0; i < 4; ++i) {
        // lights[0] alone is no component.
        if (rest.find('.') != std::string::npos && take_suffix(rest, "[" + std::to_string(i) + "]")) {
            result.component = i;
            break;
        }
    }
    result.transposed = take_suffix(rest, ".transposed");
    if (rest.starts_with("numbers.")) {
        result.of = "numbers";
        result.property = rest.substr(8);
        return result;
    }
    if (find_scene_quantity(rest) != nullptr && !rest.starts_with("lights")) {
        const std::size_t dot = rest.find('.');
        result.of = rest.substr(0, dot);
        result.property = rest.substr(dot + 1);
        return result;
    }
    const std::size_t last = rest.find_last_of('.');
    if (!rest.starts_with("lights") || last == std::string::npos) {
        unknown(text, where);
    }
    result.of = "lights";
    result.property = rest.substr(last + 1);
    std::string set = rest.substr(6, last - 6); // `[*]`, `.spot[1]`, `.lantern`, ``
    const std::size_t bracket = set.find('[');
    const std::string name = set.substr(0, bracket);
    if (!name.empty()) {
        if (!name.starts_with('.') || name.size() < 2) {
            unknown(text, where);
        }
        if (const std::optional<light_kind> kind = from_name<light_kind>(name.substr(1))) {
            result.only = kind;
        } else {
            result.name = name.substr(1);
        }
    }
    if (result.property == "count") {
        if (bracket != std::string::npos || !result.name.empty()) {
            unknown(text, where);
        }
        return result;
    }
    if (find_light_quantity(result.property) == nullptr) {
        unknown(text, where);
    }
    parse_index(result, bracket == std::string::npos ? "" : set.substr(bracket), where);
    return result;
}

bool is_there(const quantity& wanted, int each, const quantity_context& in) {
    if (wanted.of != "lights" || wanted.property == "count") {
        return true;
    }
    const light* lamp = light_of(wanted, each, in);
    return lamp != nullptr && find_light_quantity(wanted.property)->has(*lamp);
}

value_of_quantity evaluate(const quantity& wanted, int each, const quantity_context& in,
                           const source_location& where) {
    const bool of_one_light = wanted.of == "lights" && wanted.property != "count";
    value_of_quantity result = of_one_light             ? lights_value(wanted, each, in, where)
                               : wanted.of == "numbers" ? own_number(wanted, in, where)
                                                        : find_scene_quantity(name_of_set(wanted))->value(in);
    if (wanted.transposed) {
        if (result.kind != quantity_kind::matrix) {
            throw error(where, "`" + wanted.text + "` is no matrix", "a matrix, or no .transposed");
        }
        const auto size = static_cast<std::size_t>(result.rows);
        const std::vector<double> input = result.numbers;
        for (std::size_t row = 0; row < size; ++row) {
            for (std::size_t column = 0; column < size; ++column) {
                result.numbers[size * column + row] = input[size * row + column];
            }
        }
    }
    if (wanted.component) {
        const auto at = static_cast<std::size_t>(*wanted.component);
        const std::size_t of_each =
            result.kind == quantity_kind::matrix ? static_cast<std::size_t>(result.rows) : 1;
        if (at >= result.numbers.size() / of_each) {
            throw error(where,
                        "`" + wanted.text + "` has no " + (of_each > 1 ? "column " : "component ") +
                            std::to_string(at),
                        std::string(of_each > 1 ? "columns" : "components") + " are 0 to " +
                            std::to_string(result.numbers.size() / of_each - 1));
        }
        const auto first = result.numbers.begin() + static_cast<std::ptrdiff_t>(at * of_each);
        return {{first, first + static_cast<std::ptrdiff_t>(of_each)},
                static_cast<int>(of_each),
                of_each > 1 ? quantity_kind::direction : quantity_kind::number};
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
