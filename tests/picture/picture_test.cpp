#include <doctest/doctest.h>

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>
#include <random>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/texture.hpp"

using namespace yurvo;

namespace {

// The curve as IEC 61966-2-1 states it, and rounding, in long double.
int code_by_the_standard(long double linear) {
    const long double clamped = linear < 0 ? 0 : linear > 1 ? 1 : linear;
    const long double curve =
        clamped <= 0.0031308L ? 12.92L * clamped : 1.055L * std::pow(clamped, 1 / 2.4L) - 0.055L;
    return static_cast<int>(std::floor(curve * 255 + 0.5L));
}

} // namespace

TEST_CASE("codes are those of the standard's curve") {
    std::mt19937 engine(11);
    MESSAGE("seed 11");
    std::uniform_real_distribution<float> values(-0.1F, 1.1F);
    std::uniform_real_distribution<float> small(0, 0.02F);
    for (int i = 0; i < 20000; ++i) {
        const float value = i % 2 == 0 ? values(engine) : small(engine);
        REQUIRE(code_of(value) == code_by_the_standard(value));
    }
    CHECK(code_of(0) == 0);
    CHECK(code_of(1) == 255);
    CHECK(code_of(1e30F) == 255);
    CHECK(code_of(-5) == 0);
    CHECK(code_of(std::numeric_limits<float>::quiet_NaN()) == 0);
    CHECK(code_of(std::numeric_limits<float>::infinity()) == 255);
    CHECK(code_of(0.5F, encoding::linear) == 128);
    CHECK(code_of(std::numeric_limits<float>::quiet_NaN(), encoding::linear) == 0);
}

TEST_CASE("of whole pictures too, of every number from 0 to 1") {
    // Where each code begins, by the standard: its first float, found by halving.
    std::vector<std::uint32_t> begins;
    const std::uint32_t one = std::bit_cast<std::uint32_t>(1.0F);
    for (int code = 1; code < 256; ++code) {
        std::uint32_t before = 0;
        std::uint32_t from = one;
        while (from - before > 1) {
            const std::uint32_t middle = before + (from - before) / 2;
            (code_by_the_standard(std::bit_cast<float>(middle)) >= code ? from : before) = middle;
        }
        begins.push_back(from);
    }
    constexpr int size = 512;
    picture all(size, size);
    const std::uint32_t first = std::bit_cast<std::uint32_t>(0x1p-14F); // below, code 0
    std::size_t wrong = 0;
    std::uint32_t next = first;
    while (next <= one + 8) {
        const std::uint32_t begin = next;
        for (std::size_t i = 0; i < all.values.size(); i += 4) {
            for (std::size_t k = 0; k < 3; ++k) {
                all.values[i + k] = std::bit_cast<float>(next++);
            }
            all.values[i + 3] = static_cast<float>(i % 1021) / 1000; // alphas beside them
        }
        const std::vector<std::uint8_t> codes = codes_of(all);
        auto code =
            static_cast<std::size_t>(std::upper_bound(begins.begin(), begins.end(), begin) - begins.begin());
        next = begin;
        for (std::size_t i = 0; i < codes.size(); i += 4) {
            for (std::size_t k = 0; k < 3; ++k, ++next) {
                code += code < begins.size() && next >= begins[code] ? 1U : 0U;
                wrong += codes[i + k] == code ? 0U : 1U;
            }
            wrong += codes[i + 3] == code_of(all.values[i + 3], encoding::linear) ? 0U : 1U;
        }
    }
    CHECK(wrong == 0);
    // What no screen shows, and a picture whose pixels are no whole number of batches.
    for (const int width : {1, 2, 3, 5, 7}) {
        picture odd(width, 1);
        const std::vector<float> strange{-1,    0,      std::numeric_limits<float>::quiet_NaN(),
                                         1e30F, 1e-40F, 0.5F,
                                         -0.0F, 1.0F,   std::numeric_limits<float>::infinity()};
        for (std::size_t i = 0; i < odd.values.size(); ++i) {
            odd.values[i] = strange[i % strange.size()];
        }
        const std::vector<std::uint8_t> codes = codes_of(odd);
        for (std::size_t i = 0; i < codes.size(); ++i) {
            CHECK(codes[i] == code_of(odd.values[i], i % 4 == 3 ? encoding::linear : encoding::srgb));
        }
    }
}

TEST_CASE("every code survives being decoded and encoded") {
    std::vector<std::uint8_t> codes;
    for (int code = 0; code < 256; ++code) {
        codes.insert(codes.end(), 4, static_cast<std::uint8_t>(code));
    }
    for (const encoding how : {encoding::srgb, encoding::linear}) {
        CHECK(codes_of(picture_of(16, 16, codes, how), how) == codes);
    }
}

