#include <cstdint>
#include <limits>
#include <set>

#include <Eigen/Geometry>

#include "files/gltf_accessors.hpp"
#include "files/mesh_reading.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/geometry/transform.hpp"

namespace yurvo::inline v0_1::files {

namespace {

constexpr std::size_t most_nodes = 100'000;

// Hands the library's questions for files to the source at hand. What the source throws must not pass through
// the library's callbacks, so it is kept and thrown afterwards.
struct file_access {
    const std::string& from;
    const file_source& files;
    std::exception_ptr failed;
};

tinygltf::FsCallbacks callbacks_for(file_access& access) {
    tinygltf::FsCallbacks callbacks{};
    callbacks.user_data = &access;
    callbacks.FileExists = [](const std::string&, void*) { return true; };
    callbacks.ExpandFilePath = [](const std::string& path, void*) { return path; };
    callbacks.ReadWholeFile = [](std::vector<unsigned char>* into, std::string*, const std::string& path,
                                 void* data) {
        auto& reading = *static_cast<file_access*>(data);
        try {
            const std::string bytes = reading.files(named_from(reading.from, path));
            into->assign(bytes.begin(), bytes.end());
            return true;
        } catch (...) {
            reading.failed = std::current_exception();
            return false;
        }
    };
    callbacks.WriteWholeFile = [](std::string*, const std::string&, const std::vector<unsigned char>&,
                                  void*) { return false; };
    return callbacks;
}

// Keeps a picture's bytes as they are, to be decoded if a material asks for it.
bool keep_bytes(tinygltf::Image* image, const int, std::string*, std::string*, int, int,
                const unsigned char* bytes, int size, void*) {
    image->image.assign(bytes, bytes + size);
    return true;
}

class gltf_reader : gltf_accessors {
    mesh_file made_;
    std::vector<bool> missing_normals_;
    std::set<int> above_; // the nodes on the way down, to find cycles
    std::size_t nodes_ = 0;
    bool other_modes_ = false;

    // Vertices of a primitive, appended; gives the first one's index.
    std::uint32_t add_vertices(const tinygltf::Primitive& primitive, const matrix4& to_mesh,
                               std::size_t& count) {
        const auto attribute = [&](const std::string& key) {
            const auto found = primitive.attributes.find(key);
            return found == primitive.attributes.end() ? -1 : found->second;
        };
        mesh& shape = made_.shape;
        const elements positions = find(at_attribute(attribute("POSITION"), "POSITION"), "positions");
        require_components(positions, 3, 3, "positions");
        count = positions.count;
        const auto first = static_cast<std::uint32_t>(shape.positions.size());
        const bool identity = to_mesh == matrix4::identity();
        const matrix3 of_normals = identity ? matrix3::identity() : normal_matrix(to_mesh);
        const int normal_index = attribute("NORMAL");
        const elements normals = normal_index < 0 ? elements{} : find(normal_index, "normals");
        const int texcoord_index = attribute("TEXCOORD_" + std::to_string(texcoord_set(primitive)));
        const elements texcoords =
            texcoord_index < 0 ? elements{} : find(texcoord_index, "texture coordinates");
        const int color_index = attribute("COLOR_0");
        const elements colors = color_index < 0 ? elements{} : find(color_index, "colours");
        require_same_count(normals, count, 3, 3, "normals");
        require_same_count(texcoords, count, 2, 2, "texture coordinates");
        require_same_count(colors, count, 3, 4, "colours");
        if (colors.count > 0) {
            shape.colors.resize(shape.positions.size(), rgb<double>(1.0));
        }
        const bool colored = colors.count > 0 || !shape.colors.empty();
        for (std::size_t i = 0; i < count; ++i) {
            const auto triple = [&](const elements& from, const char* what) {
                return vec3<double>{number(from, i, 0, what), number(from, i, 1, what),
                                    number(from, i, 2, what)};
            };
            const vec3<double> position = triple(positions, "positions");
            shape.positions.push_back(identity ? position : transform_point(to_mesh, position));
            vec3<double> normal;
            if (normals.count > 0) {
                normal = triple(normals, "normals");
                normal = identity ? normal : normalize(transform_direction(of_normals, normal));
            }
            shape.normals.push_back(normal);
            missing_normals_.push_back(normals.count == 0);
            // The format's origin is the top left.
            shape.texcoords.push_back(texcoords.count > 0
                                          ? texcoord{number(texcoords, i, 0, "texture coordinates"),
                                                     1 - number(texcoords, i, 1, "texture coordinates")}
                                          : texcoord{});
            if (colored) {
                const vec3<double> color =
                    colors.count > 0 ? triple(colors, "colours") : vec3<double>{1, 1, 1};
                shape.colors.emplace_back(color.x, color.y, color.z);
            }
        }
        return first;
    }

