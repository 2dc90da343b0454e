// Right shaders as those write them who lay out blocks, buffers and arrays.
#include "program/written_shaders.hpp"

namespace yurvo::testing {

const std::vector<pair_of_stages>& shaders_with_buffers() {
    static const std::vector<pair_of_stages> pairs{
        {"a moon and lanterns in one block, of one kind each, and paint among what is pushed",
         "glsl-vulkan",
         R"t(#version 450
layout(location = 0) in vec3 inPlace;
layout(location = 1) in vec3 inNormal;
layout(set = 0, binding = 0) uniform Sight { mat4 view; mat4 proj; vec3 eye; } sight;
layout(push_constant) uniform Thing { mat4 model; vec4 albedo; } thing;
layout(location = 0) out vec3 place;
layout(location = 1) out vec3 facing;
void main() {
    vec4 w = thing.model * vec4(inPlace, 1.0);
    place = w.xyz;
    facing = transpose(inverse(mat3(thing.model))) * inNormal;
    gl_Position = sight.proj * sight.view * w;
})t",
         R"t(#version 450
layout(location = 0) in vec3 place;
layout(location = 1) in vec3 facing;
layout(location = 0) out vec4 color;
layout(set = 0, binding = 0) uniform Sight { mat4 view; mat4 proj; vec3 eye; } sight;
layout(push_constant) uniform Thing { mat4 model; vec4 albedo; } thing;
struct PointLight { vec3 pos; float radius; vec3 color; float intensity; };
layout(set = 0, binding = 1) uniform Lights {
    vec4 moonDir;
    vec4 moonColor;
    vec4 ambient;
    PointLight points[8];
    uint pointCount;
} lights;
layout(constant_id = 0) const float SHININESS = 32.0;
vec3 shade(vec3 n, vec3 l, vec3 v, vec3 light) {
    float cosine = dot(n, l);
    if (cosine <= 0.0) return vec3(0.0);
    return light * (thing.albedo.rgb * cosine + 0.25 * pow(max(dot(n, normalize(l + v)), 0.0), SHININESS));
}
void main() {
    vec3 n = normalize(facing), v = normalize(sight.eye - place);
    vec3 sum = lights.ambient.rgb * thing.albedo.rgb;
    sum += shade(n, normalize(-lights.moonDir.xyz), v, lights.moonColor.rgb * lights.moonColor.a);
    for (uint i = 0u; i < lights.pointCount; ++i) {
        vec3 to = lights.points[i].pos - place;
        float d = length(to), q = d / lights.points[i].radius;
        float fade = max(1.0 - q * q * q * q, 0.0) / (d * d);
        sum += shade(n, to / d, v, lights.points[i].color * lights.points[i].intensity * fade);
    }
    color = vec4(sum, thing.albedo.a);
})t",
         {"\"Lights.moonDir\" = \"lights.directional[0].shines\"",
          "\"Lights.points[*].pos\" = \"lights.point[*].position\"",
          "\"Lights.pointCount\" = \"lights.point.count\""}},
        {"vectors side by side, of which one has each lamp's kind and one its cone",
         "",
         R"t(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
uniform mat4 model, viewProj;
out vec3 place, facing;
void main() {
    vec4 w = model * vec4(position, 1.0);
    place = w.xyz;
    facing = transpose(inverse(mat3(model))) * normal;
    gl_Position = viewProj * w;
})t",
         R"t(#version 330 core
in vec3 place, facing;
out vec4 color;
uniform vec3 camera, ambient, albedo, specular;
uniform float gloss;
uniform int lampCount;
layout(std140) uniform LampBlock { vec4 posType[8]; vec4 colorIntensity[8]; vec4 dirRange[8]; vec4 cone[8]; };
void main() {
    vec3 n = normalize(facing), v = normalize(camera - place), sum = ambient * albedo;
    for (int i = 0; i < lampCount; ++i) {
        int type = int(posType[i].w + 0.5);
        vec3 l = normalize(-dirRange[i].xyz);
        float fade = 1.0;
        if (type != 0) {
            vec3 to = posType[i].xyz - place;
            float d = length(to);
            l = to / d;
            fade = clamp(1.0 - d / dirRange[i].w, 0.0, 1.0);
            if (type == 2) {
                fade *= smoothstep(cone[i].y, cone[i].x, dot(l, normalize(-dirRange[i].xyz)));
            }
        }
        float cosine = max(dot(n, l), 0.0);
        float highlight = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), gloss) : 0.0;
        sum += colorIntensity[i].rgb * colorIntensity[i].a * fade * (albedo * cosine + specular * highlight);
    }
    color = vec4(sum, 1.0);
})t",
         {"\"cone[*]\" = [\"lights[*].cos_inner\", \"lights[*].cos_outer\"",
          "\"posType[*]\" = [\"lights[*].position\", \"lights[*].kind\"]"}},
        {"arrays side by side for lamps, the sun by names of its own, a matrix of four columns and three "
         "rows, a switch",
         "",
         R"t(#version 330 core
layout(location = 0) in vec3 pos;
layout(location = 1) in vec3 nrm;
layout(location = 2) in vec2 uv0;
uniform mat4x3 u_world;
uniform mat4 u_vp;
uniform mat3 u_nrm;
centroid out vec3 v_pos;
centroid out vec3 v_nrm;
out vec2 v_uv;
void main() {
    v_pos = u_world * vec4(pos, 1.0);
    v_nrm = u_nrm * nrm;
    v_uv = uv0;
    gl_Position = u_vp * vec4(v_pos, 1.0);
})t",
         R"t(#version 330 core
