// What a check found, for the one who reads why it failed.
#pragma once

#include <sstream>
#include <string>
#include <vector>

#include "yurvo/verify/check.hpp"

namespace yurvo::testing {

inline std::string told(const verify::check_result& result) {
    std::ostringstream text;
    text.precision(9);
    const auto numbers = [&](const char* what, const std::vector<double>& values) {
        text << ", " << what;
        for (const double value : values) {
            text << ' ' << value;
        }
    };
    text << result.name << " at (" << result.x << ", " << result.y << ")";
    numbers("measured", result.measured);
    numbers("expected", result.expected);
    text << ", tolerance " << result.tolerance << "; " << result.remark;
    return text.str();
}

} // namespace yurvo::testing
