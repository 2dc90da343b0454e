#include "verify/plain_shapes.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <tuple>

namespace yurvo::inline v0_1::verify {

namespace {

struct made_corner {
    vec3<double> place, normal;
    double s = 0, t = 0; // in the texture, to the right and up
};

double size_of(const vec3<double>& v) { return std::hypot(v.x, v.y, v.z); }
vec3<double> unit_of(const vec3<double>& v) {
    const double size = size_of(v);
    return size > 0 ? vec3<double>{v.x / size, v.y / size, v.z / size} : vec3<double>{};
}
vec3<double> across(const vec3<double>& a, const vec3<double>& b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}

// Triangles as they come.
class triangle_heap {
    mesh made_;

  public:
    // Turned so that it is counter-clockwise from the side to which its normals point.
    void add(const made_corner& a, const made_corner& b, const made_corner& c) {
        const vec3<double> faces = across(b.place - a.place, c.place - a.place);
        const vec3<double> outwards = a.normal + b.normal + c.normal;
        const double side = faces.x * outwards.x + faces.y * outwards.y + faces.z * outwards.z;
        put(a);
        put(side < 0 ? c : b);
        put(side < 0 ? b : c);
        const auto first = static_cast<std::uint32_t>(made_.positions.size() - 3);
        made_.triangles.push_back({first, first + 1, first + 2});
    }
    // A cell with the corners in turn; the diagonal runs from the first to the third.
    void add_cell(const std::array<made_corner, 4>& in_turn) {
        add(in_turn[0], in_turn[2], in_turn[3]);
        add(in_turn[0], in_turn[1], in_turn[2]);
    }
    mesh take() { return std::move(made_); }

  private:
    void put(const made_corner& of) {
        made_.positions.push_back(of.place);
        made_.normals.push_back(of.normal);
        made_.texcoords.push_back({of.s, of.t});
    }
};

// Longitude: from +X towards +Z. A whole turn ends exactly where it began.
struct longitude {
    double cosine, sine;
    longitude(double step, double steps) {
        const double angle = 2 * pi * std::fmod(step, steps) / steps;
        cosine = std::cos(angle);
        sine = std::sin(angle);
    }
    [[nodiscard]] vec3<double> at(double radius, double height) const {
        return {radius * cosine, height, radius * sine};
    }
};

mesh plain(const plane_shape& of) {
    triangle_heap heap;
    const auto at = [&](std::uint32_t i, std::uint32_t k) {
        const double s = static_cast<double>(i) / of.cells[0];
        const double down = static_cast<double>(k) / of.cells[1];
        return made_corner{{of.size[0] * (s - 0.5), 0, of.size[1] * (down - 0.5)}, {0, 1, 0}, s, 1 - down};
    };
    for (std::uint32_t k = 0; k < of.cells[1]; ++k) {
        for (std::uint32_t i = 0; i < of.cells[0]; ++i) {
            heap.add_cell({at(i, k), at(i + 1, k), at(i + 1, k + 1), at(i, k + 1)});
        }
    }
    return heap.take();
}

mesh plain(const box_shape& of) {
    triangle_heap heap;
    const std::array<double, 3> half{of.size.x / 2, of.size.y / 2, of.size.z / 2};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        for (const double side : {-1.0, 1.0}) {
            const std::size_t first = axis == 0 ? 1 : 0;
            const std::size_t second = axis == 2 ? 1 : 2;
            // From the smallest made_corner to the greatest, compared by x, then y, then z.
            const auto at = [&](double a, double b) {
                std::array<double, 3> place{};
                std::array<double, 3> normal{};
                place[axis] = side * half[axis];
                place[first] = a * half[first];
                place[second] = b * half[second];
                normal[axis] = side;
                made_corner made{{place[0], place[1], place[2]}, {normal[0], normal[1], normal[2]}};
                const double x = place[0] / of.size.x;
                const double y = place[1] / of.size.y;
                const double z = place[2] / of.size.z;
                made.s = 0.5 + (axis == 0 ? -side * z : axis == 1 ? x : side * x);
                made.t = 0.5 + (axis == 1 ? -side * z : y);
                return made;
            };
            heap.add_cell({at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)});
        }
    }
    return heap.take();
}

