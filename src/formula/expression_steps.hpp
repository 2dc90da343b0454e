// expression_steps: the steps of a formula as they are added, each held to the types that it takes.
#pragma once

#include <cstddef>
#include <cstdint>
#include <initializer_list>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "formula/expression_tokens.hpp"
#include "yurvo/formula/expression.hpp"

namespace yurvo::inline v0_1::formulas {

inline constexpr value_type number_type{1, false};
inline constexpr value_type truth_type{1, true};
inline constexpr const char* swizzle_remedy = "one to four letters of xyzw, or of rgba, that the value has";

// Of what is given to a function or a constructor.
struct argument {
    std::uint32_t value; // the step that gives it
    std::size_t offset;  // in the formula's text
};

// What does not fit is thrown as fault_in_text, with the offset that is handed in.
class expression_steps {
    expression made_;

    [[nodiscard]] std::string mixed(const std::vector<argument>& given) const;

  public:
    using place = std::uint32_t; // of a step among the others

    explicit expression_steps(std::string_view text) { made_.text = text; }
    expression take() && { return std::move(made_); }

    place add(step made);
    place add(step_kind kind, value_type type, std::initializer_list<place> from);
    [[nodiscard]] value_type type_of(place of) const { return made_.steps[of].type; }
    // `vec2 and float`
    [[nodiscard]] std::string types(std::initializer_list<place> of) const;

    void need_numbers(place of, std::size_t offset, std::string_view sign) const;
    void need_truth(place of, std::size_t offset, std::string_view sign) const;

    place number(const token& written);
    place arithmetic(step_kind kind, place a, place b, std::size_t offset, std::string_view sign);
    // One to four letters.
    place swizzle(place of, const token& letters);
    // vec2(), vec3(), vec4() and, of width 1, float().
    place construct(const token& called, const std::vector<argument>& given, std::uint8_t width);
    place call(const function_descriptor& known, const token& called, const std::vector<argument>& given);
};

} // namespace yurvo::inline v0_1::formulas
