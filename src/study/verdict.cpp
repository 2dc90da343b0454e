#include "yurvo/study/verdict.hpp"

namespace yurvo::inline v0_1::study {

namespace {

std::string counted(std::size_t count, const char* one, const char* many) {
    return std::to_string(count) + " " + (count == 1 ? one : many);
}

} // namespace

run_verdict verdict_of(const check_run& run, const verify::coverage* covered) {
    run_verdict made;
    made.passed = run.passed();
    made.failed = run.failed();
    const std::size_t all = made.passed + made.failed;
    if (made.failed == 0 && (covered == nullptr || covered->unseen.empty())) {
        made.what = finding::right;
        made.line = "right: all " + counted(all, "check", "checks") + " held";
        made.status = 0;
        return made;
    }
    if (made.failed == 0) {
        made.undecided = true;
        made.line = "no verdict: " + counted(covered->unseen.size(), "mistake", "mistakes") +
                    " could hide in what this program claims";
        return made;
    }
    if (made.failed == 1 && run.results.back().kind == "precision" && !run.results.back().passed) {
        made.undecided = true;
        made.line = "no verdict: " + run.results.back().remark;
        return made;
    }
    made.ids = run.common_explanations();
    const std::string failed =
        std::to_string(made.failed) + " of " + counted(all, "check", "checks") + " did not hold";
    if (made.ids.empty() && run.numbers.empty()) {
        made.line = "not right: " + failed + ", and no known mistake explains all of it";
        return made;
    }
    if (made.ids.empty()) {
        made.line = "not right: " + failed + ", as if " + run.numbers.front().quantity + " were " +
                    std::to_string(run.numbers.front().value);
        return made;
    }
    made.what = finding::mistake;
    std::string names;
    for (const std::string& id : made.ids) {
        names += (names.empty() ? "" : " or ") + id;
    }
    made.line = names + ": " + failed;
    if (const verify::mistake_entry* entry = verify::find_mistake(made.ids.front())) {
        made.advice = entry->fix;
    }
    return made;
}

} // namespace yurvo::inline v0_1::study
