#include "yurvo/scene/visible_text.hpp"

#include <cstdint>
#include <utility>

namespace yurvo::inline v0_1 {

namespace {

// A character and how many bytes of UTF-8 it has; 0 bytes where they are none (RFC 3629: shortest form only,
// no halves of surrogate pairs, up to U+10FFFF).
std::pair<std::uint32_t, std::size_t> character_at(std::string_view text) {
    const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[i]); };
    const std::uint32_t first = byte(0);
    if (first < 0x80) {
        return {first, 1};
    }
    const std::size_t size = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
    if (first < 0xC2 || first > 0xF4 || text.size() < size) {
        return {0, 0};
    }
    std::uint32_t character = first & (0x7FU >> size);
    for (std::size_t i = 1; i < size; ++i) {
        if ((byte(i) & 0xC0U) != 0x80U) {
            return {0, 0};
        }
        character = character << 6U | (byte(i) & 0x3FU);
    }
    const bool shortest = size == 2 || character >= (size == 3 ? 0x800U : 0x10000U);
    const bool surrogate = character >= 0xD800 && character <= 0xDFFF;
    return shortest && !surrogate && character <= 0x10FFFF ? std::pair{character, size}
                                                           : std::pair{std::uint32_t{0}, std::size_t{0}};
}

bool acts(std::uint32_t character) {
    const auto within = [&](std::uint32_t from, std::uint32_t to) {
        return character >= from && character <= to;
    };
    return character < 0x20 || within(0x7F, 0x9F) || character == 0x061C || within(0x200E, 0x200F) ||
           within(0x202A, 0x202E) || within(0x2066, 0x2069);
}

std::string hexadecimal(std::uint32_t number, int digits) {
    std::string written;
    for (int shift = 4 * (digits - 1); shift >= 0; shift -= 4) {
        written += "0123456789abcdef"[number >> static_cast<unsigned>(shift) & 0xFU];
    }
    return written;
}

std::string visible(std::string_view text, bool one_line) {
    std::string result;
    result.reserve(text.size());
    while (!text.empty()) {
        const auto [character, size] = character_at(text);
        if (size == 0) {
            result += "\\x" + hexadecimal(static_cast<unsigned char>(text[0]), 2);
        } else if (character == '\n' || character == '\t') {
            result += !one_line ? std::string(text.substr(0, 1)) : character == '\n' ? "\\n" : "\\t";
        } else if (acts(character)) {
            result += "\\u" + hexadecimal(character, 4);
        } else {
            result += text.substr(0, size);
        }
        text.remove_prefix(size == 0 ? 1 : size);
    }
    return result;
}

} // namespace

std::string visible_text(std::string_view text) { return visible(text, false); }

std::string on_one_line(std::string_view text) { return visible(text, true); }

} // namespace yurvo::inline v0_1
