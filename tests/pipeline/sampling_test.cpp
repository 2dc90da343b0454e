// Colours between texels, as every instruction set that runs here looks them up: against the weighted mean of
// the four texels around each point, worked out in double; and the same digits with the wide sets, however
// close together points are.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <random>
#include <string>
#include <vector>

#include "pipeline/wide/kernels.hpp"
#include "yurvo/numeric/rgb.hpp"

using namespace yurvo;
using pipeline::instruction_set;

namespace {

constexpr std::size_t most_points = 256;
constexpr std::size_t room = most_points + 16;

struct places {
    std::size_t count = 0;
    alignas(64) std::array<std::int32_t, room> column{}, row{};
    alignas(64) std::array<float, room> across{}, up{};
};
struct colors {
    std::array<std::array<float, room>, 3> each{};
};
struct boards {
    int width = 1, height = 1;
    std::vector<rgb<float>> texels; // the top row first
};

// In memory of their own: a sanitizer sees a read beyond their end.
boards boards_of(int width, int height, std::mt19937& random) {
    std::uniform_real_distribution<float> any(0, 1);
    boards made{width, height, {}};
    for (int i = 0; i < width * height; ++i) {
        made.texels.emplace_back(any(random), any(random), any(random));
    }
    return made;
}

std::size_t wrapped(std::int64_t at, int size) { return static_cast<std::size_t>((at % size + size) % size); }

// What the four texels around a point come to, by their areas.
std::array<double, 3> mean(const boards& of, const places& at, std::size_t i) {
    std::array<double, 3> sum{};
    for (const int right : {0, 1}) {
        for (const int above : {0, 1}) {
            const double weight = (right != 0 ? double{at.across[i]} : 1 - double{at.across[i]}) *
                                  (above != 0 ? double{at.up[i]} : 1 - double{at.up[i]});
            const std::size_t column = wrapped(std::int64_t{at.column[i]} + right, of.width);
            const std::size_t row = wrapped(std::int64_t{at.row[i]} + above, of.height);
            const rgb<float>& texel = of.texels[(static_cast<std::size_t>(of.height) - 1 - row) *
                                                    static_cast<std::size_t>(of.width) +
                                                column];
            sum[0] += weight * double{texel.r};
            sum[1] += weight * double{texel.g};
            sum[2] += weight * double{texel.b};
        }
    }
    return sum;
}

colors sampled(instruction_set set, const boards& of, places at) {
    colors result;
    pipeline::wide::sample_request request;
    request.texels = of.texels.data();
    request.at = {at.column.data(), at.row.data(), at.across.data(), at.up.data(), of.width, of.height};
    request.count = at.count;
    for (std::size_t k = 0; k < 3; ++k) {
        request.into[k] = result.each[k].data();
    }
    pipeline::wide::kernels_for(set).attributes.sample(request);
    return result;
}

// Points from (x, y) in texels on, `wide` to a row, so far apart and turned by an angle.
places grid(double x, double y, double apart, double angle, std::size_t count, std::size_t wide) {
    places made;
    made.count = count;
    for (std::size_t i = 0; i < count; ++i) {
        const double right = apart * static_cast<double>(i % wide);
        const std::size_t line = i / wide;
        const double down = apart * static_cast<double>(line);
        const double column = x + std::cos(angle) * right + std::sin(angle) * down;
        const double row = y + std::sin(angle) * right - std::cos(angle) * down;
        made.column[i] = static_cast<std::int32_t>(std::floor(column));
        made.row[i] = static_cast<std::int32_t>(std::floor(row));
        made.across[i] = static_cast<float>(column - std::floor(column));
        made.up[i] = static_cast<float>(row - std::floor(row));
    }
    return made;
}

void hold(const boards& of, const places& at, double& most_off) {
    colors first;
    bool wide_before = false;
    for (const instruction_set set :
         {instruction_set::baseline, instruction_set::avx2, instruction_set::avx512}) {
        if (!pipeline::runs(set)) {
            continue;
        }
        CAPTURE(pipeline::instruction_set_names.at(static_cast<std::size_t>(set)));
        const colors found = sampled(set, of, at);
        for (std::size_t i = 0; i < at.count; ++i) {
            const std::array<double, 3> expected = mean(of, at, i);
            for (std::size_t k = 0; k < 3; ++k) {
                most_off = std::max(most_off, std::abs(double{found.each[k][i]} - expected[k]));
            }
        }
        const bool wide = set != instruction_set::baseline; // fused alike
        for (std::size_t k = 0; wide && wide_before && k < 3; ++k) {
            CHECK(std::memcmp(found.each[k].data(), first.each[k].data(), at.count * sizeof(float)) == 0);
        }
        first = found;
        wide_before = wide_before || wide;
    }
}

} // namespace

