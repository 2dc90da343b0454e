#include "verify/cast.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "verify/plain_lighting.hpp"
#include "verify/triangle_tree.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::verify {

namespace {

constexpr double u = unit_roundoff;
constexpr double infinity = std::numeric_limits<double>::infinity();

vec3<double> turned(const vec3<double>& v, const vec3<double>& angles) {
    const double cx = std::cos(angles.x);
    const double sx = std::sin(angles.x);
    const double cy = std::cos(angles.y);
    const double sy = std::sin(angles.y);
    const double cz = std::cos(angles.z);
    const double sz = std::sin(angles.z);
    const vec3<double> about_x{v.x, cx * v.y - sx * v.z, sx * v.y + cx * v.z};
    const vec3<double> about_y{cy * about_x.x + sy * about_x.z, about_x.y, -sy * about_x.x + cy * about_x.z};
    return {cz * about_y.x - sz * about_y.y, sz * about_y.x + cz * about_y.y, about_y.z};
}

// A bilinear look-up in double: the texels' weights are the areas of the rectangle between their centres. In
// float two weighted means follow one another, of six operations, each rounded by unit roundoff × the
// greatest texel.
range3 texel_at(const texture& image, double s, double t) {
    const double x = s * image.width - 0.5;
    const double y = (1 - t) * image.height - 0.5;
    const auto wrapped = [](double at, int size) {
        const double rest = std::fmod(at, size);
        return static_cast<int>(rest < 0 ? rest + size : rest) % size;
    };
    rgb<double> sum;
    rgb<double> greatest;
    for (int i = 0; i < 2; ++i) {
        for (int j = 0; j < 2; ++j) {
            const double left = std::floor(x) + i;
            const double top = std::floor(y) + j;
            const double area = (1 - std::abs(x - left)) * (1 - std::abs(y - top));
            const auto row = static_cast<std::size_t>(wrapped(top, image.height));
            const auto column = static_cast<std::size_t>(wrapped(left, image.width));
            const rgb<double> texel(image.texels[row * static_cast<std::size_t>(image.width) + column]);
            sum = sum + texel * area;
            greatest = max(greatest, texel);
        }
    }
    const auto known = [](double value, double most) {
        return range(std::max(0.0, value - 6 * u * most), value, value + 6 * u * most);
    };
    return {known(sum.r, greatest.r), known(sum.g, greatest.g), known(sum.b, greatest.b)};
}

} // namespace

struct caster::parts {
    const scene& of;
    tolerance_model allowed;
    plain_lighting lighting;
    std::vector<mesh> meshes;
    triangle_tree tree;
    vec3<double> forward, right, up; // right and up measure half the picture's width and height at distance 1

    parts(const scene& given, const tolerance_model& allowed_)
        : of(given),
          allowed(allowed_),
          lighting(given),
          meshes(all_meshes(given)),
          tree(all_triangles(given, meshes)) {
        const view& view = of.view;
        const vec3<double> ahead = view.target - view.eye;
        forward = ahead / std::hypot(ahead.x, ahead.y, ahead.z);
        const vec3<double> side = cross(forward, view.up);
        right = side / std::hypot(side.x, side.y, side.z);
        up = cross(right, forward);
        const double half_height = std::tan(view.fov / 2);
        right = right * (half_height * view.width / view.height);
        up = up * half_height;
    }

    // The subject's own errors on top: its arithmetic's as many times unit roundoff, and what the surface
    // shows at the places around that its snapping may take for this one; doubled, as all tolerances are.
    [[nodiscard]] cast_color widened(cast_color made, double x, double y) const {
        if (allowed.precision == 1 && allowed.snap == 0 && allowed.texel == 0) {
            return made;
        }
        const bool textured = made.object >= 0 &&
                              of.materials[of.objects[static_cast<std::size_t>(made.object)].material].image;
        const rgb<double> of_texel = made.color * (textured ? 2 * allowed.texel : 0);
        made.tolerance = made.tolerance * allowed.precision;
        rgb<double> most;
        for (const auto& [dx, dy] : {std::array{allowed.snap, 0.0},
                                     {-allowed.snap, 0.0},
                                     {0.0, allowed.snap},
                                     {0.0, -allowed.snap}}) {
            const cast_color near = cast(x + dx, y + dy);
            if (near.object == made.object) {
                most =
                    max(most, {std::abs(near.color.r - made.color.r), std::abs(near.color.g - made.color.g),
                               std::abs(near.color.b - made.color.b)});
            }
        }
        made.tolerance = made.tolerance + 2.0 * most + of_texel;
        return made;
    }

