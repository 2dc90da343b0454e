#include "session.hpp"

#include <filesystem>
#include <memory>

#include "yurvo/files/export_file.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::app {

namespace {

struct export_options {
    std::string scene, output, json_file;
};

int run(session& on, const export_options& options) {
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
    command->add_option("-o,--output", options->output, "the file: .obj, .gltf or .glb")
        ->required()
        ->type_name("FILE");
    command
        ->add_option("--json", options->json_file,
                     "what was written and what was left out, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
