// Shaders in the ways that people write them: right ones pass as they are, with every mistake that they could
// hold shown by some scene; wrong ones are caught and named.
#include <doctest/doctest.h>

#include <nlohmann/json.hpp>

#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::outcome;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

struct street_shader {
    const char* name;
    const char* vertex;
    const char* fragment;
    const char* claim; // besides format, stages, and the lines that all share
    const char* named; // the mistake; nothing for a right one
};

const char* const usual_vertex = R"t(#version 330
in vec3 corner; in vec3 facing; out vec3 where; out vec3 up;
uniform mat4 place; uniform mat3 turn; uniform mat4 seen;
void main() { vec4 w = place * vec4(corner, 1.0); where = w.xyz; up = normalize(turn * facing); gl_Position = seen * w; })t";

const char* const usual_claim = R"t(language = "glsl"
rate = "fragment"
[attributes]
corner = "position"
facing = "normal"
[uniforms]
place = "object.to_world"
turn = "object.normal_to_world"
seen = "view.world_to_clip"
)t";

const std::vector<street_shader> street{
    {"a lamp with colours of its own in structures, no ambient light besides", usual_vertex,
     R"t(#version 330
struct Paint { vec3 shade; vec3 body; vec3 glint; float tight; };
struct Lamp { vec3 at; vec3 shade; vec3 body; vec3 glint; float flat_part; float slope; float bend; };
in vec3 where; in vec3 up; out vec4 o;
uniform Paint paint; uniform Lamp lamp; uniform vec3 from;
void main() {
    vec3 n = normalize(up); vec3 to = lamp.at - where; float far = length(to); vec3 l = to / far;
    float fall = 1.0 / (lamp.flat_part + lamp.slope * far + lamp.bend * far * far);
    vec3 sum = lamp.shade * paint.shade;
    if (dot(n, l) > 0.0) {
        sum += lamp.body * paint.body * dot(n, l);
        sum += lamp.glint * paint.glint * pow(max(dot(normalize(from - where), reflect(-l, n)), 0.0), paint.tight);
    }
    o = vec4(sum * fall, 1.0);
})t",
     R"t(model = "phong"
kinds = ["point"]
falloff = ["polynomial"]
without = ["ambient"]
@
from = "view.eye"
paint.shade = "= material.base * material.ambient"
paint.body = "= material.base * material.diffuse"
paint.glint = "material.specular"
paint.tight = "material.shininess"
lamp.at = "lights[0].position"
lamp.shade = "lights[0].ambient_light"
lamp.body = "lights[0].diffuse_light"
lamp.glint = "lights[0].specular_light"
lamp.flat_part = "lights[0].coefficients[0]"
lamp.slope = "lights[0].coefficients[1]"
lamp.bend = "lights[0].coefficients[2]"
)t",
     nullptr},
    {"a moon that is written into the source", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o; uniform vec3 from, paint;
const vec3 moon = normalize(vec3(-0.4, 0.7, 0.3)); const vec3 shine = vec3(0.5, 0.6, 0.9);
void main() {
    vec3 n = normalize(up), v = normalize(from - where); float c = max(dot(n, moon), 0.0);
    float s = c > 0.0 ? pow(max(dot(n, normalize(moon + v)), 0.0), 48.0) : 0.0;
    o = vec4(paint * (0.08 + c * shine) + 0.4 * s * shine, 1.0);
})t",
     R"t(model = "blinn-phong"
kinds = ["directional"]
lights = [1, 1]
[constants]
"lights[0].to_light" = [-0.4, 0.7, 0.3]
"lights[0].color" = [0.5, 0.6, 0.9]
"lights[0].intensity" = 1.0
"ambient.light" = [0.08, 0.08, 0.08]
"material.shininess" = 48
"material.specular" = 0.4
@
from = "view.eye"
paint = "material.base"
)t",
     nullptr},
    {"no gate on the highlight, and said so", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o;
struct Lamp { vec4 place; vec3 light; }; uniform Lamp lamps[4]; uniform int count;
uniform vec3 from, dim, paint, glint; uniform float tight;
void main() {
    vec3 n = normalize(up), v = normalize(from - where), sum = dim * paint;
    for (int i = 0; i < count; ++i) {
        vec3 to = lamps[i].place.xyz - where * lamps[i].place.w;
        float fall = lamps[i].place.w > 0.0 ? 1.0 / dot(to, to) : 1.0; vec3 l = normalize(to);
        sum += fall * lamps[i].light * (max(dot(n, l), 0.0) * paint + pow(max(dot(n, normalize(l + v)), 0.0), tight) * glint);
    }
    o = vec4(sum, 1.0);
})t",
     R"t(model = "blinn-phong"
