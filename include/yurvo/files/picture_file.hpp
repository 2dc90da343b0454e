// Pictures in files: PNG (8-bit codes), OpenEXR and PFM (linear floats), by the ending of the name.
#pragma once

#include <string>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/texture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Throws yurvo::error unless the name ends in .png, .exr or .pfm.
void require_picture_name(const std::string& path);

/// Written whole or not at all. `how` concerns PNG alone, which gets an alpha channel where the picture needs
/// one; PFM holds no alpha. Throws yurvo::error.
void write_picture(const std::string& path, const picture& from, encoding how = encoding::srgb);

/// Linear colours. `how` is how a PNG's codes are taken. Throws yurvo::error: unreadable, broken, or larger
/// than 16384 pixels in a direction.
picture read_picture(const std::string& path, encoding how = encoding::srgb);

/// A picture as the bytes of a PNG.
std::string png_bytes(const picture& from, encoding how = encoding::srgb);

/// A PNG's bytes as a texture: decoded from sRGB, alpha ignored. `name` is for messages.
texture read_texture(const std::string& bytes, const std::string& name);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
