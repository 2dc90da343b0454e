// Right shaders whose vertices have more than a place and a normal, and whose lamps are written down whole.
#include "program/written_shaders.hpp"

namespace yurvo::testing {

namespace {

const char* const with_places = R"t(#version 330 core
in vec3 aPlace, aFacing;
out vec3 place, facing;
uniform mat4 model, viewProjection;
uniform mat3 turned;
void main() {
    place = vec3(model * vec4(aPlace, 1.0));
    facing = turned * aFacing;
    gl_Position = viewProjection * vec4(place, 1.0);
})t";

} // namespace

const std::vector<pair_of_stages>& shaders_with_attributes() {
    static const std::vector<pair_of_stages> pairs{
        {"planks with a map of normals and one of what is hidden, under lanterns",
         "",
         R"t(#version 330 core
in vec3 aPos, aNormal, aTangent;
in vec2 aTex;
out vec3 place;
out vec2 board;
out mat3 frame;
uniform mat4 model, view, projection;
void main() {
    place = vec3(model * vec4(aPos, 1.0));
    vec3 n = normalize(transpose(inverse(mat3(model))) * aNormal);
    vec3 t = normalize(mat3(model) * aTangent);
    t = normalize(t - dot(t, n) * n);
    frame = mat3(t, cross(n, t), n);
    board = aTex;
    gl_Position = projection * view * vec4(place, 1.0);
})t",
         R"t(#version 330 core
in vec3 place;
in vec2 board;
in mat3 frame;
out vec4 color;
uniform sampler2D plankMap, normalMap, aoMap;
uniform vec3 lanternPositions[3], lanternColors[3], eye, ambient;
uniform vec4 plankMap_ST;
uniform float normalStrength;
void main() {
    vec2 at = board * plankMap_ST.xy + plankMap_ST.zw;
    vec3 grain = texture(normalMap, at).xyz * 2.0 - 1.0;
    vec3 n = normalize(frame * vec3(grain.xy * normalStrength, grain.z));
    vec3 paint = texture(plankMap, at).rgb, sum = ambient * paint * texture(aoMap, at).r;
    for (int i = 0; i < 3; ++i) {
        vec3 to = lanternPositions[i] - place;
        sum += paint * lanternColors[i] * max(dot(n, normalize(to)), 0.0) / dot(to, to);
    }
    color = vec4(sum, 1.0);
})t",
         {"aTangent = \"tangent\"", "normalMap = [0.5, 0.5, 1]", "aoMap = 1", "plankMap_ST = [1, 1, 0, 0]",
          "normalStrength = 1"}},
        {"a crane with joints, drawn many times in colours of its own, under the moon",
         "",
         R"t(#version 330 core
in vec3 aPos, aNormal;
in ivec4 aJoints;
in vec4 aWeights;
in mat4 aInstanceMatrix;
in vec4 aInstanceColor;
out vec3 facing;
out vec3 paint;
uniform mat4 jointMatrices[8], viewProjection;
void main() {
    mat4 skin = aWeights.x * jointMatrices[aJoints.x] + aWeights.y * jointMatrices[aJoints.y] +
                aWeights.z * jointMatrices[aJoints.z] + aWeights.w * jointMatrices[aJoints.w];
    mat4 placed = aInstanceMatrix * skin;
    facing = transpose(inverse(mat3(placed))) * aNormal;
    paint = aInstanceColor.rgb;
    gl_Position = viewProjection * placed * vec4(aPos, 1.0);
})t",
         R"t(#version 330 core
