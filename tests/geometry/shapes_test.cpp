#include <doctest/doctest.h>

#include <cmath>
#include <set>
#include <tuple>

#include "yurvo/geometry/normals.hpp"
#include "yurvo/geometry/shapes.hpp"

using namespace yurvo;

namespace {

constexpr double u = 0x1p-53;

// Every triangle has area, faces the way its vertices' normals do, and every normal has length 1.
void check_faces(const mesh& of) {
    REQUIRE(of.normals.size() == of.positions.size());
    REQUIRE(of.texcoords.size() == of.positions.size());
    for (const triangle& corners : of.triangles) {
        const vec3<double> face = cross(of.positions[corners[1]] - of.positions[corners[0]],
                                        of.positions[corners[2]] - of.positions[corners[0]]);
        REQUIRE(length(face) > 0);
        for (const std::uint32_t corner : corners) {
            REQUIRE(dot(face, of.normals[corner]) > 0);
        }
    }
    for (const vec3<double>& normal : of.normals) {
        REQUIRE(std::abs(length(normal) - 1) <= 4 * u);
    }
    for (const texcoord& at : of.texcoords) {
        REQUIRE((at.u >= 0 && at.u <= 1 && at.v >= 0 && at.v <= 1));
    }
}

double area_of(const mesh& of) {
    double area = 0;
    for (const triangle& corners : of.triangles) {
        area += length(cross(of.positions[corners[1]] - of.positions[corners[0]],
                             of.positions[corners[2]] - of.positions[corners[0]])) /
                2;
    }
    return area;
}

// Closed surfaces: each edge is used once in each direction.
bool closed(const mesh& of) {
    using point = std::tuple<double, double, double>;
    const auto at = [&](std::uint32_t i) {
        const vec3<double>& p = of.positions[i];
        return point{p.x + 0.0, p.y + 0.0, p.z + 0.0};
    };
    std::set<std::pair<point, point>> edges;
    for (const triangle& corners : of.triangles) {
        for (std::size_t i = 0; i < 3; ++i) {
            if (!edges.insert({at(corners[i]), at(corners[(i + 1) % 3])}).second) {
                return false;
            }
        }
    }
    for (const auto& [from, to] : edges) {
        if (edges.count({to, from}) == 0) {
            return false;
        }
    }
    return true;
}

} // namespace

TEST_CASE("plane: +Y, the size asked for, diagonals from (−x, −z) to (+x, +z)") {
    const mesh plane = make_plane(6, 4, 3, 2);
    check_faces(plane);
    CHECK(plane.positions.size() == 4 * 3);
    CHECK(plane.triangles.size() == 2 * 3 * 2);
    CHECK(std::abs(area_of(plane) - 24) <= 100 * u * 24);
    CHECK(plane.positions.front() == vec3<double>{-3, 0, -2});
    CHECK(plane.positions.back() == vec3<double>{3, 0, 2});
    const triangle& first = plane.triangles[0];
    CHECK(plane.positions[first[0]] == vec3<double>{-3, 0, -2});
    CHECK(plane.positions[first[2]] == vec3<double>{-1, 0, 0}); // the diagonal's other end
    CHECK(plane.texcoords.front() == texcoord{0, 1});           // v along −Z
    CHECK(plane.texcoords.back() == texcoord{1, 0});
}

TEST_CASE("box: 24 vertices, faces −x, +x, −y, +y, −z, +z, diagonals from smallest to greatest corner") {
    const mesh box = make_box({2, 4, 6});
    check_faces(box);
    CHECK(box.positions.size() == 24);
    CHECK(closed(box));
    CHECK(area_of(box) == 2 * (2 * 4 + 4 * 6 + 2 * 6));
    const vec3<double> normals[] = {{-1, 0, 0}, {1, 0, 0}, {0, -1, 0}, {0, 1, 0}, {0, 0, -1}, {0, 0, 1}};
    for (std::size_t face = 0; face < 6; ++face) {
        for (std::size_t t = 2 * face; t < 2 * face + 2; ++t) {
            const triangle& corners = box.triangles[t];
            CHECK(box.normals[corners[0]] == normals[face]);
            // Both triangles hold both ends of the diagonal: the face's least and greatest corner.
            vec3<double> least{-1, -2, -3};
            vec3<double> greatest{1, 2, 3};
            const vec3<double>& n = normals[face];
            (n.x > 0   ? least.x
             : n.x < 0 ? greatest.x
             : n.y > 0 ? least.y
             : n.y < 0 ? greatest.y
             : n.z > 0 ? least.z
                       : greatest.z) *= -1;
            int ends = 0;
            for (const std::uint32_t corner : corners) {
                ends += box.positions[corner] == least || box.positions[corner] == greatest ? 1 : 0;
            }
            CHECK(ends == 2);
        }
    }
}

TEST_CASE("box: from outside, u runs to the right and v up") {
    const mesh box = make_box({2, 2, 2});
    // On the +x face, seen from +X with +Y up, right is −Z; on the top, u along +X and v along −Z.
    for (std::size_t i = 0; i < box.positions.size(); ++i) {
        const vec3<double>& p = box.positions[i];
        const texcoord& at = box.texcoords[i];
        if (box.normals[i].x > 0) {
            CHECK(at.u == (1 - p.z) / 2);
            CHECK(at.v == (1 + p.y) / 2);
        } else if (box.normals[i].y > 0) {
            CHECK(at.u == (1 + p.x) / 2);
            CHECK(at.v == (1 - p.z) / 2);
        } else if (box.normals[i].y < 0) {
            CHECK(at.u == (1 + p.x) / 2);
            CHECK(at.v == (1 + p.z) / 2);
        }
    }
}

