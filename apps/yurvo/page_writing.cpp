#include "page_writing.hpp"

#include <algorithm>

#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/page.hpp"
#include "yurvo/study/evidence.hpp"
#include "yurvo/version.hpp"

namespace yurvo::app {

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

picture read_finished(const session& on, const std::vector<std::string>& scenes, const picture_options& given,
                      const std::string& command, study::check_request& request) {
    if (scenes.size() != 1) {
        throw error({command, 0, 0}, "--picture was given with " + std::to_string(scenes.size()) + " scenes",
                    "the one scene that the picture shows");
    }
    request.finished_format = given.format();
    picture finished = given.read();
    const view& view = request.units.front().asked.view;
    if (finished.width != view.width || finished.height != view.height) {
        throw error({given.file, 0, 0},
                    fmt::format("the picture is {}x{}, the scene's view {}x{}", finished.width,
                                finished.height, view.width, view.height),
                    "a picture of the view's size");
    }
    const scene own = named_scene(on, scenes.front()).scene;
    std::erase_if(request.units, [&](const verify::check_unit& unit) {
        return unit.asked.shading.rate != own.shading.rate || unit.asked.shading.model != own.shading.model;
    });
    on.remark(given.file + " is one picture: the relations, which need others to be drawn, are left out");
    return finished;
}

namespace {

// A word as a shell takes it.
std::string quoted(const std::string& word) {
    const bool plain = !word.empty() &&
                       word.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"
                                              "_-./,:=@%+") == std::string::npos;
    if (plain) {
        return word;
    }
    std::string made = "'";
    for (const char c : word) {
        made += c == '\'' ? std::string("'\\''") : std::string(1, c);
    }
    return made + "'";
}

} // namespace

void require_page_name(const std::string& file) {
    if (!file.ends_with(".html")) {
        throw error({file, 0, 0}, "a page is not named so", "a name that ends in .html");
    }
}

page_made write_page(session& on, const page_subject& about) {
    require_page_name(about.file);
    if (!about.program.empty() && !about.given.file.empty()) {
        throw error({"yurvo report", 0, 0}, "there are a picture and a program", "one of the two");
    }
    std::shared_ptr<const program_renderer> program;
    if (!about.program.empty()) {
        program = open_program(on, about.program);
    }
    const renderer& by = program ? static_cast<const renderer&>(*program) : built_in_renderer();
    study::evidence_request request;
    request.all = about.scenes.empty();
    request.tell = [&](const std::string& what) { on.progress(what); };
    request.checks.units = units_asked(on, about.scenes, by, request.fitted);
    request.run = about.run;
    request.failed = about.failed;
    picture finished;
    if (!about.given.file.empty()) {
        if (about.any_size) {
            const picture given = about.given.read();
            for (verify::check_unit& unit : request.checks.units) {
                view& seen = unit.asked.view;
                if (seen.width != given.width || seen.height != given.height) {
                    unit.reference = nullptr; // what is known of pixels of another size
                    unit.asked.expects.clear();
                }
                seen.width = given.width;
                seen.height = given.height;
            }
        }
        finished = read_finished(on, about.scenes, about.given, "yurvo report", request.checks);
        request.checks.finished = &finished;
    }
    if (request.checks.units.empty()) {
        throw error({about.program, 0, 0},
                    "no scene suits what the program claims: " +
                        (request.fitted.empty() ? std::string() : request.fitted.front()),
                    "`kinds`, `lights` and the laws that it takes");
    }
    const study::evidence found = study::gather(std::move(request), by, program.get());
    on.progress("writing " + about.file);
    report::page_facts facts;
    const std::string subject = !about.program.empty() ? about.program : about.given.file;
    std::string scenes;
    for (const std::string& each : about.scenes) {
        scenes += (scenes.empty() ? "" : ", ") + each;
    }
    facts.title = !subject.empty() ? subject : about.scenes.empty() ? "The reference scenes" : scenes;
    facts.about = program ? "a shader program, held to " + (scenes.empty() ? "all reference scenes" : scenes)
                  : !about.given.file.empty()
                      ? "a picture, held to " + scenes
                      : "what the pipeline draws, held to rays cast in double precision";
    facts.version = YURVO_VERSION;
    facts.command = "yurvo report";
    for (const std::string& each : about.scenes) {
        facts.command += " " + quoted(each);
    }
    const auto add = [&](const char* option, const std::string& value) {
        facts.command += value.empty() ? "" : std::string(" ") + option + " " + quoted(value);
    };
    add("--program", about.program);
    add("--picture", about.given.file);
    add("--as", about.given.as);
    add("-o", about.file);
    write_whole(about.file, report::page(found, facts, program.get()));
    return {found.verdict.line, found.verdict.what == study::finding::right};
}

} // namespace yurvo::app
