#include "verify/expectations.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "verify/cast.hpp"
#include "verify/judge.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// The pixel that shows a point of an object, or why none does.
struct placed_pixel {
    int x = -1, y = -1;
    std::string hidden;
};

placed_pixel pixel_of(const scene& drawn, std::size_t object, const vec3<double>& point) {
    const caster casts(drawn);
    const vec3<double> at = casts.to_world(object, point);
    const std::optional<vec3<double>> seen = casts.in_picture(at);
    if (!seen || seen->x < 0 || seen->y < 0 || seen->x >= drawn.view.width || seen->y >= drawn.view.height) {
        return {-1, -1, "the point lies outside the picture"};
    }
    const int x = static_cast<int>(seen->x);
    const int y = static_cast<int>(seen->y);
    const cast_color shown = casts.at(seen->x, seen->y);
    const cast_color centre = casts.at(x + 0.5, y + 0.5);
    const auto wanted = static_cast<std::ptrdiff_t>(object);
    if (shown.object != wanted && centre.object != wanted) {
        return {-1, -1, "something else is seen there: the point is hidden"};
    }
    return {x, y, ""};
}

} // namespace

namespace {

double pixels_of_color(const picture& found, const rgb<double>& wanted, pixel_format held) {
    const double off = held == pixel_format::floats ? 1e-3 : 0;
    double count = 0;
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < found.width; ++x) {
            const rgb<double> here(found.color(x, y));
            const auto agrees = [&](double a, double b) {
                return held == pixel_format::floats ? std::abs(a - b) <= off
                                                    : std::abs(code_at(a, held) - code_at(b, held)) <= 1;
            };
            count += agrees(here.r, wanted.r) && agrees(here.g, wanted.g) && agrees(here.b, wanted.b) ? 1 : 0;
        }
    }
    return count;
}

} // namespace

check_result hold_expectation(const expectation& expected, const scene& the_scene, const picture& found,
                              pixel_format held) {
    YURVO_ASSERT(expected.x >= 0 && expected.y >= 0);
    check_result result;
    if (!same_size(the_scene, found)) {
        result = wrong_size(the_scene, found);
    } else {
        rgb<double> color(found.color(expected.x, expected.y));
        rgb<double> tolerance = expected.tolerance;
        if (expected.is_ratio) {
            const rgb<double> other(found.color(expected.other_x, expected.other_y));
            const auto over = [](double a, double b) { return a == 0 && b == 0 ? 0 : a / b; };
            color = {over(color.r, other.r), over(color.g, other.g), over(color.b, other.b)};
            if (held != pixel_format::floats) {
                // Each of the two is a whole code: half a code up or down, as much in linear values as the
                // curve says there. A quotient a / b changes by (da + a / b · db) / b; doubled, as all
                // tolerances are.
                const auto half_code = [&](double linear) {
                    const double code = code_at(linear, held);
                    const auto decoded = [&](double at) {
                        const double share = std::clamp(at / 255, 0.0, 1.0);
                        return held == pixel_format::srgb_codes ? srgb_decoded(share) : share;
                    };
                    return std::max(decoded(code + 0.5) - linear, linear - decoded(code - 0.5));
                };
                const rgb<double> own(found.color(expected.x, expected.y));
                const auto of_codes = [&](double a, double b) {
                    return b > 0 ? 2 * (half_code(a) + a / b * half_code(b)) / b : 0;
                };
                tolerance = tolerance + rgb<double>{of_codes(own.r, other.r), of_codes(own.g, other.g),
                                                    of_codes(own.b, other.b)};
            }
        }
        if (expected.is_code) {
            // Codes that were rounded before are off by one where they are rounded again.
            tolerance = held == pixel_format::floats ? tolerance : rgb<double>(1.0);
            const auto code = [&](double linear) -> double {
                if (std::isnan(linear)) { // it is no code, though it would be written as one
                    return linear;
                }
                return held == pixel_format::floats ? code_of(static_cast<float>(linear), encoding::srgb)
                                                    : std::round(code_at(linear, pixel_format::srgb_codes));
            };
            color = {code(color.r), code(color.g), code(color.b)};
        }
        if (expected.area_of) {
            color = rgb<double>(pixels_of_color(found, *expected.area_of, held));
        }
        const verdict judged = expected.is_ratio || expected.is_code || expected.area_of
                                   ? judge(color, expected.color, tolerance)
                                   : judge_as(held, color, expected.color, tolerance);
        result.x = expected.x;
        result.y = expected.y;
        result.measured = components(color);
        result.expected = components(expected.color);
        result.tolerance = judged.tolerance;
        result.used = judged.used;
        result.passed = judged.used <= 1;
        result.remark = expected.says;
        result.because = expected.because;
    }
    result.kind = expected.is_code    ? "code"
                  : expected.is_ratio ? "ratio"
                  : expected.area_of  ? "area"
                                      : "expectation";
    return result;
}

