#include "yurvo/geometry/shapes.hpp"
#include "yurvo/numeric/assert.hpp"

#include <cmath>
#include <cstddef>
#include <utility>
#include <vector>

namespace yurvo::inline v0_1 {

namespace {

struct circle_point {
    double cosine, sine;
};

// The i-th of n points around a circle. Quarter turns are exact, and point n is point 0, so that seams close
// and opposite points mirror each other.
circle_point around_circle(std::uint64_t i, std::uint64_t n) {
    i %= n; // NOLINT: n is 3 or more
    if (4 * i % n == 0) {
        constexpr circle_point quarters[] = {{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
        return quarters[4 * i / n];
    }
    const double angle = 2 * pi * static_cast<double>(i) / static_cast<double>(n);
    return {std::cos(angle), std::sin(angle)};
}

// Points 0 to n of it: each row of a shape has the same ones.
std::vector<circle_point> whole_circle(std::uint32_t n) {
    std::vector<circle_point> points;
    points.reserve(n + std::size_t{1});
    for (std::uint32_t i = 0; i <= n; ++i) {
        points.push_back(around_circle(i, n));
    }
    return points;
}

// i of n as a place from −half to +half, exact at both ends and in the middle.
double spread(std::uint32_t i, std::uint32_t n, double size) { return size * ((2.0 * i - n) / (2.0 * n)); }

double fraction(std::uint32_t i, std::uint32_t n) { return static_cast<double>(i) / n; }

struct builder {
    mesh made;

    // For about so many cells of two triangles each.
    builder(std::size_t around, std::size_t rows) {
        const std::size_t vertices = (around + 1) * (rows + 1);
        made.positions.reserve(vertices);
        made.normals.reserve(vertices);
        made.texcoords.reserve(vertices);
        made.triangles.reserve(2 * around * rows);
    }

    std::uint32_t vertex(const vec3<double>& position, const vec3<double>& normal, const texcoord& at) {
        made.positions.push_back(position);
        made.normals.push_back(normal);
        made.texcoords.push_back(at);
        return static_cast<std::uint32_t>(made.positions.size() - 1);
    }

    void add(std::uint32_t a, std::uint32_t b, std::uint32_t c) { made.triangles.push_back({a, b, c}); }
};

// A fan about the centre of a disc of the circle's radius at height y, facing up or down.
void cap(builder& build, double radius, double y, std::uint32_t around, bool up) {
    const vec3<double> normal{0, up ? 1.0 : -1.0, 0};
    const std::uint32_t centre = build.vertex({0, y, 0}, normal, {0.5, 0.5});
    for (std::uint32_t i = 0; i <= around; ++i) {
        const auto [cosine, sine] = around_circle(i, around);
        const double v = up ? 0.5 - sine / 2 : 0.5 + sine / 2;
        build.vertex({radius * cosine, y, radius * sine}, normal, {0.5 + cosine / 2, v});
    }
    for (std::uint32_t i = 0; i < around; ++i) {
        const std::uint32_t here = centre + 1 + i;
        if (up) {
            build.add(centre, here + 1, here);
        } else {
            build.add(centre, here, here + 1);
        }
    }
}

// Rows of cells between two grid rows whose first vertices are given; `upwards` when the next row lies above.
void cell_row(builder& build, std::uint32_t row, std::uint32_t next, std::uint32_t around, bool upwards) {
    for (std::uint32_t i = 0; i < around; ++i) {
        const std::uint32_t a = row + i;
        const std::uint32_t b = row + i + 1;
        const std::uint32_t c = next + i;
        const std::uint32_t d = next + i + 1;
        if (upwards) {
            build.add(a, c, d);
            build.add(a, d, b);
        } else {
            build.add(a, d, c);
            build.add(a, b, d);
        }
    }
}

} // namespace

mesh make_plane(double size_x, double size_z, std::uint32_t cells_x, std::uint32_t cells_z) {
    YURVO_ASSERT(size_x > 0 && size_z > 0);
    YURVO_ASSERT(cells_x >= 1 && cells_z >= 1);
    builder build(cells_x, cells_z);
    for (std::uint32_t j = 0; j <= cells_z; ++j) {
        for (std::uint32_t i = 0; i <= cells_x; ++i) {
            build.vertex({spread(i, cells_x, size_x), 0, spread(j, cells_z, size_z)}, {0, 1, 0},
                         {fraction(i, cells_x), 1 - fraction(j, cells_z)});
        }
    }
    // Seen from above, +X to the right, the next row (+Z) lies below.
    for (std::uint32_t j = 0; j < cells_z; ++j) {
        for (std::uint32_t i = 0; i < cells_x; ++i) {
            const std::uint32_t a = j * (cells_x + 1) + i;
            const std::uint32_t c = a + cells_x + 1;
            build.add(a, c, c + 1);
            build.add(a, c + 1, a + 1);
        }
    }
    return std::move(build.made);
}

mesh make_box(const vec3<double>& size) {
    YURVO_ASSERT(size.x > 0 && size.y > 0 && size.z > 0);
    builder build(7, 2); // 24 vertices
    const vec3<double> half = size * 0.5;
    // For each face: its normal, and the directions that texture u and v take, seen from outside.
    struct face {
        vec3<double> normal, u, v;
    };
    const face faces[] = {{{-1, 0, 0}, {0, 0, 1}, {0, 1, 0}},  {{1, 0, 0}, {0, 0, -1}, {0, 1, 0}},
                          {{0, -1, 0}, {1, 0, 0}, {0, 0, 1}},  {{0, 1, 0}, {1, 0, 0}, {0, 0, -1}},
                          {{0, 0, -1}, {-1, 0, 0}, {0, 1, 0}}, {{0, 0, 1}, {1, 0, 0}, {0, 1, 0}}};
    for (const face& side : faces) {
        // Counter-clockwise from (u, v) = (0, 0).
        constexpr texcoord corners[] = {{0, 0}, {1, 0}, {1, 1}, {0, 1}};
        std::uint32_t smallest = 0;
        std::uint32_t index[4] = {};
        for (std::uint32_t i = 0; i < 4; ++i) {
            const vec3<double> unit =
                side.normal + side.u * (2 * corners[i].u - 1) + side.v * (2 * corners[i].v - 1);
            index[i] =
                build.vertex({unit.x * half.x, unit.y * half.y, unit.z * half.z}, side.normal, corners[i]);
            const vec3<double>& p = build.made.positions[index[i]];
            const vec3<double>& least = build.made.positions[index[smallest]];
            if (p.x < least.x || (p.x == least.x && (p.y < least.y || (p.y == least.y && p.z < least.z)))) {
                smallest = i;
            }
        }
        // The greatest corner is opposite the smallest.
        const auto corner = [&](std::uint32_t i) { return index[(smallest + i) % 4]; };
        build.add(corner(0), corner(1), corner(2));
        build.add(corner(0), corner(2), corner(3));
    }
    return std::move(build.made);
}

mesh make_sphere(double radius, std::uint32_t around, std::uint32_t rows) {
    YURVO_ASSERT(radius > 0);
    YURVO_ASSERT(around >= 3 && rows >= 1);
    builder build(around, rows);
    if (rows < 2) {
        return std::move(build.made); // from pole to pole in one row: no area
    }
    const auto pole_row = [&](double y, double v) {
        const auto first = static_cast<std::uint32_t>(build.made.positions.size());
        for (std::uint32_t i = 0; i < around; ++i) {
            build.vertex({0, y * radius, 0}, {0, y, 0}, {1 - (i + 0.5) / around, v});
        }
        return first;
    };
    const std::uint32_t top = pole_row(1, 1);
    const std::vector<circle_point> ring = whole_circle(around);
    std::uint32_t row = 0;
    for (std::uint32_t j = 1; j < rows; ++j) {
        const auto [cosine, sine] = around_circle(j, 2ULL * rows);
        const auto next = static_cast<std::uint32_t>(build.made.positions.size());
        for (std::uint32_t i = 0; i <= around; ++i) {
            const vec3<double> normal{sine * ring[i].cosine, cosine, sine * ring[i].sine};
            build.vertex(normal * radius, normal, {1 - fraction(i, around), 1 - fraction(j, rows)});
        }
        if (j == 1) {
            for (std::uint32_t i = 0; i < around; ++i) {
                build.add(top + i, next + i + 1, next + i);
            }
        } else {
            cell_row(build, row, next, around, false);
        }
        row = next;
    }
    const std::uint32_t bottom = pole_row(-1, 0);
    for (std::uint32_t i = 0; i < around; ++i) {
        build.add(row + i, row + i + 1, bottom + i);
    }
    return std::move(build.made);
}

mesh make_cylinder(double radius, double height, std::uint32_t around, std::uint32_t along) {
    YURVO_ASSERT(radius > 0 && height > 0);
    YURVO_ASSERT(around >= 3 && along >= 1);
    builder build(around, along + std::size_t{2}); // with its caps
    const std::vector<circle_point> ring = whole_circle(around);
    for (std::uint32_t j = 0; j <= along; ++j) {
        for (std::uint32_t i = 0; i <= around; ++i) {
            const auto [cosine, sine] = ring[i];
            build.vertex({radius * cosine, -spread(j, along, height), radius * sine}, {cosine, 0, sine},
                         {1 - fraction(i, around), 1 - fraction(j, along)});
        }
    }
    for (std::uint32_t j = 0; j < along; ++j) {
        cell_row(build, j * (around + 1), (j + 1) * (around + 1), around, false);
    }
    cap(build, radius, -height / 2, around, false);
    cap(build, radius, height / 2, around, true);
    return std::move(build.made);
}

mesh make_cone(double radius, double height, std::uint32_t around, std::uint32_t along) {
    YURVO_ASSERT(radius > 0 && height > 0);
    YURVO_ASSERT(around >= 3 && along >= 1);
    builder build(around, along + std::size_t{2}); // with its cap
    const std::vector<circle_point> ring = whole_circle(around);
    const double slant = std::hypot(radius, height);
    const auto normal_at = [&](const circle_point& at) {
        return vec3<double>{at.cosine * height / slant, radius / slant, at.sine * height / slant};
    };
    for (std::uint32_t i = 0; i < around; ++i) {
        build.vertex({0, height / 2, 0}, normal_at(around_circle(2ULL * i + 1, 2ULL * around)),
                     {1 - (i + 0.5) / around, 1});
    }
    for (std::uint32_t j = 1; j <= along; ++j) {
        const double here = radius * fraction(j, along);
        for (std::uint32_t i = 0; i <= around; ++i) {
            const circle_point& at = ring[i];
            build.vertex({here * at.cosine, -spread(j, along, height), here * at.sine}, normal_at(at),
                         {1 - fraction(i, around), 1 - fraction(j, along)});
        }
    }
    for (std::uint32_t i = 0; i < around; ++i) {
        build.add(i, around + i + 1, around + i);
    }
    for (std::uint32_t j = 1; j < along; ++j) {
        const std::uint32_t row = around + (j - 1) * (around + 1);
        cell_row(build, row, row + around + 1, around, false);
    }
    cap(build, radius, -height / 2, around, false);
    return std::move(build.made);
}

mesh make_torus(double radius, double tube, std::uint32_t around, std::uint32_t around_tube) {
    YURVO_ASSERT(radius > 0 && tube > 0);
    YURVO_ASSERT(around >= 3 && around_tube >= 3);
    builder build(around, around_tube);
    const std::vector<circle_point> whole = whole_circle(around);
    for (std::uint32_t j = 0; j <= around_tube; ++j) {
        const circle_point section = around_circle(j, around_tube);
        for (std::uint32_t i = 0; i <= around; ++i) {
            const circle_point& ring = whole[i];
            const double out = radius + tube * section.cosine;
            build.vertex({out * ring.cosine, tube * section.sine, out * ring.sine},
                         {section.cosine * ring.cosine, section.sine, section.cosine * ring.sine},
                         {1 - fraction(i, around), fraction(j, around_tube)});
        }
    }
    for (std::uint32_t j = 0; j < around_tube; ++j) {
        cell_row(build, j * (around + 1), (j + 1) * (around + 1), around, true);
    }
    return std::move(build.made);
}

} // namespace yurvo::inline v0_1
