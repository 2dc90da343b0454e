#include <algorithm>
#include <charconv>
#include <cstdint>
#include <map>
#include <sstream>
#include <string_view>
#include <system_error>

#include <tiny_obj_loader.h>

#include "files/mesh_reading.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::files {

namespace {

// The first line of what the library says, and the number of the line it says it of.
[[noreturn]] void complain(const std::string& name, const std::string& said, const std::string& right) {
    std::string first = said.substr(0, said.find('\n'));
    std::size_t line = 0;
    static const text_pattern place("[Ll]ine:? *([0-9]{1,9})");
    if (const auto found = place.find(first)) {
        line = std::stoul(found->text(1));
    }
    while (!first.empty() && (first.back() == '.' || first.back() == ' ')) {
        first.pop_back();
    }
    broken_mesh(name, line, "not a whole OBJ file: " + first, right);
}

// How many numbers must follow a key, at the least.
using number_keys = std::map<std::string_view, std::size_t>;

// The library takes a word that is no number for 0. So that none slips through, every number is looked at
// first.
void require_numbers(const std::string& text, const std::string& name, const number_keys& keys) {
    std::size_t line = 0;
    std::size_t begin = 0;
    while (begin < text.size()) {
        const std::size_t end = std::min(text.find('\n', begin), text.size());
        ++line;
        const std::string_view words(text.data() + begin, end - begin);
        std::size_t at = 0;
        const auto next = [&] {
            at = std::min(words.find_first_not_of(" \t\r", at), words.size());
            const std::size_t first = at;
            at = std::min(words.find_first_of(" \t\r", at), words.size());
            return words.substr(first, at - first);
        };
        const auto key = keys.find(next());
        if (key != keys.end()) {
            std::size_t count = 0;
            for (std::string_view word = next(); !word.empty() && word.front() != '#'; word = next()) {
                const std::size_t column = static_cast<std::size_t>(word.data() - words.data()) + 1;
                const std::string_view digits = word.substr(word.front() == '+' ? 1 : 0);
                float value = 0;
                const auto [rest, failed] =
                    std::from_chars(digits.data(), digits.data() + digits.size(), value);
                // What is too small for a float is as good as 0.
                const bool tiny =
                    failed == std::errc::result_out_of_range && digits.find("e-") != std::string_view::npos;
                const bool whole = rest == digits.data() + digits.size();
                if (!tiny && (failed != std::errc{} || !whole || !std::isfinite(value))) {
                    throw error({name, line, column},
                                "`" + std::string(word.substr(0, 40)) + "` is no finite number",
                                "a number that a float can hold");
                }
                ++count;
            }
            if (count < key->second) {
                throw error({name, line, 1},
                            "`" + std::string(key->first) + "` has " + std::to_string(count) + " numbers",
                            "at least " + std::to_string(key->second));
            }
        }
        begin = end + 1;
    }
}

// Gives the library the MTL files that the OBJ names.
class material_source : public tinyobj::MaterialReader {
    const std::string& obj_;
    const file_source& files_;

  public:
    std::string last_file;

    material_source(const std::string& obj, const file_source& files) : obj_(obj), files_(files) {}

