#include "yurvo/verify/check.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "pipeline/parallel.hpp"
#include "verify/cast.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/relations.hpp"

namespace yurvo::verify {

namespace {

constexpr int small_width = 320;
constexpr int small_height = 200;
constexpr double right_share = 0.5; // of the tolerance: what a right picture may use
// After that many in a row of pixels the picture is wrong whatever the borders say, and they are not asked
// any more.
constexpr std::size_t most_off_places = 4;
constexpr double steps_per_pixel = 256; // corners are snapped to these
// Where more is allowed, an edge within the snap of the subject's places makes it so.
constexpr double tolerance_away_from_edges = 0.02;
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
    double largest = 0;
    std::size_t off_places = 0; // pixels that no border excuses
    double most_on_surface = -1;
    int surface_x = 0;
};

// A linear colour as a code, not rounded, and how far that may be off: where the linear tolerance goes on the
// curve, and one code for rounding to a whole one (a right one needs half).
double code_at(double linear, pixel_format held) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    return 255 * (held == pixel_format::linear_codes ? kept : srgb_encoded(kept));
}
double code_tolerance(double linear, double tolerance, pixel_format held) {
    const double code = code_at(linear, held);
    // Encoded floats are not rounded; the curve's power costs a few dozen roundings of 255.
    const double rounding = held == pixel_format::srgb_floats ? 0.02 : 1;
    return rounding +
           std::max(code_at(linear + tolerance, held) - code, code - code_at(linear - tolerance, held));
}

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

