#include "yurvo/program/starters.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "embedded_starters.hpp"
#include "yurvo/formula/print.hpp"

namespace yurvo::inline v0_1 {

namespace {

// As a program file has it: a TOML string.
std::string quoted_text(const std::string& text) {
    std::string quoted = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\') {
            quoted += '\\';
        }
        quoted += c == '\n'   ? std::string("\\n")
                  : c == '\t' ? std::string("\\t")
                  : c == '\r' ? std::string("\\r")
                              : std::string(1, c);
    }
    return quoted + "\"";
}

// `float`, `vec3`.
struct value_width {
    std::size_t width;
    [[nodiscard]] std::string name() const { return width == 1 ? "float" : "vec" + std::to_string(width); }
};

void replace(std::string& text, const std::string& mark, const std::string& with);

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

// `@both:A|D@`: ambient and diffuse, put together by the ambient rule.
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

// What the lighting's code calls things in one language.
struct names {
    std::string eye, axis, count, lamps, shininess, ambient, diffuse, specular, emission, base, before_number;
    formulas::written_in language = formulas::written_in::glsl;
};

// The formulas of a choice, written out for one language.
class formula_code {
    const names& called_;
    formulas::formula_set set_;
    bool v_of_light_ = false;

    [[nodiscard]] std::string name_of_input(std::uint32_t index) const {
        using formulas::input;
        if (index >= formulas::input_count) {
            return called_.before_number + set_.numbers[index - formulas::input_count].name;
        }
        switch (static_cast<input>(index)) {
        case input::eye:
            return called_.eye;
        case input::axis:
            return called_.axis;
        case input::base:
            return called_.base;
        case input::light_color:
            return "(lamp.color * lamp.intensity)";
        case input::coefficients:
        case input::range:
        case input::cos_inner:
        case input::cos_outer:
        case input::inner:
        case input::outer:
        case input::exponent:
            return "lamp." + std::string(formulas::input_list[index].name);
        case input::material_ambient:
            return called_.ambient;
        case input::material_diffuse:
            return called_.diffuse;
        case input::material_specular:
            return called_.specular;
        case input::emission:
            return called_.emission;
        case input::shininess:
            return called_.shininess;
        case input::pi:
            return "3.14159265";
        default:
            return std::string(formulas::input_list[index].name);
        }
    }

  public:
    formula_code(const starter_choice& chosen, const names& called)
        : called_(called), set_(parse_all(chosen.formulas, chosen.numbers)) {
        using formulas::input;
        if (set_.has(formulas::slot::v)) {
            for (const formulas::input_descriptor& each : formulas::input_list) {
                const bool of_light = each.how == formulas::varies::by_light ||
                                      each.how == formulas::varies::by_point_and_light;
                v_of_light_ =
                    v_of_light_ || (of_light && set_[formulas::slot::v]->uses(index_of(each.which)));
            }
        }
        if (uses(input::front) && chosen.rate != rate::fragment) {
            throw error({"front", 0, 0}, "a vertex stage does not know which way a triangle faces",
                        "rate = \"fragment\", or a formula without `front`");
        }
    }

    [[nodiscard]] bool has(formulas::slot which) const { return set_.has(which); }
    [[nodiscard]] bool uses(formulas::input which) const { return set_.uses(which); }
    [[nodiscard]] bool any(std::initializer_list<formulas::slot> of, formulas::input which) const {
        return std::any_of(of.begin(), of.end(), [&](formulas::slot each) {
            return set_.has(each) && set_[each]->uses(index_of(which));
        });
    }
    [[nodiscard]] std::string text(formulas::slot which) const {
        return printed(*set_[which], called_.language, [&](std::uint32_t i) { return name_of_input(i); });
    }
    // The statement `NAME = formula;` at an indentation.
    [[nodiscard]] std::string set(const std::string& indent, const std::string& name,
                                  formulas::slot which) const {
        return indent + name + " = " + text(which) + ";\n";
    }
    [[nodiscard]] bool v_of_light() const { return v_of_light_; }
    [[nodiscard]] const std::vector<formulas::named_number>& numbers() const { return set_.numbers; }
    [[nodiscard]] bool needs(formulas::slot direction, formulas::input which) const {
        return has(direction) || uses(which);
    }
};

// The code is written in GLSL's words; formulas come in their own language already.
std::string in_language(std::string text, formulas::written_in language) {
    if (language == formulas::written_in::hlsl) {
        for (const char* const width : {"2", "3", "4"}) {
            replace(text, std::string("vec") + width, std::string("float") + width);
        }
    }
    return text;
}

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

