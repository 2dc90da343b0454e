#include "yurvo/study/check_run.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <mutex>

#include "pipeline/parallel.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/program/program_stopped.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::study {

namespace {

constexpr std::size_t most_diagnosed = 5; // scenes
constexpr std::size_t most_stopped = 3;
constexpr std::size_t few_compared = 16'000;
constexpr std::size_t all_compared = 64'000; // a whole picture of those that are diagnosed
constexpr std::size_t handful = 100; // of few pixels: where more are off, all say no more than they do
constexpr std::size_t most_for_numbers = 12; // scenes in which one number must do

bool contains(const verify::check_result& result, const std::string& part) {
    return part.empty() || result.scene.find(part) != std::string::npos ||
           result.name.find(part) != std::string::npos || result.kind.find(part) != std::string::npos;
}

verify::check_result stopped_result(const std::string& scene, const std::string& why) {
    verify::check_result result;
    result.name = "drawn by the driver";
    result.scene = scene;
    result.kind = "program";
    result.used = std::numeric_limits<double>::infinity();
    result.remark = why;
    return result;
}

// What did not hold and can be diagnosed: a scene and the picture of it.
struct failed_picture {
    std::string scene_name;
    scene of;
    picture found;
};

class runner {
    const check_request& asked_;
    const renderer& by_;
    check_run run_;
    std::vector<failed_picture> failures_;

    void tell(const std::string& what) const {
        if (asked_.tell) {
            asked_.tell(what);
        }
    }

    void tell_of(const verify::check_unit& unit) const {
        tell("checking " + unit.scene_name + ", " + unit.variant);
    }

    // The unit's picture that is kept and diagnosed.
    [[nodiscard]] failed_picture picture_of(const verify::check_unit& unit) const {
        if (asked_.finished != nullptr) {
            return {unit.scene_name, unit.asked, *asked_.finished};
        }
        scene small = unit.asked;
        small.view.width = 320;
        small.view.height = 200;
        small.expects.clear();
        return {unit.scene_name, small, by_.draw(small)};
    }

    // Whether no light reaches anything that is seen: the picture is that without lights.
    static bool is_dark(const verify::check_unit& unit) {
        if (!model_of(unit.asked).lit) {
            return false; // nor is it meant to
        }
        scene small = unit.asked;
        small.view.width = 64;
        small.view.height = 40;
        small.expects.clear();
        scene without = small;
        without.lights.clear();
        return yurvo::draw(small) == yurvo::draw(without);
    }

    void take(const verify::check_unit& unit, std::vector<verify::check_result> found) {
        if (by_.claims_scene_model() && is_dark(unit)) {
            run_.dark += found.size();
        }
        bool failed = false;
        bool drawn = true; // something that a mistake could explain
        for (verify::check_result& result : found) {
            drawn = drawn && !result.measured.empty() && std::isfinite(result.used);
            if (contains(result, asked_.only)) {
                failed = failed || !result.passed;
                run_.results.push_back(std::move(result));
            }
        }
        if (!failed) {
            return;
        }
        const bool another = failures_.empty() || failures_.back().scene_name != unit.scene_name;
        const bool diagnosed = asked_.diagnose && by_.claims_scene_model() && drawn && another &&
                               failures_.size() < most_for_numbers;
        if (diagnosed || asked_.failed) {
            failed_picture each = picture_of(unit);
            if (asked_.failed) {
                asked_.failed(unit, each.found);
            }
            if (diagnosed) {
                failures_.push_back(std::move(each));
            }
        }
    }

    void diagnose_failures() {
        const pixel_format format = asked_.finished != nullptr ? asked_.finished_format : by_.format();
        const tolerance_model allowed = asked_.finished != nullptr ? tolerance_model{} : by_.tolerance();
        // Where every colour is right there is but one thing to explain.
        const std::size_t most_mistakes = run_.fails_by_alpha() ? 1 : 2;
        for (std::size_t i = 0; i < std::min(failures_.size(), most_diagnosed); ++i) {
            const failed_picture& each = failures_[i];
            tell("looking for what explains " + each.scene_name);
            // Few pixels at first: a mistake that moves only a handful shows among all of them.
            verify::diagnosis found = verify::diagnose(each.of, each.found, format, allowed,
                                                       built_in_renderer(), few_compared, most_mistakes);
            if (found.verdict != verify::verdict_kind::mistake && found.off <= handful) {
                found = verify::diagnose(each.of, each.found, format, allowed, built_in_renderer(),
                                         all_compared, most_mistakes);
            }
            run_.diagnoses.push_back({each.scene_name, std::move(found)});
        }
        if (!failures_.empty() && run_.common_explanations().empty() && asked_.finished == nullptr) {
            tell("looking for a number that would make it right");
            std::vector<verify::wrong_picture> wrong;
            for (const failed_picture& each : failures_) {
                wrong.push_back({each.of, each.found});
            }
            run_.numbers = verify::one_number_away(wrong, format, allowed);
        }
    }

    // The units that are asked for, scene by scene: those of one scene share what rays meet.
    [[nodiscard]] std::vector<std::vector<std::size_t>> units_by_scene() const {
        std::vector<std::vector<std::size_t>> scenes;
        for (std::size_t i = 0; i < asked_.units.size(); ++i) {
            if (!asked_.only_part.holds(i)) {
                continue;
            }
            const bool same = !scenes.empty() &&
                              asked_.units[scenes.back().front()].scene_name == asked_.units[i].scene_name;
            if (!same) {
                scenes.emplace_back();
            }
            scenes.back().push_back(i);
        }
        return scenes;
    }

