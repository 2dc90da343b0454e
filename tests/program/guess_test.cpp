// Program files guessed from the sources alone: what names and types say, and what drawing settles.
#include <doctest/doctest.h>

#include <algorithm>

#include "program/written_shaders.hpp"
#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using testing::has;
using testing::outcome;
using testing::pair_of_stages;
using testing::run;
using testing::temporary_folder;
using testing::tool;
using testing::written_shaders;

namespace {

std::vector<pair_of_stages> all_written() {
    std::vector<pair_of_stages> all = written_shaders();
    for (const auto* more : {&testing::shaders_with_buffers(), &testing::shaders_with_formulas(),
                             &testing::shaders_with_named_lights(), &testing::shaders_with_maps(),
                             &testing::shaders_with_attributes()}) {
        all.insert(all.end(), more->begin(), more->end());
    }
    return all;
}

} // namespace

TEST_CASE("a guess from the sources alone is right as it is written, and says how each name was settled" *
          doctest::test_suite("slow") * doctest::skip(!testing::patient)) {
    testing::part_of_list part;
    for (const pair_of_stages& each : all_written()) {
        if (!part.asks_next()) {
            continue;
        }
        const std::string named = each.name;
        CAPTURE(named);
        const temporary_folder folder;
        std::string from = "--from a.vert a.frag";
        if (each.fragment.empty()) {
            write_whole(folder / "a.hlsl", each.vertex);
            from = "--from a.hlsl --entries quay_vertex quay_fragment";
        } else {
            write_whole(folder / "a.vert", each.vertex);
            write_whole(folder / "a.frag", each.fragment);
        }
        const std::string in = "cd " + folder.path() + " && " + tool;
        const std::string language = each.language;
        const outcome guessed =
            run(in + " new program g " + (language.empty() ? "" : "--language " + language + " ") + from);
        CAPTURE(guessed.err);
        REQUIRE(guessed.status == 0);
        const std::string text = read_whole(folder / "g/program.toml");
        CAPTURE(text);
        CHECK(has(guessed.out, "It is right on small scenes"));
        for (const std::string& wanted : each.settled) {
            CAPTURE(wanted);
            CHECK(has(text, wanted));
        }
        CHECK(has(text, "# by its name and type"));
        const outcome held = run(in + " check" + testing::scenes_asked + " --program g/program.toml");
        CAPTURE(held.out);
        CHECK(held.status == 0);
    }
}

