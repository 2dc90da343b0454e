#include "yurvo/files/mesh_file.hpp"

#include <algorithm>
#include <filesystem>

#include "files/mesh_reading.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/geometry/normals.hpp"

namespace yurvo::inline v0_1 {

namespace files {

std::string named_from(const std::string& from, const std::string& name) {
    return (std::filesystem::path(from).parent_path() / name).string();
}

std::shared_ptr<const texture> texture_named(const std::string& from, const std::string& name,
                                             const file_source& files) {
    const std::string path = named_from(from, name);
    return std::make_shared<const texture>(read_texture(files(path), path));
}

void compute_missing_normals(mesh_file& result, const std::vector<bool>& missing) {
    const auto count = std::count(missing.begin(), missing.end(), true);
    if (count == 0) {
        return;
    }
    const mesh shared = with_shared_normals(result.shape);
    for (std::size_t t = 0; t < result.shape.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t corner = result.shape.triangles[t][k];
            if (missing[corner]) {
                result.shape.normals[corner] = shared.normals[shared.triangles[t][k]];
            }
        }
    }
    result.remarks.push_back(std::to_string(count) + " of " + std::to_string(missing.size()) +
                             " vertices have no normals: computed, weighted by angle");
}

} // namespace files

mesh_file read_mesh(const std::string& name, const file_source& source) {
    mesh_file result;
    if (name.ends_with(".obj")) {
        result = files::read_obj(name, source);
    } else if (name.ends_with(".gltf") || name.ends_with(".glb")) {
        result = files::read_gltf(name, source);
    } else {
        throw error({name, 0, 0}, "the name says no kind of mesh", "a name that ends in .obj, .gltf or .glb");
    }
    if (result.shape.triangles.empty()) {
        throw error({name, 0, 0}, "the file has no triangles", "a mesh with at least one");
    }
    return result;
}

} // namespace yurvo::inline v0_1
