#include "yurvo/program/starters.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "program/starter_lighting.hpp"
#include "yurvo/formula/print.hpp"

namespace yurvo::inline v0_1 {

namespace {

// The lighting stands apart.
using program::formula_code;
using program::in_language;
using program::lighting;
using program::names;
using program::number_lines;
using program::put_facing;
using program::put_formulas;
using program::put_together;
using program::replace;
using program::starter;

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

// Rounded down, as the other languages' mod is.
const char* const mod_in_hlsl = "float mod_of(float x, float y) { return x - y * floor(x / y); }\n"
                                "float2 mod_of(float2 x, float2 y) { return x - y * floor(x / y); }\n"
                                "float3 mod_of(float3 x, float3 y) { return x - y * floor(x / y); }\n"
                                "float4 mod_of(float4 x, float4 y) { return x - y * floor(x / y); }\n"
                                "float2 mod_of(float2 x, float y) { return x - y * floor(x / y); }\n"
                                "float3 mod_of(float3 x, float y) { return x - y * floor(x / y); }\n"
                                "float4 mod_of(float4 x, float y) { return x - y * floor(x / y); }\n\n";

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
