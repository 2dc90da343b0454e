#include "yurvo/report/sheet.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include <fmt/format.h>

#include "report/canvas.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::report {

namespace {

// Ends of the colours of a difference, linear.
constexpr rgb<float> darker{0.05F, 0.30F, 1.0F};
constexpr rgb<float> brighter{1.0F, 0.42F, 0.06F};

constexpr double margin = 32;
constexpr double gap = 20;
constexpr double heading_height = 92;
constexpr double title_height = 30;
constexpr double note_height = 26;
constexpr double scale_height = 30;

// Each pixel of the smaller picture is the mean of what it covers, in linear light; enlarged pixels stay
// square.
picture resized(const picture& from, int width, int height) {
    picture to(width, height);
    for (int y = 0; y < height; ++y) {
        const double top = static_cast<double>(y) * from.height / height;
        const double bottom = static_cast<double>(y + 1) * from.height / height;
        for (int x = 0; x < width; ++x) {
            const double left = static_cast<double>(x) * from.width / width;
            const double right = static_cast<double>(x + 1) * from.width / width;
            rgb<double> sum;
            double area = 0;
            for (int j = static_cast<int>(top); j < std::min<double>(bottom, from.height); ++j) {
                const double tall = std::min<double>(bottom, j + 1) - std::max<double>(top, j);
                for (int i = static_cast<int>(left); i < std::min<double>(right, from.width); ++i) {
                    const double part = tall * (std::min<double>(right, i + 1) - std::max<double>(left, i));
                    // What is beyond display counts as it is displayed, or one bright pixel would bleed.
                    sum = sum + min(rgb<double>(from.color(i, j)), rgb<double>(1.0)) * part;
                    area += part;
                }
            }
            to.set(x, y, rgb<float>(sum * (1 / area)), 1);
        }
    }
    return to;
}

float luminance(const rgb<float>& c) { return 0.2126F * c.r + 0.7152F * c.g + 0.0722F * c.b; }

rgb<float> difference_color(double share) {
    const auto strength = static_cast<float>(std::min(1.0, std::abs(share)));
    return (share < 0 ? darker : brighter) * strength + rgb<float>(0.012F) * (1 - strength);
}

struct cell {
    int image_width = 0, image_height = 0;
    double height = 0; // of the whole panel
};

cell measure(const panel& the_panel, double width) {
    cell measured;
    if (the_panel.image) {
        const double most = width * 0.75; // a tall picture must not push all else off the sheet
        const double factor = std::min({width / the_panel.image->width, most / the_panel.image->height, 4.0});
        measured.image_width = std::max(1, static_cast<int>(std::lround(the_panel.image->width * factor)));
        measured.image_height = std::max(1, static_cast<int>(std::lround(the_panel.image->height * factor)));
        measured.height = title_height + measured.image_height;
    } else {
        measured.height = title_height + 24 + 25 * static_cast<double>(the_panel.table.size());
    }
    measured.height += (the_panel.note.empty() ? 0 : note_height) + (the_panel.scale ? scale_height : 0);
    return measured;
}

void draw_scale(canvas& on, double x, double y, double width, double scale) {
    on.begin_pixels();
    constexpr int thickness = 8;
    const int left = static_cast<int>(x);
    const int length = static_cast<int>(width);
    for (int i = 0; i < length; ++i) {
        const rgb<float> color = difference_color(2.0 * i / (length - 1) - 1);
        for (int j = 0; j < thickness; ++j) {
            on.pixel(left + i, static_cast<int>(y) + j, color);
        }
    }
    on.end_pixels();
    const std::string end = fmt::format("{:.3g}", scale);
    on.text(x, y + 23, "−" + end + " darker", 12, weight::regular, quiet, width / 2.5);
    on.text(x + width / 2 + 4, y + 23, "0", 12, weight::regular, quiet, 20, true);
    on.text(x + width, y + 23, "brighter +" + end, 12, weight::regular, quiet, width / 2.5, true);
}

void draw_ring(canvas& on, double x, double y) {
    constexpr int corners = 48;
    constexpr double radius = 11;
    std::vector<std::pair<double, double>> points;
    for (int i = 0; i <= corners; ++i) {
        const double angle = 2 * pi * i / corners;
        points.emplace_back(x + radius * std::cos(angle), y + radius * std::sin(angle));
    }
    on.line(points, 4, night);
    on.line(points, 2, bright);
}

void draw_panel(canvas& on, const panel& the_panel, const cell& measured, double x, double y, double width) {
    on.text(x, y + 19, the_panel.title, 16, weight::semibold, bright, width);
    double below = y + title_height;
    if (the_panel.image) {
        const picture shown = resized(*the_panel.image, measured.image_width, measured.image_height);
        const int left = static_cast<int>(x);
        const int top = static_cast<int>(below);
        on.box(left - 1, top - 1, shown.width + 2, shown.height + 2, edge);
        on.begin_pixels();
        for (int j = 0; j < shown.height; ++j) {
            for (int i = 0; i < shown.width; ++i) {
                on.pixel(left + i, top + j, shown.color(i, j));
            }
        }
        on.end_pixels();
        if (the_panel.mark) {
            draw_ring(on, left + ((*the_panel.mark)[0] + 0.5) * shown.width / the_panel.image->width,
                      top + ((*the_panel.mark)[1] + 0.5) * shown.height / the_panel.image->height);
        }
        below += shown.height;
    } else {
        const double height = 24 + 25 * static_cast<double>(the_panel.table.size());
        on.box(x, below, width, height, card, 8);
        double row = below + 29;
        for (const auto& [what, value] : the_panel.table) {
            const double half = width * 0.56;
            on.text(x + 16, row, what, 13.5, weight::regular, quiet, half - 24);
            on.text(x + width - 16, row, value, 13.5, weight::semibold, bright, width - half - 16, true);
            row += 25;
        }
        below += height;
    }
    if (!the_panel.note.empty()) {
        on.text(x, below + 18, the_panel.note, 13, weight::regular, quiet, width);
        below += note_height;
    }
    if (the_panel.scale) {
        draw_scale(on, x, std::floor(below + 7), std::floor(the_panel.image ? measured.image_width : width),
                   *the_panel.scale);
    }
}

} // namespace

