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
    options.data.write(on, report::data_of(loaded.of, found, options.repeat));
    return all_held;
}

} // namespace

void add_cost(option_list& to, session& on) {
    auto options = std::make_shared<cost_options>();
    options->from.add_to(to, false);
    options->from.add_program_to(to);
    to.whole_within("--repeat", options->repeat, 1, 10000, "frames to take the median of",
                    {.show_default = true});
    to.whole_within("--threads", options->threads, 0, 1024,
                    "at most so many; 0 is as many as the machine has");
    to.text("-o,--output", options->output, "a plot against tessellation and lights: .png, .exr or .pfm",
            {.type = "FILE", .written = true});
    options->data.add_to(to, "the figures");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