TEST_CASE("sphere: every vertex on it, its normal its direction, closed") {
    const mesh sphere = make_sphere(2, 12, 6);
    check_faces(sphere);
    CHECK(closed(sphere));
    CHECK(sphere.triangles.size() == 2 * 12 * 5); // one a cell at the poles
    for (std::size_t i = 0; i < sphere.positions.size(); ++i) {
        REQUIRE(std::abs(length(sphere.positions[i]) - 2) <= 8 * u);
        REQUIRE(length(sphere.positions[i] - sphere.normals[i] * 2.0) <= 4 * u);
    }
    CHECK(sphere.positions[0] == vec3<double>{0, 2, 0});
    // The first vertex of the first row lies towards +X, the fourth a quarter round, towards +Z.
    CHECK(sphere.positions[12].z == 0);
    CHECK(sphere.positions[12].x > 0);
    CHECK(sphere.positions[15].x == 0);
    CHECK(sphere.positions[15].z > 0);
    CHECK(sphere.texcoords[12].u == 1); // against the longitude
    CHECK(sphere.texcoords[0].u == 1 - 0.5 / 12);
    // The diagonal of an inner cell, from (column 0, row 1) to (column 1, row 2), is in both its triangles.
    const std::uint32_t from = 12;
    const std::uint32_t to = 12 + 13 + 1;
    int both = 0;
    for (const triangle& corners : sphere.triangles) {
        const auto has = [&](std::uint32_t i) {
            return corners[0] == i || corners[1] == i || corners[2] == i;
        };
        both += has(from) && has(to) ? 1 : 0;
    }
    CHECK(both == 2);
    CHECK(make_sphere(1, 3, 1).triangles.empty());
}

TEST_CASE("cylinder, cone and torus: closed, facing out, of the areas their polygons have") {
    const double n = 12;
    const double half = pi / n;
    const mesh cylinder = make_cylinder(1.5, 3, 12, 2);
    check_faces(cylinder);
    CHECK(closed(cylinder));
    const double disc = n * 1.5 * 1.5 * std::sin(half) * std::cos(half);
    CHECK(std::abs(area_of(cylinder) - (2 * disc + n * 2 * 1.5 * std::sin(half) * 3)) <= 1e3 * u * 40);

    const mesh cone = make_cone(1.5, 2, 12, 1);
    check_faces(cone);
    CHECK(closed(cone));
    const double slant = std::hypot(2, 1.5 * std::cos(half));
    CHECK(std::abs(area_of(cone) - (disc + n * 1.5 * std::sin(half) * slant)) <= 1e3 * u * 40);
    CHECK(cone.positions[0] == vec3<double>{0, 1, 0});
    // A normal of the side is square to the slope from the tip: dot((r, −h), (h, r)) = 0; with r = 1.5, h
    // = 2.
    CHECK(std::abs(cone.normals[12].x - 0.8) <= 2 * u);
    CHECK(std::abs(cone.normals[12].y - 0.6) <= 2 * u);

    const mesh torus = make_torus(2, 0.5, 12, 8);
    check_faces(torus);
    CHECK(closed(torus));
    CHECK(torus.triangles.size() == 2 * 12 * 8);
    for (const vec3<double>& p : torus.positions) {
        REQUIRE(std::abs(std::hypot(std::hypot(p.x, p.z) - 2, p.y) - 0.5) <= 8 * u);
    }
    CHECK(torus.positions[13].y > 0); // from the outside towards +Y
    CHECK(make_cone(1, 1, 3, 4).triangles.size() == 3 + 3 * 3 * 2 + 3);
}

TEST_CASE("a cylinder's lower cap is drawn first, after its side") {
    const mesh cylinder = make_cylinder(1, 2, 4, 1);
    CHECK(cylinder.normals[cylinder.triangles[8][0]] == vec3<double>{0, -1, 0});
    CHECK(cylinder.normals[cylinder.triangles[12][0]] == vec3<double>{0, 1, 0});
}

TEST_CASE("shared normals: a cube's eight corners point along its diagonals, however its faces are split") {
    const mesh shared = with_shared_normals(make_box({1, 1, 1}));
    CHECK(shared.positions.size() == 8);
    CHECK(shared.triangles.size() == 12);
    CHECK(shared.texcoord_triangles.size() == 12);
    CHECK(shared.texcoords.size() == 24); // the texture keeps its own corners
    for (std::size_t i = 0; i < 8; ++i) {
        // Each face has a right angle there, whether one triangle holds it or two.
        CHECK(length(shared.normals[i] - shared.positions[i] * (2 / std::sqrt(3.0))) <= 16 * u);
    }
}

TEST_CASE("flat normals: every triangle its own three vertices and its own normal") {
    const mesh sphere = make_sphere(1, 5, 4);
    const mesh flat = with_flat_normals(sphere);
    CHECK(flat.positions.size() == 3 * sphere.triangles.size());
    for (std::size_t t = 0; t < flat.triangles.size(); ++t) {
        const triangle& corners = flat.triangles[t];
        const vec3<double> edge = flat.positions[corners[1]] - flat.positions[corners[0]];
        REQUIRE(std::abs(dot(edge, flat.normals[corners[2]])) <= 8 * u);
        REQUIRE(flat.texcoord_corners(t) == sphere.texcoord_corners(t));
    }
}