picture render(const sheet& the_sheet, int width) {
    YURVO_ASSERT(the_sheet.columns >= 1 && width >= 1);
    const int columns = std::max(1, the_sheet.columns);
    const double panel_width = std::floor((width - 2 * margin - gap * (columns - 1)) / columns);
    std::vector<cell> cells;
    std::vector<double> rows;
    for (std::size_t i = 0; i < the_sheet.panels.size(); ++i) {
        cells.push_back(measure(the_sheet.panels[i], panel_width));
        if (i % static_cast<std::size_t>(columns) == 0) {
            rows.push_back(0);
        }
        rows.back() = std::max(rows.back(), cells.back().height);
    }
    double height = heading_height + margin;
    for (const double row : rows) {
        height += row + gap;
    }
    canvas on(width, static_cast<int>(std::ceil(height - gap + 4)));
    on.box(0, 0, width, height, night);
    on.box(margin, 30, 4, 42, amber, 2);
    on.text(margin + 18, 49, the_sheet.title, 24, weight::semibold, bright, width - 2 * margin - 18);
    on.text(margin + 18, 71, the_sheet.subtitle, 14, weight::regular, quiet, width - 2 * margin - 18);
    double y = heading_height;
    for (std::size_t i = 0; i < the_sheet.panels.size(); ++i) {
        const auto column = static_cast<int>(i % static_cast<std::size_t>(columns));
        if (i > 0 && column == 0) {
            y += rows[i / static_cast<std::size_t>(columns) - 1] + gap;
        }
        draw_panel(on, the_sheet.panels[i], cells[i], margin + column * (panel_width + gap), y, panel_width);
    }
    return on.finished();
}

picture difference_colors(const picture& a, const picture& b, double scale) {
    YURVO_ASSERT(a.width == b.width && a.height == b.height);
    YURVO_ASSERT(scale >= 0);
    picture result(a.width, a.height);
    for (int y = 0; y < a.height; ++y) {
        for (int x = 0; x < a.width; ++x) {
            const double off = static_cast<double>(luminance(b.color(x, y))) - luminance(a.color(x, y));
            result.set(x, y, difference_color(scale > 0 ? off / scale : 0), 1);
        }
    }
    return result;
}

picture as_held(picture of, pixel_format held) {
    if (held != pixel_format::floats) {
        for (float& each : of.values) {
            each = std::clamp(each, 0.0F, 1.0F);
        }
    }
    return of;
}

double luminance_range(const picture& a, const picture& b, double share) {
    std::vector<double> all;
    double range = 0;
    for (int y = 0; y < a.height; ++y) {
        for (int x = 0; x < a.width; ++x) {
            const double off =
                std::abs(static_cast<double>(luminance(b.color(x, y))) - luminance(a.color(x, y)));
            range = off > range ? off : range;
            if (share < 1 && off > 0) {
                all.push_back(off);
            }
        }
    }
    if (all.empty()) {
        return range;
    }
    const auto at = all.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(all.size() - 1));
    std::nth_element(all.begin(), at, all.end());
    return *at;
}

} // namespace yurvo::inline v0_1::report
