#include "yurvo/verify/coverage.hpp"

#include <algorithm>
#include <cmath>
#include <memory>
#include <optional>

#include "pipeline/parallel.hpp"
#include "scene/in_size.hpp"
#include "verify/cast.hpp"
#include "verify/compared_picture.hpp"
#include "verify/judge.hpp"
#include "verify/point_by_point.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr int width = 120;
constexpr int height = 75;
constexpr std::size_t least_pixels = 64;
constexpr double least_used = 4;       // of the tolerance
constexpr double least_change = 1e-10; // what is less is rounding in double

// One fitted scene, with its right picture and what is allowed at each pixel, worked out when they are asked
// for.
class shown_scene {
    scene of_;
    pixel_format held_;
    tolerance_model allowed_;
    std::shared_ptr<const seen_scene> seen_;
    std::vector<lit_pixel> right_;
    std::vector<rgb<double>> tolerance_;

    template <class Use> static void each_pixel(const Use& use) {
        pipeline::for_each_of(height, [&](int y) {
            for (int x = 0; x < width; ++x) {
                use(static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x), x, y);
            }
        });
    }

  public:
    shown_scene(const scene& of, pixel_format held, const tolerance_model& allowed)
        : of_(in_size(of, width, height)), held_(held), allowed_(allowed) {}

    [[nodiscard]] const scene& of() const { return of_; }
    [[nodiscard]] bool is_ready() const { return seen_ != nullptr; }

    void make_ready() {
        if (seen_) {
            return;
        }
        seen_ = see(of_);
        constexpr std::size_t pixels = static_cast<std::size_t>(width) * height;
        right_.resize(pixels);
        tolerance_.resize(pixels);
        const point_painter painter(of_, {}, seen_, {{}, allowed_.unit_at_vertices});
        const caster casts(of_, allowed_);
        each_pixel([&](std::size_t i, int x, int y) {
            right_[i] = painter.at(x, y);
            tolerance_[i] = casts.at(x + 0.5, y + 0.5).tolerance;
        });
    }

    struct effect {
        std::size_t shown = 0; // pixels
        bool any = false;
    };
    effect of_mistake(mistake which) {
        make_ready();
        const point_painter painter(of_, {which}, seen_, {{}, allowed_.unit_at_vertices});
        std::vector<std::uint8_t> found(right_.size());
        each_pixel([&](std::size_t i, int x, int y) {
            const lit_pixel pixel = painter.at(x, y);
            const bool background = seen_->visible.triangles[seen_->visible.index(x, y)] ==
                                    pipeline::visibility::nothing; // which no shader writes
            const rgb<double> wrong = background ? pixel.color : written_by(pixel.color, which);
            const double alpha = pixel.alpha;
            const rgb<double>& right = right_[i].color;
            const double used = std::max(judge_as(held_, wrong, right, tolerance_[i]).used,
                                         std::abs(alpha - right_[i].alpha) * 0x1p23);
            const rgb<double> off = as_compared(wrong) - as_compared(right);
            const bool apart = std::max({std::abs(off.r), std::abs(off.g), std::abs(off.b),
                                         std::abs(alpha - right_[i].alpha)}) > least_change;
            found[i] = static_cast<std::uint8_t>((used >= least_used ? 2 : 0) + (apart ? 1 : 0));
        });
        effect result;
        for (const std::uint8_t each : found) {
            result.shown += each >= 2 ? 1U : 0U;
            result.any = result.any || each != 0;
        }
        return result;
    }

    // What an encoded picture ends at shows no difference beyond.
    [[nodiscard]] rgb<double> as_compared(const rgb<double>& color) const {
        if (held_ == pixel_format::floats) {
            return color;
        }
        return {std::clamp(color.r, 0.0, 1.0), std::clamp(color.g, 0.0, 1.0), std::clamp(color.b, 0.0, 1.0)};
    }

    // What comes of a colour where its curve was left out, or applied twice.
    [[nodiscard]] rgb<double> written_by(const rgb<double>& color, mistake which) const {
        if (!holds_encoded_floats(held_) || !is_of_codes(which)) {
            return color;
        }
        const auto each = [&](double linear) { return with_curve_mistaken(linear, which, held_); };
        return {each(color.r), each(color.g), each(color.b)};
    }
};

} // namespace

coverage coverage_of(const std::vector<check_unit>& units, pixel_format held, const tolerance_model& allowed,
                     const std::vector<mistake>& only) {
    std::vector<shown_scene> scenes;
    scenes.reserve(units.size());
    for (const check_unit& unit : units) {
        scenes.emplace_back(unit.asked, held, allowed);
    }
    coverage result;
    for (const mistake_entry& entry : all_mistakes()) {
        if (!only.empty() && std::find(only.begin(), only.end(), entry.which) == only.end()) {
            continue;
        }
        if (is_of_codes(entry.which) &&
            !(holds_encoded_floats(held) &&
              (entry.which == mistake::encode_missing || entry.which == mistake::encode_twice))) {
            continue;
        }
        bool changes = false;
        std::optional<std::string> shown;
        // Scenes that are at hand first, then those that are known to show it.
        std::vector<std::size_t> order(units.size());
        for (std::size_t i = 0; i < order.size(); ++i) {
            order[i] = i;
        }
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            const auto rank = [&](std::size_t i) {
                const bool known = std::find(entry.scenes.begin(), entry.scenes.end(), units[i].scene_name) !=
                                   entry.scenes.end();
                return (scenes[i].is_ready() ? 0 : 2) + (known ? 0 : 1);
            };
            return rank(a) < rank(b);
        });
        for (const std::size_t i : order) {
            if (shown || !applies(entry.which, scenes[i].of())) {
                continue;
            }
            const auto effect = scenes[i].of_mistake(entry.which);
            changes = changes || effect.any;
            if (effect.shown >= least_pixels) {
                shown = units[i].scene_name;
            }
        }
        if (!changes) {
            continue;
        }
        result.could.push_back(entry.which);
        if (shown) {
            result.shown.push_back(entry.which);
            result.where.push_back(*shown);
        } else {
            result.unseen.push_back(entry.which);
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
