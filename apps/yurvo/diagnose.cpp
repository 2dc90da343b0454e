#include <algorithm>

#include "page_writing.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/diagnosis.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::app {

namespace {

struct diagnose_options {
    scene_options from;
    picture_options given;
    std::string output, page;
    json_option data;
};

int run(session& on, const diagnose_options& options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    if (!options.page.empty()) {
        require_page_name(options.page);
    }
    const loaded_scene loaded = options.from.load(on);
    if (options.given.file.empty() == !loaded.program) {
        throw error({"yurvo diagnose", 0, 0}, "there is no one thing to look into",
                    "--picture FILE or --program FILE");
    }
    const std::string what = loaded.program ? options.from.program : options.given.file;
    scene the_scene = loaded.of.scene;
    if (loaded.program && options.from.size.empty()) { // large enough for a verdict, and soon drawn
        the_scene.view.width = std::min(the_scene.view.width, 640);
        the_scene.view.height = std::min(the_scene.view.height, 400);
    }
    // A program claims a built-in model; a picture is to be what --model draws.
    const renderer& right = loaded.program ? built_in_renderer() : *loaded.by;
    const picture image = loaded.program ? loaded.by->draw(the_scene) : options.given.read();
    on.progress("looking for what explains " + what);
    verify::diagnosis found =
        loaded.program
            ? verify::diagnose(the_scene, image, loaded.by->format(), loaded.by->tolerance(), right)
            : verify::diagnose(the_scene, image, options.given.format(), {}, right);
    on.progress("");
    if (loaded.program) {
        if (const std::optional<verify::check_result> beyond = study::beyond_precision(*loaded.program)) {
            found.verdict = verify::verdict_kind::unknown;
            found.remarks.push_back(beyond->remark);
        }
    }
    if (options.data.speaks()) {
        on.print("{}", report::diagnosis_text(found, what, options.from.scene));
    }
    if (!options.output.empty()) {
        write_picture(options.output, report::diagnosis_sheet(found, image, what, right));
        if (options.data.speaks()) {
            on.print("\n{}: the evidence\n", options.output);
        }
    }
    if (!options.page.empty()) {
        write_page(on, {{options.from.scene}, options.from.program, options.given, options.page, true});
    }
    report::data data = report::data_of(found);
    data.set("scene", options.from.scene).set(loaded.program ? "program" : "picture", what);
    options.data.write(on, data);
    return found.verdict == verify::verdict_kind::right ? all_held : not_held;
}

} // namespace

void add_diagnose(option_list& to, session& on) {
    auto options = std::make_shared<diagnose_options>();
    options->from.add_to(to, true);
    options->from.add_program_to(to);
    options->given.add_to(to, "the picture: .png, .exr or .pfm");
    to.text("-o,--output", options->output, "a sheet: the picture, the right one, the mistaken one",
            {.type = "FILE", .written = true});
    to.text("--report", options->page, "the page that `yurvo report` makes of the scene",
            {.type = "FILE", .written = true});
    options->data.add_to(to, "the findings");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