const int MAX_POINT = 6;
uniform bool u_useTexture;
uniform int u_quality;
uniform sampler2D u_map;
uniform int u_pointCount;
uniform vec3 u_pointPos[MAX_POINT];
uniform vec3 u_pointColor[MAX_POINT];
uniform vec3 u_pointAtt[MAX_POINT];
uniform vec3 u_sunDir;
uniform vec3 u_sunColor;
uniform vec3 u_eyePos;
uniform vec3 u_ambient;
uniform vec4 u_diffuse;
uniform vec4 u_specular; // rgb, exponent
centroid in vec3 v_pos;
centroid in vec3 v_nrm;
in vec2 v_uv;
out vec4 o_color;
vec3 lobe(vec3 n, vec3 l, vec3 v, vec3 base, vec3 light) {
    float k = dot(n, l);
    vec3 sum = light * base * max(k, 0.0);
    if (k > 0.0 && u_quality > 0) sum += light * u_specular.rgb * pow(max(dot(reflect(-l, n), v), 0.0), u_specular.w);
    return sum;
}
void main() {
    vec3 base = u_diffuse.rgb;
    if (u_useTexture) base *= texture(u_map, v_uv).rgb;
    vec3 n = normalize(v_nrm), v = normalize(u_eyePos - v_pos);
    vec3 c = u_ambient * base;
    c += lobe(n, u_sunDir, v, base, u_sunColor);
    for (int i = 0; i < u_pointCount; i++) {
        vec3 t = u_pointPos[i] - v_pos;
        float d = length(t);
        float a = 1.0 / dot(u_pointAtt[i], vec3(1.0, d, d * d));
        c += lobe(n, t / d, v, base, u_pointColor[i] * a);
    }
    o_color = vec4(c, u_diffuse.a);
})t",
         {"u_world = \"object.to_world\"", "\"u_pointAtt[*]\" = \"lights.point[*].coefficients\"",
          "u_useTexture = 1", "u_sunDir = \"lights.directional[0].to_light\"",
          "u_diffuse = \"material.base_alpha\""}},

        {"a buffer of structures, matrices in rows",
         "",
         R"t(struct Lamp { float3 place; float reach; float3 tint; float power; };
StructuredBuffer<Lamp> lamps : register(t1);
Texture2D deck : register(t0);
SamplerState wrap : register(s0);
cbuffer PerObject : register(b0) {
    row_major float4x4 world;
    row_major float4x4 worldInverseTranspose;
    row_major float4x4 worldViewProj;
};
cbuffer PerFrame : register(b1) {
    float3 eye; uint lampCount;
    float3 gloom; float gloss;
    float4 paint; float3 shine;
};
struct VSIn { float3 p : POSITION; float3 n : NORMAL; float2 t : TEXCOORD0; };
struct PSIn { float4 clip : SV_Position; float3 p : TEXCOORD1; float3 n : TEXCOORD2; float2 t : TEXCOORD0; };
static const float tiny = 1e-6;
PSIn quay_vertex(VSIn i) {
    PSIn o;
    o.p = mul(float4(i.p, 1), world).xyz;
    o.n = mul(float4(i.n, 0), worldInverseTranspose).xyz;
    o.clip = mul(float4(i.p, 1), worldViewProj);
    o.t = i.t;
    return o;
}
float4 quay_fragment(PSIn i) : SV_Target0 {
    float3 n = normalize(i.n), v = normalize(eye - i.p);
    float3 albedo = paint.rgb * deck.Sample(wrap, i.t).rgb;
    float3 sum = gloom * albedo;
    [loop] for (uint k = 0; k < lampCount; ++k) {
        Lamp lamp = lamps[k];
        float3 d = lamp.place - i.p;
        float len = length(d);
        float3 l = d / max(len, tiny);
        float atten = saturate(1 - len / lamp.reach);
        float nl = dot(n, l);
        float3 e = lamp.tint * lamp.power * atten;
        sum += e * saturate(nl) * albedo;
        if (nl > 0) sum += e * shine * pow(saturate(dot(n, normalize(l + v))), gloss);
    }
    return float4(sum, paint.a);
})t",
         "",
         {"_data[*].reach\" = \"lights[*].range\"", "PerObject.world\" = \"object.to_world.transposed\"",
          "falloff = [\"linear\"]"}},

        {"items in a block, a colour with its strength, a cone by its scale, constants of a pipeline",
         "glsl-vulkan",
         R"t(#version 450
layout(location = 0) in vec3 inPos;
layout(location = 1) in vec3 inNormal;
layout(location = 2) in vec2 inUV;
layout(location = 0) out vec3 outPos;
layout(location = 1) out vec3 outNormal;
layout(location = 2) out vec2 outUV;
layout(set = 0, binding = 0) uniform Camera { mat4 view; mat4 proj; vec4 eye; } cam;
layout(push_constant) uniform Push { mat4 model; } pc;
void main() {
    vec4 w = pc.model * vec4(inPos, 1);
    outPos = w.xyz;
    outNormal = transpose(inverse(mat3(pc.model))) * inNormal;
    outUV = inUV;
    gl_Position = cam.proj * cam.view * w;
})t",
         R"t(#version 450
