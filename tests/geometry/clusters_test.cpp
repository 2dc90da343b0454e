// What is said of every 64 triangles holds of each of them.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "geometry/clusters.hpp"
#include "yurvo/geometry/shapes.hpp"

using namespace yurvo;

namespace {

std::size_t facing_one_way = 0;
std::size_t with_few_blocks = 0;

void holds(const mesh& of) {
    facing_one_way = 0;
    with_few_blocks = 0;
    for (std::size_t i = 0; i < mesh_clusters::count_for(of); ++i) {
        const triangle_cluster cluster = make_cluster(of, i);
        const bool one_way = cluster.sine < triangle_cluster::any_way;
        const bool few_blocks = cluster.block_count <= cluster.blocks.size();
        facing_one_way += one_way ? 1 : 0;
        with_few_blocks += few_blocks ? 1 : 0;
        const vec3<double> axis{cluster.axis[0], cluster.axis[1], cluster.axis[2]};
        const std::size_t first = i * mesh_clusters::triangles_each;
        for (std::size_t t = first; t < std::min(first + mesh_clusters::triangles_each, of.triangles.size());
             ++t) {
            const auto at = [&](std::size_t k) { return of.positions[of.triangles[t][k]]; };
            for (std::size_t k = 0; k < 3; ++k) {
                const std::array<double, 3> place{at(k).x, at(k).y, at(k).z};
                for (std::size_t c = 0; c < 3; ++c) {
                    REQUIRE(static_cast<double>(cluster.low[c]) <= place[c]);
                    REQUIRE(static_cast<double>(cluster.high[c]) >= place[c]);
                }
                const auto end = cluster.blocks.begin() + (few_blocks ? cluster.block_count : 0);
                const auto block =
                    static_cast<std::uint32_t>(of.triangles[t][k] / mesh_clusters::vertices_each_block);
                REQUIRE((!few_blocks || std::find(cluster.blocks.begin(), end, block) != end));
            }
            const vec3<double> normal = cross(at(1) - at(0), at(2) - at(0));
            if (one_way && length(normal) > 0) {
                // The sine of the angle to the axis, and a right angle at most; the axis is rounded to
                // floats, which turns it by less than 2^-23.
                REQUIRE(dot(normal, axis) > 0);
                REQUIRE(length(cross(normal, axis)) / length(normal) <=
                        static_cast<double>(cluster.sine) + 0x1p-23);
            }
        }
    }
}

} // namespace

TEST_CASE("a cluster's box holds its corners, its cone their normals, its blocks their vertices") {
    const mesh buoy = make_sphere(0.7, 96, 60);
    holds(buoy);
    // Away from the poles, where a fan turns all the way round, 64 triangles of a sphere face much the same
    // way.
    CHECK(facing_one_way > mesh_clusters::count_for(buoy) * 9 / 10);
    CHECK(with_few_blocks == mesh_clusters::count_for(buoy));
    holds(make_torus(1, 0.4, 40, 30));
    holds(make_box({1, 2, 3}));
    CHECK(facing_one_way == 0); // all six sides in one
    mesh flat = make_plane(3, 2, 50, 40);
    holds(flat);
    CHECK(facing_one_way == mesh_clusters::count_for(flat));
    // Triangles in no order: their vertices are everywhere.
    std::mt19937 engine(5); // NOLINT: the same every time
    MESSAGE("seed 5");
    std::shuffle(flat.triangles.begin(), flat.triangles.end(), engine);
    holds(flat);
    CHECK(with_few_blocks == 0);
}

TEST_CASE("a cluster of triangles without an area faces nowhere in particular") {
    mesh line;
    line.positions = {{0, 0, 0}, {1, 0, 0}, {2, 0, 0}};
    line.normals = {{0, 1, 0}, {0, 1, 0}, {0, 1, 0}};
    line.triangles = {{0, 1, 2}, {2, 1, 0}};
    const triangle_cluster cluster = make_cluster(line, 0);
    CHECK(cluster.axis == std::array<float, 3>{0, 0, 0});
    CHECK(cluster.low == std::array<float, 3>{0, 0, 0});
    CHECK(cluster.high == std::array<float, 3>{2, 0, 0});
    CHECK(cluster.block_count == 1);
}
