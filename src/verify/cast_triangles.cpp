// Rays at triangles.
#include <algorithm>
#include <array>
#include <cmath>

#include "verify/cast_parts.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// What codes of sRGB are (IEC 61966-2-1), written once more for the second method. In float a power rounds
// its logarithm, which 2.4 multiplies, and itself; what it is taken of is a sum and a quotient, whose
// roundings 2.4 multiplies as well. The straight part is one quotient.
range decoded(const range& code) {
    const auto linear = [](double each) {
        return each <= 0.04045 ? each / 12.92 : std::pow((each + 0.055) / 1.055, 2.4);
    };
    const double roundings = 2.4 * (std::max(1.0, -std::log(std::max(code.value, 0.04045))) + 2) + 1;
    return range(linear(code.low), linear(code.value), linear(code.high)).widened(roundings * u);
}
range3 decoded(const range3& codes) { return {decoded(codes.r), decoded(codes.g), decoded(codes.b)}; }

// A bilinear look-up in double: the texels' weights are the areas of the rectangle between their centres. In
// float two weighted means follow one another, of six operations, each rounded by unit roundoff × the
// greatest texel; and a place is measured from a texel at most two away, in eight operations, so that it is
// off by 16 unit roundoffs in each direction, and the colour by as much of what it changes by from texel to
// texel.
range3 texel_at(const texture& image, double s, double t) {
    const double x = s * image.width - 0.5;
    const double y = (1 - t) * image.height - 0.5;
    const auto wrapped = [](double at, int size) {
        const double rest = std::fmod(at, size);
        return static_cast<int>(rest < 0 ? rest + size : rest) % size;
    };
    rgb<double> sum;
    rgb<double> greatest;
    std::array<std::array<rgb<double>, 2>, 2> texels;
    for (int i = 0; i < 2; ++i) {
        for (int j = 0; j < 2; ++j) {
            const double left = std::floor(x) + i;
            const double top = std::floor(y) + j;
            const double area = (1 - std::abs(x - left)) * (1 - std::abs(y - top));
            const auto row = static_cast<std::size_t>(wrapped(top, image.height));
            const auto column = static_cast<std::size_t>(wrapped(left, image.width));
            const rgb<double> texel(image.texels[row * static_cast<std::size_t>(image.width) + column]);
            texels.at(static_cast<std::size_t>(i)).at(static_cast<std::size_t>(j)) = texel;
            sum = sum + texel * area;
            greatest = max(greatest, texel);
        }
    }
    const auto known = [&](double rgb<double>::*component) {
        const auto change = [&](const rgb<double>& from, const rgb<double>& to) {
            return std::abs(to.*component - from.*component);
        };
        const auto& [left, right] = texels;
        const double to_next = std::max(change(left[0], right[0]), change(left[1], right[1])) +
                               std::max(change(left[0], left[1]), change(right[0], right[1]));
        const double off = u * (6 * greatest.*component + 16 * to_next);
        const double value = sum.*component;
        return range(std::max(0.0, value - off), value, value + off);
    };
    const range3 blended{known(&rgb<double>::r), known(&rgb<double>::g), known(&rgb<double>::b)};
    return image.of_codes ? decoded(blended) : blended;
}

} // namespace

cast_color caster::parts::color_of(const triangle_hit& hit, const vec3<double>& along) const {
    return color_of(std::size_t{hit.triangle}, {1 - hit.second - hit.third, hit.second, hit.third}, along);
}

rgb<double> caster::parts::triangle_surface::color_at(std::size_t corner) const {
    return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[corners()[corner]];
}

const named_material& caster::parts::material_of(const world_triangle& found) const {
    const object& object = the_scene.objects[found.object];
    const mesh& shape = meshes[found.object];
    const auto* from_file = std::get_if<mesh_shape>(&object.shape);
    const std::uint32_t own = shape.materials.empty() ? mesh::no_material : shape.materials[found.index];
    return the_scene.materials[from_file != nullptr && own != mesh::no_material ? from_file->materials[own]
                                                                                : object.material];
}