layout(constant_id = 0) const int LIGHTS = 8;
layout(constant_id = 1) const bool GATED = true;
layout(location = 0) in vec3 inPos;
layout(location = 1) in vec3 inNormal;
layout(location = 2) in vec2 inUV;
layout(location = 0) out vec4 outColor;
layout(set = 0, binding = 0) uniform Camera { mat4 view; mat4 proj; vec4 eye; } cam;
struct Light { vec4 pos; vec4 dir; vec4 col; vec4 cone; };
layout(set = 0, binding = 1) uniform Lighting { vec4 ambient; ivec4 counts; Light items[8]; } lighting;
layout(set = 1, binding = 0) uniform texture2D albedoTex;
layout(set = 1, binding = 1) uniform sampler samp;
layout(set = 1, binding = 2) uniform Mat { vec4 base; vec4 spec; } mat;
void main() {
    vec3 N = normalize(inNormal);
    vec3 V = normalize(cam.eye.xyz - inPos);
    vec3 albedo = mat.base.rgb * texture(sampler2D(albedoTex, samp), inUV).rgb;
    vec3 color = lighting.ambient.rgb * lighting.ambient.a * albedo;
    for (int i = 0; i < min(lighting.counts.x, LIGHTS); i++) {
        Light li = lighting.items[i];
        vec3 d = li.pos.xyz - inPos * li.pos.w;
        float len = length(d);
        vec3 L = d / len;
        float att = li.pos.w > 0.5 ? 1.0 / (len * len) : 1.0;
        att *= clamp((dot(-L, li.dir.xyz) - li.cone.y) * li.cone.x, 0.0, 1.0);
        float NL = dot(N, L);
        vec3 E = li.col.rgb * li.col.a * att;
        color += E * albedo * max(NL, 0.0);
        if (!GATED || NL > 0.0) color += E * mat.spec.rgb * pow(max(dot(reflect(-L, N), V), 0.0), mat.spec.a);
    }
    outColor = vec4(color, mat.base.a);
})t",
         {"items[*].col\" = [\"lights[*].color\", \"lights[*].intensity\"]",
          "\"= 1.0 / (lights[*].cos_inner - lights[*].cos_outer)\", \"lights[*].cos_outer\", 0, 0]",
          "Lighting.ambient\" = [\"ambient.color\", \"ambient.strength\"]"}},

        {"both sides lit at the vertices, a lamp's ambient light beside the scene's, coefficients by letters",
         "",
         R"t(#version 120
attribute vec3 aPos;
attribute vec3 aNormal;
uniform mat4 uModelView, uProjection;
uniform mat3 uNormalMatrix;
uniform vec3 uLampPos;   // in view space
uniform vec3 uLampAmbient, uLampDiffuse, uLampSpecular;
uniform vec3 uMatAmbient, uMatDiffuse, uMatSpecular, uMatEmission, uBase;
uniform vec3 uGlobal;
uniform float uShine, uKc, uKl, uKq;
varying vec3 vFront;
varying vec3 vBack;
vec3 light(vec3 p, vec3 n) {
    vec3 toLamp = uLampPos - p;
    float d = length(toLamp);
    vec3 l = toLamp / d;
    float att = 1.0 / (uKc + uKl * d + uKq * d * d);
    vec3 c = uMatEmission + uGlobal * uMatAmbient * uBase + att * uLampAmbient * uMatAmbient * uBase;
    float k = dot(n, l);
    if (k > 0.0) {
        c += att * uLampDiffuse * uMatDiffuse * uBase * k;
        vec3 h = normalize(l + normalize(-p));
        c += att * uLampSpecular * uMatSpecular * pow(max(dot(n, h), 0.0), uShine);
    }
    return c;
}
void main() {
    vec4 p = uModelView * vec4(aPos, 1.0);
    vec3 n = normalize(uNormalMatrix * aNormal);
    vFront = light(p.xyz, n);
    vBack = light(p.xyz, -n);
    gl_Position = uProjection * p;
})t",
         R"t(#version 120
