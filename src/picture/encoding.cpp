#include "yurvo/picture/encoding.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <limits>

namespace yurvo {

double srgb_encoded(double linear) {
    return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

double srgb_decoded(double encoded) {
    return encoded <= 0.04045 ? encoded / 12.92 : std::pow((encoded + 0.055) / 1.055, 2.4);
}

namespace {

// Codes without a power for each pixel: where each code begins, and for every group of floats that share
// their exponent and first mantissa bits, the code of the smallest of them. Exact, since the rest is
// comparing.
class code_table {
    static constexpr unsigned dropped_bits = 16; // leaves 7 bits of mantissa
    static constexpr std::uint32_t value = 0x3F800000U >> dropped_bits;
    // Below 2^-13 every code is 0: the first begins at 0.5 / 255 / 12.92, about 2^-12.7.
    static constexpr std::uint32_t lowest = 0x39000000U >> dropped_bits;

    std::array<float, 257> begins_{}; // the last is never reached
    std::array<std::uint8_t, value - lowest + 1> first_{};

  public:
    code_table() {
        for (std::size_t code = 1; code < 256; ++code) {
            const double border = srgb_decoded((static_cast<double>(code) - 0.5) / 255);
            // The first float at or above the border.
            auto begin = static_cast<float>(border);
            if (begin < border) {
                begin = std::nextafter(begin, 2.0F);
            }
            begins_[code] = begin;
        }
        begins_[256] = std::numeric_limits<float>::infinity();
        for (std::uint32_t group = lowest; group <= value; ++group) {
            const auto smallest = std::bit_cast<float>(group << dropped_bits);
            const auto after = std::upper_bound(begins_.begin() + 1, begins_.begin() + 256, smallest);
            first_[group - lowest] = static_cast<std::uint8_t>(after - begins_.begin() - 1);
        }
    }

    [[nodiscard]] std::uint8_t operator()(float linear) const {
        const float kept = linear > 0x1p-13F ? std::min(linear, 1.0F) : 0x1p-13F; // NaN is 0, too
        const std::uint8_t code = first_[(std::bit_cast<std::uint32_t>(kept) >> dropped_bits) - lowest];
        // No group is wider than a code: at 1, where codes are narrowest, it is 0.44 of one.
        return static_cast<std::uint8_t>(code + (kept >= begins_[code + 1U] ? 1 : 0));
    }
};

std::uint8_t rounded(float value) {
    return !(value > 0) ? 0
                        : static_cast<std::uint8_t>(std::min(value, 1.0F) * 255.0F +
                                                    0.5F); // NOLINT: not negative here
}

const code_table& srgb_codes() {
    static const code_table table;
    return table;
}

} // namespace

std::uint8_t code_of(float linear, encoding how) {
    return how == encoding::srgb ? srgb_codes()(linear) : rounded(linear);
}

std::vector<std::uint8_t> codes_of(const picture& from, encoding how) {
    std::vector<std::uint8_t> codes(from.values.size());
    const code_table& table = srgb_codes();
    for (std::size_t i = 0; i < codes.size(); i += 4) {
        for (std::size_t c = i; c < i + 3; ++c) {
            codes[c] = how == encoding::srgb ? table(from.values[c]) : rounded(from.values[c]);
        }
        codes[i + 3] = rounded(from.values[i + 3]);
    }
    return codes;
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

bool has_transparency(const picture& image) {
    for (std::size_t i = 3; i < image.values.size(); i += 4) {
        if (image.values[i] < 1) {
            return true;
        }
    }
    return false;
}

} // namespace yurvo