in vec3 facing, paint;
out vec4 color;
uniform vec3 directionalColor, directionalDirection, Ia;
void main() {
    color = vec4(paint * (Ia + directionalColor * max(dot(normalize(facing), normalize(-directionalDirection)), 0.0)), 1.0);
})t",
         {"aJoints = 0", "aWeights = [1, 0, 0, 0]", "aInstanceMatrix = \"object.to_world\"",
          "aInstanceColor = \"material.base\"", "Ia = \"ambient.light\""}},
        {"lamps in a list of structures, each with its reach",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
struct Lantern { vec3 place; vec3 glow; float reach; };
const Lantern LANTERNS[3] = Lantern[3](Lantern(vec3(-2.0, 2.5, 1.0), vec3(3.0, 2.4, 1.6), 9.0),
                                       Lantern(vec3(2.5, 1.5, -1.0), vec3(0.6, 1.2, 3.0), 8.0),
                                       Lantern(vec3(0.0, 4.0, 3.0), vec3(1.5), 12.0));
uniform vec3 paint, ambient;
void main() {
    vec3 n = normalize(facing), sum = ambient;
    for (int i = 0; i < LANTERNS.length(); ++i) {
        vec3 to = LANTERNS[i].place - place;
        float d = length(to);
        sum += LANTERNS[i].glow * max(1.0 - d / LANTERNS[i].reach, 0.0) * max(dot(n, to / d), 0.0);
    }
    color = vec4(paint * sum, 1.0);
})t",
         {"\"lights[1].position\" = [2.5, 1.5, -1]", "\"lights[2].light\" = [1.5, 1.5, 1.5]",
          "\"lights[0].range\" = 9"}},
        {"HLSL's lit(), an exponent that is called a power",
         "",
         R"t(cbuffer Frame { float4x4 viewProjection; float3 eye; float3 moonDirection; float4 moonColor; float4 sky; };
cbuffer Hull { float4x4 world; float4x4 turned; float4 paint; float4 specular; float specularPower; };
struct Corner { float3 place : POSITION; float3 facing : NORMAL; };
struct Pixel { float4 clip : SV_Position; float3 place : PLACE; float3 facing : FACING; };
Pixel quay_vertex(Corner c) {
    Pixel p;
    float4 place = mul(float4(c.place, 1), world);
    p.place = place.xyz;
    p.clip = mul(place, viewProjection);
    p.facing = mul(c.facing, (float3x3)turned);
    return p;
}
float4 quay_fragment(Pixel p) : SV_Target {
    float3 n = normalize(p.facing), l = normalize(-moonDirection), h = normalize(l + normalize(eye - p.place));
    float4 k = lit(dot(n, l), dot(n, h), specularPower);
    return float4(sky.rgb * paint.rgb + moonColor.rgb * (k.y * paint.rgb + k.z * specular.rgb), paint.a);
})t",
         "",
         {"\"Hull.specularPower\" = \"material.shininess\"", "\"Frame.moonColor\" = \"lights[0].light\""}},
        {"a tone curve before the display's, and an exposure",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 lampPosition, lampColor, ambient, paint;
uniform float exposure;
vec3 shouldered(vec3 x) {
    const float a = 2.4, b = 0.03, c = 2.3, d = 0.6, e = 0.15;
    return clamp((x * (a * x + b)) / (x * (c * x + d) + e), 0.0, 1.0);
}
vec3 displayed(vec3 x) {
    return mix(1.055 * pow(x, vec3(1.0 / 2.4)) - 0.055, 12.92 * x, lessThanEqual(x, vec3(0.0031308)));
}
void main() {
    vec3 to = lampPosition - place;
    vec3 lit = paint * (ambient + lampColor / dot(to, to) * max(dot(normalize(facing), normalize(to)), 0.0));
    color = vec4(displayed(shouldered(lit * exposure)), 1.0);
})t",
         {"output = \"srgb\"", "exposure = \"numbers.exposure\"", "(c * exposure) * (2.4 * (c * exposure)"}},
        {"a block with a moon beside lanterns whose reach is their place's fourth number",
         "",
         with_places,
         R"t(#version 420 core
in vec3 place, facing;
out vec4 color;
layout(std140) uniform Frame { vec3 eye; float exposure; vec3 ambient; };
layout(std140) uniform Lights { vec4 dirDirection; vec4 dirColor; uint pointCount; vec4 pointPlace[6]; vec4 pointColor[6]; };
layout(std140) uniform Hull { vec4 paint; vec4 specularShininess; };
vec3 shaded(vec3 n, vec3 l, vec3 v) {
    float cosine = max(dot(n, l), 0.0);
    return paint.rgb * cosine + (cosine > 0.0 ? specularShininess.rgb * pow(max(dot(n, normalize(l + v)), 0.0), specularShininess.a) : vec3(0.0));
}
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place);
    vec3 sum = ambient * paint.rgb + dirColor.rgb * dirColor.a * shaded(n, normalize(-dirDirection.xyz), v);
    for (uint i = 0u; i < pointCount; ++i) {
        vec3 to = pointPlace[i].xyz - place;
        float d = length(to);
        sum += pointColor[i].rgb * pointColor[i].a * pow(clamp(1.0 - d / pointPlace[i].w, 0.0, 1.0), 2.0) * shaded(n, to / d, v);
    }
    color = vec4(vec3(1.0) - exp(-sum * exposure), 1.0);
})t",
         {"dirDirection = \"lights.directional[0].shines\"",
          "\"pointPlace[*]\" = [\"lights.point[*].position\", \"lights.point[*].range\"]",
          "paint = \"material.base\""}},
        {"three lamps as in a studio: a key, a fill and a rim light",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 keyPosition, keyColor, fillPosition, fillColor, rimPosition, rimColor, ambient, paint, eye;
uniform float gloss, specularStrength;
vec3 lamp(vec3 at, vec3 glow, vec3 n, vec3 v) {
    vec3 l = normalize(at - place);
    float cosine = max(dot(n, l), 0.0);
    return glow * (paint * cosine + (cosine > 0.0 ? specularStrength * pow(max(dot(n, normalize(l + v)), 0.0), gloss) : 0.0));
}
void main() {
    vec3 n = normalize(facing), v = normalize(eye - place);
    color = vec4(ambient * paint + lamp(keyPosition, keyColor, n, v) + lamp(fillPosition, fillColor, n, v) + lamp(rimPosition, rimColor, n, v), 1.0);
})t",
         {"keyColor = \"lights[0].light\"", "fillPosition = \"lights[1].position\"",
          "rimColor = \"lights[2].light\""}},
    };
    return pairs;
}

} // namespace yurvo::testing
