#include <algorithm>
#include <optional>

#include "page_writing.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/check_run.hpp"
#include "yurvo/study/check_run.hpp"

namespace yurvo::app {

namespace {

struct check_options {
    std::vector<std::string> scenes;
    std::string junit_file, only, shard, keep, explain, program, page;
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
    if (!options.page.empty()) {
        require_page_name(options.page);
    }
    study::check_request request;
    request.only_part = shard_from(options.shard);
    request.only = options.only;
    request.diagnose = options.explain.empty();
    request.tell = [&](const std::string& what) { on.progress(what); };
    std::vector<verify::check_unit> failed;
    if (!options.keep.empty() || !options.page.empty()) {
        request.failed = [&](const verify::check_unit& unit, const picture& found) {
            failed.push_back(unit);
            if (!options.keep.empty()) {
                report::keep_pictures(options.keep, unit, found);
            }
        };
    }
    std::vector<std::string> fitted;
    request.units = units_asked(on, options.scenes, by, fitted);
    picture finished;
    if (!options.given.file.empty()) {
        finished = read_finished(on, options.scenes, options.given, "yurvo check", request);
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
    if (!options.page.empty()) {
        write_page(on, {options.scenes, options.program, options.given, options.page, false, found, failed});
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
    to.text("--report", options->page, "the page that `yurvo report` makes",
            {.type = "FILE", .written = true});
    to.text("--junit", options->junit_file, "the results for servers that run tests",
            {.type = "FILE", .written = true});
    options->data.add_to(to, "every check");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
