#include "yurvo/files/scene_library.hpp"

#include <filesystem>

#include "embedded_scenes.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1 {

namespace {

std::string_view stem(std::string_view file) { return file.substr(0, file.find_last_of('.')); }

const embedded_file* find_embedded(std::string_view name) {
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name == name) {
            return &file;
        }
    }
    return nullptr;
}

std::string embedded_bytes(const std::string& name) {
    const embedded_file* found = find_embedded(name);
    if (found == nullptr) {
        throw error({name, 0, 0}, "cannot be read: it does not come with the tool", "one that does");
    }
    return std::string(found->bytes);
}

scene parse_embedded(const embedded_file& file) {
    return parse_scene(std::string(file.bytes), std::string(file.name), embedded_bytes);
}

picture picture_of(const texture& image) {
    picture made(image.width, image.height);
    const auto width = static_cast<std::size_t>(image.width);
    for (std::size_t i = 0; i < image.texels.size(); ++i) {
        made.set(static_cast<int>(i % width), static_cast<int>(i / width), image.texels[i], 1);
    }
    return made;
}

// Textures that come with a scene, beside its file, so that it can be read again.
void write_textures(const scene& the_scene, const std::string& scene_file) {
    for (const named_material& entry : the_scene.materials) {
        if (!entry.image || entry.texture_file.empty()) {
            continue;
        }
        write_picture((std::filesystem::path(scene_file).parent_path() / entry.texture_file).string(),
                      picture_of(*entry.image));
    }
}

} // namespace

std::vector<std::string_view> scene_names() {
    std::vector<std::string_view> names;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        names.emplace_back(reference.name);
    }
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name.ends_with(".toml")) {
            names.push_back(stem(file.name));
        }
    }
    return names;
}

scene find_scene(const std::string& name, std::vector<std::string>* remarks, const models* own) {
    if (const verify::reference_scene* reference = verify::find_reference(name)) {
        return reference->scene;
    }
    if (const embedded_file* file = find_embedded(name + ".toml")) {
        return parse_embedded(*file);
    }
    std::error_code ignored;
    if (!std::filesystem::exists(name, ignored)) {
        throw error({name, 0, 0}, "there is no such scene, nor a file of that name",
                    instead_of(name, scene_names(), "a path, or a name that `yurvo scenes` lists"));
    }
    return read_scene(name, remarks, own);
}

std::vector<demo_scene> demo_scenes() {
    std::vector<demo_scene> scenes;
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name.ends_with(".toml")) {
            scenes.push_back({std::string(stem(file.name)), parse_embedded(file).title});
        }
    }
    return scenes;
}

scene_source open_scene(const std::string& name) {
    if (const verify::reference_scene* reference = verify::find_reference(name)) {
        return {name, "", scene_text(reference->scene), [reference](const std::string& file) {
                    for (const named_material& each : reference->scene.materials) {
                        if (each.texture_file == file && each.image) {
                            return png_bytes(picture_of(*each.image));
                        }
                    }
                    return embedded_bytes(file);
                }};
    }
    if (const embedded_file* file = find_embedded(name + ".toml")) {
        return {name, "", std::string(file->bytes), embedded_bytes};
    }
    std::error_code ignored;
    if (!std::filesystem::exists(name, ignored)) {
        find_scene(name); // says what is near
    }
    return {name, name, read_whole(name, largest_scene_file),
            [name](const std::string& file) { return read_whole(beside(name, file)); }};
}

void write_scene(const std::string& path, const scene& the_scene) {
    write_textures(the_scene, path);
    write_whole(path, scene_text(the_scene));
}

} // namespace yurvo::inline v0_1