    static std::vector<mesh> all_meshes(const scene& of) {
        std::vector<mesh> meshes;
        for (const object& object : of.objects) {
            meshes.push_back(build_mesh(object));
        }
        return meshes;
    }

    static vec3<double> to_world(const placement& placed, const vec3<double>& p) {
        return placed.position +
               turned({p.x * placed.scale.x, p.y * placed.scale.y, p.z * placed.scale.z}, placed.rotation);
    }

    // A normal shrinks where its surface is stretched.
    static vec3<double> normal_to_world(const placement& placed, const vec3<double>& n) {
        const vec3<double> moved =
            turned({n.x / placed.scale.x, n.y / placed.scale.y, n.z / placed.scale.z}, placed.rotation);
        return moved;
    }
    static vec3<double> unit(const vec3<double>& n) {
        const double size = std::hypot(n.x, n.y, n.z);
        return size > 0 ? n / size : vec3<double>{};
    }

    static std::vector<world_triangle> all_triangles(const scene& of, const std::vector<mesh>& meshes) {
        std::vector<world_triangle> triangles;
        for (std::size_t o = 0; o < meshes.size(); ++o) {
            for (std::size_t t = 0; t < meshes[o].triangles.size(); ++t) {
                const triangle& corners = meshes[o].triangles[t];
                const auto corner = [&](std::size_t k) {
                    return to_world(of.objects[o].placed, meshes[o].positions[corners[k]]);
                };
                triangles.push_back({{corner(0), corner(1), corner(2)},
                                     static_cast<std::uint32_t>(o),
                                     static_cast<std::uint32_t>(t)});
            }
        }
        return triangles;
    }

    // The ray's component along the view is 1, so its parameter is the depth.
    [[nodiscard]] vec3<double> ray(double x, double y) const {
        return forward + right * (2 * x / of.view.width - 1) + up * (1 - 2 * y / of.view.height);
    }

    [[nodiscard]] cast_color nothing() const {
        return {of.view.background, rgb<double>(2 * u) * of.view.background, of.view.background_alpha, -1};
    }

    [[nodiscard]] cast_color color_of(const triangle_hit& hit, const vec3<double>& along) const {
        return color_of(tree.triangle(hit.triangle), {1 - hit.second - hit.third, hit.second, hit.third},
                        along);
    }

    // A ray in the space of an object: scale, then rotation, then position, undone one by one.
    struct object_ray {
        vec3<double> from, along;
    };
    [[nodiscard]] object_ray to_object(std::size_t o, const vec3<double>& along) const {
        const placement& placed = of.objects[o].placed;
        const auto back = [&](const vec3<double>& v) {
            const vec3<double> about_z = turned(v, {0, 0, -placed.rotation.z});
            const vec3<double> about_y = turned(about_z, {0, -placed.rotation.y, 0});
            const vec3<double> about_x = turned(about_y, {-placed.rotation.x, 0, 0});
            return vec3<double>{about_x.x / placed.scale.x, about_x.y / placed.scale.y,
                                about_x.z / placed.scale.z};
        };
        return {back(of.view.eye - placed.position), back(along)};
    }

