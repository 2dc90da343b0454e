// Files that others write.
#include <cmath>
#include <string>

#include "finding.hpp"
#include "support/temporary_folder.hpp"
#include "targets.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/toml_edit.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::fuzzing {

namespace {

// Two parts, parted by a line of its own.
std::pair<std::string, std::string> parted(std::string_view bytes) {
    constexpr std::string_view line = "\n----\n";
    const std::size_t at = bytes.find(line);
    if (at == std::string_view::npos) {
        return {std::string(bytes), ""};
    }
    return {std::string(bytes.substr(0, at)), std::string(bytes.substr(at + line.size()))};
}

// What a scene names besides: one texture and one mesh.
std::string beside_a_scene(const std::string& name) {
    if (name.ends_with(".png")) {
        static const std::string planks = png_bytes(picture(3, 2, {0.5F, 0.3F, 0.1F}));
        return planks;
    }
    if (name.ends_with(".obj")) {
        return "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
    }
    throw error({name, 0, 0}, "is not here", "a file that is");
}

void read_mesh_of(const std::string& name, const std::string& bytes, const std::string& other) {
    read_or_refused([&] {
        const mesh_file read =
            read_mesh(name, [&](const std::string& asked) { return asked == name ? bytes : other; });
        const mesh& shape = read.shape;
        for (const triangle& corners : shape.triangles) {
            for (const auto corner : corners) {
                promise(corner < shape.positions.size(), "an index beyond the positions");
            }
        }
        promise(shape.normals.size() == shape.positions.size(), "as many normals as positions");
        promise(shape.colors.empty() || shape.colors.size() == shape.positions.size(), "colours");
        for (std::size_t t = 0; !shape.texcoords.empty() && t < shape.triangles.size(); ++t) {
            for (const auto corner : shape.texcoord_corners(t)) {
                promise(corner < shape.texcoords.size(), "an index beyond the texture coordinates");
            }
        }
        for (const auto material : shape.materials) {
            promise(material == mesh::no_material || material < read.materials.size(), "a material's index");
        }
        for (const vec3<double>& position : shape.positions) {
            promise(std::isfinite(position.x + position.y + position.z), "a position that is no number");
        }
    });
}

// Reading a picture needs a file: in memory, where the system has such a place.
void read_picture_of(const std::string& name, std::string_view bytes) {
    static const testing::temporary_folder folder;
    const std::string path = folder / name;
    put_file(path, bytes);
    read_or_refused([&] {
        const picture read = read_picture(path);
        promise(read.width > 0 && read.height > 0 && read.width <= 16384 && read.height <= 16384, "its size");
    });
}

} // namespace

void scene_file(std::string_view bytes) {
    read_or_refused([&] {
        const scene read = parse_scene(std::string(bytes), "quay.toml", beside_a_scene);
        const std::string text = scene_text(read);
        const scene again = parse_scene(text, "again.toml", beside_a_scene);
        // The picture of a texture is shared, not compared; all else is.
        promise(scene_text(again) == text, "a scene reads back as another", text);
    });
}

void value_edit(std::string_view bytes) {
    const auto first = parted(bytes);
    const std::string& text = first.first;
    const auto second = parted(first.second);
    const std::string& place = second.first;
    const std::string& value = second.second;
    read_or_refused([&] {
        const std::string changed = with_value(text, "quay.toml", place, value);
        with_value(changed, "quay.toml", place, value);
    });
    read_or_refused([&] { without_value(text, "quay.toml", place); });
    read_or_refused([&] { with_section(text, "quay.toml", place, value); });
}

void obj_file(std::string_view bytes) {
    const auto [obj, mtl] = parted(bytes);
    read_mesh_of("crate.obj", obj, mtl);
}
void gltf_file(std::string_view bytes) {
    const auto [gltf, buffer] = parted(bytes);
    read_mesh_of("crate.gltf", gltf, buffer);
}
void glb_file(std::string_view bytes) { read_mesh_of("crate.glb", std::string(bytes), ""); }

void png_file(std::string_view bytes) {
    read_or_refused([&] { read_texture(std::string(bytes), "planks.png"); });
    read_picture_of("shot.png", bytes);
}
void exr_file(std::string_view bytes) { read_picture_of("shot.exr", bytes); }
void pfm_file(std::string_view bytes) { read_picture_of("shot.pfm", bytes); }

} // namespace yurvo::fuzzing
