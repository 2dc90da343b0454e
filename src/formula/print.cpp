#include "yurvo/formula/print.hpp"

#include <array>
#include <charconv>
#include <utility>
#include <vector>

namespace yurvo::inline v0_1::formulas {

namespace {

// How tightly an operator binds: what binds more loosely than its place allows stands in parentheses.
enum binding : std::uint8_t { choosing, either, both, equality, order, sums, products, signs, values };

struct piece {
    std::string text;
    binding binds = values;
};

std::string number_text(double number) {
    std::array<char, 40> digits{};
    const auto [end, failed] =
        std::to_chars(digits.data(), digits.data() + digits.size(), static_cast<float>(number));
    std::string text(digits.data(), end);
    return text.find_first_of(".e") == std::string::npos ? text + ".0" : text;
}

std::string_view hlsl_name(function which, std::size_t arguments) {
    switch (which) {
    case function::atan:
        return arguments == 2 ? "atan2" : "atan";
    case function::inversesqrt:
        return "rsqrt";
    case function::fract:
        return "frac";
    case function::mod:
        return "mod_of";
    case function::mix:
        return "lerp";
    default:
        return descriptor_of(which).name;
    }
}

class printer {
    const expression& formula_;
    bool hlsl_;
    const std::function<std::string(std::uint32_t)>& named_;
    std::vector<piece> pieces_;

    static std::string within(const piece& of, binding least) {
        return of.binds < least ? "(" + of.text + ")" : of.text;
    }
    [[nodiscard]] std::string type_name(value_type type) const {
        if (!hlsl_ || type.width == 1) {
            return name_of(type);
        }
        return "float" + std::to_string(type.width);
    }
    // Operators take from the left: what follows one binds tighter.
    [[nodiscard]] piece two(const step& of, const char* sign, binding binds) const {
        return {within(pieces_[of.from[0]], binds) + sign +
                    within(pieces_[of.from[1]], static_cast<binding>(binds + 1)),
                binds};
    }
    [[nodiscard]] piece call(const std::string& name, const step& of) const {
        std::string text = name + "(";
        for (std::size_t i = 0; i < of.count; ++i) {
            text += (i == 0 ? "" : ", ") + pieces_[of.from[i]].text;
        }
        return {text + ")", values};
    }
    [[nodiscard]] piece constructed(const step& of) const {
        const bool splat = of.count == 1 && formula_.steps[of.from[0]].type.width == 1;
        if (hlsl_ && splat && of.type.width > 1) {
            return {"((" + type_name(of.type) + ")(" + pieces_[of.from[0]].text + "))", values};
        }
        return call(type_name(of.type), of);
    }
    [[nodiscard]] piece piece_of(const step& of) const {
        switch (of.kind) {
        case step_kind::constant:
            return {of.type.truth ? (of.numbers[0] != 0 ? "true" : "false") : number_text(of.numbers[0]),
                    values};
        case step_kind::input:
            return {named_(of.from[0]), values};
        case step_kind::swizzle: {
            std::string text = within(pieces_[of.from[0]], values) + ".";
            for (std::size_t i = 0; i < of.type.width; ++i) {
                text += "xyzw"[of.components[i]];
            }
            return {text, values};
        }
        case step_kind::construct:
            return constructed(of);
        case step_kind::negate:
            return {"-" + within(pieces_[of.from[0]], values), signs};
        case step_kind::add:
            return two(of, " + ", sums);
        case step_kind::subtract:
            return two(of, " - ", sums);
        case step_kind::multiply:
            return two(of, " * ", products);
        case step_kind::divide:
            return two(of, " / ", products);
        case step_kind::less:
            return two(of, " < ", order);
        case step_kind::less_or_equal:
            return two(of, " <= ", order);
        case step_kind::equal: {
            const piece same = two(of, " == ", equality);
            return hlsl_ && formula_.steps[of.from[0]].type.width > 1
                       ? piece{"all(" + same.text + ")", values}
                       : same;
        }
        case step_kind::negation:
            return {"!" + within(pieces_[of.from[0]], values), signs};
        case step_kind::conjunction:
            return two(of, " && ", both);
        case step_kind::disjunction:
            return two(of, " || ", either);
        case step_kind::choice:
            return {within(pieces_[of.from[0]], either) + " ? " + within(pieces_[of.from[1]], choosing) +
                        " : " + within(pieces_[of.from[2]], choosing),
                    choosing};
        case step_kind::call:
            break;
        }
        return call(std::string(hlsl_ ? hlsl_name(of.called, of.count) : descriptor_of(of.called).name), of);
    }

  public:
    printer(const expression& formula, written_in language,
            const std::function<std::string(std::uint32_t)>& named)
        : formula_(formula), hlsl_(language == written_in::hlsl), named_(named) {}

    std::string text() {
        for (const step& each : formula_.steps) {
            pieces_.push_back(piece_of(each));
        }
        return std::move(pieces_.back().text);
    }
};

} // namespace

std::string printed(const expression& formula, written_in language,
                    const std::function<std::string(std::uint32_t)>& named) {
    return printer(formula, language, named).text();
}

} // namespace yurvo::inline v0_1::formulas
