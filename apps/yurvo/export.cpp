#include <algorithm>
#include <filesystem>

#include "report/text.hpp"
#include "session.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/model_header.hpp"
#include "yurvo/program/starters.hpp"

namespace yurvo::app {

namespace {

struct export_options {
    std::string scene, output, language;
    json_option data;
};

report::data data_of_export(const export_options& options, const std::vector<std::string>& files,
                            const std::vector<std::string>& left_out) {
    report::data data;
    return data.set("scene", options.scene).set("files", files).set("left_out", left_out);
}

void tell_left_out(session& on, const std::vector<std::string>& left_out) {
    if (left_out.empty()) {
        return;
    }
    on.print("\nWhat this format cannot hold, and is left out:\n");
    for (const std::string& what : left_out) {
        on.print("  · {}\n", what);
    }
}

// What the lights' ambient parts fall off with: one rule for all lights is written.
ambient_follows follows_of(const scene& the_scene, std::vector<std::string>& left_out) {
    std::optional<ambient_follows> rule;
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        const light& lamp = the_scene.lights[i].light;
        if (!has_ambient(lamp) || lamp.kind == light_kind::directional) {
            continue;
        }
        if (lamp.follows != rule.value_or(lamp.follows)) {
            left_out.push_back("of the light `" + label_of(the_scene.lights[i], i) +
                               "`: that its ambient part follows `" + std::string(name_of(lamp.follows)) +
                               "`; the shader has one rule for all, `" + std::string(name_of(*rule)) + "`");
        }
        rule = rule.value_or(lamp.follows);
    }
    return rule.value_or(ambient_follows::cone);
}

// The scene's model as a C++ header.
int export_header(session& on, const export_options& options) {
    const std::string text = model_header(named_scene(on, options.scene).scene);
    if (!options.output.ends_with(".hpp") && !options.output.ends_with(".h")) {
        throw error({options.output, 0, 0}, "is no name for a header", "a name that ends in .hpp");
    }
    write_whole(options.output, text);
    if (options.data.speaks()) {
        on.print("{}: {} bytes, `struct scene_model`\n", options.output, report::grouped(text.size()));
    }
    options.data.write(on, data_of_export(options, {options.output}, {}));
    return all_held;
}

// The scene's model as a shader program, in a folder.
int export_shader(session& on, const export_options& options) {
    const scene the_scene = named_scene(on, options.scene).scene;
    starter_choice chosen;
    chosen.language = word_of<shading_language>(options.language, "--language");
    chosen.rate = the_scene.shading.rate;
    chosen.shading = the_scene.shading;
    chosen.most_lights = std::max<int>(1, static_cast<int>(the_scene.lights.size()));
    chosen.formulas = the_scene.formulas;
    chosen.numbers = the_scene.numbers;
    std::vector<std::string> left_out;
    chosen.follows = follows_of(the_scene, left_out);
    std::vector<std::string> written;
    std::vector<std::pair<std::string, std::string>> files;
    for (const starter_file& file : starter_files(chosen, "shader")) {
        const std::string name = file.name == "shader.toml" ? "program.toml" : file.name;
        files.emplace_back(name, file.text);
        written.push_back(options.output + "/" + name);
    }
    write_new_files(options.output, files);
    if (options.data.speaks()) {
        for (const auto& [name, text] : files) {
            on.print("{}/{}: {} bytes\n", options.output, name, report::grouped(text.size()));
        }
        tell_left_out(on, left_out);
        on.print("\n{} per {}; `yurvo compare {} --program {}/program.toml` holds it to the right picture.\n",
                 built_in_renderer().name_for(the_scene), name_of(the_scene.shading.rate), options.scene,
                 options.output);
    }
    options.data.write(on, data_of_export(options, written, left_out));
    return all_held;
}

int run(session& on, const export_options& options) {
    if (options.language == "c++") {
        return export_header(on, options);
    }
    if (!options.language.empty()) {
        return export_shader(on, options);
    }
    const exported result = export_scene(named_scene(on, options.scene).scene, options.output);
    const std::filesystem::path folder = std::filesystem::path(options.output).parent_path();
    std::vector<std::string> written;
    // What the first file names is there before it.
    for (auto file = result.files.rbegin(); file != result.files.rend(); ++file) {
        const std::string path = (folder / file->name).string();
        write_whole(path, file->bytes);
        written.push_back(path);
    }
    if (options.data.speaks()) {
        for (const exported_file& file : result.files) {
            on.print("{}: {} bytes\n", (folder / file.name).string(), report::grouped(file.bytes.size()));
        }
        tell_left_out(on, result.left_out);
    }
    options.data.write(on, data_of_export(options, written, result.left_out));
    return all_held;
}

} // namespace

void add_export(option_list& to, session& on) {
    auto options = std::make_shared<export_options>();
    add_scene_name(to, options->scene);
    to.text("-o,--output", options->output,
            "the file: .obj, .gltf or .glb; with --language a folder, or a .hpp",
            {.type = "FILE", .required = true});
    to.text(
        "--language", options->language,
        "the scene's model instead: as a shader program in glsl, glsl-es, glsl-vulkan or hlsl, or as a C++ "
        "header, c++");
    options->data.add_to(to, "what was written and what was left out");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
