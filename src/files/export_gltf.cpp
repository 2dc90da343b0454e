#include <cstring>
#include <filesystem>
#include <limits>

#include <Eigen/Geometry>
#include <nlohmann/json.hpp>

#include "files/exporting.hpp"
#include "files/flattened_mesh.hpp"
#include "yurvo/files/base64.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::files {

namespace {

using json = nlohmann::ordered_json;

constexpr int float_type = 5126;
constexpr int unsigned_int_type = 5125;
constexpr int vertices_target = 34962;
constexpr int indices_target = 34963;

json triple(double x, double y, double z) {
    return {static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)};
}
json triple(const vec3<double>& v) { return triple(v.x, v.y, v.z); }

// Intensity belongs to the light, and the format wants colours from 0 to 1.
rgb<double> at_most_one(const rgb<double>& c) { return min(c, rgb<double>(1.0)); }

json rotation_of(const Eigen::Quaterniond& q) {
    return {static_cast<float>(q.x()), static_cast<float>(q.y()), static_cast<float>(q.z()),
            static_cast<float>(q.w())};
}

class gltf_writer {
    const scene& from_;
    exported& made_;
    json root_;
    std::string bytes_; // of the only buffer

    int add_view(const void* data, std::size_t size, int target) {
        bytes_.resize((bytes_.size() + 3) / 4 * 4);
        json view{{"buffer", 0}, {"byteOffset", bytes_.size()}, {"byteLength", size}};
        if (target != 0) {
            view["target"] = target;
        }
        bytes_.append(static_cast<const char*>(data), size);
        root_["bufferViews"].push_back(std::move(view));
        return static_cast<int>(root_["bufferViews"].size()) - 1;
    }

    int add_accessor(const std::vector<float>& values, std::size_t components, const char* type,
                     bool bounded) {
        json accessor{{"bufferView", add_view(values.data(), values.size() * 4, vertices_target)},
                      {"componentType", float_type},
                      {"count", values.size() / components},
                      {"type", type}};
        if (bounded) {
            std::vector<float> low(components, std::numeric_limits<float>::max());
            std::vector<float> high(components, std::numeric_limits<float>::lowest());
            for (std::size_t i = 0; i < values.size(); ++i) {
                low[i % components] = std::min(low[i % components], values[i]);
                high[i % components] = std::max(high[i % components], values[i]);
            }
            accessor["min"] = low;
            accessor["max"] = high;
        }
        root_["accessors"].push_back(std::move(accessor));
        return static_cast<int>(root_["accessors"].size()) - 1;
    }

    int add_indices(const std::vector<std::uint32_t>& indices) {
        const int view = add_view(indices.data(), indices.size() * 4, indices_target);
        root_["accessors"].push_back({{"bufferView", view},
                                      {"componentType", unsigned_int_type},
                                      {"count", indices.size()},
                                      {"type", "SCALAR"}});
        return static_cast<int>(root_["accessors"].size()) - 1;
    }

    void add_material(const named_material& material) {
        const yurvo::material& look = material.look;
        const rgb<double> base = look.base * look.diffuse;
        json document{{"name", material.name}};
        // By itself: what ordered_json holds moves when a key is added beside it.
        json pbr;
        pbr["baseColorFactor"] = triple(base.r, base.g, base.b);
        pbr["baseColorFactor"].push_back(static_cast<float>(look.alpha));
        pbr["metallicFactor"] = 0;
        pbr["roughnessFactor"] = 1;
        if (base != at_most_one(base) || look.emission != at_most_one(look.emission)) {
            made_.left_out.push_back("what is above 1 in the colours of the material `" + material.name +
                                     "`");
            const rgb<double> cut = at_most_one(base);
            pbr["baseColorFactor"] = triple(cut.r, cut.g, cut.b);
            pbr["baseColorFactor"].push_back(static_cast<float>(look.alpha));
        }
        const rgb<double> emission = at_most_one(look.emission);
        document["emissiveFactor"] = triple(emission.r, emission.g, emission.b);
        document["doubleSided"] = look.two_sided;
        document["alphaMode"] = look.alpha < 1 ? "BLEND" : "OPAQUE";
        if (look.specular != rgb<double>()) {
            made_.left_out.push_back("`specular` and `shininess` of the material `" + material.name + "`");
        }
        if (look.ambient != rgb<double>(1.0)) {
            made_.left_out.push_back("`ambient` of the material `" + material.name + "`");
        }
        if (look.diffuse != rgb<double>(1.0)) {
            made_.left_out.push_back("`diffuse` of the material `" + material.name +
                                     "` by itself: it is in its colour");
        }
        if (material.image) {
            const std::string png = texture_bytes(*material.image);
            const int view = add_view(png.data(), png.size(), 0); // first: it may move what root_ holds
            root_["images"].push_back({{"bufferView", view}, {"mimeType", "image/png"}});
            root_["textures"].push_back({{"source", root_["images"].size() - 1}});
            pbr["baseColorTexture"] = {{"index", root_["textures"].size() - 1}};
        }
        document["pbrMetallicRoughness"] = std::move(pbr);
        root_["materials"].push_back(std::move(document));
    }

