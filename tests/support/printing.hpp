// How values are shown when a test fails.
#pragma once

#include <sstream>
#include <string>
#include <string_view>
#include <vector>

#include <doctest/doctest.h>

namespace doctest {

template <> struct StringMaker<std::vector<double>> {
    static String convert(const std::vector<double>& values) {
        std::ostringstream text;
        text.precision(9);
        for (const double value : values) {
            text << (&value == values.data() ? "" : ", ") << value;
        }
        return text.str().c_str();
    }
};

template <> struct StringMaker<std::string_view> {
    static String convert(std::string_view text) { return std::string(text).c_str(); }
};

} // namespace doctest