falloff = ["inverse-square"]
[formulas]
specular = "pow(max(dot(n, h), 0.0), shininess)"
@
from = "view.eye"
"lamps[*].place" = "lights[*].place"
"lamps[*].light" = "lights[*].light"
count = "lights.count"
dim = "ambient.light"
paint = "material.base"
glint = "material.specular"
tight = "material.shininess"
)t",
     nullptr},
    {"sky and water in the place of ambient light", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o; uniform vec3 sky, water, paint, moon_to, moon_light, above;
void main() {
    vec3 n = normalize(up);
    o = vec4(paint * (mix(water, sky, 0.5 + 0.5 * dot(n, above)) + moon_light * max(dot(n, moon_to), 0.0)), 1.0);
})t",
     R"t(model = "lambert"
[formulas]
ambient = "mix(water, sky, 0.5 + 0.5 * n.y)"
[numbers]
sky = [0.10, 0.13, 0.22]
water = [0.02, 0.05, 0.04]
[constants]
"ambient.light" = 1
@
sky = "numbers.sky"
water = "numbers.water"
above = [0.0, 1.0, 0.0]
paint = "material.base"
moon_to = "lights[0].to_light"
moon_light = "lights[0].light"
)t",
     nullptr},
    {"a tone curve, and a display's gamma", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o; uniform vec3 paint, dim, lamp, light;
void main() {
    vec3 n = normalize(up), to = lamp - where; float d2 = dot(to, to);
    vec3 c = paint * (dim + light * max(dot(n, to * inversesqrt(d2)), 0.0) / d2);
    o = vec4(pow(c / (c + 1.0), vec3(1.0 / 2.2)), 1.0);
})t",
     R"t(model = "lambert"
falloff = ["inverse-square"]
output = "gamma"
[formulas]
color = "c / (c + 1.0)"
@
paint = "material.base"
dim = "ambient.light"
lamp = "lights[0].position"
light = "lights[0].light"
)t",
     nullptr},
    {"a storage block without a size, with padding that nobody reads", R"t(#version 450
layout(location = 0) in vec3 corner; layout(location = 1) in vec3 facing; out vec3 where, up;
uniform mat4 place, seen; uniform mat3 turn;
void main() { vec4 w = place * vec4(corner, 1); where = w.xyz; up = turn * facing; gl_Position = seen * w; })t",
     R"t(#version 450
in vec3 where, up; out vec4 o;
struct Lamp { vec3 at; float reach; vec3 hue; float power; vec2 spare; };
layout(std430, binding = 2) readonly buffer Lamps { Lamp lamp[]; };
uniform int count; uniform vec3 dim, paint;
void main() {
    vec3 n = normalize(up), sum = dim * paint;
    for (int i = 0; i < count; ++i) {
        vec3 d = lamp[i].at - where; float q = dot(d, d) / (lamp[i].reach * lamp[i].reach);
        sum += paint * lamp[i].hue * (lamp[i].power * clamp(1.0 - q * q, 0.0, 1.0) / dot(d, d) * max(dot(n, normalize(d)), 0.0));
    }
    o = vec4(sum, 1.0);
})t",
     R"t(model = "lambert"
kinds = ["point"]
lights = [1, 32]
falloff = ["windowed"]
@
dim = "ambient.light"
paint = "material.base"
count = "lights.count"
"lamp[*].at" = "lights[*].position"
"lamp[*].reach" = "lights[*].range"
"lamp[*].hue" = "lights[*].color"
"lamp[*].power" = "lights[*].intensity"
)t",
     nullptr},
    {"an old browser's dialect without a version, in view space, many lamps",
     R"t(attribute vec3 corner; attribute vec3 facing; attribute vec2 cloth;
uniform mat4 place, lens; uniform mat3 turn; varying vec3 where, up; varying vec2 at;
void main() { vec4 e = place * vec4(corner, 1.0); where = e.xyz; up = turn * facing; at = cloth; gl_Position = lens * e; })t",
     R"t(#ifdef GL_FRAGMENT_PRECISION_HIGH