mesh plain(const sphere_shape& of) {
    triangle_heap heap;
    const double around = of.cells[0];
    const double rows = of.cells[1];
    const auto at = [&](double i, double row, double shown) {
        const double polar = pi * row / rows;
        const bool pole = row == 0 || row == rows;
        const vec3<double> out =
            longitude(i, around).at(pole ? 0 : std::sin(polar), row == rows ? -1 : std::cos(polar));
        return made_corner{out * of.radius, out, 1 - shown / around, 1 - row / rows};
    };
    for (std::uint32_t row = 0; row < rows; ++row) {
        for (std::uint32_t i = 0; i < around; ++i) {
            const double middle = i + 0.5;
            if (row == 0) {
                heap.add(at(i, 0, middle), at(i + 1, 1, i + 1), at(i, 1, i));
            } else if (row + 1 == rows) {
                heap.add(at(i, row, i), at(i + 1, row, i + 1), at(i, rows, middle));
            } else {
                heap.add_cell(
                    {at(i, row, i), at(i + 1, row, i + 1), at(i + 1, row + 1, i + 1), at(i, row + 1, i)});
            }
        }
    }
    return heap.take();
}

// A disc that closes a tube, as a fan about its centre.
void add_cap(triangle_heap& heap, double radius, double height, double around, double side) {
    const vec3<double> normal{0, side, 0};
    const auto at = [&](double i) {
        const longitude l(i, around);
        return made_corner{l.at(radius, height), normal, (1 + l.cosine) / 2, (1 - side * l.sine) / 2};
    };
    for (std::uint32_t i = 0; i < around; ++i) {
        heap.add({{0, height, 0}, normal, 0.5, 0.5}, at(i), at(i + 1));
    }
}

mesh plain(const cylinder_shape& of) {
    triangle_heap heap;
    const double around = of.cells[0];
    const double rows = of.cells[1];
    const auto at = [&](double i, double row) {
        const longitude l(i, around);
        return made_corner{l.at(of.radius, of.height * (0.5 - row / rows)), l.at(1, 0), 1 - i / around,
                           1 - row / rows};
    };
    for (std::uint32_t row = 0; row < rows; ++row) {
        for (std::uint32_t i = 0; i < around; ++i) {
            heap.add_cell({at(i, row), at(i + 1, row), at(i + 1, row + 1), at(i, row + 1)});
        }
    }
    add_cap(heap, of.radius, -of.height / 2, around, -1);
    add_cap(heap, of.radius, of.height / 2, around, 1);
    return heap.take();
}

mesh plain(const cone_shape& of) {
    triangle_heap heap;
    const double around = of.cells[0];
    const double rows = of.cells[1];
    // The side falls by its height over its radius; its normal is square to that.
    const double slant = std::hypot(of.radius, of.height);
    const auto at = [&](double i, double row, double shown) {
        const vec3<double> normal = longitude(shown, around).at(of.height / slant, of.radius / slant);
        return made_corner{longitude(i, around).at(of.radius * (row / rows), of.height * (0.5 - row / rows)),
                           normal, 1 - shown / around, 1 - row / rows};
    };
    for (std::uint32_t row = 0; row < rows; ++row) {
        for (std::uint32_t i = 0; i < around; ++i) {
            if (row == 0) {
                heap.add(at(i, 0, i + 0.5), at(i + 1, 1, i + 1), at(i, 1, i));
            } else {
                heap.add_cell(
                    {at(i, row, i), at(i + 1, row, i + 1), at(i + 1, row + 1, i + 1), at(i, row + 1, i)});
            }
        }
    }
    add_cap(heap, of.radius, -of.height / 2, around, -1);
    return heap.take();
}

mesh plain(const torus_shape& of) {
    triangle_heap heap;
    const double around = of.cells[0];
    const double about = of.cells[1];
    const auto at = [&](double i, double j) {
        const double angle = 2 * pi * std::fmod(j, about) / about;
        const longitude l(i, around);
        return made_corner{l.at(of.radius + of.tube * std::cos(angle), of.tube * std::sin(angle)),
                           l.at(std::cos(angle), std::sin(angle)), 1 - i / around, j / about};
    };
    for (std::uint32_t j = 0; j < about; ++j) {
        for (std::uint32_t i = 0; i < around; ++i) {
            heap.add_cell({at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)});
        }
    }
    return heap.take();
}

mesh plain(const mesh_shape& of) { return *of.data; }
mesh plain(const field_shape& /*of*/) { return {}; }

// Each triangle with corners of its own, as a mesh from a file may not have it.
mesh taken_apart(const mesh& whole) {
    mesh result;
    result.materials = whole.materials;
    for (std::size_t t = 0; t < whole.triangles.size(); ++t) {
        const auto first = static_cast<std::uint32_t>(result.positions.size());
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t vertex = whole.triangles[t][k];
            result.positions.push_back(whole.positions[vertex]);
            result.normals.push_back(whole.normals[vertex]);
            if (!whole.colors.empty()) {
                result.colors.push_back(whole.colors[vertex]);
            }
            if (!whole.texcoords.empty()) {
                result.texcoords.push_back(whole.texcoords[whole.texcoord_corners(t)[k]]);
            }
        }
        result.triangles.push_back({first, first + 1, first + 2});
    }
    return result;
}

