// text: how numbers and lines are written for people.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/report/sheet.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

// Broken between words into lines of at most 110 columns; those after the first begin with `indent` spaces.
std::string wrapped(std::string_view text, std::size_t indent);
// A name, padded to a width, and what is said of it, wrapped.
std::string labelled(std::string_view name, std::string_view says, std::size_t width = 12);
// `523,776`
std::string grouped(std::uint64_t number);
// Three significant digits, as a person would write them.
std::string digits(double value);
// `(0.56, 0.38, 0.18)`
std::string triple(const rgb<double>& color, int precision);
std::string triple(const rgb<float>& color, int precision);

inline panel picture_panel(std::string title, std::string note, picture image) {
    panel result;
    result.title = std::move(title);
    result.note = std::move(note);
    result.image = std::move(image);
    return result;
}
// b − a, with the scale of its colours.
panel difference_panel(std::string title, const picture& a, const picture& b, double scale);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
