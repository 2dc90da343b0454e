// What a claim's formulas take out of what a check can see, by what they give.
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/written_colors.hpp"
#include "yurvo/formula/evaluate.hpp"
#include "yurvo/numeric/functions.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

using inputs = std::vector<formulas::components>;

formulas::components three(const vec3<double>& of) { return {of.x, of.y, of.z, 0}; }

// A point with the normal up, the light and the eye at angles to it on either side, so far away.
inputs lit_from(double light_degrees, double eye_degrees, double distance,
                const std::vector<formulas::named_number>& numbers) {
    using enum formulas::input;
    const double to_light = radians(light_degrees);
    const double to_eye = radians(eye_degrees);
    const vec3<double> up{0, 1, 0};
    const vec3<double> lamp{std::sin(to_light), std::cos(to_light), 0};
    const vec3<double> viewer{-std::sin(to_eye), std::cos(to_eye), 0};
    inputs all(formulas::input_count, formulas::components{0.5, 0.5, 0.5, 0.5});
    const auto set = [&](formulas::input which, const formulas::components& to) {
        all[formulas::index_of(which)] = to;
    };
    set(n, three(up));
    set(l, three(lamp));
    set(v, three(viewer));
    set(h, three(normalize(lamp + viewer)));
    set(r, three(2 * dot(up, lamp) * up - lamp));
    set(position, {0, 0, 0, 0});
    set(eye, three(3.0 * viewer));
    set(axis, three(viewer));
    set(light, {1, 1, 1, 0});
    set(light_color, {1, 1, 1, 0});
    set(coefficients, {1, 0.3, 0.2, 0});
    set(d, {distance, 0, 0, 0});
    set(range, {100, 0, 0, 0});
    set(cos_theta, {1, 0, 0, 0});
    set(cos_inner, {0.9, 0, 0, 0});
    set(cos_outer, {0.7, 0, 0, 0});
    set(inner, {0.45, 0, 0, 0});
    set(outer, {0.8, 0, 0, 0});
    set(exponent, {2, 0, 0, 0});
    set(shininess, {8, 0, 0, 0});
    set(pi, {yurvo::pi, 0, 0, 0});
    set(front, {1, 0, 0, 0});
    for (const formulas::named_number& each : numbers) {
        formulas::components values{};
        for (std::size_t i = 0; i < each.values.size() && i < values.size(); ++i) {
            values[i] = each.values[i];
        }
        all.push_back(values);
    }
    return all;
}

constexpr double nothing = 1e-9;

// What does not parse is told where it is read.
std::optional<formulas::formula_set> parsed_formulas(const shader_program& of) {
    try {
        return formulas::parse_all(of.formulas, of.numbers);
    } catch (const formulas::fault_in_text&) {
        return std::nullopt;
    }
}

double color_given_by(const formulas::formula_set& parsed, double value, std::size_t component = 0) {
    inputs all = lit_from(0, 20, 2, parsed.numbers);
    all[formulas::index_of(formulas::input::c)] = {value, value, value, 0};
    return formulas::evaluate(*parsed[slot::color], all)[component];
}

// Whether a color formula encodes twice, with what the stage does after it, by the curve or by a power that
// stands for it.
bool encodes_twice(const formulas::formula_set& parsed, const shader_program& of, std::size_t component) {
    constexpr double powers_apart = 0.03; // 1/2.2 for the curve, twice, is up to 0.02 away
    const std::array<double, 4> linear{0.02, 0.1, 0.3, 0.6};
    const auto code_of = [&](double value) {
        return as_written(of, color_given_by(parsed, value, component));
    };
    if (std::all_of(linear.begin(), linear.end(), [&](double value) {
            return std::abs(code_of(value) - srgb_encoded(srgb_encoded(value))) < powers_apart;
        })) {
        return true;
    }
    // Behind a tone curve: by how steep it is in the dark, as the power 1/2.2 of that power, or as the
    // display's curve of it, where that is as steep as 0.27; and by a number that only the display's curve
    // has.
    constexpr double dark = 1e-4;
    constexpr double steps_apart = 0.02;
    const double here = code_of(dark);
    const double there = code_of(4 * dark);
    const double power = here > 0 && there > 0 ? std::log(there / here) / std::log(4.0) : 1;
    const bool of_curve = of.output == output_kind::srgb && std::abs(power - 0.27) < 2 * steps_apart;
    const bool written =
        of.output != output_kind::linear && of.formulas[slot::color].find("1.055") != std::string::npos;
    return std::abs(power - 1 / (2.2 * 2.2)) < steps_apart || of_curve || written;
}

