#include "verify/scene_changes.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>

#include "verify/plain_lighting.hpp"

namespace yurvo::verify {

namespace {

using rows = std::array<vec3<double>, 3>;

vec3<double> operator*(const rows& m, const vec3<double>& v) {
    return {dot(m[0], v), dot(m[1], v), dot(m[2], v)};
}

rows operator*(const rows& a, const rows& b) {
    const auto column = [&](std::size_t i) {
        const auto pick = [i](const vec3<double>& row) { return i == 0 ? row.x : i == 1 ? row.y : row.z; };
        return vec3<double>{pick(b[0]), pick(b[1]), pick(b[2])};
    };
    rows made;
    for (std::size_t i = 0; i < 3; ++i) {
        made[i] = {dot(a[i], column(0)), dot(a[i], column(1)), dot(a[i], column(2))};
    }
    return made;
}

rows about_y(double angle) {
    const double c = std::cos(angle);
    const double s = std::sin(angle);
    return {{{c, 0, s}, {0, 1, 0}, {-s, 0, c}}};
}

// Rz · Ry · Rx
rows rotation_of(const vec3<double>& angles) {
    const rows x{{{1, 0, 0},
                  {0, std::cos(angles.x), -std::sin(angles.x)},
                  {0, std::sin(angles.x), std::cos(angles.x)}}};
    const rows z{{{std::cos(angles.z), -std::sin(angles.z), 0},
                  {std::sin(angles.z), std::cos(angles.z), 0},
                  {0, 0, 1}}};
    return z * about_y(angles.y) * x;
}

// The angles about X, Y and Z that make a rotation; about X is 0 where Y is a right angle.
vec3<double> angles_of(const rows& m) {
    const double sine = std::clamp(-m[2].x, -1.0, 1.0);
    const double cosine = std::hypot(m[0].x, m[1].x);
    const double y = std::atan2(sine, cosine);
    if (cosine < 1e-9) {
        return {0, y, std::atan2(-m[0].y, m[1].y)};
    }
    return {std::atan2(m[2].y, m[2].z), y, std::atan2(m[1].x, m[0].x)};
}

template <class Change> void each_color(scene& of, Change&& change) {
    change(of.view.background);
    change(of.ambient_color);
    for (named_material& one : of.materials) {
        change(one.look.base);
        change(one.look.ambient);
        change(one.look.diffuse);
        change(one.look.specular);
        change(one.look.emission);
        if (one.image) {
            auto image = std::make_shared<texture>(*one.image);
            for (rgb<float>& texel : image->texels) {
                rgb<double> color(texel);
                change(color);
                texel = rgb<float>(color);
            }
            one.image = image;
        }
    }
    for (named_light& one : of.lights) {
        change(one.light.color);
    }
    for (rgb<double>& band : of.shading.cel.bands) {
        change(band);
    }
    change(of.shading.cel.outline_color);
    for (object& one : of.objects) {
        if (auto* given = std::get_if<mesh_shape>(&one.shape);
            given != nullptr && !given->data->colors.empty()) {
            auto data = std::make_shared<mesh>(*given->data);
            for (rgb<double>& color : data->colors) {
                change(color);
            }
            given->data = data;
        }
    }
}

} // namespace

bool has_fields(const scene& of) {
    return std::any_of(of.objects.begin(), of.objects.end(),
                       [](const object& one) { return std::holds_alternative<field_shape>(one.shape); });
}

bool only_planes(const scene& of) {
    return std::all_of(of.objects.begin(), of.objects.end(),
                       [](const object& one) { return std::holds_alternative<plane_shape>(one.shape); });
}

scene baked(const scene& of) {
    scene made = of;
    for (object& one : made.objects) {
        auto data = std::make_shared<mesh>(build_mesh(one));
        const placement& placed = one.placed;
        const rows turn = rotation_of(placed.rotation);
        for (vec3<double>& p : data->positions) {
            p = turn * vec3<double>{p.x * placed.scale.x, p.y * placed.scale.y, p.z * placed.scale.z} +
                placed.position;
        }
        for (vec3<double>& n : data->normals) {
            // A normal shrinks where its surface is stretched.
            n = normalize(turn *
                          vec3<double>{n.x / placed.scale.x, n.y / placed.scale.y, n.z / placed.scale.z});
        }
        if (placed.scale.x * placed.scale.y * placed.scale.z < 0) { // inside out: turned back
            const auto reversed = [](std::vector<triangle>& all) {
                for (triangle& corners : all) {
                    std::swap(corners[1], corners[2]);
                }
            };
            reversed(data->triangles);
            reversed(data->texcoord_triangles);
        }
        mesh_shape shape;
        if (const auto* given = std::get_if<mesh_shape>(&one.shape)) {
            shape.materials = given->materials;
        }
        shape.file = "baked.obj";
        shape.data = data;
        one.shape = shape;
        one.placed = {};
        one.normals = normals_kind::smooth; // the mesh has them already
    }
    return made;
}

scene moved(const scene& of, double angle, const vec3<double>& by) {
    scene made = of;
    const rows turn = about_y(angle);
    const auto place = [&](vec3<double>& p) { p = turn * p + by; };
    place(made.view.eye);
    place(made.view.target);
    made.view.up = turn * made.view.up;
    for (object& one : made.objects) {
        place(one.placed.position);
        one.placed.rotation = angles_of(turn * rotation_of(one.placed.rotation));
    }
    for (named_light& one : made.lights) {
        if (one.space == light_space::world) {
            place(one.light.position);
            one.light.shines = turn * one.light.shines;
        }
    }
    return made;
}

namespace {

// Its numbers for a world in which every length is twice as long.
light stretched(const light& given) {
    light lamp = given;
    lamp.position = lamp.position * 2;
    lamp.range *= 2;
    lamp.coefficients[1] /= 2;
    lamp.coefficients[2] /= 4;
    return lamp;
}

std::optional<double> factor_of(const light& lamp) {
    if (lamp.kind == light_kind::directional) {
        return 1;
    }
    const light far = stretched(lamp);
    return brighter_at_twice([&](double d) { return falloff_of(lamp, d); },
                             [&](double d) { return falloff_of(far, d); });
}

} // namespace

std::optional<double> brighter_at_twice(const std::function<double(double)>& falloff,
                                        const std::function<double(double)>& stretched) {
    std::optional<double> factor;
    // From a micrometre to a kilometre. Powers of two, at which a law that keeps its shape gives the factor
    // exactly.
    for (int power = -20; power <= 10; ++power) {
        const double d = std::ldexp(1.0, power);
        const double near = falloff(d);
        const double far = stretched(2 * d);
        if (near == 0 && far == 0) {
            continue;
        }
        if (far == 0 || near / far != factor.value_or(near / far)) {
            return std::nullopt;
        }
        factor = near / far;
    }
    return factor.value_or(1); // it is dark everywhere
}

bool lengths_can_double(const scene& of) {
    return std::all_of(of.lights.begin(), of.lights.end(),
                       [](const named_light& one) { return factor_of(one.light).has_value(); });
}

scene doubled_lengths(const scene& of) {
    scene made = of;
    made.view.eye = made.view.eye * 2;
    made.view.target = made.view.target * 2;
    made.view.near *= 2;
    made.view.far *= 2;
    for (object& one : made.objects) {
        one.placed.position = one.placed.position * 2;
        one.placed.scale = one.placed.scale * 2;
    }
    for (named_light& one : made.lights) {
        const double factor = factor_of(one.light).value_or(1);
        one.light = stretched(one.light);
        one.light.intensity *= factor;
    }
    return made;
}

scene brightened(const scene& of, double factor) {
    scene made = of;
    made.view.background = made.view.background * factor;
    made.ambient_strength *= factor;
    for (named_light& one : made.lights) {
        one.light.intensity *= factor;
    }
    for (named_material& one : made.materials) {
        one.look.emission = one.look.emission * factor;
    }
    return made;
}

rgb<double> permuted(const rgb<double>& color) { return {color.b, color.r, color.g}; }

scene permuted(const scene& of) {
    scene made = of;
    each_color(made, [](rgb<double>& color) { color = permuted(color); });
    return made;
}

scene mirrored(const scene& of) {
    scene made = of;
    const auto across = [](vec3<double>& v) { v.x = -v.x; };
    across(made.view.eye);
    across(made.view.target);
    across(made.view.up);
    for (object& one : made.objects) {
        across(one.placed.position);
        one.placed.rotation.y = -one.placed.rotation.y;
        one.placed.rotation.z = -one.placed.rotation.z;
        one.placed.scale.x = -one.placed.scale.x;
    }
    for (named_light& one : made.lights) {
        across(one.light.position);
        across(one.light.shines);
    }
    return made;
}

scene with_far_lights(const scene& of, double distance) {
    scene made = of;
    for (named_light& one : made.lights) {
        if (one.light.kind == light_kind::directional) {
            one.light.kind = light_kind::point;
            one.light.falloff = falloff_kind::none;
            one.light.position = normalize(one.light.shines) * -distance;
        }
    }
    return made;
}

scene subdivided(const scene& of, std::uint32_t factor) {
    scene made = of;
    for (object& one : made.objects) {
        if (auto* plane = std::get_if<plane_shape>(&one.shape)) {
            plane->cells[0] *= factor;
            plane->cells[1] *= factor;
        }
    }
    return made;
}

} // namespace yurvo::verify