TEST_CASE("a wrong shader is taken for what its names say where one mistake explains it then, and check "
          "names that" *
          doctest::test_suite("slow") * doctest::skip(!testing::patient)) {
    struct broken {
        std::string style, right, wrong, named;
        bool claimed = false; // as if it were meant, and a comment says what it would be otherwise
    };
    const std::vector<broken> all{
        {"lights of three kinds with", "if (dot(normal, lightDir) <= 0.0) return 0.0;", "",
         "specular-on-unlit-side", true},
        {"short names", "normalize(l + v)", "normalize(l - v)", "eye-vector-flipped"},
        {"short names", "far * L[i].k2)", "L[i].k2)", "falloff-not-squared"},
        {"a list of lights", "normalize(cam.eye.xyz - inWorld)", "normalize(inWorld - cam.eye.xyz)",
         "eye-vector-flipped"},
        {"lights of three kinds with", "float diff = max(dot(normal, lightDir), 0.0)",
         "float diff = dot(normal, lightDir)", "cosine-not-clamped"},
        {"lights of three kinds with", "vec3 norm = normalize(Normal)", "vec3 norm = Normal",
         "normal-not-renormalized"},
        {"beams in blocks", "cos(beams[i].outerAngle), cos(beams[i].innerAngle)",
         "cos(beams[i].innerAngle), cos(beams[i].outerAngle)", "cone-inner-outer-swapped"},
        // Beside a formula that only the text has.
        {"light that wraps", "l /= d;", "l /= -d;", "light-direction-flipped"},
        {"light that falls off by", "normalize(l + v)", "(l + v) * 0.5", "half-not-normalized"},
        {"light that falls off by", "normalize(eye - place)", "normalize(place - eye)", "eye-vector-flipped"},
        {"fog between", "normalize(facing)", "facing", "normal-not-renormalized"},
        {"paint and metal", "normalize(facing)", "facing", "normal-not-renormalized"},
        {"paint and metal", "* arriving * nl", "* arriving", "specular-on-unlit-side", true},
        {"light that is whole", "seen = vec4(sum, 1.0)",
         "seen = vec4(pow(pow(sum, vec3(1.0 / 2.2)), vec3(1.0 / 2.2)), 1.0)", "encode-twice", true},
        {"lists side by side", "normalize(cameraPosition - place)", "normalize(place - cameraPosition)",
         "eye-vector-flipped"},
        {"lists side by side", "min(sum, vec3(1.0))", "fract(sum)", "output-wraps", true}};
    testing::part_of_list part;
    for (const broken& each : all) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(each.style);
        CAPTURE(each.wrong);
        const std::vector<pair_of_stages> shaders = all_written();
        const auto found = std::find_if(shaders.begin(), shaders.end(), [&](const pair_of_stages& shader) {
            return std::string(shader.name).starts_with(each.style);
        });
        REQUIRE(found != shaders.end());
        const temporary_folder folder;
        std::string fragment = found->fragment;
        std::size_t changed = 0;
        for (std::size_t at = fragment.find(each.right); at != std::string::npos;
             at = fragment.find(each.right, at + each.wrong.size())) {
            fragment.replace(at, each.right.size(), each.wrong);
            ++changed;
        }
        REQUIRE(changed > 0);
        write_whole(folder / "a.vert", found->vertex);
        write_whole(folder / "a.frag", fragment);
        const std::string in = "cd " + folder.path() + " && " + tool;
        const outcome guessed = run(in + " new program g --from a.vert a.frag");
        CHECK(has(guessed.out, each.claimed ? "It is right" : "It is not right yet"));
        const outcome held = run(in + " check" + testing::scenes_asked + " --program g/program.toml");
        CHECK(held.status == (each.claimed ? 0 : 1));
        if (each.claimed) {
            CHECK(has(read_whole(folder / "g/program.toml"), "the mistake " + each.named + ": keep it only"));
        } else {
            CHECK(has(held.out, "What explains it: " + each.named));
        }
    }
}

TEST_CASE("numbers that are written into a shader are claimed: a share of the light as ambient, a specular "
          "factor, a power" *
          doctest::skip(!testing::patient)) {
    const std::string vertex = R"t(#version 330 core
layout(location = 0) in vec3 aPlace; layout(location = 1) in vec3 aNormal;
out vec3 at; out vec3 facing; uniform mat4 model, view, projection;
void main() {
    at = vec3(model * vec4(aPlace, 1.0));
    facing = mat3(transpose(inverse(model))) * aNormal;
    gl_Position = projection * view * vec4(at, 1.0);
})t";
    const std::string head = R"t(#version 330 core
