// A scene's layers of light, packed for the page's script.
#include <algorithm>
#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include <Imath/half.h>
#include <zlib.h>

#include "yurvo/report/page.hpp"

namespace yurvo::inline v0_1::report {

std::string packed_layers(const study::relight& parts) {
    std::string bytes;
    const auto add = [&](const picture& of) {
        const auto width = static_cast<std::size_t>(of.width);
        const std::size_t pixels = width * static_cast<std::size_t>(of.height);
        std::array<std::vector<std::int32_t>, 3> planes;
        for (std::size_t c = 0; c < 3; ++c) {
            planes[c].resize(pixels);
            for (std::size_t i = 0; i < pixels; ++i) {
                constexpr float most = 65'000;
                const float kept = std::clamp(of.values[4 * i + c], 0.0F, most);
                const unsigned bits = half(kept).bits();
                planes[c][i] = static_cast<std::int32_t>((bits + (1U << (page_shift - 1))) >> page_shift);
            }
        }
        for (std::size_t i = 0; i < pixels; ++i) {
            planes[1][i] -= planes[0][i];
            planes[2][i] -= planes[0][i];
        }
        for (const std::vector<std::int32_t>& plane : planes) {
            const std::size_t at = bytes.size();
            bytes.resize(at + 2 * pixels);
            for (std::size_t i = 0; i < pixels; ++i) {
                const bool first_row = i < width;
                const bool first_column = i % width == 0;
                const std::int32_t left = first_column ? 0 : plane[i - 1];
                const std::int32_t above = first_row ? 0 : plane[i - width];
                const std::int32_t expected = first_row      ? left
                                              : first_column ? above
                                                             : left + above - plane[i - width - 1];
                const auto off = static_cast<std::int16_t>(plane[i] - expected);
                const auto folded = static_cast<std::uint16_t>(off < 0 ? -2 * off - 1 : 2 * off);
                bytes[at + i] = static_cast<char>(folded >> 8U);
                bytes[at + pixels + i] = static_cast<char>(folded & 0xFFU);
            }
        }
    };
    add(parts.background);
    for (const study::linear_layer& layer : parts.layers) {
        add(layer.drawn);
    }
    uLongf size = compressBound(static_cast<uLong>(bytes.size()));
    std::string packed(size, '\0');
    compress2(reinterpret_cast<Bytef*>(packed.data()), &size, // NOLINT: zlib's bytes
              reinterpret_cast<const Bytef*>(bytes.data()), static_cast<uLong>(bytes.size()), 6); // NOLINT
    packed.resize(size);
    return packed;
}

} // namespace yurvo::inline v0_1::report
