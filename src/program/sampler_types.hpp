// sampler_types: the samplers of GLSL whose textures can be made, by the numbers that OpenGL has for them.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <string_view>

namespace yurvo::inline v0_1::program {

// How a texture's texels lie, by its number as a target of OpenGL's.
enum class texture_form : std::uint32_t {
    line = 0x0DE0,
    flat = 0x0DE1,
    volume = 0x806F,
    cube = 0x8513,
    rectangle = 0x84F5,
    lines = 0x8C18,  // an array of lines
    layers = 0x8C1A, // of flat ones
    buffer = 0x8C2A,
    cubes = 0x9009,
};
enum class texel_kind : std::uint8_t { reals, depths, wholes, naturals };

struct sampler_type {
    std::uint32_t number;
    std::string_view name;
    texture_form form;
    texel_kind holds;

    // Whether it can show a material's texture.
    [[nodiscard]] constexpr bool takes_image() const {
        return holds == texel_kind::reals && (form == texture_form::flat || form == texture_form::layers);
    }
};

inline constexpr std::array sampler_types{
    sampler_type{0x8B5D, "sampler1D", texture_form::line, texel_kind::reals},
    sampler_type{0x8B5E, "sampler2D", texture_form::flat, texel_kind::reals},
    sampler_type{0x8B5F, "sampler3D", texture_form::volume, texel_kind::reals},
    sampler_type{0x8B60, "samplerCube", texture_form::cube, texel_kind::reals},
    sampler_type{0x8B63, "sampler2DRect", texture_form::rectangle, texel_kind::reals},
    sampler_type{0x8DC0, "sampler1DArray", texture_form::lines, texel_kind::reals},
    sampler_type{0x8DC1, "sampler2DArray", texture_form::layers, texel_kind::reals},
    sampler_type{0x8DC2, "samplerBuffer", texture_form::buffer, texel_kind::reals},
    sampler_type{0x900C, "samplerCubeArray", texture_form::cubes, texel_kind::reals},
    sampler_type{0x8B61, "sampler1DShadow", texture_form::line, texel_kind::depths},
    sampler_type{0x8B62, "sampler2DShadow", texture_form::flat, texel_kind::depths},
    sampler_type{0x8DC5, "samplerCubeShadow", texture_form::cube, texel_kind::depths},
    sampler_type{0x8B64, "sampler2DRectShadow", texture_form::rectangle, texel_kind::depths},
    sampler_type{0x8DC3, "sampler1DArrayShadow", texture_form::lines, texel_kind::depths},
    sampler_type{0x8DC4, "sampler2DArrayShadow", texture_form::layers, texel_kind::depths},
    sampler_type{0x900D, "samplerCubeArrayShadow", texture_form::cubes, texel_kind::depths},
    sampler_type{0x8DC9, "isampler1D", texture_form::line, texel_kind::wholes},
    sampler_type{0x8DCA, "isampler2D", texture_form::flat, texel_kind::wholes},
    sampler_type{0x8DCB, "isampler3D", texture_form::volume, texel_kind::wholes},
    sampler_type{0x8DCC, "isamplerCube", texture_form::cube, texel_kind::wholes},
    sampler_type{0x8DCD, "isampler2DRect", texture_form::rectangle, texel_kind::wholes},
    sampler_type{0x8DCE, "isampler1DArray", texture_form::lines, texel_kind::wholes},
    sampler_type{0x8DCF, "isampler2DArray", texture_form::layers, texel_kind::wholes},
    sampler_type{0x8DD0, "isamplerBuffer", texture_form::buffer, texel_kind::wholes},
    sampler_type{0x900E, "isamplerCubeArray", texture_form::cubes, texel_kind::wholes},
    sampler_type{0x8DD1, "usampler1D", texture_form::line, texel_kind::naturals},
    sampler_type{0x8DD2, "usampler2D", texture_form::flat, texel_kind::naturals},
    sampler_type{0x8DD3, "usampler3D", texture_form::volume, texel_kind::naturals},
    sampler_type{0x8DD4, "usamplerCube", texture_form::cube, texel_kind::naturals},
    sampler_type{0x8DD5, "usampler2DRect", texture_form::rectangle, texel_kind::naturals},
    sampler_type{0x8DD6, "usampler1DArray", texture_form::lines, texel_kind::naturals},
    sampler_type{0x8DD7, "usampler2DArray", texture_form::layers, texel_kind::naturals},
    sampler_type{0x8DD8, "usamplerBuffer", texture_form::buffer, texel_kind::naturals},
    sampler_type{0x900F, "usamplerCubeArray", texture_form::cubes, texel_kind::naturals},
};

// Null: no sampler's number, or one of a kind of texture that is not made here (multisampled ones).
constexpr const sampler_type* find_sampler_type(std::uint32_t number) {
    const auto* const found =
        std::find_if(sampler_types.begin(), sampler_types.end(),
                     [number](const sampler_type& each) { return each.number == number; });
    return found == sampler_types.end() ? nullptr : found;
}

} // namespace yurvo::inline v0_1::program
