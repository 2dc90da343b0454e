#include "yurvo/picture/encoding.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>

#include "picture/wide_encoding.hpp"
#include "yurvo/picture/screen_codes.hpp"

namespace yurvo::inline v0_1 {

double srgb_encoded(double linear) {
    return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

double srgb_decoded(double encoded) {
    return encoded <= 0.04045 ? encoded / 12.92 : std::pow((encoded + 0.055) / 1.055, 2.4);
}

namespace {

// Codes without a power for each pixel. For every group of floats that share their exponent and first
// mantissa bits: the code of the smallest of them, and behind it how far from the group's end the next code
// begins, so that adding the rest of a float's bits carries into the code where it is reached. Exact, since
// that is comparing; no group is wider than a code: at 1, where codes are narrowest, it is 0.44 of one.
class code_table {
    static constexpr unsigned dropped_bits = 16; // leaves 7 bits of mantissa
    static constexpr std::uint32_t group_size = 1U << dropped_bits;
    static constexpr std::uint32_t value = 0x3F800000U >> dropped_bits;
    // Below 2^-13 every code is 0: the first begins at 0.5 / 255 / 12.92, about 2^-12.7.
    static constexpr std::uint32_t lowest = 0x39000000U >> dropped_bits;

    std::array<std::uint32_t, value - lowest + 1> groups_{};

  public:
    code_table() {
        std::array<std::uint32_t, 256> begins{}; // each code's first float, as its bits
        for (std::size_t code = 1; code < 256; ++code) {
            const double border = srgb_decoded((static_cast<double>(code) - 0.5) / 255);
            auto begin = static_cast<float>(border);
            if (begin < border) {
                begin = std::nextafter(begin, 2.0F);
            }
            begins[code] = std::bit_cast<std::uint32_t>(begin);
        }
        for (std::uint32_t group = lowest; group <= value; ++group) {
            const std::uint32_t smallest = group << dropped_bits;
            const auto* const after = std::upper_bound(begins.begin() + 1, begins.end(), smallest);
            const auto code = static_cast<std::uint32_t>(after - begins.begin() - 1);
            const bool in_group = after != begins.end() && *after < smallest + group_size;
            groups_[group - lowest] =
                (code << dropped_bits) + (in_group ? smallest + group_size - *after : 0);
        }
    }

    // The code in the upper half; the lower half is of no use.
    [[nodiscard]] std::uint32_t in_upper_half(float linear) const {
        const auto bits = std::bit_cast<std::uint32_t>(linear);
        constexpr std::uint32_t least = lowest << dropped_bits;
        constexpr std::uint32_t one = value << dropped_bits;
        if (bits - least > one - least) [[unlikely]] { // below, above, negative, or no number
            return linear > 1 ? 255U << dropped_bits : 0;
        }
        return groups_[(bits >> dropped_bits) - lowest] + (bits & (group_size - 1));
    }
    [[nodiscard]] std::uint8_t operator()(float linear) const {
        return static_cast<std::uint8_t>(in_upper_half(linear) >> dropped_bits);
    }
};

std::uint8_t rounded(float value) {
    // NOLINTNEXTLINE(bugprone-incorrect-roundings): not negative here
    return !(value > 0) ? 0 : static_cast<std::uint8_t>(std::min(value, 1.0F) * 255.0F + 0.5F);
}

const code_table& srgb_codes() {
    static const code_table table;
    return table;
}

// sRGB codes of whole pixels; of one without an alpha of its own, `opaque` ones.
template <bool opaque> void encode_by_table(const float* values, std::size_t count, std::uint8_t* to) {
    const code_table& table = srgb_codes();
    std::array<std::uint64_t, 2> before{};
    std::uint32_t whole = opaque ? 255U << 24U : 0;
    for (std::size_t i = 0; i < 4 * count; i += 4) {
        std::array<std::uint64_t, 2> here{};
        std::memcpy(here.data(), values + i, sizeof here);
        if (here != before) { // much of a picture is like what is left of it: the background, a flat wall
            before = here;
            const std::uint32_t red = table.in_upper_half(values[i]) >> 16U;
            const std::uint32_t green = (table.in_upper_half(values[i + 1]) >> 8U) & 0xFF00U;
            const std::uint32_t blue = table.in_upper_half(values[i + 2]) & 0xFF0000U;
            const std::uint32_t alpha = opaque || values[i + 3] == 1 ? 255U : rounded(values[i + 3]);
            whole = red | green | blue | alpha << 24U; // one store where bytes are so ordered
        }
        to[i] = static_cast<std::uint8_t>(whole);
        to[i + 1] = static_cast<std::uint8_t>(whole >> 8U);
        to[i + 2] = static_cast<std::uint8_t>(whole >> 16U);
        to[i + 3] = static_cast<std::uint8_t>(whole >> 24U);
    }
}

template <bool opaque> void encode_pixels(const float* values, std::size_t count, std::uint8_t* to) {
    const std::size_t done =
        encode_wide(values, count, opaque, to, [](const float* pixels, std::uint8_t* codes) {
            encode_by_table<opaque>(pixels, encoded_at_once, codes);
        });
    encode_by_table<opaque>(values + 4 * done, count - done, to + 4 * done);
}

} // namespace

std::uint8_t code_of(float linear, encoding how) {
    return how == encoding::srgb ? srgb_codes()(linear) : rounded(linear);
}

std::vector<std::uint8_t> codes_of(const picture& from, encoding how) {
    std::vector<std::uint8_t> codes(from.values.size());
    codes_of_rows(from, 0, from.height, how, codes.data());
    return codes;
}

void codes_of_rows(const picture& from, int top, int bottom, encoding how, std::uint8_t* to) {
    const auto row = 4 * static_cast<std::size_t>(from.width);
    const float* const begin = from.values.data() + static_cast<std::size_t>(top) * row;
    const std::size_t count = static_cast<std::size_t>(bottom - top) * row;
    if (how == encoding::srgb) {
        encode_pixels<false>(begin, count / 4, to);
    } else {
        std::transform(begin, begin + count, to, rounded);
    }
}

void screen_codes(const picture& from, int top, int bottom, std::uint8_t* to) {
    const auto width = static_cast<std::size_t>(from.width);
    const std::size_t begin = static_cast<std::size_t>(top) * width;
    const std::size_t end = static_cast<std::size_t>(bottom) * width;
    encode_pixels<true>(from.values.data() + 4 * begin, end - begin, to + 4 * begin);
}

picture picture_of(int width, int height, const std::vector<std::uint8_t>& codes, encoding how) {
    std::array<float, 256> linear{};
    for (std::size_t code = 0; code < 256; ++code) {
        const double encoded = static_cast<double>(code) / 255;
        linear[code] = static_cast<float>(how == encoding::srgb ? srgb_decoded(encoded) : encoded);
    }
    picture result(width, height);
    for (std::size_t i = 0; i < codes.size(); ++i) {
        result.values[i] = i % 4 == 3 ? static_cast<float>(codes[i]) / 255.0F : linear[codes[i]];
    }
    return result;
}

bool has_transparency(const picture& image) { return has_transparency_in_rows(image, 0, image.height); }

bool has_transparency_in_rows(const picture& image, int top, int bottom) {
    const std::size_t row = 4 * static_cast<std::size_t>(image.width);
    for (std::size_t i = static_cast<std::size_t>(top) * row + 3; i < static_cast<std::size_t>(bottom) * row;
         i += 4) {
        if (image.values[i] < 1) {
            return true;
        }
    }
    return false;
}

} // namespace yurvo::inline v0_1
