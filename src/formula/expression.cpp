#include "yurvo/formula/expression.hpp"

#include <algorithm>

#include "formula/expression_steps.hpp"
#include "formula/expression_tokens.hpp"

namespace yurvo::inline v0_1::formulas {

std::string name_of(value_type type) {
    if (type.truth) {
        return "bool";
    }
    return type.width == 1 ? "float" : "vec" + std::to_string(type.width);
}

bool expression::uses(std::uint32_t input) const {
    return std::any_of(steps.begin(), steps.end(), [&](const step& each) {
        return each.kind == step_kind::input && each.from[0] == input;
    });
}

namespace {

class parser {
    const std::vector<known_name>& known_;
    token_reader tokens_;
    token now_;
    expression_steps steps_;
    int depth_ = 0;

    using place = expression_steps::place;

    void advance() { now_ = tokens_.next(); }
    [[nodiscard]] bool at(std::string_view sign) const {
        return now_.is == token::kind::sign && now_.text == sign;
    }
    bool skip(std::string_view sign) {
        if (!at(sign)) {
            return false;
        }
        advance();
        return true;
    }
    [[nodiscard]] std::string found() const {
        return now_.is == token::kind::end ? "the formula ends" : "`" + std::string(now_.text) + "`";
    }
    void expect(std::string_view sign, const std::string& why) {
        if (!skip(sign)) {
            throw fault_in_text(now_.offset, found() + " where `" + std::string(sign) + "` belongs", why);
        }
    }

    // Counts how deep it is while it lives.
    class deeper {
        int& depth_;

      public:
        deeper(int& depth, std::size_t offset) : depth_(depth) {
            if (++depth_ > deepest_nesting + 1) { // the whole formula is no nesting
                throw fault_in_text(offset, "the formula is nested too deep",
                                    "at most " + std::to_string(deepest_nesting) +
                                        " parentheses, calls, signs and choices within one another");
            }
        }
        ~deeper() { --depth_; }
        deeper(const deeper&) = delete;
        deeper(deeper&&) = delete;
        deeper& operator=(const deeper&) = delete;
        deeper& operator=(deeper&&) = delete;
    };

    place conditional() {
        const deeper within(depth_, now_.offset);
        const place condition = disjunction();
        const std::size_t offset = now_.offset;
        if (!skip("?")) {
            return condition;
        }
        steps_.need_truth(condition, offset, "?");
        const place first = conditional();
        expect(":", "CONDITION ? VALUE : VALUE");
        const place second = conditional();
        if (steps_.type_of(first) != steps_.type_of(second)) {
            throw fault_in_text(offset, "`?` chooses between " + steps_.types({first, second}),
                                "two of one type");
        }
        return steps_.add(step_kind::choice, steps_.type_of(first), {condition, first, second});
    }
    place disjunction() {
        place left = conjunction();
        for (std::size_t offset = now_.offset; skip("||"); offset = now_.offset) {
            const place right = conjunction();
            steps_.need_truth(left, offset, "||");
            steps_.need_truth(right, offset, "||");
            left = steps_.add(step_kind::disjunction, truth_type, {left, right});
        }
        return left;
    }
    place conjunction() {
        place left = equality();
        for (std::size_t offset = now_.offset; skip("&&"); offset = now_.offset) {
            const place right = equality();
            steps_.need_truth(left, offset, "&&");
            steps_.need_truth(right, offset, "&&");
            left = steps_.add(step_kind::conjunction, truth_type, {left, right});
        }
        return left;
    }
    place equality() {
        place left = comparison();
        while (at("==") || at("!=")) {
            const token sign = now_;
            advance();
            const place right = comparison();
            if (steps_.type_of(left) != steps_.type_of(right)) {
                throw fault_in_text(
                    sign.offset, "`" + std::string(sign.text) + "` compares " + steps_.types({left, right}),
                    "two of one type");
            }
            left = steps_.add(step_kind::equal, truth_type, {left, right});
            if (sign.text == "!=") {
                left = steps_.add(step_kind::negation, truth_type, {left});
            }
        }
        return left;
    }
    place comparison() {
        place left = sum();
        while (at("<") || at(">") || at("<=") || at(">=")) {
            const token sign = now_;
            advance();
            const place right = sum();
            if (steps_.type_of(left) != number_type || steps_.type_of(right) != number_type) {
                throw fault_in_text(
                    sign.offset, "`" + std::string(sign.text) + "` compares " + steps_.types({left, right}),
                    "two floats");
            }
            const auto kind = sign.text.size() == 2 ? step_kind::less_or_equal : step_kind::less;
            left = sign.text[0] == '<' ? steps_.add(kind, truth_type, {left, right})
                                       : steps_.add(kind, truth_type, {right, left});
        }
        return left;
    }
    place sum() {
        place left = product();
        while (at("+") || at("-")) {
            const token sign = now_;
            advance();
            const place right = product();
            left = steps_.arithmetic(sign.text == "+" ? step_kind::add : step_kind::subtract, left, right,
                                     sign.offset, sign.text);
        }
        return left;
    }
    place product() {
        place left = signed_value();
        while (at("*") || at("/")) {
            const token sign = now_;
            advance();
            const place right = signed_value();
            left = steps_.arithmetic(sign.text == "*" ? step_kind::multiply : step_kind::divide, left, right,
                                     sign.offset, sign.text);
        }
        return left;
    }
    place signed_value() {
        if (!at("-") && !at("+") && !at("!")) {
            return with_swizzles();
        }
        const token sign = now_;
        const deeper within(depth_, sign.offset);
        advance();
        const place of = signed_value();
        if (sign.text == "!") {
            steps_.need_truth(of, sign.offset, "!");
            return steps_.add(step_kind::negation, truth_type, {of});
        }
        steps_.need_numbers(of, sign.offset, sign.text);
        return sign.text == "-" ? steps_.add(step_kind::negate, steps_.type_of(of), {of}) : of;
    }

