#include "yurvo/verify/one_number.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <memory>
#include <optional>

#include "pipeline/parallel.hpp"
#include "verify/compared_picture.hpp"
#include "verify/looked_at.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// A number that scenes have, and how it is set in all of a scene's materials or lights.
struct number_of_scenes {
    const char* quantity;
    double low, high; // where it may lie; low > 0: looked for on a logarithmic scale
    void (*set)(scene& of, double value);
};

template <class Set> void each_material(scene& of, Set set) {
    for (named_material& each : of.materials) {
        set(each.look);
    }
}
template <class Set> void each_light(scene& of, Set set) {
    for (named_light& each : of.lights) {
        set(each.light);
    }
}

const std::vector<number_of_scenes>& numbers() {
    static const std::vector<number_of_scenes> all{
        {"material.shininess", 0.5, 1000,
         [](scene& of, double to) { each_material(of, [&](material& look) { look.shininess = to; }); }},
        {"ambient.strength", 0.001, 4, [](scene& of, double to) { of.ambient_strength = to; }},
        {"ambient.light", 0.001, 4,
         [](scene& of, double to) {
             of.ambient_color = rgb<double>(1.0);
             of.ambient_strength = to;
         }},
        {"material.specular", 0.001, 8,
         [](scene& of, double to) {
             each_material(of, [&](material& look) { look.specular = rgb<double>(to); });
         }},
        {"material.diffuse", 0.001, 8,
         [](scene& of, double to) {
             each_material(of, [&](material& look) { look.diffuse = rgb<double>(to); });
         }},
        {"material.ambient", 0.001, 8,
         [](scene& of, double to) {
             each_material(of, [&](material& look) { look.ambient = rgb<double>(to); });
         }},
        {"lights[*].intensity", 0.001, 1000,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.intensity = to; }); }},
        {"lights[*].diffuse", 0.001, 8,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.diffuse = rgb<double>(to); }); }},
        {"lights[*].specular", 0.001, 8,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.specular = rgb<double>(to); }); }},
        {"lights[*].ambient", 0.001, 4,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.ambient = rgb<double>(to); }); }},
        {"lights[*].coefficients[0]", 0, 8,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.coefficients[0] = to; }); }},
        {"lights[*].coefficients[1]", 0, 8,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.coefficients[1] = to; }); }},
        {"lights[*].coefficients[2]", 0, 8,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.coefficients[2] = to; }); }},
        {"lights[*].range", 0.1, 500,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.range = to; }); }},
        {"lights[*].outer_degrees", 0.5, 90,
         [](scene& of, double to) {
             each_light(of, [&](light& lamp) { lamp.outer = std::max(radians(to), lamp.inner); });
         }},
        {"lights[*].inner_degrees", 0, 90,
         [](scene& of, double to) {
             each_light(of, [&](light& lamp) { lamp.inner = std::min(radians(to), lamp.outer); });
         }},
        {"lights[*].exponent", 0.1, 200,
         [](scene& of, double to) { each_light(of, [&](light& lamp) { lamp.exponent = to; }); }},
    };
    return all;
}

constexpr std::size_t few_compared = 5'000;
constexpr std::size_t samples_of_all = looked_at(900);
constexpr int grid = 20;       // places on the scale that are tried first
constexpr int narrowings = 56; // of the interval between two of them, by the golden section
// After so many the place on the scale is known to 3e-4 of it. With a number that is right hardly a sample is
// then off by more than so many codes; where more of them are, the number is given up.
constexpr int narrowings_at_first = 12;
constexpr double clearly_off = 3;
constexpr double most_clearly_off = 0.05;

// The pictures, with the places at which a number is looked for.
class fitting_of_numbers {
    struct one_picture {
        const wrong_picture* given;
        std::vector<pixel_place> samples;
        std::vector<codes> found;               // there
        std::shared_ptr<const seen_scene> seen; // numbers move nothing
    };
    std::vector<one_picture> pictures_;
    pixel_format held_;
    tolerance_model allowed_;

