#include "yurvo/study/comparison.hpp"

#include <cstdint>
#include <cstdlib>
#include <vector>

#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::study {

namespace {

code_difference compare_codes(const picture& a, const picture& b) {
    const std::vector<std::uint8_t> of_a = codes_of(a);
    const std::vector<std::uint8_t> of_b = codes_of(b);
    code_difference found;
    std::uint64_t sum = 0;
    for (std::size_t i = 0; i < of_a.size(); i += 4) {
        bool differs = false;
        for (std::size_t c = 0; c < 3; ++c) {
            const int off = static_cast<int>(of_b[i + c]) - static_cast<int>(of_a[i + c]);
            sum += static_cast<std::uint64_t>(std::abs(off));
            differs = differs || off != 0;
            if (std::abs(off) > std::abs(found.largest)) {
                const std::size_t pixel = i / 4;
                found.largest = off;
                found.x = static_cast<int>(pixel % static_cast<std::size_t>(a.width));
                found.y = static_cast<int>(pixel / static_cast<std::size_t>(a.width));
            }
        }
        found.pixels += differs ? 1U : 0U;
    }
    found.mean = static_cast<double>(sum) / (3.0 * static_cast<double>(a.pixels()));
    return found;
}

} // namespace

comparison compare_pictures(const picture& a, const picture& b) {
    return {compare(a, b), compare_codes(a, b)};
}

} // namespace yurvo::inline v0_1::study
