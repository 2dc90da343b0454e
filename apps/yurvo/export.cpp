#include "session.hpp"

#include "starters.hpp"

#include <filesystem>
#include <memory>

#include "yurvo/files/export_file.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::app {

namespace {

struct export_options {
    std::string scene, output, language, json_file;
};

// The scene's model as a shader program, in a folder.
int export_shader(session& on, const export_options& options) {
    const scene of = find_scene(on, options.scene);
    const std::optional<shading_language> language = from_name<shading_language>(options.language);
    if (!language) {
        throw error({"--language", 0, 0}, "`" + options.language + "` is not known",
                    listed(all_names<shading_language>()));
    }
    starter_choice chosen;
    chosen.language = *language;
    chosen.rate = of.shading.rate;
    chosen.shading = of.shading;
    chosen.most_lights = std::max<int>(1, static_cast<int>(of.lights.size()));
    const std::vector<starter_file> files = starter_files(chosen, "shader");
    write_starter(options.output, files);
    json data{{"scene", options.scene}, {"files", json::array()}, {"left_out", json::array()}};
    for (const starter_file& one : files) {
        data["files"].push_back(options.output + "/" + one.name);
        if (speaks(options.json_file)) {
            on.print("{}/{}: {} bytes\n", options.output, one.name, grouped(one.text.size()));
        }
    }
    if (speaks(options.json_file)) {
        on.print("\n{} per {}; `yurvo compare {} --program {}/shader.toml` holds it to the right picture.\n",
                 name_of(of.shading.model), name_of(of.shading.rate), options.scene, options.output);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

int run(session& on, const export_options& options) {
    if (!options.language.empty()) {
        return export_shader(on, options);
    }
    const exported made = export_scene(find_scene(on, options.scene), options.output);
    const std::filesystem::path folder = std::filesystem::path(options.output).parent_path();
    json data{{"scene", options.scene}, {"files", json::array()}, {"left_out", made.left_out}};
    // What the first file names is there before it.
    for (auto file = made.files.rbegin(); file != made.files.rend(); ++file) {
        const std::string path = (folder / file->name).string();
        write_whole(path, file->bytes);
        data["files"].push_back(path);
    }
    if (speaks(options.json_file)) {
        for (const exported_file& file : made.files) {
            on.print("{}: {} bytes\n", (folder / file.name).string(), grouped(file.bytes.size()));
        }
        if (!made.left_out.empty()) {
            on.print("\nWhat this format cannot hold, and is left out:\n");
            for (const std::string& what : made.left_out) {
                on.print("  · {}\n", what);
            }
        }
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

void add_export(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "export",
        "Write a scene for other programs: .obj with its .mtl, or .gltf / .glb with KHR_lights_punctual.");
    auto options = std::make_shared<export_options>();
    command
        ->add_option("scene", options->scene,
                     "a scene's name (see `yurvo scenes`) or the path of a scene file")
        ->required()
        ->type_name("SCENE");
    command
        ->add_option("-o,--output", options->output,
                     "the file: .obj, .gltf or .glb; with --language a folder")
        ->required()
        ->type_name("FILE");
    command->add_option("--language", options->language,
                        "the scene's model as a shader program instead: glsl, glsl-es, glsl-vulkan or hlsl");
    command
        ->add_option("--json", options->json_file,
                     "what was written and what was left out, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