    void add_object(std::size_t which) {
        const object& object = from_.objects[which];
        const std::string name = label_of(object, which);
        json document{{"name", name}};
        const auto* the_shape = std::get_if<mesh_shape>(&object.shape);
        for (const mesh_part& part : split_by_material(build_mesh(object))) {
            const flattened_mesh flat = flatten(part.shape);
            std::size_t material = object.material;
            if (the_shape != nullptr && part.material != mesh::no_material) {
                material = the_shape->materials[part.material];
            }
            json primitive{{"material", material}, {"mode", 4}};
            primitive["attributes"]["POSITION"] = add_accessor(flat.positions, 3, "VEC3", true);
            primitive["attributes"]["NORMAL"] = add_accessor(flat.normals, 3, "VEC3", false);
            if (!flat.texcoords.empty()) {
                primitive["attributes"]["TEXCOORD_0"] = add_accessor(flat.texcoords, 2, "VEC2", false);
            }
            if (!flat.colors.empty()) {
                primitive["attributes"]["COLOR_0"] = add_accessor(flat.colors, 3, "VEC3", false);
            }
            primitive["indices"] = add_indices(flat.indices);
            document["primitives"].push_back(std::move(primitive));
        }
        root_["meshes"].push_back(std::move(document));
        json node{{"name", name}, {"mesh", root_["meshes"].size() - 1}};
        const placement& placed = object.placed;
        const placement at_rest;
        if (placed.position != at_rest.position) {
            node["translation"] = triple(placed.position);
        }
        if (placed.rotation != at_rest.rotation) {
            using Eigen::AngleAxisd;
            using Eigen::Vector3d;
            node["rotation"] =
                rotation_of(Eigen::Quaterniond(AngleAxisd(placed.rotation.z, Vector3d::UnitZ()) *
                                               AngleAxisd(placed.rotation.y, Vector3d::UnitY()) *
                                               AngleAxisd(placed.rotation.x, Vector3d::UnitX())));
        }
        if (placed.scale != at_rest.scale) {
            node["scale"] = triple(placed.scale);
        }
        add_node(std::move(node));
    }

    void add_node(json node) {
        root_["nodes"].push_back(std::move(node));
        root_["scenes"][0]["nodes"].push_back(root_["nodes"].size() - 1);
    }

    // Lights shine along −Z of their node.
    static json turned_to(const vec3<double>& shines) {
        const vec3<double> along = normalize(shines);
        return rotation_of(Eigen::Quaterniond::FromTwoVectors(-Eigen::Vector3d::UnitZ(),
                                                              Eigen::Vector3d(along.x, along.y, along.z)));
    }

    void add_light(std::size_t which, const camera& seen_from) {
        const light light = light_in_world(from_.lights[which], seen_from);
        const std::string name = label_of(from_.lights[which], which);
        const rgb<double> color = at_most_one(light.color);
        json document{{"name", name},
                      {"type", name_of(light.kind)},
                      {"color", triple(color.r, color.g, color.b)},
                      {"intensity", static_cast<float>(light.intensity)}};
        const auto left_out = [&](const std::string& what) {
            made_.left_out.push_back("of the light `" + name + "`: " + what);
        };
        if (color != light.color) {
            left_out("what is above 1 in its colour");
        }
        if (from_.lights[which].space == light_space::view) {
            left_out("that it moves with the view: it stays where it is now");
        }
        if (light.kind != light_kind::directional) {
            if (light.falloff == falloff_kind::windowed) {
                document["range"] = static_cast<float>(light.range);
            } else if (light.falloff != falloff_kind::inverse_square) {
                left_out("the falloff `" + std::string(name_of(light.falloff)) +
                         "`: the format has only inverse-square, "
                         "and windowed by its range");
            }
        }
        if (light.kind == light_kind::spot) {
            const double outer = std::min(light.outer, pi / 2);
            document["spot"]["innerConeAngle"] = static_cast<float>(
                light.penumbra == penumbra_kind::hard || light.penumbra == penumbra_kind::power
                    ? 0
                    : std::min(light.inner, outer));
            document["spot"]["outerConeAngle"] = static_cast<float>(outer);
            if (light.penumbra != penumbra_kind::squared) {
                left_out("the penumbra `" + std::string(name_of(light.penumbra)) +
                         "`: the format's is `squared`");
            }
            if (outer != light.outer) {
                left_out("a cone wider than 90 degrees to each side");
            }
        }
        json& lights = root_["extensions"]["KHR_lights_punctual"]["lights"];
        lights.push_back(std::move(document));
        json node{{"name", name}};
        if (light.kind != light_kind::directional) {
            node["translation"] = triple(light.position);
        }
        if (light.kind != light_kind::point) {
            node["rotation"] = turned_to(light.shines);
        }
        node["extensions"]["KHR_lights_punctual"]["light"] = lights.size() - 1;
        add_node(std::move(node));
    }

