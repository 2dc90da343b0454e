// The scene file: TOML, strictly read.
#pragma once

#include <functional>
#include <string>

#include "yurvo/scene/scene.hpp"

namespace yurvo {

// Gives the bytes of a file that a scene names, relative to it. Throws yurvo::error where there is none.
using file_source = std::function<std::string(const std::string& name)>;

// A scene from its file, with the files it names. Throws yurvo::error at the first thing wrong: unknown,
// missing or unused keys, wrong types, values out of range, names taken twice or not there, text that is not
// UTF-8.
scene read_scene(const std::string& path);

// A scene from text; `name` stands in messages where a path would.
scene parse_scene(const std::string& text, const std::string& name, const file_source& files);

// The text of a scene file that reads back as the same scene.
std::string scene_text(const scene& of);

} // namespace yurvo
