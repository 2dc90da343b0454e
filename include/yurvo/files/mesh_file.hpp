// Meshes from files: OBJ with its MTL, glTF 2.0 as .gltf or .glb.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/geometry/mesh.hpp"
#include "yurvo/numeric/rgb.hpp"
#include "yurvo/picture/texture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Gives the bytes of a file that another names, relative to it. Throws yurvo::error where there is none.
using file_source = std::function<std::string(const std::string& name)>;

/// What a mesh's file says of one of its materials; what it does not say is empty.
struct file_material {
    std::string name;                                    ///< as the file has it
    std::optional<rgb<double>> base, specular, emission; ///< each factor where the file gives it, linear
    std::optional<double> shininess, alpha; ///< each where the file gives it: shininess above 0; alpha 0 to 1
    std::optional<bool> two_sided;          ///< where the file says it
    std::string texture_file;               ///< as the file names it; empty without one
    std::shared_ptr<const texture> image;   ///< decoded; null without one
};

/// A mesh as its file has it.
struct mesh_file {
    mesh shape;                           ///< its `materials` point into the list below
    std::vector<file_material> materials; ///< in the order of the mesh's material indices
    std::vector<std::string>
        remarks; ///< what a person should know: normals that were computed, parts left out
};

/// `name` ends in .obj, .gltf or .glb; `files` gives it and what it names. Coordinates are kept as the floats
/// that the formats hold. Missing normals are computed, weighted by angle (Thürmer and Wüthrich 1998), and
/// remarked. Throws yurvo::error: unreadable, broken, indices out of range, numbers that are not finite.
mesh_file read_mesh(const std::string& name, const file_source& files);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