row_verdict judge_row(const caster& casts, const picture& found, int y, pixel_format held) {
    row_verdict row;
    for (int x = 0; x < found.width; ++x) {
        const rgb<double> color(found.color(x, y));
        const double alpha = found.alpha(x, y);
        const auto judge_against = [&](const cast_color& cast) {
            verdict one = judge_as(held, color, cast.color, cast.tolerance);
            const double of_alpha = held == pixel_format::floats ? unit_of_alpha : 1.0 / 255;
            const double off_alpha = std::abs(alpha - cast.alpha) / of_alpha;
            if (!(off_alpha <= 1)) {
                one = {std::max(one.used, off_alpha), of_alpha};
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
        if (one.tolerance < tolerance_away_from_edges) {
            row.largest = std::max(row.largest, one.used * one.tolerance);
        }
        if (cast.object >= 0 && one.used > row.most_on_surface) {
            row.most_on_surface = one.used;
            row.surface_x = x;
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

check_result hold_against_second_method(const scene& drawn, const picture& found, pixel_format held,
                                        const tolerance_model& allowed) {
    if (!same_size(drawn, found)) {
        return wrong_size(drawn, found);
    }
    const caster casts(drawn, allowed);
    std::vector<row_verdict> rows(static_cast<std::size_t>(found.height));
    pipeline::for_each_of(
        found.height, [&](int y) { rows[static_cast<std::size_t>(y)] = judge_row(casts, found, y, held); });
    check_result result;
    result.kind = "second-method";
    result.used = -1;
    std::size_t at_borders = 0;
    for (std::size_t y = 0; y < rows.size(); ++y) {
        row_verdict& row = rows[y];
        at_borders += row.at_borders;
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
    result.passed = result.used <= 1 && at_borders <= most;
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
    picture made(drawn.view.width, drawn.view.height);
    pipeline::for_each_of(made.height, [&](int y) {
        for (int x = 0; x < made.width; ++x) {
            const cast_color cast = casts.at(x + 0.5, y + 0.5);
            made.set(x, y, rgb<float>(cast.color), static_cast<float>(cast.alpha));
        }
    });
    return made;
}

namespace {

check_result hold_expectation(const expectation& expected, const scene& asked, const picture& found,
                              pixel_format held) {
    YURVO_ASSERT(expected.x >= 0 && expected.y >= 0);
    check_result result;
    if (!same_size(asked, found)) {
        result = wrong_size(asked, found);
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
        const verdict one = expected.is_ratio ? judge(color, expected.color, tolerance)
                                              : judge_as(held, color, expected.color, tolerance);
        result.x = expected.x;
        result.y = expected.y;
        result.measured = components(color);
        result.expected = components(expected.color);
        result.tolerance = one.tolerance;
        result.used = one.used;
        result.passed = one.used <= 1;
        result.remark = expected.says;
        result.because = expected.because;
    }
    result.kind = expected.is_ratio ? "ratio" : "expectation";
    return result;
}

} // namespace

std::vector<check_result> hold_expectations(const scene& drawn, const picture& found, pixel_format held) {
    std::vector<check_result> results;
    std::vector<std::array<int, 2>> places;
    for (const expected_value& one : drawn.expects) {
        std::array<int, 2> pixel = one.pixel;
        std::string hidden;
        if (pixel[0] < 0) {
            const placed_pixel seen = pixel_of(drawn, one.object, one.point);
            pixel = {seen.x, seen.y};
            hidden = seen.hidden;
        }
        places.push_back(pixel);
        expectation expected;
        expected.name = one.name;
        expected.x = pixel[0];
        expected.y = pixel[1];
        expected.color = one.color;
        expected.tolerance = one.tolerance;
        expected.because = "The tolerance is the scene file's own.\n";
        if (!one.ratio_to.empty()) {
            expected.is_ratio = true;
            expected.says = "the ratio to `" + one.ratio_to + "`";
            for (std::size_t i = 0; i < results.size(); ++i) {
                if (drawn.expects[i].name == one.ratio_to) {
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
        result.name = one.name;
        results.push_back(std::move(result));
    }
    return results;
}

std::vector<check_unit> units_of(const reference_scene& reference) {
    std::vector<check_unit> units;
    const std::vector<model_kind> models =
        reference.models.empty() ? std::vector{reference.scene.shading.model} : reference.models;
    for (const model_kind model : models) {
        for (const rate at : reference.rates) {
            if (model == model_kind::cel && at != rate::fragment) {
                continue;
            }
            check_unit one{reference.name,
                           (reference.models.empty() ? "" : std::string(name_of(model)) + ", ") +
                               std::string(name_of(at)),
                           reference.scene, &reference};
            one.asked.shading.model = model;
            one.asked.shading.rate = at;
            units.push_back(std::move(one));
        }
    }
    return units;
}

check_unit unit_of(const std::string& name, const scene& given) {
    return {name, std::string(name_of(given.shading.rate)), given, nullptr};
}

namespace {

// `name: fitted so; and so`
std::string fitting_line(const std::string& name, const fitted_scene& fitted) {
    std::string line = name + ": " + (fitted.fitted ? "" : "skipped; " + fitted.skipped);
    for (const std::string& change : fitted.changes) {
        line += (&change == &fitted.changes.front() ? "" : "; ") + change;
    }
    return line;
}

// The units that are left when each scene is fitted, every one once.
std::vector<check_unit> fitted_units(const renderer& by, std::vector<check_unit> units) {
    std::vector<check_unit> made;
    for (check_unit& unit : units) {
        const fitted_scene fitted = by.fit(unit.asked);
        if (!fitted.fitted) {
            continue;
        }
        if (!(*fitted.fitted == unit.asked)) {
            const std::string name = unit.scene_name;
            unit = unit_of(name, *fitted.fitted);
        }
        const auto same = std::find_if(made.begin(), made.end(), [&](const check_unit& one) {
            return one.scene_name == unit.scene_name && one.asked == unit.asked;
        });
        if (same == made.end()) {
            made.push_back(std::move(unit));
        } else if (unit.reference != nullptr) { // the same scene, of which more is known
            *same = std::move(unit);
        }
    }
    return made;
}

void tell_fitting(const renderer& by, const std::string& name, const scene& of,
                  std::vector<std::string>& told) {
    const fitted_scene fitted = by.fit(of);
    if (!fitted.fitted || !fitted.changes.empty()) {
        told.push_back(fitting_line(name, fitted));
    }
}

} // namespace

std::vector<check_unit> units_for(const renderer& by, const reference_scene& reference,
                                  std::vector<std::string>& told) {
    tell_fitting(by, reference.name, reference.scene, told);
    return fitted_units(by, units_of(reference));
}

std::vector<check_unit> units_for(const renderer& by, const std::string& name, const scene& given,
                                  std::vector<std::string>& told) {
    tell_fitting(by, name, given, told);
    return fitted_units(by, {unit_of(name, given)});
}

namespace {

void add(std::vector<check_result>& to, const check_unit& unit, check_result result,
         const std::string& name) {
    result.name = unit.variant + ", " + name;
    result.scene = unit.scene_name;
    to.push_back(std::move(result));
}

bool concerns(const expectation& expected, const scene& asked) {
    return expected.rate == asked.shading.rate && (!expected.model || *expected.model == asked.shading.model);
}

// An expectation's tolerance is a float's; a subject of coarser arithmetic gets what it takes at that pixel.
expectation widened(const expectation& expected, const scene& asked, const tolerance_model& allowed) {
    if (allowed == tolerance_model{}) {
        return expected;
    }
    const caster casts(asked, allowed);
    expectation made = expected;
    const cast_color here = casts.at(expected.x + 0.5, expected.y + 0.5);
    if (!expected.is_ratio) {
        made.tolerance = made.tolerance * allowed.precision + here.tolerance;
        return made;
    }
    // A quotient a / b changes by (da + a / b · db) / b.
    const cast_color other = casts.at(expected.other_x + 0.5, expected.other_y + 0.5);
    const auto of_quotient = [](double a, double da, double b, double db) {
        return b > 0 ? (da + a / b * db) / b : 0;
    };
    made.tolerance =
        made.tolerance * allowed.precision +
        rgb<double>{of_quotient(here.color.r, here.tolerance.r, other.color.r, other.tolerance.r),
                    of_quotient(here.color.g, here.tolerance.g, other.color.g, other.tolerance.g),
                    of_quotient(here.color.b, here.tolerance.b, other.color.b, other.tolerance.b)};
    return made;
}

void add_expectations(std::vector<check_result>& to, const check_unit& unit, const picture& found,
                      pixel_format held, const tolerance_model& allowed) {
    if (unit.reference != nullptr) {
        for (const expectation& expected : unit.reference->expectations) {
            if (concerns(expected, unit.asked)) {
                add(to, unit,
                    hold_expectation(widened(expected, unit.asked, allowed), unit.asked, found, held),
                    expected.name);
            }
        }
    }
    for (check_result& result : hold_expectations(unit.asked, found, held)) {
        const std::string name = result.name;
        add(to, unit, std::move(result), name);
    }
}

bool expects_anything(const check_unit& unit) {
    return !unit.asked.expects.empty() ||
           (unit.reference != nullptr &&
            std::any_of(unit.reference->expectations.begin(), unit.reference->expectations.end(),
                        [&](const expectation& one) { return concerns(one, unit.asked); }));
}

const std::string by_rays = "whole picture by cast rays";

scene in_size(const scene& of, int width, int height) {
    scene made = of;
    made.view.width = width;
    made.view.height = height;
    made.expects.clear(); // their pixels are of another picture
    return made;
}

} // namespace

std::vector<check_result> check_by_drawing(const check_unit& unit, const renderer& by) {
    std::vector<check_result> results;
    const pixel_format held = by.format();
    const tolerance_model allowed = by.tolerance();
    const bool known = by.claims_scene_model();
    if (known ? expects_anything(unit) : !unit.asked.expects.empty()) {
        check_unit expected = unit;
        expected.reference = known ? unit.reference : nullptr;
        add_expectations(results, expected, by.draw(unit.asked), held, allowed);
    }
    const scene small = in_size(unit.asked, small_width, small_height);
    if (known) {
        add(results, unit, hold_against_second_method(small, by.draw(small), held, allowed), by_rays);
    }
    if (held != pixel_format::floats) {
        return results;
    }
    for (check_result& related :
         check_relations(small, by, known ? known_model::yes : known_model::no, allowed)) {
        const std::string name = related.name;
        add(results, unit, std::move(related), name);
    }
    return results;
}

std::vector<check_result> check_finished(const check_unit& unit, const picture& found, pixel_format held) {
    std::vector<check_result> results;
    add_expectations(results, unit, found, held, {});
    add(results, unit, hold_against_second_method(unit.asked, found, held), by_rays);
    return results;
}

std::vector<check_result> check_reference(const reference_scene& reference, const renderer& by) {
    std::vector<check_result> results;
    for (const check_unit& unit : units_of(reference)) {
        for (check_result& result : check_by_drawing(unit, by)) {
            results.push_back(std::move(result));
        }
    }
    return results;
}

} // namespace yurvo::verify

namespace yurvo {

std::string check_report::failures() const {
    std::string text;
    for (const verify::check_result& one : checks) {
        if (!one.passed) {
            text += one.scene + ": " + one.name + ": " + std::to_string(one.used) +
                    " of the tolerance, at pixel (" + std::to_string(one.x) + ", " + std::to_string(one.y) +
                    "); " + one.remark + "\n";
        }
    }
    return text;
}

check_report check(const scene& drawn, const renderer& by) {
    const fitted_scene fitted = by.fit(drawn);
    if (!fitted.fitted) {
        throw error({drawn.title, 0, 0}, fitted.skipped, "a scene that the renderer takes");
    }
    require_valid(*fitted.fitted);
    return {verify::check_by_drawing(verify::unit_of(drawn.title, *fitted.fitted), by)};
}

check_report check(const scene& drawn, const any_model& model) {
    return check(drawn, model_renderer("your model", model));
}

} // namespace yurvo
