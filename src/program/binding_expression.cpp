#include "program/binding_expression.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "yurvo/formula/evaluate.hpp"

namespace yurvo::inline v0_1::program {

namespace {

bool in_name(char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_'; }

bool is_swizzle(std::string_view text) {
    const auto all_of = [&](std::string_view letters) {
        return text.find_first_not_of(letters) == std::string_view::npos;
    };
    return !text.empty() && text.size() <= 4 && (all_of("xyzw") || all_of("rgba"));
}

// How far a quantity reaches that begins there: names, dots and brackets.
std::size_t end_of_quantity(const std::string& text, std::size_t at) {
    while (at < text.size()) {
        if (in_name(text[at]) || (text[at] == '.' && at + 1 < text.size() && in_name(text[at + 1]))) {
            ++at;
        } else if (text[at] == '[') {
            const std::size_t close = text.find(']', at);
            if (close == std::string::npos) {
                return at;
            }
            at = close + 1;
        } else {
            break;
        }
    }
    return at;
}

// The quantity, and the swizzle that may follow it.
std::pair<quantity, std::string> read_quantity(const std::string& text, const source_location& where) {
    const std::size_t dot = text.find_last_of('.');
    const std::string last = dot == std::string::npos ? "" : text.substr(dot + 1);
    if (is_swizzle(last)) {
        try {
            return {parse_quantity(text.substr(0, dot), where), "." + last};
        } catch (const error&) { // a number of one's own may be called `x`
            return {parse_quantity(text, where), ""};
        }
    }
    return {parse_quantity(text, where), ""};
}

// Where the primary expression that begins there ends: a number, a name, a call or brackets, and swizzles.
std::size_t end_of_primary(const std::string& text, std::size_t at) {
    while (at < text.size() && (in_name(text[at]) || text[at] == '.')) {
        ++at;
    }
    if (at < text.size() && text[at] == '(') {
        int depth = 0;
        do {
            depth += text[at] == '(' ? 1 : text[at] == ')' ? -1 : 0;
            ++at;
        } while (at < text.size() && depth > 0);
        while (at < text.size() && (text[at] == '.' || in_name(text[at]))) {
            ++at;
        }
    }
    return at;
}

value_of_quantity product(const value_of_quantity& a, const value_of_quantity& b) {
    const auto size = static_cast<std::size_t>(a.rows);
    const bool matrix = b.kind == quantity_kind::matrix;
    value_of_quantity result{std::vector<double>(matrix ? size * size : size, 0.0), a.rows,
                             matrix ? quantity_kind::matrix : b.kind};
    for (std::size_t column = 0; column < (matrix ? size : 1); ++column) {
        for (std::size_t row = 0; row < size; ++row) {
            for (std::size_t k = 0; k < size; ++k) {
                result.numbers[size * column + row] +=
                    a.numbers[size * k + row] * b.numbers[size * column + k];
            }
        }
    }
    return result;
}

// One expression with numbers in the places of its quantities.
class evaluation {
    const binding_expression& of_;
    const source_location& where_;
    std::vector<value_of_quantity> values_; // of q0, q1, ...

    [[noreturn]] void fail(const std::string& wrong, const std::string& right) const {
        throw error(where_, "in `= " + of_.written + "`: " + wrong, right);
    }
    std::string add(value_of_quantity value) {
        values_.push_back(std::move(value));
        return "q" + std::to_string(values_.size() - 1);
    }
    // The value that a text is the name of; null for any other text.
    [[nodiscard]] const value_of_quantity* named(std::string_view text) const {
        if (text.size() < 2 || text[0] != 'q' ||
            text.find_first_not_of("0123456789", 1) != std::string_view::npos) {
            return nullptr;
        }
        const auto index = static_cast<std::size_t>(std::stoul(std::string(text.substr(1))));
        return index < values_.size() ? &values_[index] : nullptr;
    }
    static std::string trimmed(const std::string& text) {
        const std::size_t first = text.find_first_not_of(" \t\n");
        return first == std::string::npos ? ""
                                          : text.substr(first, text.find_last_not_of(" \t\n") - first + 1);
    }

    // Products of matrices, from the left; in brackets first.
    std::string without_matrices(std::string text) {
        for (std::size_t at = 0; at < text.size(); ++at) {
            if (text[at] != 'q' || (at > 0 && in_name(text[at - 1]))) {
                continue;
            }
            std::size_t end = at + 1;
            while (end < text.size() && in_name(text[end])) {
                ++end;
            }
            const value_of_quantity* matrix = named(text.substr(at, end - at));
            if (matrix == nullptr || matrix->kind != quantity_kind::matrix) {
                continue;
            }
            const std::size_t times = text.find_first_not_of(" \t\n", end);
            if (times == std::string::npos || text[times] != '*') {
                continue; // the whole, perhaps
            }
            const std::size_t begin = std::min(text.find_first_not_of(" \t\n", times + 1), text.size());
            const std::size_t close = end_of_primary(text, begin);
            const value_of_quantity left = *matrix;
            const value_of_quantity right = value_of(text.substr(begin, close - begin));
            if (right.numbers.size() != left.numbers.size() &&
                right.numbers.size() != static_cast<std::size_t>(left.rows)) {
                fail("a matrix of " + std::to_string(left.rows) + " columns is multiplied with " +
                         std::to_string(right.numbers.size()) + " numbers",
                     "vec4(POINT, 1.0) or vec4(DIRECTION, 0.0), or a matrix of that size");
            }
            const std::string name = add(product(left, right));
            text = text.substr(0, at) + name + text.substr(close);
            --at; // it may be a matrix again
        }
        return text;
    }

  public:
    evaluation(const binding_expression& of, const source_location& where,
               std::vector<value_of_quantity> values)
        : of_(of), where_(where), values_(std::move(values)) {}

    value_of_quantity value_of(const std::string& given) {
        std::string text = trimmed(without_matrices(given));
        while (text.size() > 2 && text.front() == '(' && end_of_primary(text, 0) == text.size() &&
               text.back() == ')') {
            text = trimmed(text.substr(1, text.size() - 2));
        }
        if (const value_of_quantity* whole = named(text)) {
            return *whole;
        }
        std::vector<formulas::known_name> known{{"pi", {}}};
        std::vector<formulas::components> inputs{{pi}};
        quantity_kind kind = quantity_kind::number;
        for (std::size_t i = 0; i < values_.size(); ++i) {
            const value_of_quantity& value = values_[i];
            if (value.kind == quantity_kind::matrix || value.numbers.empty() || value.numbers.size() > 4) {
                continue;
            }
            known.push_back(
                {"q" + std::to_string(i), {static_cast<std::uint8_t>(value.numbers.size()), false}});
            formulas::components components{};
            std::copy(value.numbers.begin(), value.numbers.end(), components.begin());
            inputs.push_back(components);
            kind = kind == quantity_kind::number ? value.kind : kind;
        }
        try {
            const formulas::expression parsed = formulas::parse(text, known);
            const formulas::components result = formulas::evaluate(parsed, inputs);
            return {{result.begin(), result.begin() + parsed.type().width}, parsed.type().width, kind};
        } catch (const formulas::fault_in_text& fault) {
            const value_of_quantity* value = named(fault.unknown);
            if (value != nullptr && value->kind == quantity_kind::matrix) {
                fail("a matrix stands where no product is", "MATRIX * vec4(...), or MATRIX * MATRIX");
            }
            fail(value != nullptr ? "a quantity of " + std::to_string(value->numbers.size()) + " numbers"
                                  : fault.wrong,
                 value != nullptr ? "one to four numbers" : fault.right);
        }
    }
};

} // namespace

binding_expression parse_binding_expression(const std::string& written, const source_location& where) {
    static const std::vector<std::string_view> beginnings{"object",  "view",   "ambient", "material",
                                                          "shading", "lights", "numbers"};
    binding_expression result;
    result.written = written;
    for (std::size_t at = 0; at < written.size();) {
        if (!in_name(written[at]) || std::isdigit(static_cast<unsigned char>(written[at])) != 0) {
            const bool number = std::isdigit(static_cast<unsigned char>(written[at])) != 0;
            std::size_t end = at + 1;
            while (number && end < written.size() && (in_name(written[end]) || written[end] == '.')) {
                ++end;
            }
            result.text += written.substr(at, end - at);
            at = end;
            continue;
        }
        std::size_t end = at;
        while (end < written.size() && in_name(written[end])) {
            ++end;
        }
        const std::string word = written.substr(at, end - at);
        const bool dotted = end < written.size() && (written[end] == '.' || written[end] == '[');
        const bool swizzled = at > 0 && written[at - 1] == '.';
        if (!dotted || swizzled ||
            std::find(beginnings.begin(), beginnings.end(), word) == beginnings.end()) {
            result.text += word;
            at = end;
            continue;
        }
        end = end_of_quantity(written, at);
        auto [known, swizzle] = read_quantity(written.substr(at, end - at), where);
        result.text += "q" + std::to_string(result.quantities.size()) + swizzle;
        result.quantities.push_back(std::move(known));
        at = end;
    }
    if (result.text.find_first_not_of(" \t\n") == std::string::npos) {
        throw error(where, "there is nothing after the `=`", "an expression of quantities");
    }
    return result;
}

value_of_quantity evaluate(const binding_expression& wanted, int each, const quantity_context& in,
                           const source_location& where) {
    std::vector<value_of_quantity> values;
    bool lacking = false; // a light that is not there, or has no such property
    for (const quantity& each_quantity : wanted.quantities) {
        values.push_back(evaluate(each_quantity, each, in, where));
        lacking = lacking || (each_quantity.each && !is_there(each_quantity, each, in));
    }
    value_of_quantity result = evaluation(wanted, where, std::move(values)).value_of(wanted.text);
    for (double& number : result.numbers) {
        if (std::isfinite(number)) {
            continue;
        }
        if (!lacking) {
            throw error(where, "`= " + wanted.written + "` is not finite in this scene",
                        "an expression that is finite for every light that it is given");
        }
        number = 0;
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
