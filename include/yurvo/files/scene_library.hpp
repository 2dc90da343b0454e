// scene_library: the scenes that come with Yurvo, and a scene by its name or path.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "yurvo/files/mesh_file.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

class models;

/// A reference scene, a demo scene, or a file. `remarks`, where it is given, gets what read_scene() has to
/// say; `own` holds the C++ models that a file may name. Throws yurvo::error, with the nearest name.
scene find_scene(const std::string& name, std::vector<std::string>* remarks = nullptr,
                 const models* own = nullptr);

/// A scene that comes with the tool besides the reference scenes: to look at.
struct demo_scene {
    std::string name, title; ///< the name by which it is asked for, and what it shows
};
/// The scenes of the tour, in its order.
std::vector<demo_scene> demo_scenes();

/// Reference scenes, then demo scenes.
std::vector<std::string_view> scene_names();

/// A scene as its text, with the files that the text names: to be changed and read again.
struct scene_source {
    std::string name;  ///< as it was asked for
    std::string file;  ///< its path; empty where it comes with the tool
    std::string text;  ///< its text, in the format of scene files
    file_source files; ///< what its meshes and textures are read from
};
/// As find_scene() looks for it. Throws yurvo::error.
scene_source open_scene(const std::string& name);

/// Writes a scene's file, and its textures beside it, so that it can be read again. Throws yurvo::error.
void write_scene(const std::string& path, const scene& the_scene);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
