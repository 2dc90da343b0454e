// The numbers of every instruction set that runs here: how many digits the formulas' functions keep, and that
// four batches side by side are four batches.
#include <doctest/doctest.h>

#include <array>
#include <cfloat>
#include <cmath>
#include <limits>
#include <random>
#include <string>

#include "support/roundoff.hpp"
#include "wide/numbers.hpp"
#include "yurvo/pipeline/instruction_set.hpp"

namespace yurvo::testing {
const wide_numbers& baseline_numbers();
#if defined(YURVO_WIDE_KERNELS)
const wide_numbers& avx2_numbers();
const wide_numbers& avx512_numbers();
#endif
} // namespace yurvo::testing

using namespace yurvo;
using testing::u;

namespace {

constexpr std::size_t count = 1U << 16U;
struct alignas(64) numbers : std::array<float, count> {};

template <class Use> void for_each_set(Use&& use) {
    using pipeline::instruction_set;
    use("baseline", testing::baseline_numbers());
#if defined(YURVO_WIDE_KERNELS)
    if (pipeline::runs(instruction_set::avx2)) {
        use("avx2", testing::avx2_numbers());
    }
    if (pipeline::runs(instruction_set::avx512)) {
        use("avx512", testing::avx512_numbers());
    }
#endif
}

} // namespace

TEST_CASE("powers of cosines keep their digits in every instruction set") {
    std::mt19937_64 engine(23); // NOLINT: the same every time
    MESSAGE("seed 23");
    std::uniform_real_distribution<double> any(0, 1);
    static numbers versine;
    static numbers exponent;
    static numbers found;
    for (std::size_t i = 0; i < count; ++i) {
        // Near 0 and near 1 as well as between, a few beyond; exponents from a fourth to 65,536.
        const double v = std::pow(any(engine), 4);
        versine[i] = static_cast<float>(i % 3 == 0 ? 1 - v : v * 1.02);
        exponent[i] = static_cast<float>(std::pow(2, 18 * any(engine) - 2));
    }
    for_each_set([&](const std::string& name, const testing::wide_numbers& of) {
        INFO(name);
        of.power(versine.data(), exponent.data(), count, found.data());
        for (std::size_t i = 0; i < count; ++i) {
            CAPTURE(versine[i]);
            CAPTURE(exponent[i]);
            const auto v = static_cast<double>(versine[i]);
            const double logarithm = v < 1 ? std::log1p(-v) : -INFINITY;
            const double argument = -logarithm * static_cast<double>(exponent[i]);
            const double expected = std::exp(-argument);
            // The logarithm to 3 units, its product with the exponent once more, what that makes of the
            // power, and 4 units of its own; below the normal numbers it is 0.
            const double tolerance = expected < 2e-38 ? 2e-38 : (4 * argument + 4) * u * expected;
            REQUIRE(std::abs(static_cast<double>(found[i]) - expected) <= tolerance);
        }
    });
}

TEST_CASE("a cosine's power at its ends: 1 at an angle of zero, 0 from a right angle on, never NaN") {
    static numbers versine;
    static numbers exponent;
    static numbers found;
    constexpr std::array<float, 8> ends{
        0.0F, 1.0F, 2.0F, 1 - 0x1p-24F, 0x1p-24F, FLT_MIN, std::numeric_limits<float>::infinity(), 1.5F};
    constexpr std::array<float, 4> exponents{1.0F, 0.001F, 1e6F, 3e38F};
    for (std::size_t i = 0; i < count; ++i) {
        versine[i] = ends[i % ends.size()];
        exponent[i] = exponents[i / ends.size() % exponents.size()];
    }
    for_each_set([&](const std::string& name, const testing::wide_numbers& of) {
        INFO(name);
        of.power(versine.data(), exponent.data(), count, found.data());
        for (std::size_t i = 0; i < ends.size() * exponents.size(); ++i) {
            CAPTURE(versine[i]);
            CAPTURE(exponent[i]);
            REQUIRE(found[i] == found[i]);
            if (versine[i] == 0) {
                REQUIRE(found[i] == 1);
            } else if (versine[i] >= 1) {
                REQUIRE(found[i] == 0);
            } else {
                REQUIRE(found[i] >= 0);
                REQUIRE(found[i] <= 1);
            }
        }
    });
}

TEST_CASE("roots and quotients to a few units, from the least normal number to the greatest") {
    std::mt19937_64 engine(29); // NOLINT: the same every time
    MESSAGE("seed 29");
    std::uniform_real_distribution<double> any(-37.9, 38.5);
    static numbers of_what;
    static numbers found;
    for (float& one : of_what) {
        one = static_cast<float>(std::pow(10, any(engine)));
    }
    for_each_set([&](const std::string& name, const testing::wide_numbers& of) {
        INFO(name);
        // Two roundings where the processor divides, 1.3 units where it guesses and Newton's step refines.
        constexpr double allowed = 2 * u;
        of.inverse_sqrt(of_what.data(), count, found.data());
        for (std::size_t i = 0; i < count; ++i) {
            REQUIRE(std::abs(static_cast<double>(found[i]) * std::sqrt(static_cast<double>(of_what[i])) -
                             1) <= allowed);
        }
        of.inverse_sqrt_or_zero(of_what.data(), count, found.data());
        for (std::size_t i = 0; i < count; ++i) {
            REQUIRE(std::abs(static_cast<double>(found[i]) * std::sqrt(static_cast<double>(of_what[i])) -
                             1) <= allowed);
        }
        of.reciprocal(of_what.data(), count, found.data());
        for (std::size_t i = 0; i < count; ++i) {
            if (of_what[i] < 8e37F) { // beyond it the quotient is no normal number
                REQUIRE(std::abs(static_cast<double>(found[i]) * static_cast<double>(of_what[i]) - 1) <=
                        allowed);
            }
        }
    });
    of_what.fill(0);
    for_each_set([&](const std::string& name, const testing::wide_numbers& of) {
        INFO(name);
        of.inverse_sqrt_or_zero(of_what.data(), count, found.data());
        for (const float one : found) {
            REQUIRE(one == 0);
        }
    });
}

TEST_CASE("four batches side by side give, operation by operation, what each gives alone") {
    std::mt19937_64 engine(31); // NOLINT: the same every time
    MESSAGE("seed 31");
    std::uniform_real_distribution<float> any(0.01F, 0.99F);
    alignas(64) std::array<float, 64> x{};
    alignas(64) std::array<float, 64> y{};
    alignas(64) std::array<float, 64> z{};
    for (int round = 0; round < 20; ++round) {
        for (std::size_t i = 0; i < x.size(); ++i) {
            x[i] = any(engine);
            y[i] = i % 5 == 0 ? x[i] : any(engine);
            z[i] = any(engine);
        }
        for_each_set([&](const std::string& name, const testing::wide_numbers& of) {
            INFO(name);
            const char* const differs = of.first_that_differs(x.data(), y.data(), z.data());
            REQUIRE(std::string(differs == nullptr ? "none" : differs) == "none");
        });
    }
}