varying vec3 vFront;
varying vec3 vBack;
uniform float uAlpha;
void main() { gl_FragColor = vec4(gl_FrontFacing ? vFront : vBack, uAlpha); })t",
         {"uLampAmbient = \"lights[0].ambient_light\"", "uGlobal = \"ambient.light\"",
          "uKq = \"lights[0].coefficients[2]\"", "\"material.two_sided\" = 1"}},

        {"where a fragment is by its place on the screen",
         "",
         R"t(#version 330
layout(location=0) in vec3 p; layout(location=1) in vec3 n;
uniform mat4 objectToClip; uniform mat4 normalMat;
smooth out vec3 N;
void main() { N = (normalMat * vec4(n, 0.0)).xyz; gl_Position = objectToClip * vec4(p, 1.0); })t",
         R"t(#version 330
smooth in vec3 N;
uniform mat4 clipToWorld; uniform vec2 size; uniform vec3 eye;
uniform vec3 sun; uniform vec3 sunLight; uniform vec3 sky; uniform vec3 base; uniform vec3 spec; uniform float shin;
out vec4 c;
void main() {
    vec4 ndc = vec4(gl_FragCoord.xy / size * 2.0 - 1.0, gl_FragCoord.z * 2.0 - 1.0, 1.0);
    vec4 w = clipToWorld * ndc; vec3 pos = w.xyz / w.w;
    vec3 n = normalize(N), v = normalize(eye - pos), l = normalize(sun), h = normalize(v + l);
    float k = dot(n, l);
    vec3 lit = sky * base + sunLight * base * max(k, 0.0);
    lit += k > 0.0 ? sunLight * spec * pow(max(dot(n, h), 0.0), shin) : vec3(0.0);
    c = vec4(lit, 1.0);
})t",
         {"clipToWorld = \"view.clip_to_world\"", "size = \"view.size\"", "sun = \"lights[0].to_light\"",
          "sunLight = \"lights[0].light\""}},

        {"three lamps in arrays of constants",
         "",
         R"t(#version 330
in vec3 a_p; in vec3 a_n;
uniform mat4 u_m; uniform mat4 u_vp;
out vec3 w_p; out vec3 w_n;
void main() { vec4 w = u_m * vec4(a_p, 1); w_p = w.xyz; w_n = mat3(transpose(inverse(u_m))) * a_n; gl_Position = u_vp * w; })t",
         R"t(#version 330
