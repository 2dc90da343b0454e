#include "yurvo/verify/check.hpp"

#include <algorithm>
#include <limits>
#include <optional>

#include "scene/in_size.hpp"
#include "verify/check_relations.hpp"
#include "verify/expectations.hpp"
#include "verify/judge.hpp"
#include "verify/looked_at.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Of formulas it is asked whether they can be decided at all, in the size of the relations: at steps and
// borders of cones either value is right, and those are lines.
constexpr int least_share_decided = 25;

} // namespace

std::vector<check_unit> units_of(const reference_scene& reference) {
    std::vector<check_unit> units;
    const std::vector<model_kind> models =
        reference.models.empty() ? std::vector{reference.scene.shading.model} : reference.models;
    for (const model_kind model : models) {
        for (const rate at : reference.rates) {
            if (model == model_kind::cel && at != rate::fragment) {
                continue;
            }
            check_unit unit{reference.name,
                            (reference.models.empty() ? "" : std::string(name_of(model)) + ", ") +
                                std::string(name_of(at)),
                            reference.scene, &reference};
            unit.asked.shading.model = model;
            unit.asked.shading.rate = at;
            units.push_back(std::move(unit));
        }
    }
    return units;
}

check_unit unit_of(const std::string& name, const scene& the_scene) {
    return {name, std::string(name_of(the_scene.shading.rate)), the_scene, nullptr};
}

namespace {

// `name: fitted so; and so`
std::string fitting_line(const std::string& name, const fitted_scene& fitted) {
    std::string line = name + ": " + (fitted.fitted ? "" : "skipped; " + fitted.skipped);
    for (const std::string& change : fitted.changes) {
        line += (&change == &fitted.changes.front() && fitted.fitted ? "" : "; ") + change;
    }
    return line;
}

// The units that are left when each scene is fitted, every one once.
std::vector<check_unit> fitted_units(const renderer& by, std::vector<check_unit> units) {
    std::vector<check_unit> result;
    for (check_unit& unit : units) {
        const fitted_scene fitted = by.fit(unit.asked);
        if (!fitted.fitted) {
            continue;
        }
        if (!(*fitted.fitted == unit.asked)) {
            const std::string name = unit.scene_name;
            unit = unit_of(name, *fitted.fitted);
        }
        const auto same = std::find_if(result.begin(), result.end(), [&](const check_unit& entry) {
            return entry.scene_name == unit.scene_name && entry.asked == unit.asked;
        });
        if (same == result.end()) {
            result.push_back(std::move(unit));
        } else if (unit.reference != nullptr) { // the same scene, of which more is known
            *same = std::move(unit);
        }
    }
    return result;
}

void tell_fitting(const renderer& by, const std::string& name, const scene& the_scene,
                  std::vector<std::string>& lines) {
    const fitted_scene fitted = by.fit(the_scene);
    if (!fitted.fitted || !fitted.changes.empty()) {
        lines.push_back(fitting_line(name, fitted));
    }
}

} // namespace

std::vector<check_unit> units_for(const renderer& by, const reference_scene& reference,
                                  std::vector<std::string>& lines) {
    tell_fitting(by, reference.name, reference.scene, lines);
    return fitted_units(by, units_of(reference));
}

std::vector<check_unit> units_for(const renderer& by, const std::string& name, const scene& the_scene,
                                  std::vector<std::string>& lines) {
    tell_fitting(by, name, the_scene, lines);
    return fitted_units(by, {unit_of(name, the_scene)});
}

namespace {

void add(std::vector<check_result>& to, const check_unit& unit, check_result result,
         const std::string& name) {
    result.name = unit.variant + ", " + name;
    result.scene = unit.scene_name;
    to.push_back(std::move(result));
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
                        [&](const expectation& expected) { return concerns(expected, unit.asked); }));
}

const std::string by_rays = "whole picture by cast rays";

// On how many pixels of a small picture rounding leaves a formula so undecided that a wrong picture could
// hide: by more than two codes of 255.
std::size_t undecided_pixels(pixel_tolerances& of) {
    of.find_all();
    std::size_t count = 0;
    for (int y = 0; y < of.of().view.height; ++y) {
        for (int x = 0; x < of.of().view.width; ++x) {
            const cast_color& cast = of.at(x, y);
            const auto wide = [](double value, double tolerance) {
                constexpr double two_codes = 2;
                const double code = code_at(value, pixel_format::srgb_codes);
                return !(code_at(value + tolerance, pixel_format::srgb_codes) - code <= two_codes &&
                         code - code_at(value - tolerance, pixel_format::srgb_codes) <= two_codes);
            };
            count += wide(cast.color.r, cast.tolerance.r) || wide(cast.color.g, cast.tolerance.g) ||
                             wide(cast.color.b, cast.tolerance.b)
                         ? 1U
                         : 0U;
        }
    }
    return count;
}

