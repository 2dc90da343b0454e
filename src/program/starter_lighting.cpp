#include "program/starter_lighting.hpp"

#include <fmt/format.h>

#include "embedded_starters.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// `float`, `vec3`.
struct value_width {
    std::size_t width;
    [[nodiscard]] std::string name() const { return width == 1 ? "float" : "vec" + std::to_string(width); }
};

// `0 none, 1 inverse-square, …`
template <class List> std::string numbered(const List& list) {
    std::string text;
    for (const auto& each : list) {
        text += fmt::format("{}{} {}", text.empty() ? "" : ", ", static_cast<int>(each.kind), each.name);
    }
    return text;
}

// The laws of falloff_list and penumbra_list as functions of a shader; the first falloff is what is left.
std::string falloff_cases() {
    std::string text;
    for (const falloff_descriptor& descriptor : falloff_list) {
        if (descriptor.kind != falloff_kind::none) {
            text += fmt::format("    if (lamp.falloff == {}) return {};\n", static_cast<int>(descriptor.kind),
                                descriptor.shader);
        }
    }
    return text + fmt::format("    return {};\n", descriptor_of(falloff_kind::none).shader);
}
std::string penumbra_cases() {
    std::string text;
    for (const penumbra_descriptor& descriptor : penumbra_list) {
        if (!descriptor.ramped && descriptor.kind != penumbra_kind::hard) {
            text += fmt::format("    if (lamp.penumbra == {}) return {};\n",
                                static_cast<int>(descriptor.kind), descriptor.shader);
        }
    }
    // What is ramped is hard where there is no room for a ramp.
    text += fmt::format(
        "    if (lamp.penumbra == {} || lamp.cos_inner == lamp.cos_outer) return {};\n"
        "    float t = clamp((c - lamp.cos_outer) / (lamp.cos_inner - lamp.cos_outer), 0.0, 1.0);\n",
        static_cast<int>(penumbra_kind::hard), descriptor_of(penumbra_kind::hard).shader);
    for (const penumbra_descriptor& descriptor : penumbra_list) {
        if (descriptor.ramped && descriptor.kind != penumbra_kind::smooth) {
            text += fmt::format("    if (lamp.penumbra == {}) return {};\n",
                                static_cast<int>(descriptor.kind), descriptor.shader);
        }
    }
    return text + fmt::format("    return {};\n", descriptor_of(penumbra_kind::smooth).shader);
}

} // namespace

std::string starter(std::string_view name) {
    for (const embedded_file& file : embedded_starters()) {
        if (file.name == name) {
            std::string text(file.bytes);
            replace(text, "@falloff_numbers@", numbered(falloff_list));
            replace(text, "@penumbra_numbers@", numbered(penumbra_list));
            return text;
        }
    }
    throw error({std::string(name), 0, 0}, "does not come with the tool", "a whole build of it");
}

void replace(std::string& text, const std::string& mark, const std::string& with) {
    for (std::size_t at = text.find(mark); at != std::string::npos; at = text.find(mark, at + with.size())) {
        text.replace(at, mark.size(), with);
    }
}
void put_together(std::string& text, const shading_choice& shading) {
    const std::size_t begin = text.find("@both:");
    if (begin == std::string::npos) {
        return;
    }
    const std::size_t middle = text.find('|', begin);
    const std::size_t end = text.find('@', middle);
    const std::string ambient = text.substr(begin + 6, middle - begin - 6);
    const std::string diffuse = text.substr(middle + 1, end - middle - 1);
    text.replace(begin, end + 1 - begin,
                 shading.ambient_rule == ambient_rule::max ? "max(" + ambient + ", " + diffuse + ")"
                                                           : "(" + ambient + " + " + diffuse + ")");
}

std::string in_language(std::string text, formulas::written_in language) {
    if (language == formulas::written_in::hlsl) {
        for (const char* const width : {"2", "3", "4"}) {
            replace(text, std::string("vec") + width, std::string("float") + width);
        }
    }
    return text;
}

