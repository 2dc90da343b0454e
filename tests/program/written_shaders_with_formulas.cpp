#include "program/written_shaders.hpp"

namespace yurvo::testing {

namespace {

const char* const lit_in_the_world = R"t(#version 330 core
layout(location = 0) in vec3 aPlace;
layout(location = 1) in vec3 aNormal;
uniform mat4 toWorld, toScreen;
uniform mat3 turn;
out vec3 place;
out vec3 facing;
void main() {
    vec4 world = toWorld * vec4(aPlace, 1.0);
    place = world.xyz;
    facing = turn * aNormal;
    gl_Position = toScreen * world;
})t";

// A fragment stage under one lamp, but for what it does with the lamp's light.
pair_of_stages lit_by_one_lamp(const char* name, const std::string& uniforms, const std::string& body,
                               std::vector<std::string> lines) {
    std::string fragment = R"t(#version 330 core
in vec3 place;
in vec3 facing;
out vec4 seen;
uniform vec3 lampPosition, lamp, ambient, paint, shine, eye;
uniform float gloss;
)t";
    if (!uniforms.empty()) {
        fragment += "uniform " + uniforms + ";\n";
    }
    fragment += R"t(void main() {
    vec3 n = normalize(facing), l = lampPosition - place, v = normalize(eye - place);
    float d = length(l);
    l /= d;
    vec3 h = normalize(l + v);
    float cosine = max(dot(n, l), 0.0);
    float highlight = cosine > 0.0 ? pow(max(dot(n, h), 0.0), gloss) : 0.0;
    vec3 sum = ambient * paint;
)t";
    fragment += body + "\n    seen = vec4(sum, 1.0);\n}";
    return {name, "", lit_in_the_world, fragment, std::move(lines)};
}

} // namespace

const std::vector<pair_of_stages>& shaders_with_formulas() {
    static const std::vector<pair_of_stages> pairs{
        {"a highlight that keeps its light for any exponent, paint over pi, counted lanterns in a block",
         "",
         lit_in_the_world,
         R"t(#version 330 core
#define PI 3.14159265359
struct Lantern { vec3 position; float intensity; vec3 color; float unused; };
layout(std140) uniform Night { vec3 gloom; int count; Lantern lanterns[8]; };
uniform vec3 eye, paint, shine;
uniform float shininess;
in vec3 place;
in vec3 facing;
out vec4 color;
float keeping(float s) { return (s + 8.0) / (8.0 * PI); }
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place);
    vec3 sum = gloom * paint;
    for (int i = 0; i < count; i++) {
        vec3 to = lanterns[i].position - place;
        float d2 = dot(to, to);
        vec3 l = to * inversesqrt(d2);
        float cosine = clamp(dot(n, l), 0.0, 1.0);
        vec3 h = normalize(l + v);
        vec3 both = paint / PI + shine * keeping(shininess) * pow(clamp(dot(n, h), 0.0, 1.0), shininess);
        sum += both * cosine * lanterns[i].color * lanterns[i].intensity / d2;
    }
    color = vec4(sum, 1.0);
})t",
         {"specular = \"(shininess + 8.0) / (8.0 * pi) * pow(max(dot(n, h), 0.0), shininess) * max(dot(n, "
          "l), 0.0)\"",
          "diffuse = \"max(dot(n, l), 0.0) / pi\"", "rate = \"fragment\""}},

        {"a mirrored highlight with its factor, behind a gate",
         "",
         lit_in_the_world,
         R"t(#version 330 core
const float pi = 3.141592;
uniform vec3 lampPosition, lampColor, eye, ambient, paint, shine;
uniform float shininess;
in vec3 place;
in vec3 facing;
out vec4 color;
void main() {
    vec3 n = normalize(facing), to = lampPosition - place, v = normalize(eye - place);
    float d = length(to);
    vec3 l = to / d;
    float cosine = dot(n, l);
    vec3 light = lampColor / (d * d);
    vec3 sum = ambient * paint;
    if (cosine > 0.0) {
        float highlight = (shininess + 2.0) / (2.0 * pi) * pow(max(dot(reflect(-l, n), v), 0.0), shininess);
        sum += light * (paint * cosine + shine * highlight);
    }
    color = vec4(sum, 1.0);
})t",
         {"specular = \"dot(n, l) > 0.0 ? (shininess + 2.0) / (2.0 * pi) * pow(max(dot(r, v), 0.0), "
          "shininess) : 0.0\""}},

        {"structures within structures, a cone that fades from its axis, ambient light of each lamp",
         "",
         R"t(#version 330
layout(location = 0) in vec3 Corner;
layout(location = 1) in vec3 Facing;
uniform mat4 toClip, toWorld;
out vec3 facing;
out vec3 place;
void main() {
    gl_Position = toClip * vec4(Corner, 1.0);
    facing = (toWorld * vec4(Facing, 0.0)).xyz;
    place = (toWorld * vec4(Corner, 1.0)).xyz;
})t",
         R"t(#version 330
