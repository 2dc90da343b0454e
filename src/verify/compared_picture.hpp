// compared_picture: a picture that was found, the scene that it shows, and how hypotheses of what was drawn
// fit it.
#pragma once

#include <array>
#include <cstddef>
#include <memory>
#include <string>
#include <vector>

#include "verify/fine_codes.hpp"
#include "verify/point_by_point.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::inline v0_1::verify {

struct pixel_place {
    int x = 0, y = 0;
};

// A factor with three decimals.
std::string factor_text(double factor);

// At most so many of the places, evenly from all.
std::vector<pixel_place> some_of(const std::vector<pixel_place>& from, std::size_t most);

// How a hypothesis fits: the pixels that are off, and the residual.
struct fit {
    std::size_t off = 0;
    double residual = 0; // root mean square in codes, each pixel's cut at most_off
};

struct compared_picture {
    scene the_scene; // in the picture's size
    const picture& found;
    pixel_format held;
    tolerance_model allowed;
    const renderer& right_renderer;
    std::shared_ptr<const seen_scene> seen;
    picture right;
    bool with_alpha = true;
    std::vector<unsigned char> edge; // pixels where an object's edge is near: they are not compared
    std::vector<pixel_place> compared;
    std::vector<pixel_place> samples; // those that tell hypotheses apart; empty until choose_samples()
    double tolerance = 0;             // codes; where each place has its own, the one in the middle
    // Of a driver's floats: what the second method allows at each place, as check does, in codes by channel;
    // empty where one tolerance holds for all.
    std::vector<std::array<float, 3>> allowed_codes;
    double noise = 0;            // codes, of one pixel
    double room_of_suspects = 0; // codes that a driver's picture may be off a mistaken one, at the least
    std::vector<std::string> remarks;
    // Whether suspects end cosines at 1 as well as at 0 (`saturate`), which shows where a vector is too long.
    bool cosines_end_at_one = false;

    // Of a driver's floats about so many pixels are compared, since a ray is cast at each.
    static constexpr std::size_t usual_by_driver = 64'000;
    std::size_t most_by_driver = usual_by_driver;

    compared_picture(const scene& drawn, const picture& found, pixel_format held,
                     const tolerance_model& allowed, const renderer& right,
                     std::size_t by_driver_at_most = usual_by_driver);

    void choose_samples();

    [[nodiscard]] point_painter painter(const mistake_set& wrong) const;
    [[nodiscard]] codes found_at(const pixel_place& at) const;
    [[nodiscard]] lit_pixel right_at(const pixel_place& at) const;
    // The largest difference of a channel that is compared, in codes.
    [[nodiscard]] double off_by(const codes& a, const codes& b) const;
    // Whether they are farther apart than that place is allowed.
    [[nodiscard]] bool is_off(const pixel_place& at, const codes& a, const codes& b, double times = 1,
                              bool suspected = false) const;
    // The pixels that are not compared, by row.
    [[nodiscard]] std::vector<pixel_place> edges() const;
    // So many pixels may be off for no reason but rounding.
    [[nodiscard]] std::size_t scattered() const;
    // Of a driver's few pixels that are off, those that no border within a sub-pixel step explains: what
    // check counts.
    [[nodiscard]] std::size_t off_beyond_borders(std::size_t off) const;
    // Over all compared pixels, in parallel.
    [[nodiscard]] fit fit_of_right(double exposure) const;
    [[nodiscard]] fit fit_of(const suspect& candidate, const std::vector<pixel_place>& places,
                             bool in_parallel) const;

    // Floats that a driver made.
    [[nodiscard]] bool by_driver() const;

  private:
    void fit_size();
    void look_at_alpha();
    void mark_edges();
    void choose_compared();
    void measure_noise();
    void allow_as_check_does();
    [[nodiscard]] std::uint32_t object_at(std::uint32_t triangle) const;
    template <class Hypothesis>
    fit measure(const std::vector<pixel_place>& places, Hypothesis&& hypothesis, bool in_parallel,
                double times = 1, bool suspected = false) const;
};

// Beyond this a pixel is simply off; how far does not matter.
constexpr double most_off = 32;

} // namespace yurvo::inline v0_1::verify