    void add_camera(const camera& seen_from) {
        const view& view = from_.view;
        root_["cameras"].push_back(
            {{"type", "perspective"},
             {"perspective",
              {{"yfov", static_cast<float>(view.fov)},
               {"aspectRatio", static_cast<float>(static_cast<double>(view.width) / view.height)},
               {"znear", static_cast<float>(view.near)},
               {"zfar", static_cast<float>(view.far)}}}});
        Eigen::Matrix3d axes;
        const auto column = [](const vec3<double>& v) { return Eigen::Vector3d(v.x, v.y, v.z); };
        axes << column(seen_from.axes.right), column(seen_from.axes.up), column(seen_from.axes.backward);
        add_node({{"name", "view"},
                  {"camera", 0},
                  {"translation", triple(view.eye)},
                  {"rotation", rotation_of(Eigen::Quaterniond(axes))}});
    }

  public:
    gltf_writer(const scene& from, exported& result) : from_(from), made_(result) {
        root_["asset"] = {{"version", "2.0"}, {"generator", "Yurvo"}};
        root_["scene"] = 0;
        root_["scenes"] = json::array({{{"name", from.title}, {"nodes", json::array()}}});
        if (!from.lights.empty()) {
            root_["extensionsUsed"] = json::array({"KHR_lights_punctual"});
        }
        for (const named_material& material : from.materials) {
            add_material(material);
        }
        for (std::size_t i = 0; i < from.objects.size(); ++i) {
            if (!std::holds_alternative<field_shape>(from.objects[i].shape)) {
                add_object(i);
            }
        }
        const camera seen_from = make_camera(from.view);
        add_camera(seen_from);
        for (std::size_t i = 0; i < from.lights.size(); ++i) {
            add_light(i, seen_from);
        }
        made_.left_out.emplace_back("the ambient light");
        remark_common(from, made_);
    }

    [[nodiscard]] std::string text() {
        if (!bytes_.empty()) {
            const std::string encoded = base64(bytes_);
            root_["buffers"].push_back(
                {{"byteLength", bytes_.size()}, {"uri", "data:application/octet-stream;base64," + encoded}});
        }
        return root_.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
    }

    [[nodiscard]] std::string binary() {
        bytes_.resize((bytes_.size() + 3) / 4 * 4);
        if (!bytes_.empty()) {
            root_["buffers"].push_back({{"byteLength", bytes_.size()}});
        }
        std::string head = root_.dump(-1, ' ', false, json::error_handler_t::replace);
        head.resize((head.size() + 3) / 4 * 4, ' ');
        std::string file = "glTF";
        const auto word = [&](std::size_t value) {
            const auto bits = static_cast<std::uint32_t>(value);
            char raw[4];
            std::memcpy(raw, &bits, 4);
            file.append(raw, 4);
        };
        const std::size_t body = bytes_.empty() ? 0 : 8 + bytes_.size();
        if (12 + 8 + head.size() + body > std::numeric_limits<std::uint32_t>::max()) {
            throw error({"GLB", 0, 0}, "the scene needs more than 4 GiB", "a smaller one");
        }
        word(2);
        word(12 + 8 + head.size() + body);
        word(head.size());
        file += "JSON" + head;
        if (body > 0) {
            word(bytes_.size());
            file.append("BIN\0", 4);
            file += bytes_;
        }
        return file;
    }
};

} // namespace

exported export_gltf(const scene& from, const std::string& name) {
    exported result;
    gltf_writer writer(from, result);
    result.files.push_back({std::filesystem::path(name).filename().string(),
                            name.ends_with(".glb") ? writer.binary() : writer.text()});
    return result;
}

} // namespace yurvo::inline v0_1::files
