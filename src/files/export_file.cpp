#include "yurvo/files/export_file.hpp"

#include <set>

#include "files/exporting.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1 {

namespace files {

void remark_common(const scene& from, exported& result) {
    if (from.shading.model == model_kind::cel) {
        result.left_out.emplace_back("the model `cel`: its bands and outline");
    }
    if (from.shading.rate != rate::fragment) {
        result.left_out.push_back("the rate `" + std::string(name_of(from.shading.rate)) + "`");
    }
    if (from.formulas.any()) {
        result.left_out.emplace_back("the formulas, which only `--language` writes");
    }
    for (std::size_t i = 0; i < from.lights.size(); ++i) {
        const light& lamp = from.lights[i].light;
        if (has_parts(lamp)) {
            result.left_out.push_back("of the light `" + label_of(from.lights[i], i) +
                                      "`: its parts, `ambient`, `diffuse` and `specular`");
        }
    }
    for (std::size_t i = 0; i < from.objects.size(); ++i) {
        if (std::holds_alternative<field_shape>(from.objects[i].shape)) {
            result.left_out.push_back("`" + label_of(from.objects[i], i) +
                                      "`: an implicit surface has no triangles");
        }
    }
}

std::string texture_bytes(const texture& image) {
    picture shown(image.width, image.height);
    for (int y = 0; y < image.height; ++y) {
        for (int x = 0; x < image.width; ++x) {
            const std::size_t at = static_cast<std::size_t>(y) * static_cast<std::size_t>(image.width) +
                                   static_cast<std::size_t>(x);
            shown.set(x, y, image.of_codes ? texture::decoded(image.texels[at]) : image.texels[at], 1);
        }
    }
    return png_bytes(shown);
}

} // namespace files

exported export_scene(const scene& from, const std::string& name) {
    if (name.ends_with(".obj")) {
        return files::export_obj(from, name);
    }
    if (name.ends_with(".gltf") || name.ends_with(".glb")) {
        return files::export_gltf(from, name);
    }
    throw error({name, 0, 0}, "the name says no kind of file to export to",
                "a name that ends in .obj, .gltf or .glb");
}

} // namespace yurvo::inline v0_1
