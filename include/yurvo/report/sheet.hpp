// sheet: pictures side by side with their names, what is to be said of them, and the scale of their colours.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/pixel_format.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// A picture with its title.
struct panel {
    std::string title;            ///< above it
    std::string note;             ///< a line below; may be empty
    std::optional<picture> image; ///< linear; shrunk to fit, never enlarged beyond 4 times
    std::optional<double> scale;  ///< of a signed difference: what the ends of its colours mean
    std::vector<std::pair<std::string, std::string>> table; ///< instead of a picture: what and how much
    std::optional<std::array<int, 2>> mark = std::nullopt;  ///< a pixel of the picture, to be ringed
};

/// Pictures side by side under one title.
struct sheet {
    std::string title;         ///< at the top
    std::string subtitle;      ///< below it, smaller
    std::vector<panel> panels; ///< in reading order
    int columns = 3;           ///< panels in a row, at least 1
};

/// The sheet at a width in pixels, as high as it needs to be; encoded as a PNG it has the colours that are
/// meant.
picture render(const sheet& the_sheet, int width = 1280);

/// A signed difference b − a in luminance as colours: blue where b is darker, amber where it is brighter,
/// full at ±scale; scale ≥ 0, and at 0 nothing is coloured. Both pictures have the same size.
picture difference_colors(const picture& a, const picture& b, double scale);

/// A picture as one can show it that holds its colours so: within 0 and 1 where they are encoded or whole
/// codes.
picture as_held(picture of, pixel_format held);

/// The greatest magnitude that difference_colors would have to show; with a `share` below 1 the one that this
/// share of the pixels that differ stays within, since a few that are far off leave the others dark.
double luminance_range(const picture& a, const picture& b, double share = 1);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
