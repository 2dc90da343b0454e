#include <filesystem>

#include "page_writing.hpp"
#include "session.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace yurvo::app {

namespace {

struct report_options {
    std::vector<std::string> scenes;
    std::string program, output;
    picture_options given;
};

int run(session& on, const report_options& options) {
    page_subject about{options.scenes, options.program, options.given, options.output};
    const page_made made = write_page(on, about);
    on.print("{}: {}\n", options.output, made.line);
    return made.right ? all_held : not_held;
}

} // namespace

void add_report(option_list& to, session& on) {
    auto options = std::make_shared<report_options>();
    to.texts("scenes", options->scenes,
             "reference scenes by name, or scene files of your own; all reference scenes where none is named",
             {.type = "SCENE"});
    to.text("-o,--output", options->output, "the page, a file that ends in .html",
            {.type = "FILE", .required = true, .written = true});
    to.text("--program", options->program, "about this shader program of yours", {.type = "FILE"});
    options->given.add_to(to, "about this picture of the scene: .png, .exr or .pfm");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
