#include "program/quantities.hpp"

#include <algorithm>
#include <cmath>

namespace yurvo::program {

namespace {

struct known_light_property {
    std::string_view name;
    bool placed, directed, falls, spot; // which lights have it: point and spot; directional and spot; ...
};

// What each light has; `place` and the rest of the first kind all have.
const std::vector<known_light_property> properties{
    {"position", true, false, false, false},      {"position_view", true, false, false, false},
    {"shines", false, true, false, false},        {"shines_view", false, true, false, false},
    {"to_light", false, true, false, false},      {"to_light_view", false, true, false, false},
    {"place", false, false, false, false},        {"place_view", false, false, false, false},
    {"color", false, false, false, false},        {"intensity", false, false, false, false},
    {"light", false, false, false, false},        {"coefficients", false, false, true, false},
    {"range", false, false, true, false},         {"inner", false, false, false, true},
    {"outer", false, false, false, true},         {"inner_degrees", false, false, false, true},
    {"outer_degrees", false, false, false, true}, {"cos_inner", false, false, false, true},
    {"cos_outer", false, false, false, true},     {"exponent", false, false, false, true},
    {"kind", false, false, false, false},         {"falloff", false, false, false, false},
    {"penumbra", false, false, false, true}};

value_of_quantity number(double value) { return {{value}, 1, quantity_kind::number}; }
value_of_quantity vector(const vec3<double>& v, quantity_kind kind) { return {{v.x, v.y, v.z}, 3, kind}; }
value_of_quantity color(const rgb<double>& c) { return {{c.r, c.g, c.b}, 3, quantity_kind::color}; }

template <std::size_t Size> value_of_quantity matrix_value(const matrix<Size>& m) {
    return {{m.values.begin(), m.values.end()}, static_cast<int>(Size), quantity_kind::matrix};
}

matrix4 world_to_view(const camera& seen) {
    matrix4 made = matrix4::identity();
    const auto row = [&](std::size_t r, const vec3<double>& axis) {
        made(r, 0) = axis.x;
        made(r, 1) = axis.y;
        made(r, 2) = axis.z;
        made(r, 3) = -dot(axis, seen.eye);
    };
    row(0, seen.axes.right);
    row(1, seen.axes.up);
    row(2, seen.axes.backward);
    return made;
}

// OpenGL's clip space, or Vulkan's: y downwards, depth from 0 to 1.
matrix4 view_to_clip(const camera& seen, clip_space clip) {
    matrix4 made;
    const double n = seen.near;
    const double f = seen.far;
    made(0, 0) = 1 / seen.tangent * seen.height / seen.width;
    made(1, 1) = 1 / seen.tangent;
    made(2, 2) = (f + n) / (n - f);
    made(2, 3) = 2 * f * n / (n - f);
    made(3, 2) = -1;
    if (clip == clip_space::vulkan) {
        made(1, 1) = -made(1, 1);
        made(2, 2) = f / (n - f);
        made(2, 3) = f * n / (n - f);
    }
    return made;
}

vec3<double> to_view(const camera& seen, const vec3<double>& direction) {
    return {dot(seen.axes.right, direction), dot(seen.axes.up, direction),
            dot(seen.axes.backward, direction)};
}

value_of_quantity of_light(const std::string& property, const light& one, const camera& seen) {
    const auto point = [&](const vec3<double>& p) { return to_view(seen, p - seen.eye); };
    const bool directional = one.kind == light_kind::directional;
    const vec3<double> to_light = -normalize(one.shines);
    if (property == "position") {
        return vector(one.position, quantity_kind::position);
    }
    if (property == "position_view") {
        return vector(point(one.position), quantity_kind::position);
    }
    if (property == "shines") {
        return vector(one.shines, quantity_kind::direction);
    }
    if (property == "shines_view") {
        return vector(to_view(seen, one.shines), quantity_kind::direction);
    }
    if (property == "to_light") {
        return vector(to_light, quantity_kind::direction);
    }
    if (property == "to_light_view") {
        return vector(to_view(seen, to_light), quantity_kind::direction);
    }
    if (property == "place" || property == "place_view") {
        const bool in_view = property == "place_view";
        const vec3<double> at = directional ? (in_view ? to_view(seen, to_light) : to_light)
                                            : (in_view ? point(one.position) : one.position);
        return {{at.x, at.y, at.z, directional ? 0.0 : 1.0}, 4, quantity_kind::position};
    }
    if (property == "color") {
        return color(one.color);
    }
    if (property == "intensity") {
        return number(one.intensity);
    }
    if (property == "light") {
        return color(one.color * one.intensity);
    }
    if (property == "coefficients") {
        const falloff_descriptor& falloff = descriptor_of(one.falloff);
        const std::array<double, 3>& k = falloff.coefficients ? one.coefficients : falloff.fixed_coefficients;
        return {{k[0], k[1], k[2]}, 3, quantity_kind::direction};
    }
    if (property == "range") {
        return number(one.range);
    }
    const double inner = one.inner;
    if (property == "inner") {
        return number(inner);
    }
    if (property == "outer") {
        return number(one.outer);
    }
    if (property == "inner_degrees") {
        return number(degrees(inner));
    }
    if (property == "outer_degrees") {
        return number(degrees(one.outer));
    }
    if (property == "cos_inner") {
        return number(std::cos(inner));
    }
    if (property == "cos_outer") {
        return number(std::cos(one.outer));
    }
    if (property == "exponent") {
        return number(one.exponent);
    }
    if (property == "kind") {
        return number(static_cast<double>(one.kind));
    }
    if (property == "falloff") {
        return number(directional ? 0 : static_cast<double>(one.falloff));
    }
    return number(static_cast<double>(one.penumbra));
}

bool has_property(const std::string& property, const light& one) {
    const auto known = std::find_if(properties.begin(), properties.end(),
                                    [&](const known_light_property& p) { return p.name == property; });
    const bool placed = one.kind != light_kind::directional;
    const bool directed = one.kind != light_kind::point;
    const penumbra_descriptor& penumbra = descriptor_of(one.penumbra);
    const falloff_descriptor& falloff = descriptor_of(one.falloff);
    const bool of_penumbra = (property.find("inner") == std::string::npos || penumbra.ramped) &&
                             (property != "exponent" || penumbra.exponent);
    const bool of_falloff =
        (property != "range" || falloff.range) && (property != "coefficients" || falloff.as_coefficients);
    return of_penumbra && of_falloff && (!known->placed || placed) && (!known->directed || directed) &&
           (!known->falls || placed) && (!known->spot || one.kind == light_kind::spot);
}

} // namespace

bool kind_has(light_kind kind, const std::string& property) {
    light one;
    one.kind = kind;
    one.penumbra = property == "exponent" ? penumbra_kind::power : penumbra_kind::smooth;
    one.falloff = property == "range" ? falloff_kind::windowed : falloff_kind::inverse_square;
    return has_property(property, one);
}

namespace {

int size_of(const std::string& property) {
    static const std::vector<std::string_view> single{
        "intensity", "range",     "inner",    "outer", "inner_degrees", "outer_degrees",
        "cos_inner", "cos_outer", "exponent", "kind",  "falloff",       "penumbra"};
    if (property == "place" || property == "place_view") {
        return 4;
    }
    return std::find(single.begin(), single.end(), property) != single.end() ? 1 : 3;
}

value_of_quantity lights_value(const quantity& asked, int each, const quantity_context& in,
                               const source_location& where) {
    const std::vector<light>& all = in.staged.lights.front();
    std::vector<std::size_t> set;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (!asked.only || all[i].kind == *asked.only) {
            set.push_back(i);
        }
    }
    if (asked.property == "count") {
        return number(static_cast<double>(set.size()));
    }
    const light* one = nullptr;
    if (!asked.name.empty()) {
        for (std::size_t i = 0; i < all.size(); ++i) {
            if (in.of.lights[i].name == asked.name) {
                one = &all[i];
            }
        }
        if (one == nullptr) {
            throw error(where, "the scene has no light `" + asked.name + "`", "lights[i] or lights[*]");
        }
    } else {
        const auto index = static_cast<std::size_t>(asked.each ? each : *asked.index);
        one = index < set.size() ? &all[set[index]] : nullptr;
    }
    const int size = size_of(asked.property);
    // Beyond the scene's lights an array holds zeros; so it does for what a light does not have.
    if (one == nullptr || !has_property(asked.property, *one)) {
        if (one != nullptr && !asked.each) {
            throw error(where,
                        "`" + asked.text + "`: a " + std::string(name_of(one->kind)) + " light has no " +
                            asked.property,
                        "a light that has it, or `kinds` in the program file");
        }
        return {std::vector<double>(static_cast<std::size_t>(size), 0.0), size, quantity_kind::direction};
    }
    return of_light(asked.property, *one, in.staged.seen_from);
}

value_of_quantity scene_value(const quantity& asked, const quantity_context& in) {
    const camera& seen = in.staged.seen_from;
    const std::string what = asked.of + "." + asked.property;
    const matrix4 view = world_to_view(seen);
    if (what == "object.to_world") {
        return matrix_value(in.object.to_world);
    }
    if (what == "object.to_view") {
        return matrix_value(view * in.object.to_world);
    }
    if (what == "object.to_clip") {
        return matrix_value(view_to_clip(seen, in.clip) * view * in.object.to_world);
    }
    if (what == "object.normal_to_world") {
        return matrix_value(in.object.normal_to_world);
    }
    if (what == "object.normal_to_view") {
        return matrix_value(linear_part(view) * in.object.normal_to_world);
    }
    if (what == "view.world_to_view") {
        return matrix_value(view);
    }
    if (what == "view.view_to_clip") {
        return matrix_value(view_to_clip(seen, in.clip));
    }
    if (what == "view.world_to_clip") {
        return matrix_value(view_to_clip(seen, in.clip) * view);
    }
    if (what == "view.eye") {
        return vector(seen.eye, quantity_kind::position);
    }
    if (what == "ambient.color") {
        return color(in.of.ambient_color);
    }
    if (what == "ambient.strength") {
        return number(in.of.ambient_strength);
    }
    if (what == "ambient.light") {
        return color(in.of.ambient_color * in.of.ambient_strength);
    }
    const material& look = in.staged.materials[in.object.material].look;
    if (what == "material.base") {
        return color(look.base);
    }
    if (what == "material.base_alpha") {
        return {{look.base.r, look.base.g, look.base.b, look.alpha}, 4, quantity_kind::color};
    }
    if (what == "material.ambient") {
        return color(look.ambient);
    }
    if (what == "material.diffuse") {
        return color(look.diffuse);
    }
    if (what == "material.specular") {
        return color(look.specular);
    }
    if (what == "material.shininess") {
        return number(look.shininess);
    }
    if (what == "material.emission") {
        return color(look.emission);
    }
    if (what == "material.alpha") {
        return number(look.alpha);
    }
    if (what == "material.two_sided") {
        return number(look.two_sided ? 1 : 0);
    }
    const cel_settings& cel = in.of.shading.cel;
    if (what == "shading.thresholds") {
        return {cel.thresholds, static_cast<int>(cel.thresholds.size()), quantity_kind::number};
    }
    if (what == "shading.bands") {
        value_of_quantity made{{}, 3 * static_cast<int>(cel.bands.size()), quantity_kind::color};
        for (const rgb<double>& band : cel.bands) {
            made.numbers.insert(made.numbers.end(), {band.r, band.g, band.b});
        }
        return made;
    }
    if (what == "shading.outline") {
        return number(cel.outline);
    }
    if (what == "shading.outline_color") {
        return color(cel.outline_color);
    }
    return {{}, 0, quantity_kind::texture};
}

bool take_suffix(std::string& text, std::string_view suffix) {
    if (!text.ends_with(suffix)) {
        return false;
    }
    text.resize(text.size() - suffix.size());
    return true;
}

[[noreturn]] void unknown(const std::string& text, const source_location& where) {
    std::vector<std::string> all;
    for (const std::string_view one : scene_quantities()) {
        all.emplace_back(one);
    }
    const std::size_t dot = text.find_last_of('.');
    const std::string before = dot == std::string::npos ? "lights[*]" : text.substr(0, dot);
    if (text.starts_with("lights")) {
        for (const std::string_view one : light_properties()) {
            all.push_back(before + "." + std::string(one));
        }
    }
    std::vector<std::string_view> names(all.begin(), all.end());
    const std::string_view now = renamed(text.substr(dot + 1), light_properties());
    throw error(where, "there is no quantity `" + text + "`",
                now.empty() ? instead_of(text, names,
                                         "object.…, view.…, ambient.…, material.…, shading.… or lights[*].…")
                            : "it is called `" + before + "." + std::string(now) + "` now");
}

} // namespace