    bool operator()(const std::string& name, std::vector<tinyobj::material_t>* materials,
                    std::map<std::string, int>* indices, std::string* warning,
                    std::string* failure) override {
        last_file = named_from(obj_, name);
        const std::string bytes = files_(last_file);
        require_numbers(bytes, last_file,
                        {{"Ka", 3}, {"Kd", 3}, {"Ks", 3}, {"Ke", 3}, {"Ns", 1}, {"d", 1}, {"Tr", 1}});
        std::istringstream text(bytes);
        tinyobj::LoadMtl(indices, materials, &text, warning, failure);
        return true;
    }
};

rgb<double> color_of(const tinyobj::real_t (&c)[3], const std::string& name, const char* key) {
    for (const tinyobj::real_t component : c) {
        if (!(std::isfinite(component) && component >= 0)) {
            broken_mesh(name, 0, std::string("`") + key + "` has a component that is below 0 or not finite",
                        "three finite numbers, 0 or more");
        }
    }
    return {c[0], c[1], c[2]};
}

// The keys that an MTL's material really has, since the library fills in the others.
std::map<std::string, std::vector<std::string>> keys_by_material(const std::string& text) {
    std::map<std::string, std::vector<std::string>> keys;
    std::istringstream lines(text);
    std::string line;
    std::string current;
    while (std::getline(lines, line)) {
        std::istringstream words(line);
        std::string key;
        words >> key;
        if (key == "newmtl") {
            words >> current;
        } else if (!key.empty()) {
            keys[current].push_back(key);
        }
    }
    return keys;
}

file_material material_of(const tinyobj::material_t& source_material, const std::vector<std::string>& keys,
                          const std::string& mtl, const file_source& files) {
    const auto has = [&](const char* key) { return std::find(keys.begin(), keys.end(), key) != keys.end(); };
    file_material result;
    result.name = source_material.name;
    if (has("Kd")) {
        result.base = color_of(source_material.diffuse, mtl, "Kd");
    }
    if (has("Ks")) {
        result.specular = color_of(source_material.specular, mtl, "Ks");
    }
    if (has("Ke")) {
        result.emission = color_of(source_material.emission, mtl, "Ke");
    }
    // An exponent of 0 is what writers put where there is no highlight.
    if (has("Ns") && source_material.shininess != 0) {
        if (!(std::isfinite(source_material.shininess) && source_material.shininess > 0)) {
            broken_mesh(mtl, 0, "`Ns` of `" + source_material.name + "` is below 0 or not finite",
                        "a finite number above 0");
        }
        result.shininess = source_material.shininess;
    }
    if (has("d") || has("Tr")) {
        if (!(source_material.dissolve >= 0 && source_material.dissolve <= 1)) {
            broken_mesh(mtl, 0, "the alpha of `" + source_material.name + "` is not from 0 to 1",
                        "a number from 0 to 1");
        }
        result.alpha = source_material.dissolve;
    }
    if (!source_material.diffuse_texname.empty()) {
        result.texture_file = source_material.diffuse_texname;
        result.image = texture_named(mtl, source_material.diffuse_texname, files);
    }
    return result;
}

struct obj_parts {
    tinyobj::attrib_t attributes;
    std::vector<tinyobj::shape_t> shapes;
    std::vector<tinyobj::material_t> materials;
};

// Puts the library's lists together into one mesh.
class assembler {
    const std::string& name_;
    const obj_parts& parts_;
    mesh_file& made_;
    std::map<std::pair<int, int>, std::uint32_t> vertices_; // by position and normal
    std::vector<bool> missing_;

    template <class List>
    [[nodiscard]] double number(const List& list, std::size_t at, const char* what) const {
        const auto value = static_cast<double>(list[at]);
        if (!std::isfinite(value)) {
            broken_mesh(name_, 0, std::string("a ") + what + " is not finite", "finite numbers");
        }
        return value;
    }
    template <class List>
    [[nodiscard]] vec3<double> triple(const List& list, int index, const char* what) const {
        const auto at = 3 * static_cast<std::size_t>(index);
        return {number(list, at, what), number(list, at + 1, what), number(list, at + 2, what)};
    }
    void require_index(int index, std::size_t count, const char* what) const {
        if (index < 0 || static_cast<std::size_t>(index) >= count) {
            broken_mesh(name_, 0,
                        std::string("a face names ") + what + " " + std::to_string(std::int64_t{index} + 1) +
                            " of " + std::to_string(count),
                        "indices of what is in the file");
        }
    }

    std::uint32_t vertex(const tinyobj::index_t& index) {
        require_index(index.vertex_index, parts_.attributes.vertices.size() / 3, "position");
        const bool has_normal = index.normal_index != -1;
        if (has_normal) {
            require_index(index.normal_index, parts_.attributes.normals.size() / 3, "normal");
        }
        const auto next = static_cast<std::uint32_t>(made_.shape.positions.size());
        const auto [place, is_new] = vertices_.try_emplace({index.vertex_index, index.normal_index}, next);
        if (is_new) {
            made_.shape.positions.push_back(
                triple(parts_.attributes.vertices, index.vertex_index, "position"));
            made_.shape.normals.push_back(
                has_normal ? triple(parts_.attributes.normals, index.normal_index, "normal")
                           : vec3<double>{});
            missing_.push_back(!has_normal);
            if (parts_.attributes.colors.size() == parts_.attributes.vertices.size()) {
                const vec3<double> color = triple(parts_.attributes.colors, index.vertex_index, "colour");
                made_.shape.colors.emplace_back(color.x, color.y, color.z);
            }
        }
        return place->second;
    }

