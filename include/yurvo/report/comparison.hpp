// comparison: two pictures and their difference, in words and as a sheet.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/comparison.hpp"

namespace yurvo::report {

/// Two pictures by what they are called.
struct compared_pictures {
    std::string first_name, second_name;
    const picture& first;
    const picture& second;
};

std::string comparison_text(const compared_pictures& compared, const study::comparison& found);
picture comparison_sheet(const compared_pictures& compared, const study::comparison& found);

} // namespace yurvo::report