in vec3 w_p; in vec3 w_n;
uniform vec3 u_eye; uniform vec3 u_paint;
out vec4 c;
const int COUNT = 3;
const vec3 PLACE[COUNT] = vec3[COUNT](vec3(-2.0, 2.5, 1.0), vec3(0.0, 3.0, 2.0), vec3(2.5, 2.0, -1.0));
const vec3 LIGHT[COUNT] = vec3[](vec3(2.0, 1.6, 1.0), vec3(1.0, 1.4, 2.0), vec3(2.0, 0.8, 0.4));
const float GLOSS = 24.0;
const vec3 SHINE = vec3(0.4);
void main() {
    vec3 n = normalize(w_n), v = normalize(u_eye - w_p), sum = 0.06 * u_paint;
    for (int i = 0; i < COUNT; ++i) {
        vec3 t = PLACE[i] - w_p; float d2 = dot(t, t); vec3 l = t * inversesqrt(d2);
        float k = max(dot(n, l), 0.0);
        sum += LIGHT[i] / d2 * (u_paint * k + (k > 0.0 ? SHINE * pow(max(dot(n, normalize(l + v)), 0.0), GLOSS) : vec3(0.0)));
    }
    c = vec4(sum, 1.0);
})t",
         {"lights = [3, 3]", "\"lights[1].position\" = [0, 3, 2]", "\"lights[2].light\" = [2, 0.8, 0.4]",
          "\"material.shininess\" = 24"}},

        {"constant buffers that are structures, rows by a directive, a normal turned to the eye, lit()",
         "",
         R"t(#pragma pack_matrix(row_major)
struct Lamp { float4 place; float4 light; };
struct Scene { float4x4 viewProjection; float3 eye; int count; float4 sky; Lamp lamps[4]; };
struct Thing { float4x4 world; float3x3 normals; float4 paint; float gloss; float3 shine; };
ConstantBuffer<Scene> scene : register(b0);
ConstantBuffer<Thing> thing : register(b1);
void quay_vertex(float3 position : POSITION, float3 normal : NORMAL, out float4 clip : SV_POSITION, out float3 worldPosition : WPOS, out float3 worldNormal : WNRM) {
    float4 w = mul(float4(position, 1.0), thing.world);
    worldPosition = w.xyz;
    worldNormal = mul(normal, thing.normals);
    clip = mul(w, scene.viewProjection);
}
float4 quay_fragment(float4 clip : SV_POSITION, float3 worldPosition : WPOS, float3 worldNormal : WNRM, bool front : SV_IsFrontFace) : SV_TARGET {
    float3 n = normalize(worldNormal);
    if (!front) n = -n;
    float3 v = normalize(scene.eye - worldPosition);
    float3 result = scene.sky.rgb * thing.paint.rgb;
    [unroll] for (int i = 0; i < 4; ++i) {
        if (i >= scene.count) break;
        float3 l; float a = 1;
        if (scene.lamps[i].place.w == 0) l = scene.lamps[i].place.xyz;
        else { float3 d = scene.lamps[i].place.xyz - worldPosition; a = rcp(dot(d, d)); l = normalize(d); }
        float4 k = lit(dot(n, l), dot(n, normalize(l + v)), thing.gloss);
        result += scene.lamps[i].light.rgb * a * (thing.paint.rgb * k.y + thing.shine * k.z);
    }
    return float4(result, thing.paint.a);
})t",
         "",
         {"scene.lamps[*].place\" = \"lights[*].place\"", "scene.lamps[*].light\" = \"lights[*].light\"",
          "thing.normals\" = \"object.normal_to_world.transposed\"", "\"material.two_sided\" = 1"}},

        {"bulbs that are switched on and two suns, in structures, for a display of 2.2",
         "",
         R"t(#version 330 core
layout (location = 0) in vec3 aPos;
layout (location = 1) in vec3 aNormal;
layout (location = 2) in vec2 aUV;
out VertexData { vec3 pos; vec3 normal; vec2 uv; } outData;
uniform mat4 model, view, projection;
void main() {
    outData.pos = vec3(model * vec4(aPos, 1.0));
    outData.normal = mat3(transpose(inverse(model))) * aNormal;
    outData.uv = aUV;
    gl_Position = projection * view * vec4(outData.pos, 1.0);
})t",
         R"t(#version 330 core
