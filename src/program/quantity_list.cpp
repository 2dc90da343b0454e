#include "program/quantity_list.hpp"

#include <algorithm>
#include <cmath>

namespace yurvo::inline v0_1::program {

namespace {

value_of_quantity number(double value) { return {{value}, 1, quantity_kind::number}; }
value_of_quantity vector(const vec3<double>& v, quantity_kind kind) { return {{v.x, v.y, v.z}, 3, kind}; }
value_of_quantity position(const vec3<double>& v) { return vector(v, quantity_kind::position); }
value_of_quantity direction(const vec3<double>& v) { return vector(v, quantity_kind::direction); }
value_of_quantity color(const rgb<double>& c) { return {{c.r, c.g, c.b}, 3, quantity_kind::color}; }

template <std::size_t Size> value_of_quantity matrix_value(const matrix<Size>& m) {
    return {{m.values.begin(), m.values.end()}, static_cast<int>(Size), quantity_kind::matrix};
}

matrix4 world_to_view(const camera& seen) {
    matrix4 result = matrix4::identity();
    const auto row = [&](std::size_t r, const vec3<double>& axis) {
        result(r, 0) = axis.x;
        result(r, 1) = axis.y;
        result(r, 2) = axis.z;
        result(r, 3) = -dot(axis, seen.eye);
    };
    row(0, seen.axes.right);
    row(1, seen.axes.up);
    row(2, seen.axes.backward);
    return result;
}

// OpenGL's clip space, whatever the vertex stage makes of it.
matrix4 view_to_clip(const camera& seen) {
    matrix4 result;
    const double n = seen.near;
    const double f = seen.far;
    result(0, 0) = 1 / seen.tangent * seen.height / seen.width;
    result(1, 1) = 1 / seen.tangent;
    result(2, 2) = (f + n) / (n - f);
    result(2, 3) = 2 * f * n / (n - f);
    result(3, 2) = -1;
    return result;
}

matrix4 clip_to_view(const camera& seen) {
    const matrix4 there = view_to_clip(seen);
    matrix4 result;
    result(0, 0) = 1 / there(0, 0);
    result(1, 1) = 1 / there(1, 1);
    result(2, 3) = -1;
    result(3, 2) = 1 / there(2, 3);
    result(3, 3) = there(2, 2) / there(2, 3);
    return result;
}

vec3<double> turned_to_view(const camera& seen, const vec3<double>& direction) {
    return {dot(seen.axes.right, direction), dot(seen.axes.up, direction),
            dot(seen.axes.backward, direction)};
}
vec3<double> point_in_view(const camera& seen, const vec3<double>& point) {
    return turned_to_view(seen, point - seen.eye);
}

vec3<double> towards(const light& lamp) { return -normalize(lamp.shines); }

// A place with w = 1, or the direction towards a directional light with w = 0.
value_of_quantity homogeneous(const light& lamp, const vec3<double>& at) {
    return {{at.x, at.y, at.z, lamp.kind == light_kind::directional ? 0.0 : 1.0}, 4, quantity_kind::position};
}
vec3<double> place(const light& lamp) {
    return lamp.kind == light_kind::directional ? towards(lamp) : lamp.position;
}

// In an object's own space.
vec3<double> point_in_object(const quantity_context& in, const vec3<double>& point) {
    return transform_point(inverse(in.object.to_world), point);
}
// Moved as points are: of another length where the object is stretched.
vec3<double> turned_to_object(const quantity_context& in, const vec3<double>& direction) {
    return transform_direction(linear_part(inverse(in.object.to_world)), direction);
}
// h of a directional light, seen from far along the view's axis.
vec3<double> halfway(const light& lamp, const quantity_context& in) {
    return normalize(towards(lamp) + in.staged.seen_from.axes.backward);
}

bool every(const light& /*lamp*/) { return true; }
bool directional(const light& lamp) { return lamp.kind == light_kind::directional; }
bool placed(const light& lamp) { return lamp.kind != light_kind::directional; }
bool directed(const light& lamp) { return lamp.kind != light_kind::point; }
bool spot(const light& lamp) { return lamp.kind == light_kind::spot; }
bool ranged(const light& lamp) { return placed(lamp) && lamp.range > 0; }
bool with_coefficients(const light& lamp) {
    return placed(lamp) &&
           (descriptor_of(lamp.falloff).as_coefficients || lamp.coefficients != std::array<double, 3>{});
}
bool ramped(const light& lamp) {
    return spot(lamp) && (descriptor_of(lamp.penumbra).ramped || lamp.inner > 0);
}
bool with_exponent(const light& lamp) { return spot(lamp) && lamp.exponent > 0; }

const material& look_of(const quantity_context& in) { return in.staged.materials[in.object.material].look; }

value_of_quantity bands(const quantity_context& in) {
    const std::vector<rgb<double>>& list = in.of.shading.cel.bands;
    value_of_quantity result{{}, 3 * static_cast<int>(list.size()), quantity_kind::color};
    for (const rgb<double>& band : list) {
        result.numbers.insert(result.numbers.end(), {band.r, band.g, band.b});
    }
    return result;
}

value_of_quantity count_of(const quantity_context& in, std::optional<light_kind> kind) {
    const std::vector<light>& all = in.staged.lights.front();
    return number(static_cast<double>(std::count_if(
        all.begin(), all.end(), [&](const light& lamp) { return !kind || lamp.kind == *kind; })));
}

value_of_quantity texture_unit(const quantity_context& /*in*/) { return {{}, 0, quantity_kind::texture}; }

template <class Entry> const Entry* find_in(const std::vector<Entry>& list, std::string_view name) {
    const auto found =
        std::find_if(list.begin(), list.end(), [&](const Entry& entry) { return entry.name == name; });
    return found == list.end() ? nullptr : &*found;
}

using lamp_ref = const light&;
using in_ref = const quantity_context&;

} // namespace

const std::vector<light_quantity>& light_quantity_list() {
    static const std::vector<light_quantity> list{
        {"position", 3, placed, [](lamp_ref l, in_ref) { return position(l.position); }},
        {"position_view", 3, placed,
         [](lamp_ref l, in_ref in) { return position(point_in_view(in.staged.seen_from, l.position)); }},
        {"position_object", 3, placed,
         [](lamp_ref l, in_ref in) { return position(point_in_object(in, l.position)); }},
        {"shines", 3, directed, [](lamp_ref l, in_ref) { return direction(l.shines); }},
        {"shines_view", 3, directed,
         [](lamp_ref l, in_ref in) { return direction(turned_to_view(in.staged.seen_from, l.shines)); }},
        {"shines_object", 3, directed,
         [](lamp_ref l, in_ref in) { return direction(turned_to_object(in, l.shines)); }},
        {"axis", 3, directed, [](lamp_ref l, in_ref) { return direction(normalize(l.shines)); }},
        {"axis_view", 3, directed,
         [](lamp_ref l, in_ref in) {
             return direction(turned_to_view(in.staged.seen_from, normalize(l.shines)));
         }},
        {"axis_object", 3, directed,
         [](lamp_ref l, in_ref in) { return direction(normalize(turned_to_object(in, l.shines))); }},
        {"to_light", 3, directed, [](lamp_ref l, in_ref) { return direction(towards(l)); }},
        {"to_light_view", 3, directed,
         [](lamp_ref l, in_ref in) { return direction(turned_to_view(in.staged.seen_from, towards(l))); }},
        {"to_light_object", 3, directed,
         [](lamp_ref l, in_ref in) { return direction(normalize(turned_to_object(in, towards(l)))); }},
        {"place", 4, every, [](lamp_ref l, in_ref) { return homogeneous(l, place(l)); }},
        {"place_view", 4, every,
         [](lamp_ref l, in_ref in) {
             const camera& seen = in.staged.seen_from;
             return homogeneous(l,
                                placed(l) ? point_in_view(seen, place(l)) : turned_to_view(seen, place(l)));
         }},
        {"place_object", 4, every,
         [](lamp_ref l, in_ref in) {
             return homogeneous(l, placed(l) ? point_in_object(in, place(l))
                                             : normalize(turned_to_object(in, place(l))));
         }},
        {"half", 3, directional, [](lamp_ref l, in_ref in) { return direction(halfway(l, in)); }},
        {"half_view", 3, directional,
         [](lamp_ref l, in_ref in) {
             return direction(turned_to_view(in.staged.seen_from, halfway(l, in)));
         }},
        {"half_object", 3, directional,
         [](lamp_ref l, in_ref in) { return direction(normalize(turned_to_object(in, halfway(l, in)))); }},
        {"color", 3, every, [](lamp_ref l, in_ref) { return color(l.color); }},
        {"intensity", 1, every, [](lamp_ref l, in_ref) { return number(l.intensity); }},
        {"light", 3, every, [](lamp_ref l, in_ref) { return color(l.color * l.intensity); }},
        {"ambient", 3, every, [](lamp_ref l, in_ref) { return color(l.ambient); }},
        {"diffuse", 3, every, [](lamp_ref l, in_ref) { return color(l.diffuse); }},
        {"specular", 3, every, [](lamp_ref l, in_ref) { return color(l.specular); }},
        {"ambient_light", 3, every,
         [](lamp_ref l, in_ref) { return color(l.color * l.intensity * l.ambient); }},
        {"diffuse_light", 3, every,
         [](lamp_ref l, in_ref) { return color(l.color * l.intensity * l.diffuse); }},
        {"specular_light", 3, every,
         [](lamp_ref l, in_ref) { return color(l.color * l.intensity * l.specular); }},
        {"coefficients", 3, with_coefficients,
         [](lamp_ref l, in_ref) {
             const std::array<double, 3> k = coefficients_of(l);
             return direction({k[0], k[1], k[2]});
         }},
        {"range", 1, ranged, [](lamp_ref l, in_ref) { return number(l.range); }},
        {"inner", 1, ramped, [](lamp_ref l, in_ref) { return number(l.inner); }},
        {"outer", 1, spot, [](lamp_ref l, in_ref) { return number(l.outer); }},
        {"inner_degrees", 1, ramped, [](lamp_ref l, in_ref) { return number(degrees(l.inner)); }},
        {"outer_degrees", 1, spot, [](lamp_ref l, in_ref) { return number(degrees(l.outer)); }},
        {"cos_inner", 1, ramped, [](lamp_ref l, in_ref) { return number(std::cos(l.inner)); }},
        {"cos_outer", 1, spot, [](lamp_ref l, in_ref) { return number(std::cos(l.outer)); }},
        {"exponent", 1, with_exponent, [](lamp_ref l, in_ref) { return number(l.exponent); }},
        {"kind", 1, every,
         [](lamp_ref l, in_ref in) { return number(in.numbered.kinds[static_cast<std::size_t>(l.kind)]); }},
        {"falloff", 1, every,
         [](lamp_ref l, in_ref in) {
             return number(in.numbered.falloffs[placed(l) ? static_cast<std::size_t>(l.falloff) : 0]);
         }},
        {"penumbra", 1, spot,
         [](lamp_ref l, in_ref in) {
             return number(in.numbered.penumbras[static_cast<std::size_t>(l.penumbra)]);
         }},
    };
    return list;
}

const light_quantity* find_light_quantity(std::string_view name) {
    return find_in(light_quantity_list(), name);
}

const std::vector<scene_quantity>& scene_quantity_list() {
    static const std::vector<scene_quantity> list{
        {"object.to_world", [](in_ref in) { return matrix_value(in.object.to_world); }},
        {"object.to_view",
         [](in_ref in) { return matrix_value(world_to_view(in.staged.seen_from) * in.object.to_world); }},
        {"object.to_clip",
         [](in_ref in) {
             const camera& seen = in.staged.seen_from;
             return matrix_value(view_to_clip(seen) * world_to_view(seen) * in.object.to_world);
         }},
        {"object.normal_to_world", [](in_ref in) { return matrix_value(in.object.normal_to_world); }},
        {"object.normal_to_view",
         [](in_ref in) {
             return matrix_value(linear_part(world_to_view(in.staged.seen_from)) * in.object.normal_to_world);
         }},
        {"view.world_to_view", [](in_ref in) { return matrix_value(world_to_view(in.staged.seen_from)); }},
        {"view.view_to_clip", [](in_ref in) { return matrix_value(view_to_clip(in.staged.seen_from)); }},
        {"view.world_to_clip",
         [](in_ref in) {
             const camera& seen = in.staged.seen_from;
             return matrix_value(view_to_clip(seen) * world_to_view(seen));
         }},
        {"object.from_world", [](in_ref in) { return matrix_value(inverse(in.object.to_world)); }},
        {"object.eye", [](in_ref in) { return position(point_in_object(in, in.staged.seen_from.eye)); }},
        {"view.view_to_world",
         [](in_ref in) { return matrix_value(inverse(world_to_view(in.staged.seen_from))); }},
        {"view.clip_to_world",
         [](in_ref in) {
             const camera& seen = in.staged.seen_from;
             return matrix_value(inverse(world_to_view(seen)) * clip_to_view(seen));
         }},
        {"view.size",
         [](in_ref in) {
             return value_of_quantity{
                 {static_cast<double>(in.of.view.width), static_cast<double>(in.of.view.height)},
                 2,
                 quantity_kind::number};
         }},
        {"view.axis", [](in_ref in) { return direction(in.staged.seen_from.axes.backward); }},
        {"view.eye", [](in_ref in) { return position(in.staged.seen_from.eye); }},
        {"ambient.color", [](in_ref in) { return color(in.of.ambient_color); }},
        {"ambient.strength", [](in_ref in) { return number(in.of.ambient_strength); }},
        {"ambient.light", [](in_ref in) { return color(in.of.ambient_color * in.of.ambient_strength); }},
        {"material.base", [](in_ref in) { return color(look_of(in).base); }},
        {"material.base_alpha",
         [](in_ref in) {
             const material& look = look_of(in);
             return value_of_quantity{
                 {look.base.r, look.base.g, look.base.b, look.alpha}, 4, quantity_kind::color};
         }},
        {"material.ambient", [](in_ref in) { return color(look_of(in).ambient); }},
        {"material.diffuse", [](in_ref in) { return color(look_of(in).diffuse); }},
        {"material.specular", [](in_ref in) { return color(look_of(in).specular); }},
        {"material.shininess", [](in_ref in) { return number(look_of(in).shininess); }},
        {"material.emission", [](in_ref in) { return color(look_of(in).emission); }},
        {"material.alpha", [](in_ref in) { return number(look_of(in).alpha); }},
        {"material.two_sided", [](in_ref in) { return number(look_of(in).two_sided ? 1 : 0); }},
        {"material.texture", texture_unit},
        {"material.texture_codes", texture_unit},
        {"shading.thresholds",
         [](in_ref in) {
             const std::vector<double>& thresholds = in.of.shading.cel.thresholds;
             return value_of_quantity{thresholds, static_cast<int>(thresholds.size()), quantity_kind::number};
         }},
        {"shading.bands", bands},
        {"shading.outline", [](in_ref in) { return number(in.of.shading.cel.outline); }},
        {"shading.outline_color", [](in_ref in) { return color(in.of.shading.cel.outline_color); }},
        {"lights.count", [](in_ref in) { return count_of(in, std::nullopt); }},
        {"lights.directional.count", [](in_ref in) { return count_of(in, light_kind::directional); }},
        {"lights.point.count", [](in_ref in) { return count_of(in, light_kind::point); }},
        {"lights.spot.count", [](in_ref in) { return count_of(in, light_kind::spot); }},
    };
    return list;
}

const scene_quantity* find_scene_quantity(std::string_view name) {
    return find_in(scene_quantity_list(), name);
}

} // namespace yurvo::inline v0_1::program
