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

namespace yurvo::verify {

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

// What names mean. The names must outlive it.
class plain_names {
    std::vector<std::pair<std::string_view, plain_value>> list_;

  public:
    // Null where it is not known.
    [[nodiscard]] const plain_value* find(std::string_view name) const {
        for (const auto& [known, value] : list_) {
            if (known == name) {
                return &value;
            }
        }
        return nullptr;
    }
    plain_value& operator[](std::string_view name) {
        for (auto& [known, value] : list_) {
            if (known == name) {
                return value;
            }
        }
        return list_.emplace_back(name, plain_value()).second;
    }
};

class plain_formula {
    // What is done next with the values on the stack.
    struct command {
        enum class kind : std::uint8_t { number, name, operation, call, letters } is{};
        std::string word;
        double number = 0;
        std::size_t count = 0;    // of a call's arguments
        std::size_t function = 0; // of a call: which
    };
    std::vector<command> commands_;

    friend class plain_reader;

  public:
    plain_formula() = default;
    // The text must be a formula that yurvo::formulas::parse takes.
    explicit plain_formula(std::string_view text);

    // Whether all names that it asks for are known.
    [[nodiscard]] bool asks_only(const plain_names& known) const;
    [[nodiscard]] plain_value evaluate(const plain_names& known) const;
};

} // namespace yurvo::verify
