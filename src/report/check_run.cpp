#include "yurvo/report/check_run.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

#include <fmt/format.h>

#include "report/text.hpp"
#include "scene/in_size.hpp"
#include "verify/no_number.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/test_report_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/report/mistakes.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string triple(const std::vector<double>& values, int precision) {
    std::string text;
    for (const double value : values) {
        text += fmt::format("{}{:.{}g}", text.empty() ? "" : ", ", value, precision);
    }
    return "(" + text + ")";
}

// What is allowed less than that is allowed nothing: what comes of a light of no brightness, say.
constexpr double least_tolerance = 1e-30;

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
    for (const tally& counts : tallies) {
        text += counts.held == counts.all
                    ? fmt::format("held     {:<28}{:>4} checks; at most {:.0f} % of a tolerance used\n",
                                  counts.scene, counts.all, std::ceil(100 * counts.used))
                    : fmt::format("FAILED   {:<28}{:>4} of {} checks did not hold\n", counts.scene,
                                  counts.all - counts.held, counts.all);
    }
    return text;
}

// Of whole pictures by the second method: the largest difference, and in which scene.
std::pair<double, std::string> largest_difference(const study::check_run& run) {
    std::pair<double, std::string> found{0, ""};
    for (const verify::check_result& result : run.results) {
        if (result.kind == "second-method" && result.largest >= found.first) {
            found = {result.largest, result.scene};
        }
    }
    return found;
}

} // namespace

std::string failure_text(const verify::check_result& result) {
    if (result.measured.empty()) {
        return fmt::format("FAILED   {}: {}\n         {}\n", result.scene, result.name, result.remark);
    }
    const std::string where =
        result.x >= 0 ? fmt::format(" at pixel ({}, {})", result.x, result.y) : std::string();
    const bool numbers = std::all_of(result.measured.begin(), result.measured.end(),
                                     [](double value) { return std::isfinite(value); });
    const std::string by_how_much =
        !numbers ? std::string("it is no number: ") + verify::why_no_number
        : result.tolerance < least_tolerance
            ? "it must be exactly that"
            : fmt::format("tolerance {:.2g}, exceeded {:.3g} times", result.tolerance, result.used);
    return fmt::format("FAILED   {}: {}\n         expected {}, found {}{}; {}\n         {}\n", result.scene,
                       result.name, triple(result.expected, 7), triple(result.measured, 7), where,
                       by_how_much, result.remark);
}

std::string check_text(const study::check_run& run) {
    std::vector<const verify::check_result*> failed;
    double most_used = 0;
    for (const verify::check_result& result : run.results) {
        most_used = std::max(most_used, result.used);
        if (!result.passed) {
            failed.push_back(&result);
        }
    }
    std::stable_sort(failed.begin(), failed.end(),
                     [](const auto* a, const auto* b) { return a->used > b->used; });
    // One scene stands for its likes: the worst of each check, and where else it did not hold.
    std::string text;
    std::vector<std::string> told;
    for (const verify::check_result* result : failed) {
        const auto kind_of = [](const verify::check_result& each) {
            const std::size_t comma = each.name.rfind(", ");
            return each.kind + (comma == std::string::npos ? each.name : each.name.substr(comma));
        };
        const bool expectation = result->kind != "second-method" && result->kind != "relation";
        const std::string kind = expectation ? result->kind : kind_of(*result);
        if (std::find(told.begin(), told.end(), kind) != told.end()) {
            continue;
        }
        told.push_back(kind);
        text += failure_text(*result);
        std::vector<std::string> others;
        std::size_t count = 0;
        for (const verify::check_result* other : failed) {
            if (other == result || (expectation ? other->kind : kind_of(*other)) != kind) {
                continue;
            }
            ++count;
            if (std::find(others.begin(), others.end(), other->scene) == others.end()) {
                others.push_back(other->scene);
            }
        }
        if (count > 0) {
            std::string where;
            for (std::size_t i = 0; i < std::min<std::size_t>(others.size(), 6); ++i) {
                where += (i == 0 ? "" : ", ") + others[i];
            }
            where += others.size() > 6 ? fmt::format(" and {} more", others.size() - 6) : "";
            text +=
                fmt::format("         {}\n", wrapped(fmt::format("{} more like it: {}", count, where), 9));
        }
    }
    text += (failed.empty() ? "" : "\n") + summary_of(run.results);
    text += failed.empty()
                ? fmt::format("\nall {} checks held; the nearest to its tolerance used {:.0f} % of it\n",
                              run.passed(), std::ceil(100 * most_used))
                : fmt::format("\n{} of {} checks did not hold\n", failed.size(), run.results.size());
    if (run.dark > 0) {
        text += fmt::format("{} of the {} are of scenes that no light reaches, and say little\n", run.dark,
                            run.results.size());
    }
    return text;
}