// Rounded down, as the other languages' mod is.
const char* const mod_in_hlsl = "float mod_of(float x, float y) { return x - y * floor(x / y); }\n"
                                "float2 mod_of(float2 x, float2 y) { return x - y * floor(x / y); }\n"
                                "float3 mod_of(float3 x, float3 y) { return x - y * floor(x / y); }\n"
                                "float4 mod_of(float4 x, float4 y) { return x - y * floor(x / y); }\n"
                                "float2 mod_of(float2 x, float y) { return x - y * floor(x / y); }\n"
                                "float3 mod_of(float3 x, float y) { return x - y * floor(x / y); }\n"
                                "float4 mod_of(float4 x, float y) { return x - y * floor(x / y); }\n\n";

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

// What a stage that lights puts around the lighting: what it gives, what is asked once, the curve.
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

// Which side of a triangle is seen: as the driver says.
void put_facing(std::string& text, const formula_code& code, const std::string& facing,
                const std::string& input = "") {
    const bool front = code.uses(formulas::input::front);
    replace(text, "@facing@", front ? facing : "");
    replace(text, "@facing_input@", front ? input : "");
}

// Numbers of one's own as members or uniforms, each on a line.
std::string number_lines(const formula_code& code, const std::string& before, const std::string& name,
                         formulas::written_in language) {
    std::string text;
    for (const formulas::named_number& each : code.numbers()) {
        const value_width width{each.values.size()};
        text += in_language(before + width.name() + " ", language) + name + each.name + ";\n";
    }
    return text;
}

// The sections [formulas] and [numbers] of a program file.
std::string claimed_formulas(const starter_choice& chosen) {
    std::string text;
    const auto number = [](double value) { return fmt::format("{}", value); };
    if (chosen.formulas.any()) {
        text += "\n[formulas] # in the places of parts of the model\n";
    }
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        if (chosen.formulas.has(each.which)) {
            text += fmt::format("{} = {}\n", each.name, quoted_text(chosen.formulas[each.which]));
        }
    }
    if (!chosen.numbers.empty()) {
        text += "\n[numbers]\n";
    }
    for (const formulas::named_number& each : chosen.numbers) {
        std::string values;
        for (const double value : each.values) {
            values += (values.empty() ? "" : ", ") + number(value);
        }
        text += each.name + " = " + (each.values.size() == 1 ? values : "[" + values + "]") + "\n";
    }
    return text;
}

std::string program_head(const starter_choice& chosen, const std::string& name, const std::string& vertex,
                         const std::string& fragment) {
    return fmt::format("# What the names of the shader mean. `yurvo check --program {}.toml` holds it to the "
                       "reference scenes.\n"
                       "format = 1\ntitle = \"A lantern's light, {} per {}\"\nlanguage = \"{}\"\nvertex = "
                       "{}\nfragment = {}\n"
                       "\n# What it is to equal.\nmodel = \"{}\"\nrate = \"{}\"\nambient_rule = \"{}\"\n",
                       name, name_of(chosen.shading.model), name_of(chosen.rate), name_of(chosen.language),
                       vertex, fragment, name_of(chosen.shading.model), name_of(chosen.rate),
                       name_of(chosen.shading.ambient_rule)) +
           (chosen.follows == ambient_follows::cone
                ? ""
                : fmt::format("ambient_follows = \"{}\"\n", name_of(chosen.follows)));
}

const char* const lamp_members[] = {"kind",      "falloff",   "penumbra",     "position", "shines",
                                    "color",     "intensity", "coefficients", "range",    "cos_inner",
                                    "cos_outer", "exponent",  "ambient",      "diffuse",  "specular"};

// The models without terms end the fragment stage in their own way, and may need uniforms of their own.
// Throws yurvo::error where they are asked for at another rate.
void end_without_terms(const starter_choice& chosen, std::string& fragment, std::string& uniforms) {
    const model_kind model = chosen.shading.model;
    std::string main_of_model;
    if (model == model_kind::cel) {
        const std::size_t bands = chosen.shading.cel.bands.size();
        uniforms += fmt::format(
            "uniform float u_thresholds[{}];\nuniform vec3 u_bands[{}];\nuniform float u_outline;\n"
            "uniform vec3 u_outline_color;\n",
            bands - 1, bands);
        main_of_model =
            fmt::format("    float gradient = clamp(diffuse.x, 0.0, 1.0);\n"
                        "    vec3 band = u_bands[0];\n"
                        "    for (int i = 0; i < {}; ++i) {{\n"
                        "        if (u_thresholds[i] <= gradient) band = u_bands[i + 1];\n    }}\n"
                        "    bool outlined = dot(n, normalize(u_eye - v_position)) < u_outline;\n"
                        "    @color@ = vec4(outlined ? u_outline_color : band * base, u_base.a);\n",
                        bands - 1);
    } else if (model == model_kind::unlit) {
        main_of_model = "    @color@ = vec4(base, u_base.a); // whatever the lights\n";
    }
    if (!main_of_model.empty()) {
        if (chosen.rate != rate::fragment) {
            throw error({"--rate", 0, 0},
                        "the model `" + std::string(name_of(model)) + "` is written per fragment only",
                        "--rate fragment");
        }
        const std::size_t begin = fragment.find("    vec3 lit = ");
        fragment = fragment.substr(0, begin) + main_of_model + "}\n";
    }
}