TEST_CASE("colours between texels are the mean of the four around, with every instruction set") {
    constexpr unsigned seed = 20261130;
    MESSAGE("seed " << seed);
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    double most_off = 0;
    for (const auto& size :
         {std::array{1, 1}, {1, 5}, {2, 3}, {3, 2}, {6, 4}, {16, 16}, {40, 3}, {3, 90}, {300, 200}}) {
        const int width = size[0];
        const int height = size[1];
        CAPTURE(width);
        CAPTURE(height);
        const boards of = boards_of(width, height, random);
        // From many points to a texel to many texels to a point; squares of cells, rows, and some left over.
        for (const double apart : {0.0, 0.02, 0.13, 0.5, 1.0, 1.9, 2.2, 7.0}) {
            for (const std::size_t wide : {4U, 16U}) {
                for (const double beyond : {0.0, 1.0, -3.0, 1000.0}) {
                    const std::size_t count = 1 + static_cast<std::size_t>(share(random) * 80);
                    hold(of,
                         grid((beyond + share(random)) * width, (beyond + share(random)) * height, apart,
                              6.3 * share(random), count, wide),
                         most_off);
                }
            }
        }
        // Every corner and edge of the texture, a point apart from it in each direction.
        for (const double x : {-1.0, -0.5, 0.0, 0.5, width - 1.5, width - 1.0, width - 0.5}) {
            for (const double y : {-1.0, -0.5, 0.0, 0.5, height - 1.5, height - 1.0, height - 0.5}) {
                hold(of, grid(x, y, 0.06, 0.4, 16, 4), most_off);
                hold(of, grid(x, y, 0.4, 0, 32, 4), most_off);
            }
        }
        // Where neither a float nor 32 bits after a step hold a place.
        places far = grid(0.5, 0.5, 0.1, 0, 16, 4);
        far.column.fill(-2147483647);
        far.row.fill(2147483646);
        hold(of, far, most_off);
        // One point far from the fifteen others.
        places astray = grid(0.4 * width, 0.4 * height, 0.01, 0, 16, 4);
        astray.column[7] += 50;
        hold(of, astray, most_off);
    }
    // Two weighted means of texels of at most 1: six operations, each off by half a step of numbers below 1.
    CHECK(most_off <= 6 * 0x1p-24);
    CHECK(most_off > 0); // that it is looked at
}

TEST_CASE("a texture's colours take factors, and numbers of the points' own") {
    std::mt19937 random(7);
    const boards of = boards_of(9, 9, random);
    for (const instruction_set set :
         {instruction_set::baseline, instruction_set::avx2, instruction_set::avx512}) {
        if (!pipeline::runs(set)) {
            continue;
        }
        CAPTURE(pipeline::instruction_set_names.at(static_cast<std::size_t>(set)));
        for (const double apart : {0.1, 5.0}) { // close together, and not
            places at = grid(2.2, 3.1, apart, 0.3, 48, 4);
            const colors plain = sampled(set, of, at);
            std::array<std::array<float, room>, 3> times{};
            std::array<std::array<float, room>, 3> plus{};
            colors result;
            pipeline::wide::sample_request request;
            request.texels = of.texels.data();
            request.at = {at.column.data(), at.row.data(), at.across.data(), at.up.data(), 9, 9};
            request.count = at.count;
            request.factor = {2, 4, 0.5F}; // exact
            for (std::size_t k = 0; k < 3; ++k) {
                for (std::size_t i = 0; i < at.count; ++i) {
                    times[k][i] = static_cast<float>(1U << (i % 3 + k));
                    plus[k][i] = static_cast<float>(i) / 8;
                }
                request.times[k] = times[k].data();
                request.into[k] = result.each[k].data();
            }
            for (const bool added : {false, true}) {
                for (std::size_t k = 0; added && k < 3; ++k) {
                    request.plus[k] = plus[k].data();
                }
                pipeline::wide::kernels_for(set).attributes.sample(request);
                for (std::size_t k = 0; k < 3; ++k) {
                    for (std::size_t i = 0; i < at.count; ++i) {
                        const float product = plain.each[k][i] * request.factor[k] * times[k][i];
                        CHECK(result.each[k][i] == (added ? product + plus[k][i] : product));
                    }
                }
            }
        }
    }
}
