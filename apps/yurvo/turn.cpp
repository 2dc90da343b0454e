#include "yurvo/report/turn.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/study/turn.hpp"

namespace yurvo::app {

namespace {

struct turn_options {
    scene_options from;
    std::string output, what = "object", name;
    json_option data;
    int steps = 8;
};

int run(session& on, const turn_options& options) {
    require_picture_name(options.output);
    const auto what = word_of<turned_part>(options.what, "--what");
    if (options.steps < 1 || options.steps > 64) {
        throw error({"--steps", 0, 0}, "there are " + std::to_string(options.steps),
                    "a whole number from 1 to 64");
    }
    const loaded_scene loaded = options.from.load(on);
    const study::turn found =
        study::turn_around(loaded.of.scene, what, options.steps, options.name, *loaded.by);
    write_picture(options.output, report::turn_sheet(loaded.of, found));
    if (options.data.speaks()) {
        on.print("{}{}: the sheet\n", report::turn_text(found), options.output);
    }
    options.data.write(on, report::data_of(loaded.of, found));
    return all_held;
}

} // namespace

void add_turn(option_list& to, session& on) {
    auto options = std::make_shared<turn_options>();
    options->from.add_to(to, true);
    options->from.add_program_to(to);
    to.text("-o,--output", options->output, "the sheet: .png, .exr or .pfm",
            {.type = "FILE", .required = true, .written = true});
    to.text("--what", options->what,
            "object (each in place), eye or light (around the view's target); all about the vertical",
            {.type = "WHAT", .show_default = true});
    to.text("--name", options->name, "only the object or light of this name", {.type = "NAME"});
    to.whole("--steps", options->steps, "how many views of a whole turn",
             {.type = "N", .show_default = true});
    options->data.add_to(to, "the figures");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
