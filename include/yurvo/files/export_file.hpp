// A scene for other programs: OBJ with MTL, glTF 2.0 with KHR_lights_punctual.
#pragma once

#include <string>
#include <vector>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// One file of an export.
struct exported_file {
    std::string name;  ///< relative to the others; the first is the one asked for
    std::string bytes; ///< its content
};

/// An export: the files, and what the format could not hold.
struct exported {
    std::vector<exported_file> files;  ///< the named one first
    std::vector<std::string> left_out; ///< what the format cannot hold, a line each: never dropped in silence
};

/// `name` ends in .obj (then a .mtl and the textures go with it), .gltf or .glb. Coordinates are rounded to
/// float, as the formats hold them; OBJ, which has no transforms, gets them in world space. Throws
/// yurvo::error for another name.
exported export_scene(const scene& from, const std::string& name);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
