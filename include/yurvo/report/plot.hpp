// plot: curves over a number, side by side.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "yurvo/picture/picture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// A curve with its name.
struct curve {
    std::string name;                              ///< in the legend
    std::vector<std::pair<double, double>> points; ///< ascending in the first
};

/// Curves over one pair of axes.
struct plot {
    std::string title;                   ///< above it
    std::string across, up;              ///< what the axes measure
    double across_most = 1, up_most = 1; ///< both begin at 0; curves are cut at the top
    std::vector<curve> curves;           ///< in the legend's order
    std::string nothing;                 ///< what is said where there are none
};

/// Side by side on one sheet of 1280x800 pixels, each with its names below it. `notes` stand under all of
/// them.
picture render(const std::string& title, const std::string& subtitle, const std::vector<plot>& plots,
               const std::vector<std::string>& notes);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