namespace {

const char* const alpha_alone =
    "Every colour is right, alpha alone is not: a pixel's is its material's, 1 where none is set, "
    "and no light changes it";

} // namespace

std::vector<std::string> number_lines(const study::check_run& run) {
    std::vector<std::string> lines;
    if (run.fails_by_alpha()) {
        lines.emplace_back(alpha_alone);
    }
    for (const verify::needed_number& each : run.numbers) {
        lines.push_back(
            fmt::format("right with {} = {:.7g}: if it is written into the shader, say so in [constants]: "
                        "\"{}\" = {:.7g}",
                        each.quantity, each.value, each.quantity, each.value));
    }
    return lines;
}

std::string explanations_text(const study::check_run& run) {
    if (run.diagnoses.empty()) {
        return "";
    }
    const std::vector<std::string> common = run.common_explanations();
    std::string text;
    for (const std::string& id : common) {
        text += (text.empty() ? "\nWhat explains it: " : "\nor: ") + explanation_text(id);
    }
    if (!common.empty()) {
        return text;
    }
    if (!run.numbers.empty()) {
        text = "\nNo mistake, but a number:\n";
        for (const std::string& line : number_lines(run)) {
            text += "  " + wrapped(line, 2) + "\n";
        }
        return text;
    }
    if (run.fails_by_alpha()) {
        return fmt::format("\n{}.\n", wrapped(alpha_alone, 0));
    }
    text = "\nNo one mistake explains all of it; a scene each:\n";
    for (const study::failure_diagnosis& failure : run.diagnoses) {
        std::string ids;
        for (const std::string& id : failure.explanations()) {
            ids += (ids.empty() ? "" : " or ") + id;
        }
        text += fmt::format("  {:<28}{}\n", failure.scene,
                            !ids.empty() ? wrapped(ids, 30)
                            : failure.found.verdict == verify::verdict_kind::right
                                ? "fewer pixels are off than can be told apart"
                                : "no known mistake explains it");
    }
    return text;
}

std::string derivations_text(const study::check_run& run, const std::string& part) {
    std::string text;
    for (const verify::check_result& result : run.results) {
        if (result.name.find(part) == std::string::npos && result.scene != part) {
            continue;
        }
        text += fmt::format("{}: {}\n    {}\n", result.scene, result.name, result.remark);
        std::istringstream lines(result.because);
        for (std::string line; std::getline(lines, line);) {
            text += fmt::format("    {}\n", wrapped(line, 4));
        }
        text += fmt::format(
            "    {}: tolerance {:.3g}, of which {:.3g} is used.\n\n",
            result.x >= 0 ? fmt::format("The pixel that decides is ({}, {})", result.x, result.y) : "Here",
            result.tolerance, result.used);
    }
    return text;
}

namespace {

// What was fitted, each change once with the scenes that share it; `fitted` is a line a scene.
std::string fitting_table(const std::vector<std::string>& fitted) {
    std::vector<std::pair<std::string, std::vector<std::string>>> by_change;
    for (const std::string& line : fitted) {
        const std::size_t colon = line.find(": ");
        std::string rest = line.substr(colon + 2);
        while (!rest.empty()) {
            const std::size_t end = rest.find("; ");
            std::string what = rest.substr(0, end);
            rest = end == std::string::npos ? "" : rest.substr(end + 2);
            if (what == "skipped") { // with its reason
                what = "left out, since " + rest.substr(0, rest.find("; "));
                rest.clear();
            }
            auto known = std::find_if(by_change.begin(), by_change.end(),
                                      [&](const auto& each) { return each.first == what; });
            if (known == by_change.end()) {
                known = by_change.insert(by_change.end(), {what, {}});
            }
            known->second.push_back(line.substr(0, colon));
        }
    }
    std::string text;
    for (const auto& [what, scenes] : by_change) {
        constexpr std::size_t most_named = 4;
        std::string where = scenes.size() == fitted.size() && scenes.size() > most_named
                                ? "all " + std::to_string(scenes.size()) + " scenes that are fitted"
                                : "";
        if (where.empty()) {
            for (std::size_t k = 0; k < std::min(scenes.size(), most_named); ++k) {
                where += (k == 0 ? "" : ", ") + scenes[k];
            }
            where +=
                scenes.size() > most_named ? fmt::format(" and {} more", scenes.size() - most_named) : "";
        }
        text += "  " + wrapped("fitted: " + what + ": " + where, 10) + "\n";
    }
    return text;
}

std::string coverage_text(const verify::coverage& covered) {
    std::string text =
        "  " +
        wrapped(
            fmt::format(
                "coverage: such a program could hold {} of the mistakes, and its scenes would show {}",
                covered.could.size(),
                covered.unseen.empty() ? "each of them" : fmt::format("{} of them", covered.shown.size())),
            4) +
        "\n";
    if (!covered.unseen.empty()) {
        std::string ids;
        for (const verify::mistake each : covered.unseen) {
            ids += (ids.empty() ? "" : ", ") + std::string(verify::entry_of(each).id);
        }
        text += "  " +
                wrapped("unseen: " + ids + ": these could hide, and the verdict says nothing of them", 4) +
                "\n";
    }
    return text;
}

} // namespace

