#include "verify/plain_formulas.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <iterator>
#include <limits>
#include <mutex>
#include <string>
#include <utility>

#include "verify/plain_functions.hpp"
#include "verify/plain_numbers.hpp"

namespace yurvo::inline v0_1::verify {

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

// Reads a formula into steps: operands first, then what is done with them.
class plain_reader {
    std::string_view text_;
    std::size_t at_ = 0;
    plain_formula& into_;
    using source = plain_formula::source;
    using step = plain_formula::step;
    std::vector<source> waiting_; // for what is done with them, the last on top

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
    void add_number(double number) {
        const auto as_float = static_cast<double>(static_cast<float>(number));
        waiting_.push_back({source::kind::number, into_.numbers_.size()});
        into_.numbers_.emplace_back(range(std::min(as_float, number), number, std::max(as_float, number)));
    }
    void add_name(std::string_view letters) {
        const plain_name& name = into_.names_.emplace_back(letters);
        waiting_.push_back({source::kind::name, name.number()});
    }
    // What waits last becomes the step's operands, and its result waits instead.
    void add_step(step made, std::size_t count) {
        made.first = into_.operands_.size();
        made.count = count;
        const auto first = waiting_.end() - static_cast<std::ptrdiff_t>(count);
        into_.operands_.insert(into_.operands_.end(), first, waiting_.end());
        waiting_.erase(first, waiting_.end());
        waiting_.push_back({source::kind::step, into_.steps_.size()});
        into_.steps_.push_back(made);
    }
    void add_operation(std::string_view sign, std::size_t count) {
        add_step({step::kind::operation, operation_of(sign)}, count);
    }
    void add_call(std::string_view name, std::size_t count) {
        step made{step::kind::call, function_called(name)};
        made.width = static_cast<std::size_t>(name.back() - '0'); // of a vector
        add_step(made, count);
    }
    void add_letters(std::string_view letters) {
        step made{step::kind::letters};
        made.width = letters.size();
        for (std::size_t i = 0; i < letters.size(); ++i) {
            made.components[i] = static_cast<std::uint8_t>(std::string_view("xyzwrgba").find(letters[i]) % 4);
        }
        add_step(made, 1);
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
            add_operation(found, 2);
        }
    }
    void read_signed() {
        if (take("-")) {
            read_signed();
            add_operation("negative", 1);
        } else if (take("+")) {
            read_signed();
        } else if (take("!")) {
            read_signed();
            add_operation("!", 1);
        } else {
            read_value();
        }
    }
    static bool is_word(char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_';
    }
    std::string_view read_word() {
        skip_blanks();
        const std::size_t begin = at_;
        while (at_ < text_.size() && is_word(text_[at_])) {
            ++at_;
        }
        return text_.substr(begin, at_ - begin);
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
            add_number(number);
        } else {
            read_named();
        }
        while (take(".")) {
            add_letters(read_word());
        }
    }
    void read_named() {
        const std::string_view word = read_word();
        if (!take("(")) {
            if (word == "true" || word == "false") {
                add_number(word == "true" ? 1 : 0);
            } else {
                add_name(word);
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
        add_call(word, count);
    }
    void read_choice() {
        read_level(0);
        if (take("?")) {
            read_choice();
            take(":");
            read_choice();
            add_operation("?", 3);
        }
    }

  public:
    plain_reader(std::string_view text, plain_formula& into) : text_(text), into_(into) {
        read_choice();
        into_.result_ = waiting_.back();
    }
};

plain_formula::plain_formula(std::string_view text) { plain_reader(text, *this); }

bool plain_formula::asks_only(const plain_names& known) const {
    return std::all_of(names_.begin(), names_.end(),
                       [&](plain_name each) { return known.find(each) != nullptr; });
}

plain_value plain_formula::evaluate(const plain_names& known) const {
    static thread_local std::vector<plain_value> results; // of the steps; no formula asks for another
    static thread_local std::vector<const plain_value*> given;
    if (results.size() < steps_.size()) {
        results.resize(steps_.size());
    }
    given.resize(operands_.size());
    const std::array<const plain_value*, 3> kinds{numbers_.data(), known.values(), results.data()};
    const auto value_of = [&](const source& from) {
        return kinds[static_cast<std::size_t>(from.is)] + from.place;
    };
    std::transform(operands_.begin(), operands_.end(), given.begin(), value_of);
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        const step& each = steps_[i];
        const plain_operands of(&given[each.first], each.count);
        switch (each.is) {
        case step::kind::operation:
            operate(each.function, of, results[i]);
            break;
        case step::kind::call:
            call(each.function, each.width, of, results[i]);
            break;
        case step::kind::letters:
            results[i].width = each.width;
            results[i].doubtful = of[0].doubtful;
            for (std::size_t k = 0; k < each.width; ++k) {
                results[i].components[k] = of[0].components[each.components[k]];
            }
            break;
        }
    }
    return *value_of(result_);
}

} // namespace yurvo::inline v0_1::verify