    // Calls use(codes off, of one channel) for each sample's three.
    template <class Use> void each_off(const number_of_scenes& number, double value, Use&& use) const {
        for (const one_picture& each : pictures_) {
            scene changed = each.given->of;
            number.set(changed, value);
            const point_painter painter(changed, {}, each.seen, {{}, allowed_.unit_at_vertices, nullptr});
            for (std::size_t i = 0; i < each.samples.size(); ++i) {
                const codes right = fine_codes(painter.at(each.samples[i].x, each.samples[i].y), {}, held_);
                for (std::size_t c = 0; c < 3; ++c) {
                    const double off = std::min(std::abs(right[c] - each.found[i][c]), most_off);
                    use(std::isnan(off) ? most_off : off);
                }
            }
        }
    }

    [[nodiscard]] double off_with(const number_of_scenes& number, double value) const {
        double sum = 0;
        each_off(number, value, [&](double off) { sum += off * off; });
        return sum;
    }

    [[nodiscard]] bool nearly_right_with(const number_of_scenes& number, double value) const {
        std::size_t asked = 0;
        std::size_t off_there = 0;
        each_off(number, value, [&](double off) {
            ++asked;
            off_there += off > clearly_off ? 1U : 0U;
        });
        return static_cast<double>(off_there) <= most_clearly_off * static_cast<double>(asked);
    }

    static double on_scale(const number_of_scenes& number, double share) {
        return number.low > 0 ? number.low * std::pow(number.high / number.low, share)
                              : number.low + (number.high - number.low) * share * share;
    }

    // Where least is off; nothing where that is given up, since it makes nothing right.
    [[nodiscard]] std::optional<double> best(const number_of_scenes& number, bool only_right) const {
        std::vector<double> off(grid + 1);
        for (std::size_t i = 0; i < off.size(); ++i) {
            off[i] = off_with(number, on_scale(number, static_cast<double>(i) / grid));
        }
        const auto least = static_cast<double>(std::min_element(off.begin(), off.end()) - off.begin());
        double low = std::max(0.0, (least - 1) / grid);
        double high = std::min(1.0, (least + 1) / grid);
        constexpr double golden = 0.6180339887498949;
        double a = high - golden * (high - low);
        double b = low + golden * (high - low);
        double at_a = off_with(number, on_scale(number, a));
        double at_b = off_with(number, on_scale(number, b));
        for (int i = 0; i < narrowings && high - low > 1e-12; ++i) {
            if (only_right && i == narrowings_at_first &&
                !nearly_right_with(number, on_scale(number, (low + high) / 2))) {
                return std::nullopt;
            }
            if (at_a < at_b) {
                high = b;
                b = a;
                at_b = at_a;
                a = high - golden * (high - low);
                at_a = off_with(number, on_scale(number, a));
            } else {
                low = a;
                a = b;
                at_a = at_b;
                b = low + golden * (high - low);
                at_b = off_with(number, on_scale(number, b));
            }
        }
        return on_scale(number, (low + high) / 2);
    }

    // Whether every picture is right with it, by the tolerance of the verdicts.
    [[nodiscard]] bool makes_right(const number_of_scenes& number, double value) const {
        return std::all_of(pictures_.begin(), pictures_.end(), [&](const one_picture& each) {
            scene changed = each.given->of;
            number.set(changed, value);
            const compared_picture on(changed, each.given->found, held_, allowed_, built_in_renderer(),
                                      few_compared);
            return on.fit_of_right(1).off <= std::max<std::size_t>(4, on.compared.size() / 5000);
        });
    }

  public:
    fitting_of_numbers(const std::vector<wrong_picture>& pictures, pixel_format held,
                       const tolerance_model& allowed)
        : held_(held), allowed_(allowed) {
        for (const wrong_picture& each : pictures) {
            compared_picture on(each.of, each.found, held, allowed, built_in_renderer(), few_compared);
            on.choose_samples();
            one_picture one{&each, some_of(on.samples, samples_of_all / pictures.size()), {}, on.seen};
            for (const pixel_place& at : one.samples) {
                one.found.push_back(fine_codes({rgb<double>(each.found.color(at.x, at.y)), 1}, {}, held));
            }
            pictures_.push_back(std::move(one));
        }
    }

