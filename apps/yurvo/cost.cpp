#include "yurvo/report/cost.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/study/cost.hpp"

namespace yurvo::app {

namespace {

struct cost_options {
    scene_options from;
    std::string output;
    json_option data;
    int repeat = 15;
    int threads = 0;
};

int run(session& on, const cost_options& options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    const loaded_scene loaded = options.from.load(on);
    const study::cost_settings settings{options.repeat, options.threads,
                                        [&](const std::string& what) { on.progress(what); }};
    const study::cost found = study::measure_cost(loaded.of.scene, *loaded.by, settings);
    std::string text = report::cost_text(loaded.of, found, options.repeat);
    if (!options.output.empty()) {
        const study::cost_growth growth = study::measure_growth(loaded.of.scene, *loaded.by, settings);
        write_picture(options.output, report::growth_sheet(loaded.of, found.model, growth));
        text += options.output + ": the plot\n";
    }
    if (options.data.speaks()) {
        on.print("{}", text);
    }
    options.data.write(on, report::json_of(loaded.of, found, options.repeat));
    return all_held;
}

} // namespace

void add_cost(CLI::App& command, session& on) {
    auto options = std::make_shared<cost_options>();
    options->from.add_to(command, false);
    options->from.add_program_to(command);
    command.add_option("--repeat", options->repeat, "frames to take the median of")
        ->check(CLI::Range(1, 10000))
        ->capture_default_str();
    command.add_option("--threads", options->threads, "at most so many; 0 is as many as the machine has")
        ->check(CLI::Range(0, 1024));
    command
        .add_option("-o,--output", options->output,
                    "a plot against tessellation and lights: .png, .exr or .pfm")
        ->type_name("FILE");
    options->data.add_to(command, "the figures");
    run_with(command, on, options, run);
}

} // namespace yurvo::app