precision highp float;
#else
precision mediump float;
#endif
#define MOST 6
uniform vec3 lampAt[MOST]; uniform vec3 lampHue[MOST]; uniform float lampPower[MOST]; uniform int lampCount;
uniform vec3 dim, paint, glint; uniform float tight; uniform sampler2D weave;
varying vec3 where, up; varying vec2 at;
void main() {
    vec3 n = normalize(up), v = normalize(-where), soft = vec3(0.0), hard = vec3(0.0);
    for (int i = 0; i < MOST; i++) {
        if (i == lampCount) break;
        vec3 to = lampAt[i] - where; float d2 = dot(to, to); vec3 l = to / sqrt(d2);
        vec3 e = lampHue[i] * lampPower[i] / d2; float c = dot(n, l);
        if (c > 0.0) { soft += e * c; hard += e * pow(max(dot(reflect(-l, n), v), 0.0), tight); }
    }
    vec4 t = texture2D(weave, at);
    gl_FragColor = vec4(t.rgb * paint * (dim + soft) + hard * glint, t.a);
})t",
     R"t(language = "glsl-es"
model = "phong"
rate = "fragment"
kinds = ["point"]
falloff = ["inverse-square"]
[attributes]
corner = "position"
facing = "normal"
cloth = "texcoord"
[uniforms]
place = "object.to_view"
turn = "object.normal_to_view"
lens = "view.view_to_clip"
lampAt = "lights[*].position_view"
lampHue = "lights[*].color"
lampPower = "lights[*].intensity"
lampCount = "lights.count"
dim = "ambient.light"
tight = "material.shininess"
paint = "material.base"
glint = "material.specular"
weave = "material.texture"
)t",
     nullptr},
    {"a whole-number exponent and one specular factor", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o; uniform vec3 from, lamp, light, dim, paint; uniform float glint; uniform int tight;
void main() {
    vec3 n = normalize(up), to = lamp - where, l = normalize(to); float c = max(dot(n, l), 0.0);
    vec3 s = vec3(0);
    if (c > 0.0) s = glint * pow(max(dot(normalize(from - where), reflect(-l, n)), 0.0), float(tight)) * light;
    o = vec4((dim + c * light / dot(to, to)) * paint + s / dot(to, to), 1.0);
})t",
     R"t(model = "phong"
falloff = ["inverse-square"]
@
from = "view.eye"
lamp = "lights[0].position"
light = "lights[0].light"
dim = "ambient.light"
paint = "material.base"
glint = "material.specular[0]"
tight = "material.shininess"
)t",
     nullptr},
    {"normals by derivatives", R"t(#version 330
in vec3 corner; out vec3 where; uniform mat4 place, turn, seen;
void main() { vec4 e = turn * place * vec4(corner, 1.0); where = e.xyz; gl_Position = seen * e; })t",
     R"t(#version 330
in vec3 where; out vec4 o; uniform vec3 lamp, light, dim, paint, glint; uniform float tight;
void main() {
    vec3 n = normalize(cross(dFdx(where), dFdy(where))), to = lamp - where; float d2 = dot(to, to); vec3 l = to * inversesqrt(d2);
    float c = max(dot(n, l), 0.0), s = c > 0.0 ? pow(max(dot(n, normalize(l - normalize(where))), 0.0), tight) : 0.0;
    o = vec4(dim * paint + light / d2 * (paint * c + glint * s), 1.0);
})t",
     R"t(language = "glsl"
model = "blinn-phong"
rate = "fragment"
falloff = ["inverse-square"]
normals = "face"
[attributes]
corner = "position"
[uniforms]
place = "object.to_world"
turn = "view.world_to_view"
seen = "view.view_to_clip"
lamp = "lights[0].position_view"
light = "lights[0].light"
dim = "ambient.light"
paint = "material.base"
glint = "material.specular"
tight = "material.shininess"
)t",
     nullptr},
    {"a lamp in the object's own space, the eye too", R"t(#version 120
attribute vec3 corner; attribute vec3 facing; varying vec3 where; varying vec3 up; uniform mat4 seen;
void main() { where = corner; up = facing; gl_Position = seen * vec4(corner, 1.0); })t",
     R"t(#version 120