    [[nodiscard]] int texcoord_set(const tinygltf::Primitive& primitive) const {
        return primitive.material < 0 ? 0
                                      : at(model_.materials, primitive.material, "material")
                                            .pbrMetallicRoughness.baseColorTexture.texCoord;
    }

    void add_primitive(const tinygltf::Primitive& primitive, const matrix4& to_mesh) {
        const int mode = primitive.mode < 0 ? TINYGLTF_MODE_TRIANGLES : primitive.mode;
        if (mode != TINYGLTF_MODE_TRIANGLES && mode != TINYGLTF_MODE_TRIANGLE_STRIP &&
            mode != TINYGLTF_MODE_TRIANGLE_FAN) {
            other_modes_ = true;
            return;
        }
        std::size_t vertices = 0;
        const std::uint32_t first = add_vertices(primitive, to_mesh, vertices);
        const elements indices = primitive.indices < 0 ? elements{} : find(primitive.indices, "indices");
        const std::size_t count = primitive.indices < 0 ? vertices : indices.count;
        const auto corner = [&](std::size_t i) {
            const std::uint32_t local =
                primitive.indices < 0 ? static_cast<std::uint32_t>(i) : index(indices, i);
            if (local >= vertices) {
                broken("a triangle names vertex " + std::to_string(local) + " of " + std::to_string(vertices),
                       "indices of what is in the file");
            }
            return first + local;
        };
        const bool turned = mirrors(to_mesh);
        const std::uint32_t material =
            primitive.material < 0 ? mesh::no_material : static_cast<std::uint32_t>(primitive.material);
        const auto add = [&](std::size_t a, std::size_t b, std::size_t c) {
            triangle corners{corner(a), corner(b), corner(c)};
            if (turned) { // what a mirrored node shows from the front keeps its front
                std::swap(corners[1], corners[2]);
            }
            made_.shape.triangles.push_back(corners);
            made_.shape.materials.push_back(material);
        };
        if (made_.shape.triangles.size() + count / 3 > most_triangles) {
            broken("it has more than " + std::to_string(most_triangles) + " triangles", "fewer");
        }
        if (mode == TINYGLTF_MODE_TRIANGLES) {
            if (count % 3 != 0) {
                broken(std::to_string(count) + " corners are no whole number of triangles", "three for each");
            }
            for (std::size_t i = 0; i + 2 < count; i += 3) {
                add(i, i + 1, i + 2);
            }
            return;
        }
        for (std::size_t i = 0; i + 2 < count; ++i) {
            if (mode == TINYGLTF_MODE_TRIANGLE_FAN) {
                add(0, i + 1, i + 2);
            } else {
                i % 2 == 0 ? add(i, i + 1, i + 2) : add(i + 1, i, i + 2);
            }
        }
    }

    [[nodiscard]] matrix4 transform_of(const tinygltf::Node& node) const {
        Eigen::Affine3d result = Eigen::Affine3d::Identity();
        if (node.matrix.size() == 16) {
            result.matrix() = Eigen::Map<const Eigen::Matrix4d>(node.matrix.data());
        } else {
            if (node.translation.size() == 3) {
                result.translate(Eigen::Vector3d(node.translation.data()));
            }
            if (node.rotation.size() == 4) {
                result.rotate(
                    Eigen::Quaterniond(node.rotation[3], node.rotation[0], node.rotation[1], node.rotation[2])
                        .normalized());
            }
            if (node.scale.size() == 3) {
                result.scale(Eigen::Vector3d(node.scale.data()));
            }
        }
        matrix4 plain;
        Eigen::Map<Eigen::Matrix4d>(plain.values.data()) = result.matrix();
        return plain;
    }

    void add_node(int which, const matrix4& above) {
        const tinygltf::Node& node = at(model_.nodes, which, "node");
        if (!above_.insert(which).second) {
            broken("node " + std::to_string(which) + " lies below itself", "nodes that form a tree");
        }
        if (++nodes_ > most_nodes || above_.size() > 1000) {
            broken("its nodes are nested or repeated beyond measure",
                   "at most " + std::to_string(most_nodes));
        }
        const matrix4 to_mesh = above * transform_of(node);
        if (node.mesh >= 0) {
            const bool finite = std::all_of(to_mesh.values.begin(), to_mesh.values.end(),
                                            [](double value) { return std::isfinite(value); });
            if (!finite || determinant(linear_part(to_mesh)) == 0) {
                broken("node " + std::to_string(which) + " has a matrix that is singular or not finite",
                       "one that keeps three dimensions");
            }
            for (const tinygltf::Primitive& primitive : at(model_.meshes, node.mesh, "mesh").primitives) {
                add_primitive(primitive, to_mesh);
            }
        }
        for (const int child : node.children) {
            add_node(child, to_mesh);
        }
        above_.erase(which);
    }