    // The number with which all is right; nothing where there is none.
    [[nodiscard]] std::optional<needed_number> value_of(const number_of_scenes& number) const {
        // A number that changes nothing there is not looked for.
        const double low = off_with(number, on_scale(number, 0.2));
        if (low == off_with(number, on_scale(number, 0.7)) &&
            low == off_with(number, on_scale(number, 0.45))) {
            return std::nullopt;
        }
        const std::optional<double> value = best(number, true);
        // The fewest digits with which it is right, as people write numbers.
        for (int digits = 1; value && digits <= 7; ++digits) {
            const double step = std::pow(10, std::floor(std::log10(std::max(*value, 1e-9))) + 1 - digits);
            const double rounded = std::round(*value / step) * step;
            if (std::abs(rounded - *value) <= 2e-3 * std::abs(*value) && makes_right(number, rounded)) {
                return needed_number{number.quantity, rounded};
            }
        }
        return std::nullopt;
    }

    // Every number at its best, by how much is then left.
    [[nodiscard]] std::vector<needed_number> nearest() const {
        struct tried {
            needed_number number;
            double off = std::numeric_limits<double>::infinity();
        };
        std::vector<tried> all(numbers().size());
        pipeline::for_each_of(all.size(), [&](std::size_t i) {
            const number_of_scenes& number = numbers()[i];
            const double low = off_with(number, on_scale(number, 0.2));
            if (low == off_with(number, on_scale(number, 0.7)) &&
                low == off_with(number, on_scale(number, 0.45))) {
                return;
            }
            const double value = *best(number, false);
            // Three digits, as people write numbers, where that is as good.
            const double step = std::pow(10, std::floor(std::log10(std::max(value, 1e-9))) - 2);
            const double rounded = std::round(value / step) * step;
            const double exact = off_with(number, value);
            const double off = off_with(number, rounded);
            all[i] = {{number.quantity, off <= exact * 1.01 + 1e-3 ? rounded : value}, std::min(off, exact)};
        });
        std::erase_if(all, [](const tried& each) { return !std::isfinite(each.off); });
        std::stable_sort(all.begin(), all.end(),
                         [](const tried& a, const tried& b) { return a.off < b.off; });
        std::vector<needed_number> result;
        result.reserve(all.size());
        for (const tried& each : all) {
            result.push_back(each.number);
        }
        return result;
    }

    // Whether all are right as they are, but for what no number is about.
    [[nodiscard]] bool right_already() const {
        return makes_right({"", 0, 0, [](scene& /*of*/, double /*to*/) {}}, 0);
    }

    [[nodiscard]] std::vector<needed_number> run() const {
        if (right_already()) {
            return {};
        }
        std::vector<std::optional<needed_number>> found(numbers().size());
        pipeline::for_each_of(found.size(), [&](std::size_t i) { found[i] = value_of(numbers()[i]); });
        std::vector<needed_number> result;
        for (const std::optional<needed_number>& each : found) {
            if (each) {
                result.push_back(*each);
            }
        }
        return result;
    }
};

} // namespace

std::vector<needed_number> one_number_away(const std::vector<wrong_picture>& pictures, pixel_format held,
                                           const tolerance_model& allowed) {
    if (pictures.empty()) {
        return {};
    }
    return fitting_of_numbers(pictures, held, allowed).run();
}

std::vector<needed_number> nearest_numbers(const std::vector<wrong_picture>& pictures, pixel_format held,
                                           const tolerance_model& allowed) {
    return pictures.empty() ? std::vector<needed_number>{}
                            : fitting_of_numbers(pictures, held, allowed).nearest();
}

} // namespace yurvo::inline v0_1::verify
