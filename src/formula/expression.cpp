#include "yurvo/formula/expression.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>

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

constexpr value_type number_type{1, false};
constexpr value_type truth_type{1, true};

bool is_letter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; }
bool is_digit(char c) { return c >= '0' && c <= '9'; }

struct token {
    enum class kind : std::uint8_t { end, name, number, sign } is{};
    std::string_view text;
    std::size_t offset = 0;
};

class token_reader {
    std::string_view text_;
    std::size_t at_ = 0;

    token take(token::kind is, std::size_t length) {
        const token result{is, text_.substr(at_, length), at_};
        at_ += length;
        return result;
    }
    // `1`, `1.`, `.5`, `1e-3`, `1.0f`
    [[nodiscard]] std::size_t number_length() const {
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

  public:
    explicit token_reader(std::string_view text) : text_(text) {}

    token next() {
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

    static std::string shown(char c) {
        return static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) > 0x7E
                   ? "character " + std::to_string(static_cast<unsigned char>(c))
                   : std::string(1, c);
    }
};

class parser {
    const std::vector<known_name>& known_;
    token_reader tokens_;
    token now_;
    expression made_;
    int depth_ = 0;

    using place = std::uint32_t;

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

    place add(step made) {
        made_.steps.push_back(made);
        return static_cast<place>(made_.steps.size() - 1);
    }
    place add(step_kind kind, value_type type, std::initializer_list<place> from) {
        step made;
        made.kind = kind;
        made.type = type;
        for (const place each : from) {
            made.from[made.count++] = each;
        }
        return add(made);
    }
    [[nodiscard]] value_type type_of(place of) const { return made_.steps[of].type; }
    [[nodiscard]] std::string types(std::initializer_list<place> of) const {
        std::string text;
        for (const place each : of) {
            text += (text.empty() ? "" : " and ") + name_of(type_of(each));
        }
        return text;
    }
    void need_numbers(place of, std::size_t offset, std::string_view sign) const {
        if (type_of(of).truth) {
            throw fault_in_text(offset, "`" + std::string(sign) + "` is given a bool",
                                "a number or a vector");
        }
    }
    void need_truth(place of, std::size_t offset, std::string_view sign) const {
        if (!type_of(of).truth) {
            throw fault_in_text(offset,
                                "`" + std::string(sign) + "` is given a " + formulas::name_of(type_of(of)),
                                "a bool, such as `d < range`");
        }
    }

    place arithmetic(step_kind kind, place a, place b, std::size_t offset, std::string_view sign) {
        need_numbers(a, offset, sign);
        need_numbers(b, offset, sign);
        const std::uint8_t wide = std::max(type_of(a).width, type_of(b).width);
        if (type_of(a).width != type_of(b).width && type_of(a).width != 1 && type_of(b).width != 1) {
            throw fault_in_text(offset, "`" + std::string(sign) + "` is given " + types({a, b}),
                                "two of one type, or one of them a float");
        }
        return add(kind, {wide, false}, {a, b});
    }

