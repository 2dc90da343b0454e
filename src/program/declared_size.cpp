// How many elements an array is declared with: by a number, a name for one, or what is worked out of those.
#include <algorithm>
#include <cctype>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr std::int64_t most_elements = 1'000'000; // a product of two fits
constexpr int deepest = 16;                       // of names for names and of brackets

// `a * (b + 1)` in whole numbers; nothing where it is anything else.
class whole_expression {
    const std::string& sources_;
    const std::string text_;
    std::size_t at_ = 0;
    int depth_;

    char next() {
        while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_])) != 0) {
            ++at_;
        }
        return at_ < text_.size() ? text_[at_] : '\0';
    }

    std::optional<std::int64_t> sum() {
        std::optional<std::int64_t> left = product();
        while (left && (next() == '+' || next() == '-')) {
            const bool minus = text_[at_++] == '-';
            const std::optional<std::int64_t> right = product();
            left = right ? std::optional(minus ? *left - *right : *left + *right) : std::nullopt;
        }
        return within(left);
    }
    std::optional<std::int64_t> product() {
        std::optional<std::int64_t> left = number();
        while (left && (next() == '*' || next() == '/')) {
            const bool over = text_[at_++] == '/';
            const std::optional<std::int64_t> right = number();
            left = !right || (over && *right == 0) ? std::nullopt
                                                   : within(over ? *left / *right : *left * *right);
        }
        return left;
    }
    std::optional<std::int64_t> number() {
        static const text_pattern digits(R"(^(\d{1,7})[uU]?)");
        static const text_pattern word(R"(^[A-Za-z_]\w*)");
        if (next() == '(' && depth_ < deepest) {
            ++at_;
            ++depth_;
            const std::optional<std::int64_t> inner = sum();
            --depth_;
            return next() == ')' && ++at_ != 0 ? inner : std::nullopt;
        }
        const std::string rest = text_.substr(at_);
        if (const auto found = digits.find(rest)) {
            at_ += found->parts[0].size();
            return within(std::stoi(found->text(1)));
        }
        if (const auto found = word.find(rest)) {
            at_ += found->parts[0].size();
            return value_of(found->text(0));
        }
        return std::nullopt;
    }

    static std::optional<std::int64_t> within(std::optional<std::int64_t> value) {
        return value && *value >= -most_elements && *value <= most_elements ? value : std::nullopt;
    }

    // `#define MOST 8`, `const int most = 8;`; of several the least, which all of them have room for.
    [[nodiscard]] std::optional<std::int64_t> value_of(const std::string& name) const {
        if (depth_ >= deepest) {
            return std::nullopt;
        }
        std::optional<std::int64_t> least;
        for (const std::string& pattern :
             {R"((?m)^[ \t]*#[ \t]*define[ \t]+)" + name + R"([ \t]+([^\n\\]+)$)",
              R"(\bconst\s+(?:(?:highp|mediump|lowp)\s+)?u?int\s+(?:\w+\s*=\s*[^;,]+,\s*)*)" + name +
                  R"(\s*=\s*([^;,]+)[;,])"}) {
            for (const text_pattern::match& found : text_pattern(pattern).all(sources_)) {
                const std::optional<std::int64_t> one =
                    whole_expression(sources_, found.text(1), depth_ + 1).value();
                least = one ? std::min(least.value_or(*one), *one) : least;
            }
        }
        return least;
    }

  public:
    whole_expression(const std::string& sources, std::string text, int depth)
        : sources_(sources), text_(std::move(text)), depth_(depth) {}

    std::optional<std::int64_t> value() {
        const std::optional<std::int64_t> all = sum();
        return next() == '\0' ? all : std::nullopt;
    }
};

// What stands in each pair of brackets: `[2][COUNT]`.
std::vector<std::string> sizes_in(const std::string& brackets) {
    static const text_pattern each(R"(\[([^\]]*)\])");
    std::vector<std::string> result;
    for (const text_pattern::match& found : each.all(brackets)) {
        result.push_back(found.text(1));
    }
    return result;
}

} // namespace

int declared_size(const shader_program& the_program, const std::string& name) {
    static const text_pattern called(R"(^[A-Za-z_]\w*$)");
    const std::string word = name.substr(0, name.find('['));
    if (!called.is_in(word)) {
        return 0;
    }
    const auto level = static_cast<std::size_t>(std::count(name.begin(), name.end(), '['));
    const std::string others = R"((?:\w+\s*(?:\[[^\];]*\]\s*)*,\s*)*)"; // `vec3 a, b[4], name`
    const text_pattern behind(R"((\b[A-Za-z_]\w*\s+|\}\s*))" + others + word +
                              R"(\s*((?:\[[^\];]*\]\s*)+)[,;=:])");
    const text_pattern before(R"((\b[A-Za-z_]\w*\s*)((?:\[[^\];]*\]\s*)+))" + others + word + R"(\s*[,;=])");
    std::string all;
    for (const shader_stage* stage : {&the_program.vertex, &the_program.fragment}) {
        all += without_comments(stage->source) + "\n";
    }
    std::optional<std::int64_t> least;
    for (const text_pattern* const declaration : {&behind, &before}) {
        for (const text_pattern::match& found : declaration->all(all)) {
            const std::vector<std::string> sizes = sizes_in(found.text(2));
            if (found.text(1).starts_with("return") || level >= sizes.size()) {
                continue;
            }
            const std::optional<std::int64_t> size = whole_expression(all, sizes[level], 0).value();
            if (size && *size > 0) {
                least = std::min(least.value_or(*size), *size);
            }
        }
    }
    return static_cast<int>(least.value_or(0));
}

} // namespace yurvo::inline v0_1::program
