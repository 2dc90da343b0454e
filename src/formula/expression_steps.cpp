#include "formula/expression_steps.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>
#include <system_error>

#include "yurvo/formula/function_list.hpp"

namespace yurvo::inline v0_1::formulas {

std::string expression_steps::mixed(const std::vector<argument>& given) const {
    std::string text;
    for (const argument& each : given) {
        text += (text.empty() ? "" : ", ") + formulas::name_of(type_of(each.value));
    }
    return text;
}

expression_steps::place expression_steps::add(step made) {
    made_.steps.push_back(made);
    return static_cast<place>(made_.steps.size() - 1);
}
expression_steps::place expression_steps::add(step_kind kind, value_type type,
                                              std::initializer_list<place> from) {
    step made;
    made.kind = kind;
    made.type = type;
    for (const place each : from) {
        made.from[made.count++] = each;
    }
    return add(made);
}

std::string expression_steps::types(std::initializer_list<place> of) const {
    std::string text;
    for (const place each : of) {
        text += (text.empty() ? "" : " and ") + name_of(type_of(each));
    }
    return text;
}

void expression_steps::need_numbers(place of, std::size_t offset, std::string_view sign) const {
    if (type_of(of).truth) {
        throw fault_in_text(offset, "`" + std::string(sign) + "` is given a bool", "a number or a vector");
    }
}
void expression_steps::need_truth(place of, std::size_t offset, std::string_view sign) const {
    if (!type_of(of).truth) {
        throw fault_in_text(offset,
                            "`" + std::string(sign) + "` is given a " + formulas::name_of(type_of(of)),
                            "a bool, such as `d < range`");
    }
}

expression_steps::place expression_steps::number(const token& written) {
    std::string_view digits = written.text;
    if (digits.back() == 'f' || digits.back() == 'F') {
        digits.remove_suffix(1);
    }
    step made;
    made.kind = step_kind::constant;
    const auto [end, failed] = std::from_chars(digits.data(), digits.data() + digits.size(), made.numbers[0]);
    // What is too small to be told from 0 is 0; what is too large is none.
    if (failed == std::errc::result_out_of_range && digits.find('-') != std::string_view::npos) {
        made.numbers[0] = 0;
    } else if (failed != std::errc() || made.numbers[0] > 3.4e38) {
        throw fault_in_text(written.offset, "`" + std::string(written.text) + "` is no number of a float",
                            "a number up to 3.4e38");
    }
    return add(made);
}

expression_steps::place expression_steps::arithmetic(step_kind kind, place a, place b, std::size_t offset,
                                                     std::string_view sign) {
    need_numbers(a, offset, sign);
    need_numbers(b, offset, sign);
    const std::uint8_t wide = std::max(type_of(a).width, type_of(b).width);
    if (type_of(a).width != type_of(b).width && type_of(a).width != 1 && type_of(b).width != 1) {
        throw fault_in_text(offset, "`" + std::string(sign) + "` is given " + types({a, b}),
                            "two of one type, or one of them a float");
    }
    return add(kind, {wide, false}, {a, b});
}

expression_steps::place expression_steps::swizzle(place of, const token& letters) {
    step made;
    made.kind = step_kind::swizzle;
    made.count = 1;
    made.from[0] = of;
    made.type.width = static_cast<std::uint8_t>(letters.text.size());
    const std::string_view set =
        std::string_view("xyzw").find(letters.text[0]) != std::string_view::npos ? "xyzw" : "rgba";
    for (std::size_t i = 0; i < letters.text.size(); ++i) {
        const std::size_t component = set.find(letters.text[i]);
        // A number has no components in GLSL.
        if (component == std::string_view::npos || component >= type_of(of).width || type_of(of).width == 1) {
            throw fault_in_text(letters.offset,
                                "a " + formulas::name_of(type_of(of)) + " has no component `" +
                                    std::string(letters.text) + "`",
                                swizzle_remedy);
        }
        made.components[i] = static_cast<std::uint8_t>(component);
    }
    return add(made);
}

expression_steps::place expression_steps::construct(const token& called, const std::vector<argument>& given,
                                                    std::uint8_t width) {
    const std::string name(called.text);
    std::size_t components = 0;
    for (std::size_t i = 0; i < given.size(); ++i) {
        if (type_of(given[i].value).truth) {
            throw fault_in_text(given[i].offset, "`" + name + "` is given a bool", "numbers and vectors");
        }
        if (components >= width) {
            throw fault_in_text(given[i].offset, "`" + name + "` is full before this argument",
                                "as many components as it holds");
        }
        components += type_of(given[i].value).width;
    }
    const bool splat = given.size() == 1 && components == 1;
    const bool cut = given.size() == 1 && components > width;
    if (given.empty() || (components != width && !splat && !cut)) {
        throw fault_in_text(called.offset,
                            "`" + name + "` is given " + std::to_string(components) + " components",
                            "one number, or " + std::to_string(width) + " components");
    }
    step made;
    made.kind = step_kind::construct;
    made.type.width = width;
    if (cut) {
        made.kind = step_kind::swizzle;
        made.components = {0, 1, 2, 3};
    }
    for (const argument& each : given) {
        made.from[made.count++] = each.value;
    }
    return add(made);
}

expression_steps::place expression_steps::call(const function_descriptor& known, const token& called,
                                               const std::vector<argument>& given) {
    const std::string name(called.text);
    const std::size_t most = known.takes.size();
    const std::size_t fewest = known.fewest == 0 ? most : known.fewest;
    if (given.size() < fewest || given.size() > most) {
        throw fault_in_text(called.offset,
                            "`" + name + "` is given " + std::to_string(given.size()) +
                                (given.size() == 1 ? " argument" : " arguments"),
                            (fewest < most ? std::to_string(fewest) + " or " : "") + std::to_string(most));
    }
    std::uint8_t wide = 0;
    std::optional<std::uint8_t> loose; // of what may be one number
    for (std::size_t i = 0; i < given.size(); ++i) {
        const value_type type = type_of(given[i].value);
        if (type.truth) {
            throw fault_in_text(given[i].offset, "`" + name + "` is given a bool", "a number or a vector");
        }
        if (known.takes[i] == 's') {
            if (loose && *loose != type.width) {
                throw fault_in_text(given[i].offset, "`" + name + "` is given " + mixed(given),
                                    "arguments of one type, or these both floats");
            }
            loose = type.width;
            continue;
        }
        const std::uint8_t wanted = known.takes[i] == '3' ? 3 : wide == 0 ? type.width : wide;
        if (type.width != wanted) {
            throw fault_in_text(given[i].offset, "`" + name + "` is given " + mixed(given),
                                known.takes[i] == '3' ? "two of type vec3" : "arguments of one type");
        }
        wide = wanted;
    }
    if (loose && *loose != 1 && *loose != wide) {
        throw fault_in_text(called.offset, "`" + name + "` is given " + mixed(given),
                            "arguments of one type, or a float for the others");
    }
    step made;
    made.kind = step_kind::call;
    made.called = known.which;
    made.type.width = known.gives_number ? std::uint8_t{1} : wide;
    for (const argument& each : given) {
        made.from[made.count++] = each.value;
    }
    return add(made);
}

} // namespace yurvo::inline v0_1::formulas
