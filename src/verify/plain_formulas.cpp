#include "verify/plain_formulas.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <mutex>
#include <span>
#include <utility>

#include "verify/plain_functions.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double largest_float = 3.4028234663852886e38;

} // namespace

plain_name::plain_name(std::string_view letters) : number_(0) {
    static std::mutex in_use;
    static std::vector<std::string> known; // few, and for good
    const std::lock_guard hold(in_use);
    const auto found = std::find(known.begin(), known.end(), letters);
    number_ = static_cast<std::size_t>(found - known.begin());
    if (found == known.end()) {
        known.emplace_back(letters);
    }
}

bool plain_value::fails() const {
    for (std::size_t i = 0; i < width; ++i) {
        if (!(std::abs(components[i].value) <= largest_float)) {
            return true;
        }
    }
    return false;
}

// Reads a formula into commands for a stack: operands first, then what is done with them.
class plain_reader {
    std::string_view text_;
    std::size_t at_ = 0;
    std::vector<plain_formula::command>& into_;
    using kind = plain_formula::command::kind;

    void skip_blanks() {
        while (at_ < text_.size() && std::string_view(" \t\r\n").find(text_[at_]) != std::string_view::npos) {
            ++at_;
        }
    }
    bool take(std::string_view sign) {
        skip_blanks();
        if (text_.substr(at_, sign.size()) != sign) {
            return false;
        }
        at_ += sign.size();
        return true;
    }
    void emit(kind is, std::string word, std::size_t count = 0, double number = 0) {
        const std::size_t function = is == kind::call        ? function_called(word)
                                     : is == kind::operation ? operation_of(word)
                                                             : 0;
        const plain_name name(is == kind::name ? word : std::string());
        into_.push_back({is, std::move(word), number, count, function, name});
    }

    // From the loosest binding operators to the tightest.
    static constexpr std::array<std::array<std::string_view, 4>, 6> levels{
        {{"||"}, {"&&"}, {"==", "!="}, {"<=", ">=", "<", ">"}, {"+", "-"}, {"*", "/"}}};
    void read_level(std::size_t level) {
        if (level == levels.size()) {
            return read_signed();
        }
        read_level(level + 1);
        while (true) {
            std::string_view found;
            for (const std::string_view sign : levels[level]) {
                if (!sign.empty() && take(sign)) {
                    found = sign;
                    break;
                }
            }
            if (found.empty()) {
                return;
            }
            read_level(level + 1);
            emit(kind::operation, std::string(found), 2);
        }
    }
    void read_signed() {
        if (take("-")) {
            read_signed();
            emit(kind::operation, "negative", 1);
        } else if (take("+")) {
            read_signed();
        } else if (take("!")) {
            read_signed();
            emit(kind::operation, "!", 1);
        } else {
            read_value();
        }
    }
    static bool is_word(char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_';
    }
    std::string read_word() {
        skip_blanks();
        const std::size_t begin = at_;
        while (at_ < text_.size() && is_word(text_[at_])) {
            ++at_;
        }
        return std::string(text_.substr(begin, at_ - begin));
    }
    void read_value() {
        skip_blanks();
        const char first = at_ < text_.size() ? text_[at_] : ' ';
        if (take("(")) {
            read_choice();
            take(")");
        } else if ((first >= '0' && first <= '9') || first == '.') {
            const std::string rest(text_.substr(at_, 400));
            char* end = nullptr;
            const double number = std::strtod(rest.c_str(), &end);
            at_ += static_cast<std::size_t>(end - rest.c_str());
            at_ += at_ < text_.size() && (text_[at_] == 'f' || text_[at_] == 'F') ? 1U : 0U;
            emit(kind::number, "", 0, number);
        } else {
            read_named();
        }
        while (take(".")) {
            emit(kind::letters, read_word());
        }
    }
    void read_named() {
        std::string word = read_word();
        if (!take("(")) {
            if (word == "true" || word == "false") {
                emit(kind::number, "", 0, word == "true" ? 1 : 0);
            } else {
                emit(kind::name, std::move(word));
            }
            return;
        }
        std::size_t count = 0;
        if (!take(")")) {
            do {
                read_choice();
                ++count;
            } while (take(","));
            take(")");
        }
        emit(kind::call, std::move(word), count);
    }
    void read_choice() {
        read_level(0);
        if (take("?")) {
            read_choice();
            take(":");
            read_choice();
            emit(kind::operation, "?", 3);
        }
    }

  public:
    plain_reader(std::string_view text, std::vector<plain_formula::command>& into)
        : text_(text), into_(into) {
        read_choice();
    }
};

plain_formula::plain_formula(std::string_view text) { plain_reader(text, commands_); }

namespace {

plain_value picked(const plain_value& from, const std::string& letters) {
    plain_value result;
    result.width = letters.size();
    result.doubtful = from.doubtful;
    for (std::size_t i = 0; i < letters.size(); ++i) {
        const std::size_t place = std::string_view("xyzwrgba").find(letters[i]) % 4;
        result.components[i] = from.components[place];
    }
    return result;
}

} // namespace

bool plain_formula::asks_only(const plain_names& known) const {
    return std::all_of(commands_.begin(), commands_.end(), [&](const command& each) {
        return each.is != command::kind::name || known.find(each.name) != nullptr;
    });
}

plain_value plain_formula::evaluate(const plain_names& known) const {
    static thread_local std::vector<plain_value> stack; // no formula asks for another
    stack.clear();
    // What the last of the stack give stands in their place.
    const auto put = [&](std::size_t count, auto&& function) {
        plain_value result = function(std::span<const plain_value>(stack).last(count));
        stack.resize(stack.size() - count + 1);
        stack.back() = result;
    };
    for (const command& each : commands_) {
        switch (each.is) {
        case command::kind::number: {
            const auto as_float = static_cast<double>(static_cast<float>(each.number));
            stack.emplace_back(
                range(std::min(as_float, each.number), each.number, std::max(as_float, each.number)));
            break;
        }
        case command::kind::name:
            stack.push_back(*known.find(each.name));
            break;
        case command::kind::operation:
            put(each.count, [&](std::span<const plain_value> of) { return operated(each.function, of); });
            break;
        case command::kind::call:
            put(each.count,
                [&](std::span<const plain_value> of) { return called(each.word, each.function, of); });
            break;
        case command::kind::letters:
            stack.back() = picked(stack.back(), each.word);
            break;
        }
    }
    return stack.back();
}

} // namespace yurvo::inline v0_1::verify
