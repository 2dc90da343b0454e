#include "yurvo/report/curves.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/study/curves.hpp"

namespace yurvo::app {

namespace {

struct curves_options {
    std::string scene, output;
    json_option data;
};

int run(session& on, const curves_options& options) {
    require_picture_name(options.output);
    const study::named_scene named = named_scene(on, options.scene);
    const study::curves found = study::curves_of(named.scene);
    write_picture(options.output, report::curves_sheet(named, found));
    if (options.data.speaks()) {
        on.print("{}{}: the curves\n", report::curves_text(found), options.output);
    }
    options.data.write(on, report::data_of(named, found));
    return all_held;
}

} // namespace

void add_curves(option_list& to, session& on) {
    auto options = std::make_shared<curves_options>();
    add_scene_name(to, options->scene);
    to.text("-o,--output", options->output, "the plot: .png, .exr or .pfm",
            {.type = "FILE", .required = true, .written = true});
    options->data.add_to(to, "the curves' points");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
