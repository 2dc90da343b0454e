// A scene for other programs: OBJ with MTL, glTF 2.0 with KHR_lights_punctual.
#pragma once

#include <string>
#include <vector>

#include "yurvo/scene/scene.hpp"

namespace yurvo {

struct exported_file {
    std::string name; ///< relative to the others; the first is the one asked for
    std::string bytes;
};

struct exported {
    std::vector<exported_file> files;
    std::vector<std::string> left_out; ///< what the format cannot hold, a line each: never dropped in silence
};

/// `name` ends in .obj (then a .mtl and the textures go with it), .gltf or .glb. Coordinates are rounded to
/// float, as the formats hold them; OBJ, which has no transforms, gets them in world space. Throws
/// yurvo::error for another name.
exported export_scene(const scene& from, const std::string& name);

} // namespace yurvo
