// The scene file: TOML, strictly read.
#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "yurvo/files/mesh_file.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

class models;

constexpr std::size_t largest_scene_file = std::size_t{64} << 20U; ///< bytes

/// `remarks`, where it is given, gets what a person should know besides: normals of a mesh that were
/// computed, say.

/// A scene from its file, with the files it names. Throws yurvo::error at the first thing wrong: unknown,
/// missing or unused keys, wrong types, values out of range, names taken twice or not there, text that is not
/// UTF-8. `own`, where it is given, holds the C++ models that the scene may name.
scene read_scene(const std::string& path, std::vector<std::string>* remarks = nullptr,
                 const models* own = nullptr);

/// A scene from text; `name` stands in messages where a path would.
scene parse_scene(const std::string& text, const std::string& name, const file_source& files,
                  std::vector<std::string>* remarks = nullptr, const models* own = nullptr);

/// The text of a scene file that reads back as the same scene.
std::string scene_text(const scene& the_scene);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
