// expression: one formula of one's own, parsed: a list of steps, each of which uses those before it.
//
// The syntax is GLSL's (numbers, operators, comparisons, swizzles, constructors and the functions of
// function_list.hpp); whole numbers count as floats.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "yurvo/formula/function_list.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// One to four numbers, or a truth value.
struct value_type {
    std::uint8_t width = 1; ///< 1 for a number, 3 for a vector or colour
    bool truth = false;     ///< of width 1

    friend bool operator==(const value_type&, const value_type&) = default;
};

/// `float`, `vec3`, `bool`.
std::string name_of(value_type type);

/// What a step does.
enum class step_kind : std::uint8_t {
    constant,  ///< numbers
    input,     ///< the known name of that index
    swizzle,   ///< components of one value
    construct, ///< the components of several values, one after the other; of one number, all alike
    negate,
    add,
    subtract,
    multiply,
    divide,
    less,
    less_or_equal,
    equal,
    negation,
    conjunction,
    disjunction,
    choice, ///< the second where the first is true, else the third
    call,   ///< of a function
};

/// One step of a compiled expression; its operands are earlier steps.
struct step {
    step_kind kind{};                         ///< what it does
    function called{};                        ///< of a call
    value_type type;                          ///< of its result
    std::uint8_t count = 0;                   ///< of the values used
    std::array<std::uint32_t, 4> from{};      ///< indices of steps before this; of an input, of its name
    std::array<std::uint8_t, 4> components{}; ///< of a swizzle
    std::array<double, 4> numbers{};          ///< of a constant
};

/// An expression, checked and made into steps; the last one's result is the expression's.
struct expression {
    std::vector<step> steps; ///< the last is the result; not empty
    std::string text;        ///< as it was written

    /// Of the result.
    [[nodiscard]] value_type type() const { return steps.back().type; }
    /// Whether it asks for the known name of that index.
    [[nodiscard]] bool uses(std::uint32_t input) const;
};

/// A name that an expression may use.
struct known_name {
    std::string name; ///< as it is written
    value_type type;  ///< what it holds
};

/// What is wrong with a formula: where in its text, and what would be right. Where a name is unknown, the
/// names that are known are told, so that the nearest can be found.
class fault_in_text : public std::runtime_error {
  public:
    std::size_t offset;             ///< from its first character
    std::string wrong;              ///< what is wrong
    std::string right;              ///< what would be right
    std::string unknown;            ///< the name that is not known, where it is that
    std::vector<std::string> known; ///< the names that are known there

    /// At a byte of the text.
    fault_in_text(std::size_t at, std::string wrong_, std::string right_, std::string unknown_ = "",
                  std::vector<std::string> known_ = {})
        : std::runtime_error(wrong_ + "; " + right_),
          offset(at),
          wrong(std::move(wrong_)),
          right(std::move(right_)),
          unknown(std::move(unknown_)),
          known(std::move(known_)) {}
};

/// Characters of a formula, and how deep it may be nested.
inline constexpr std::size_t longest_text = 10'000;
/// How many brackets may stand within one another.
inline constexpr int deepest_nesting = 64;

/// The formula over these names. Throws fault_in_text.
expression parse(std::string_view text, const std::vector<known_name>& known);

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
