// comparison: two pictures and their difference, in words and as a sheet.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/verify/check.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// Two pictures by what they are called.
struct compared_pictures {
    std::string first_name, second_name; ///< what each picture is called
    const picture& first;                ///< the one taken as right
    const picture& second;               ///< of the same size
};

/// The figures, in words.
std::string comparison_text(const compared_pictures& compared, const study::comparison& found);
/// Whether a program's whole picture holds against the second method, by the tolerance of `check`.
std::string held_text(const verify::check_result& held);
/// Both pictures, their difference and the figures.
picture comparison_sheet(const compared_pictures& compared, const study::comparison& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
