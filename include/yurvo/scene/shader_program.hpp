// shader_program: a shader of the user's and what is said of it, as plain data.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo {

enum class shading_language : std::uint8_t { glsl, glsl_es, glsl_vulkan, hlsl };
enum class output_kind : std::uint8_t { linear, srgb };       ///< how the shader writes colour
enum class clip_space : std::uint8_t { gl, vulkan };          ///< what the vertex stage writes
enum class scale_claim : std::uint8_t { any, uniform, none }; ///< which scales of objects it supports

template <> struct names_of<shading_language> {
    static constexpr std::array<std::string_view, 4> list{"glsl", "glsl-es", "glsl-vulkan", "hlsl"};
};
template <> struct names_of<output_kind> {
    static constexpr std::array<std::string_view, 2> list{"linear", "srgb"};
};
template <> struct names_of<clip_space> {
    static constexpr std::array<std::string_view, 2> list{"gl", "vulkan"};
};
template <> struct names_of<scale_claim> {
    static constexpr std::array<std::string_view, 3> list{"any", "uniform", "none"};
};

struct shader_stage {
    std::string file;   ///< as messages show it
    std::string source; ///< its text
    std::string entry = "main";
};

/// One name of the shader's and what it means: literals, quantities (`lights[*].position`), or a list of
/// both.
struct shader_binding {
    std::string name;
    std::vector<std::variant<double, std::string>> means;
    yurvo::source_location where; ///< in the program file
};

struct shader_program {
    std::string title;
    std::string file; ///< the program file, for messages
    shading_language language = shading_language::glsl;
    shader_stage vertex, fragment;
    output_kind output = output_kind::linear;
    clip_space clip = clip_space::gl;
    double limit = 10; ///< seconds to compile, and to draw a scene

    model_kind model = model_kind::blinn_phong;
    own_model own; ///< a C++ model in its place
    yurvo::rate rate = yurvo::rate::fragment;
    yurvo::ambient_rule ambient_rule = yurvo::ambient_rule::add;
    yurvo::formulas::formula_texts formulas; ///< in the places of parts of the model
    std::vector<yurvo::formulas::named_number> numbers;
    std::optional<std::vector<light_kind>> kinds; ///< where left out: those the bindings can carry
    std::optional<std::array<int, 2>> lights;     ///< how few and how many
    bool in_order = false;                        ///< light i must be of kinds[i]
    std::optional<std::vector<falloff_kind>> falloffs;
    std::optional<std::vector<penumbra_kind>> penumbras;
    scale_claim scale = scale_claim::any;
    ambient_follows follows = ambient_follows::cone; ///< what a light's ambient part falls off with

    std::vector<shader_binding> attributes; ///< each means one of position, normal, texcoord, color
    std::vector<shader_binding> uniforms;
};

} // namespace yurvo
