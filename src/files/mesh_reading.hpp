// mesh_reading: what the readers of OBJ and glTF share.
#pragma once

#include <cmath>
#include <string>

#include "yurvo/files/mesh_file.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::files {

mesh_file read_obj(const std::string& name, const file_source& files);
mesh_file read_gltf(const std::string& name, const file_source& files);

[[noreturn]] inline void broken_mesh(const std::string& name, std::size_t line, const std::string& why,
                                     const std::string& right) {
    throw error({name, line, line > 0 ? std::size_t{1} : 0}, why, right);
}

inline bool finite(const vec3<double>& v) {
    return std::isfinite(v.x) && std::isfinite(v.y) && std::isfinite(v.z);
}

// The folder of `from` before a name it gives, so that messages and further reading find it.
std::string named_from(const std::string& from, const std::string& name);

std::shared_ptr<const texture> texture_named(const std::string& from, const std::string& name,
                                             const file_source& files);

// Fills in the normals of the vertices marked, and says so.
void compute_missing_normals(mesh_file& result, const std::vector<bool>& missing);

} // namespace yurvo::inline v0_1::files
