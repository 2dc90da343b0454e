// A whole picture against the second method, row by row.
#include <algorithm>
#include <cmath>
#include <limits>
#include <string>

#include "pipeline/parallel.hpp"
#include "verify/cast.hpp"
#include "verify/judge.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double right_share = 0.5; // of the tolerance: what a right picture may use
// After that many in a row of pixels the picture is wrong whatever the borders say; of the rest they are
// asked about the worst only, since that is what is told.
constexpr std::size_t most_off_places = 4;
constexpr double steps_per_pixel = 256; // corners are snapped to these
// Where more is allowed, an edge within the snap of the subject's places makes it so. As a share of white.
constexpr double tolerance_away_from_edges = 0.02;
// Alpha lies between 0 and 1 and is rounded once: twice unit roundoff, so that right ones stay below half.
constexpr double unit_of_alpha = 0x1p-23;

// What one row of a picture comes to.
struct row_verdict {
    verdict worst{-1, 0};
    int x = 0;
    std::vector<double> measured, expected;
    bool off_alpha = false; // somewhere alpha is wrong and the colour is not
    bool off_color = false; // somewhere the colour is, and no border excuses it
    std::size_t at_borders = 0;
    double largest = 0;
    std::size_t off_places = 0; // pixels that no border excuses
    double most_on_surface = -1;
    int surface_x = 0;
};

std::vector<double> in_codes(const rgb<double>& color, double alpha, pixel_format held) {
    return {code_at(color.r, held), code_at(color.g, held), code_at(color.b, held), 255 * alpha};
}

// A pixel as it was judged.
struct judged_pixel {
    int x = 0;
    verdict judged;
    cast_color expected;
};

class row_judge {
    const caster& casts_;
    const picture& found_;
    const int y_;
    const pixel_format held_;
    row_verdict row_;
    std::vector<judged_pixel> unasked_; // wrong, if no border excuses them

    [[nodiscard]] verdict judge_color(int x, const cast_color& cast) const {
        return judge_as(held_, rgb<double>(found_.color(x, y_)), cast.color, cast.tolerance);
    }

    [[nodiscard]] verdict judge(int x, const cast_color& cast) const {
        verdict judged = judge_color(x, cast);
        const double of_alpha = held_ == pixel_format::floats ? unit_of_alpha : 1.0 / 255;
        const double off_alpha = std::abs(found_.alpha(x, y_) - cast.alpha) / of_alpha;
        if (!(off_alpha <= 1)) {
            const double used =
                std::isfinite(off_alpha) ? off_alpha : std::numeric_limits<double>::infinity();
            judged = {std::max(judged.used, used), of_alpha};
        }
        return judged;
    }

    // Whether one of the places around the centre is as the pixel is, by what is asked of them.
    template <class Judge> [[nodiscard]] bool is_as_around(int x, const Judge& judge_with) const {
        const std::vector<cast_color> near = casts_.around(x + 0.5, y_ + 0.5, 1.0 / steps_per_pixel);
        return std::any_of(near.begin(), near.end(),
                           [&](const cast_color& other) { return judge_with(other).used <= right_share; });
    }

    [[nodiscard]] bool border_excuses(int x) const {
        return is_as_around(x, [&](const cast_color& other) { return judge(x, other); });
    }

    [[nodiscard]] bool border_excuses_color(int x) const {
        return is_as_around(x, [&](const cast_color& other) { return judge_color(x, other); });
    }

    void count(const judged_pixel& of) {
        const verdict& judged = of.judged;
        if (!(judged.used <= 1) && !row_.off_color) {
            const bool right = judge_color(of.x, of.expected).used <= 1;
            row_.off_alpha = row_.off_alpha || right;
            row_.off_color = !right && !border_excuses_color(of.x);
        }
        const double white = held_ == pixel_format::floats ? 1 : 255;
        if (judged.tolerance < tolerance_away_from_edges * white) {
            row_.largest = std::max(row_.largest, judged.used * judged.tolerance / white);
        }
        if (of.expected.object >= 0 && judged.used > row_.most_on_surface) {
            row_.most_on_surface = judged.used;
            row_.surface_x = of.x;
        }
        if (judged.used > row_.worst.used) {
            row_.worst = judged;
            row_.x = of.x;
            // In the numbers in which they were judged: never codes beside linear values.
            const rgb<double> color(found_.color(of.x, y_));
            const double alpha = found_.alpha(of.x, y_);
            const cast_color& cast = of.expected;
            const bool floats = held_ == pixel_format::floats;
            row_.measured = floats ? components(color, alpha) : in_codes(color, alpha, held_);
            row_.expected =
                floats ? components(cast.color, cast.alpha) : in_codes(cast.color, cast.alpha, held_);
        }
    }

