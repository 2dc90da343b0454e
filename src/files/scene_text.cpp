#include <cmath>
#include <utility>
#include <vector>

#include <fmt/format.h>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/shape_list.hpp"

namespace yurvo::inline v0_1 {

namespace {

// The shortest decimal that reads back as the same number, with a point, so that TOML takes it for one.
std::string number(double value) {
    std::string text = fmt::format("{}", value);
    if (text.find_first_of(".en") == std::string::npos) {
        text += ".0";
    }
    return text;
}

// Degrees that read back as the same radians, as short as may be.
std::string angle(double value) {
    for (int digits = 6; digits <= 17; ++digits) {
        const double rounded = std::stod(fmt::format("{:.{}g}", degrees(value), digits));
        if (radians(rounded) == value) {
            return number(rounded);
        }
    }
    // The conversion rounds twice: the number that reads back may be a neighbour of the nearest.
    const double nearest = degrees(value);
    for (const double neighbour : {std::nextafter(nearest, -HUGE_VAL), std::nextafter(nearest, HUGE_VAL)}) {
        if (radians(neighbour) == value) {
            return number(neighbour);
        }
    }
    return number(nearest);
}

std::string triple(double a, double b, double c) {
    return fmt::format("[{}, {}, {}]", number(a), number(b), number(c));
}
std::string triple(const vec3<double>& v) { return triple(v.x, v.y, v.z); }
std::string triple(const rgb<double>& c) { return triple(c.r, c.g, c.b); }
std::string factor(const rgb<double>& c) { return c.r == c.g && c.g == c.b ? number(c.r) : triple(c); }

std::string text_of(const std::string& text) {
    std::string quoted = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\') {
            quoted += '\\';
            quoted += c;
        } else if (static_cast<unsigned char>(c) < 0x20) {
            quoted += fmt::format("\\u{:04X}", static_cast<unsigned>(c));
        } else {
            quoted += c;
        }
    }
    return quoted + "\"";
}

class writer {
    std::string text_;

  public:
    void heading(const std::string& name) { text_ += "\n" + name + "\n"; }
    void line(std::string_view key, const std::string& value) {
        text_ += fmt::format("{} = {}\n", key, value);
    }
    [[nodiscard]] const std::string& text() const { return text_; }
};

std::string word(std::string_view name) { return '"' + std::string(name) + '"'; }

template <class Cells> std::string pair(const Cells& cells) {
    return fmt::format("[{}, {}]", cells[0], cells[1]);
}

std::vector<std::pair<std::string_view, std::string>> written_sizes(const field_part& part) {
    std::vector<std::pair<std::string_view, std::string>> written;
    for (const field_size& size : sizes_of(part.kind)) {
        written.emplace_back(size.key, size.numbers != nullptr ? triple(part.*size.numbers)
                                                               : number(part.*size.number));
    }
    return written;
}

void write_field(writer& to, const field& shape) {
    to.line("field", word(name_of(shape.kind)));
    if (shape.kind != field_kind::smooth_union) {
        for (const auto& [key, value] : written_sizes(shape.parts.front())) {
            to.line(key, value);
        }
        return;
    }
    to.line("blend", number(shape.blend));
    std::string parts = "[\n";
    for (const field_part& part : shape.parts) {
        parts +=
            fmt::format("  {{ field = {}, position = {}", word(name_of(part.kind)), triple(part.position));
        for (const auto& [key, value] : written_sizes(part)) {
            parts += fmt::format(", {} = {}", key, value);
        }
        parts += " },\n";
    }
    to.line("parts", parts + "]");
}