    // The depth at which a ray first crosses a field: steps no longer than the distance, then halving.
    [[nodiscard]] double meet_field(std::size_t o, const field& shape, const vec3<double>& along) const {
        const object_ray ray = to_object(o, along);
        const double unit = std::hypot(ray.along.x, ray.along.y, ray.along.z);
        const auto distance = [&](double t) { return evaluate(shape, ray.from + ray.along * t).distance; };
        const bounds box = bounds_of(shape);
        const vec3<double> extent = box.high - box.low;
        const double size = std::hypot(extent.x, extent.y, extent.z);
        // Nothing of it is farther from the eye than this.
        const vec3<double> middle = (box.low + box.high) * 0.5 - ray.from;
        const double last = std::min(of.view.far, (std::hypot(middle.x, middle.y, middle.z) + size) / unit);
        double t = of.view.near;
        double before = distance(t);
        while (t <= last) {
            const double next = t + std::max(std::abs(before), 1e-5 * size) / unit;
            const double now = distance(next);
            if ((now < 0) != (before < 0)) {
                double low = t;
                double high = next;
                for (int i = 0; i < 80; ++i) {
                    const double half = (low + high) / 2;
                    ((distance(half) < 0) == (before < 0) ? low : high) = half;
                }
                return low <= of.view.far ? low : infinity;
            }
            t = next;
            before = now;
        }
        return infinity;
    }

    // The normal by central differences: the field's own gradient is not asked.
    [[nodiscard]] cast_color color_of_field(std::size_t o, const field& shape, double depth,
                                            const vec3<double>& along) const {
        const object_ray ray = to_object(o, along);
        const vec3<double> met = ray.from + ray.along * depth;
        const bounds box = bounds_of(shape);
        const vec3<double> extent = box.high - box.low;
        const double step = 1e-6 * std::max({extent.x, extent.y, extent.z});
        const auto slope = [&](const vec3<double>& axis) {
            return (evaluate(shape, met + axis * step).distance -
                    evaluate(shape, met - axis * step).distance) /
                   (2 * step);
        };
        const object& object = of.objects[o];
        const material& look = of.materials[object.material].look;
        plain_point point;
        point.position = of.view.eye + along * depth;
        point.normal =
            unit(normal_to_world(object.placed, {slope({1, 0, 0}), slope({0, 1, 0}), slope({0, 0, 1})}));
        if (look.two_sided && dot(point.normal, along) > 0) {
            point.normal = -point.normal;
        }
        // Rounded once. Differences over 1e-6 of its size leave less than 1e-9, of curvature and of rounding.
        point.normal_error = 2 * u + 1e-9;
        point.base = range3(look.base, 2 * u);
        const plain_lit lit = lighting.light_point(point, look);
        return finished(lit.tinted + lit.untinted, look.alpha, o);
    }

    static cast_color finished(const range3& color, double alpha, std::size_t o) {
        // Twice the bound on rounding: what is right stays below half its tolerance.
        const auto tolerance = [](const range& of_range) {
            return 2 * (of_range.tolerance() + 2 * u * of_range.high);
        };
        return {{color.r.value, color.g.value, color.b.value},
                {tolerance(color.r), tolerance(color.g), tolerance(color.b)},
                alpha,
                static_cast<std::ptrdiff_t>(o)};
    }

    struct field_hit {
        std::size_t object = 0;
        const field* shape = nullptr;
        double depth = infinity;
    };
    // The nearest field. A triangle in the same place counts as drawn first or last by the objects' order.
    [[nodiscard]] field_hit find_field(const vec3<double>& along) const {
        field_hit best;
        for (std::size_t o = 0; o < of.objects.size(); ++o) {
            if (const auto* given = std::get_if<field_shape>(&of.objects[o].shape)) {
                const double depth = meet_field(o, given->field, along);
                if (depth < best.depth) {
                    best = {o, &given->field, depth};
                }
            }
        }
        return best;
    }

    [[nodiscard]] cast_color cast(double x, double y) const {
        const vec3<double> along = ray(x, y);
        const triangle_hit hit = tree.find(of.view.eye, along, of.view.near, of.view.far);
        const field_hit implicit = find_field(along);
        if (implicit.depth < hit.distance) {
            return color_of_field(implicit.object, *implicit.shape, implicit.depth,
                                  along); // NOLINT: nearer than infinity, it is one
        }
        return std::isfinite(hit.distance) ? color_of(hit, along) : nothing();
    }