vec3<double> caster::parts::normal_at(const triangle_surface& on, std::size_t corner) const {
    const std::uint32_t vertex = on.corners()[corner];
    if (allowed.unit_at_vertices || the_scene.shading.rate != rate::fragment) {
        return geometry->shapes->normals[on.found.object][vertex] * on.side;
    }
    return normal_to_world(on.found.object, on.shape.normals[vertex]) * on.side;
}

plain_lit caster::parts::lit_at_point(const triangle_surface& on, const range3& image) const {
    plain_point point;
    vec3<double> normal;
    rgb<double> tint;
    for (std::size_t k = 0; k < 3; ++k) {
        point.position = point.position + on.weights[k] * on.found.corners[k];
        normal = normal + on.weights[k] * normal_at(on, k);
        tint = tint + on.weights[k] * on.color_at(k);
    }
    const double size = std::hypot(normal.x, normal.y, normal.z);
    point.normal = size > 0 ? normal / size : vec3<double>{};
    // The corners' normals and the weights are rounded, and the sum; the shorter it is, the farther it turns.
    double greatest = 1;
    for (std::size_t k = 0; k < 3 && !allowed.unit_at_vertices; ++k) {
        const vec3<double> corner = normal_at(on, k);
        greatest = std::max(greatest, std::hypot(corner.x, corner.y, corner.z));
    }
    point.normal_error = size > 0 ? 5 * u * greatest / size + 2 * u : 0;
    if (allowed.normals_by_derivatives) {
        // Two places a pixel apart, each rounded by u times its distance from the eye, which a pixel's width
        // on the surface is a fixed share of; two such differences make the normal.
        point.normal_error += 2 * u * the_scene.view.height / (2 * std::tan(the_scene.view.fov / 2));
    }
    point.base = range3(on.look.base * tint, 6 * u) * image;
    point.front = on.front;
    return lighting.light_point(point, on.look);
}

plain_lit caster::parts::lit_at_middle(const triangle_surface& on) const {
    plain_point point;
    rgb<double> tint;
    for (std::size_t k = 0; k < 3; ++k) {
        point.position = point.position + on.found.corners[k] / 3.0;
        tint = tint + on.color_at(k) * (1.0 / 3);
    }
    point.normal = on.face;
    point.normal_error = 2 * u;
    point.base = range3(on.look.base * tint, 4 * u);
    point.front = on.front;
    return lighting.light_point(point, on.look);
}

plain_lit caster::parts::lit_at_corner(const triangle_surface& on, std::size_t corner) const {
    const plain_point point{on.found.corners[corner], normal_at(on, corner), 2 * u,
                            range3(on.look.base * on.color_at(corner), 2 * u), on.front};
    return lighting.light_point(point, on.look);
}

plain_lit caster::parts::lit_at_corners(const triangle_surface& on) const {
    const std::array<plain_lit, 3>& corners = lit_corners.at(2 * on.number + (on.front ? 0 : 1), [&] {
        return std::array{lit_at_corner(on, 0), lit_at_corner(on, 1), lit_at_corner(on, 2)};
    });
    plain_lit lit;
    for (std::size_t k = 0; k < 3; ++k) {
        const plain_lit& corner = corners[k];
        lit.tinted = lit.tinted + corner.tinted * range(on.weights[k]).widened(4 * u);
        lit.untinted = lit.untinted + corner.untinted * range(on.weights[k]).widened(4 * u);
    }
    return lit;
}

cast_color caster::parts::color_of(std::size_t triangle, const std::array<double, 3>& weights,
                                   const vec3<double>& along) const {
    const world_triangle& found = tree.triangle(static_cast<std::uint32_t>(triangle));
    const object& object = the_scene.objects[found.object];
    const mesh& shape = meshes[found.object];
    const named_material& material = material_of(found);
    const vec3<double>& scale = object.placed.scale;
    const bool mirrored = scale.x * scale.y * scale.z < 0;
    const vec3<double> face = geometry->shapes->faces[triangle] * (mirrored ? -1.0 : 1.0);
    const bool front = dot(face, along) < 0;
    const double side = material.look.two_sided && !front ? -1 : 1;
    const triangle_surface on{triangle,      found,       weights, shape, object,
                              material.look, face * side, side,    front};

    range3 image(rgb<double>(1.0));
    if (material.image) {
        const yurvo::triangle& at = shape.texcoord_corners(found.index);
        double s = 0;
        double t = 0;
        for (std::size_t k = 0; k < 3 && !shape.texcoords.empty(); ++k) {
            s += weights[k] * shape.texcoords[at[k]].u;
            t += weights[k] * shape.texcoords[at[k]].v;
        }
        image = texel_at(*material.image, s, t);
    }
    if (the_scene.shading.rate == rate::fragment) {
        const plain_lit lit = lit_at_point(on, image);
        return finished(lit.tinted + lit.untinted, material.look.alpha, found.object);
    }
    const plain_lit lit =
        the_scene.shading.rate == rate::face
            ? lit_middles.at(2 * triangle + (front ? 0 : 1), [&] { return lit_at_middle(on); })
            : lit_at_corners(on);
    return finished(lit.tinted * image + lit.untinted, material.look.alpha, found.object);
}