void write_shape(writer& to, const any_shape& shape) {
    to.line("shape", word(shape_name(shape)));
    if (const auto* the_shape = std::get_if<mesh_shape>(&shape)) {
        to.line("file", text_of(the_shape->file));
    } else if (const auto* implicit = std::get_if<field_shape>(&shape)) {
        write_field(to, implicit->field);
    }
    any_shape sized = shape;
    const shape_descriptor& known = descriptor_of(shape);
    for (const shape_size& size : known.sizes) {
        const size_numbers numbers = size.of(sized);
        std::string text;
        for (const double* value : numbers) {
            text += (text.empty() ? "" : ", ") + number(*value);
        }
        to.line(size.key, numbers.count == 1 ? text : "[" + text + "]");
    }
    if (known.cells.of != nullptr) {
        to.line("cells", pair(known.cells.of(sized)));
    }
}

void write_formulas(writer& to, const scene& the_scene) {
    if (the_scene.formulas.any()) {
        to.heading("[formulas]");
    }
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        if (the_scene.formulas.has(each.which)) {
            to.line(each.name, text_of(the_scene.formulas[each.which]));
        }
    }
    if (!the_scene.numbers.empty()) {
        to.heading("[numbers]");
    }
    for (const formulas::named_number& each : the_scene.numbers) {
        std::string values;
        for (const double value : each.values) {
            values += (values.empty() ? "" : ", ") + number(value);
        }
        to.line(each.name, each.values.size() == 1 ? values : "[" + values + "]");
    }
}

void write_light(writer& to, const named_light& named, const formulas::formula_texts& formulas) {
    const bool own_falloff = formulas.has(formulas::slot::falloff);
    const bool own_penumbra = formulas.has(formulas::slot::penumbra);
    const light& light = named.light;
    to.heading("[[lights]]");
    if (!named.name.empty()) {
        to.line("name", text_of(named.name));
    }
    to.line("kind", word(name_of(light.kind)));
    if (light.kind != light_kind::directional) {
        to.line("position", triple(light.position));
    }
    if (light.kind != light_kind::point) {
        to.line("shines", triple(light.shines));
    }
    to.line("color", triple(light.color));
    to.line("intensity", number(light.intensity));
    if (has_ambient(light)) {
        to.line("ambient", factor(light.ambient));
    }
    if (light.diffuse != rgb<double>(1.0)) {
        to.line("diffuse", factor(light.diffuse));
    }
    if (light.specular != rgb<double>(1.0)) {
        to.line("specular", factor(light.specular));
    }
    if (light.follows != ambient_follows::cone) {
        to.line("ambient_follows", word(name_of(light.follows)));
    }
    if (light.kind != light_kind::directional) {
        to.line("falloff", word(name_of(light.falloff)));
        if (descriptor_of(light.falloff).coefficients ||
            (own_falloff && light.coefficients != std::array<double, 3>{})) {
            to.line("coefficients",
                    triple(light.coefficients[0], light.coefficients[1], light.coefficients[2]));
        }
        if (descriptor_of(light.falloff).range || (own_falloff && light.range > 0)) {
            to.line("range", number(light.range));
        }
    }
    if (light.kind == light_kind::spot) {
        to.line("penumbra", word(name_of(light.penumbra)));
        if (descriptor_of(light.penumbra).ramped || (own_penumbra && light.inner > 0)) {
            to.line("inner", angle(light.inner));
        }
        to.line("outer", angle(light.outer));
        if (descriptor_of(light.penumbra).exponent || (own_penumbra && light.exponent > 0)) {
            to.line("exponent", number(light.exponent));
        }
    }
    if (named.space != light_space::world) {
        to.line("space", word(name_of(named.space)));
    }
}

void write_view(writer& to, const view& view) {
    to.heading("[view]");
    to.line("eye", triple(view.eye));
    to.line("target", triple(view.target));
    to.line("up", triple(view.up));
    to.line("fov", angle(view.fov));
    to.line("near", number(view.near));
    to.line("far", number(view.far));
    to.line("size", fmt::format("[{}, {}]", view.width, view.height));
    to.line("background", triple(view.background));
    to.line("background_alpha", number(view.background_alpha));
}