    [[nodiscard]] std::vector<cast_color> cast_around(double x, double y, double step) const {
        const vec3<double> centre = ray(x, y);
        std::vector<std::uint32_t> asked;
        std::vector<cast_color> colors;
        bool empty = false;
        for (int i = 0; i < 9; ++i) {
            const int column = i % 3 - 1;
            const int row = i / 3 - 1;
            const vec3<double> along = ray(x + column * step, y + row * step);
            const triangle_hit nearest = tree.find(of.view.eye, along, of.view.near, of.view.far);
            const field_hit implicit = find_field(along);
            const double depth = std::min(nearest.distance, implicit.depth);
            if (!std::isfinite(depth)) {
                empty = true;
                continue;
            }
            // Nearness, 1 / depth, is rounded to float once for each surface: closer than that they are tied.
            const double room = 2 * u * depth;
            if (implicit.depth <= depth + room) {
                colors.push_back(color_of_field(implicit.object, *implicit.shape, implicit.depth, along));
            }
            for (const triangle_hit& hit : tree.find_all(of.view.eye, along, depth - room, depth + room)) {
                if (std::find(asked.begin(), asked.end(), hit.triangle) == asked.end()) {
                    asked.push_back(hit.triangle);
                    colors.push_back(color_of(tree.meet_plane(hit.triangle, of.view.eye, centre), centre));
                }
            }
        }
        if (empty) {
            colors.push_back(nothing());
        }
        add_slivers(x, y, step, colors);
        return colors;
    }

    // Triangles seen so nearly edge-on that rays pass on both sides of them, though snapped they may cover
    // the place: those with an edge within `step` of it and nothing before them.
    void add_slivers(double x, double y, double step, std::vector<cast_color>& colors) const {
        const vec3<double> centre = ray(x, y);
        const double seen = tree.find(of.view.eye, centre, of.view.near, of.view.far).distance;
        for (std::uint32_t i = 0; i < tree.size(); ++i) {
            std::array<vec3<double>, 3> on_picture; // x, y in pixels from the place; depth
            bool in_front = true;
            for (std::size_t k = 0; k < 3; ++k) {
                const vec3<double> to = tree.triangle(i).corners[k] - of.view.eye;
                const double depth = dot(to, forward);
                in_front = in_front && depth > 0;
                on_picture[k] = {(dot(to, right) / dot(right, right) / depth + 1) * of.view.width / 2 - x,
                                 (1 - dot(to, up) / dot(up, up) / depth) * of.view.height / 2 - y, depth};
            }
            for (std::size_t k = 0; in_front && k < 3; ++k) {
                const vec3<double>& a = on_picture[k];
                const vec3<double>& b = on_picture[(k + 1) % 3];
                const double dx = b.x - a.x;
                const double dy = b.y - a.y;
                const double squared = dx * dx + dy * dy;
                const double t = squared > 0 ? std::clamp(-(a.x * dx + a.y * dy) / squared, 0.0, 1.0) : 0;
                if (std::hypot(a.x + t * dx, a.y + t * dy) > step || std::min(a.z, b.z) > seen) {
                    continue;
                }
                // Its own point nearest to the place.
                std::array<double, 3> weights{};
                const double w = 1 / a.z + t * (1 / b.z - 1 / a.z);
                weights[k] = (1 - t) / a.z / w;
                weights[(k + 1) % 3] = t / b.z / w;
                colors.push_back(color_of(tree.triangle(i), weights, centre));
                const triangle_hit carried_on = tree.meet_plane(i, of.view.eye, centre);
                if (std::isfinite(carried_on.distance)) {
                    colors.push_back(color_of(carried_on, centre));
                }
                break;
            }
        }
    }

