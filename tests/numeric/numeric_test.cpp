#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <limits>
#include <random>

#include "yurvo/numeric/batch.hpp"
#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"

using namespace yurvo;

TEST_CASE("vectors: products and lengths of known triangles") {
    const vec3<double> x{1, 0, 0};
    const vec3<double> y{0, 1, 0};
    CHECK(cross(x, y) == vec3<double>{0, 0, 1});
    CHECK(dot(vec3<double>{1, 2, 3}, vec3<double>{4, -5, 6}) == 12);
    CHECK(length(vec3<double>{2, 3, 6}) == 7);
    CHECK(normalize(vec3<float>{0, 0, -8}) == vec3<float>{0, 0, -1});
    CHECK(-x + x == vec3<double>{});
}

TEST_CASE("normalising the zero vector gives the zero vector, not NaN") {
    CHECK(normalize(vec3<float>{}) == vec3<float>{});
    CHECK(normalize(vec3<double>{}) == vec3<double>{});
}

TEST_CASE("a NaN that meets max(x, 0) is gone") {
    const float nan = std::numeric_limits<float>::quiet_NaN();
    CHECK(max(nan, 0.0F) == 0.0F);
    CHECK(clamp(5.0, 0.0, 1.0) == 1.0);
    CHECK(clamp(-5.0, 0.0, 1.0) == 0.0);
}

TEST_CASE("colours multiply by component") {
    CHECK(rgb<float>{1, 2, 3} * rgb<float>{4, 5, 6} == rgb<float>{4, 10, 18});
    CHECK(max(rgb<float>{1, 5, 3}, rgb<float>{4, 2, 3}) == rgb<float>{4, 5, 3});
    CHECK(rgb<double>(0.5) * 2.0 == rgb<double>{1, 1, 1});
}

TEST_CASE("the versine keeps the digits of small angles") {
    // 1 − cos a = 2 sin²(a / 2), in long double. Directions in float are off by one rounding in each
    // component, which turns them by at most about 1e-7; the versine changes by sin a times that.
    for (const double angle : {1e-3, 1e-2, 0.1, 0.5, 1.0, 2.0, 3.0}) {
        const vec3<float> a{0, 0, 1};
        const vec3<float> b{static_cast<float>(std::sin(angle)), 0, static_cast<float>(std::cos(angle))};
        const long double half = std::sin(static_cast<long double>(angle) / 2);
        const double expected = static_cast<double>(2 * half * half);
        CHECK(std::abs(versine(a, b) - expected) <= std::sin(angle) * 1.2e-7 + 4 * 0x1p-24 * expected);
    }
}

TEST_CASE("a cosine's power from its versine is the power, and keeps more digits than the power of a float") {
    std::mt19937 engine(7);
    MESSAGE("seed 7");
    std::uniform_real_distribution<double> versines(0, 0.05);
    double worst = 0;
    double worst_plain = 0;
    for (int i = 0; i < 1000; ++i) {
        const auto v = static_cast<float>(versines(engine));
        const float exponent = 1000;
        const auto expected = static_cast<double>(std::pow(1.0L - static_cast<long double>(v), 1000.0L));
        if (expected < 1e-6) {
            continue;
        }
        // exp rounds its argument, at most 14 here, by half a unit in the last place, twice; its result once
        // more.
        CHECK(std::abs(cosine_power(v, exponent) / expected - 1) <= (2 * 14 + 4) * 0x1p-24);
        worst = std::max(worst, std::abs(cosine_power(v, exponent) / expected - 1));
        worst_plain = std::max(worst_plain, std::abs(std::pow(1 - v, exponent) / expected - 1));
    }
    CHECK(worst * 4 < worst_plain);
    CHECK(cosine_power(1.0F, 2.0F) == 0.0F); // a right angle
    CHECK(cosine_power(1.7F, 2.0F) == 0.0F); // beyond it
    CHECK(cosine_power(0.0, 5.0) == 1.0);
}

#if !defined(XSIMD_NO_SUPPORTED_ARCHITECTURE)
TEST_CASE("batches: powers of cosines, roots and quotients to a few units in the last place") {
    using real = xsimd::batch<float>;
    constexpr double u = 0x1p-24;
    const auto first = [](const real& value) {
        alignas(64) std::array<float, real::size> lanes{};
        store_lanes(lanes.data(), value);
        return static_cast<double>(lanes[0]);
    };
    std::mt19937_64 engine(11); // NOLINT: the same every time
    MESSAGE("seed 11");
    std::uniform_real_distribution<double> any(0, 1);
    for (int i = 0; i < 20000; ++i) {
        const auto versine = static_cast<float>(std::pow(any(engine), 3) * 1.1);
        const auto exponent = static_cast<float>(std::pow(2, 12 * any(engine) - 2));
        const double logarithm = versine < 1 ? std::log1p(-static_cast<double>(versine)) : -INFINITY;
        const double expected = std::exp(static_cast<double>(exponent) * logarithm);
        const double found = first(cosine_power(real(versine), real(exponent)));
        CAPTURE(versine);
        CAPTURE(exponent);
        // The logarithm to 3 units, its product with the exponent once more, what that makes of the power,
        // and 4 units of its own; below the normal numbers it is 0.
        const double argument = static_cast<double>(exponent) * -logarithm;
        const double tolerance = expected < 2e-38 ? 2e-38 : (4 * argument + 4) * u * expected;
        REQUIRE(std::abs(found - expected) <= tolerance);

        const auto x = static_cast<float>(std::pow(10, 60 * any(engine) - 30));
        REQUIRE(std::abs(first(one_over(real(x))) * x - 1) <= 3 * u);
        REQUIRE(std::abs(first(inverse_sqrt(real(x))) * std::sqrt(static_cast<double>(x)) - 1) <= 3 * u);
    }
    CHECK(first(cosine_power(real(0.0F), real(32.0F))) == 1);
    CHECK(first(cosine_power(real(2.0F), real(0.5F))) == 0);
    const vec3<real> nowhere = normalize(vec3<real>{real(0.0F), real(0.0F), real(0.0F)});
    CHECK(first(nowhere.x) == 0);
}
#endif
