// canvas: what sheets and plots are drawn on: shapes, text in the font that comes with the program, pixels.
#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include <cairo.h>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/picture.hpp"

namespace yurvo::inline v0_1::report {

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

enum class weight { regular, semibold };

class canvas {
    int width_, height_;
    std::vector<std::uint32_t> pixels_;
    cairo_surface_t* surface_;
    cairo_t* cairo_;

  public:
    canvas(int width, int height);
    canvas(const canvas&) = delete;
    canvas& operator=(const canvas&) = delete;
    ~canvas();

    void box(double x, double y, double width, double height, const tone& color, double radius = 0);
    void disc(double x, double y, double radius, const tone& color);
    // Through all points; `dashes` long and short in pixels, 0 for a whole line. Nothing is drawn outside the
    // clip.
    void line(const std::vector<std::pair<double, double>>& points, double thickness, const tone& color,
              double dashes = 0);
    // Lines are cut at a box from here on, until it is lifted.
    void clip(double x, double y, double width, double height);
    void lift_clip();

    // Text whose baseline begins at (x, y); made smaller, down to 9 pixels, and then cut, to fit a width.
    // Aligned right where `right` says so, x being its end.
    void text(double x, double y, std::string words, double size, weight font_weight, const tone& color,
              double most, bool right = false);
    // Text around a place.
    void text_centred(double x, double y, const std::string& words, double size, weight font_weight,
                      const tone& color);
    // The same, running upwards.
    void text_upwards(double x, double y, const std::string& words, double size, weight font_weight,
                      const tone& color);
    [[nodiscard]] double width_of(const std::string& words, double size, weight font_weight);

    // A picture's pixel, linear, straight onto the canvas, between begin_pixels() and end_pixels().
    void pixel(int x, int y, const rgb<float>& color);
    void begin_pixels() { cairo_surface_flush(surface_); }
    void end_pixels() { cairo_surface_mark_dirty(surface_); }

    // A whole picture, the same size as the canvas.
    void fill(const picture& from);

    [[nodiscard]] picture finished() const;

  private:
    void choose(double size, weight font_weight);
    [[nodiscard]] double text_width(const std::string& text) const;
};

} // namespace yurvo::inline v0_1::report