    [[nodiscard]] cast_color color_of(const world_triangle& found, const std::array<double, 3>& weights,
                                      const vec3<double>& along) const {
        const object& object = of.objects[found.object];
        const mesh& shape = meshes[found.object];
        const auto* given = std::get_if<mesh_shape>(&object.shape);
        const std::uint32_t own = shape.materials.empty() ? mesh::no_material : shape.materials[found.index];
        const named_material& material =
            of.materials[given != nullptr && own != mesh::no_material ? given->materials[own]
                                                                      : object.material];
        const triangle& corners = shape.triangles[found.index];
        const vec3<double>& scale = object.placed.scale;
        const bool mirrored = scale.x * scale.y * scale.z < 0;
        vec3<double> face = cross(found.corners[1] - found.corners[0], found.corners[2] - found.corners[0]);
        face = face * ((mirrored ? -1 : 1) / std::hypot(face.x, face.y, face.z));
        const double side = material.look.two_sided && dot(face, along) > 0 ? -1 : 1;

        range3 image(rgb<double>(1.0));
        if (material.image) {
            const triangle& at = shape.texcoord_corners(found.index);
            double s = 0;
            double t = 0;
            for (std::size_t k = 0; k < 3 && !shape.texcoords.empty(); ++k) {
                s += weights[k] * shape.texcoords[at[k]].u;
                t += weights[k] * shape.texcoords[at[k]].v;
            }
            image = texel_at(*material.image, s, t);
        }
        const auto color_at = [&](std::size_t k) {
            return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[corners[k]];
        };
        const auto normal_at = [&](std::size_t k) {
            const vec3<double> moved = normal_to_world(object.placed, shape.normals[corners[k]]);
            return (allowed.unit_at_vertices || of.shading.rate != rate::fragment ? unit(moved) : moved) *
                   side;
        };
        const rgb<double>& base = material.look.base;

        plain_lit lit;
        range3 over_image(rgb<double>(1.0));
        if (of.shading.rate == rate::fragment) {
            plain_point point;
            vec3<double> normal;
            rgb<double> tint;
            for (std::size_t k = 0; k < 3; ++k) {
                point.position = point.position + weights[k] * found.corners[k];
                normal = normal + weights[k] * normal_at(k);
                tint = tint + weights[k] * color_at(k);
            }
            const double size = std::hypot(normal.x, normal.y, normal.z);
            point.normal = size > 0 ? normal / size : vec3<double>{};
            // The corners' normals and the weights are rounded, and the sum; the shorter it is, the farther
            // it turns.
            double greatest = 1;
            for (std::size_t k = 0; k < 3 && !allowed.unit_at_vertices; ++k) {
                const vec3<double> corner = normal_at(k);
                greatest = std::max(greatest, std::hypot(corner.x, corner.y, corner.z));
            }
            point.normal_error = size > 0 ? 5 * u * greatest / size + 2 * u : 0;
            point.base = range3(base * tint, 6 * u) * image;
            lit = lighting.light_point(point, material.look);
        } else {
            over_image = image;
            if (of.shading.rate == rate::face) {
                plain_point point;
                rgb<double> tint;
                for (std::size_t k = 0; k < 3; ++k) {
                    point.position = point.position + found.corners[k] / 3.0;
                    tint = tint + color_at(k) * (1.0 / 3);
                }
                point.normal = face * side;
                point.normal_error = 2 * u;
                point.base = range3(base * tint, 4 * u);
                lit = lighting.light_point(point, material.look);
            } else {
                for (std::size_t k = 0; k < 3; ++k) {
                    plain_point point{found.corners[k], normal_at(k), 2 * u,
                                      range3(base * color_at(k), 2 * u)};
                    const plain_lit corner = lighting.light_point(point, material.look);
                    lit.tinted = lit.tinted + corner.tinted * range(weights[k]).widened(4 * u);
                    lit.untinted = lit.untinted + corner.untinted * range(weights[k]).widened(4 * u);
                }
            }
        }
        return finished(lit.tinted * over_image + lit.untinted, material.look.alpha, found.object);
    }
};

caster::caster(const scene& of, const tolerance_model& allowed)
    : parts_(std::make_unique<const parts>(of, allowed)) {}
