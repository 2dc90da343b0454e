#include "report/text.hpp"

#include <algorithm>
#include <sstream>

#include <fmt/format.h>

namespace yurvo::inline v0_1::report {

std::string wrapped(std::string_view text, std::size_t indent) {
    constexpr std::size_t columns = 110;
    const auto width = [](const std::string& word) { // a character of UTF-8 may be several bytes
        return static_cast<std::size_t>(std::count_if(word.begin(), word.end(), [](char c) {
            return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U;
        }));
    };
    std::istringstream words{std::string(text)};
    std::string result;
    std::size_t at = indent;
    for (std::string word; words >> word;) {
        if (at > indent && at + 1 + width(word) > columns) {
            result += "\n" + std::string(indent, ' ');
            at = indent;
        } else if (at > indent) {
            result += ' ';
            ++at;
        }
        result += word;
        at += width(word);
    }
    return result;
}

std::string labelled(std::string_view name, std::string_view says, std::size_t width) {
    return fmt::format("  {:<{}}{}\n", name, width, wrapped(says, width + 2));
}

std::string grouped(std::uint64_t number) {
    std::string text = std::to_string(number);
    for (auto at = static_cast<std::ptrdiff_t>(text.size()) - 3; at > 0; at -= 3) {
        text.insert(static_cast<std::size_t>(at), ",");
    }
    return text;
}

std::string digits(double value) { return fmt::format("{:.3g}", value); }

std::string triple(const rgb<double>& color, int precision) {
    return fmt::format("({:.{}g}, {:.{}g}, {:.{}g})", color.r, precision, color.g, precision, color.b,
                       precision);
}
std::string triple(const rgb<float>& color, int precision) { return triple(rgb<double>(color), precision); }

panel difference_panel(std::string title, const picture& a, const picture& b, double scale) {
    panel result = picture_panel(std::move(title), "", difference_colors(a, b, scale));
    result.scale = scale;
    return result;
}

} // namespace yurvo::inline v0_1::report