    place conditional() {
        const deeper within(depth_, now_.offset);
        const place condition = disjunction();
        const std::size_t offset = now_.offset;
        if (!skip("?")) {
            return condition;
        }
        need_truth(condition, offset, "?");
        const place first = conditional();
        expect(":", "CONDITION ? VALUE : VALUE");
        const place second = conditional();
        if (type_of(first) != type_of(second)) {
            throw fault_in_text(offset, "`?` chooses between " + types({first, second}), "two of one type");
        }
        return add(step_kind::choice, type_of(first), {condition, first, second});
    }
    place disjunction() {
        place left = conjunction();
        for (std::size_t offset = now_.offset; skip("||"); offset = now_.offset) {
            const place right = conjunction();
            need_truth(left, offset, "||");
            need_truth(right, offset, "||");
            left = add(step_kind::disjunction, truth_type, {left, right});
        }
        return left;
    }
    place conjunction() {
        place left = equality();
        for (std::size_t offset = now_.offset; skip("&&"); offset = now_.offset) {
            const place right = equality();
            need_truth(left, offset, "&&");
            need_truth(right, offset, "&&");
            left = add(step_kind::conjunction, truth_type, {left, right});
        }
        return left;
    }
    place equality() {
        place left = comparison();
        while (at("==") || at("!=")) {
            const token sign = now_;
            advance();
            const place right = comparison();
            if (type_of(left) != type_of(right)) {
                throw fault_in_text(sign.offset,
                                    "`" + std::string(sign.text) + "` compares " + types({left, right}),
                                    "two of one type");
            }
            left = add(step_kind::equal, truth_type, {left, right});
            if (sign.text == "!=") {
                left = add(step_kind::negation, truth_type, {left});
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
            if (type_of(left) != number_type || type_of(right) != number_type) {
                throw fault_in_text(sign.offset,
                                    "`" + std::string(sign.text) + "` compares " + types({left, right}),
                                    "two floats");
            }
            const auto kind = sign.text.size() == 2 ? step_kind::less_or_equal : step_kind::less;
            left = sign.text[0] == '<' ? add(kind, truth_type, {left, right})
                                       : add(kind, truth_type, {right, left});
        }
        return left;
    }
    place sum() {
        place left = product();
        while (at("+") || at("-")) {
            const token sign = now_;
            advance();
            const place right = product();
            left = arithmetic(sign.text == "+" ? step_kind::add : step_kind::subtract, left, right,
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
            left = arithmetic(sign.text == "*" ? step_kind::multiply : step_kind::divide, left, right,
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
            need_truth(of, sign.offset, "!");
            return add(step_kind::negation, truth_type, {of});
        }
        need_numbers(of, sign.offset, sign.text);
        return sign.text == "-" ? add(step_kind::negate, type_of(of), {of}) : of;
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
        const std::string right = "one to four letters of xyzw, or of rgba, that the value has";
        if (letters.is != token::kind::name || letters.text.size() > 4) {
            throw fault_in_text(letters.offset, found() + " after a dot", right);
        }
        step made;
        made.kind = step_kind::swizzle;
        made.count = 1;
        made.from[0] = of;
        made.type.width = static_cast<std::uint8_t>(letters.text.size());
        const std::string_view set =
            std::string_view("xyzw").find(letters.text[0]) != std::string_view::npos ? "xyzw" : "rgba";
        for (std::size_t i = 0; i < letters.text.size(); ++i) {
            const std::size_t component = set.find(letters.text[i]);
            // A number has no components in GLSL.
            if (component == std::string_view::npos || component >= type_of(of).width ||
                type_of(of).width == 1) {
                throw fault_in_text(letters.offset,
                                    "a " + formulas::name_of(type_of(of)) + " has no component `" +
                                        std::string(letters.text) + "`",
                                    right);
            }
            made.components[i] = static_cast<std::uint8_t>(component);
        }
        advance();
        return add(made);
    }

    place primary() {
        const token first = now_;
        if (first.is == token::kind::number) {
            advance();
            return number(first);
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
    place number(const token& written) {
        std::string_view digits = written.text;
        if (digits.back() == 'f' || digits.back() == 'F') {
            digits.remove_suffix(1);
        }
        step made;
        made.kind = step_kind::constant;
        const auto [end, failed] =
            std::from_chars(digits.data(), digits.data() + digits.size(), made.numbers[0]);
        // What is too small to be told from 0 is 0; what is too large is none.
        if (failed == std::errc::result_out_of_range && digits.find('-') != std::string_view::npos) {
            made.numbers[0] = 0;
        } else if (failed != std::errc() || made.numbers[0] > 3.4e38) {
            throw fault_in_text(written.offset, "`" + std::string(written.text) + "` is no number of a float",
                                "a number up to 3.4e38");
        }
        return add(made);
    }
    place name(const token& written) {
        if (written.text == "true" || written.text == "false") {
            step made;
            made.kind = step_kind::constant;
            made.type = truth_type;
            made.numbers[0] = written.text == "true" ? 1 : 0;
            return add(made);
        }
        std::vector<std::string> names;
        for (std::size_t i = 0; i < known_.size(); ++i) {
            if (known_[i].name == written.text) {
                step made;
                made.kind = step_kind::input;
                made.type = known_[i].type;
                made.from[0] = static_cast<place>(i);
                return add(made);
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

    struct argument {
        place value;
        std::size_t offset;
    };
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
            return construct(called, given, 1);
        }
        if (called.text.size() == 4 && called.text.substr(0, 3) == "vec" && called.text[3] >= '2' &&
            called.text[3] <= '4') {
            return construct(called, given, static_cast<std::uint8_t>(called.text[3] - '0'));
        }
        for (const function_descriptor& each : function_list) {
            if (each.name == called.text) {
                return call_of(each, called, given);
            }
        }
        std::vector<std::string> names{"vec2", "vec3", "vec4", "float"};
        for (const function_descriptor& each : function_list) {
            names.emplace_back(each.name);
        }
        throw fault_in_text(called.offset, "there is no function `" + std::string(called.text) + "`",
                            "one of " + listed(names), std::string(called.text), names);
    }
    place construct(const token& called, const std::vector<argument>& given, std::uint8_t width) {
        const std::string name(called.text);
        std::size_t components = 0;
        for (std::size_t i = 0; i < given.size(); ++i) {
            if (type_of(given[i].value).truth) {
                throw fault_in_text(given[i].offset, "`" + name + "` is given a bool", "numbers and vectors");
            }
            if (components >= width) {
                throw fault_in_text(given[i].offset, "`" + name + "` is full before this argument",
                                    "as many components as it holds");
            }
            components += type_of(given[i].value).width;
        }
        const bool splat = given.size() == 1 && components == 1;
        const bool cut = given.size() == 1 && components > width;
        if (given.empty() || (components != width && !splat && !cut)) {
            throw fault_in_text(called.offset,
                                "`" + name + "` is given " + std::to_string(components) + " components",
                                "one number, or " + std::to_string(width) + " components");
        }
        step made;
        made.kind = step_kind::construct;
        made.type.width = width;
        if (cut) {
            made.kind = step_kind::swizzle;
            made.components = {0, 1, 2, 3};
        }
        for (const argument& each : given) {
            made.from[made.count++] = each.value;
        }
        return add(made);
    }
    place call_of(const function_descriptor& known, const token& called, const std::vector<argument>& given) {
        const std::string name(called.text);
        const std::size_t most = known.takes.size();
        const std::size_t fewest = known.fewest == 0 ? most : known.fewest;
        if (given.size() < fewest || given.size() > most) {
            throw fault_in_text(called.offset,
                                "`" + name + "` is given " + std::to_string(given.size()) +
                                    (given.size() == 1 ? " argument" : " arguments"),
                                (fewest < most ? std::to_string(fewest) + " or " : "") +
                                    std::to_string(most));
        }
        std::uint8_t wide = 0;
        std::optional<std::uint8_t> loose; // of what may be one number
        for (std::size_t i = 0; i < given.size(); ++i) {
            const value_type type = type_of(given[i].value);
            if (type.truth) {
                throw fault_in_text(given[i].offset, "`" + name + "` is given a bool",
                                    "a number or a vector");
            }
            if (known.takes[i] == 's') {
                if (loose && *loose != type.width) {
                    throw fault_in_text(given[i].offset, "`" + name + "` is given " + mixed(given),
                                        "arguments of one type, or these both floats");
                }
                loose = type.width;
                continue;
            }
            const std::uint8_t wanted = known.takes[i] == '3' ? 3 : wide == 0 ? type.width : wide;
            if (type.width != wanted) {
                throw fault_in_text(given[i].offset, "`" + name + "` is given " + mixed(given),
                                    known.takes[i] == '3' ? "two of type vec3" : "arguments of one type");
            }
            wide = wanted;
        }
        if (loose && *loose != 1 && *loose != wide) {
            throw fault_in_text(called.offset, "`" + name + "` is given " + mixed(given),
                                "arguments of one type, or a float for the others");
        }
        step made;
        made.kind = step_kind::call;
        made.called = known.which;
        made.type.width = known.gives_number ? std::uint8_t{1} : wide;
        for (const argument& each : given) {
            made.from[made.count++] = each.value;
        }
        return add(made);
    }
    [[nodiscard]] std::string mixed(const std::vector<argument>& given) const {
        std::string text;
        for (const argument& each : given) {
            text += (text.empty() ? "" : ", ") + formulas::name_of(type_of(each.value));
        }
        return text;
    }

  public:
    parser(std::string_view text, const std::vector<known_name>& known) : known_(known), tokens_(text) {
        made_.text = text;
    }

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
        return std::move(made_);
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
