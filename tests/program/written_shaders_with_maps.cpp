// Shaders that read more textures than one, or none: shadow maps, mirrors, codes that they decode themselves.
#include "program/written_shaders.hpp"

namespace yurvo::testing {

namespace {

const char* const with_places = R"t(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec2 texcoord;
uniform mat4 model, view, projection;
out vec3 place, facing;
out vec2 onPlank;
void main() {
    place = vec3(model * vec4(position, 1.0));
    facing = mat3(transpose(inverse(model))) * normal;
    onPlank = texcoord;
    gl_Position = projection * view * vec4(place, 1.0);
})t";

} // namespace

const std::vector<pair_of_stages>& shaders_with_maps() {
    static const std::vector<pair_of_stages> pairs{
        {"a shadow map, asked by a matrix of the lantern's",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
in vec2 onPlank;
out vec4 color;
uniform sampler2D planks, shadowMap;
uniform mat4 lightSpaceMatrix;
uniform vec3 lanternPosition, lanternColor, cameraPosition, ambientColor, specularColor;
uniform float shininess;
float shadowed() {
    vec4 there = lightSpaceMatrix * vec4(place, 1.0);
    vec3 at = there.xyz / there.w * 0.5 + 0.5;
    return at.z > texture(shadowMap, at.xy).r ? 1.0 : 0.0;
}
void main() {
    vec3 paint = texture(planks, onPlank).rgb, n = normalize(facing), l = normalize(lanternPosition - place);
    float cosine = max(dot(n, l), 0.0);
    vec3 h = normalize(l + normalize(cameraPosition - place));
    float highlight = cosine > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0;
    color = vec4(ambientColor * paint + (1.0 - shadowed()) * lanternColor * (cosine * paint + highlight * specularColor), 1.0);
})t",
         {"shadowMap = 1", "lightSpaceMatrix = \"view.world_to_clip\"", "planks = \"material.texture\""}},
        {"a depth that is compared, a mirror's cube, an array of textures",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
in vec2 onPlank;
out vec4 color;
uniform sampler2DShadow shadowMap;
uniform samplerCube mirrorCube;
uniform sampler2DArray planks;
uniform vec3 lanternPosition, lanternColor, cameraPosition, ambientColor;
void main() {
    vec3 n = normalize(facing), v = normalize(cameraPosition - place), to = lanternPosition - place;
    float lit = texture(shadowMap, vec3(0.5, 0.5, 0.75));
    vec3 paint = texture(planks, vec3(onPlank, 0.0)).rgb;
    vec3 sum = paint * (ambientColor + lit * lanternColor * max(dot(n, normalize(to)), 0.0) / dot(to, to));
    color = vec4(sum + 0.5 * texture(mirrorCube, reflect(-v, n)).rgb, 1.0);
})t",
         {"shadowMap = 1", "mirrorCube = 0", "planks = \"material.texture\""}},
        {"codes of a texture that it decodes, and encodes again",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
in vec2 onPlank;
out vec4 color;
uniform sampler2D planks;
uniform vec3 lampPositions[4], lampColors[4], ambient, glow;
vec3 decoded(vec3 c) { return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c)); }
vec3 encoded(vec3 c) {
    c = clamp(c, 0.0, 1.0);
    return mix(12.92 * c, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c));
}
void main() {
    vec3 sum = ambient;
    for (int i = 0; i < 4; ++i) {
        vec3 to = lampPositions[i] - place;
        sum += lampColors[i] * max(dot(normalize(to), normalize(facing)), 0.0) / dot(to, to);
    }
    color = vec4(encoded(decoded(texture(planks, onPlank).rgb) * sum + glow), 1.0);
})t",
         {"output = \"srgb\"", "planks = \"material.texture_codes\""}},
        {"fog and exposure over paint, names behind arrays",
         "",
         R"t(#version 330 core
in vec3 position, normal;
uniform mat4 model, viewProj;
uniform mat3 normalMatrix;
out vec3 P, N;
void main() { P = vec3(model * vec4(position, 1.0)); N = normalMatrix * normal; gl_Position = viewProj * vec4(P, 1.0); })t",
         R"t(#version 330 core
in vec3 P, N;
out vec4 color;
uniform vec3 lp[3], lc[3], eye, paint, ambient, fogColor;
uniform float fogDensity, exposure;
uniform int n;
void main() {
    vec3 sum = ambient;
    for (int i = 0; i < n; i++) {
        vec3 to = lp[i] - P;
        sum += lc[i] * max(dot(normalize(N), normalize(to)), 0.0) / dot(to, to);
    }
    vec3 c = mix(fogColor, paint * sum, exp(-fogDensity * distance(eye, P)));
    c = 1.0 - exp(-c * exposure);
    color = vec4(pow(c, vec3(1.0 / 2.2)), 1.0);
})t",
         {"\"lp[*]\" = \"lights[*].position\"", "\"lc[*]\" = \"lights[*].light\"",
          "fogColor = \"numbers.fogColor\"", "output = \"gamma\"",
          "exp(-fogDensity * length(eye - position))"}},
        {"bands between which an outline is drawn, under a moon",
         "",
         with_places,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 moonDirection, paint, eyePosition, outlineColor;
uniform float outlineWidth;
void main() {
    vec3 n = normalize(facing);
    float light = max(dot(n, normalize(-moonDirection)), 0.0), band;
    if (light > 0.95) band = 1.0; else if (light > 0.5) band = 0.6; else if (light > 0.25) band = 0.4; else band = 0.2;
    color = vec4(dot(n, normalize(eyePosition - place)) < outlineWidth ? outlineColor : paint * band, 1.0);
})t",
         {"model = \"cel\"", "\"shading.thresholds\" = [0.25, 0.5, 0.95]",
          "outlineWidth = \"shading.outline\""}},
        {"ambient light that is a share of the lamp's, in a sum that its colour multiplies",
         "",
         R"t(attribute vec4 a_position;
attribute vec3 a_normal;
uniform mat4 u_worldViewProjection, u_world, u_worldInverseTranspose, u_viewInverse;
uniform vec3 u_lampPosition;
varying vec3 v_normal, v_toLamp, v_toEye;
void main() {
    vec3 place = (u_world * a_position).xyz;
    v_normal = (u_worldInverseTranspose * vec4(a_normal, 0.0)).xyz;
    v_toLamp = u_lampPosition - place;
    v_toEye = u_viewInverse[3].xyz - place;
    gl_Position = u_worldViewProjection * a_position;
})t",
         R"t(precision highp float;
varying vec3 v_normal, v_toLamp, v_toEye;
uniform vec4 u_lampColor, u_ambient, u_diffuse, u_specular;
uniform float u_shininess;
void main() {
    vec3 n = normalize(v_normal), l = normalize(v_toLamp), h = normalize(l + normalize(v_toEye));
    float cosine = max(dot(n, l), 0.0);
    float highlight = cosine > 0.0 ? pow(max(dot(n, h), 0.0), u_shininess) : 0.0;
    gl_FragColor = vec4((u_lampColor * (u_diffuse * cosine + u_diffuse * u_ambient + u_specular * highlight)).rgb, 1.0);
})t",
         {"u_ambient = \"lights[0].ambient\""}},
    };
    return pairs;
}

} // namespace yurvo::testing
