#include "session.hpp"

#include <algorithm>
#include <filesystem>
#include <memory>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::app {

namespace {

struct scenes_options {
    std::string name, output, json_file;
};

// The mistakes whose pictures of this scene are far off the right one.
std::vector<std::string_view> revealed_in(const std::string& scene) {
    std::vector<std::string_view> ids;
    for (const verify::mistake_entry& one : verify::all_mistakes()) {
        const std::vector<std::string_view>& scenes = verify::revealed_by(one.which);
        if (std::find(scenes.begin(), scenes.end(), scene) != scenes.end()) {
            ids.push_back(one.id);
        }
    }
    return ids;
}

json data_of(const verify::reference_scene& reference) {
    json data{
        {"name", reference.name},   {"title", reference.scene.title},         {"shows", reference.shows},
        {"known", reference.known}, {"reveals", revealed_in(reference.name)}, {"rates", json::array()}};
    for (const rate at : reference.rates) {
        data["rates"].push_back(name_of(at));
    }
    return data;
}

void print_reference(session& on, const verify::reference_scene& reference, bool whole) {
    on.print("{}\n    {}\n", reference.name, wrapped(reference.shows, 4));
    for (const std::string& line : reference.known) {
        on.print("    · {}\n", wrapped(line, 6));
    }
    const std::vector<std::string_view> ids = revealed_in(reference.name);
    std::string listed_ids;
    for (const std::string_view id : ids) {
        listed_ids += (listed_ids.empty() ? "" : ", ") + std::string(id);
    }
    on.print("    {}\n\n", whole ? wrapped(fmt::format("Reveals {} mistakes: {}", ids.size(), listed_ids), 4)
                                 : fmt::format("Reveals {} mistakes.", ids.size()));
}

bool is_picture_name(const std::string& name) {
    return name.ends_with(".png") || name.ends_with(".exr") || name.ends_with(".pfm");
}

// Textures that come with a scene, beside its file, so that it can be read again.
void write_textures(const scene& of, const std::string& scene_file) {
    for (const named_material& one : of.materials) {
        if (!one.image || one.texture_file.empty()) {
            continue;
        }
        picture image(one.image->width, one.image->height);
        for (std::size_t i = 0; i < one.image->texels.size(); ++i) {
            const auto width = static_cast<std::size_t>(one.image->width);
            image.set(static_cast<int>(i % width), static_cast<int>(i / width), one.image->texels[i], 1);
        }
        write_picture((std::filesystem::path(scene_file).parent_path() / one.texture_file).string(), image);
    }
}

// The scene at each rate, and what is known of it in numbers.
picture sheet_of(const scene& of, const verify::reference_scene* reference, const std::string& name) {
    report::sheet sheet;
    sheet.title = of.title.empty() ? name : of.title;
    sheet.subtitle = name + (reference != nullptr ? ": " + reference->shows : "");
    sheet.columns = 2;
    std::vector<rate> rates{of.shading.rate};
    if (reference != nullptr) {
        rates = reference->rates;
    }
    for (const rate at : rates) {
        scene drawn = of;
        drawn.shading.rate = at;
        sheet.panels.push_back({"per " + std::string(name_of(at)), "", draw(drawn), std::nullopt, {}});
    }
    if (reference != nullptr) {
        report::panel known;
        known.title = "known in closed form";
        constexpr std::size_t most = 11;
        for (const verify::expectation& one : reference->expectations) {
            if (known.table.size() < most) {
                known.table.emplace_back(std::string(name_of(one.rate)) + ", " + one.name,
                                         triple({one.color.r, one.color.g, one.color.b}, 4));
            }
        }
        known.note =
            reference->expectations.size() > most
                ? fmt::format("and {} more: yurvo scenes {}", reference->expectations.size() - most, name)
                : "";
        sheet.panels.push_back(known);
    }
    return report::render(sheet);
}

int run(session& on, const scenes_options& options) {
    json data{{"reference", json::array()}, {"demo", json::array()}};
    if (options.name.empty()) {
        if (!options.output.empty()) {
            throw error({"yurvo scenes", 0, 0}, "-o was given without a scene",
                        "the name of the scene to write");
        }
        if (speaks(options.json_file)) {
            on.print("Reference scenes: what each shows, and what is known of it in closed form.\n\n");
        }
        for (const verify::reference_scene& reference : verify::reference_scenes()) {
            if (speaks(options.json_file)) {
                print_reference(on, reference, false);
            }
            data["reference"].push_back(data_of(reference));
        }
        if (speaks(options.json_file)) {
            on.print("Demo scenes: to look at.\n\n");
        }
        for (const demo_scene& demo : demo_scenes()) {
            if (speaks(options.json_file)) {
                on.print("{}\n    {}\n", demo.name, demo.title);
            }
            data["demo"].push_back({{"name", demo.name}, {"title", demo.title}});
        }
        write_json(on, options.json_file, data);
        return all_held;
    }
    const scene found = find_scene(on, options.name);
    const verify::reference_scene* reference = verify::find_reference(options.name);
    if (is_picture_name(options.output)) {
        write_picture(options.output, sheet_of(found, reference, options.name));
    } else if (!options.output.empty()) {
        write_textures(found, options.output);
        write_whole(options.output, scene_text(found));
    }
    if (speaks(options.json_file)) {
        if (reference != nullptr) {
            print_reference(on, *reference, true);
            for (const verify::expectation& expected : reference->expectations) {
                on.print("    per {}, {}: pixel ({}, {}) is {}\n        {}\n", name_of(expected.rate),
                         expected.name, expected.x, expected.y,
                         triple({expected.color.r, expected.color.g, expected.color.b}, 6), expected.says);
            }
        } else {
            on.print("{}\n    {}\n", options.name, found.title);
        }
        if (!options.output.empty()) {
            on.print("{}: {}\n", options.output,
                     is_picture_name(options.output) ? "the scene, drawn, with what is known of it"
                                                     : "the scene file");
        }
    }
    write_json(on, options.json_file,
               reference != nullptr ? data_of(*reference)
                                    : json{{"name", options.name}, {"title", found.title}});
    return all_held;
}

} // namespace

void add_scenes(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "scenes", "List the scenes that come with the tool, or say what is known of one and write its file.");
    auto options = std::make_shared<scenes_options>();
    command->add_option("name", options->name, "one scene; all of them where none is named")
        ->type_name("SCENE");
    command
        ->add_option(
            "-o,--output", options->output,
            "write that scene's file here, to start from; or, .png, its picture with what is known of it")
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "the same as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
