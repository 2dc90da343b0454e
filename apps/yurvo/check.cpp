#include <algorithm>
#include <optional>

#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/check_run.hpp"
#include "yurvo/study/check_run.hpp"

namespace yurvo::app {

namespace {

struct check_options {
    std::vector<std::string> scenes;
    std::string junit_file, only, shard, keep, explain, program;
    picture_options given;
    json_option data;
};

study::shard shard_from(const std::string& text) {
    if (text.empty()) {
        return {};
    }
    const auto whole = [](const std::string& digits) -> std::size_t {
        const bool number = !digits.empty() && digits.size() <= 6 &&
                            digits.find_first_not_of("0123456789") == std::string::npos;
        return number ? std::stoul(digits) : 0;
    };
    const std::size_t slash = text.find('/');
    const study::shard result{whole(text.substr(0, slash)),
                              slash == std::string::npos ? 0 : whole(text.substr(slash + 1))};
    if (result.part < 1 || result.part > result.of) {
        throw error({"--shard", 0, 0}, "`" + text + "` is no part of a whole",
                    "I/N with 1 ≤ I ≤ N, such as 2/4");
    }
    return result;
}

std::vector<verify::check_unit> units_asked(const session& on, const std::vector<std::string>& names,
                                            const renderer& by, std::vector<std::string>& fitted) {
    if (names.empty()) {
        return study::all_units(by, fitted);
    }
    std::vector<verify::check_unit> units;
    for (const std::string& name : names) {
        for (verify::check_unit& unit : study::units_of_scene(by, named_scene(on, name), fitted)) {
            units.push_back(std::move(unit));
        }
    }
    return units;
}

// One picture in the place of drawing: of the scene's own rate and model.
picture read_finished(const session& on, const check_options& options, study::check_request& request) {
    if (options.scenes.size() != 1) {
        throw error({"yurvo check", 0, 0},
                    "--picture was given with " + std::to_string(options.scenes.size()) + " scenes",
                    "the one scene that the picture shows");
    }
    request.finished_format = options.given.format();
    picture finished = options.given.read();
    const view& view = request.units.front().asked.view;
    if (finished.width != view.width || finished.height != view.height) {
        throw error({options.given.file, 0, 0},
                    fmt::format("the picture is {}x{}, the scene's view {}x{}", finished.width,
                                finished.height, view.width, view.height),
                    "a picture of the view's size");
    }
    const scene own = named_scene(on, options.scenes.front()).scene;
    std::erase_if(request.units, [&](const verify::check_unit& unit) {
        return unit.asked.shading.rate != own.shading.rate || unit.asked.shading.model != own.shading.model;
    });
    on.remark(options.given.file +
              " is one picture: the relations, which need others to be drawn, are left out");
    return finished;
}

void require_some(const check_options& options, const study::check_run& run,
                  const std::vector<std::string>& fitted) {
    if (!run.results.empty()) {
        return;
    }
    if (!options.only.empty()) {
        throw error({"--only", 0, 0}, "no check's scene, name or kind contains `" + options.only + "`",
                    "a part of one, as --json lists them");
    }
    if (!options.program.empty()) {
        throw error({options.program, 0, 0},
                    "no scene suits what the program claims: " + (fitted.empty() ? "" : fitted.front()),
                    "`kinds`, `lights` and the laws that it takes");
    }
}

int run(session& on, const check_options& options) {
    std::shared_ptr<const program_renderer> program;
    if (!options.program.empty()) {
        if (!options.given.file.empty()) {
            throw error({"yurvo check", 0, 0}, "there are a picture and a program", "one of the two");
        }
        program = open_program(on, options.program);
    }
    const renderer& by = program             ? static_cast<const renderer&>(*program)
                         : on.with().checked ? *on.with().checked
                                             : built_in_renderer();
    study::check_request request;
    request.only_part = shard_from(options.shard);
    request.only = options.only;
    request.diagnose = options.explain.empty();
    request.tell = [&](const std::string& what) { on.progress(what); };
    if (!options.keep.empty()) {
        request.failed = [&](const verify::check_unit& unit, const picture& found) {
            report::keep_pictures(options.keep, unit, found);
        };
    }
    std::vector<std::string> fitted;
    request.units = units_asked(on, options.scenes, by, fitted);
    picture finished;
    if (!options.given.file.empty()) {
        finished = read_finished(on, options, request);
        request.finished = &finished;
    } else if (!options.given.as.empty()) {
        throw error({"--as", 0, 0}, "there is no picture for it", "--picture FILE");
    }
    std::optional<verify::coverage> covered;
    if (program && options.scenes.empty()) {
        on.progress("which mistakes such a program could hold");
        covered = study::cover(request.units, by, fitted);
    }
    study::check_run found = study::run_checks(request, by);
    if (program) {
        study::hold_precision(*program, found);
    }
    require_some(options, found, fitted);
    if (!options.explain.empty()) {
        const std::string text = report::derivations_text(found, options.explain);
        if (text.empty()) {
            throw error({"--explain", 0, 0}, "no check's name contains `" + options.explain + "`",
                        "a scene's name or a part of a check's, as --json lists them");
        }
        on.print("{}", text);
        return all_held;
    }
    report::data data = report::data_of(found);
    if (program) {
        data.add(report::data_of(*program, fitted, found));
        if (covered) {
            data.add(report::data_of(*covered));
        }
    }
    if (options.data.speaks()) {
        on.print("{}{}{}", report::check_text(found),
                 program ? report::program_text(*program, fitted, covered ? &*covered : nullptr, found) : "",
                 report::explanations_text(found));
    }
    if (!options.junit_file.empty()) {
        report::write_test_report(options.junit_file, found);
    }
    options.data.write(on, data);
    const bool all_seen = !covered || covered->unseen.empty();
    return found.failed() == 0 && all_seen ? all_held : not_held;
}

} // namespace

void add_check(option_list& to, session& on) {
    auto options = std::make_shared<check_options>();
    to.texts("scenes", options->scenes,
             "reference scenes by name, or scene files of your own; all reference scenes where none is named",
             {.type = "SCENE"});
    options->given.add_to(to, "verify this picture of the scene: .png, .exr or .pfm");
    to.text("--program", options->program,
            "verify this shader program of yours, drawn by the system's OpenGL driver", {.type = "FILE"});
    to.text("--only", options->only, "only checks whose scene, name or kind contains this", {.type = "TEXT"});
    to.text("--shard", options->shard, "only the I-th of N parts, for several machines", {.type = "I/N"});
    to.text("--keep", options->keep, "pictures of what did not hold go into this folder", {.type = "DIR"});
    to.text("--explain", options->explain, "how the tolerances of these checks come about", {.type = "NAME"});
    to.text("--junit", options->junit_file, "the results for servers that run tests", {.type = "FILE"});
    options->data.add_to(to, "every check");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