const std::vector<std::string_view>& scene_quantities() {
    static const std::vector<std::string_view> all{
        "object.to_world",        "object.to_view",           "object.to_clip",
        "object.normal_to_world", "object.normal_to_view",    "view.world_to_view",
        "view.view_to_clip",      "view.world_to_clip",       "view.eye",
        "ambient.color",          "ambient.strength",         "ambient.light",
        "material.base",          "material.base_alpha",      "material.ambient",
        "material.diffuse",       "material.specular",        "material.shininess",
        "material.emission",      "material.alpha",           "material.two_sided",
        "material.texture",       "material.texture_codes",   "shading.thresholds",
        "shading.bands",          "shading.outline",          "shading.outline_color",
        "lights.count",           "lights.directional.count", "lights.point.count",
        "lights.spot.count"};
    return all;
}

const std::vector<std::string_view>& light_properties() {
    static const std::vector<std::string_view> all = [] {
        std::vector<std::string_view> made;
        made.reserve(properties.size());
        for (const known_light_property& one : properties) {
            made.push_back(one.name);
        }
        return made;
    }();
    return all;
}

quantity parse_quantity(const std::string& text, const source_location& where) {
    quantity made;
    made.text = text;
    std::string rest = text;
    made.transposed = take_suffix(rest, ".transposed");
    for (int i = 0; i < 3; ++i) {
        // lights[0] alone is no component.
        if (rest.find('.') != std::string::npos && take_suffix(rest, "[" + std::to_string(i) + "]")) {
            made.component = i;
            break;
        }
    }
    if (std::find(scene_quantities().begin(), scene_quantities().end(), rest) != scene_quantities().end() &&
        !rest.starts_with("lights")) {
        const std::size_t dot = rest.find('.');
        made.of = rest.substr(0, dot);
        made.property = rest.substr(dot + 1);
        return made;
    }
    const std::size_t last = rest.find_last_of('.');
    if (!rest.starts_with("lights") || last == std::string::npos) {
        unknown(text, where);
    }
    made.of = "lights";
    made.property = rest.substr(last + 1);
    std::string set = rest.substr(6, last - 6); // `[*]`, `.spot[1]`, `.lantern`, ``
    const std::size_t bracket = set.find('[');
    const std::string name = set.substr(0, bracket);
    if (!name.empty()) {
        if (!name.starts_with('.') || name.size() < 2) {
            unknown(text, where);
        }
        if (const std::optional<light_kind> kind = from_name<light_kind>(name.substr(1))) {
            made.only = kind;
        } else {
            made.name = name.substr(1);
        }
    }
    if (made.property == "count") {
        if (bracket != std::string::npos || !made.name.empty()) {
            unknown(text, where);
        }
        return made;
    }
    if (std::find(light_properties().begin(), light_properties().end(), made.property) ==
        light_properties().end()) {
        unknown(text, where);
    }
    if (bracket == std::string::npos) {
        if (made.name.empty()) {
            unknown(text, where);
        }
        return made;
    }
    const std::string inside = set.substr(bracket + 1, set.size() - bracket - 2);
    if (!set.ends_with(']') || inside.empty() || !made.name.empty()) {
        unknown(text, where);
    }
    if (inside == "*") {
        made.each = true;
    } else if (inside.find_first_not_of("0123456789") == std::string::npos && inside.size() < 6) {
        made.index = std::stoi(inside);
    } else {
        unknown(text, where);
    }
    return made;
}

value_of_quantity evaluate(const quantity& asked, int each, const quantity_context& in,
                           const source_location& where) {
    value_of_quantity made =
        asked.of == "lights" ? lights_value(asked, each, in, where) : scene_value(asked, in);
    if (asked.transposed) {
        if (made.kind != quantity_kind::matrix) {
            throw error(where, "`" + asked.text + "` is no matrix", "a matrix, or no .transposed");
        }
        const auto size = static_cast<std::size_t>(made.rows);
        const std::vector<double> given = made.numbers;
        for (std::size_t row = 0; row < size; ++row) {
            for (std::size_t column = 0; column < size; ++column) {
                made.numbers[size * column + row] = given[size * row + column];
            }
        }
    }
    if (asked.component) {
        const auto at = static_cast<std::size_t>(*asked.component);
        if (made.kind == quantity_kind::matrix || at >= made.numbers.size()) {
            throw error(where, "`" + asked.text + "` has no component " + std::to_string(at),
                        "a vector's 0, 1 or 2");
        }
        return number(made.numbers[at]);
    }
    return made;
}

} // namespace yurvo::program
