// Coverage: no gap, nothing twice.
#include <doctest/doctest.h>

#include <array>
#include <random>
#include <vector>

#include "pipeline/triangle_coverage.hpp"

using namespace yurvo;
using namespace yurvo::pipeline;

namespace {

constexpr int width = 97;
constexpr int height = 61;

struct counter {
    std::vector<int> times = std::vector<int>(std::size_t{width} * height);

    int& at(int x, int y) { return times[static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x)]; }

    void add(const snapped& a, const snapped& b, const snapped& c) {
        cover(a, b, c, width, height, [&](int y, int begin, int end) {
            for (int x = begin; x < end; ++x) {
                ++at(x, y);
            }
        });
    }
    [[nodiscard]] bool everywhere(int expected) const {
        for (const int found : times) {
            if (found != expected) {
                return false;
            }
        }
        return true;
    }
};

// Corners around the whole picture, well outside it.
const std::array<snapped, 4> frame_corners{snapped{-3000, -2100}, snapped{31000, -1500},
                                           snapped{29000, 19000}, snapped{-2500, 18000}};

} // namespace

TEST_CASE("a fan about any point covers every pixel once, whichever way its triangles are turned") {
    std::mt19937_64 engine(21);
    MESSAGE("seed 21");
    std::uniform_int_distribution<std::int64_t> across(0, width * steps_per_pixel);
    std::uniform_int_distribution<std::int64_t> down(0, height * steps_per_pixel);
    for (int i = 0; i < 50; ++i) {
        // Every other centre on a pixel's centre, where the rule of the edges alone decides.
        snapped centre{across(engine), down(engine)};
        if (i % 2 == 0) {
            centre = {centre.x / 256 * 256 + 128, centre.y / 256 * 256 + 128};
        }
        counter counts;
        for (std::size_t k = 0; k < 4; ++k) {
            const snapped& a = frame_corners[k];
            const snapped& b = frame_corners[(k + 1) % 4];
            i % 3 == 0 ? counts.add(centre, b, a) : counts.add(a, b, centre);
        }
        CHECK(counts.everywhere(1));
    }
}

TEST_CASE("a grid aligned to pixel centres covers every pixel once") {
    counter counts;
    for (int j = -1; j <= height; j += 3) {
        for (int i = -1; i <= width; i += 3) {
            const auto corner = [](int x, int y) { return snapped{x * 256 + 128, y * 256 + 128}; };
            counts.add(corner(i, j), corner(i + 3, j), corner(i + 3, j + 3));
            counts.add(corner(i, j), corner(i + 3, j + 3), corner(i, j + 3));
        }
    }
    CHECK(counts.everywhere(1));
}

TEST_CASE("random triangulations cover every pixel once") {
    for (std::uint64_t seed = 1; seed <= 20; ++seed) {
        CAPTURE(seed);
        std::mt19937_64 engine(seed);
        std::uniform_real_distribution<double> unit(0, 1);
        std::vector<std::array<snapped, 3>> triangles{{frame_corners[0], frame_corners[1], frame_corners[2]},
                                                      {frame_corners[0], frame_corners[2], frame_corners[3]}};
        // A triangle, taken at random, is split about a point in it; many end up thinner than a pixel.
        for (int i = 0; i < 400; ++i) {
            const auto pick = static_cast<std::size_t>(unit(engine) * static_cast<double>(triangles.size()));
            const std::array<snapped, 3> whole = triangles[pick];
            double s = unit(engine);
            double t = unit(engine);
            if (s + t > 1) {
                s = 1 - s;
                t = 1 - t;
            }
            const auto mix = [&](std::int64_t a, std::int64_t b, std::int64_t c) {
                return std::llround(static_cast<double>(a) + s * static_cast<double>(b - a) +
                                    t * static_cast<double>(c - a));
            };
            const snapped inside{mix(whole[0].x, whole[1].x, whole[2].x),
                                 mix(whole[0].y, whole[1].y, whole[2].y)};
            // Rounding may move the point across an edge of a very thin triangle: leave such a one whole.
            if (doubled_area(whole[0], whole[1], inside) < 0 ||
                doubled_area(whole[1], whole[2], inside) < 0 ||
                doubled_area(whole[2], whole[0], inside) < 0) {
                continue;
            }
            triangles[pick] = {whole[0], whole[1], inside};
            triangles.push_back({whole[1], whole[2], inside});
            triangles.push_back({whole[2], whole[0], inside});
        }
        counter counts;
        for (const auto& one : triangles) {
            counts.add(one[0], one[1], one[2]);
        }
        CHECK(counts.everywhere(1));
    }
}

TEST_CASE("coverage is what every pixel's centre says by itself") {
    std::mt19937_64 engine(5);
    MESSAGE("seed 5");
    std::uniform_int_distribution<std::int64_t> across(-5000, width * 256 + 5000);
    std::uniform_int_distribution<std::int64_t> down(-5000, height * 256 + 5000);
    for (int i = 0; i < 200; ++i) {
        const snapped a{across(engine), down(engine)};
        snapped b{across(engine), down(engine)};
        snapped c{across(engine), down(engine)};
        counter counts;
        counts.add(a, b, c);
        if (doubled_area(a, b, c) < 0) {
            std::swap(b, c);
        }
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                const snapped p{x * 256 + 128, y * 256 + 128};
                const std::int64_t sides[] = {doubled_area(a, b, p), doubled_area(b, c, p),
                                              doubled_area(c, a, p)};
                const bool out = sides[0] < 0 || sides[1] < 0 || sides[2] < 0;
                const bool in = sides[0] > 0 && sides[1] > 0 && sides[2] > 0;
                const int found = counts.at(x, y);
                REQUIRE((found == 1 || !in));
                REQUIRE((found == 0 || !out));
            }
        }
    }
}

TEST_CASE("clipped at near and at the guard band, a plane still covers every pixel once") {
    // Two triangles of a level plane from behind the eye to far ahead, and far out to both sides: homogeneous
    // corners (x·w, y·w, w) with the horizon at y = 20.
    const auto corner = [](double x, double z) {
        return homogeneous{x * 1000 + width / 2.0 * z, 40.0 * 30 + 20 * z, z};
    };
    counter counts;
    const auto add = [&](const homogeneous& a, const homogeneous& b, const homogeneous& c) {
        in_snapped_pieces(a, b, c, 0.1, [&](const snapped& p, const snapped& q, const snapped& r) {
            cover(p, q, r, width, height, [&](int y, int begin, int end) {
                for (int x = begin; x < end; ++x) {
                    ++counts.at(x, y);
                }
            });
        });
    };
    const homogeneous a = corner(-5000, -50);
    const homogeneous b = corner(5000, -50);
    const homogeneous c = corner(5000, 90000);
    const homogeneous d = corner(-5000, 90000);
    add(a, b, c);
    add(a, c, d);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            // Below the far edge, at 20 + 1200 / 90000 pixels.
            REQUIRE(counts.at(x, y) == (y + 0.5 > 20.02 ? 1 : 0));
        }
    }
}