    void add_material(const tinygltf::Material& source_material, const file_source& files) {
        file_material result;
        result.name = source_material.name;
        const auto triple = [&](const std::vector<double>& list, const char* what) {
            for (const double component : list) {
                if (!(std::isfinite(component) && component >= 0)) {
                    broken(std::string("`") + what + "` has a component that is below 0 or not finite",
                           "finite numbers, 0 or more");
                }
            }
            return rgb<double>{list[0], list[1], list[2]};
        };
        const tinygltf::PbrMetallicRoughness& look = source_material.pbrMetallicRoughness;
        if (look.baseColorFactor.size() == 4) {
            result.base = triple(look.baseColorFactor, "baseColorFactor");
            if (source_material.alphaMode == "BLEND") {
                result.alpha = std::min(1.0, look.baseColorFactor[3]);
            }
        }
        if (source_material.emissiveFactor.size() == 3) {
            result.emission = triple(source_material.emissiveFactor, "emissiveFactor");
        }
        result.two_sided = source_material.doubleSided;
        if (look.baseColorTexture.index >= 0) {
            const tinygltf::Texture& texture = at(model_.textures, look.baseColorTexture.index, "texture");
            const tinygltf::Image& image = at(model_.images, texture.source, "image");
            result.texture_file = image.uri;
            const std::string shown = image.uri.empty() ? name_ + ", image " + std::to_string(texture.source)
                                                        : named_from(name_, image.uri);
            result.image = std::make_shared<const yurvo::texture>(
                read_texture(std::string(image.image.begin(), image.image.end()), shown));
            (void)files;
        }
        made_.materials.push_back(std::move(result));
    }

  public:
    gltf_reader(const std::string& name, const tinygltf::Model& model) : gltf_accessors(name, model) {}

    mesh_file read(const file_source& files) {
        for (const tinygltf::Material& material : model_.materials) {
            add_material(material, files);
        }
        const matrix4 identity = matrix4::identity();
        if (model_.scenes.empty()) {
            std::set<int> children;
            for (const tinygltf::Node& node : model_.nodes) {
                children.insert(node.children.begin(), node.children.end());
            }
            for (int i = 0; i < static_cast<int>(model_.nodes.size()); ++i) {
                if (children.count(i) == 0) {
                    add_node(i, identity);
                }
            }
        } else {
            for (const int node : at(model_.scenes, std::max(0, model_.defaultScene), "scene").nodes) {
                add_node(node, identity);
            }
        }
        for (const vec3<double>& position : made_.shape.positions) {
            if (!finite(position)) {
                broken("a position is beyond all measure", "finite numbers");
            }
        }
        const auto& materials = made_.shape.materials;
        if (std::all_of(materials.begin(), materials.end(),
                        [](std::uint32_t m) { return m == mesh::no_material; })) {
            made_.shape.materials.clear();
        }
        compute_missing_normals(made_, missing_normals_);
        if (other_modes_) {
            made_.remarks.emplace_back("points and lines are left out");
        }
        return std::move(made_);
    }
};

} // namespace

mesh_file read_gltf(const std::string& name, const file_source& files) {
    const std::string bytes = files(name);
    if (bytes.size() > std::numeric_limits<unsigned int>::max()) {
        broken_mesh(name, 0, "the file is larger than 4 GiB", "a smaller one");
    }
    file_access access{name, files, nullptr};
    tinygltf::TinyGLTF loader;
    loader.SetFsCallbacks(callbacks_for(access));
    loader.SetImageLoader(keep_bytes, nullptr);
    tinygltf::Model model;
    std::string failure;
    std::string warning;
    const auto size = static_cast<unsigned int>(bytes.size());
    bool read = false;
    try {
        read = name.ends_with(".glb")
                   ? loader.LoadBinaryFromMemory(&model, &failure, &warning,
                                                 reinterpret_cast<const unsigned char*>(bytes.data()), size,
                                                 "") // NOLINT
                   : loader.LoadASCIIFromString(&model, &failure, &warning, bytes.data(), size, "");
    } catch (const std::exception& failed) {
        failure = failed.what();
    }
    if (access.failed) {
        std::rethrow_exception(access.failed);
    }
    if (!read || !failure.empty()) {
        std::string why = failure.substr(0, failure.find('\n'));
        broken_mesh(name, 0, "not a whole glTF file: " + (why.empty() ? "it cannot be parsed" : why),
                    "valid glTF 2.0");
    }
    return gltf_reader(name, model).read(files);
}

} // namespace yurvo::inline v0_1::files