double given_by(const formulas::formula_set& parsed, slot where, double light_degrees, double eye_degrees,
                double distance) {
    return formulas::evaluate(*parsed[where],
                              lit_from(light_degrees, eye_degrees, distance, parsed.numbers))[0];
}

double within_cone(const formulas::formula_set& parsed, double theta) {
    inputs all = lit_from(0, 20, 2, parsed.numbers);
    all[formulas::index_of(formulas::input::cos_theta)][0] = std::cos(theta);
    return formulas::evaluate(*parsed[slot::penumbra], all)[0];
}

// Whether what is brighter comes out darker in a component: what is above the brightest begins again at 0.
bool wraps(const formulas::formula_set& parsed, std::size_t component) {
    constexpr int steps_in_one = 20;
    constexpr int brightest = 4;
    double before = color_given_by(parsed, 0, component);
    for (int step = 1; step <= brightest * steps_in_one; ++step) {
        const double here = color_given_by(parsed, static_cast<double>(step) / steps_in_one, component);
        if (here < before - nothing) {
            return true;
        }
        before = here;
    }
    return false;
}

} // namespace

bool lets_light_through(const shader_program& of) {
    const std::optional<formulas::formula_set> parsed = parsed_formulas(of);
    return parsed && parsed->has(slot::diffuse) && given_by(*parsed, slot::diffuse, 180, 20, 2) > nothing;
}

bool changes_what_is_bright(const shader_program& of) {
    const std::optional<formulas::formula_set> parsed = parsed_formulas(of);
    constexpr double bright = 4;
    return parsed && parsed->has(slot::color) && color_given_by(*parsed, bright) != bright;
}

std::vector<std::pair<std::string, std::string>> mistakes_in_formulas(const shader_program& of) {
    std::vector<std::pair<std::string, std::string>> found;
    const std::optional<formulas::formula_set> all = parsed_formulas(of);
    if (!all) {
        return found;
    }
    const formulas::formula_set& parsed = *all;
    const auto of_slot = [&](slot where, double light_degrees, double eye_degrees, double distance) {
        return given_by(parsed, where, light_degrees, eye_degrees, distance);
    };
    if (parsed.has(slot::diffuse) &&
        (of_slot(slot::diffuse, 120, 20, 2) < -nothing || of_slot(slot::diffuse, 180, 20, 2) < -nothing)) {
        found.emplace_back("diffuse", "cosine-not-clamped");
    }
    // The light a little behind the surface, the eye where a highlight would be.
    if (parsed.has(slot::specular) &&
        (of_slot(slot::specular, 100, 60, 2) > nothing || of_slot(slot::specular, 100, 80, 2) > nothing)) {
        found.emplace_back("specular", "specular-on-unlit-side");
    }
    const auto in_a_component = [](auto&& holds) { return holds(0U) || holds(1U) || holds(2U); };
    if (parsed.has(slot::color) &&
        in_a_component([&](std::size_t component) { return encodes_twice(parsed, of, component); })) {
        found.emplace_back("color", "encode-twice");
    }
    if (parsed.has(slot::color) &&
        in_a_component([&](std::size_t component) { return wraps(parsed, component); })) {
        found.emplace_back("color", "output-wraps");
    }
    constexpr double near_the_axis = 0.1; // radians; the cone of these inputs is of 0.45 and 0.8
    constexpr double outside = 1.2;
    if (parsed.has(slot::penumbra) &&
        within_cone(parsed, outside) > within_cone(parsed, near_the_axis) + nothing) {
        found.emplace_back("penumbra", "cone-inner-outer-swapped");
    }
    if (parsed.has(slot::falloff)) {
        const std::array<double, 3> at{of_slot(slot::falloff, 0, 0, 0.5), of_slot(slot::falloff, 0, 0, 4),
                                       of_slot(slot::falloff, 0, 0, 64)};
        // What ends at a reach is told close by, where a window is open: 1 / d is 1000 there.
        constexpr double close = 0.001;
        const double here = of_slot(slot::falloff, 0, 0, close) * close;
        const double behind = of_slot(slot::falloff, 0, 0, 2 * close) * 2 * close;
        const bool in_a_window =
            parsed.uses(formulas::input::range) && here > 0.01 && std::abs(behind - here) < here * 0.001;
        if (at[0] == at[1] && at[1] == at[2]) {
            found.emplace_back("falloff", "falloff-missing");
        } else if (in_a_window || (std::abs(at[1] * 4 - at[0] * 0.5) < nothing &&
                                   std::abs(at[2] * 64 - at[1] * 4) < nothing)) {
            found.emplace_back("falloff", "falloff-not-squared");
        }
    }
    return found;
}

} // namespace yurvo::inline v0_1::program
