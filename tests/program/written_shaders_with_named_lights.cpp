#include "program/written_shaders.hpp"

namespace yurvo::testing {

namespace {

const char* const in_the_world = R"t(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
uniform mat4 model;
uniform mat4 view;
uniform mat4 projection;
out vec3 place;
out vec3 facing;
void main() {
    place = vec3(model * vec4(position, 1.0));
    facing = mat3(transpose(inverse(model))) * normal;
    gl_Position = projection * view * vec4(place, 1.0);
})t";

} // namespace

const std::vector<pair_of_stages>& shaders_with_named_lights() {
    static const std::vector<pair_of_stages> pairs{
        {"three moons in structures that only their instances tell apart",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
struct Light { vec3 direction; vec3 color; float intensity; };
uniform Light keyLight, fillLight, rimLight;
uniform vec3 viewPos, albedo, specular, ambient;
uniform float shininess;
vec3 lit(Light light, vec3 n, vec3 v) {
    vec3 l = normalize(-light.direction);
    float cosine = max(dot(n, l), 0.0);
    float highlight = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), shininess) : 0.0;
    return light.color * light.intensity * (albedo * cosine + specular * highlight);
}
void main() {
    vec3 n = normalize(facing), v = normalize(viewPos - place);
    color = vec4(ambient * albedo + lit(keyLight, n, v) + lit(fillLight, n, v) + lit(rimLight, n, v), 1.0);
})t",
         {"\"fillLight.direction\" = \"lights[1].shines\"", "\"rimLight.color\" = \"lights[2].color\""}},
        {"two cones that are called by where they hang",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
struct Headlamp { vec3 position, direction, color; float inner, outer; };
uniform Headlamp bow, stern;
uniform vec3 eyePos, diffuse, specular, ambient;
uniform float shininess;
vec3 lit(Headlamp lamp, vec3 n, vec3 v) {
    vec3 to = lamp.position - place, l = normalize(to);
    float cone = smoothstep(cos(lamp.outer), cos(lamp.inner), dot(-l, lamp.direction));
    float cosine = max(dot(n, l), 0.0);
    float highlight = cosine > 0.0 ? pow(max(dot(reflect(-l, n), v), 0.0), shininess) : 0.0;
    return cone / dot(to, to) * lamp.color * (diffuse * cosine + specular * highlight);
}
void main() {
    vec3 n = normalize(facing), v = normalize(eyePos - place);
    color = vec4(ambient * diffuse + lit(bow, n, v) + lit(stern, n, v), 1.0);
})t",
         {"\"bow.position\" = \"lights[0].position\"", "\"stern.outer\" = \"lights[1].outer\""}},
        {"a moon, a torch and a lamp, each by its own names",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 moonDirection, moonColor, torchPosition, torchDirection, torchColor, lampPosition, lampColor;
uniform float torchInnerCos, torchOuterCos, gloss;
uniform vec3 eyePosition, paint, matSpecular, ambientLight;
vec3 shade(vec3 n, vec3 v, vec3 l, vec3 light) {
    float cosine = max(dot(n, l), 0.0);
    if (cosine <= 0.0) return vec3(0.0);
    return light * (cosine * paint + pow(max(dot(n, normalize(l + v)), 0.0), gloss) * matSpecular);
}
void main() {
    vec3 n = normalize(facing), v = normalize(eyePosition - place);
    vec3 sum = ambientLight * paint + shade(n, v, normalize(-moonDirection), moonColor);
    vec3 to = lampPosition - place;
    sum += shade(n, v, normalize(to), lampColor) / dot(to, to);
    to = torchPosition - place;
    float c = dot(-normalize(to), normalize(torchDirection));
    float cone = clamp((c - torchOuterCos) / (torchInnerCos - torchOuterCos), 0.0, 1.0);
    color = vec4(sum + shade(n, v, normalize(to), torchColor) * cone / dot(to, to), 1.0);
})t",
         {"moonColor = \"lights.directional[0].light\"", "torchInnerCos = \"lights.spot[0].cos_inner\"",
          "lampPosition = \"lights.point[0].position\""}},
        {"a light of which only its cone is called a spot's",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 lightPos, lightColor, spotDirection, viewPos, objectColor, specularColor, ambientColor;
uniform float spotCosCutoff, spotExponent, shininess;
void main() {
    vec3 n = normalize(facing), to = lightPos - place, l = normalize(to), v = normalize(viewPos - place);
    float c = dot(-l, normalize(spotDirection));
    float cone = c > spotCosCutoff ? pow(c, spotExponent) : 0.0;
    float cosine = max(dot(n, l), 0.0);
    float highlight = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), shininess) : 0.0;
    color = vec4(ambientColor * objectColor + cone * lightColor / dot(to, to) * (objectColor * cosine + specularColor * highlight), 1.0);
})t",
         {"lightPos = \"lights[0].position\"", "spotExponent = \"lights[0].exponent\""}},
        {"lists side by side in a block, a colour's fourth number its strength, a cut at 1",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
layout(std140) uniform Night { vec4 positions[4]; vec4 colors[4]; vec4 ambient; int count; };
layout(std140) uniform Surface { vec4 diffuse; vec4 specular; float shininess; };
uniform vec3 cameraPosition;
void main() {
    vec3 n = normalize(facing), v = normalize(cameraPosition - place), sum = ambient.rgb * diffuse.rgb;
    for (int i = 0; i < count; ++i) {
        vec3 to = positions[i].xyz - place;
        float d2 = dot(to, to);
        vec3 l = to * inversesqrt(d2);
        float cosine = max(dot(n, l), 0.0);
        float highlight = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), shininess) : 0.0;
        sum += colors[i].rgb * colors[i].a / d2 * (diffuse.rgb * cosine + specular.rgb * highlight);
    }
    color = vec4(min(sum, vec3(1.0)), diffuse.a);
})t",
         {"\"colors[*]\" = [\"lights[*].color\", \"lights[*].intensity\"]", "color = \"min(c, vec3(1.0))\""}},
        {"per vertex by letters, places with their reach",
         "",
         R"t(#version 330 core
layout(location = 0) in vec3 p;
layout(location = 1) in vec3 n;
uniform mat4 PVM, VM;
uniform mat3 NM;
uniform vec4 lpos[2];
uniform vec3 lcol[2], amb, dif, spe;
uniform float alpha;
out vec3 c;
void main() {
    vec3 P = (VM * vec4(p, 1.0)).xyz, N = normalize(NM * n), v = normalize(-P);
    c = amb * dif;
    for (int i = 0; i < 2; ++i) {
        vec3 l = lpos[i].xyz - P;
        float d = length(l), a = max(1.0 - d / lpos[i].w, 0.0);
        l /= d;
        float nl = max(dot(N, l), 0.0);
        float s = nl > 0.0 ? pow(max(dot(N, normalize(l + v)), 0.0), alpha) : 0.0;
        c += a * lcol[i] * (nl * dif + s * spe);
    }
    gl_Position = PVM * vec4(p, 1.0);
})t",
         R"t(#version 330 core