namespace {

// How wide a triangle is across its longest side, on the picture.
double width_of(const std::array<vec3<double>, 3>& corners) {
    double longest = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        const vec3<double> side = corners[(k + 1) % 3] - corners[k];
        longest = std::max(longest, std::hypot(side.x, side.y));
    }
    const vec3<double> one = corners[1] - corners[0];
    const vec3<double> other = corners[2] - corners[0];
    return longest > 0 ? std::abs(one.x * other.y - one.y * other.x) / longest : 0;
}

} // namespace

void caster::parts::add_slivers(double x, double y, double step, std::vector<cast_color>& colors) const {
    const vec3<double> centre = ray(x, y);
    const double seen =
        tree.find(the_scene.view.eye, centre, the_scene.view.near, the_scene.view.far).distance;
    for (std::uint32_t i = 0; i < tree.size(); ++i) {
        std::array<vec3<double>, 3> from_place; // x, y in pixels from the place; depth
        bool in_front = true;
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double> seen_at = on_picture(tree.triangle(i).corners[k]);
            in_front = in_front && seen_at.z > 0;
            from_place[k] = {seen_at.x - x, seen_at.y - y, seen_at.z};
        }
        // Snapped, a triangle that is hardly wider than the snap has its plane turned, and with it what is
        // interpolated and the depth: by as much of what they span as the snap is of its width, at either
        // end.
        const double span = std::max({from_place[0].z, from_place[1].z, from_place[2].z}) -
                            std::min({from_place[0].z, from_place[1].z, from_place[2].z});
        const double turned = std::min(2.0, 2 * step / std::max(width_of(from_place), 1e-9));
        for (std::size_t k = 0; in_front && k < 3; ++k) {
            const vec3<double>& a = from_place[k];
            const vec3<double>& b = from_place[(k + 1) % 3];
            const double dx = b.x - a.x;
            const double dy = b.y - a.y;
            const double squared = dx * dx + dy * dy;
            const double t = squared > 0 ? std::clamp(-(a.x * dx + a.y * dy) / squared, 0.0, 1.0) : 0;
            if (std::hypot(a.x + t * dx, a.y + t * dy) > step || std::min(a.z, b.z) - turned * span > seen) {
                continue;
            }
            // Its own point nearest to the place.
            std::array<double, 3> weights{};
            const double w = 1 / a.z + t * (1 / b.z - 1 / a.z);
            weights[k] = (1 - t) / a.z / w;
            weights[(k + 1) % 3] = t / b.z / w;
            colors.push_back(color_of(std::size_t{i}, weights, centre));
            const triangle_hit carried_on = tree.meet_plane(i, the_scene.view.eye, centre);
            if (std::isfinite(carried_on.distance)) {
                cast_color& at_edge = colors.back();
                cast_color at_place = color_of(carried_on, centre);
                const rgb<double> apart{std::abs(at_place.color.r - at_edge.color.r),
                                        std::abs(at_place.color.g - at_edge.color.g),
                                        std::abs(at_place.color.b - at_edge.color.b)};
                at_edge.tolerance = at_edge.tolerance + apart * std::min(1.0, turned);
                at_place.tolerance = at_place.tolerance + apart * std::min(1.0, turned);
                colors.push_back(at_place);
            }
            break;
        }
    }
}

} // namespace yurvo::inline v0_1::verify