namespace {

// l, v, h and r given anew, and the laws that formulas stand for: before the light is worked out.
std::string given_anew(const formula_code& code, formulas::written_in language) {
    using formulas::input;
    using formulas::slot;
    const std::string indent(8, ' ');
    std::string text;
    text += code.has(slot::l) ? code.set(indent, "l", slot::l) : "";
    text += code.has(slot::v) && code.v_of_light()
                ? in_language(indent + "v = normalize(v_eye - position);\n", language) +
                      code.set(indent, "v", slot::v)
                : "";
    if (code.needs(slot::h, input::h)) {
        text += in_language(indent + "vec3 h = normalize(l + v);\n", language);
        text += code.has(slot::h) ? code.set(indent, "h", slot::h) : "";
    }
    if (code.needs(slot::r, input::r)) {
        text += in_language(indent + "vec3 r = 2.0 * dot(n, l) * n - l;\n", language);
        text += code.has(slot::r) ? code.set(indent, "r", slot::r) : "";
    }
    text +=
        code.has(slot::falloff) ? code.set(indent + "if (lamp.kind != 0) ", "falloff", slot::falloff) : "";
    text +=
        code.has(slot::penumbra) ? code.set(indent + "if (lamp.kind == 2) ", "penumbra", slot::penumbra) : "";
    return text;
}

std::string highlight_code(const starter_choice& chosen, const formula_code& code) {
    using formulas::input;
    using formulas::slot;
    if (code.has(slot::specular)) {
        return "specular += light * lamp.specular * (" + code.text(slot::specular) + ");";
    }
    if (!descriptor_of(chosen.shading.model).specular) {
        return "// no highlight: specular stays 0";
    }
    std::string text = "if (cosine > 0.0) { // no highlight on the side that faces away\n";
    const std::string last = "            specular += light * lamp.specular * pow(max(dot(";
    if (chosen.shading.model == model_kind::phong) {
        text += code.needs(slot::r, input::r) ? "" : "            vec3 r = 2.0 * cosine * n - l;\n";
        return text + last + "r, v), 0.0), @shininess@);\n        }";
    }
    return text + last + "n, " + (code.needs(slot::h, input::h) ? "h" : "normalize(l + v)") +
           "), 0.0), @shininess@);\n        }";
}

// The laws as functions, but for those that formulas stand for.
std::string law_functions(const formula_code& code) {
    std::string text;
    if (!code.has(formulas::slot::falloff)) {
        text +=
            "// What one lamp brings to a point: the equations.\nfloat falloff_at(Lamp lamp, float d) {\n" +
            falloff_cases() + "}\n\n";
    }
    if (!code.has(formulas::slot::penumbra)) {
        text +=
            "float penumbra_at(Lamp lamp, vec3 l) {\n"
            "    // l points to the lamp, shines away from it: hence the sign. shines may have any length.\n"
            "    float c = -dot(l, normalize(lamp.shines));\n" +
            penumbra_cases() + "}\n\n";
    }
    return text;
}

} // namespace

std::string lighting(const starter_choice& chosen, const names& called, const formula_code& code) {
    using formulas::input;
    using formulas::slot;
    const std::initializer_list<slot> of_lights{slot::l,       slot::v,        slot::h,       slot::r,
                                                slot::falloff, slot::penumbra, slot::diffuse, slot::specular};
    const auto mark = [](const char* name) { return "@" + std::string(name) + "@"; };
    std::string text = in_language(starter("lighting.glsl"), called.language);
    const bool takes_base = code.any(of_lights, input::base);
    const bool takes_front = code.any(of_lights, input::front);
    replace(text, mark("laws"), in_language(law_functions(code), called.language));
    replace(text, mark("given"),
            in_language(std::string(takes_base ? ", vec3 " + called.base : "") +
                            (takes_front ? ", bool front" : ""),
                        called.language));
    const bool moving_v = code.has(slot::v) && code.v_of_light();
    replace(text, mark("once"),
            moving_v            ? in_language("    vec3 v_eye = " + called.eye + ";\n", called.language)
            : code.has(slot::v) ? code.set("    ", "v", slot::v)
                                : "");
    const bool distance = code.uses(input::d);
    const bool angle = code.uses(input::cos_theta);
    replace(text, mark("unset"),
            std::string(distance ? "        float d = 0.0;\n" : "") +
                (angle ? "        float cos_theta = 1.0;\n" : ""));
    replace(text, mark("distance"), distance ? "d" : "float d");
    const std::string deep(12, ' ');
    replace(text, mark("by_law"),
            (code.has(slot::falloff) ? "" : deep + "falloff = falloff_at(lamp, d);\n") +
                (code.has(slot::penumbra) ? ""
                                          : deep + "if (lamp.kind == 2) penumbra = penumbra_at(lamp, l);\n") +
                (angle ? deep + "if (lamp.kind == 2) cos_theta = -dot(l, normalize(lamp.shines));\n" : ""));
    replace(text, mark("anew"), given_anew(code, called.language));
    const bool own_diffuse = code.has(slot::diffuse);
    const bool gate = descriptor_of(chosen.shading.model).specular && !code.has(slot::specular);
    replace(text, mark("cosine"), own_diffuse && !gate ? "" : "        float cosine = dot(n, l);\n");
    replace(text, mark("follows"),
            chosen.follows == ambient_follows::cone       ? " * falloff * penumbra"
            : chosen.follows == ambient_follows::distance ? " * falloff"
                                                          : "");
    const bool cel = chosen.shading.model == model_kind::cel;
    replace(text, mark("diffuse"),
            cel ? in_language("diffuse += vec3(1.0, 1.0, 1.0) * (lamp.intensity * falloff * penumbra * "
                              "max(cosine, 0.0)); // the gradient: no colour in it",
                              called.language)
            : own_diffuse ? "diffuse += light * lamp.diffuse * (" + code.text(slot::diffuse) + ");"
                          : "diffuse += light * lamp.diffuse * max(cosine, 0.0);");
    const std::string highlight = highlight_code(chosen, code);
    replace(text, mark("highlight"),
            code.has(slot::specular) ? highlight : in_language(highlight, called.language));
    replace(text, mark("eye"), called.eye);
    replace(text, mark("count"), called.count);
    replace(text, mark("lamps"), called.lamps);
    replace(text, mark("shininess"), called.shininess);
    replace(text, mark("most"), std::to_string(chosen.most_lights));
    return text;
}