std::vector<check_result> hold_expectations(const scene& drawn, const picture& found, pixel_format held) {
    std::vector<check_result> results;
    std::vector<std::array<int, 2>> places;
    for (const expected_value& wanted : drawn.expects) {
        std::array<int, 2> pixel = wanted.pixel;
        std::string hidden;
        if (pixel[0] < 0) {
            const placed_pixel seen = pixel_of(drawn, wanted.object, wanted.point);
            pixel = {seen.x, seen.y};
            hidden = seen.hidden;
        }
        places.push_back(pixel);
        expectation expected;
        expected.name = wanted.name;
        expected.x = pixel[0];
        expected.y = pixel[1];
        expected.color = wanted.color;
        expected.tolerance = wanted.tolerance;
        expected.because = "The tolerance is the scene file's own.\n";
        if (!wanted.ratio_to.empty()) {
            expected.is_ratio = true;
            expected.says = "the ratio to `" + wanted.ratio_to + "`";
            for (std::size_t i = 0; i < results.size(); ++i) {
                if (drawn.expects[i].name == wanted.ratio_to) {
                    expected.other_x = places[i][0];
                    expected.other_y = places[i][1];
                    hidden =
                        hidden.empty() && places[i][0] < 0 ? "the other one's place is not seen" : hidden;
                }
            }
        }
        check_result result;
        if (hidden.empty()) {
            result = hold_expectation(expected, drawn, found, held);
        } else {
            result.kind = expected.is_ratio ? "ratio" : "expectation";
            result.used = std::numeric_limits<double>::infinity();
            result.remark = hidden;
        }
        result.name = wanted.name;
        results.push_back(std::move(result));
    }
    return results;
}

bool concerns(const expectation& expected, const scene& the_scene) {
    return expected.rate == the_scene.shading.rate &&
           (!expected.model ||
            (the_scene.shading.own.name.empty() && *expected.model == the_scene.shading.model));
}

expectation widened(const expectation& expected, const scene& the_scene, const tolerance_model& allowed) {
    if (allowed == tolerance_model{}) {
        return expected;
    }
    const caster casts(the_scene, allowed);
    expectation result = expected;
    if (expected.area_of) { // corners are snapped, which its pixels allow for
        return expected;
    }
    if (expected.is_code) { // a value beside a code's border
        result.tolerance = rgb<double>(1.0);
        return result;
    }
    const cast_color here = casts.at(expected.x + 0.5, expected.y + 0.5);
    if (!expected.is_ratio) {
        result.tolerance = result.tolerance * allowed.precision + here.tolerance;
        return result;
    }
    // A quotient a / b changes by (da + a / b · db) / b.
    const cast_color other = casts.at(expected.other_x + 0.5, expected.other_y + 0.5);
    const auto of_quotient = [](double a, double da, double b, double db) {
        return b > 0 ? (da + a / b * db) / b : 0;
    };
    result.tolerance =
        result.tolerance * allowed.precision +
        rgb<double>{of_quotient(here.color.r, here.tolerance.r, other.color.r, other.tolerance.r),
                    of_quotient(here.color.g, here.tolerance.g, other.color.g, other.tolerance.g),
                    of_quotient(here.color.b, here.tolerance.b, other.color.b, other.tolerance.b)};
    return result;
}

} // namespace yurvo::inline v0_1::verify
