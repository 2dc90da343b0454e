#include "verify/judge.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

std::vector<double> components(const rgb<double>& color) { return {color.r, color.g, color.b}; }
std::vector<double> components(const rgb<double>& color, double alpha) {
    return {color.r, color.g, color.b, alpha};
}

verdict judge(const rgb<double>& found, const rgb<double>& expected, const rgb<double>& tolerance) {
    verdict worst;
    const auto component = [&](double a, double b, double allowed) {
        const double off = std::abs(a - b);
        const bool told = off <= std::numeric_limits<double>::max() && !std::isnan(allowed);
        const double used = off == 0 ? 0
                            : told   ? off / std::max(allowed, std::numeric_limits<double>::min())
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

double code_at(double linear, pixel_format held) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    return 255 * (held == pixel_format::linear_codes ? kept : srgb_encoded(kept));
}

namespace {

double code_tolerance(double linear, double tolerance, pixel_format held) {
    const double code = code_at(linear, held);
    // Encoded floats are not rounded; the curve's power costs a few dozen roundings of 255.
    const double rounding = holds_encoded_floats(held) ? 0.02 : 1;
    return rounding +
           std::max(code_at(linear + tolerance, held) - code, code - code_at(linear - tolerance, held));
}

} // namespace

verdict judge_as(pixel_format held, const rgb<double>& found, const rgb<double>& expected,
                 const rgb<double>& tolerance) {
    if (held == pixel_format::floats) {
        return judge(found, expected, tolerance);
    }
    const auto codes = [&](const rgb<double>& c) {
        return rgb<double>{code_at(c.r, held), code_at(c.g, held), code_at(c.b, held)};
    };
    return judge(codes(found), codes(expected),
                 {code_tolerance(expected.r, tolerance.r, held),
                  code_tolerance(expected.g, tolerance.g, held),
                  code_tolerance(expected.b, tolerance.b, held)});
}

check_result wrong_size(const scene& the_scene, const picture& found) {
    check_result result;
    result.kind = "second-method";
    result.measured = {static_cast<double>(found.width), static_cast<double>(found.height)};
    result.expected = {static_cast<double>(the_scene.view.width), static_cast<double>(the_scene.view.height)};
    result.used = std::numeric_limits<double>::infinity();
    result.remark = "the picture has another size than the scene's view";
    return result;
}

bool same_size(const scene& the_scene, const picture& found) {
    return found.width == the_scene.view.width && found.height == the_scene.view.height;
}

} // namespace yurvo::inline v0_1::verify
