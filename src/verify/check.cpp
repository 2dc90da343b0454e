#include "yurvo/verify/check.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include <oneapi/tbb/parallel_for.h>

#include "yurvo/scene/names.hpp"
#include "yurvo/verify/cast.hpp"
#include "yurvo/verify/relations.hpp"

namespace yurvo::verify {

namespace {

constexpr int small_width = 320;
constexpr int small_height = 200;
constexpr double right_share = 0.5; // of the tolerance: what a right picture may use
// After that many in a row of pixels the picture is wrong whatever the borders say, and they are not asked any
// more.
constexpr std::size_t most_off_places = 4;
constexpr double steps_per_pixel = 256; // corners are snapped to these
// Alpha lies between 0 and 1 and is rounded once: twice unit roundoff, so that right ones stay below half.
constexpr double unit_of_alpha = 0x1p-23;

std::vector<double> components(const rgb<double>& color) { return {color.r, color.g, color.b}; }
std::vector<double> components(const rgb<double>& color, double alpha) {
    return {color.r, color.g, color.b, alpha};
}

struct verdict {
    double used = 0;      // of the tolerance, by the worst component
    double tolerance = 0; // of that component
};

// NaN uses all the tolerance there is, and more.
verdict judge(const rgb<double>& found, const rgb<double>& expected, const rgb<double>& tolerance) {
    verdict worst;
    const auto component = [&](double a, double b, double allowed) {
        const double off = std::abs(a - b);
        const double used = off == 0 ? 0
                            : off <= std::numeric_limits<double>::max()
                                ? off / std::max(allowed, std::numeric_limits<double>::min())
                                : std::numeric_limits<double>::infinity();
        if (used >= worst.used) {
            worst = {used, allowed};
        }
    };
    component(found.r, expected.r, tolerance.r);
    component(found.g, expected.g, tolerance.g);
    component(found.b, expected.b, tolerance.b);
    return worst;
}

check_result wrong_size(const scene& asked, const picture& found) {
    check_result result;
    result.kind = "second-method";
    result.measured = {static_cast<double>(found.width), static_cast<double>(found.height)};
    result.expected = {static_cast<double>(asked.view.width), static_cast<double>(asked.view.height)};
    result.used = std::numeric_limits<double>::infinity();
    result.remark = "the picture has another size than the scene's view";
    return result;
}

bool same_size(const scene& asked, const picture& found) {
    return found.width == asked.view.width && found.height == asked.view.height;
}

} // namespace

namespace {

// What one row of a picture comes to.
struct row_verdict {
    verdict worst{-1, 0};
    int x = 0;
    std::vector<double> measured, expected;
    std::size_t at_borders = 0;
    std::size_t off_places = 0; // pixels that no border excuses
};

row_verdict judge_row(const caster& casts, const picture& found, int y) {
    row_verdict row;
    for (int x = 0; x < found.width; ++x) {
        const rgb<double> color(found.color(x, y));
        const double alpha = found.alpha(x, y);
        const auto judge_against = [&](const cast_color& cast) {
            verdict one = judge(color, cast.color, cast.tolerance);
            const double off_alpha = std::abs(alpha - cast.alpha) / unit_of_alpha;
            if (!(off_alpha <= 1)) {
                one = {std::max(one.used, off_alpha), unit_of_alpha};
            }
            return one;
        };
        const cast_color cast = casts.at(x + 0.5, y + 0.5);
        const verdict one = judge_against(cast);
        if (!(one.used <= right_share) && row.off_places < most_off_places) {
            const std::vector<cast_color> near = casts.around(x + 0.5, y + 0.5, 1.0 / steps_per_pixel);
            const bool agreed = std::any_of(near.begin(), near.end(), [&](const cast_color& other) {
                return judge_against(other).used <= right_share;
            });
            if (agreed) {
                ++row.at_borders;
                continue;
            }
            row.off_places += one.used <= 1 ? 0U : 1U;
        }
        if (one.used > row.worst.used) {
            row.worst = one;
            row.x = x;
            row.measured = components(color, alpha);
            row.expected = components(cast.color, cast.alpha);
        }
    }
    return row;
}

} // namespace

check_result hold_against_second_method(const scene& drawn, const picture& found) {
    if (!same_size(drawn, found)) {
        return wrong_size(drawn, found);
    }
    const caster casts(drawn);
    std::vector<row_verdict> rows(static_cast<std::size_t>(found.height));
    oneapi::tbb::parallel_for(0, found.height, [&](int y) {
        rows[static_cast<std::size_t>(y)] = judge_row(casts, found, y);
    });
    check_result result;
    result.kind = "second-method";
    result.used = -1;
    std::size_t at_borders = 0;
    for (std::size_t y = 0; y < rows.size(); ++y) {
        row_verdict& row = rows[y];
        at_borders += row.at_borders;
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
    result.passed = result.used <= 1 && at_borders <= most;
    if (at_borders > most) {
        result.remark += ", more than " + std::to_string(most);
    }
    return result;
}

namespace {

check_result hold_expectation(const expectation& expected, const scene& asked, const picture& found) {
    if (!same_size(asked, found)) {
        check_result result = wrong_size(asked, found);
        result.kind = expected.is_ratio ? "ratio" : "expectation";
        return result;
    }
    check_result result;
    result.kind = expected.is_ratio ? "ratio" : "expectation";
    rgb<double> color(found.color(expected.x, expected.y));
    if (expected.is_ratio) {
        const rgb<double> other(found.color(expected.other_x, expected.other_y));
        color = {color.r / other.r, color.g / other.g, color.b / other.b};
    }
    const verdict one = judge(color, expected.color, expected.tolerance);
    result.x = expected.x;
    result.y = expected.y;
    result.measured = components(color);
    result.expected = components(expected.color);
    result.tolerance = one.tolerance;
    result.used = one.used;
    result.passed = one.used <= 1;
    result.remark = expected.says;
    return result;
}

} // namespace

std::vector<scene> scenes_of(const reference_scene& reference) {
    std::vector<scene> all;
    const std::vector<model_kind> models =
        reference.models.empty() ? std::vector{reference.scene.shading.model} : reference.models;
    for (const model_kind model : models) {
        for (const rate at : reference.rates) {
            if (model == model_kind::cel && at != rate::fragment) {
                continue;
            }
            scene one = reference.scene;
            one.shading.model = model;
            one.shading.rate = at;
            all.push_back(std::move(one));
        }
    }
    return all;
}

std::string variant_of(const reference_scene& reference, const scene& asked) {
    return (reference.models.empty() ? "" : std::string(name_of(asked.shading.model)) + ", ") +
           std::string(name_of(asked.shading.rate));
}

std::vector<check_result> check_reference(const reference_scene& reference, const subject& subject) {
    std::vector<check_result> results;
    for (scene asked : scenes_of(reference)) {
        const std::string variant = variant_of(reference, asked);
        const auto concerns = [&](const expectation& expected) {
            return expected.rate == asked.shading.rate && (!expected.model || *expected.model == asked.shading.model);
        };
        const bool any = std::any_of(reference.expectations.begin(), reference.expectations.end(), concerns);
        const picture found = any ? subject(asked) : picture();
        for (const expectation& expected : reference.expectations) {
            if (!concerns(expected)) {
                continue;
            }
            check_result result = hold_expectation(expected, asked, found);
            result.name = variant + ", " + expected.name;
            result.scene = reference.name;
            results.push_back(std::move(result));
        }
        asked.view.width = small_width;
        asked.view.height = small_height;
        check_result whole = hold_against_second_method(asked, subject(asked));
        whole.name = variant + ", whole picture by cast rays";
        whole.scene = reference.name;
        results.push_back(std::move(whole));
        for (check_result& related : check_relations(asked, subject)) {
            related.name = (reference.models.empty() ? "" : std::string(name_of(asked.shading.model)) + ", ") + related.name;
            related.scene = reference.name;
            results.push_back(std::move(related));
        }
    }
    return results;
}

} // namespace yurvo::verify
