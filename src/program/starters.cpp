#include "yurvo/program/starters.hpp"

#include <fmt/format.h>

#include "embedded_starters.hpp"

namespace yurvo {

namespace {

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
            replace(text, "@falloffs@", falloff_cases());
            replace(text, "@penumbras@", penumbra_cases());
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

struct names {
    std::string eye, count, lamps, shininess;
};

std::string lighting(const starter_choice& chosen, const names& called) {
    std::string text = starter("lighting.glsl");
    const bool cel = chosen.shading.model == model_kind::cel;
    replace(
        text, "@diffuse@",
        cel ? "diffuse += vec3(lamp.intensity * factor * max(cosine, 0.0)); // the gradient: no colour in it"
            : "diffuse += light * max(cosine, 0.0);");
    std::string highlight = "// no highlight: specular stays 0";
    if (chosen.shading.model == model_kind::phong || chosen.shading.model == model_kind::blinn_phong) {
        highlight = "if (cosine > 0.0) { // no highlight on the side that faces away\n";
        if (chosen.shading.model == model_kind::phong) {
            highlight += "            vec3 r = 2.0 * cosine * n - l;\n"
                         "            specular += light * pow(max(dot(r, v), 0.0), @shininess@);\n        }";
        } else {
            highlight += "            specular += light * pow(max(dot(n, normalize(l + v)), 0.0), "
                         "@shininess@);\n        }";
        }
    }
    replace(text, "@highlight@", highlight);
    replace(text, "@eye@", called.eye);
    replace(text, "@count@", called.count);
    replace(text, "@lamps@", called.lamps);
    replace(text, "@shininess@", called.shininess);
    replace(text, "@most@", std::to_string(chosen.most_lights));
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
                       name_of(chosen.shading.ambient_rule));
}

const char* const lamp_members[] = {"kind",   "falloff",   "penumbra",  "position",
                                    "shines", "color",     "intensity", "coefficients",
                                    "range",  "cos_inner", "cos_outer", "exponent"};

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
std::string plain_bindings(model_kind model) {
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
    const std::string light = lighting(chosen, {"u_eye", "u_lamp_count", "u_lamps", "u_shininess"});
    for (std::string* text : {&vertex, &fragment}) {
        put_together(*text, chosen.shading);
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
    program += plain_bindings(model);
    return {{name + ".vert", vertex}, {name + ".frag", fragment}, {name + ".toml", program}};
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
    const std::string light =
        lighting(chosen, {"view.eye", "light.count", "light.lamps", "material.shininess"});
    for (std::string* text : {&vertex, &fragment}) {
        put_together(*text, chosen.shading);
        replace(*text, "@blocks@\n", starter("vulkan-blocks.glsl"));
        replace(*text, "@lighting@", light);
        replace(*text, "@most@", std::to_string(chosen.most_lights));
    }
    std::string program = program_head(chosen, name, "\"" + name + ".vert\"", "\"" + name + ".frag\"");
    replace(program, "\n# What it is", "clip = \"vulkan\" # y downwards, depth from 0 to 1\n\n# What it is");
    program +=
        "\n[attributes]\na_position = \"position\"\na_normal = \"normal\"\na_texcoord = "
        "\"texcoord\"\n\n[uniforms]\n"
        "\"object.to_world\" = \"object.to_world\"\n\"object.normal_to_world\" = \"object.normal_to_world\"\n"
        "\"view.world_to_clip\" = \"view.world_to_clip\"\n\"view.eye\" = \"view.eye\"\n"
        "\"view.ambient\" = \"ambient.light\"\n\"light.count\" = \"lights.count\"\n"
        "\"material.base\" = \"material.base_alpha\"\n\"material.ambient\" = \"material.ambient\"\n"
        "\"material.diffuse\" = \"material.diffuse\"\n\"material.specular\" = \"material.specular\"\n"
        "\"material.emission\" = \"material.emission\"\n\"material.shininess\" = \"material.shininess\"\n"
        "u_texture = \"material.texture\"\n";
    for (const char* member : lamp_members) {
        program += fmt::format("\"light.lamps[*].{}\" = \"lights[*].{}\"\n", member, member);
    }
    return {{name + ".vert", vertex}, {name + ".frag", fragment}, {name + ".toml", program}};
}

std::vector<starter_file> hlsl_files(const starter_choice& chosen, const std::string& name) {
    require_terms(chosen);
    std::string source = starter("lantern.hlsl") + starter(std::string(name_of(chosen.rate)) + ".hlsl");
    replace(source, "@most@", std::to_string(chosen.most_lights));
    if (chosen.shading.model == model_kind::phong) {
        replace(source, "pow(max(dot(n, normalize(l + v)), 0.0), shininess)",
                "pow(max(dot(2.0 * cosine * n - l, v), 0.0), shininess)");
    } else if (chosen.shading.model == model_kind::lambert) {
        const std::size_t begin = source.find("        if (cosine > 0.0) {");
        const std::size_t end = source.find("        }\n", begin) + 10;
        source.erase(begin, end - begin);
    }
    if (chosen.shading.ambient_rule == ambient_rule::max) {
        replace(source, "(ambient_light * ambient_factor + diffuse * diffuse_factor)",
                "max(ambient_light * ambient_factor, diffuse * diffuse_factor)");
    }
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
    return {{name + ".hlsl", source}, {name + ".toml", program}};
}

} // namespace

std::vector<starter_file> starter_files(const starter_choice& chosen, const std::string& name) {
    if (chosen.rate == rate::face) {
        throw error({"--rate", 0, 0}, "a shader has no rate `face`", "vertex or fragment");
    }
    switch (chosen.language) {
    case shading_language::glsl_vulkan:
        return vulkan_files(chosen, name);
    case shading_language::hlsl:
        return hlsl_files(chosen, name);
    case shading_language::glsl:
    case shading_language::glsl_es:
        break;
    }
    return plain_files(chosen, name);
}

} // namespace yurvo
