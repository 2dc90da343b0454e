#include <filesystem>
#include <iterator>

#include <fmt/format.h>

#include "files/exporting.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::files {

namespace {

using out = std::back_insert_iterator<std::string>;

// Floats in the fewest digits that read back as the same.
float rounded(double value) { return static_cast<float>(value); }

std::string without_blanks(std::string name) {
    for (char& c : name) {
        c = c == ' ' || c == '\t' ? '_' : c;
    }
    return name.empty() ? "unnamed" : name;
}

bool is_one(const rgb<double>& c) { return c == rgb<double>(1.0); }

std::string material_text(const named_material& material, const std::string& texture_name) {
    const yurvo::material& look = material.look;
    std::string text = fmt::format("newmtl {}\n", without_blanks(material.name));
    const auto color = [&](const char* key, const rgb<double>& c) {
        fmt::format_to(out(text), "{} {} {} {}\n", key, rounded(c.r), rounded(c.g), rounded(c.b));
    };
    color("Ka", look.base * look.ambient);
    color("Kd", look.base * look.diffuse);
    color("Ks", look.specular);
    color("Ke", look.emission);
    fmt::format_to(out(text), "Ns {}\nd {}\nillum 2\n", rounded(look.shininess), rounded(look.alpha));
    if (!texture_name.empty()) {
        fmt::format_to(out(text), "map_Kd {}\n", texture_name);
    }
    return text + "\n";
}

// Indices so far: they run on through the whole file, from 1.
struct counts {
    std::size_t positions = 1, texcoords = 1;
};

void add_object(std::string& text, const scene& from, std::size_t which, counts& so_far) {
    const object& object = from.objects[which];
    const mesh shape = build_mesh(object);
    const bool placed = object.placed != placement{};
    const matrix4 to_world = object_to_world(object.placed);
    const matrix3 of_normals = normal_matrix(to_world);
    const bool turned = mirrors(to_world);
    fmt::format_to(out(text), "o {}\n", without_blanks(label_of(object, which)));
    for (std::size_t i = 0; i < shape.positions.size(); ++i) {
        const vec3<double> p = placed ? transform_point(to_world, shape.positions[i]) : shape.positions[i];
        fmt::format_to(out(text), "v {} {} {}", rounded(p.x), rounded(p.y), rounded(p.z));
        if (!shape.colors.empty()) {
            const rgb<double>& c = shape.colors[i];
            fmt::format_to(out(text), " {} {} {}", rounded(c.r), rounded(c.g), rounded(c.b));
        }
        text += '\n';
    }
    for (const vec3<double>& normal : shape.normals) {
        const vec3<double> n = placed ? normalize(transform_direction(of_normals, normal)) : normal;
        fmt::format_to(out(text), "vn {} {} {}\n", rounded(n.x), rounded(n.y), rounded(n.z));
    }
    for (const texcoord& at : shape.texcoords) {
        fmt::format_to(out(text), "vt {} {}\n", rounded(at.u), rounded(at.v));
    }
    const auto* the_shape = std::get_if<mesh_shape>(&object.shape);
    std::size_t current = from.materials.size();
    for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
        std::size_t material = object.material;
        if (the_shape != nullptr && !shape.materials.empty() && shape.materials[t] != mesh::no_material) {
            material = the_shape->materials[shape.materials[t]];
        }
        if (material != current) {
            current = material;
            fmt::format_to(out(text), "usemtl {}\n", without_blanks(from.materials[material].name));
        }
        text += 'f';
        for (const std::size_t k :
             {std::size_t{0}, std::size_t{turned ? 2U : 1U}, std::size_t{turned ? 1U : 2U}}) {
            const std::size_t vertex = shape.triangles[t][k] + so_far.positions;
            if (shape.texcoords.empty()) {
                fmt::format_to(out(text), " {}//{}", vertex, vertex);
            } else {
                fmt::format_to(out(text), " {}/{}/{}", vertex,
                               shape.texcoord_corners(t)[k] + so_far.texcoords, vertex);
            }
        }
        text += '\n';
    }
    so_far.positions += shape.positions.size();
    so_far.texcoords += shape.texcoords.size();
}

} // namespace

exported export_obj(const scene& from, const std::string& name) {
    const std::string stem = std::filesystem::path(name).stem().string();
    exported result;
    std::string text = fmt::format("# {}\nmtllib {}.mtl\n", from.title, stem);
    std::string materials;
    std::vector<exported_file> textures;
    for (const named_material& material : from.materials) {
        std::string texture_name;
        if (material.image) {
            texture_name = fmt::format("{}-{}.png", stem, textures.size());
            textures.push_back({texture_name, texture_bytes(*material.image)});
        }
        materials += material_text(material, texture_name);
        if (material.look.two_sided) {
            result.left_out.push_back("`two_sided` of the material `" + material.name + "`");
        }
        if (!is_one(material.look.ambient) || !is_one(material.look.diffuse)) {
            result.left_out.push_back("the factors `ambient` and `diffuse` of the material `" +
                                      material.name + "` by themselves: they are in its colours");
        }
    }
    counts so_far;
    for (std::size_t i = 0; i < from.objects.size(); ++i) {
        if (!std::holds_alternative<field_shape>(from.objects[i].shape)) {
            add_object(text, from, i, so_far);
        }
    }
    result.left_out.emplace_back("the view");
    result.left_out.emplace_back("the ambient light");
    if (!from.lights.empty()) {
        result.left_out.push_back("all lights, " + std::to_string(from.lights.size()) + " of them");
    }
    remark_common(from, result);
    result.files.push_back({std::filesystem::path(name).filename().string(), std::move(text)});
    result.files.push_back({stem + ".mtl", std::move(materials)});
    result.files.insert(result.files.end(), std::make_move_iterator(textures.begin()),
                        std::make_move_iterator(textures.end()));
    return result;
}

} // namespace yurvo::inline v0_1::files