    place with_swizzles() {
        place of = primary();
        while (skip(".")) {
            of = swizzle(of);
        }
        return of;
    }
    place swizzle(place of) {
        const token letters = now_;
        if (letters.is != token::kind::name || letters.text.size() > 4) {
            throw fault_in_text(letters.offset, found() + " after a dot", swizzle_remedy);
        }
        const place made = steps_.swizzle(of, letters);
        advance();
        return made;
    }

    place primary() {
        const token first = now_;
        if (first.is == token::kind::number) {
            advance();
            return steps_.number(first);
        }
        if (skip("(")) {
            const place inner = conditional();
            expect(")", "a closing parenthesis for each that opens");
            return inner;
        }
        if (first.is != token::kind::name) {
            throw fault_in_text(first.offset, found() + " where a value belongs",
                                "a number, a name, a call or a parenthesis");
        }
        advance();
        if (at("(")) {
            return call(first);
        }
        return name(first);
    }
    place name(const token& written) {
        if (written.text == "true" || written.text == "false") {
            step made;
            made.kind = step_kind::constant;
            made.type = truth_type;
            made.numbers[0] = written.text == "true" ? 1 : 0;
            return steps_.add(made);
        }
        std::vector<std::string> names;
        for (std::size_t i = 0; i < known_.size(); ++i) {
            if (known_[i].name == written.text) {
                step made;
                made.kind = step_kind::input;
                made.type = known_[i].type;
                made.from[0] = static_cast<place>(i);
                return steps_.add(made);
            }
            names.push_back(known_[i].name);
        }
        const bool is_function = std::any_of(function_list.begin(), function_list.end(),
                                             [&](const auto& each) { return each.name == written.text; });
        if (is_function) {
            throw fault_in_text(written.offset, "`" + std::string(written.text) + "` is a function",
                                "its arguments in parentheses after it");
        }
        throw fault_in_text(written.offset, "`" + std::string(written.text) + "` is not known here",
                            "one of " + listed(names), std::string(written.text), names);
    }
    static std::string listed(const std::vector<std::string>& names) {
        std::string text;
        for (const std::string& each : names) {
            text += (text.empty() ? "" : ", ") + each;
        }
        return text;
    }

    std::vector<argument> arguments() {
        std::vector<argument> given;
        advance();
        if (skip(")")) {
            return given;
        }
        while (true) {
            const std::size_t offset = now_.offset;
            given.push_back({conditional(), offset});
            if (!skip(",")) {
                break;
            }
        }
        expect(")", "a comma or a closing parenthesis");
        return given;
    }
    place call(const token& called) {
        const std::vector<argument> given = arguments();
        if (called.text == "float") {
            return steps_.construct(called, given, 1);
        }
        if (called.text.size() == 4 && called.text.substr(0, 3) == "vec" && called.text[3] >= '2' &&
            called.text[3] <= '4') {
            return steps_.construct(called, given, static_cast<std::uint8_t>(called.text[3] - '0'));
        }
        for (const function_descriptor& each : function_list) {
            if (each.name == called.text) {
                return steps_.call(each, called, given);
            }
        }
        std::vector<std::string> names{"vec2", "vec3", "vec4", "float"};
        for (const function_descriptor& each : function_list) {
            names.emplace_back(each.name);
        }
        throw fault_in_text(called.offset, "there is no function `" + std::string(called.text) + "`",
                            "one of " + listed(names), std::string(called.text), names);
    }

  public:
    parser(std::string_view text, const std::vector<known_name>& known)
        : known_(known), tokens_(text), steps_(text) {}

    expression whole() {
        advance();
        if (now_.is == token::kind::end) {
            throw fault_in_text(0, "the formula is empty", "an expression, such as 1.0 / (1.0 + d * d)");
        }
        conditional();
        if (now_.is != token::kind::end) {
            throw fault_in_text(now_.offset, found() + " after the formula's end",
                                "one expression and nothing else");
        }
        return std::move(steps_).take();
    }
};

} // namespace

expression parse(std::string_view text, const std::vector<known_name>& known) {
    if (text.size() > longest_text) {
        throw fault_in_text(0, "the formula has " + std::to_string(text.size()) + " characters",
                            "at most " + std::to_string(longest_text));
    }
    return parser(text, known).whole();
}

} // namespace yurvo::inline v0_1::formulas