caster::~caster() = default;
caster::caster(caster&&) noexcept = default;
caster& caster::operator=(caster&&) noexcept = default;

cast_color caster::at(double x, double y) const { return parts_->widened(parts_->cast(x, y), x, y); }

std::optional<vec3<double>> caster::place(double x, double y) const {
    const vec3<double> along = parts_->ray(x, y);
    const view& view = parts_->of.view;
    const double depth = std::min(parts_->tree.find(view.eye, along, view.near, view.far).distance,
                                  parts_->find_field(along).depth);
    return std::isfinite(depth) ? std::optional(view.eye + along * depth) : std::nullopt;
}

vec3<double> caster::to_world(std::size_t object, const vec3<double>& point) const {
    return parts::to_world(parts_->of.objects[object].placed, point);
}

std::optional<vec3<double>> caster::in_picture(const vec3<double>& point) const {
    const view& view = parts_->of.view;
    const vec3<double> to = point - view.eye;
    const double depth = dot(to, parts_->forward);
    if (!(depth > 0)) {
        return std::nullopt;
    }
    const vec3<double>& right = parts_->right;
    const vec3<double>& up = parts_->up;
    return vec3<double>{(dot(to, right) / dot(right, right) / depth + 1) * view.width / 2,
                        (1 - dot(to, up) / dot(up, up) / depth) * view.height / 2, depth};
}

std::vector<std::string> caster::derivation(double x, double y) const {
    const auto text = [](double value) { return short_number(value, 3); };
    const cast_color cast = at(x, y);
    std::vector<std::string> lines{"u = 2^-24 = " + text(u) +
                                   " is half the distance from 1 to the next float."};
    const std::optional<vec3<double>> met = place(x, y);
    if (!met) {
        lines.push_back("Nothing is seen there: the background, rounded once: 2u of it.");
        return lines;
    }
    const vec3<double> from_eye = *met - parts_->of.view.eye;
    const double far = std::hypot(from_eye.x, from_eye.y, from_eye.z);
    lines.push_back("The point seen is " + text(far) +
                    " m from the eye; measured from there and rounded it is off by u · " + text(far) +
                    " m = " + text(u * far) + " m.");
    for (std::string& line : parts_->lighting.derivation(*met)) {
        lines.push_back(std::move(line));
    }
    lines.push_back(
        "Each formula is evaluated at both ends of these intervals; normals are turned by 2u and what "
        "interpolating them rounds; a highlight's exponent multiplies what is left of its angle; every "
        "further operation adds u of the terms' sum.");
    lines.push_back("In all, doubled so that a right picture stays below half: " + text(cast.tolerance.r) +
                    ", " + text(cast.tolerance.g) + ", " + text(cast.tolerance.b) + " of " +
                    text(cast.color.r) + ", " + text(cast.color.g) + ", " + text(cast.color.b) + ".");
    return lines;
}

bool caster::near_border(double x, double y, double step) const {
    const vec3<double> centre = parts_->ray(x, y);
    const view& view = parts_->of.view;
    const auto met = [&](const vec3<double>& along) {
        const triangle_hit hit = parts_->tree.find(view.eye, along, view.near, view.far);
        const auto field = parts_->find_field(along);
        if (field.depth < hit.distance) {
            return static_cast<std::int64_t>(field.object) - 1000;
        }
        return std::isfinite(hit.distance) ? static_cast<std::int64_t>(hit.triangle) : std::int64_t{-1};
    };
    const std::int64_t middle = met(centre);
    for (int i = 0; i < 9; ++i) {
        if (met(parts_->ray(x + (i % 3 - 1) * step, y + (i / 3 - 1) * step)) != middle) {
            return true;
        }
    }
    return false;
}

std::vector<cast_color> caster::around(double x, double y, double step) const {
    std::vector<cast_color> made = parts_->cast_around(x, y, step);
    for (cast_color& one : made) {
        one = parts_->widened(one, x, y);
    }
    return made;
}

} // namespace yurvo::verify