TEST_CASE("alpha is rounded, never encoded") {
    const picture half(1, 1, rgb<float>(0.5F), 0.5F);
    CHECK(codes_of(half) == std::vector<std::uint8_t>{188, 188, 188, 128});
    CHECK(has_transparency(half));
    CHECK_FALSE(has_transparency(picture(2, 2)));
}

TEST_CASE("differences: largest, where, means") {
    picture a(2, 2, rgb<float>(0.5F));
    picture b = a;
    b.set(1, 0, {0.25F, 0.5F, 0.5F}, 1);
    b.set(0, 1, {0.5F, 0.5F, 1.5F}, 0.5F);
    const difference found = compare(a, b);
    CHECK(found.largest == 1);
    CHECK(found.largest_x == 0);
    CHECK(found.largest_y == 1);
    CHECK(found.mean == 1.25 / 12);
    CHECK(found.mean_signed == 0.75 / 12);
    CHECK(found.root_mean_square == std::sqrt((1 + 0.0625) / 12));
    CHECK(found.pixels_that_differ == 2);
    CHECK(found.largest_alpha == 0.5);
    CHECK(compare(a, a).largest == 0);
}

TEST_CASE("what is no number differs from all but its like") {
    const picture a(2, 2, rgb<float>(0.5F));
    constexpr float infinite = std::numeric_limits<float>::infinity();
    for (const float none : {std::numeric_limits<float>::quiet_NaN(), infinite, -infinite}) {
        CAPTURE(none);
        picture b = a;
        b.set(1, 0, {0.5F, none, 0.5F}, 1);
        for (const difference& found : {compare(a, b), compare(b, a)}) {
            CHECK(found.largest == std::numeric_limits<double>::infinity());
            CHECK(found.largest_x == 1);
            CHECK(found.largest_y == 0);
            CHECK(found.pixels_that_differ == 1);
        }
        CHECK(compare(b, b).pixels_that_differ == 0);
        b = a;
        b.set(0, 1, rgb<float>(0.5F), none);
        CHECK(compare(a, b).largest_alpha == std::numeric_limits<double>::infinity());
        CHECK(compare(b, b).largest_alpha == 0);
    }
}

TEST_CASE("textures: centres at half numbers, bottom left at (0, 0), repeated in both directions") {
    texture image;
    image.width = 2;
    image.height = 2;
    image.texels = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {1, 1, 1}}; // the top row first
    CHECK(image.sample(0.25, 0.25) == rgb<float>{0, 0, 1});
    CHECK(image.sample(0.75, 0.75) == rgb<float>{0, 1, 0});
    CHECK(image.sample(0.25, 0.75) == rgb<float>{1, 0, 0});
    CHECK(image.sample(0.5, 0.25) == rgb<float>{0.5F, 0.5F, 1});
    CHECK(image.sample(0.0, 0.25) == rgb<float>{0.5F, 0.5F, 1}); // across the border
    CHECK(image.sample(3.25, -7.75) == image.sample(0.25, 0.25));
    CHECK(image.sample(0.5, 0.5) == rgb<float>{0.5F, 0.5F, 0.5F});
    // Just below 1, where the product may round up to the width.
    CHECK(image.sample(std::nextafter(1.0, 0.0), -1e-18) == image.sample(0.0, 0.0));
    CHECK(texture{}.sample(0.3, 0.9) == rgb<float>(1.0F));
}

TEST_CASE("textures of codes are blended in codes, and decoded then") {
    texture image;
    image.width = 2;
    image.texels = {{0, 0.2F, 0.02F}, {1, 0.6F, 0.04F}};
    image.of_codes = true;
    const rgb<float> between = image.sample(0.5, 0.5);
    // By sRGB's own formulas (IEC 61966-2-1), of 0.5, 0.4 and 0.03.
    CHECK(static_cast<double>(between.r) == doctest::Approx(std::pow(0.555 / 1.055, 2.4)).epsilon(1e-6));
    CHECK(static_cast<double>(between.g) == doctest::Approx(std::pow(0.455 / 1.055, 2.4)).epsilon(1e-6));
    CHECK(static_cast<double>(between.b) == doctest::Approx(0.03 / 12.92).epsilon(1e-6));
    CHECK(image.sample(0.75, 0.5).r == 1);
    texture linear = image;
    linear.of_codes = false;
    CHECK(linear.sample(0.5, 0.5).r == 0.5F);
    CHECK_FALSE(linear == image);
}
