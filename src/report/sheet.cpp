#include "yurvo/report/sheet.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <string_view>

#include <cairo-ft.h>
#include <cairo.h>
#include <ft2build.h>
#include FT_FREETYPE_H

#include <fmt/format.h>

#include "embedded_font.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::report {

namespace {

// The night of the harbour: text stands out from it, pictures more so.
struct tone {
    double r, g, b;
};
constexpr tone night{0.055, 0.078, 0.118};
constexpr tone card{0.086, 0.118, 0.169};
constexpr tone edge{0.20, 0.25, 0.33};
constexpr tone bright{0.93, 0.95, 0.97};
constexpr tone quiet{0.62, 0.69, 0.77};
constexpr tone amber{1.0, 0.72, 0.36};

// Ends of the colours of a difference, linear.
constexpr rgb<float> darker{0.05F, 0.30F, 1.0F};
constexpr rgb<float> brighter{1.0F, 0.42F, 0.06F};

constexpr double margin = 32;
constexpr double gap = 20;
constexpr double heading_height = 92;
constexpr double title_height = 30;
constexpr double note_height = 26;
constexpr double scale_height = 30;

enum class weight { regular, semibold };

// The font is in the program itself, so a sheet looks the same everywhere.
class fonts {
    FT_Library library_ = nullptr;
    FT_Face faces_[2] = {};
    cairo_font_face_t* cairo_faces_[2] = {};

  public:
    fonts() {
        if (FT_Init_FreeType(&library_) != 0) {
            throw std::runtime_error("FreeType does not start");
        }
        for (std::size_t i = 0; i < 2; ++i) {
            const std::string_view bytes = embedded_font()[i].bytes;
            if (FT_New_Memory_Face(library_, reinterpret_cast<const FT_Byte*>(bytes.data()), // NOLINT
                                   static_cast<FT_Long>(bytes.size()), 0, &faces_[i]) != 0) {
                throw std::runtime_error("the font cannot be read");
            }
            cairo_faces_[i] = cairo_ft_font_face_create_for_ft_face(faces_[i], 0);
        }
    }
    fonts(const fonts&) = delete;
    fonts& operator=(const fonts&) = delete;
    ~fonts() {
        for (std::size_t i = 0; i < 2; ++i) {
            cairo_font_face_destroy(cairo_faces_[i]);
        }
        // The faces live as long as cairo's caches may ask for them: until the program ends.
    }
    [[nodiscard]] cairo_font_face_t* face(weight of) const {
        return cairo_faces_[static_cast<std::size_t>(of)];
    }
};

class canvas {
    int width_, height_;
    std::vector<std::uint32_t> pixels_;
    cairo_surface_t* surface_;
    cairo_t* cairo_;

  public:
    canvas(int width, int height)
        : width_(width),
          height_(height),
          pixels_(static_cast<std::size_t>(width) * static_cast<std::size_t>(height)),
          surface_(
              cairo_image_surface_create_for_data(reinterpret_cast<unsigned char*>(pixels_.data()), // NOLINT
                                                  CAIRO_FORMAT_RGB24, width, height, width * 4)),
          cairo_(cairo_create(surface_)) {}
    canvas(const canvas&) = delete;
    canvas& operator=(const canvas&) = delete;
    ~canvas() {
        cairo_destroy(cairo_);
        cairo_surface_destroy(surface_);
    }

    void box(double x, double y, double width, double height, const tone& color, double radius = 0) {
        cairo_new_path(cairo_);
        if (radius > 0) {
            cairo_arc(cairo_, x + width - radius, y + radius, radius, -pi / 2, 0);
            cairo_arc(cairo_, x + width - radius, y + height - radius, radius, 0, pi / 2);
            cairo_arc(cairo_, x + radius, y + height - radius, radius, pi / 2, pi);
            cairo_arc(cairo_, x + radius, y + radius, radius, pi, 3 * pi / 2);
            cairo_close_path(cairo_);
        } else {
            cairo_rectangle(cairo_, x, y, width, height);
        }
        cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
        cairo_fill(cairo_);
    }

    [[nodiscard]] double text_width(const std::string& text) const {
        cairo_text_extents_t extents;
        cairo_text_extents(cairo_, text.c_str(), &extents);
        return extents.x_advance;
    }

    // Text whose baseline begins at (x, y); made smaller, down to 9 pixels, and then cut, to fit a width.
    // Aligned right where `right` says so, x being its end.
    void text(double x, double y, std::string words, double size, weight of, const tone& color, double most,
              bool right = false) {
        static const fonts loaded;
        cairo_set_font_face(cairo_, loaded.face(of));
        cairo_set_font_size(cairo_, size);
        while (size > 9 && text_width(words) > most) {
            size -= 0.5;
            cairo_set_font_size(cairo_, size);
        }
        if (text_width(words) > most) {
            while (!words.empty() && text_width(words + "…") > most) {
                do {
                    words.pop_back();
                } while (!words.empty() && (static_cast<unsigned char>(words.back()) & 0xC0U) == 0x80U);
            }
            words += "…";
        }
        cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
        cairo_move_to(cairo_, right ? x - text_width(words) : x, y);
        cairo_show_text(cairo_, words.c_str());
    }

