#include <algorithm>
#include <filesystem>

#include "report/text.hpp"
#include "session.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/starters.hpp"

namespace yurvo::app {

namespace {

struct export_options {
    std::string scene, output, language;
    json_option data;
};

// The scene's model as a shader program, in a folder.
int export_shader(session& on, const export_options& options) {
    const scene of = named_scene(on, options.scene).scene;
    starter_choice chosen;
    chosen.language = word_of<shading_language>(options.language, "--language");
    chosen.rate = of.shading.rate;
    chosen.shading = of.shading;
    chosen.most_lights = std::max<int>(1, static_cast<int>(of.lights.size()));
    json data{{"scene", options.scene}, {"files", json::array()}, {"left_out", json::array()}};
    std::vector<std::pair<std::string, std::string>> files;
    for (const starter_file& one : starter_files(chosen, "shader")) {
        files.emplace_back(one.name, one.text);
        data["files"].push_back(options.output + "/" + one.name);
    }
    write_new_files(options.output, files);
    if (options.data.speaks()) {
        for (const auto& [name, text] : files) {
            on.print("{}/{}: {} bytes\n", options.output, name, report::grouped(text.size()));
        }
        on.print("\n{} per {}; `yurvo compare {} --program {}/shader.toml` holds it to the right picture.\n",
                 name_of(of.shading.model), name_of(of.shading.rate), options.scene, options.output);
    }
    options.data.write(on, data);
    return all_held;
}

int run(session& on, const export_options& options) {
    if (!options.language.empty()) {
        return export_shader(on, options);
    }
    const exported made = export_scene(named_scene(on, options.scene).scene, options.output);
    const std::filesystem::path folder = std::filesystem::path(options.output).parent_path();
    json data{{"scene", options.scene}, {"files", json::array()}, {"left_out", made.left_out}};
    // What the first file names is there before it.
    for (auto file = made.files.rbegin(); file != made.files.rend(); ++file) {
        const std::string path = (folder / file->name).string();
        write_whole(path, file->bytes);
        data["files"].push_back(path);
    }
    if (options.data.speaks()) {
        for (const exported_file& file : made.files) {
            on.print("{}: {} bytes\n", (folder / file.name).string(), report::grouped(file.bytes.size()));
        }
        if (!made.left_out.empty()) {
            on.print("\nWhat this format cannot hold, and is left out:\n");
            for (const std::string& what : made.left_out) {
                on.print("  · {}\n", what);
            }
        }
    }
    options.data.write(on, data);
    return all_held;
}

} // namespace

void add_export(CLI::App& command, session& on) {
    auto options = std::make_shared<export_options>();
    add_scene_name(command, options->scene);
    command
        .add_option("-o,--output", options->output, "the file: .obj, .gltf or .glb; with --language a folder")
        ->required()
        ->type_name("FILE");
    command.add_option("--language", options->language,
                       "the scene's model as a shader program instead: glsl, glsl-es, glsl-vulkan or hlsl");
    options->data.add_to(command, "what was written and what was left out");
    run_with(command, on, options, run);
}

} // namespace yurvo::app
