// expression_tokens: a formula's text, cut into names, numbers and signs.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string_view>

namespace yurvo::inline v0_1::formulas {

struct token {
    enum class kind : std::uint8_t { end, name, number, sign } is{};
    std::string_view text;
    std::size_t offset = 0; // of its first character in the formula
};

class token_reader {
    std::string_view text_;
    std::size_t at_ = 0;

    token take(token::kind is, std::size_t length);
    [[nodiscard]] std::size_t number_length() const;

  public:
    // The text outlives what is read from it.
    explicit token_reader(std::string_view text) : text_(text) {}

    // Throws fault_in_text for a character that no formula has.
    token next();
};

} // namespace yurvo::inline v0_1::formulas
