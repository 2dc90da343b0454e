#include "verify/scene_changes.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>

#include "verify/plain_lighting.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

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
    rows result;
    for (std::size_t i = 0; i < 3; ++i) {
        result[i] = {dot(a[i], column(0)), dot(a[i], column(1)), dot(a[i], column(2))};
    }
    return result;
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

template <class Change> void each_color(scene& the_scene, Change&& change) {
    change(the_scene.view.background);
    change(the_scene.ambient_color);
    for (named_material& entry : the_scene.materials) {
        change(entry.look.base);
        change(entry.look.ambient);
        change(entry.look.diffuse);
        change(entry.look.specular);
        change(entry.look.emission);
        if (entry.image) {
            auto image = std::make_shared<texture>(*entry.image);
            for (rgb<float>& texel : image->texels) {
                rgb<double> color(texel);
                change(color);
                texel = rgb<float>(color);
            }
            entry.image = image;
        }
    }
    for (named_light& lamp : the_scene.lights) {
        change(lamp.light.color);
        change(lamp.light.ambient);
        change(lamp.light.diffuse);
        change(lamp.light.specular);
    }
    for (rgb<double>& band : the_scene.shading.cel.bands) {
        change(band);
    }
    change(the_scene.shading.cel.outline_color);
    for (object& item : the_scene.objects) {
        if (auto* the_shape = std::get_if<mesh_shape>(&item.shape);
            the_shape != nullptr && !the_shape->data->colors.empty()) {
            auto data = std::make_shared<mesh>(*the_shape->data);
            for (rgb<double>& color : data->colors) {
                change(color);
            }
            the_shape->data = data;
        }
    }
}

} // namespace

bool has_fields(const scene& the_scene) {
    return std::any_of(the_scene.objects.begin(), the_scene.objects.end(),
                       [](const object& item) { return std::holds_alternative<field_shape>(item.shape); });
}

bool only_planes(const scene& the_scene) {
    return std::all_of(the_scene.objects.begin(), the_scene.objects.end(),
                       [](const object& item) { return std::holds_alternative<plane_shape>(item.shape); });
}

scene baked(const scene& the_scene) {
    scene result = the_scene;
    for (object& item : result.objects) {
        auto data = std::make_shared<mesh>(build_mesh(item));
        const placement& placed = item.placed;
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
        if (const auto* the_shape = std::get_if<mesh_shape>(&item.shape)) {
            shape.materials = the_shape->materials;
        }
        shape.file = "baked.obj";
        shape.data = data;
        item.shape = shape;
        item.placed = {};
        item.normals = normals_kind::smooth; // the mesh has them already
    }
    return result;
}

scene moved(const scene& the_scene, double angle, const vec3<double>& by) {
    scene result = the_scene;
    const rows turn = about_y(angle);
    const auto place = [&](vec3<double>& p) { p = turn * p + by; };
    place(result.view.eye);
    place(result.view.target);
    result.view.up = turn * result.view.up;
    for (object& item : result.objects) {
        place(item.placed.position);
        item.placed.rotation = angles_of(turn * rotation_of(item.placed.rotation));
    }
    for (named_light& lamp : result.lights) {
        if (lamp.space == light_space::world) {
            place(lamp.light.position);
            lamp.light.shines = turn * lamp.light.shines;
        }
    }
    return result;
}

namespace {

// Its numbers for a world in which every length is twice as long.
light stretched(const light& a_light) {
    light lamp = a_light;
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

bool lengths_can_double(const scene& the_scene) {
    if (the_scene.formulas.has(formulas::slot::falloff)) {
        return false;
    }
    return std::all_of(the_scene.lights.begin(), the_scene.lights.end(),
                       [](const named_light& lamp) { return factor_of(lamp.light).has_value(); });
}

scene doubled_lengths(const scene& the_scene) {
    scene result = the_scene;
    result.view.eye = result.view.eye * 2;
    result.view.target = result.view.target * 2;
    result.view.near *= 2;
    result.view.far *= 2;
    for (object& item : result.objects) {
        item.placed.position = item.placed.position * 2;
        item.placed.scale = item.placed.scale * 2;
    }
    for (named_light& lamp : result.lights) {
        const double factor = factor_of(lamp.light).value_or(1);
        lamp.light = stretched(lamp.light);
        lamp.light.intensity *= factor;
        if (lamp.light.follows ==
            ambient_follows::nothing) { // it does not fall off, and need not be brighter
            lamp.light.ambient = lamp.light.ambient * (1 / factor);
        }
    }
    return result;
}

scene brightened(const scene& the_scene, double factor) {
    scene result = the_scene;
    if (std::string& more = result.formulas[formulas::slot::more]; !more.empty()) {
        more = short_number(factor, 6) + " * (" + more + ")";
    }
    result.view.background = result.view.background * factor;
    result.ambient_strength *= factor;
    for (named_light& lamp : result.lights) {
        lamp.light.intensity *= factor;
    }
    for (named_material& entry : result.materials) {
        entry.look.emission = entry.look.emission * factor;
    }
    return result;
}

rgb<double> permuted(const rgb<double>& color) { return {color.b, color.r, color.g}; }

scene permuted(const scene& the_scene) {
    scene result = the_scene;
    each_color(result, [](rgb<double>& color) { color = permuted(color); });
    return result;
}

scene mirrored(const scene& the_scene) {
    scene result = the_scene;
    const auto across = [](vec3<double>& v) { v.x = -v.x; };
    across(result.view.eye);
    across(result.view.target);
    across(result.view.up);
    for (object& item : result.objects) {
        across(item.placed.position);
        item.placed.rotation.y = -item.placed.rotation.y;
        item.placed.rotation.z = -item.placed.rotation.z;
        item.placed.scale.x = -item.placed.scale.x;
    }
    for (named_light& lamp : result.lights) {
        across(lamp.light.position);
        across(lamp.light.shines);
    }
    return result;
}

scene with_far_lights(const scene& the_scene, double distance) {
    scene result = the_scene;
    for (named_light& lamp : result.lights) {
        if (lamp.light.kind == light_kind::directional) {
            lamp.light.kind = light_kind::point;
            lamp.light.falloff = falloff_kind::none;
            lamp.light.position = normalize(lamp.light.shines) * -distance;
        }
    }
    return result;
}

scene subdivided(const scene& the_scene, std::uint32_t factor) {
    scene result = the_scene;
    for (object& item : result.objects) {
        if (auto* plane = std::get_if<plane_shape>(&item.shape)) {
            plane->cells[0] *= factor;
            plane->cells[1] *= factor;
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