in vec3 c;
out vec4 o;
void main() { o = vec4(c, 1.0); })t",
         {"PVM = \"object.to_clip\"", "VM = \"object.to_view\"",
          "\"lpos[*]\" = [\"lights[*].position_view\", \"lights[*].range\"]", "spe = \"material.specular\""}},
        {"three kinds in arrays of their own, each counted",
         "",
         in_the_world,
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
struct Moon { vec3 direction, diffuse, specular; };
struct Lantern { vec3 position, diffuse, specular; float constant, linear, quadratic; };
struct Searchlight { vec3 position, direction, diffuse, specular; float cutOff, outerCutOff, constant, linear, quadratic; };
uniform Moon dirLights[2];
uniform Lantern pointLights[4];
uniform Searchlight spotLights[2];
uniform int numDirLights, numPointLights, numSpotLights;
uniform vec3 viewPos, albedo, shine, ambient;
uniform float shininess;
vec3 lit(vec3 l, vec3 diffuse, vec3 specular) {
    vec3 n = normalize(facing), h = normalize(l + normalize(viewPos - place));
    float cosine = max(dot(n, l), 0.0);
    return albedo * diffuse * cosine + shine * specular * (cosine > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0);
}
void main() {
    vec3 sum = ambient * albedo;
    for (int i = 0; i < numDirLights; i++) sum += lit(normalize(-dirLights[i].direction), dirLights[i].diffuse, dirLights[i].specular);
    for (int i = 0; i < numPointLights; i++) {
        Lantern one = pointLights[i];
        float d = length(one.position - place);
        sum += lit((one.position - place) / d, one.diffuse, one.specular) / (one.constant + one.linear * d + one.quadratic * d * d);
    }
    for (int i = 0; i < numSpotLights; i++) {
        Searchlight one = spotLights[i];
        float d = length(one.position - place);
        vec3 l = (one.position - place) / d;
        float t = clamp((dot(l, normalize(-one.direction)) - one.outerCutOff) / (one.cutOff - one.outerCutOff), 0.0, 1.0);
        sum += t * lit(l, one.diffuse, one.specular) / (one.constant + one.linear * d + one.quadratic * d * d);
    }
    color = vec4(sum, 1.0);
})t",
         {"numDirLights = \"lights.directional.count\"", "numSpotLights = \"lights.spot.count\"",
          "\"dirLights[*].diffuse\" = \"lights.directional[*].diffuse_light\""}},
        {"a moon in view space by a name and a letter",
         "",
         R"t(#version 120
attribute vec3 position, normal;
uniform mat4 MV, P;
uniform mat3 NM;
varying vec3 seen, turned;
void main() { vec4 e = MV * vec4(position, 1.0); seen = e.xyz; turned = NM * normal; gl_Position = P * e; })t",
         R"t(#version 120
varying vec3 seen, turned;
uniform vec3 moon, moonC, base, amb, spec;
uniform float shin;
void main() {
    vec3 n = normalize(turned), l = normalize(moon), h = normalize(l - normalize(seen));
    float c = dot(n, l), s = c > 0.0 ? pow(max(dot(n, h), 0.0), shin) : 0.0;
    gl_FragData[0] = vec4(base * (amb + moonC * max(c, 0.0)) + spec * moonC * s, 1.0);
})t",
         {"moon = \"lights[0].to_light_view\"", "moonC = \"lights[0].light\"",
          "NM = \"object.normal_to_view\""}},
    };
    return pairs;
}

} // namespace yurvo::testing
