#include "program/driver_textures.hpp"

#if defined(YURVO_WITH_DRIVER)

#include <cmath>
#include <cstdint>
#include <cstring>

#include <epoxy/gl.h>

#include "program/sampler_types.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// How many texels a buffer has that is of one number everywhere: as many as any OpenGL must allow.
constexpr std::size_t texels_of_buffer = 65536;

struct texel_format {
    int stored;                  // inside
    unsigned components, number; // as handed over
};
// With alpha or without.
texel_format format_of(texel_kind holds, bool alpha) {
    const unsigned whole = alpha ? GL_RGBA_INTEGER : GL_RGB_INTEGER;
    switch (holds) {
    case texel_kind::depths: // whole numbers inside: what is compared with them ends at 0 and 1
        return {GL_DEPTH_COMPONENT24, GL_DEPTH_COMPONENT, GL_FLOAT};
    case texel_kind::wholes:
        return {alpha ? GL_RGBA32I : GL_RGB32I, whole, GL_INT};
    case texel_kind::naturals:
        return {alpha ? GL_RGBA32UI : GL_RGB32UI, whole, GL_UNSIGNED_INT};
    case texel_kind::reals:
        break;
    }
    const unsigned real = alpha ? GL_RGBA : GL_RGB;
    return {alpha ? GL_RGBA32F : GL_RGB32F, real, GL_FLOAT};
}

// The numbers as the driver takes them, four bytes each.
std::vector<std::uint32_t> bits_of(const std::vector<float>& values, texel_kind holds) {
    std::vector<std::uint32_t> result(values.size());
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (holds == texel_kind::wholes || holds == texel_kind::naturals) {
            result[i] = static_cast<std::uint32_t>(std::lround(values[i]));
        } else {
            std::memcpy(&result[i], &values[i], sizeof(float));
        }
    }
    return result;
}

void upload(const texture_values& from, texture_form form, const texel_format& as, const void* texels) {
    const int stored = as.stored;
    const auto target = static_cast<unsigned>(form);
    const int width = from.width;
    const int height = from.height;
    switch (form) {
    case texture_form::line:
        glTexImage1D(target, 0, stored, width, 0, as.components, as.number, texels);
        break;
    case texture_form::flat:
    case texture_form::rectangle:
    case texture_form::lines:
        glTexImage2D(target, 0, stored, width, height, 0, as.components, as.number, texels);
        break;
    case texture_form::volume:
    case texture_form::layers:
        glTexImage3D(target, 0, stored, width, height, 1, 0, as.components, as.number, texels);
        break;
    case texture_form::cube:
        for (unsigned side = 0; side < 6; ++side) {
            glTexImage2D(GL_TEXTURE_CUBE_MAP_POSITIVE_X + side, 0, stored, width, height, 0, as.components,
                         as.number, texels);
        }
        break;
    case texture_form::cubes: {
        // Of one texel, so that its six sides are as many texels.
        std::vector<std::uint32_t> sides;
        const auto* const one = static_cast<const std::uint32_t*>(texels);
        for (int side = 0; side < 6; ++side) {
            sides.insert(sides.end(), one, one + from.values.size());
        }
        glTexImage3D(target, 0, stored, width, height, 6, 0, as.components, as.number, sides.data());
        break;
    }
    case texture_form::buffer:
        break;
    }
}

// Texels of four numbers: not every driver has buffers of three.
unsigned upload_buffer(const texture_values& from, texel_kind holds) {
    std::vector<float> texel = from.values;
    texel.resize(4, 1.0F);
    std::vector<float> all;
    for (std::size_t i = 0; i < texels_of_buffer; ++i) {
        all.insert(all.end(), texel.begin(), texel.end());
    }
    const std::vector<std::uint32_t> bits = bits_of(all, holds);
    unsigned buffer = 0;
    glGenBuffers(1, &buffer);
    glBindBuffer(GL_TEXTURE_BUFFER, buffer);
    glBufferData(GL_TEXTURE_BUFFER, static_cast<GLsizeiptr>(bits.size() * sizeof(std::uint32_t)), bits.data(),
                 GL_STATIC_DRAW);
    glTexBuffer(GL_TEXTURE_BUFFER, static_cast<unsigned>(format_of(holds, true).stored), buffer);
    return buffer;
}

} // namespace

textures_in_driver::textures_in_driver(const std::vector<texture_values>& values) {
    for (const texture_values& from : values) {
        texture& made = all_.emplace_back();
        const sampler_type* const sampler = find_sampler_type(from.sampler);
        if (sampler == nullptr) {
            continue; // no request of ours; the driver refuses to draw
        }
        made.target = static_cast<unsigned>(sampler->form);
        glGenTextures(1, &made.name);
        glBindTexture(made.target, made.name);
        if (sampler->form == texture_form::buffer) {
            made.buffer = upload_buffer(from, sampler->holds);
            continue;
        }
        const bool whole = sampler->holds == texel_kind::wholes || sampler->holds == texel_kind::naturals;
        const std::size_t texels =
            static_cast<std::size_t>(from.width) * static_cast<std::size_t>(from.height);
        glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
        upload(from, sampler->form, format_of(sampler->holds, from.values.size() == 4 * texels),
               bits_of(from.values, sampler->holds).data());
        const int filter = whole ? GL_NEAREST : GL_LINEAR;
        glTexParameteri(made.target, GL_TEXTURE_MIN_FILTER, filter);
        glTexParameteri(made.target, GL_TEXTURE_MAG_FILTER, filter);
        const int beyond = sampler->form == texture_form::rectangle ? GL_CLAMP_TO_EDGE : GL_REPEAT;
        for (const auto axis : {GL_TEXTURE_WRAP_S, GL_TEXTURE_WRAP_T, GL_TEXTURE_WRAP_R}) {
            glTexParameteri(made.target, static_cast<unsigned>(axis), beyond);
        }
        if (sampler->holds == texel_kind::depths) {
            glTexParameteri(made.target, GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE);
            glTexParameteri(made.target, GL_TEXTURE_COMPARE_FUNC, GL_LEQUAL);
        }
    }
}

textures_in_driver::~textures_in_driver() {
    for (const texture& each : all_) {
        glDeleteTextures(1, &each.name);
        glDeleteBuffers(1, &each.buffer);
    }
}

void textures_in_driver::bind(std::size_t which, std::size_t unit) const {
    glActiveTexture(static_cast<unsigned>(GL_TEXTURE0 + unit));
    glBindTexture(all_[which].target, all_[which].name);
}

} // namespace yurvo::inline v0_1::program

#endif
