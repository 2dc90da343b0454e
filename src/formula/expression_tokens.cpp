#include "formula/expression_tokens.hpp"

#include <array>
#include <string>

#include "yurvo/formula/expression.hpp"

namespace yurvo::inline v0_1::formulas {

namespace {

bool is_letter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; }
bool is_digit(char c) { return c >= '0' && c <= '9'; }

std::string shown(char c) {
    return static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) > 0x7E
               ? "character " + std::to_string(static_cast<unsigned char>(c))
               : std::string(1, c);
}

} // namespace

token token_reader::take(token::kind is, std::size_t length) {
    const token result{is, text_.substr(at_, length), at_};
    at_ += length;
    return result;
}

// `1`, `1.`, `.5`, `1e-3`, `1.0f`
std::size_t token_reader::number_length() const {
    std::size_t i = at_;
    const auto digits = [&] {
        while (i < text_.size() && is_digit(text_[i])) {
            ++i;
        }
    };
    digits();
    if (i < text_.size() && text_[i] == '.') {
        ++i;
        digits();
    }
    if (i < text_.size() && (text_[i] == 'e' || text_[i] == 'E')) {
        std::size_t next = i + 1;
        next += next < text_.size() && (text_[next] == '+' || text_[next] == '-') ? 1U : 0U;
        if (next < text_.size() && is_digit(text_[next])) {
            i = next;
            digits();
        }
    }
    i += i < text_.size() && (text_[i] == 'f' || text_[i] == 'F') ? 1U : 0U;
    return i - at_;
}

token token_reader::next() {
    while (at_ < text_.size() &&
           (text_[at_] == ' ' || text_[at_] == '\t' || text_[at_] == '\n' || text_[at_] == '\r')) {
        ++at_;
    }
    if (at_ == text_.size()) {
        return {token::kind::end, {}, at_};
    }
    const char c = text_[at_];
    const char after = at_ + 1 < text_.size() ? text_[at_ + 1] : ' ';
    if (is_letter(c)) {
        std::size_t length = 1;
        while (at_ + length < text_.size() &&
               (is_letter(text_[at_ + length]) || is_digit(text_[at_ + length]))) {
            ++length;
        }
        return take(token::kind::name, length);
    }
    if (is_digit(c) || (c == '.' && is_digit(after))) {
        return take(token::kind::number, number_length());
    }
    static constexpr std::array<std::string_view, 6> pairs{"<=", ">=", "==", "!=", "&&", "||"};
    for (const std::string_view pair : pairs) {
        if (text_.substr(at_, 2) == pair) {
            return take(token::kind::sign, 2);
        }
    }
    static constexpr std::string_view single = "+-*/()<>!?:,.";
    if (single.find(c) != std::string_view::npos) {
        return take(token::kind::sign, 1);
    }
    throw fault_in_text(at_, "`" + shown(c) + "` has no meaning in a formula",
                        "numbers, names, + - * / ( ) , . ? : ! < > <= >= == != && ||");
}

} // namespace yurvo::inline v0_1::formulas