varying vec3 where; varying vec3 up; uniform vec3 moon, light, dim, paint, from; uniform float glint, tight;
void main() {
    vec3 n = normalize(up), v = normalize(from - where); float c = max(dot(n, moon), 0.0);
    float s = c > 0.0 ? pow(max(dot(n, normalize(moon + v)), 0.0), tight) : 0.0;
    gl_FragColor = vec4((dim + light * c) * paint + light * s * glint, 1.0);
})t",
     R"t(language = "glsl"
model = "blinn-phong"
rate = "fragment"
scale = "none"
[attributes]
corner = "position"
facing = "normal"
[uniforms]
seen = "object.to_clip"
moon = "lights[0].to_light_object"
light = "lights[0].light"
dim = "ambient.light"
paint = "material.base"
from = "object.eye"
glint = "material.specular[0]"
tight = "material.shininess"
)t",
     nullptr},
    {"derived numbers, other numbers for kinds, an occlusion that is 1", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o;
struct Lamp { int sort; vec3 at; vec3 aim; vec3 light; float scale; float offset; }; uniform Lamp lamps[5]; uniform int count;
uniform vec3 dim, paint; uniform sampler2D occlusion; uniform float boost;
void main() {
    vec3 n = normalize(up), sum = dim * texture(occlusion, vec2(0.5)).r;
    for (int i = 0; i < count; ++i) {
        vec3 l; float a = 1.0;
        if (lamps[i].sort == 7) { l = -lamps[i].aim; } else {
            vec3 to = lamps[i].at - where; l = normalize(to); a = 1.0 / dot(to, to);
            if (lamps[i].sort == 9) { float t = clamp(dot(-l, lamps[i].aim) * lamps[i].scale + lamps[i].offset, 0.0, 1.0); a *= t * t; }
        }
        sum += boost * lamps[i].light * a * max(dot(n, l), 0.0);
    }
    o = vec4(sum * paint, 1.0);
})t",
     R"t(model = "lambert"
falloff = ["inverse-square"]
penumbra = ["squared"]
kind_numbers = { directional = 7, point = 8, spot = 9 }
@
"lamps[*].sort" = "lights[*].kind"
"lamps[*].at" = "lights[*].position"
"lamps[*].aim" = "lights[*].axis"
"lamps[*].light" = "= 0.5 * lights[*].light"
"lamps[*].scale" = "= 1.0 / (lights[*].cos_inner - lights[*].cos_outer)"
"lamps[*].offset" = "= -lights[*].cos_outer / (lights[*].cos_inner - lights[*].cos_outer)"
count = "lights.count"
dim = "ambient.light"
paint = "material.base"
occlusion = 1.0
boost = 2.0
)t",
     nullptr},
    {"interpolated on the screen, under a spot alone", R"t(#version 330
in vec3 corner; in vec3 facing; noperspective out vec3 where; noperspective out vec3 up;
uniform mat4 place; uniform mat3 turn; uniform mat4 seen;
void main() { vec4 w = place * vec4(corner, 1.0); where = w.xyz; up = turn * facing; gl_Position = seen * w; })t",
     R"t(#version 330
noperspective in vec3 where; noperspective in vec3 up; out vec4 o;
uniform vec3 lamp, aim, light, dim, paint; uniform float bright, dark;
void main() {
    vec3 n = normalize(up), to = lamp - where, l = normalize(to);
    float cone = smoothstep(dark, bright, dot(-l, normalize(aim)));
    o = vec4(paint * (dim + light * (cone / dot(to, to) * max(dot(n, l), 0.0))), 1.0);
})t",
     R"t(model = "lambert"
kinds = ["spot"]
falloff = ["inverse-square"]
penumbra = ["smooth"]
@
lamp = "lights[0].position"
aim = "lights[0].shines"
light = "lights[0].light"
bright = "lights[0].cos_inner"
dark = "lights[0].cos_outer"
dim = "ambient.light"
paint = "material.base"
)t",
     "interpolation-affine"},
    {"ambient light forgotten", usual_vertex,
     R"t(#version 330
in vec3 where; in vec3 up; out vec4 o; uniform vec3 from, lamp, light, paint, glint; uniform float tight;
void main() {
    vec3 n = normalize(up), v = normalize(from - where), to = lamp - where; float d = length(to); vec3 l = to / d;
    float c = max(dot(n, l), 0.0), s = c > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), tight) : 0.0;
    o = vec4(light / (d * d) * (paint * c + glint * s), 1.0);
})t",
     R"t(model = "blinn-phong"