void put_formulas(std::string& text, const names& called, const formula_code& code) {
    using formulas::input;
    using formulas::slot;
    const std::initializer_list<slot> of_lights{slot::l,       slot::v,        slot::h,       slot::r,
                                                slot::falloff, slot::penumbra, slot::diffuse, slot::specular};
    const bool hlsl = called.language == formulas::written_in::hlsl;
    replace(text, "@give@",
            std::string(code.any(of_lights, input::base) ? ", " + called.base : "") +
                (code.any(of_lights, input::front) ? ", front" : ""));
    std::string asked;
    if (code.any({slot::ambient, slot::more, slot::color}, input::v)) {
        asked = in_language("    vec3 v = normalize(" + called.eye + " - position);\n", called.language);
        asked += code.has(slot::v) ? code.set("    ", "v", slot::v) : "";
    }
    replace(text, "@asked@", asked);
    replace(text, "@ambient@", code.has(slot::ambient) ? " * (" + code.text(slot::ambient) + ")" : "");
    replace(text, "@more@", code.has(slot::more) ? " + (" + code.text(slot::more) + ")" : "");
    if (const std::size_t sum = text.find(in_language("    vec3 c = ", called.language));
        sum != std::string::npos && !code.has(slot::color)) { // without a curve the sum needs no name
        const std::size_t begin = text.find(" = ", sum) + 3;
        const std::size_t end = text.find(";\n", begin);
        const std::string written = text.substr(begin, end - begin);
        text.erase(sum, end + 2 - sum);
        replace(text, "@curve@", written);
    }
    replace(text, "@curve@", code.has(slot::color) ? code.text(slot::color) : "c");
    std::string at_vertex;
    if (code.has(slot::color)) {
        const std::string lit = hlsl ? "output.lit" : "v_lit";
        const std::string shine = hlsl ? "output.shine" : "v_shine";
        at_vertex = in_language("    vec3 c = " + lit + " + " + shine + ";\n    " + lit +
                                    " = vec3(0.0, 0.0, 0.0); // a curve leaves nothing for a texture\n",
                                called.language) +
                    code.set("    ", shine, slot::color);
    }
    replace(text, "@curve_at_vertex@", at_vertex);
}

void put_facing(std::string& text, const formula_code& code, const std::string& facing,
                const std::string& input) {
    const bool front = code.uses(formulas::input::front);
    replace(text, "@facing@", front ? facing : "");
    replace(text, "@facing_input@", front ? input : "");
}

std::string number_lines(const formula_code& code, const std::string& before, const std::string& name,
                         formulas::written_in language) {
    std::string text;
    for (const formulas::named_number& each : code.numbers()) {
        const value_width width{each.values.size()};
        text += in_language(before + width.name() + " ", language) + name + each.name + ";\n";
    }
    return text;
}

} // namespace yurvo::inline v0_1::program