// Fails a result where that is so on too many.
void require_decided(check_result& result, pixel_tolerances& of) {
    const std::size_t undecided = undecided_pixels(of);
    const std::size_t pixels = static_cast<std::size_t>(relation_width) * relation_height;
    const std::size_t most = pixels / least_share_decided;
    if (undecided <= most) {
        return;
    }
    result.passed = false;
    result.measured = {static_cast<double>(undecided)};
    result.tolerance = static_cast<double>(most);
    result.used = static_cast<double>(undecided) / result.tolerance;
    result.remark +=
        "; on " + std::to_string(undecided) + " of " + std::to_string(pixels) +
        " pixels rounding alone may change what is given by more than two codes, which is too many to "
        "tell right from wrong (" +
        std::to_string(most) + " are allowed)";
}

// How often a formula of the scene's own gives NaN or infinity: what was being evaluated is black, and right
// for no one.
check_result hold_finite(const scene& the_scene, pixel_tolerances& of) {
    draw_statistics statistics;
    (void)built_in_renderer().draw(the_scene, {}, &statistics);
    check_result result;
    result.kind = "formula";
    result.expected = {0};
    std::uint64_t all = 0;
    for (std::size_t i = 0; i < statistics.not_finite.size(); ++i) {
        if (statistics.not_finite[i] > 0) {
            result.remark += (result.remark.empty() ? "`" : ", `") +
                             std::string(formulas::slot_list[i].name) + "` gave none " +
                             std::to_string(statistics.not_finite[i]) + " times";
        }
        all += statistics.not_finite[i];
    }
    if (all == 0) {
        result.remark = "no formula gives NaN or infinity anywhere in the picture";
    }
    result.measured = {static_cast<double>(all)};
    result.used = all == 0 ? 0 : std::numeric_limits<double>::infinity();
    result.passed = all == 0;
    result.because = "Where a formula gives NaN or infinity the picture is black; that must be nowhere.\n";
    require_decided(result, of);
    return result;
}

// The same of a C++ model that the scene names.
check_result hold_decided(pixel_tolerances& of) {
    check_result result;
    result.kind = "model";
    result.expected = {0};
    result.measured = {0};
    result.passed = true;
    result.remark = "what the model gives is known to two codes nearly everywhere";
    result.because =
        "Where rounding alone may change a pixel by more than two codes, no wrong picture is told from a "
        "right one; that may be on one pixel in 25.\n";
    require_decided(result, of);
    return result;
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
    // What rounding alone explains; for relations, with what the subject is allowed.
    std::optional<pixel_tolerances> by_rounding;
    const auto rounding = [&]() -> pixel_tolerances& {
        return by_rounding ? *by_rounding
                           : by_rounding.emplace(in_size(unit.asked, relation_width, relation_height),
                                                 tolerance_model{});
    };
    if (known && unit.asked.formulas.any()) {
        add(results, unit, hold_finite(unit.asked, rounding()), "formulas give numbers");
    }
    if (known && unit.asked.shading.own.model != nullptr) {
        add(results, unit, hold_decided(rounding()), "the model is decided");
    }
    const scene small = in_size(unit.asked, small_width, small_height);
    if (known) {
        add(results, unit, hold_against_second_method(small, by.draw(small), held, allowed), by_rays);
    }
    if (held != pixel_format::floats) {
        return results;
    }
    const known_model model = known ? known_model::yes : known_model::no;
    for (check_result& related : allowed == tolerance_model{}
                                     ? check_relations(rounding(), by, model, allowed)
                                     : check_relations(small, by, model, allowed)) {
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

} // namespace yurvo::inline v0_1::verify

namespace yurvo::inline v0_1 {

std::string check_report::failures() const {
    std::string text;
    for (const verify::check_result& result : checks) {
        if (!result.passed) {
            text += result.scene + ": " + result.name + ": " + std::to_string(result.used) +
                    " of the tolerance, at pixel (" + std::to_string(result.x) + ", " +
                    std::to_string(result.y) + "); " + result.remark + "\n";
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

} // namespace yurvo::inline v0_1
