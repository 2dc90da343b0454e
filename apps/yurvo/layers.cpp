#include "session.hpp"

#include <memory>

#include "yurvo/files/whole_file.hpp"
#include "yurvo/picture/comparison.hpp"
#include "yurvo/pipeline/layers.hpp"
#include "yurvo/report/sheet.hpp"

namespace yurvo::app {

namespace {

struct layers_options {
    scene_options from;
    std::string output, panels, json_file;
};

int run(session& on, const layers_options& options) {
    require_picture_name(options.output);
    const layers_result result = show_layers(options.from.load(on), options.from.scene, options.panels);
    write_picture(options.output, result.sheet);
    if (speaks(options.json_file)) {
        on.print("{}{}: the sheet\n", result.text, options.output);
    }
    write_json(on, options.json_file, result.data);
    return all_held;
}

} // namespace

layers_result show_layers(const drawable& of, const std::string& name, const std::string& panels_folder) {
    const term_drawer own = [&](const scene& s, const draw_settings& settings) {
        return of.draw_scene(s, settings);
    };
    const std::vector<layer> layers = build_up(of.scene, of.own != nullptr ? own : term_drawer());
    if (!panels_folder.empty()) {
        make_folder(panels_folder);
    }
    layers_result result;
    result.data = {{"scene", name}, {"model", of.model}, {"layers", json::array()}};
    report::sheet sheet;
    sheet.title = of.scene.title.empty() ? name : of.scene.title;
    sheet.subtitle = fmt::format("{}: {} per {}, built up term by term; the last panel is the whole picture",
                                 name, of.model, name_of(of.scene.shading.rate));
    sheet.columns = layers.size() <= 2 ? 2 : layers.size() == 4 ? 2 : 3;
    result.text = fmt::format("{:<18}{:>12}{:>16}   {}\n", "layer", "mean", "adds at most", "at");
    for (std::size_t i = 0; i < layers.size(); ++i) {
        const layer& one = layers[i];
        const difference whole = compare(picture(one.made.width, one.made.height), one.made);
        json entry{{"name", one.name}, {"mean", whole.mean_signed}};
        std::string adds = "-";
        std::string at;
        std::string note = i == 0 ? "the base colours, without light" : "";
        if (i >= 2) {
            const difference added = compare(layers[i - 1].made, one.made);
            entry["adds"] = {{"largest", added.largest},
                             {"largest_at", {added.largest_x, added.largest_y}},
                             {"mean", added.mean_signed}};
            adds = digits(added.largest);
            at = fmt::format("{}, {}", added.largest_x, added.largest_y);
            note = fmt::format("adds {} on average, {} at most, at {}", digits(added.mean_signed), adds, at);
        } else if (i == 1) {
            note = fmt::format("{} on average, linear", digits(whole.mean_signed));
        }
        if (!panels_folder.empty()) {
            const std::string file = fmt::format("{}/{}-{}.exr", panels_folder, i, [&] {
                std::string word;
                for (const char c : one.name) {
                    word += c == '+' || c == ' ' ? "" : std::string(1, c);
                }
                return word;
            }());
            write_picture(file, one.made);
            entry["file"] = file;
        }
        result.data["layers"].push_back(entry);
        result.text +=
            fmt::format("{:<18}{:>12}{:>16}   {}\n", one.name, digits(whole.mean_signed), adds, at);
        sheet.panels.push_back({one.name, note, one.made, std::nullopt, {}});
    }
    result.text += "\n";
    result.sheet = report::render(sheet);
    return result;
}

void add_layers(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "layers",
        "Build a picture up: base colours, ambient, + diffuse, + specular, + emission, side by side.");
    auto options = std::make_shared<layers_options>();
    options->from.add_to(*command, true);
    options->from.add_program_to(*command);
    command->add_option("-o,--output", options->output, "the sheet: .png, .exr or .pfm")
        ->required()
        ->type_name("FILE");
    command
        ->add_option("--panels", options->panels, "each panel, whole and linear, as an EXR into this folder")
        ->type_name("DIR");
    command->add_option("--json", options->json_file, "what each term adds, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
