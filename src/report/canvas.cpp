#include "report/canvas.hpp"

#include <stdexcept>
#include <string_view>

#include <cairo-ft.h>
#include <ft2build.h>
#include FT_FREETYPE_H

#include "embedded_font.hpp"
#include "yurvo/report/fonts.hpp"

namespace yurvo::inline v0_1::report {

std::string_view text_font() { return embedded_font()[0].bytes; }

namespace {

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
    [[nodiscard]] cairo_font_face_t* face(weight font_weight) const {
        return cairo_faces_[static_cast<std::size_t>(font_weight)];
    }
};

} // namespace

canvas::canvas(int width, int height)
    : width_(width),
      height_(height),
      pixels_(static_cast<std::size_t>(width) * static_cast<std::size_t>(height)),
      surface_(cairo_image_surface_create_for_data(reinterpret_cast<unsigned char*>(pixels_.data()), // NOLINT
                                                   CAIRO_FORMAT_RGB24, width, height, width * 4)),
      cairo_(cairo_create(surface_)) {}

canvas::~canvas() {
    cairo_destroy(cairo_);
    cairo_surface_destroy(surface_);
}

void canvas::box(double x, double y, double width, double height, const tone& color, double radius) {
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

void canvas::disc(double x, double y, double radius, const tone& color) {
    cairo_new_path(cairo_);
    cairo_arc(cairo_, x, y, radius, 0, 2 * pi);
    cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
    cairo_fill(cairo_);
}

void canvas::line(const std::vector<std::pair<double, double>>& points, double thickness, const tone& color,
                  double dashes) {
    cairo_new_path(cairo_);
    for (const auto& [x, y] : points) {
        cairo_line_to(cairo_, x, y);
    }
    const double pattern[] = {dashes, dashes};
    cairo_set_dash(cairo_, pattern, dashes > 0 ? 2 : 0, 0);
    cairo_set_line_width(cairo_, thickness);
    cairo_set_line_join(cairo_, CAIRO_LINE_JOIN_ROUND);
    cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
    cairo_stroke(cairo_);
}

void canvas::clip(double x, double y, double width, double height) {
    cairo_save(cairo_);
    cairo_rectangle(cairo_, x, y, width, height);
    cairo_clip(cairo_);
}

void canvas::lift_clip() { cairo_restore(cairo_); }

void canvas::choose(double size, weight font_weight) {
    static const fonts loaded;
    cairo_set_font_face(cairo_, loaded.face(font_weight));
    cairo_set_font_size(cairo_, size);
}

double canvas::text_width(const std::string& text) const {
    cairo_text_extents_t extents;
    cairo_text_extents(cairo_, text.c_str(), &extents);
    return extents.x_advance;
}

double canvas::width_of(const std::string& words, double size, weight font_weight) {
    choose(size, font_weight);
    return text_width(words);
}

void canvas::text(double x, double y, std::string words, double size, weight font_weight, const tone& color,
                  double most, bool right) {
    choose(size, font_weight);
    while (size > 9 && text_width(words) > most) {
        size -= 0.5;
        cairo_set_font_size(cairo_, size);
    }
    if (text_width(words) > most) {
        while (!words.empty() && text_width(words + "…") > most) {
            // A whole letter at a time, however many bytes it has.
            while (words.size() > 1 && (static_cast<unsigned char>(words.back()) & 0xC0U) == 0x80U) {
                words.pop_back();
            }
            words.pop_back();
        }
        words += "…";
    }
    cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
    cairo_move_to(cairo_, right ? x - text_width(words) : x, y);
    cairo_show_text(cairo_, words.c_str());
}

void canvas::text_centred(double x, double y, const std::string& words, double size, weight font_weight,
                          const tone& color) {
    choose(size, font_weight);
    cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
    cairo_move_to(cairo_, x - text_width(words) / 2, y);
    cairo_show_text(cairo_, words.c_str());
}

void canvas::text_upwards(double x, double y, const std::string& words, double size, weight font_weight,
                          const tone& color) {
    choose(size, font_weight);
    cairo_set_source_rgb(cairo_, color.r, color.g, color.b);
    cairo_save(cairo_);
    cairo_translate(cairo_, x, y);
    cairo_rotate(cairo_, -pi / 2);
    cairo_move_to(cairo_, -text_width(words) / 2, 0);
    cairo_show_text(cairo_, words.c_str());
    cairo_restore(cairo_);
}

void canvas::pixel(int x, int y, const rgb<float>& color) {
    const auto code = [](float value) { return static_cast<std::uint32_t>(code_of(value)); };
    pixels_[static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x)] =
        code(color.r) << 16U | code(color.g) << 8U | code(color.b);
}

void canvas::fill(const picture& from) {
    begin_pixels();
    for (int y = 0; y < height_; ++y) {
        for (int x = 0; x < width_; ++x) {
            pixel(x, y, from.color(x, y));
        }
    }
    end_pixels();
}

picture canvas::finished() const {
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

} // namespace yurvo::inline v0_1::report
