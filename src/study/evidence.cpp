#include "yurvo/study/evidence.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <string>
#include <utility>

#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::study {

namespace {

constexpr int small_width = 320;
constexpr int small_height = 200;
constexpr std::size_t few_scenes = 3;
constexpr double most_pixels = 2560.0 * 1600; // of a page's picture: its layers are many
constexpr std::size_t most_explained = 5;
constexpr int frames = 5; // that a cost is the median of

// A unit that stands for its scene: the first that did not hold, or the first.
struct chosen_unit {
    const verify::check_unit* unit = nullptr;
    bool failed = false;
};

bool has_all_rates(const scene& of) { return possible_rates(of).size() == 3; }

worked_pixel work(const scene& of, const std::optional<picture>& found, pixel_format held, int x, int y) {
    worked_pixel made{x, y, verify::explain(of, x, y, built_in_renderer()), std::nullopt};
    if (found) {
        made.found = find_pixel(made.right, *found, x, y, held);
    }
    return made;
}

// Of some scenes: the mistakes that only the other reference scenes show could be held too, and hide there.
void add_what_others_show(verify::coverage& of, const renderer& by) {
    std::vector<std::string> lines;
    const verify::coverage all = verify::coverage_of(all_units(by, lines), by.format(), by.tolerance());
    for (const verify::mistake each : all.could) {
        if (std::find(of.could.begin(), of.could.end(), each) == of.could.end()) {
            of.could.push_back(each);
            of.unseen.push_back(each);
        }
    }
}

} // namespace

bool scene_evidence::passed() const {
    return std::all_of(checks.begin(), checks.end(),
                       [](const verify::check_result& each) { return each.passed; });
}

evidence gather(evidence_request request, const renderer& by, const program_renderer* program) {
    evidence made;
    made.fitted = std::move(request.fitted);
    made.repeat = frames;
    const auto tell = [&](const std::string& what) {
        if (request.tell) {
            request.tell(what);
        }
    };
    if (request.all && program != nullptr) {
        tell("which mistakes such a program could hold");
        made.covered = cover(request.checks.units, by, made.fitted);
    }
    std::map<std::string, chosen_unit> units;
    std::vector<std::string> order;
    for (const verify::check_unit& unit : request.checks.units) {
        if (units.emplace(unit.scene_name, chosen_unit{&unit, false}).second) {
            order.push_back(unit.scene_name);
        }
    }
    const auto stands_for_its_scene = [&](const verify::check_unit& unit) {
        const auto of = units.find(unit.scene_name);
        if (of != units.end() && !of->second.failed) {
            of->second = {&unit, true};
        }
    };
    if (request.run) {
        made.run = std::move(*request.run);
        for (const verify::check_unit& unit : request.failed) {
            stands_for_its_scene(unit);
        }
    } else {
        request.checks.tell = request.tell;
        request.checks.failed = [&](const verify::check_unit& unit, const picture& /*found*/) {
            stands_for_its_scene(unit);
        };
        made.run = run_checks(request.checks, by);
        if (program != nullptr) {
            hold_precision(*program, made.run);
        }
    }
    made.verdict = verdict_of(made.run, made.covered ? &*made.covered : nullptr);
    made.all = request.all;
    if (!made.covered && request.checks.finished == nullptr) {
        tell("which mistakes these scenes would show");
        made.covered = verify::coverage_of(request.checks.units, by.format(), by.tolerance());
        if (program != nullptr) {
            add_what_others_show(*made.covered, by);
        }
    }
    const bool has_subject = program != nullptr || request.checks.finished != nullptr;
    const pixel_format held =
        request.checks.finished != nullptr ? request.checks.finished_format : by.format();
    const tolerance_model allowed = request.checks.finished != nullptr ? tolerance_model{} : by.tolerance();
    // The worst first: those are the ones that are looked into.
    std::map<std::string, double> used;
    for (const verify::check_result& each : made.run.results) {
        used[each.scene] = std::max(used[each.scene], each.used);
    }
    std::stable_sort(order.begin(), order.end(), [&](const std::string& a, const std::string& b) {
        const bool a_failed = units[a].failed;
        const bool b_failed = units[b].failed;
        return a_failed != b_failed ? a_failed : a_failed && used[a] > used[b];
    });
    made.held = held;
    std::size_t diagnosed = 0;
    for (const std::string& name : order) {
        tell("drawing " + name);
        const chosen_unit& chosen = units[name];
        scene_evidence one;
        one.of = {name, chosen.unit->asked};
        one.of.scene.expects.clear();
        if (order.size() > 1) {
            one.of.scene.view.width = small_width;
            one.of.scene.view.height = small_height;
        }
        view& page_view = one.of.scene.view;
        const double pixels = static_cast<double>(page_view.width) * page_view.height;
        const bool large = pixels > most_pixels;
        if (large && request.checks.finished == nullptr) {
            const double smaller = std::sqrt(most_pixels / pixels);
            page_view.width = std::max(1, static_cast<int>(page_view.width * smaller));
            page_view.height = std::max(1, static_cast<int>(page_view.height * smaller));
        }
        for (const verify::check_result& each : made.run.results) {
            if (each.scene == name) {
                one.checks.push_back(each);
            }
        }
        one.used = used[name];
        one.right = draw(one.of.scene);
        if (has_subject) {
            one.found = request.checks.finished != nullptr ? *request.checks.finished : by.draw(one.of.scene);
        }
        const view& seen = one.of.scene.view;
        int x = seen.width / 2;
        int y = seen.height / 2;
        if (!one.passed() && one.found && by.claims_scene_model() && diagnosed < most_explained) {
            ++diagnosed;
            one.diagnosis = verify::diagnose(one.of.scene, *one.found, held, allowed);
            if (one.diagnosis->x >= 0) {
                x = one.diagnosis->x;
                y = one.diagnosis->y;
            }
        }
        if (one.diagnosis || order.size() <= few_scenes) {
            one.pixel = work(one.of.scene, one.found, held, x, y);
        }
        if (large && request.checks.finished != nullptr) {
            one.parts.why_not = "the picture is too large for its layers";
        } else {
            one.parts = take_apart(one.of.scene);
        }
        const bool first = name == order.front(); // it stands for many
        if (order.size() <= few_scenes || first) {
            if (has_all_rates(one.of.scene)) {
                one.rates = compare_rates(one.of, built_in_renderer());
            }
            one.layers = build_up(one.of.scene);
            one.curves = curves_of(one.of.scene);
            cost_settings settings;
            settings.repeat = frames;
            one.cost = measure_cost(one.of.scene, built_in_renderer(), settings);
        }
        if (first) {
            cost_settings settings;
            settings.repeat = 2; // of many scenes
            one.growth = measure_growth(one.of.scene, built_in_renderer(), settings);
        }
        made.scenes.push_back(std::move(one));
    }
    return made;
}

} // namespace yurvo::inline v0_1::study
