#include "diagnosis.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <filesystem>
#include <memory>
#include <sstream>

#include "yurvo/files/test_report_file.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::app {

namespace {

struct check_options {
    std::vector<std::string> scenes;
    std::string json_file, junit_file, picture, as, only, shard, keep, explain, program;
};

json values(const std::vector<double>& of) {
    json list = json::array();
    for (const double value : of) {
        list.push_back(number_or_null(value));
    }
    return list;
}

// What was exceeded and by how much, for people.
std::string failure_of(const verify::check_result& result) {
    if (result.measured.empty()) {
        return fmt::format("FAILED   {}: {}\n         {}\n", result.scene, result.name, result.remark);
    }
    const std::string where =
        result.x >= 0 ? fmt::format(" at pixel ({}, {})", result.x, result.y) : std::string();
    return fmt::format(
        "FAILED   {}: {}\n         expected {}, found {}{}; tolerance {:.2g}, exceeded {:.3g} times\n"
        "         {}\n",
        result.scene, result.name, triple(result.expected, 7), triple(result.measured, 7), where,
        result.tolerance, result.used, result.remark);
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
                    ? fmt::format("held     {:<28}{:>4} checks; at most {:.0f} % of a tolerance used\n",
                                  one.scene, one.all, std::ceil(100 * one.used))
                    : fmt::format("FAILED   {:<28}{:>4} of {} checks did not hold\n", one.scene,
                                  one.all - one.held, one.all);
    }
    return text;
}

