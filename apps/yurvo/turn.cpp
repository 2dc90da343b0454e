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
    options.data.write(on, report::json_of(loaded.of, found));
    return all_held;
}

} // namespace

void add_turn(CLI::App& command, session& on) {
    auto options = std::make_shared<turn_options>();
    options->from.add_to(command, true);
    options->from.add_program_to(command);
    command.add_option("-o,--output", options->output, "the sheet: .png, .exr or .pfm")
        ->required()
        ->type_name("FILE");
    command
        .add_option("--what", options->what,
                    "object (each in place), eye or light (around the view's target); all about the vertical")
        ->type_name("WHAT")
        ->capture_default_str();
    command.add_option("--name", options->name, "only the object or light of this name")->type_name("NAME");
    command.add_option("--steps", options->steps, "how many views of a whole turn")
        ->type_name("N")
        ->capture_default_str();
    options->data.add_to(command, "the figures");
    run_with(command, on, options, run);
}

} // namespace yurvo::app