// What the names of plain uniforms mean, line by line.
std::string plain_bindings(model_kind model, const formula_code& code) {
    std::string program;
    const auto bind = [&](const std::string& uniform, const std::string& means) {
        program += (uniform.find_first_of("[.") == std::string::npos ? uniform : "\"" + uniform + "\"") +
                   " = \"" + means + "\"\n";
    };
    bind("u_object_to_world", "object.to_world");
    bind("u_normal_to_world", "object.normal_to_world");
    bind("u_world_to_clip", "view.world_to_clip");
    bind("u_base", "material.base_alpha");
    bind("u_texture", "material.texture");
    if (model != model_kind::unlit) {
        bind("u_eye", "view.eye");
        bind("u_lamp_count", "lights.count");
        for (const char* member : lamp_members) {
            bind(std::string("u_lamps[*].") + member, std::string("lights[*].") + member);
        }
        for (const formulas::input each : {formulas::input::inner, formulas::input::outer}) {
            const std::string member(descriptor_of(each).name);
            if (code.uses(each)) {
                bind("u_lamps[*]." + member, "lights[*]." + member);
            }
        }
        if (code.uses(formulas::input::axis)) {
            bind("u_axis", "view.axis");
        }
        for (const formulas::named_number& each : code.numbers()) {
            bind("u_number_" + each.name, "numbers." + each.name);
        }
    }
    if (model == model_kind::cel) {
        bind("u_thresholds", "shading.thresholds");
        bind("u_bands", "shading.bands");
        bind("u_outline", "shading.outline");
        bind("u_outline_color", "shading.outline_color");
    } else if (model != model_kind::unlit) {
        bind("u_ambient", "ambient.light");
        bind("u_ambient_factor", "material.ambient");
        bind("u_diffuse_factor", "material.diffuse");
        bind("u_specular_factor", "material.specular");
        bind("u_emission", "material.emission");
        bind("u_shininess", "material.shininess");
    }
    return program;
}

// GLSL and GLSL ES: plain uniforms.
std::vector<starter_file> plain_files(const starter_choice& chosen, const std::string& name) {
    const bool es = chosen.language == shading_language::glsl_es;
    const std::string version = chosen.version.empty() ? (es ? "300" : "330") : chosen.version;
    const bool known = es ? version == "100" || version == "300"
                          : version == "330" || version == "400" || version == "410" || version == "420" ||
                                version == "430" || version == "440" || version == "450";
    if (!known) {
        throw error({"--glsl-version", 0, 0}, "`" + version + "` is not offered",
                    es ? "100 or 300" : "330, 400, 410, 420, 430, 440 or 450");
    }
    const bool old = version == "100";
    const model_kind model = chosen.shading.model;
    const std::string rate(name_of(chosen.rate));
    std::string vertex = starter(rate + ".vert");
    std::string fragment = starter(rate + ".frag");
    std::string uniforms = starter("uniforms.glsl");
    end_without_terms(chosen, fragment, uniforms);
    const names called{"u_eye",
                       "u_axis",
                       "u_lamp_count",
                       "u_lamps",
                       "u_shininess",
                       "u_ambient_factor",
                       "u_diffuse_factor",
                       "u_specular_factor",
                       "u_emission",
                       "base",
                       "u_number_"};
    const formula_code code(chosen, called);
    const std::string light = lighting(chosen, called, code);
    replace(uniforms, "@more_of_lamp@",
            std::string(code.uses(formulas::input::inner) ? "    float inner; // radians\n" : "") +
                (code.uses(formulas::input::outer) ? "    float outer; // radians\n" : ""));
    replace(uniforms, "@more_uniforms@",
            (code.uses(formulas::input::axis) ? "uniform vec3 u_axis; // towards the viewer\n" : "") +
                number_lines(code, "uniform ", "u_number_", called.language));
    for (std::string* text : {&vertex, &fragment}) {
        put_together(*text, chosen.shading);
        put_formulas(*text, called, code);
        put_facing(*text, code, "    bool front = gl_FrontFacing;\n");
        replace(*text, "@uniforms@\n", uniforms);
        replace(*text, "@lighting@", light);
        replace(*text, "@version@",
                "#version " + version + (es && !old ? " es" : "") +
                    (es ? "\nprecision highp float;\nprecision highp int;\nprecision highp sampler2D; // "
                          "else lowp"
                        : ""));
        replace(*text, "@in@", old ? "attribute" : "in");
        replace(*text, "@out@", old ? "varying" : "out");
        replace(*text, "@vary@", old ? "varying" : "in");
        replace(*text, "@target@\n", old ? "" : "out vec4 color;\n");
        replace(*text, "@texture@", old ? "texture2D" : "texture");
        replace(*text, "@color@", old ? "gl_FragColor" : "color");
        replace(*text, "@most@", std::to_string(chosen.most_lights));
    }
    std::string program = program_head(chosen, name, "\"" + name + ".vert\"", "\"" + name + ".frag\"");
    program += "\n[attributes]\na_position = \"position\"\na_normal = \"normal\"\na_texcoord = "
               "\"texcoord\"\n\n[uniforms]\n";
    program += plain_bindings(model, code) + claimed_formulas(chosen);
    return {{name + ".vert", vertex}, {name + ".frag", fragment}, {name + ".toml", program}};
}