in VertexData { vec3 pos; vec3 normal; vec2 uv; } inData;
out vec4 color;
struct Bulb { bool on; vec3 where; vec3 hue; float brightness; float lin; float quad; };
struct Sky { vec3 from; vec3 hue; };
uniform Bulb bulbs[3];
uniform Sky suns[2];
uniform sampler2D diffuseMap;
uniform vec3 ambientLight;
uniform vec3 specularTint;
uniform float roughnessExponent;
uniform vec3 viewPosition;
vec3 lobe(vec3 n, vec3 l, vec3 v, vec3 albedo) {
    float ndl = dot(n, l);
    if (ndl <= 0.0) return vec3(0.0);
    vec3 h = normalize(l + v);
    return albedo * ndl + specularTint * pow(max(dot(n, h), 0.0), roughnessExponent);
}
void main() {
    vec3 albedo = texture(diffuseMap, inData.uv).rgb;
    vec3 n = normalize(inData.normal);
    vec3 v = normalize(viewPosition - inData.pos);
    vec3 c = ambientLight * albedo;
    for (int i = 0; i < 2; ++i) c += suns[i].hue * lobe(n, normalize(suns[i].from), v, albedo);
    for (int i = 0; i < 3; ++i) {
        if (!bulbs[i].on) continue;
        vec3 d = bulbs[i].where - inData.pos;
        float len = length(d);
        float att = bulbs[i].brightness / (1.0 + bulbs[i].lin * len + bulbs[i].quad * len * len);
        c += att * bulbs[i].hue * lobe(n, d / len, v, albedo);
    }
    color = vec4(pow(clamp(c, 0.0, 1.0), vec3(1.0 / 2.2)), 1.0);
})t",
         {"bulbs[*].on\" = 1", "bulbs[*].where\" = \"lights.point[*].position\"",
          "suns[*].from\" = \"lights.directional[*].to_light\"", "output = \"gamma\""}},

        {"a spot with an exponent, its angle in degrees",
         "",
         R"t(#version 120
attribute vec3 a_vertex;
attribute vec3 a_norm;
uniform mat4 u_modelMatrix, u_viewMatrix, u_projMatrix;
varying vec3 v_world;
varying vec3 v_n;
void main() {
    vec4 w = u_modelMatrix * vec4(a_vertex, 1.0);
    v_world = w.xyz;
    v_n = normalize(mat3(u_modelMatrix) * a_norm);
    gl_Position = u_projMatrix * u_viewMatrix * w;
})t",
         R"t(#version 120
varying vec3 v_world;
varying vec3 v_n;
uniform vec3 u_spotPos, u_spotDirection, u_spotColor;
uniform float u_spotCutoff;  // degrees
uniform float u_spotExponent;
uniform float u_attConstant, u_attLinear, u_attQuadratic;
uniform vec3 u_ambientColor, u_objectColor, u_camPos;
uniform float u_shininess, u_specularStrength;
void main() {
    vec3 toLight = u_spotPos - v_world;
    float d = length(toLight);
    vec3 L = toLight / d;
    float spotCos = dot(-L, normalize(u_spotDirection));
    float spot = spotCos < cos(radians(u_spotCutoff)) ? 0.0 : pow(spotCos, u_spotExponent);
    float att = spot / (u_attConstant + u_attLinear * d + u_attQuadratic * d * d);
    vec3 N = normalize(v_n);
    float nl = max(dot(N, L), 0.0);
    vec3 diff = u_objectColor * nl;
    vec3 spec = vec3(0.0);
    if (nl > 0.0) spec = vec3(u_specularStrength) * pow(max(dot(reflect(-L, N), normalize(u_camPos - v_world)), 0.0), u_shininess);
    gl_FragColor = vec4(u_ambientColor * u_objectColor + att * u_spotColor * (diff + spec), 1.0);
})t",
         {"u_spotCutoff = \"lights[0].outer_degrees\"", "u_spotExponent = \"lights[0].exponent\"",
          "u_attLinear = \"lights[0].coefficients[1]\""}},
    };
    return pairs;
}

} // namespace yurvo::testing