std::string program_text(const program_renderer& program, const std::vector<std::string>& fitted,
                         const verify::coverage* covered, const study::check_run& run) {
    const tolerance_model allowed = program.tolerance();
    const auto [largest, where] = largest_difference(run);
    std::string text = fmt::format("\n{}, drawn by {}\n", program.program().file, program.drawn_by());
    text += fitting_table(fitted);
    if (covered != nullptr) {
        text += coverage_text(*covered);
    }
    for (const std::string& line : program.advice()) {
        text += "  " + wrapped("advice: " + line, 10) + "\n";
    }
    if (program.codes_off_by_precision() > 0) {
        text += "  " +
                wrapped(fmt::format(
                            "the precisions that the source declares change a picture by up to {} codes; the "
                            "formulas were judged in high precision",
                            program.codes_off_by_precision()),
                        4) +
                "\n";
    }
    text += fmt::format("  the largest difference from the second method: {:.3g}{}\n", largest,
                        where.empty() ? "" : ", in " + where);
    text += "  " +
            wrapped(fmt::format(
                        "tolerances allow for {:.3g} times a float's rounding, as this driver's powers and "
                        "roots need, and for evaluation up to {:.3g} pixel beside the centre{}",
                        allowed.precision, allowed.snap,
                        allowed.angle > 0
                            ? fmt::format("; for borders of cones, as its angles need, {:.2g} radians",
                                          allowed.angle)
                            : ""),
                    4) +
            "\n";
    // Seen in its pictures, which say nothing where they are wrong.
    if (run.failed() == 0 && program.program().scale == scale_claim::any &&
        program.program().rate == rate::fragment) {
        text += allowed.unit_at_vertices
                    ? "  normals are made unit at the vertices, as Yurvo does\n"
                    : "  normals are made unit at each fragment only, which is right too\n";
    }
    return text;
}

picture failure_sheet(const verify::check_unit& unit, const picture& found, const picture& expected) {
    const double scale = std::max(1e-6, luminance_range(expected, found));
    sheet result;
    result.title = unit.scene_name;
    result.subtitle = unit.variant + ": what was found, what was expected, and the difference";
    result.panels.push_back(picture_panel("found", "", found));
    result.panels.push_back(picture_panel("expected", "", expected));
    result.panels.push_back(difference_panel("found − expected", expected, found, scale));
    return render(result);
}

void keep_pictures(const std::string& folder, const verify::check_unit& unit, const picture& found) {
    make_folder(folder);
    std::string name = unit.scene_name + "-" + unit.variant;
    for (char& c : name) {
        c = std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '.' ? c : '-';
    }
    const scene the_scene = in_size(unit.asked, found.width, found.height);
    const picture expected = verify::cast_picture(the_scene);
    const std::string begin = folder + "/" + name;
    write_picture(begin + "-found.png", found);
    write_picture(begin + "-expected.png", expected);
    write_picture(begin + "-difference.png", failure_sheet(unit, found, expected));
}

void write_test_report(const std::string& file, const study::check_run& run) {
    std::vector<test_case> cases;
    for (const verify::check_result& result : run.results) {
        cases.push_back(
            {result.scene, result.name, result.passed, result.passed ? "" : failure_text(result)});
    }
    write_junit(file, cases);
}

} // namespace yurvo::inline v0_1::report
