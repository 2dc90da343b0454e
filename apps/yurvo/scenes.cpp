#include "yurvo/report/scenes.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::app {

namespace {

struct scenes_options {
    std::string name, output;
    json_option data;
};

bool is_picture_name(const std::string& name) {
    return name.ends_with(".png") || name.ends_with(".exr") || name.ends_with(".pfm");
}

int list_all(session& on, const scenes_options& options) {
    if (!options.output.empty()) {
        throw error({"yurvo scenes", 0, 0}, "-o was given without a scene", "the name of the scene to write");
    }
    std::vector<report::data> references;
    std::vector<report::data> demos;
    std::string text = "Reference scenes: what each shows, and what is known of it in closed form.\n\n";
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        text += report::reference_text(reference, false);
        references.push_back(report::data_of(reference));
    }
    text += "Demo scenes: to look at.\n\n";
    for (const demo_scene& demo : demo_scenes()) {
        text += fmt::format("{}\n    {}\n", demo.name, demo.title);
        demos.push_back(report::data().set("name", demo.name).set("title", demo.title));
    }
    if (options.data.speaks()) {
        on.print("{}", text);
    }
    options.data.write(on, report::data().set("reference", references).set("demo", demos));
    return all_held;
}

int run(session& on, const scenes_options& options) {
    if (options.name.empty()) {
        return list_all(on, options);
    }
    const study::named_scene found = named_scene(on, options.name);
    const verify::reference_scene* reference = verify::find_reference(options.name);
    const bool drawn = is_picture_name(options.output);
    if (drawn) {
        write_picture(options.output, report::scene_sheet(found, reference));
    } else if (!options.output.empty()) {
        write_scene(options.output, found.scene);
    }
    if (options.data.speaks()) {
        on.print("{}", reference != nullptr ? report::reference_text(*reference, true)
                                            : fmt::format("{}\n    {}\n", found.name, found.scene.title));
        if (!options.output.empty()) {
            on.print("{}: {}\n", options.output,
                     drawn ? "the scene, drawn, with what is known of it" : "the scene file");
        }
    }
    options.data.write(on, reference != nullptr
                               ? report::data_of(*reference)
                               : report::data().set("name", found.name).set("title", found.scene.title));
    return all_held;
}

} // namespace

void add_scenes(option_list& to, session& on) {
    auto options = std::make_shared<scenes_options>();
    to.text("name", options->name, "one scene; all of them where none is named", {.type = "SCENE"});
    to.text("-o,--output", options->output,
            "write that scene's file here, to start from; or, .png, its picture with what is known of it",
            {.type = "FILE"});
    options->data.add_to(to, "the same");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