vec3<double> facing(const mesh& of, const triangle& corners) {
    return unit_of(across(of.positions[corners[1]] - of.positions[corners[0]],
                          of.positions[corners[2]] - of.positions[corners[0]]));
}

void make_flat(mesh& apart) {
    for (const triangle& corners : apart.triangles) {
        const vec3<double> normal = facing(apart, corners);
        for (const std::uint32_t vertex : corners) {
            apart.normals[vertex] = normal;
        }
    }
}

// The angle at a made_corner.
double angle_at(const vec3<double>& here, const vec3<double>& one, const vec3<double>& other) {
    const vec3<double> a = one - here;
    const vec3<double> b = other - here;
    return std::atan2(size_of(across(a, b)), a.x * b.x + a.y * b.y + a.z * b.z);
}

// All corners at one place have one normal: their triangles', by the angle that each has there.
void share_normals(mesh& apart) {
    std::map<std::tuple<double, double, double>, vec3<double>> sums;
    const auto key = [&](std::uint32_t vertex) {
        const vec3<double>& p = apart.positions[vertex];
        return std::tuple{p.x + 0.0, p.y + 0.0, p.z + 0.0};
    };
    for (const triangle& corners : apart.triangles) {
        const vec3<double> normal = facing(apart, corners);
        for (std::size_t k = 0; k < 3; ++k) {
            vec3<double>& sum = sums[key(corners[k])];
            sum = sum + normal * angle_at(apart.positions[corners[k]], apart.positions[corners[(k + 1) % 3]],
                                          apart.positions[corners[(k + 2) % 3]]);
        }
    }
    for (const triangle& corners : apart.triangles) {
        for (const std::uint32_t vertex : corners) {
            apart.normals[vertex] = unit_of(sums[key(vertex)]);
        }
    }
}

double distance_to(const field_part& part, const vec3<double>& from) {
    const vec3<double> p = from - part.position;
    if (part.kind == field_kind::rounded_box) {
        const double inner_x = std::abs(p.x) - (part.size.x / 2 - part.rounding);
        const double inner_y = std::abs(p.y) - (part.size.y / 2 - part.rounding);
        const double inner_z = std::abs(p.z) - (part.size.z / 2 - part.rounding);
        const double outside =
            std::hypot(std::max(inner_x, 0.0), std::max(inner_y, 0.0), std::max(inner_z, 0.0));
        return outside + std::min(std::max({inner_x, inner_y, inner_z}), 0.0) - part.rounding;
    }
    if (part.kind == field_kind::torus) {
        return std::hypot(std::hypot(p.x, p.z) - part.radius, p.y) - part.tube;
    }
    if (part.kind == field_kind::capsule) {
        const double beyond = std::max(std::abs(p.y) - part.height / 2, 0.0);
        return std::hypot(p.x, beyond, p.z) - part.radius;
    }
    return std::hypot(p.x, p.y, p.z) - part.radius;
}

} // namespace

mesh plain_mesh(const object& of) {
    mesh made = std::visit([](const auto& shape) { return plain(shape); }, of.shape);
    if (of.normals == normals_kind::smooth) {
        return made;
    }
    mesh apart = taken_apart(made);
    if (of.normals == normals_kind::flat) {
        make_flat(apart);
    } else {
        share_normals(apart);
    }
    return apart;
}

double plain_distance(const field& to, const vec3<double>& from) {
    double nearest = distance_to(to.parts[0], from);
    for (std::size_t i = 1; i < to.parts.size(); ++i) {
        const double next = distance_to(to.parts[i], from);
        // Where two are closer than `blend`, the smaller is less by a quarter of the square of what is
        // missing.
        const double missing = std::max(to.blend - std::abs(nearest - next), 0.0);
        nearest = std::min(nearest, next) - missing * missing / (4 * to.blend);
    }
    return nearest;
}

double plain_extent(const field& of) {
    double most = 0;
    for (const field_part& part : of.parts) {
        const double own = part.kind == field_kind::rounded_box ? size_of(part.size) / 2
                           : part.kind == field_kind::torus     ? part.radius + part.tube
                           : part.kind == field_kind::capsule   ? part.radius + part.height / 2
                                                                : part.radius;
        most = std::max(most, size_of(part.position) + own);
    }
    return most + of.blend / 4 * static_cast<double>(of.parts.size());
}

} // namespace yurvo::inline v0_1::verify