struct Glow { vec3 Color; float AmbientIntensity; float DiffuseIntensity; };
struct Moon { Glow glow; vec3 Direction; };
struct Fading { float Constant; float Linear; float Exp; };
struct Lantern { Glow glow; vec3 Position; Fading fading; };
struct Searchlight { Lantern lamp; vec3 Direction; float Cutoff; };
uniform int lanternCount;
uniform int searchlightCount;
uniform Moon moon;
uniform Lantern lanterns[2];
uniform Searchlight searchlights[2];
uniform vec3 paint;
uniform vec3 eye;
uniform float specularStrength;
uniform float specularPower;
in vec3 facing;
in vec3 place;
out vec4 color;
vec3 under(Glow glow, vec3 from, vec3 n) {
    vec3 sum = glow.Color * glow.AmbientIntensity * paint;
    float cosine = dot(n, -from);
    if (cosine > 0.0) {
        sum += glow.Color * glow.DiffuseIntensity * cosine * paint;
        float s = dot(normalize(eye - place), normalize(reflect(from, n)));
        if (s > 0.0) sum += glow.Color * specularStrength * pow(s, specularPower);
    }
    return sum;
}
vec3 under(Lantern lantern, vec3 n) {
    vec3 from = place - lantern.Position;
    float d = length(from);
    return under(lantern.glow, from / d, n) / (lantern.fading.Constant + lantern.fading.Linear * d + lantern.fading.Exp * d * d);
}
vec3 under(Searchlight light, vec3 n) {
    float f = dot(normalize(place - light.lamp.Position), light.Direction);
    if (f <= light.Cutoff) return vec3(0.0);
    return under(light.lamp, n) * (1.0 - (1.0 - f) / (1.0 - light.Cutoff));
}
void main() {
    vec3 n = normalize(facing);
    vec3 sum = under(moon.glow, moon.Direction, n);
    for (int i = 0; i < lanternCount; i++) sum += under(lanterns[i], n);
    for (int i = 0; i < searchlightCount; i++) sum += under(searchlights[i], n);
    color = vec4(sum, 1.0);
})t",
         {"\"lanterns[*].fading.Exp\" = \"lights.point[*].coefficients[2]\"", "penumbra = [\"ramp\"]",
          "\"lanterns[*].glow.DiffuseIntensity\" = \"lights.point[*].diffuse[0]\"",
          "\"lights[*].inner_degrees\" = 0"}},
        {"lanterns that fade by an exponent of their own, by the square of the distance",
         "",
         lit_in_the_world,
         R"t(#version 330 core
in vec3 place;
in vec3 facing;
out vec4 seen;
struct Lantern { vec3 position; vec3 color; float reach; float decay; };
uniform Lantern lanterns[3];
uniform vec3 gloom, paint, shine, eye;
uniform float gloss;
float fading(float d2, float reach, float decay) { return pow(max(1.0 - d2 / (reach * reach), 0.0), decay); }
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place), sum = gloom * paint;
    for (int i = 0; i < 3; ++i) {
        vec3 l = lanterns[i].position - place;
        float d2 = dot(l, l);
        l = normalize(l);
        vec3 light = lanterns[i].color * fading(d2, lanterns[i].reach, lanterns[i].decay);
        float cosine = max(dot(n, l), 0.0);
        sum += light * paint * cosine;
        if (cosine > 0.0) sum += light * shine * pow(max(dot(reflect(-l, n), v), 0.0), gloss);
    }
    seen = vec4(sum, 1.0);
})t",
         {"falloff = \"pow(max(1.0 - (d * d) / (range * range), 0.0), decay)\"",
          "\"lanterns[*].decay\" = \"numbers.decay\""}},
        {"paint and metal by microfacets, ambient light of a share that occlusion takes from, a curve",
         "",
         lit_in_the_world,
         R"t(#version 330 core
in vec3 place;
in vec3 facing;
out vec4 seen;
uniform vec3 paint, eye;
uniform float metallic, roughness, ao;
uniform vec3 lampPlaces[3];
uniform vec3 lampColors[3];
const float PI = 3.14159265;
float facets(vec3 n, vec3 h, float rough) {
    float a2 = rough * rough * rough * rough;
    float c = max(dot(n, h), 0.0);
    float below = c * c * (a2 - 1.0) + 1.0;
    return a2 / (PI * below * below);
}
float masked(float c, float rough) {
    float k = (rough + 1.0) * (rough + 1.0) / 8.0;
    return c / (c * (1.0 - k) + k);
}
vec3 mirrored(float c, vec3 head_on) { return head_on + (1.0 - head_on) * pow(clamp(1.0 - c, 0.0, 1.0), 5.0); }
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place);
    vec3 head_on = mix(vec3(0.04), paint, metallic), sum = vec3(0.0);
    for (int i = 0; i < 3; ++i) {
        vec3 l = normalize(lampPlaces[i] - place), h = normalize(v + l);
        float d = length(lampPlaces[i] - place);
        vec3 arriving = lampColors[i] * (1.0 / (d * d));
        float nl = max(dot(n, l), 0.0), nv = max(dot(n, v), 0.0);
        vec3 f = mirrored(max(dot(h, v), 0.0), head_on);
        vec3 shine = facets(n, h, roughness) * masked(nl, roughness) * masked(nv, roughness) * f / (4.0 * nv * nl + 0.0001);
        sum += ((vec3(1.0) - f) * (1.0 - metallic) * paint / PI + shine) * arriving * nl;
    }
    vec3 ambient = vec3(0.03) * paint * ao;
    vec3 color = ambient + sum;
    color = color / (color + vec3(1.0));
    seen = vec4(pow(color, vec3(1.0 / 2.2)), 1.0);
})t",
         {"diffuse = \"0.0\"", "roughness = \"numbers.roughness\"", "metallic = \"numbers.metallic\"",
          "ao = 1", "color = \"c / (c + 1.0)\"", "\"ambient.light\" = 0.03"}},
        lit_by_one_lamp(
            "a law that ends at a reach", "vec3 attenuation; uniform float lampRange",
            "if (d <= lampRange)\n        sum += lamp * (paint * cosine + shine * highlight) / "
            "dot(attenuation, "
            "vec3(1.0, d, d * d));",
            {"falloff = \"(d <= range) ? (1.0 / dot(coefficients, vec3(1.0, d, (d * d)))) : 0.0\"",
             "attenuation = \"lights[0].coefficients\""}),
        lit_by_one_lamp("fog between the eye and the quay", "vec3 fogColor; uniform float fogDensity",
                        "sum += lamp * (paint * cosine + shine * highlight) / (d * d);\n"
                        "sum = mix(fogColor, sum, exp(-fogDensity * length(eye - place)));",
                        {"color = \"mix(fogColor, c, exp(-fogDensity * length(eye - position)))\"",
                         "fogDensity = \"numbers.fogDensity\""}),
        lit_by_one_lamp("an exposure, and a curve that ends at 1", "float exposure",
                        "sum += lamp * (paint * cosine + shine * highlight) / (d * d);\n"
                        "sum *= exposure;\n"
                        "sum = sum / (sum + 1.0);",
                        {"color = \"(c * exposure) / ((c * exposure) + 1.0)\""}),
        lit_by_one_lamp("light that wraps around", "float wrap",
                        "cosine = max((dot(n, l) + wrap) / (1.0 + wrap), 0.0);\n"
                        "sum += lamp * (paint * cosine + shine * highlight) / (d * d);",
                        {"diffuse = \"max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)\""}),
        lit_by_one_lamp("light that is whole for ten metres, then falls off", "",
                        "float fading = clamp(10.0 / d, 0.0, 1.0);\n"
                        "sum += lamp * (paint * cosine + shine * highlight) * fading;",
                        {"falloff = \"clamp(10.0 / d, 0.0, 1.0)\" # as the text has it: see that it is what "
                         "is meant"}),
        lit_by_one_lamp("light that falls off by its lantern's size", "float lanternRadius",
                        "float far = d / lanternRadius + 1.0;\n"
                        "sum += lamp * (paint * cosine + shine * highlight) / (far * far);",
                        {"falloff = \"1.0 / ((d / range + 1.0) * (d / range + 1.0))\""}),
        lit_by_one_lamp("a highlight of four times its exponent", "",
                        "highlight = cosine > 0.0 ? pow(max(dot(n, h), 0.0), gloss * 4.0) : 0.0;\n"
                        "sum += lamp * (paint * cosine + shine * highlight) / (d * d);",
                        {"pow(max(dot(n, h), 0.0), shininess * 4.0)"}),
        lit_by_one_lamp("a rim that is added", "vec3 rimColor;\nuniform float rimPower",
                        "float rim = pow(1.0 - max(dot(n, v), 0.0), rimPower);\n"
                        "sum += lamp * (paint * cosine + shine * highlight) / (d * d) + rim * rimColor;",
                        {"more = \"pow(1.0 - max(dot(n, v), 0.0), rimPower) * rimColor\""}),
        {"a switch over kinds of lanterns, a cone that fades over its angle",
         "",
         lit_in_the_world,
         R"t(#version 330 core
#define MOON 0
#define LANTERN 1
#define SEARCHLIGHT 2
struct Lamp { int type; vec3 position; vec3 direction; vec3 color; float intensity; float range; float innerAngle; float outerAngle; };
uniform Lamp lamps[8];
uniform int lampCount;
uniform vec3 eye, shine, gloom;
uniform vec4 paint;
uniform float shininess;
in vec3 place;
in vec3 facing;
out vec4 color;
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place), sum = gloom * paint.rgb;
    for (int i = 0; i < lampCount; ++i) {
        vec3 l;
        float arriving = 1.0;
        switch (lamps[i].type) {
        case MOON:
            l = -normalize(lamps[i].direction);
            break;
        case LANTERN:
        case SEARCHLIGHT: {
            vec3 to = lamps[i].position - place;
            float d = length(to);
            l = to / d;
            arriving = clamp(1.0 - d / lamps[i].range, 0.0, 1.0);
            arriving *= arriving;
            if (lamps[i].type == SEARCHLIGHT) {
                float angle = acos(clamp(dot(-l, normalize(lamps[i].direction)), -1.0, 1.0));
                arriving *= 1.0 - smoothstep(lamps[i].innerAngle, lamps[i].outerAngle, angle);
            }
            break;
        }
        }
        float cosine = max(dot(n, l), 0.0);
        float highlight = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), shininess) : 0.0;
        sum += lamps[i].color * lamps[i].intensity * arriving * (paint.rgb * cosine + shine * highlight);
    }
    color = vec4(sum, paint.a);
})t",
         {"penumbra = \"1.0 - smoothstep(inner, outer, acos(clamp(cos_theta, -1.0, 1.0)))\"",
          "falloff = [\"linear\"]"}},
        {"ambient light that is a share of the lamp's own",
         "",
         lit_in_the_world,
         R"t(#version 330 core
uniform vec3 lampPosition, lampColor, eye, paint;
uniform float ambientStrength, specularStrength;
uniform int shininess;
in vec3 place;
in vec3 facing;
out vec4 color;
void main() {
    vec3 n = normalize(facing), l = normalize(lampPosition - place), v = normalize(eye - place);
    float cosine = max(dot(n, l), 0.0);
    float highlight = pow(max(dot(v, reflect(-l, n)), 0.0), float(shininess)) * step(0.0001, cosine);
    color = vec4((ambientStrength + cosine) * lampColor * paint + specularStrength * highlight * lampColor, 1.0);
})t",
         {"ambientStrength = \"lights[0].ambient[0]\"", "specularStrength = \"material.specular[0]\""}},
        {"a rough surface that follows the eye, under lanterns",
         "",
         lit_in_the_world,
         R"t(#version 330 core
uniform vec3 lanternPositions[4];
uniform vec3 lanternColors[4];
uniform int lanternCount;
uniform vec3 eye, paint, gloom;
uniform float roughness;
in vec3 place;
in vec3 facing;
out vec4 color;
float rough(vec3 l, vec3 n, vec3 v, float deviation) {
    float nl = dot(n, l), nv = dot(n, v);
    float s = dot(l, v) - nl * nv;
    float t = mix(1.0, max(nl, nv), step(0.0, s));
    float squared = deviation * deviation;
    float a = 1.0 - 0.5 * squared / (squared + 0.33);
    float b = 0.45 * squared / (squared + 0.09);
    return max(0.0, nl) * (a + b * s / t);
}
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place), sum = gloom * paint;
    for (int i = 0; i < lanternCount; ++i) {
        vec3 to = lanternPositions[i] - place;
        float d = length(to);
        sum += paint * lanternColors[i] * rough(to / d, n, v, roughness) / (d * d);
    }
    color = vec4(sum, 1.0);
})t",
         {"roughness = \"numbers.roughness\""}},
        {"lamps at the vertices, with a window over the square",
         "",
         R"t(#version 100
attribute vec3 corner;
attribute vec3 normal;
uniform mat4 modelViewMatrix, projectionMatrix;
uniform mat3 normalMatrix;
uniform vec3 lampPosView[2];
uniform vec3 lampColor[2];
uniform float lampRadius[2];
uniform vec3 diffuseColor, ambientColor;
varying vec3 lit;
float arriving(float d, float reach) {
    float x = d / reach;
    float kept = clamp(1.0 - x * x * x * x, 0.0, 1.0);
    return kept * kept / (d * d + 1.0);
}
void main() {
    vec4 p = modelViewMatrix * vec4(corner, 1.0);
    vec3 n = normalize(normalMatrix * normal);
    vec3 sum = ambientColor * diffuseColor;
    for (int i = 0; i < 2; i++) {
        vec3 l = lampPosView[i] - p.xyz;
        float d = length(l);
        l = normalize(l);
        sum += diffuseColor * lampColor[i] * max(dot(n, l), 0.0) * arriving(d, lampRadius[i]);
    }
    lit = sum;
    gl_Position = projectionMatrix * p;
})t",
         R"t(#version 100
