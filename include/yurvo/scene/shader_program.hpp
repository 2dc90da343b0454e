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

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What the sources are written in.
enum class shading_language : std::uint8_t { glsl, glsl_es, glsl_vulkan, hlsl, spirv };
/// How the shader writes colour.
enum class output_kind : std::uint8_t { linear, srgb, gamma }; ///< how the shader writes colour
/// What the vertex stage writes: OpenGL's; y down and depth from 0 to 1; y up and depth from 0 to 1.
enum class clip_space : std::uint8_t { gl, vulkan, d3d };
/// Which scales of objects it supports.
enum class scale_claim : std::uint8_t { any, uniform, none }; ///< which scales of objects it supports
/// Whether it takes the mesh's normals, or works out each triangle's, which then faces the eye.
enum class normals_claim : std::uint8_t { any, face };

template <> struct names_of<shading_language> {
    static constexpr std::array<std::string_view, 5> list{"glsl", "glsl-es", "glsl-vulkan", "hlsl", "spirv"};
};
template <> struct names_of<output_kind> {
    static constexpr std::array<std::string_view, 3> list{"linear", "srgb", "gamma"};
};
template <> struct names_of<clip_space> {
    static constexpr std::array<std::string_view, 3> list{"gl", "vulkan", "d3d"};
};
template <> struct names_of<scale_claim> {
    static constexpr std::array<std::string_view, 3> list{"any", "uniform", "none"};
};

template <> struct names_of<normals_claim> {
    static constexpr std::array<std::string_view, 2> list{"any", "face"};
};

/// Where a line of a source stands that was put together of several files.
struct source_line {
    std::uint32_t file = 0; ///< of a stage's `files`
    std::uint32_t line = 1; ///< from 1
};

/// One stage of a shader.
struct shader_stage {
    std::string file;               ///< as messages show it
    std::string source;             ///< its text, with what it includes; of spirv its bytes
    std::string entry = "main";     ///< the function that is run
    std::vector<std::string> files; ///< its own and those it includes; empty where it includes none
    std::vector<source_line> lines; ///< of each line of `source`, where there are such files
};

/// One name of the shader's and what it means: literals, quantities (`lights[*].position`), expressions of
/// quantities (`= 1.0 / lights[*].range`), or a list of those.
struct shader_binding {
    std::string name; ///< as the shader has it; members with a dot, each element with [*]
    std::vector<std::variant<double, std::string>>
        means;                    ///< a literal or a text, in the order in which they fill it
    yurvo::source_location where; ///< in the program file
};

/// What differs from vertex to vertex, in the object's space: the tangent is unit, along the surface, square
/// to the normal, towards growing u; as four numbers its fourth is 1, or -1 where v grows the other way than
/// cross(normal, tangent); the bitangent is that cross product times the fourth.
inline constexpr std::array<std::string_view, 6> vertex_attributes{"position", "normal",  "texcoord",
                                                                   "color",    "tangent", "bitangent"};

/// What is written into the shader: the scenes take these values.
struct shader_constant {
    std::string quantity;         ///< `lights[0].to_light`
    std::vector<double> numbers;  ///< a truth value is 0 or 1; not empty
    yurvo::source_location where; ///< in the program file
};

/// A shader's own numbers for what `.kind`, `.falloff` and `.penumbra` say.
struct law_numbers {
    std::array<int, 3> kinds{0, 1, 2};                                     ///< directional, point, spot
    std::array<int, falloff_count> falloffs = counted<falloff_count>();    ///< by falloff_kind
    std::array<int, penumbra_count> penumbras = counted<penumbra_count>(); ///< by penumbra_kind

  private:
    template <std::size_t Count> static constexpr std::array<int, Count> counted() {
        std::array<int, Count> result{};
        for (std::size_t i = 0; i < Count; ++i) {
            result[i] = static_cast<int>(i);
        }
        return result;
    }
};

/// A program file as plain data: the shader, what it claims, what its names mean.
struct shader_program { // NOLINT(clang-analyzer-optin.performance.Padding): in the order of a file
    std::string title;  ///< for people; may be empty
    std::string file;   ///< the program file, for messages
    shading_language language = shading_language::glsl; ///< of the sources
    shader_stage vertex, fragment;                      ///< both needed
    output_kind output = output_kind::linear;           ///< of the fragment stage
    double gamma = 2.2;                                 ///< > 0; of output_kind::gamma
    clip_space clip = clip_space::gl;                   ///< of the vertex stage
    double limit = 10;                                  ///< seconds to compile, and to draw a scene

    model_kind model = model_kind::blinn_phong;                  ///< that it claims to equal
    own_model own;                                               ///< a C++ model in its place
    yurvo::rate rate = yurvo::rate::fragment;                    ///< where it lights
    yurvo::ambient_rule ambient_rule = yurvo::ambient_rule::add; ///< how the ambient term joins the rest
    yurvo::formulas::formula_texts formulas;                     ///< in the places of parts of the model
    std::vector<yurvo::formulas::named_number> numbers;          ///< of formulas, and for bindings
    std::optional<std::vector<light_kind>> kinds;        ///< where left out: those the bindings can carry
    std::optional<std::array<int, 2>> lights;            ///< how few and how many
    bool in_order = false;                               ///< light i must be of kinds[i]
    std::optional<std::vector<falloff_kind>> falloffs;   ///< where left out: those the bindings can carry
    std::optional<std::vector<penumbra_kind>> penumbras; ///< where left out: those the bindings can carry
    scale_claim scale = scale_claim::any;                ///< of objects
    normals_claim normals = normals_claim::any;          ///< of meshes
    std::vector<std::string> without;                    ///< essentials that it is meant not to have
    std::vector<shader_constant> constants;              ///< in place of what a scene has
    law_numbers numbered;                                ///< of .kind, .falloff and .penumbra
    ambient_follows follows = ambient_follows::cone;     ///< what a light's ambient part falls off with

    /// Each means one of vertex_attributes; or a quantity or numbers, which are the same at every vertex.
    std::vector<shader_binding> attributes;
    std::vector<shader_binding> uniforms; ///< also members of blocks
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