    // A picture's pixel, linear, straight onto the canvas.
    void pixel(int x, int y, const rgb<float>& color) {
        const auto code = [](float value) { return static_cast<std::uint32_t>(code_of(value)); };
        pixels_[static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
                static_cast<std::size_t>(x)] = code(color.r) << 16U | code(color.g) << 8U | code(color.b);
    }
    void begin_pixels() { cairo_surface_flush(surface_); }
    void end_pixels() { cairo_surface_mark_dirty(surface_); }

    [[nodiscard]] picture finished() const {
        cairo_surface_flush(surface_);
        std::vector<std::uint8_t> codes;
        codes.reserve(pixels_.size() * 4);
        for (const std::uint32_t pixel : pixels_) {
            for (const unsigned shift : {16U, 8U, 0U}) {
                codes.push_back(static_cast<std::uint8_t>(pixel >> shift));
            }
            codes.push_back(255);
        }
        return picture_of(width_, height_, codes);
    }
};

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

cell measure(const panel& of, double width) {
    cell measured;
    if (of.image) {
        const double most = width * 0.75; // a tall picture must not push all else off the sheet
        const double factor = std::min({width / of.image->width, most / of.image->height, 4.0});
        measured.image_width = std::max(1, static_cast<int>(std::lround(of.image->width * factor)));
        measured.image_height = std::max(1, static_cast<int>(std::lround(of.image->height * factor)));
        measured.height = title_height + measured.image_height;
    } else {
        measured.height = title_height + 24 + 25 * static_cast<double>(of.table.size());
    }
    measured.height += (of.note.empty() ? 0 : note_height) + (of.scale ? scale_height : 0);
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

void draw_panel(canvas& on, const panel& of, const cell& measured, double x, double y, double width) {
    on.text(x, y + 19, of.title, 16, weight::semibold, bright, width);
    double below = y + title_height;
    if (of.image) {
        const picture shown = resized(*of.image, measured.image_width, measured.image_height);
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
        below += shown.height;
    } else {
        const double height = 24 + 25 * static_cast<double>(of.table.size());
        on.box(x, below, width, height, card, 8);
        double row = below + 29;
        for (const auto& [what, value] : of.table) {
            const double half = width * 0.56;
            on.text(x + 16, row, what, 13.5, weight::regular, quiet, half - 24);
            on.text(x + width - 16, row, value, 13.5, weight::semibold, bright, width - half - 16, true);
            row += 25;
        }
        below += height;
    }
    if (!of.note.empty()) {
        on.text(x, below + 18, of.note, 13, weight::regular, quiet, width);
        below += note_height;
    }
    if (of.scale) {
        draw_scale(on, x, std::floor(below + 7), std::floor(of.image ? measured.image_width : width),
                   *of.scale);
    }
}

} // namespace

picture render(const sheet& of, int width) {
    const int columns = std::max(1, of.columns);
    const double panel_width = std::floor((width - 2 * margin - gap * (columns - 1)) / columns);
    std::vector<cell> cells;
    std::vector<double> rows;
    for (std::size_t i = 0; i < of.panels.size(); ++i) {
        cells.push_back(measure(of.panels[i], panel_width));
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
    on.text(margin + 18, 49, of.title, 24, weight::semibold, bright, width - 2 * margin - 18);
    on.text(margin + 18, 71, of.subtitle, 14, weight::regular, quiet, width - 2 * margin - 18);
    double y = heading_height;
    for (std::size_t i = 0; i < of.panels.size(); ++i) {
        const auto column = static_cast<int>(i % static_cast<std::size_t>(columns));
        if (i > 0 && column == 0) {
            y += rows[i / static_cast<std::size_t>(columns) - 1] + gap;
        }
        draw_panel(on, of.panels[i], cells[i], margin + column * (panel_width + gap), y, panel_width);
    }
    return on.finished();
}

picture difference_colors(const picture& a, const picture& b, double scale) {
    picture made(a.width, a.height);
    for (int y = 0; y < a.height; ++y) {
        for (int x = 0; x < a.width; ++x) {
            const double off = static_cast<double>(luminance(b.color(x, y))) - luminance(a.color(x, y));
            made.set(x, y, difference_color(scale > 0 ? off / scale : 0), 1);
        }
    }
    return made;
}

double luminance_range(const picture& a, const picture& b) {
    double range = 0;
    for (int y = 0; y < a.height; ++y) {
        for (int x = 0; x < a.width; ++x) {
            const double off =
                std::abs(static_cast<double>(luminance(b.color(x, y))) - luminance(a.color(x, y)));
            range = off > range ? off : range;
        }
    }
    return range;
}

} // namespace yurvo::report