// What formulas need besides, where blocks hold it.
std::string block_bindings(const formula_code& code, const std::string& lamps, const std::string& axis,
                           const std::string& number) {
    std::string program;
    for (const formulas::input each : {formulas::input::inner, formulas::input::outer}) {
        const std::string member(descriptor_of(each).name);
        program += fmt::format("\"{}{}\" = \"lights[*].{}\"\n", lamps, member, member);
    }
    program += fmt::format("\"{}\" = \"view.axis\"\n", axis);
    for (const formulas::named_number& each : code.numbers()) {
        program += fmt::format("\"{}{}\" = \"numbers.{}\"\n", number, each.name, each.name);
    }
    return program;
}

void require_terms(const starter_choice& chosen) {
    if (chosen.shading.model == model_kind::cel || chosen.shading.model == model_kind::unlit) {
        throw error({"--model", 0, 0},
                    "the model `" + std::string(name_of(chosen.shading.model)) + "` is not written in " +
                        std::string(name_of(chosen.language)),
                    "lambert, phong or blinn-phong, or --language glsl");
    }
}

// GLSL for Vulkan: blocks in sets, and push constants.
std::vector<starter_file> vulkan_files(const starter_choice& chosen, const std::string& name) {
    require_terms(chosen);
    const std::string rate(name_of(chosen.rate));
    std::string vertex = starter("vulkan-" + rate + ".vert");
    std::string fragment = starter("vulkan-" + rate + ".frag");
    const names called{"view.eye",
                       "view.axis",
                       "lighting.count",
                       "lighting.lamps",
                       "material.shininess",
                       "material.ambient",
                       "material.diffuse",
                       "material.specular",
                       "material.emission",
                       "base",
                       "numbers."};
    const formula_code code(chosen, called);
    const std::string light = lighting(chosen, called, code);
    std::string blocks = starter("vulkan-blocks.glsl");
    const std::string numbers = number_lines(code, "    ", "", called.language);
    replace(blocks, "@more_uniforms@",
            numbers.empty() ? ""
                            : "layout(set = 0, binding = 2) uniform Numbers {\n" + numbers + "} numbers;\n");
    for (std::string* text : {&vertex, &fragment}) {
        put_together(*text, chosen.shading);
        put_formulas(*text, called, code);
        put_facing(*text, code, "    bool front = gl_FrontFacing;\n");
        replace(*text, "@blocks@\n", blocks);
        replace(*text, "@lighting@", light);
        replace(*text, "@most@", std::to_string(chosen.most_lights));
    }
    std::string program = program_head(chosen, name, "\"" + name + ".vert\"", "\"" + name + ".frag\"");
    program +=
        "\n[attributes]\na_position = \"position\"\na_normal = \"normal\"\na_texcoord = "
        "\"texcoord\"\n\n[uniforms]\n"
        "\"object.to_world\" = \"object.to_world\"\n\"object.normal_to_world\" = \"object.normal_to_world\"\n"
        "\"view.world_to_clip\" = \"view.world_to_clip\"\n\"view.eye\" = \"view.eye\"\n"
        "\"view.ambient\" = \"ambient.light\"\n\"lighting.count\" = \"lights.count\"\n"
        "\"material.base\" = \"material.base_alpha\"\n\"material.ambient\" = \"material.ambient\"\n"
        "\"material.diffuse\" = \"material.diffuse\"\n\"material.specular\" = \"material.specular\"\n"
        "\"material.emission\" = \"material.emission\"\n\"material.shininess\" = \"material.shininess\"\n"
        "u_texture = \"material.texture\"\n";
    for (const char* member : lamp_members) {
        program += fmt::format("\"lighting.lamps[*].{}\" = \"lights[*].{}\"\n", member, member);
    }
    program += block_bindings(code, "lighting.lamps[*].", "view.axis", "numbers.");
    program += claimed_formulas(chosen);
    return {{name + ".vert", vertex}, {name + ".frag", fragment}, {name + ".toml", program}};
}

