// plain_formulas: formulas of one's own, read and worked out a second time: by a stack of values, in double,
// each with the interval in which float would leave it.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
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

class plain_formula {
    // What is done next with the values on the stack.
    struct command {
        enum class kind : std::uint8_t { number, name, operation, call, letters } is{};
        std::string word;
        double number = 0;
        std::size_t count = 0;    // of a call's arguments
        std::size_t function = 0; // of a call, or of an operation: which
        plain_name name;          // of a name
    };
    std::vector<command> commands_;

    friend class plain_reader;

  public:
    // The text must be a formula that yurvo::formulas::parse takes.
    explicit plain_formula(std::string_view text);

    // Whether all names that it asks for are known.
    [[nodiscard]] bool asks_only(const plain_names& known) const;
    [[nodiscard]] plain_value evaluate(const plain_names& known) const;
};

} // namespace yurvo::inline v0_1::verify