in vec3 at, facing; out vec4 result; uniform vec3 lampPlace, lampColor, eyePlace, paintColor;
void main() {
    vec3 n = normalize(facing); vec3 l = normalize(lampPlace - at); vec3 v = normalize(eyePlace - at);
    float lit = max(dot(n, l), 0.0); vec3 diffuse = lit * lampColor;
)t";
    struct written {
        const char *what, *body;
        std::vector<const char*> lines; // that the guess has to hold
        bool tinted;
    };
    const std::vector<written> all{
        {"numbers in their places, a reflected vector, all times the paint",
         "vec3 ambient = 0.1 * lampColor; vec3 r = reflect(-l, n);\n"
         "vec3 specular = 0.5 * pow(max(dot(v, r), 0.0), 32.0) * lampColor;\n"
         "result = vec4((ambient + diffuse + specular) * paintColor, 1.0); }",
         {"model = \"phong\"", "\"lights[0].ambient\" = [0.1, 0.1, 0.1]", "\"material.shininess\" = 32",
          "\"material.specular\" = [0.5, 0.5, 0.5]", "pow(max(dot(r, v), 0.0), shininess) * base"},
         true},
        {"numbers with names, a half vector, all times the paint",
         "float share = 0.2; vec3 ambient = share * lampColor; float specularShare = 0.75;\n"
         "float spec = pow(max(dot(n, normalize(l + v)), 0.0), 16);\n"
         "vec3 specular = specularShare * spec * lampColor;\n"
         "result = vec4((ambient + diffuse + specular) * paintColor, 1.0); }",
         {"model = \"blinn-phong\"", "\"lights[0].ambient\" = [0.2, 0.2, 0.2]", "\"material.shininess\" = 16",
          "\"material.specular\" = 0.75", "pow(max(dot(n, h), 0.0), shininess) * base"},
         true},
        {"the highlight in the light's own colour, with its gate",
         "vec3 ambient = 0.1 * lampColor; vec3 r = reflect(-l, n);\n"
         "float spec = lit == 0.0 ? 0.0 : pow(max(dot(v, r), 0.0), 32.0);\n"
         "vec3 specular = 0.5 * spec * lampColor; // specularFactor\n"
         "result = vec4((ambient + diffuse) * paintColor + specular, 1.0); }",
         {"model = \"phong\"", "\"lights[0].ambient\" = [0.1, 0.1, 0.1]", "\"material.shininess\" = 32",
          "\"material.specular\" = [0.5, 0.5, 0.5]"},
         false},
        // A display's curve has a factor before a power, too, and a variable that begins at 0 is no constant.
        {"the highlight added up from nothing, written as sRGB",
         "vec3 curve = 1.055 * pow(clamp(lampColor, 0.0, 1.0), vec3(1.0 / 2.4)) - 0.055;\n"
         "vec3 ambient = 0.1 * lampColor; float specular = 0.0; float lampPower = 1.0; lampPower *= 1.0;\n"
         "if (lit > 0.0) { specular = 0.5 * pow(max(dot(v, reflect(-l, n)), 0.0), 32.0); }\n"
         "vec3 c = (ambient + diffuse) * paintColor + specular * lampPower * lampColor;\n"
         "result = vec4(mix(1.055 * pow(clamp(c, 0.0, 1.0), vec3(1.0 / 2.4)) - 0.055, 12.92 * c,\n"
         "    lessThan(c, vec3(0.0031308))), 1.0); }",
         {"model = \"phong\"", "output = \"srgb\"", "\"lights[0].ambient\" = [0.1, 0.1, 0.1]",
          "\"material.specular\" = [0.5, 0.5, 0.5]", "\"material.shininess\" = 32"},
         false}};
    for (const written& each : all) {
        CAPTURE(std::string(each.what));
        const temporary_folder folder;
        write_whole(folder / "a.vert", vertex);
        write_whole(folder / "a.frag", head + each.body);
        const std::string in = "cd " + folder.path() + " && " + tool;
        const outcome guessed = run(in + " new program g --from a.vert a.frag");
        CAPTURE(guessed.err);
        REQUIRE(guessed.status == 0);
        const std::string text = read_whole(folder / "g/program.toml");
        CAPTURE(text);
        CHECK(has(guessed.out, "It is right on small scenes"));
        for (const char* const line : each.lines) {
            CAPTURE(std::string(line));
            CHECK(has(text, line));
        }
        CHECK(has(text, "the mistake specular-tinted-by-base: keep it only if it is meant") == each.tinted);
        CHECK(run(in + " check buoys bollard lantern-row --program g/program.toml").status == 0);
    }
}

TEST_CASE(
    "alpha above 1 keeps no shader from being read by its colours, and a name that is the alpha is found" *
    doctest::test_suite("slow") * doctest::skip(!testing::patient)) {
    const std::string vertex = R"t(#version 330
in vec3 position; in vec3 normal; uniform mat4 toWorld, toClip; uniform mat3 normalMatrix; out vec3 place; out vec3 facing;
void main() { place = (toWorld * vec4(position, 1.0)).xyz; facing = normalMatrix * normal; gl_Position = toClip * vec4(place, 1.0); })t";
    const std::string head = R"t(#version 330
