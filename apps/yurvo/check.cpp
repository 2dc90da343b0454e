#include "session.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

#include "yurvo/verify/check.hpp"

namespace yurvo::app {

namespace {

struct check_options {
    std::vector<std::string> scenes;
    std::string json_file;
};

// JSON has no infinity: what is not a finite number is null there.
json number_or_null(double value) { return std::isfinite(value) ? json(value) : json(nullptr); }

json values(const std::vector<double>& of) {
    json list = json::array();
    for (const double value : of) {
        list.push_back(number_or_null(value));
    }
    return list;
}

std::string failure_of(const verify::check_result& result) {
    return fmt::format("FAILED   {}: {}\n         expected {}, found {} at pixel ({}, {}); tolerance {:.2g}, "
                       "exceeded {:.3g} "
                       "times\n         {}\n",
                       result.scene, result.name, triple(result.expected, 7), triple(result.measured, 7),
                       result.x, result.y, result.tolerance, result.used, result.remark);
}

// A line for each scene, in the order in which they were checked.
std::string summary_of(const std::vector<verify::check_result>& results) {
    struct tally {
        std::string scene;
        std::size_t held = 0, all = 0;
        double used = 0;
    };
    std::vector<tally> tallies;
    for (const verify::check_result& result : results) {
        if (tallies.empty() || tallies.back().scene != result.scene) {
            tallies.push_back({result.scene, 0, 0, 0});
        }
        tally& last = tallies.back();
        last.held += result.passed ? 1U : 0U;
        last.used = std::max(last.used, result.used);
        ++last.all;
    }
    std::string text;
    for (const tally& one : tallies) {
        text += one.held == one.all
                    ? fmt::format("held     {:<22}{:>3} checks; at most {:.0f} % of a tolerance used\n",
                                  one.scene, one.all, std::ceil(100 * one.used))
                    : fmt::format("FAILED   {:<22}{:>3} of {} checks did not hold\n", one.scene,
                                  one.all - one.held, one.all);
    }
    return text;
}

int run(session& on, const check_options& options) {
    const check_outcome outcome = run_checks(on, options.scenes);
    if (speaks(options.json_file)) {
        on.print("{}", outcome.text);
    }
    write_json(on, options.json_file, outcome.data);
    return outcome.failed == 0 ? all_held : not_held;
}

} // namespace

check_outcome run_checks(session& on, const std::vector<std::string>& scenes) {
    std::vector<const verify::reference_scene*> asked;
    std::vector<std::string_view> known;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        known.emplace_back(reference.name);
        if (scenes.empty()) {
            asked.push_back(&reference);
        }
    }
    for (const std::string& name : scenes) {
        const verify::reference_scene* found = verify::find_reference(name);
        if (found == nullptr) {
            const std::string_view meant = nearest(name, known);
            throw error({name, 0, 0}, "there is no reference scene of that name",
                        meant.empty() ? "one that `yurvo scenes` lists"
                                      : "the nearest is `" + std::string(meant) + "`");
        }
        asked.push_back(found);
    }
    const verify::subject subject =
        on.with().draw ? on.with().draw : verify::subject([](const scene& drawn) { return draw(drawn); });
    std::vector<verify::check_result> results;
    for (const verify::reference_scene* reference : asked) {
        on.progress("checking " + reference->name);
        const std::vector<verify::check_result> found = verify::check_reference(*reference, subject);
        results.insert(results.end(), found.begin(), found.end());
    }
    on.progress("");

    check_outcome outcome;
    outcome.data["checks"] = json::array();
    double most_used = 0;
    for (const verify::check_result& result : results) {
        outcome.data["checks"].push_back({{"name", result.name},
                                          {"scene", result.scene},
                                          {"kind", result.kind},
                                          {"measured", values(result.measured)},
                                          {"expected", values(result.expected)},
                                          {"tolerance", result.tolerance},
                                          {"passed", result.passed},
                                          {"pixel", {result.x, result.y}},
                                          {"used", number_or_null(result.used)},
                                          {"remark", result.remark}});
        (result.passed ? outcome.passed : outcome.failed) += 1;
        most_used = std::max(most_used, result.used);
    }
    outcome.data["passed"] = outcome.passed;
    outcome.data["failed"] = outcome.failed;

    // What did not hold first, the worst of it first; then a line for each scene.
    const std::string summary = summary_of(results);
    std::stable_sort(results.begin(), results.end(), [](const auto& a, const auto& b) {
        return a.passed != b.passed ? !a.passed : !a.passed && a.used > b.used;
    });
    for (const verify::check_result& result : results) {
        if (!result.passed) {
            outcome.text += failure_of(result);
        }
    }
    outcome.text += (outcome.failed > 0 ? "\n" : "") + summary;
    if (outcome.failed == 0) {
        outcome.text +=
            fmt::format("\nall {} checks held; the nearest to its tolerance used {:.0f} % of it\n",
                        outcome.passed, std::ceil(100 * most_used));
    } else {
        outcome.text += fmt::format("\n{} of {} checks did not hold\n", outcome.failed, results.size());
    }
    return outcome;
}

void add_check(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "check",
        "Hold what is drawn against what is known of the reference scenes in closed form, and against "
        "rays cast in double precision.");
    auto options = std::make_shared<check_options>();
    command->add_option("scenes", options->scenes, "which reference scenes; all of them where none is named")
        ->type_name("SCENE");
    command->add_option("--json", options->json_file, "every check, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