void write_shading(writer& to, const shading_choice& shading) {
    to.heading("[shading]");
    to.line("model", word(shading.own.name.empty() ? name_of(shading.model) : shading.own.name));
    to.line("rate", word(name_of(shading.rate)));
    to.line("ambient_rule", word(name_of(shading.ambient_rule)));
    if (shading.model == model_kind::cel) {
        const cel_settings& cel = shading.cel;
        std::string thresholds;
        for (const double threshold : cel.thresholds) {
            thresholds += (thresholds.empty() ? "" : ", ") + number(threshold);
        }
        std::string bands;
        for (const rgb<double>& band : cel.bands) {
            bands += (bands.empty() ? "" : ", ") + factor(band);
        }
        to.line("thresholds", "[" + thresholds + "]");
        to.line("bands", "[" + bands + "]");
        to.line("outline", number(cel.outline));
        to.line("outline_color", triple(cel.outline_color));
    }
}

void write_material(writer& to, const named_material& material) {
    const yurvo::material& look = material.look;
    to.heading("[materials." + text_of(material.name) + "]");
    to.line("base", triple(look.base));
    if (!material.texture_file.empty()) {
        to.line("texture", text_of(material.texture_file));
    }
    to.line("alpha", number(look.alpha));
    to.line("ambient", factor(look.ambient));
    to.line("diffuse", factor(look.diffuse));
    to.line("specular", factor(look.specular));
    to.line("shininess", number(look.shininess));
    to.line("emission", triple(look.emission));
    to.line("two_sided", look.two_sided ? "true" : "false");
}

void write_object(writer& to, const object& object, const std::string& material) {
    to.heading("[[objects]]");
    if (!object.name.empty()) {
        to.line("name", text_of(object.name));
    }
    to.line("material", text_of(material));
    write_shape(to, object.shape);
    const placement& placed = object.placed;
    to.line("position", triple(placed.position));
    to.line("rotation", fmt::format("[{}, {}, {}]", angle(placed.rotation.x), angle(placed.rotation.y),
                                    angle(placed.rotation.z)));
    to.line("scale", triple(placed.scale));
    if (object.normals != normals_kind::smooth) {
        to.line("normals", word(name_of(object.normals)));
    }
}

void write_expected(writer& to, const expected_value& expected, const scene& the_scene) {
    to.heading("[[expect]]");
    to.line("name", text_of(expected.name));
    if (expected.pixel[0] >= 0) {
        to.line("pixel", fmt::format("[{}, {}]", expected.pixel[0], expected.pixel[1]));
    } else {
        to.line("object", text_of(the_scene.objects[expected.object].name));
        to.line("point", triple(expected.point));
    }
    to.line(expected.ratio_to.empty() ? "color" : "ratio", factor(expected.color));
    if (!expected.ratio_to.empty()) {
        to.line("to", text_of(expected.ratio_to));
    }
    to.line("tolerance", factor(expected.tolerance));
}

} // namespace

std::string scene_text(const scene& the_scene) {
    writer to;
    to.line("format", "1");
    to.line("title", text_of(the_scene.title));
    write_view(to, the_scene.view);
    write_shading(to, the_scene.shading);
    write_formulas(to, the_scene);
    to.heading("[ambient]");
    to.line("color", triple(the_scene.ambient_color));
    to.line("strength", number(the_scene.ambient_strength));
    for (const named_material& material : the_scene.materials) {
        if (!material.from_mesh) {
            write_material(to, material);
        }
    }
    for (const object& object : the_scene.objects) {
        write_object(to, object, the_scene.materials[object.material].name);
    }
    for (const named_light& light : the_scene.lights) {
        write_light(to, light, the_scene.formulas);
    }
    for (const expected_value& expected : the_scene.expects) {
        write_expected(to, expected, the_scene);
    }
    return to.text();
}

} // namespace yurvo::inline v0_1