    // A few scenes at a time: what is not spread over threads within one, another does meanwhile.
    void run_side_by_side() {
        constexpr std::size_t at_once = 3;
        const std::vector<std::vector<std::size_t>> scenes = units_by_scene();
        std::vector<std::vector<verify::check_result>> found(asked_.units.size());
        std::atomic<std::size_t> next = 0;
        std::mutex telling;
        pipeline::for_each_of(std::min(at_once, scenes.size()), [&](std::size_t) {
            for (std::size_t s = next++; s < scenes.size(); s = next++) {
                for (const std::size_t i : scenes[s]) {
                    {
                        const std::lock_guard one_at_a_time(telling);
                        tell_of(asked_.units[i]);
                    }
                    found[i] = verify::check_by_drawing(asked_.units[i], by_);
                }
            }
        });
        for (const std::vector<std::size_t>& units : scenes) {
            for (const std::size_t i : units) {
                take(asked_.units[i], std::move(found[i]));
            }
        }
    }

    void run_one_by_one() {
        std::size_t stopped = 0;
        for (std::size_t i = 0; i < asked_.units.size() && stopped < most_stopped; ++i) {
            if (!asked_.only_part.holds(i)) {
                continue;
            }
            const verify::check_unit& unit = asked_.units[i];
            tell_of(unit);
            try {
                take(unit, asked_.finished != nullptr
                               ? verify::check_finished(unit, *asked_.finished, asked_.finished_format)
                               : verify::check_by_drawing(unit, by_));
            } catch (const program_stopped& failed) {
                ++stopped; // it would be so in every scene
                run_.results.push_back(stopped_result(unit.scene_name, failed.what()));
            }
        }
    }

  public:
    runner(const check_request& request, const renderer& by) : asked_(request), by_(by) {}

    check_run run() {
        // Of others it is not known whether they can be asked by several threads.
        if (asked_.finished == nullptr && &by_ == &built_in_renderer()) {
            run_side_by_side();
        } else {
            run_one_by_one();
        }
        diagnose_failures();
        tell("");
        return std::move(run_);
    }
};

} // namespace

std::vector<std::string> failure_diagnosis::explanations() const {
    std::vector<std::string> ids;
    if (found.verdict == verify::verdict_kind::mistake) {
        ids.push_back(found.mistakes.front().id());
        for (const verify::mistake tied : found.ties) {
            if (verify::entry_of(tied).id != ids.front()) {
                ids.emplace_back(verify::entry_of(tied).id);
            }
        }
    }
    return ids;
}

std::size_t check_run::failed() const {
    return static_cast<std::size_t>(std::count_if(
        results.begin(), results.end(), [](const verify::check_result& result) { return !result.passed; }));
}

std::vector<std::string> check_run::common_explanations() const {
    std::vector<std::string> common;
    bool first = true;
    for (const failure_diagnosis& failure : diagnoses) {
        // A scene whose own picture is right, and only a relation is not, says nothing of which mistake it
        // is.
        if (failure.found.verdict == verify::verdict_kind::right) {
            continue;
        }
        const std::vector<std::string> ids = failure.explanations();
        if (first) {
            common = ids;
            first = false;
        }
        std::erase_if(common, [&](const std::string& id) {
            return std::find(ids.begin(), ids.end(), id) == ids.end();
        });
    }
    return common;
}

bool check_run::fails_by_alpha() const {
    return failed() > 0 &&
           std::all_of(results.begin(), results.end(),
                       [](const verify::check_result& result) { return result.passed || result.by_alpha; });
}

check_run run_checks(const check_request& request, const renderer& by) { return runner(request, by).run(); }

std::optional<verify::check_result> beyond_precision(const program_renderer& program) {
    constexpr int most_codes = 2; // nothing finer can be said of a shader than its precisions leave
    const int codes = program.codes_off_by_precision();
    if (codes <= most_codes) {
        return std::nullopt;
    }
    verify::check_result result;
    result.name = "the precisions of the source";
    result.scene = "every scene";
    result.kind = "precision";
    result.measured = {static_cast<double>(codes)};
    result.expected = {0};
    result.tolerance = most_codes;
    result.used = codes / static_cast<double>(most_codes);
    result.remark =
        "what the source declares as mediump or lowp changes a picture by " + std::to_string(codes) +
        " codes of 255, so that right and wrong cannot be told apart: the verdict is unknown; highp "
        "would decide it";
    return result;
}

void hold_precision(const program_renderer& program, check_run& run) {
    if (std::optional<verify::check_result> result = beyond_precision(program)) {
        run.results.push_back(std::move(*result));
    }
}

std::vector<verify::check_unit> all_units(const renderer& by, std::vector<std::string>& lines) {
    std::vector<verify::check_unit> units;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        for (verify::check_unit& unit : verify::units_for(by, reference, lines)) {
            units.push_back(std::move(unit));
        }
    }
    return units;
}

std::vector<verify::check_unit> units_of_scene(const renderer& by, const named_scene& named,
                                               std::vector<std::string>& lines) {
    const verify::reference_scene* reference = verify::find_reference(named.name);
    return reference != nullptr ? verify::units_for(by, *reference, lines)
                                : verify::units_for(by, named.name, named.scene, lines);
}

} // namespace yurvo::inline v0_1::study