precision mediump float;
varying vec3 lit;
void main() { gl_FragColor = vec4(lit, 1.0); })t",
         {"rate = \"vertex\"", "/ (d * d + 1.0)"}},
        {"one file of HLSL whose vertex stage lights",
         "",
         R"t(cbuffer PerObject : register(b0) { float4x4 World; float4x4 WorldViewProj; float3x3 WorldNormal; };
cbuffer PerFrame : register(b1) { float3 EyePos; float3 LampPos; float3 LampColor; float3 AmbientColor; };
cbuffer Surface : register(b2) { float3 Paint; float SpecPower; };
struct Given { float3 pos : POSITION; float3 nrm : NORMAL; };
struct Lit { float4 pos : SV_Position; float3 color : COLOR0; };
Lit quay_vertex(Given i) {
    Lit o;
    float3 w = mul(float4(i.pos, 1.0), World).xyz;
    o.pos = mul(float4(i.pos, 1.0), WorldViewProj);
    float3 n = normalize(mul(i.nrm, WorldNormal));
    float3 l = LampPos - w;
    float d = length(l);
    l /= d;
    float3 h = normalize(l + normalize(EyePos - w));
    float diffuse = saturate(dot(n, l));
    float shine = diffuse > 0 ? pow(saturate(dot(n, h)), SpecPower) : 0;
    float arriving = 1.0 / (1.0 + 0.14 * d + 0.07 * d * d);
    o.color = AmbientColor * Paint + LampColor * arriving * (Paint * diffuse + shine);
    return o;
}
float4 quay_fragment(Lit i) : SV_Target { return float4(i.color, 1.0); })t",
         "",
         {"rate = \"vertex\"", "falloff = \"1.0 / (1.0 + 0.14 * d + 0.07 * d * d)\""}},
    };
    return pairs;
}

} // namespace yurvo::testing
