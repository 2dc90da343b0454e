#include "yurvo/files/base64.hpp"

#include <algorithm>
#include <cstddef>
#include <cstdint>

namespace yurvo::inline v0_1 {

std::string base64(std::string_view bytes) {
    constexpr char letters[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string text;
    text.reserve((bytes.size() + 2) / 3 * 4);
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        std::uint32_t group = 0;
        const std::size_t count = std::min<std::size_t>(3, bytes.size() - i);
        for (std::size_t k = 0; k < 3; ++k) {
            group = group << 8U | (k < count ? static_cast<std::uint8_t>(bytes[i + k]) : 0U);
        }
        for (std::size_t k = 0; k < 4; ++k) {
            text += k <= count ? letters[group >> (18 - 6 * k) & 63U] : '=';
        }
    }
    return text;
}

} // namespace yurvo::inline v0_1