kinds = ["point"]
falloff = ["inverse-square"]
@
from = "view.eye"
lamp = "lights[0].position"
light = "lights[0].light"
paint = "material.base"
glint = "material.specular"
tight = "material.shininess"
)t",
     "ambient-missing"},
    {"mediump in a branch that is not compiled, and a normal that is not made unit",
     R"t(attribute vec3 corner; attribute vec3 facing;
uniform mat4 place, lens; uniform mat3 turn; varying vec3 where, up;
void main() { vec4 e = place * vec4(corner, 1.0); where = e.xyz; up = normalize(turn * facing); gl_Position = lens * e; })t",
     R"t(#ifdef GL_FRAGMENT_PRECISION_HIGH
precision highp float;
#else
precision mediump float;
#endif
uniform vec3 lamp, light, dim, paint; varying vec3 where, up;
void main() {
    vec3 to = lamp - where;
    gl_FragColor = vec4(paint * (dim + light * max(dot(up, normalize(to)), 0.0) / dot(to, to)), 1.0);
})t",
     R"t(language = "glsl-es"
model = "lambert"
rate = "fragment"
kinds = ["point"]
falloff = ["inverse-square"]
[attributes]
corner = "position"
facing = "normal"
[uniforms]
place = "object.to_view"
turn = "object.normal_to_view"
lens = "view.view_to_clip"
lamp = "lights[0].position_view"
light = "lights[0].light"
dim = "ambient.light"
paint = "material.base"
)t",
     "normal-not-renormalized"},
};

// The claim whole: `@` stands for what most of them share.
std::string whole_claim(const street_shader& of) {
    std::string text = of.claim;
    const std::size_t at = text.find("@\n");
    std::string head = "format = 1\nvertex = \"a.vert\"\nfragment = \"a.frag\"\n";
    if (at == std::string::npos) {
        return head + text;
    }
    // Root keys come before the first section.
    const std::string shared = usual_claim;
    const std::size_t sections = shared.find("[attributes]");
    head += shared.substr(0, sections);
    return head + text.substr(0, at) + shared.substr(sections) + text.substr(at + 2);
}

} // namespace

TEST_CASE("shaders as people write them: right ones pass and nothing is unseen, wrong ones are named" *
          doctest::test_suite("slow")) {
    testing::part_of_list part;
    for (const street_shader& each : street) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(each.name);
        const temporary_folder folder;
        write_whole(folder / "a.vert", each.vertex);
        write_whole(folder / "a.frag", each.fragment);
        write_whole(folder / "claim.toml", whole_claim(each));
        const std::string at = "cd " + folder.path() + " && " + tool;
        const outcome got =
            run(at + " check" + testing::scenes_asked + " --program claim.toml --json result.json");
        CAPTURE(got.err);
        CAPTURE(got.out);
        REQUIRE(got.status == (each.named == nullptr ? 0 : 1));
        const json result = json::parse(read_whole(folder / "result.json"));
        if (testing::whole) { // what was said of all scenes
            CHECK(result["coverage"]["could"].size() > 10);
            CHECK(result["coverage"]["unseen"].empty());
            CHECK(result["coverage"]["could"].size() == result["coverage"]["shown"].size());
        }
        if (each.named == nullptr) {
            CHECK(result["failed"] == 0);
            for (const json& line : result["advice"]) { // only what is claimed on purpose is repeated
                CHECK(has(line.get<std::string>(), " claims what would otherwise be the mistake "));
            }
            // Diagnosis and check agree, scene by scene.
            testing::part_of_list scenes;
            for (const char* scene : {"buoys", "lantern-quay", "penumbras"}) {
                if (!scenes.asks_next()) {
                    continue;
                }
                CHECK(run(at + " diagnose " + scene + " --program claim.toml").status == 0);
            }
        } else {
            CHECK(has(got.out, "What explains it: " + std::string(each.named)));
            CHECK(run(at + " diagnose buoys --program claim.toml").status == 1);
        }
        if (std::string(each.name).starts_with("ambient")) {
            REQUIRE(result["advice"].size() == 1);
            CHECK(has(result["advice"][0].get<std::string>(), "without = [\"ambient\"]"));
        }
    }
}
