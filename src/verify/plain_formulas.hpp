// plain_formulas: formulas of one's own, read and worked out a second time: by a stack of values, in double,
// each with the interval in which float would leave it.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <string_view>
#include <vector>

#include "verify/range.hpp"

namespace yurvo::inline v0_1::verify {

// One to four components; a truth value is 0 or 1, between both where it is undecided.
struct plain_value {
    std::array<range, 4> components;
    std::size_t width = 1;
    bool doubtful = false; // rounding may leave no number

    plain_value() = default;
    plain_value(const range& number) : components{number}, width(1) {} // NOLINT: a number is a value
    plain_value(const range3& color) : components{color.r, color.g, color.b}, width(3) {} // NOLINT
    [[nodiscard]] const range& at(std::size_t i) const { return components[width == 1 ? 0 : i]; }
    // Some component is no finite number of a float.
    [[nodiscard]] bool fails() const;
};

// A name that formulas may ask for, as a number: the same for the same letters.
class plain_name {
    std::size_t number_;

  public:
    explicit plain_name(std::string_view letters);
    [[nodiscard]] std::size_t number() const { return number_; }
};

// What names mean.
class plain_names {
    std::vector<plain_value> values_; // by the names' numbers
    std::vector<char> known_;

  public:
    // By the names' numbers; what is not known is no value.
    [[nodiscard]] const plain_value* values() const { return values_.data(); }
    // Null where it is not known.
    [[nodiscard]] const plain_value* find(plain_name name) const {
        const std::size_t i = name.number();
        return i < known_.size() && known_[i] != 0 ? &values_[i] : nullptr;
    }
    plain_value& operator[](plain_name name) {
        const std::size_t i = name.number();
        if (i >= known_.size()) {
            known_.resize(i + 1, 0);
            values_.resize(i + 1);
        }
        known_[i] = 1;
        return values_[i];
    }
};

// What a step of a formula is given: values that lie elsewhere.
class plain_operands {
    const plain_value* const* values_;
    std::size_t count_;

  public:
    plain_operands(const plain_value* const* values, std::size_t count) : values_(values), count_(count) {}
    [[nodiscard]] std::size_t size() const { return count_; }
    const plain_value& operator[](std::size_t i) const { return *values_[i]; }
    // Some value may be no number.
    [[nodiscard]] bool doubtful() const {
        return std::any_of(values_, values_ + count_, [](const plain_value* each) { return each->doubtful; });
    }
};

class plain_formula {
    // Where a value comes from: the formula's numbers, names by their own numbers, or an earlier step.
    struct source {
        enum class kind : std::uint8_t { number, name, step } is{};
        std::size_t place = 0;
    };
    // What is worked out next, from the operands that follow one another.
    struct step {
        enum class kind : std::uint8_t { operation, call, letters } is{};
        std::size_t function = 0; // which operation or function
        std::size_t first = 0, count = 0;
        std::size_t width = 0;                    // of letters, and of a vector
        std::array<std::uint8_t, 4> components{}; // that letters pick
    };
    std::vector<step> steps_;
    std::vector<source> operands_;
    std::vector<plain_value> numbers_;
    std::vector<plain_name> names_;
    source result_;

    friend class plain_reader;

  public:
    // The text must be a formula that yurvo::formulas::parse takes.
    explicit plain_formula(std::string_view text);

    // The names that it asks for.
    [[nodiscard]] const std::vector<plain_name>& names() const { return names_; }
    // Whether all of them are known.
    [[nodiscard]] bool asks_only(const plain_names& known) const;
    // All of them must be known.
    [[nodiscard]] plain_value evaluate(const plain_names& known) const;
};

} // namespace yurvo::inline v0_1::verify
