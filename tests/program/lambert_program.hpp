// A program of a few lines, lit by Lambert's law: what tests write beside their own fragment stage.
#pragma once

#include <string>

#include "support/temporary_folder.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::testing {

// Position and unit normal in the world.
inline constexpr const char* world_vertex = R"(#version 330
in vec3 a; in vec3 b; out vec3 p; out vec3 n;
uniform mat4 m; uniform mat3 k; uniform mat4 vp;
void main() { p = (m * vec4(a, 1.0)).xyz; n = normalize(k * b); gl_Position = vp * vec4(p, 1.0); })";

// A program's three files, in a folder of their own.
struct written_program {
    temporary_folder folder;
    std::string file;

    written_program(const std::string& vertex, const std::string& fragment, const std::string& program)
        : file(folder / "a.toml") {
        write_whole(folder / "a.vert", vertex);
        write_whole(folder / "a.frag", fragment);
        write_whole(file, program);
    }
};

// A program of it and of `lambert`, with what else it claims and binds.
inline std::string lambert_program(const std::string& claims, const std::string& uniforms) {
    return R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "lambert"
rate = "fragment"
attributes = { a = "position", b = "normal" }
)" + claims +
           R"([uniforms]
m = "object.to_world"
k = "object.normal_to_world"
vp = "view.world_to_clip"
sky = "ambient.light"
paint = "material.base"
)" + uniforms;
}

} // namespace yurvo::testing