in vec3 place; in vec3 facing; out vec4 color; uniform vec3 lampPosition, lampColor, ambientLight, paintColor; uniform float veil;
void main() {
    vec3 n = normalize(facing), l = lampPosition - place; float d2 = dot(l, l);
    vec3 light = lampColor * max(dot(n, l * inversesqrt(d2)), 0.0) / d2;
)t";
    struct written {
        const char *body, *says, *line;
    };
    testing::part_of_list part;
    for (const written& each : std::initializer_list<written>{
             {"color = vec4(ambientLight * paintColor, 1.0) + vec4(light * paintColor, 1.0 + 0.0 * veil); }",
              "Its alpha is above 1 in places, and has to be the material's",
              "paintColor = \"material.base\""},
             {"color = vec4((ambientLight + light) * paintColor, veil); }", "It is right on small scenes.",
              "veil = \"material.alpha\""}}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(std::string(each.body));
        const temporary_folder folder;
        write_whole(folder / "a.vert", vertex);
        write_whole(folder / "a.frag", head + each.body);
        const outcome guessed =
            run("cd " + folder.path() + " && " + tool + " new program g --from a.vert a.frag");
        REQUIRE(guessed.status == 0);
        const std::string text = read_whole(folder / "g/program.toml");
        CAPTURE(text);
        CHECK(has(guessed.out, each.says));
        CHECK(has(text, each.line));
        CHECK(has(text, "model = \"lambert\""));
    }
}

TEST_CASE("a guess for what no claim fits says that it is not right yet, and writes what it has" *
          doctest::skip(!testing::patient)) {
    const temporary_folder folder;
    write_whole(folder / "a.vert", R"t(#version 330
in vec3 position; uniform mat4 modelViewProjection; out vec3 wave;
void main() { wave = position; gl_Position = modelViewProjection * vec4(position, 1.0); })t");
    write_whole(folder / "a.frag", R"t(#version 330
in vec3 wave; out vec4 color; uniform vec3 lampPosition;
void main() { color = vec4(fract(wave * 3.0 + sin(lampPosition * 40.0)), 1.0); })t");
    const std::string in = "cd " + folder.path() + " && " + tool;
    const outcome guessed = run(in + " new program g --from a.vert a.frag");
    REQUIRE(guessed.status == 0);
    CHECK(has(guessed.out, "It is not right yet"));
    CHECK(has(read_whole(folder / "g/program.toml"), "lampPosition = "));
    CHECK(run(in + " check buoys --program g/program.toml").status == 1);
}

TEST_CASE("a claim whose lights exclude one another is no defect of the tool: scenes that it cannot have are "
          "left out") {
    const auto found =
        std::find_if(written_shaders().begin(), written_shaders().end(), [](const pair_of_stages& shader) {
            return std::string(shader.name).starts_with("lights of three kinds with");
        });
    REQUIRE(found != written_shaders().end());
    const temporary_folder folder;
    write_whole(folder / "a.vert", found->vertex);
    write_whole(folder / "a.frag", found->fragment);
    std::string program = R"t(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "phong"
rate = "fragment"
without = ["material.base", "ambient"]
[attributes]
aPos = "position"
aNormal = "normal"
aTexCoords = "texcoord"
[uniforms]
model = "object.to_world"
view = "view.world_to_view"
projection = "view.view_to_clip"
viewPos = "view.eye"
"moon.direction" = "lights.directional[0].shines"
"torch.position" = "lights.spot[0].position"
"torch.direction" = "lights.spot[0].shines"
"torch.cutOff" = "lights.spot[0].cos_inner"
"torch.outerCutOff" = "lights.spot[0].cos_outer"
"lanterns[*].position" = "lights.point[*].position"
"surface.albedoMap" = "material.texture"
"surface.specularMap" = "material.specular"
"surface.gloss" = "material.shininess"
)t";
    for (const auto& [lamp, kind] :
         {std::pair{"moon", "directional[0]"}, {"lanterns[*]", "point[*]"}, {"torch", "spot[0]"}}) {
        const std::string left = std::string("\"") + lamp + ".";
        const std::string right = std::string("\" = \"lights.") + kind + ".";
        if (std::string(lamp) != "moon") {
            program += left + "constant" + right + "coefficients[0]\"\n" + left + "linear" + right +
                       "coefficients[1]\"\n" + left + "quadratic" + right + "coefficients[2]\"\n";
        }
        program +=
            left + "ambient" + right + "ambient_light\"\n" + left + "diffuse" + right + "diffuse_light\"\n";
        // The first light has a direction to it, and is a spot light, too.
        program +=
            left + "specular" +
            (std::string(lamp) == "torch" ? "\" = \"lights[0].to_light\"\n" : right + "specular_light\"\n");
    }
    write_whole(folder / "p.toml", program);
    const outcome held =
        run("cd " + folder.path() + " && " + tool + " check buoys many-lanterns --program p.toml");
    CAPTURE(held.out);
    CHECK(held.status == 1);
    CHECK(held.err == "");
}
