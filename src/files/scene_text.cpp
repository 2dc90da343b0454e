#include <cmath>
#include <utility>
#include <vector>

#include <fmt/format.h>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo {

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

std::vector<std::pair<std::string, std::string>> sizes_of(const field_part& part) {
    switch (part.kind) {
    case field_kind::rounded_box:
        return {{"size", triple(part.size)}, {"rounding", number(part.rounding)}};
    case field_kind::torus:
        return {{"radius", number(part.radius)}, {"tube", number(part.tube)}};
    case field_kind::capsule:
        return {{"radius", number(part.radius)}, {"height", number(part.height)}};
    case field_kind::sphere:
    case field_kind::smooth_union:
        break;
    }
    return {{"radius", number(part.radius)}};
}

void write_field(writer& to, const field& shape) {
    to.line("field", word(name_of(shape.kind)));
    if (shape.kind != field_kind::smooth_union) {
        for (const auto& [key, value] : sizes_of(shape.parts.front())) {
            to.line(key, value);
        }
        return;
    }
    to.line("blend", number(shape.blend));
    std::string parts = "[\n";
    for (const field_part& part : shape.parts) {
        parts +=
            fmt::format("  {{ field = {}, position = {}", word(name_of(part.kind)), triple(part.position));
        for (const auto& [key, value] : sizes_of(part)) {
            parts += fmt::format(", {} = {}", key, value);
        }
        parts += " },\n";
    }
    to.line("parts", parts + "]");
}

void write_shape(writer& to, const any_shape& shape) {
    to.line("shape", word(shape_name(shape)));
    if (const auto* given = std::get_if<mesh_shape>(&shape)) {
        to.line("file", text_of(given->file));
    } else if (const auto* implicit = std::get_if<field_shape>(&shape)) {
        write_field(to, implicit->field);
    }
    std::visit(
        [&](const auto& given) {
            if constexpr (requires { given.size.x; }) {
                to.line("size", triple(given.size));
            } else if constexpr (requires { given.size[0]; }) {
                to.line("size", fmt::format("[{}, {}]", number(given.size[0]), number(given.size[1])));
            }
            if constexpr (requires { given.radius; }) {
                to.line("radius", number(given.radius));
            }
            if constexpr (requires { given.height; }) {
                to.line("height", number(given.height));
            }
            if constexpr (requires { given.tube; }) {
                to.line("tube", number(given.tube));
            }
            if constexpr (requires { given.cells; }) {
                to.line("cells", pair(given.cells));
            }
        },
        shape);
}

void write_light(writer& to, const named_light& named) {
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
    if (light.kind != light_kind::directional) {
        to.line("falloff", word(name_of(light.falloff)));
        if (descriptor_of(light.falloff).coefficients) {
            to.line("coefficients",
                    triple(light.coefficients[0], light.coefficients[1], light.coefficients[2]));
        }
        if (descriptor_of(light.falloff).range) {
            to.line("range", number(light.range));
        }
    }
    if (light.kind == light_kind::spot) {
        to.line("penumbra", word(name_of(light.penumbra)));
        if (descriptor_of(light.penumbra).ramped) {
            to.line("inner", angle(light.inner));
        }
        to.line("outer", angle(light.outer));
        if (descriptor_of(light.penumbra).exponent) {
            to.line("exponent", number(light.exponent));
        }
    }
    if (named.space != light_space::world) {
        to.line("space", word(name_of(named.space)));
    }
}

} // namespace

std::string scene_text(const scene& of) {
    writer to;
    to.line("format", "1");
    to.line("title", text_of(of.title));

    const view& view = of.view;
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

    to.heading("[shading]");
    to.line("model", word(name_of(of.shading.model)));
    to.line("rate", word(name_of(of.shading.rate)));
    to.line("ambient_rule", word(name_of(of.shading.ambient_rule)));
    if (of.shading.model == model_kind::cel) {
        const cel_settings& cel = of.shading.cel;
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

    to.heading("[ambient]");
    to.line("color", triple(of.ambient_color));
    to.line("strength", number(of.ambient_strength));

    for (const named_material& material : of.materials) {
        if (material.from_mesh) {
            continue;
        }
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

    for (const object& object : of.objects) {
        to.heading("[[objects]]");
        if (!object.name.empty()) {
            to.line("name", text_of(object.name));
        }
        to.line("material", text_of(of.materials[object.material].name));
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
    for (const named_light& light : of.lights) {
        write_light(to, light);
    }
    for (const expected_value& one : of.expects) {
        to.heading("[[expect]]");
        to.line("name", text_of(one.name));
        if (one.pixel[0] >= 0) {
            to.line("pixel", fmt::format("[{}, {}]", one.pixel[0], one.pixel[1]));
        } else {
            to.line("object", text_of(of.objects[one.object].name));
            to.line("point", triple(one.point));
        }
        to.line(one.ratio_to.empty() ? "color" : "ratio", factor(one.color));
        if (!one.ratio_to.empty()) {
            to.line("to", text_of(one.ratio_to));
        }
        to.line("tolerance", factor(one.tolerance));
    }
    return to.text();
}

} // namespace yurvo