    void judge_pixel(int x) {
        judged_pixel pixel{x, {}, casts_.at_without_snap(x + 0.5, y_ + 0.5)};
        pixel.judged = judge(x, pixel.expected);
        if (!(pixel.judged.used <= right_share)) {
            pixel.expected = casts_.at(x + 0.5, y_ + 0.5);
            pixel.judged = judge(x, pixel.expected);
        }
        if (!(pixel.judged.used <= right_share)) {
            if (row_.off_places >= most_off_places) {
                unasked_.push_back(pixel);
                return;
            }
            if (border_excuses(x)) {
                ++row_.at_borders;
                return;
            }
            row_.off_places += pixel.judged.used <= 1 ? 0U : 1U;
        }
        count(pixel);
    }

  public:
    row_judge(const caster& casts, const picture& found, int y, pixel_format held)
        : casts_(casts), found_(found), y_(y), held_(held) {}

    row_verdict judge_all() {
        for (int x = 0; x < found_.width; ++x) {
            judge_pixel(x);
        }
        std::sort(unasked_.begin(), unasked_.end(),
                  [](const judged_pixel& a, const judged_pixel& b) { return a.judged.used > b.judged.used; });
        bool asking = true;
        for (std::size_t i = 0; i < unasked_.size(); ++i) {
            asking = asking && i < most_off_places;
            if (asking && border_excuses(unasked_[i].x)) {
                ++row_.at_borders;
                continue;
            }
            asking = false;
            count(unasked_[i]);
        }
        return std::move(row_);
    }
};

} // namespace

check_result hold_against_second_method(const scene& drawn, const picture& found, pixel_format held,
                                        const tolerance_model& allowed) {
    if (!same_size(drawn, found)) {
        return wrong_size(drawn, found);
    }
    const caster casts(drawn, allowed);
    casts.find_all_centres();
    std::vector<row_verdict> rows(static_cast<std::size_t>(found.height));
    pipeline::for_each_of(found.height, [&](int y) {
        rows[static_cast<std::size_t>(y)] = row_judge(casts, found, y, held).judge_all();
    });
    check_result result;
    result.kind = "second-method";
    result.used = -1;
    std::size_t at_borders = 0;
    bool off_alpha = false;
    bool off_color = false;
    for (std::size_t y = 0; y < rows.size(); ++y) {
        row_verdict& row = rows[y];
        at_borders += row.at_borders;
        off_alpha = off_alpha || row.off_alpha;
        off_color = off_color || row.off_color;
        result.largest = std::max(result.largest, row.largest);
        if (row.worst.used > result.used) {
            result.used = row.worst.used;
            result.tolerance = row.worst.tolerance;
            result.x = row.x;
            result.y = static_cast<int>(y);
            result.measured = std::move(row.measured);
            result.expected = std::move(row.expected);
        }
    }
    const std::size_t most = std::max<std::size_t>(1, found.pixels() / 500);
    result.remark =
        std::to_string(found.pixels()) + " pixels, " + std::to_string(at_borders) + " of them on a border";
    if (held != pixel_format::floats) {
        result.remark += "; in codes of 255";
    }
    result.passed = result.used <= 1 && at_borders <= most;
    result.by_alpha = off_alpha && !off_color && at_borders <= most;
    if (result.by_alpha) {
        result.remark += "; colours are right, alpha alone is not";
    }
    if (at_borders > most) {
        result.remark += ", more than " + std::to_string(most);
    }
    // Where a surface is seen, if anywhere: the background says little about tolerances.
    const auto surface =
        std::max_element(rows.begin(), rows.end(), [](const row_verdict& a, const row_verdict& b) {
            return a.most_on_surface < b.most_on_surface;
        });
    const bool any = surface->most_on_surface >= 0;
    const int explained_x = any ? surface->surface_x : result.x;
    const int explained_y = any ? static_cast<int>(surface - rows.begin()) : result.y;
    result.because = "At pixel (" + std::to_string(explained_x) + ", " + std::to_string(explained_y) + "):\n";
    for (const std::string& line : casts.derivation(explained_x + 0.5, explained_y + 0.5)) {
        result.because += line + "\n";
    }
    if (held != pixel_format::floats) {
        result.because +=
            "In codes: that, on the encoding's curve, and one code for rounding (a right one needs half).\n";
    }
    return result;
}

picture cast_picture(const scene& drawn) {
    const caster casts(drawn);
    picture result(drawn.view.width, drawn.view.height);
    pipeline::for_each_of(result.height, [&](int y) {
        for (int x = 0; x < result.width; ++x) {
            const cast_color cast = casts.at(x + 0.5, y + 0.5);
            result.set(x, y, rgb<float>(cast.color), static_cast<float>(cast.alpha));
        }
    });
    return result;
}

} // namespace yurvo::inline v0_1::verify