// Everything in data and in words: what did not hold first, the worst of it first.
check_outcome outcome_of(std::vector<verify::check_result> results) {
    double most_used = 0;
    check_outcome outcome;
    outcome.data["checks"] = json::array();
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

// `2/5`: the second of five parts.
struct shard_of_units {
    std::size_t part = 1, of = 1;
    [[nodiscard]] bool holds(std::size_t index) const { return index % of == part - 1; }
};

shard_of_units shard_from(const std::string& text) {
    shard_of_units made;
    if (text.empty()) {
        return made;
    }
    std::size_t used = 0;
    const std::size_t slash = text.find('/');
    const auto whole = [&](const std::string& digits) -> std::size_t {
        if (digits.empty() || digits.size() > 6 ||
            digits.find_first_not_of("0123456789") != std::string::npos) {
            return 0;
        }
        return std::stoul(digits, &used);
    };
    made.part = whole(text.substr(0, slash));
    made.of = slash == std::string::npos ? 0 : whole(text.substr(slash + 1));
    if (made.part < 1 || made.part > made.of) {
        throw error({"--shard", 0, 0}, "`" + text + "` is no part of a whole",
                    "I/N with 1 ≤ I ≤ N, such as 2/4");
    }
    return made;
}

// The units of the scenes that were named, or of all reference scenes.
std::vector<verify::check_unit> units_asked(session& on, const std::vector<std::string>& names) {
    std::vector<verify::check_unit> units;
    const auto add = [&](const verify::reference_scene& reference) {
        for (verify::check_unit& unit : verify::units_of(reference)) {
            units.push_back(std::move(unit));
        }
    };
    if (names.empty()) {
        for (const verify::reference_scene& reference : verify::reference_scenes()) {
            add(reference);
        }
    }
    for (const std::string& name : names) {
        if (const verify::reference_scene* reference = verify::find_reference(name)) {
            add(*reference);
        } else {
            units.push_back(verify::unit_of(name, find_scene(on, name)));
        }
    }
    return units;
}

// The same, fitted to a program.
std::vector<verify::check_unit> units_for(session& on, const program_subject& program,
                                          const std::vector<std::string>& names,
                                          std::vector<std::string>& told) {
    std::vector<verify::check_unit> units;
    const auto add = [&](std::vector<verify::check_unit> some) {
        units.insert(units.end(), some.begin(), some.end());
    };
    if (names.empty()) {
        for (const verify::reference_scene& reference : verify::reference_scenes()) {
            add(program.units(reference, told));
        }
    }
    for (const std::string& name : names) {
        const verify::reference_scene* reference = verify::find_reference(name);
        add(reference != nullptr ? program.units(*reference, told)
                                 : program.units(name, find_scene(on, name), told));
    }
    return units;
}

// What a program was held to, and how near it came.
std::string program_text(const program_subject& program, const std::vector<std::string>& fitted,
                         const std::vector<verify::check_result>& results, json& data) {
    const verify::allowance allowed = program.allowed();
    double largest = 0;
    std::string where;
    for (const verify::check_result& one : results) {
        if (one.kind == "second-method" && one.largest >= largest) {
            largest = one.largest;
            where = one.scene;
        }
    }
    data["driver"] = program.driver();
    data["allowed"] = {{"precision", allowed.precision}, {"snap", allowed.snap}};
    data["normals_unit_at_vertices"] = allowed.unit_at_vertices;
    data["largest_difference"] = largest;
    data["fitted"] = fitted;
    std::string text = fmt::format("\n{}, drawn by {}\n", program.program().file, program.driver());
    for (const std::string& line : fitted) {
        text += "  " + wrapped("fitted: " + line, 10) + "\n";
    }
    text += fmt::format("  the largest difference from the second method: {:.3g}{}\n", largest,
                        where.empty() ? "" : ", in " + where);
    text +=
        "  " +
        wrapped(fmt::format(
                    "tolerances allow for {:.3g} times a float's rounding, as this driver's powers and roots "
                    "need, and for evaluation up to {:.3g} pixel beside the centre",
                    allowed.precision, allowed.snap),
                4) +
        "\n";
    if (program.program().scale == scale_claim::any && program.program().rate == rate::fragment) {
        text += allowed.unit_at_vertices
                    ? "  normals are made unit at the vertices, as Yurvo does\n"
                    : "  normals are made unit at each fragment only, which is right too\n";
    }
    return text;
}

bool contains(const verify::check_result& result, const std::string& part) {
    return part.empty() || result.scene.find(part) != std::string::npos ||
           result.name.find(part) != std::string::npos || result.kind.find(part) != std::string::npos;
}

// What a unit that did not hold looks like, what it should look like, and the difference.
void keep_pictures(const std::string& folder, const verify::check_unit& unit, const picture& found) {
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    if (failed) {
        throw error({folder, 0, 0}, "the folder cannot be made: " + failed.message(),
                    "a folder that may be written to");
    }
    std::string name = unit.scene_name + "-" + unit.variant;
    for (char& c : name) {
        c = std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '.' ? c : '-';
    }
    scene asked = unit.asked;
    asked.view.width = found.width;
    asked.view.height = found.height;
    const picture expected = verify::cast_picture(asked);
    const std::string begin = folder + "/" + name;
    write_picture(begin + "-found.png", found);
    write_picture(begin + "-expected.png", expected);
    const double scale = std::max(1e-6, report::luminance_range(expected, found));
    report::sheet sheet;
    sheet.title = unit.scene_name;
    sheet.subtitle = unit.variant + ": what was found, what was expected, and the difference";
    sheet.panels.push_back({"found", "", found, std::nullopt, {}});
    sheet.panels.push_back({"expected", "", expected, std::nullopt, {}});
    sheet.panels.push_back(
        {"found − expected", "", report::difference_colors(expected, found, scale), scale, {}});
    write_picture(begin + "-difference.png", report::render(sheet));
}

// What did not hold and can be diagnosed: a scene and the picture of it.
struct failed_picture {
    std::string scene;
    yurvo::scene asked;
    picture found;
    verify::precision held = verify::precision::floats;
    verify::allowance allowed;
};
constexpr std::size_t most_diagnosed = 5; // scenes

struct asked_checks {
    std::vector<verify::check_unit> units;
    shard_of_units shard;
    std::string only, keep;
    const picture* finished = nullptr;              // instead of drawing
    std::shared_ptr<const program_subject> program; // instead of the pipeline
    verify::precision held = verify::precision::floats;
};

std::vector<verify::check_result> run_units(session& on, const asked_checks& asked,
                                            std::vector<failed_picture>& failures) {
    const verify::subject subject =
        asked.program    ? verify::subject([&](const scene& drawn) { return asked.program->draw(drawn); })
        : on.with().draw ? on.with().draw
                         : verify::subject([](const scene& drawn) { return draw(drawn); });
    std::vector<verify::check_result> results;
    std::size_t stopped = 0;
    constexpr std::size_t most_stopped = 3;
    for (std::size_t i = 0; i < asked.units.size(); ++i) {
        if (!asked.shard.holds(i)) {
            continue;
        }
        const verify::check_unit& unit = asked.units[i];
        on.progress("checking " + unit.scene_name + ", " + unit.variant);
        if (stopped == most_stopped) { // it would be so in every scene
            break;
        }
        std::vector<verify::check_result> found;
        try {
            found = asked.finished != nullptr ? verify::check_finished(unit, *asked.finished, asked.held)
                                              : verify::check_by_drawing(unit, subject);
        } catch (const program_stopped& failed) {
            ++stopped;
            verify::check_result result;
            result.name = "drawn by the driver";
            result.scene = unit.scene_name;
            result.kind = "program";
            result.used = std::numeric_limits<double>::infinity();
            result.remark = failed.what();
            results.push_back(std::move(result));
            continue;
        }
        bool failed = false;
        bool drawn = true;
        for (verify::check_result& result : found) {
            drawn = drawn && !result.measured.empty() && std::isfinite(result.used);
            if (contains(result, asked.only)) {
                failed = failed || !result.passed;
                results.push_back(std::move(result));
            }
        }
        if (!failed) {
            continue;
        }
        scene small = unit.asked;
        small.view.width = 320;
        small.view.height = 200;
        small.expects.clear();
        const bool another = failures.empty() || failures.back().scene != unit.scene_name;
        if (drawn && another && failures.size() < most_diagnosed) {
            failures.push_back({unit.scene_name, asked.finished != nullptr ? unit.asked : small,
                                asked.finished != nullptr ? *asked.finished : subject(small),
                                asked.program ? unit.held : asked.held, unit.allowed});
        }
        if (!asked.keep.empty()) {
            keep_pictures(asked.keep, unit, asked.finished != nullptr ? *asked.finished : subject(small));
        }
    }
    on.progress("");
    return results;
}

// What explains one picture: the ids of all that give it. Empty where none is known.
std::vector<std::string> explanations_of(const verify::diagnosis& found) {
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

std::string fix_text(const std::string& id) {
    const verify::mistake_entry* entry = verify::find_mistake(id);
    if (entry == nullptr) { // a pair
        return id + "\n";
    }
    const auto line = [](const char* name, std::string_view says) {
        return fmt::format("  {:<12}{}\n", name, wrapped(std::string(says), 14));
    };
    return id + "\n" + line("what it is", entry->what) + line("cause", entry->cause) +
           line("fix", entry->fix);
}

// What explains the pictures that did not hold: what is common to all, where there is such a thing.
std::string explain_failures(session& on, const std::vector<failed_picture>& failures, json& data) {
    data["diagnosis"] = json::array();
    std::vector<std::string> common;
    std::string each;
    for (const failed_picture& one : failures) {
        on.progress("looking for what explains " + one.scene);
        const verify::diagnosis found = verify::diagnose(one.asked, one.found, one.held, one.allowed);
        json entry = diagnosis_data(found);
        entry["scene"] = one.scene;
        data["diagnosis"].push_back(entry);
        const std::vector<std::string> ids = explanations_of(found);
        std::string together;
        for (const std::string& id : ids) {
            together += (together.empty() ? "" : " or ") + id;
        }
        each +=
            fmt::format("  {:<28}{}\n", one.scene,
                        !ids.empty()                                   ? wrapped(together, 30)
                        : found.verdict == verify::verdict_kind::right ? "what is off is too fine to be named"
                                                                       : "no known mistake explains it");
        if (&one == &failures.front()) {
            common = ids;
        }
        std::erase_if(common, [&](const std::string& id) {
            return std::find(ids.begin(), ids.end(), id) == ids.end();
        });
    }
    on.progress("");
    if (failures.empty()) {
        return "";
    }
    if (common.empty()) {
        return "\nNo one mistake explains all of it; a scene each:\n" + each;
    }
    std::string text;
    for (const std::string& id : common) {
        text += (text.empty() ? "\nWhat explains it: " : "\nor: ") + fix_text(id);
    }
    return text;
}

void print_derivations(session& on, const std::vector<verify::check_result>& results,
                       const std::string& name) {
    bool any = false;
    for (const verify::check_result& result : results) {
        if (result.name.find(name) == std::string::npos && result.scene != name) {
            continue;
        }
        any = true;
        on.print("{}: {}\n    {}\n", result.scene, result.name, result.remark);
        std::istringstream lines(result.because);
        for (std::string line; std::getline(lines, line);) {
            on.print("    {}\n", wrapped(line, 4));
        }
        on.print("    {}: tolerance {:.3g}, of which {:.3g} is used.\n\n",
                 result.x >= 0 ? fmt::format("The pixel that decides is ({}, {})", result.x, result.y)
                               : "Here",
                 result.tolerance, result.used);
    }
    if (!any) {
        throw error({"--explain", 0, 0}, "no check's name contains `" + name + "`",
                    "a scene's name or a part of a check's, as --json lists them");
    }
}

int run(session& on, const check_options& options) {
    asked_checks asked;
    asked.shard = shard_from(options.shard);
    asked.only = options.only;
    asked.keep = options.keep;
    std::vector<std::string> fitted;
    if (!options.program.empty()) {
        if (!options.picture.empty()) {
            throw error({"yurvo check", 0, 0}, "there are a picture and a program", "one of the two");
        }
        asked.program = open_program(on, options.program);
        asked.units = units_for(on, *asked.program, options.scenes, fitted);
    } else {
        asked.units = units_asked(on, options.scenes);
    }
    picture finished;
    if (!options.picture.empty()) {
        asked.held = precision_of(options.picture, options.as);
        if (options.scenes.size() != 1) {
            throw error({"yurvo check", 0, 0},
                        "--picture was given with " + std::to_string(options.scenes.size()) + " scenes",
                        "the one scene that the picture shows");
        }
        finished = read_found(options.picture, asked.held);
        const view& view = asked.units.front().asked.view;
        if (finished.width != view.width || finished.height != view.height) {
            throw error({options.picture, 0, 0},
                        fmt::format("the picture is {}x{}, the scene's view {}x{}", finished.width,
                                    finished.height, view.width, view.height),
                        "a picture of the view's size");
        }
        // A picture is of one rate and model: the scene's own.
        const scene own = find_scene(on, options.scenes.front());
        std::erase_if(asked.units, [&](const verify::check_unit& unit) {
            return unit.asked.shading.rate != own.shading.rate ||
                   unit.asked.shading.model != own.shading.model;
        });
        asked.finished = &finished;
        on.remark(options.picture +
                  " is one picture: the relations, which need others to be drawn, are left out");
    } else if (!options.as.empty()) {
        throw error({"--as", 0, 0}, "there is no picture for it", "--picture FILE");
    }
    std::vector<failed_picture> failures;
    const std::vector<verify::check_result> results = run_units(on, asked, failures);
    if (results.empty() && asked.program && options.only.empty()) {
        throw error({options.program, 0, 0},
                    "no scene suits what the program claims: " + (fitted.empty() ? "" : fitted.front()),
                    "`kinds`, `lights` and the laws that it takes");
    }
    if (results.empty() && !options.only.empty()) {
        throw error({"--only", 0, 0}, "no check's scene, name or kind contains `" + options.only + "`",
                    "a part of one, as --json lists them");
    }
    if (!options.explain.empty()) {
        print_derivations(on, results, options.explain);
        return all_held;
    }
    check_outcome outcome = outcome_of(results);
    if (asked.program) {
        outcome.text += program_text(*asked.program, fitted, results, outcome.data);
    }
    outcome.text += explain_failures(on, failures, outcome.data);
    if (speaks(options.json_file)) {
        on.print("{}", outcome.text);
    }
    if (!options.junit_file.empty()) {
        std::vector<test_case> cases;
        for (const verify::check_result& result : results) {
            cases.push_back(
                {result.scene, result.name, result.passed, result.passed ? "" : failure_of(result)});
        }
        write_junit(options.junit_file, cases);
    }
    write_json(on, options.json_file, outcome.data);
    return outcome.failed == 0 ? all_held : not_held;
}

} // namespace

check_outcome run_checks(session& on, const std::vector<std::string>& scenes) {
    asked_checks asked;
    asked.units = units_asked(on, scenes);
    std::vector<failed_picture> failures;
    return outcome_of(run_units(on, asked, failures));
}

void add_check(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "check",
        "Hold what is drawn against what is known of the reference scenes in closed form, and against "
        "rays cast in double precision.");
    auto options = std::make_shared<check_options>();
    command
        ->add_option(
            "scenes", options->scenes,
            "reference scenes by name, or scene files of your own; all reference scenes where none is named")
        ->type_name("SCENE");
    command->add_option("--picture", options->picture, "verify this picture of the scene: .png, .exr or .pfm")
        ->type_name("FILE");
    command
        ->add_option("--program", options->program,
                     "verify this shader program of yours, drawn by the system's OpenGL driver")
        ->type_name("FILE");
    command->add_option("--as", options->as, "what a PNG's codes are: srgb (where left out) or linear");
    command->add_option("--only", options->only, "only checks whose scene, name or kind contains this")
        ->type_name("TEXT");
    command->add_option("--shard", options->shard, "only the I-th of N parts, for several machines")
        ->type_name("I/N");
    command->add_option("--keep", options->keep, "pictures of what did not hold go into this folder")
        ->type_name("DIR");
    command->add_option("--explain", options->explain, "how the tolerances of these checks come about")
        ->type_name("NAME");
    command->add_option("--junit", options->junit_file, "the results for servers that run tests")
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "every check, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
