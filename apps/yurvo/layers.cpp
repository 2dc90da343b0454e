#include "yurvo/report/layers.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/study/layers.hpp"

namespace yurvo::app {

namespace {

struct layers_options {
    scene_options from;
    std::string output, panels;
    json_option data;
};

// `1-ambient.exr`
std::string panel_file(const std::string& folder, std::size_t i, const std::string& layer) {
    std::string word;
    for (const char c : layer) {
        word += c == '+' || c == ' ' ? "" : std::string(1, c);
    }
    return fmt::format("{}/{}-{}.exr", folder, i, word);
}

int run(session& on, const layers_options& options) {
    require_picture_name(options.output);
    const loaded_scene loaded = options.from.load(on);
    const study::layers found = study::build_up(loaded.of.scene, *loaded.by);
    report::data data = report::data_of(loaded.of, found);
    if (!options.panels.empty()) {
        make_folder(options.panels);
        for (std::size_t i = 0; i < found.list.size(); ++i) {
            const std::string file = panel_file(options.panels, i, found.list[i].name);
            write_picture(file, found.list[i].drawn);
            data.set_in("layers", i, "file", file);
        }
    }
    write_picture(options.output, report::layers_sheet(loaded.of, found));
    if (options.data.speaks()) {
        on.print("{}{}: the sheet\n", report::layers_text(found), options.output);
    }
    options.data.write(on, data);
    return all_held;
}

} // namespace

void add_layers(option_list& to, session& on) {
    auto options = std::make_shared<layers_options>();
    options->from.add_to(to, true);
    options->from.add_program_to(to);
    to.text("-o,--output", options->output, "the sheet: .png, .exr or .pfm",
            {.type = "FILE", .required = true, .written = true});
    to.text("--panels", options->panels, "each panel, whole and linear, as an EXR into this folder",
            {.type = "DIR"});
    options->data.add_to(to, "what each term adds");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
