#include "yurvo/live/scene_round.hpp"

#include <algorithm>
#include <set>
#include <utility>

namespace yurvo::inline v0_1::live {

namespace {

constexpr std::size_t most_diagnosed = 5; // scenes, as `check` has it
constexpr std::size_t most_stopped = 3;

} // namespace

void scene_round::ask_next() {
    const std::string name = units_[next_].scene_name;
    study::check_request request;
    for (; next_ < units_.size() && units_[next_].scene_name == name; ++next_) {
        request.units.push_back(units_[next_]);
    }
    request.diagnose = run_.diagnoses.size() < most_diagnosed;
    study::check_run one = study::run_checks(request, *of_);
    round_line line;
    line.scene = name;
    line.passed = one.failed() == 0;
    line.ids = one.common_explanations();
    for (verify::check_result& result : one.results) {
        line.used = std::max(line.used, result.used);
        stopped_ += result.kind == "program" ? 1U : 0U;
        run_.results.push_back(std::move(result));
    }
    for (study::failure_diagnosis& each : one.diagnoses) {
        run_.diagnoses.push_back(std::move(each));
    }
    state_.scenes.push_back(std::move(line));
    if (stopped_ >= most_stopped) { // it would be so in every scene
        next_ = units_.size();
        covered_ = true;
    }
}

void scene_round::step(const std::shared_ptr<const program_renderer>& now) {
    if (now != of_) {
        *this = {};
        of_ = now;
        std::vector<std::string> lines;
        units_ = study::all_units(*of_, lines);
        std::set<std::string> names;
        for (const verify::check_unit& unit : units_) {
            names.insert(unit.scene_name);
        }
        state_.all = names.size();
        return;
    }
    if (state_.ended) {
        return;
    }
    if (next_ < units_.size()) {
        ask_next();
        return;
    }
    if (!covered_) { // what is missing joins the scenes that are to be asked
        std::vector<std::string> lines;
        const std::size_t before = units_.size();
        coverage_ = study::cover(units_, *of_, lines);
        covered_ = true;
        for (std::size_t i = before; i < units_.size(); ++i) {
            state_.all += i == before || units_[i].scene_name != units_[i - 1].scene_name ? 1U : 0U;
        }
        state_.shown = coverage_.shown.size();
        for (const verify::mistake each : coverage_.unseen) {
            state_.unseen.emplace_back(verify::entry_of(each).id);
        }
        return;
    }
    study::hold_precision(*of_, run_);
    state_.verdict = study::verdict_of(run_, &coverage_);
    if (run_.results.empty()) {
        state_.verdict = {};
        state_.verdict.line = "no scene suits what the program claims";
    }
    state_.ended = true;
}

} // namespace yurvo::inline v0_1::live
