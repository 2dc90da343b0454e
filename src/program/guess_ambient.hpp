// guess_ambient: what a shader's text gives away about ambient light: where it is written, and whose it is.
#pragma once

#include <optional>
#include <string>

#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// `vec3 ambient = 0.1 * lampColor;`: each light brings an ambient part, a share of its own that is written
// there, by a number or by the name of one. The share, where it is so.
std::optional<double> written_ambient_part(const shader_program& of, const std::string& text);

// `vec3 ambient = 0.05 * paint;`, `vec3(0.03) * paint`: ambient light is written there, by its factor.
std::optional<double> written_ambient_light(const shader_program& of, const std::string& text);

// What is named as a lamp's ambient strength, and is a share of its light: `li.ambient * paint * li.color`,
// where that colour is all of its light.
void take_shares_of_whole_light(shader_program& of, const std::string& text);

// What is named as the scene's ambient strength, and is a share of each lamp's light: of one lamp its ambient
// part; of many a number, which all of them have. Whether it is so.
bool take_ambient_share(shader_program& of, const std::string& text);

} // namespace yurvo::inline v0_1::program