std::vector<starter_file> hlsl_files(const starter_choice& chosen, const std::string& name) {
    require_terms(chosen);
    const names called{"eye",       "axis",           "lamp_count",     "lamps",
                       "shininess", "ambient_factor", "diffuse_factor", "specular_factor",
                       "emission",  "tinted",         "number_",        formulas::written_in::hlsl};
    const formula_code code(chosen, called);
    std::string source = starter("lantern.hlsl") + starter(std::string(name_of(chosen.rate)) + ".hlsl");
    put_together(source, chosen.shading);
    put_formulas(source, called, code);
    put_facing(source, code, "    bool front = facing;\n", ", bool facing : SV_IsFrontFace");
    const std::string numbers = number_lines(code, "    ", "number_", called.language);
    const bool rounds_down = std::any_of(
        formulas::slot_list.begin(), formulas::slot_list.end(), [&](const formulas::slot_descriptor& each) {
            return code.has(each.which) && code.text(each.which).find("mod_of") != std::string::npos;
        });
    replace(source, "@more_uniforms@",
            (numbers.empty() ? "" : "cbuffer Numbers {\n" + numbers + "};\n") +
                std::string(rounds_down ? mod_in_hlsl : ""));
    replace(source, "@lighting@", lighting(chosen, called, code));
    replace(source, "@most@", std::to_string(chosen.most_lights));
    const std::string stage = "{ file = \"" + name + ".hlsl\", entry = \"";
    std::string program = program_head(chosen, name, stage + "vertex_main\" }", stage + "fragment_main\" }");
    program +=
        "\n[attributes] # by semantic\nPOSITION = \"position\"\nNORMAL = \"normal\"\nTEXCOORD0 = "
        "\"texcoord\"\n\n[uniforms]\n"
        "object_to_world = \"object.to_world\"\nnormal_to_world = \"object.normal_to_world\"\n"
        "world_to_clip = \"view.world_to_clip\"\neye = \"view.eye\"\nambient_light = \"ambient.light\"\n"
        "lamp_count = \"lights.count\"\nbase = \"material.base_alpha\"\nambient_factor = "
        "\"material.ambient\"\n"
        "diffuse_factor = \"material.diffuse\"\nspecular_factor = \"material.specular\"\n"
        "emission = \"material.emission\"\nshininess = \"material.shininess\"\nplanks = "
        "\"material.texture\"\n";
    for (const char* member : lamp_members) {
        program += fmt::format("\"lamps[*].{}\" = \"lights[*].{}\"\n", member, member);
    }
    program += block_bindings(code, "lamps[*].", "axis", "number_");
    program += claimed_formulas(chosen);
    return {{name + ".hlsl", source}, {name + ".toml", program}};
}

} // namespace

std::vector<starter_file> starter_files(const starter_choice& chosen, const std::string& name) {
    if (!chosen.shading.own.name.empty()) {
        throw error({"--language", 0, 0},
                    "the model `" + chosen.shading.own.name + "` is C++ already, and no text to translate",
                    "a scene with a built-in model or [formulas]");
    }
    if (chosen.rate == rate::face) {
        throw error({"--rate", 0, 0}, "a shader has no rate `face`", "vertex or fragment");
    }
    switch (chosen.language) {
    case shading_language::glsl_vulkan:
        return vulkan_files(chosen, name);
    case shading_language::hlsl:
        return hlsl_files(chosen, name);
    case shading_language::spirv:
        throw error({"--language", 0, 0}, "SPIR-V is not written by hand", "glsl-vulkan, compiled to it");
    case shading_language::glsl:
    case shading_language::glsl_es:
        break;
    }
    return plain_files(chosen, name);
}

} // namespace yurvo::inline v0_1