  public:
    assembler(const std::string& name, const obj_parts& parts, mesh_file& result)
        : name_(name), parts_(parts), made_(result) {
        for (std::size_t i = 0; i + 1 < parts.attributes.texcoords.size(); i += 2) {
            result.shape.texcoords.push_back(
                {number(parts.attributes.texcoords, i, "texture coordinate"),
                 number(parts.attributes.texcoords, i + 1, "texture coordinate")});
        }
    }

    void add(const tinyobj::mesh_t& part) {
        mesh& shape = made_.shape;
        for (std::size_t i = 0; i + 2 < part.indices.size(); i += 3) {
            triangle corners{};
            triangle texcoords{};
            for (std::size_t k = 0; k < 3; ++k) {
                const tinyobj::index_t& index = part.indices[i + k];
                corners[k] = vertex(index);
                if (index.texcoord_index == -1 && !shape.texcoords.empty()) {
                    // A corner without one lies where textures begin.
                    if (blank_ == mesh::no_material) {
                        blank_ = static_cast<std::uint32_t>(shape.texcoords.size());
                        shape.texcoords.push_back({});
                    }
                    texcoords[k] = blank_;
                } else if (index.texcoord_index != -1) {
                    require_index(index.texcoord_index, parts_.attributes.texcoords.size() / 2,
                                  "texture coordinate");
                    texcoords[k] = static_cast<std::uint32_t>(index.texcoord_index);
                }
            }
            shape.triangles.push_back(corners);
            if (!shape.texcoords.empty()) {
                shape.texcoord_triangles.push_back(texcoords);
            }
            const int material = part.material_ids[i / 3];
            shape.materials.push_back(material < 0 ? mesh::no_material
                                                   : static_cast<std::uint32_t>(material));
        }
    }

    void finish() {
        compute_missing_normals(made_, missing_);
        const auto& materials = made_.shape.materials;
        if (std::all_of(materials.begin(), materials.end(),
                        [](std::uint32_t m) { return m == mesh::no_material; })) {
            made_.shape.materials.clear();
        }
    }

  private:
    std::uint32_t blank_ = mesh::no_material;
};

} // namespace

mesh_file read_obj(const std::string& name, const file_source& files) {
    obj_parts parts;
    std::string warning;
    std::string failure;
    const std::string bytes = files(name);
    require_numbers(bytes, name, {{"v", 3}, {"vn", 3}, {"vt", 1}});
    std::istringstream text(bytes);
    material_source materials(name, files);
    const bool read = tinyobj::LoadObj(&parts.attributes, &parts.shapes, &parts.materials, &warning, &failure,
                                       &text, &materials, true, false);
    if (!read || !failure.empty()) {
        complain(name, failure, "valid faces, vertices and materials");
    }
    if (warning.find("out of bounds") != std::string::npos) {
        complain(name, warning, "indices of what is in the file");
    }
    mesh_file result;
    std::uint64_t triangles = 0;
    for (const tinyobj::shape_t& shape : parts.shapes) {
        triangles += shape.mesh.indices.size() / 3;
    }
    if (triangles > most_triangles) {
        broken_mesh(name, 0, "the mesh has " + std::to_string(triangles) + " triangles",
                    "at most " + std::to_string(most_triangles));
    }
    std::map<std::string, std::vector<std::string>> keys;
    if (!materials.last_file.empty()) {
        keys = keys_by_material(files(materials.last_file));
    }
    for (const tinyobj::material_t& material : parts.materials) {
        result.materials.push_back(material_of(material, keys[material.name], materials.last_file, files));
    }
    assembler assemble(name, parts, result);
    for (const tinyobj::shape_t& shape : parts.shapes) {
        assemble.add(shape.mesh);
        if (!shape.lines.indices.empty() || !shape.points.indices.empty()) {
            result.remarks.emplace_back("lines and points are left out");
        }
    }
    assemble.finish();
    // A line the library skipped is a line a person should know of.
    if (!warning.empty()) {
        result.remarks.push_back(warning.substr(0, warning.find('\n')));
    }
    return result;
}

} // namespace yurvo::inline v0_1::files
