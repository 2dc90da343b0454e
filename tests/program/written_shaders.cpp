#include "program/written_shaders.hpp"

namespace yurvo::testing {

namespace {

const char* const normals_in_the_world = R"t(#version 300 es
in vec4 a_position;
in vec3 a_normal;
uniform mat4 u_mvp;
uniform mat4 u_model;
out vec3 v_normal;
out vec3 v_world;
void main() {
  v_normal = mat3(transpose(inverse(u_model))) * a_normal;
  v_world = (u_model * a_position).xyz;
  gl_Position = u_mvp * a_position;
})t";

const std::vector<pair_of_stages> pairs{
    {"an old dialect in view space, a texture, the moon's direction to the light",
     "glsl",
     R"t(#version 120
attribute vec3 aPosition; attribute vec3 aNormal; attribute vec2 aTexCoord;
uniform mat4 uModelView; uniform mat4 uProjection; uniform mat3 uNormalMatrix;
varying vec3 normal; varying vec2 uv;
void main() { normal = uNormalMatrix * aNormal; uv = aTexCoord; gl_Position = uProjection * uModelView * vec4(aPosition, 1.0); })t",
     R"t(#version 120
uniform vec3 uMoonDirection; uniform vec3 uMoonColor; uniform vec3 uAmbient; uniform vec3 uBaseColor;
uniform sampler2D uPlanks; varying vec3 normal; varying vec2 uv;
void main() {
    float lambert = max(dot(normalize(normal), uMoonDirection), 0.0);
    gl_FragColor = vec4(texture2D(uPlanks, uv).rgb * uBaseColor * (uAmbient + uMoonColor * lambert), 1.0);
})t",
     {"uMoonDirection = \"lights[0].to_light", // in either space: the cosine is the same
      "uPlanks = \"material.texture\""}},

    {"lights of three kinds in a block, two numbers in one vector",
     "glsl",
     R"t(#version 450
layout(location = 0) in vec3 inPosition; layout(location = 1) in vec3 inNormal;
layout(std140, binding = 0) uniform Harbour { mat4 viewProjection; vec4 cameraPosition; };
layout(std140, binding = 1) uniform Hull { mat4 world; mat4 normalMatrix; vec4 baseColor; vec4 specularShininess; };
out vec3 place; out vec3 normal;
void main() { vec4 p = world * vec4(inPosition, 1.0); place = p.xyz; normal = mat3(normalMatrix) * inNormal; gl_Position = viewProjection * p; })t",
     R"t(#version 450
struct Lamp { vec4 positionRange; vec4 colorIntensity; vec4 directionKind; vec4 cone; };
layout(std140, binding = 0) uniform Harbour { mat4 viewProjection; vec4 cameraPosition; };
layout(std140, binding = 1) uniform Hull { mat4 world; mat4 normalMatrix; vec4 baseColor; vec4 specularShininess; };
layout(std140, binding = 2) uniform Lamps { vec4 ambient; ivec4 count; Lamp lamps[16]; };
in vec3 place; in vec3 normal; layout(location = 0) out vec4 color;
void main() {
    vec3 n = normalize(normal), v = normalize(cameraPosition.xyz - place);
    vec3 sum = ambient.rgb * baseColor.rgb;
    for (int i = 0; i < count.x; ++i) {
        vec3 l = normalize(-lamps[i].directionKind.xyz); float a = 1.0; int kind = int(lamps[i].directionKind.w + 0.5);
        if (kind > 0) {
            vec3 to = lamps[i].positionRange.xyz - place; float d = length(to); l = to / d;
            float q = d / lamps[i].positionRange.w; a = clamp(1.0 - q * q * q * q, 0.0, 1.0) / (d * d);
            if (kind == 2) a *= smoothstep(lamps[i].cone.y, lamps[i].cone.x, dot(-l, normalize(lamps[i].directionKind.xyz)));
        }
        float c = dot(n, l);
        if (c <= 0.0) continue;
        sum += a * lamps[i].colorIntensity.rgb * lamps[i].colorIntensity.a *
               (baseColor.rgb * c + specularShininess.rgb * pow(max(dot(n, normalize(l + v)), 0.0), specularShininess.a));
    }
    color = vec4(sum, baseColor.a);
})t",
     {"positionRange\" = [\"lights[*].position\", \"lights[*].range\"]",
      "directionKind\" = [\"lights[*].shines\", \"lights[*].kind\"]",
      "specularShininess = [\"material.specular\", \"material.shininess\"]"}},

    {"a browser's lanterns, counted, for a display of 2.2",
     "glsl-es",
     R"t(#version 300 es
in vec3 a_position; in vec3 a_normal;
uniform mat4 u_world; uniform mat4 u_worldInverseTranspose; uniform mat4 u_viewProjection;
out vec3 v_place; out vec3 v_normal;
void main() { vec4 p = u_world * vec4(a_position, 1.0); v_place = p.xyz; v_normal = mat3(u_worldInverseTranspose) * a_normal; gl_Position = u_viewProjection * p; })t",
     R"t(#version 300 es
precision highp float;
struct Lantern { vec3 position; vec3 color; float power; };
uniform Lantern u_lanterns[4]; uniform int u_lanternCount; uniform vec3 u_eye; uniform vec3 u_diffuseColor;
uniform vec3 u_specularColor; uniform float u_shininess; uniform vec3 u_ambient;
in vec3 v_place; in vec3 v_normal; out vec4 color;
void main() {
    vec3 n = normalize(v_normal), v = normalize(u_eye - v_place), sum = u_ambient * u_diffuseColor;
    for (int i = 0; i < 4; ++i) {
        if (i >= u_lanternCount) break;
        vec3 to = u_lanterns[i].position - v_place; vec3 l = normalize(to); float c = max(dot(n, l), 0.0);
        float s = c > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), u_shininess) : 0.0;
        sum += u_lanterns[i].color * u_lanterns[i].power / dot(to, to) * (c * u_diffuseColor + s * u_specularColor);
    }
    color = vec4(pow(clamp(sum, 0.0, 1.0), vec3(1.0 / 2.2)), 1.0);
})t",
     {"output = \"gamma\"", "u_eye = \"view.eye\""}},

    {"push constants, a texture and its sampler apart, a colour with its strength",
     "glsl-vulkan",
     R"t(#version 450
layout(location = 0) in vec3 inPosition; layout(location = 1) in vec3 inNormal;
layout(set = 0, binding = 0) uniform Harbour { mat4 projection; mat4 view; vec4 ambientColor; vec4 lampPosition; vec4 lampColor; } harbour;
layout(push_constant) uniform Push { mat4 model; mat4 normalMatrix; vec4 base; } push;
layout(location = 0) out vec3 place; layout(location = 1) out vec3 normal;
void main() { vec4 p = push.model * vec4(inPosition, 1.0); place = p.xyz; normal = normalize(mat3(push.normalMatrix) * inNormal); gl_Position = harbour.projection * harbour.view * p; })t",
     R"t(#version 450
layout(set = 0, binding = 0) uniform Harbour { mat4 projection; mat4 view; vec4 ambientColor; vec4 lampPosition; vec4 lampColor; } harbour;
layout(push_constant) uniform Push { mat4 model; mat4 normalMatrix; vec4 base; } push;
layout(location = 0) in vec3 place; layout(location = 1) in vec3 normal; layout(location = 0) out vec4 color;
void main() {
    vec3 to = harbour.lampPosition.xyz - place;
    vec3 light = harbour.lampColor.rgb * harbour.lampColor.w / dot(to, to);
    vec3 sum = harbour.ambientColor.rgb * harbour.ambientColor.w + light * max(dot(normalize(normal), normalize(to)), 0.0);
    color = vec4(sum * push.base.rgb, 1.0);
})t",
     {"push.base\" = \"material.base\"", "Harbour.lampColor\" = "}},

    {"a searchlight in view space, lit from structures",
     "glsl",
     R"t(#version 410
layout(location = 0) in vec3 position; layout(location = 1) in vec3 normal;
uniform mat4 model; uniform mat4 view; uniform mat4 projection;
out vec3 seen; out vec3 turned;
void main() { seen = vec3(view * model * vec4(position, 1.0)); turned = mat3(transpose(inverse(view * model))) * normal; gl_Position = projection * vec4(seen, 1.0); })t",
     R"t(#version 410
struct Searchlight { vec3 position; vec3 direction; float innerCos; float outerCos; vec3 color; float constant; float linear; float quadratic; };
struct Paint { vec3 color; vec3 specular; float shininess; };
uniform Searchlight searchlight; uniform Paint material; uniform vec3 ambientLight;
in vec3 seen; in vec3 turned; out vec4 result;
void main() {
    vec3 n = normalize(turned), to = searchlight.position - seen, v = normalize(-seen); float d = length(to); vec3 l = to / d;
    float c = max(dot(n, l), 0.0); float s = c > 0.0 ? pow(max(dot(reflect(-l, n), v), 0.0), material.shininess) : 0.0;
    float cone = clamp((dot(l, normalize(-searchlight.direction)) - searchlight.outerCos) / (searchlight.innerCos - searchlight.outerCos), 0.0, 1.0);
    float a = cone / (searchlight.constant + searchlight.linear * d + searchlight.quadratic * d * d);
    result = vec4(ambientLight * material.color + a * searchlight.color * (c * material.color + s * material.specular), 1.0);
})t",
     {"searchlight.position\" = \"lights[0].position_view\"", "penumbra = [\"ramp\"]", "model = \"phong\""}},

    {"a wrapped cosine, squared, and ambient light as a number in the source",
     "glsl",
     R"t(#version 330
layout(location = 0) in vec3 aPosition; layout(location = 1) in vec3 aNormal;
uniform mat4 uModel, uView, uProjection; out vec3 normal;
void main() { normal = mat3(transpose(inverse(uModel))) * aNormal; gl_Position = uProjection * uView * uModel * vec4(aPosition, 1.0); })t",
     R"t(#version 330
in vec3 normal; out vec4 color; uniform vec3 uMoonDirection; uniform vec3 uMoonColor; uniform vec3 uColor;
void main() {
    float wrapped = dot(normalize(normal), normalize(uMoonDirection)) * 0.5 + 0.5;
    color = vec4(uColor * (vec3(0.05) + uMoonColor * wrapped * wrapped), 1.0);
})t",
     {"diffuse = \"(dot(n, l) * 0.5 + 0.5) * (dot(n, l) * 0.5 + 0.5)\"", "\"ambient.light\" = "}},

    {"per vertex, a light with an ambient, a diffuse and a specular colour",
     "glsl",
     R"t(#version 150
in vec3 position; in vec3 normal; out vec3 lit;
struct Lamp { vec4 position; vec3 ambient; vec3 diffuse; vec3 specular; }; uniform Lamp lamp;
struct Paint { vec3 ambient; vec3 diffuse; vec3 specular; float shininess; }; uniform Paint material;
uniform mat4 modelView; uniform mat3 normalMatrix; uniform mat4 modelViewProjection;
void main() {
    vec3 n = normalize(normalMatrix * normal); vec4 p = modelView * vec4(position, 1.0);
    vec3 l = normalize(vec3(lamp.position - p)); vec3 v = normalize(-p.xyz); float c = max(dot(l, n), 0.0);
    lit = lamp.ambient * material.ambient + lamp.diffuse * material.diffuse * c;
    if (c > 0.0) lit += lamp.specular * material.specular * pow(max(dot(reflect(-l, n), v), 0.0), material.shininess);
    gl_Position = modelViewProjection * vec4(position, 1.0);
})t",
     "#version 150\nin vec3 lit; out vec4 color;\nvoid main() { color = vec4(lit, 1.0); }\n",
     {"rate = \"vertex\"", "falloff = [\"none\"]", "without = [\"ambient\"]"}},

    {"another shading language, constant buffers, a falloff to a range",
     "hlsl",
     R"t(
cbuffer PerFrame { float4x4 ViewProjection; float3 CameraPosition; uint LampCount; float4 AmbientLight; };
cbuffer PerObject { float4x4 World; float4x4 WorldInverseTranspose; float4 DiffuseColor; float4 SpecularColor; float SpecularPower; };
struct Lamp { float3 Position; float Range; float3 Color; float Intensity; };
cbuffer Lamps { Lamp All[8]; };
struct Corner { float3 Position : POSITION; float3 Normal : NORMAL; };
struct Seen { float4 Position : SV_POSITION; float3 Place : TEXCOORD0; float3 Normal : NORMAL; };
Seen quay_vertex(Corner input) {
    Seen o; float4 p = mul(World, float4(input.Position, 1.0f)); o.Place = p.xyz;
    o.Normal = mul((float3x3)WorldInverseTranspose, input.Normal); o.Position = mul(ViewProjection, p); return o;
}
float4 quay_fragment(Seen input) : SV_TARGET {
    float3 n = normalize(input.Normal), v = normalize(CameraPosition - input.Place), sum = AmbientLight.rgb * DiffuseColor.rgb;
    for (uint i = 0; i < LampCount; ++i) {
        float3 l = All[i].Position - input.Place; float d = length(l); l /= d; float c = saturate(dot(n, l));
        float s = c > 0 ? pow(saturate(dot(n, normalize(l + v))), SpecularPower) : 0;
        sum += All[i].Color * All[i].Intensity * saturate(1.0f - d / All[i].Range) * (DiffuseColor.rgb * c + SpecularColor.rgb * s);
    }
    return float4(sum, DiffuseColor.a);
})t",
     "",
     {"PerObject.WorldInverseTranspose\" = \"object.normal_to_world\"", "falloff = [\"linear\"]"}},
    {"short names, a place whose fourth number says whether it is one, a cone of 180 degrees that is none",
     "",
     R"t(#version 330 core
layout(location = 0) in vec3 inPos; layout(location = 1) in vec3 inNrm;
uniform mat4 MV, P; uniform mat3 NM; out vec3 seen; out vec3 turned;
void main() { vec4 e = MV * vec4(inPos, 1.0); seen = e.xyz; turned = NM * inNrm; gl_Position = P * e; })t",
     R"t(#version 330 core
struct Source { vec4 posEye; vec3 amb, dif, spc; vec3 dirEye; float cutoffDeg; float spotExp; float k0, k1, k2; };
struct Paint { vec3 amb, dif, spc, emi; float shin; };
uniform Source L[4]; uniform int nLights; uniform Paint mat; uniform vec3 globalAmb;
in vec3 seen; in vec3 turned; out vec4 o;
void main() {
    vec3 n = normalize(turned), v = normalize(-seen), a = globalAmb, d = vec3(0), s = vec3(0);
    for (int i = 0; i < nLights; ++i) {
        vec3 l; float att = 1.0;
        if (L[i].posEye.w == 0.0) l = normalize(L[i].posEye.xyz);
        else {
            vec3 to = L[i].posEye.xyz / L[i].posEye.w - seen; float far = length(to); l = to / far;
            att = 1.0 / (L[i].k0 + far * (L[i].k1 + far * L[i].k2));
            if (L[i].cutoffDeg < 180.0) {
                float c = dot(-l, normalize(L[i].dirEye));
                att *= c < cos(radians(L[i].cutoffDeg)) ? 0.0 : pow(c, L[i].spotExp);
            }
        }
        float nl = max(0.0, dot(n, l)); float sp = 0.0;
        if (nl > 0.0) sp = pow(max(0.0, dot(n, normalize(l + v))), mat.shin);
        a += L[i].amb * att; d += L[i].dif * att * nl; s += L[i].spc * att * sp;
    }
    o = vec4(mat.emi + a * mat.amb + d * mat.dif + s * mat.spc, 1.0);
})t",
     {"language = \"glsl\"", "L[*].posEye\" = \"lights[*].place_view\"", "NM = \"object.normal_to_view\"",
      "L[*].cutoffDeg\" = \"= lights[*].kind == 2.0 ? lights[*].outer_degrees : 180.0\"",
      "mat.spc\" = \"material.specular\""}},

    {"storage blocks of two kinds of lights, a window over the inverse square, numbers in one vector",
     "",
     R"t(#version 450
layout(location = 0) in vec3 aPosition; layout(location = 1) in vec3 aNormal;
layout(std140, binding = 0) uniform Camera { mat4 viewProj; vec4 camPos; };
layout(std140, binding = 1) uniform Draw { mat4 model; mat4 modelIT; vec4 baseColor; vec4 params; };
layout(location = 0) out VS { vec3 wp; vec3 wn; } vs;
void main() { vec4 w = model * vec4(aPosition, 1); vs.wp = w.xyz; vs.wn = mat3(modelIT) * aNormal; gl_Position = viewProj * w; })t",
     R"t(#version 450
layout(std140, binding = 0) uniform Camera { mat4 viewProj; vec4 camPos; };
layout(std140, binding = 1) uniform Draw { mat4 model; mat4 modelIT; vec4 baseColor; vec4 params; }; // x: shininess, y: specular
struct PointLight { vec3 pos; float radius; vec3 color; float power; };
struct SpotLight { vec3 pos; float range; vec3 color; float power; vec3 dir; float cosInner; float cosOuter; };
layout(std430, binding = 2) readonly buffer PointLights { PointLight points[]; };
layout(std430, binding = 3) readonly buffer SpotLights { SpotLight spots[]; };
uniform uint numPoints, numSpots; uniform vec3 ambient;
layout(location = 0) in VS { vec3 wp; vec3 wn; } vs; layout(location = 0) out vec4 outColor;
float window(float d, float r) { float x = d / r; x *= x; x *= x; return pow(clamp(1.0 - x, 0.0, 1.0), 2.0); }
vec3 one(vec3 n, vec3 v, vec3 l, vec3 radiance) {
    float nl = clamp(dot(n, l), 0.0, 1.0);
    float spec = nl > 0.0 ? pow(clamp(dot(n, normalize(l + v)), 0.0, 1.0), params.x) * params.y : 0.0;
    return radiance * (baseColor.rgb * nl + spec);
}
void main() {
    vec3 n = normalize(vs.wn), v = normalize(camPos.xyz - vs.wp), sum = ambient * baseColor.rgb;
    for (uint i = 0u; i < numPoints; ++i) {
        vec3 d = points[i].pos - vs.wp; float len = length(d);
        sum += one(n, v, d / len, points[i].color * points[i].power * window(len, points[i].radius) / (len * len));
    }
    for (uint i = 0u; i < numSpots; ++i) {
        vec3 d = spots[i].pos - vs.wp; float len = length(d); vec3 l = d / len;
        float s = smoothstep(spots[i].cosOuter, spots[i].cosInner, dot(-l, spots[i].dir));
        sum += one(n, v, l, spots[i].color * spots[i].power * s * window(len, spots[i].range) / (len * len));
    }
    outColor = vec4(sum, baseColor.a);
})t",
     // Both kinds are claimed, though one alone had made it right first.
     {"params = [\"material.shininess\", \"material.specular[0]\", 1, 1]",
      "modelIT = \"object.normal_to_world\"", "spots[*].dir\" = \"lights.spot[*].axis\"",
      "0.0, 1.0), 2.0) / (d * d)\" # as the text has it"}},

    {"a browser's first dialect, which no version names",
     "",
     R"t(attribute vec3 position; attribute vec3 normal;
uniform mat4 modelMatrix, viewMatrix, projectionMatrix; uniform mat3 normalMatrixWorld; varying vec3 vN; varying vec3 vW;
void main() { vW = (modelMatrix * vec4(position, 1.)).xyz; vN = normalMatrixWorld * normal; gl_Position = projectionMatrix * viewMatrix * vec4(vW, 1.); })t",
     R"t(precision highp float;
varying vec3 vN; varying vec3 vW; uniform vec3 moonDir, moonColor, skyAmbient, albedo, eyePos; uniform float gloss, ks;
void main() {
    vec3 n = normalize(vN), v = normalize(eyePos - vW), l = normalize(-moonDir), r = 2. * dot(n, l) * n - l;
    float s = pow(max(dot(r, v), 0.), gloss) * step(0., dot(n, l));
    gl_FragColor = vec4(skyAmbient * albedo + moonColor * (albedo * max(dot(n, l), 0.) + ks * s), 1.);
})t",
     {"language = \"glsl-es\"", "model = \"phong\"", "moonDir = \"lights[0].shines\""}},

    {"rows that are multiplied from the left, an exponent in a colour's fourth number",
     "",
     R"t(cbuffer cbPerObject : register(b0) { row_major float4x4 gWorld; row_major float4x4 gWorldInvTranspose; row_major float4x4 gWorldViewProj; float4 gMatAmbient; float4 gMatDiffuse; float4 gMatSpecular; };
cbuffer cbPerFrame : register(b1) { float4 gMoonDir; float4 gMoonAmbient; float4 gMoonDiffuse; float4 gMoonSpecular; float3 gEyePosW; float pad; };
struct VIn { float3 PosL : POSITION; float3 NormalL : NORMAL; };
struct VOut { float4 PosH : SV_POSITION; float3 PosW : POSITION0; float3 NormalW : NORMAL; };
VOut quay_vertex(VIn v) { VOut o; o.PosW = mul(float4(v.PosL, 1.0f), gWorld).xyz; o.NormalW = mul(v.NormalL, (float3x3)gWorldInvTranspose); o.PosH = mul(float4(v.PosL, 1.0f), gWorldViewProj); return o; }
void Directional(float3 n, float3 toEye, out float4 a, out float4 d, out float4 s) {
  a = 0; d = 0; s = 0;
  float3 lv = -gMoonDir.xyz; a = gMatAmbient * gMoonAmbient;
  float k = dot(lv, n);
  [flatten] if (k > 0.0f) { float3 v = reflect(-lv, n); float f = pow(max(dot(v, toEye), 0.0f), gMatSpecular.w); d = k * gMatDiffuse * gMoonDiffuse; s = f * gMatSpecular * gMoonSpecular; }
}
float4 quay_fragment(VOut i) : SV_Target { i.NormalW = normalize(i.NormalW); float3 toEye = normalize(gEyePosW - i.PosW); float4 a, d, s; Directional(i.NormalW, toEye, a, d, s); float4 c = a + d + s; c.a = gMatDiffuse.a; return c; })t",
     "",
     {"language = \"hlsl\"", "gWorldViewProj\" = \"object.to_clip.transposed\"",
      "gMatSpecular\" = [\"material.specular\", \"material.shininess\"]", "gMoonDir\" = \"lights[0].axis\""}},

    {"places with their reach, a specular factor as a number among others",
     "",
     R"t(#version 450
layout(push_constant) uniform PC { mat4 model; vec4 tint; } pc;
layout(set=0, binding=0) uniform Scene { mat4 view; mat4 proj; vec4 eye; vec4 lightPos[4]; vec4 lightCol[4]; ivec4 lightCount; vec4 ambientTerm; float shininess; } scene;
layout(location=0) in vec3 inPos; layout(location=1) in vec3 inNormal;
layout(location=0) out vec3 outWorld; layout(location=1) out vec3 outN;
void main(){ vec4 w = pc.model*vec4(inPos,1.0); outWorld=w.xyz; outN = transpose(inverse(mat3(pc.model)))*inNormal; gl_Position = scene.proj*scene.view*w; })t",
     R"t(#version 450
layout(push_constant) uniform PC { mat4 model; vec4 tint; } pc;
layout(set=0, binding=0) uniform Scene { mat4 view; mat4 proj; vec4 eye; vec4 lightPos[4]; vec4 lightCol[4]; ivec4 lightCount; vec4 ambientTerm; float shininess; } scene;
layout(location=0) in vec3 w; layout(location=1) in vec3 n0; layout(location=0) out vec4 o;
void main(){
  vec3 N=normalize(n0), V=normalize(scene.eye.xyz-w); vec3 c = scene.ambientTerm.rgb*pc.tint.rgb;
  for(int i=0;i<scene.lightCount.x;i++){
    vec3 L = scene.lightPos[i].xyz - w; float d2 = dot(L,L); L *= inversesqrt(d2);
    float att = max(1.0 - sqrt(d2)/scene.lightPos[i].w, 0.0);
    float nl = max(dot(N,L),0.0);
    vec3 H = normalize(L+V);
    float s = nl>0.0 ? pow(max(dot(N,H),0.0), scene.shininess) : 0.0;
    c += scene.lightCol[i].rgb * scene.lightCol[i].a * att * (nl*pc.tint.rgb + vec3(0.3)*s);
  }
  o = vec4(c, pc.tint.a);
})t",
     {"language = \"glsl-vulkan\"", "lightPos[*]\" = [\"lights[*].position\", \"lights[*].range\"]",
      "\"material.specular\" = 0.3 #"}},

    {"a colour without alpha, normals that only even scales keep",
     "",
     R"t(#version 330
layout(location=0) in vec4 corner; layout(location=1) in vec3 facing;
out vec3 placeInWorld; out vec3 facingInView; out vec3 toEyeInView; out vec3 toLampInView;
uniform mat4 MVP; uniform mat4 V; uniform mat4 M; uniform vec3 lampPlaceInWorld;
void main(){
 gl_Position = MVP*corner;
 placeInWorld = (M*corner).xyz;
 vec3 p = (V*M*corner).xyz;
 toEyeInView = vec3(0,0,0)-p;
 vec3 lp = (V*vec4(lampPlaceInWorld,1)).xyz;
 toLampInView = lp + toEyeInView;
 facingInView = (V*M*vec4(facing,0)).xyz;
})t",
     R"t(#version 330
in vec3 placeInWorld; in vec3 facingInView; in vec3 toEyeInView; in vec3 toLampInView;
out vec3 color;
uniform vec3 lampPlaceInWorld; uniform vec3 lampColor; uniform float lampPower; uniform vec3 paintColor;
void main(){
 vec3 ambientPart = vec3(0.1)*paintColor;
 vec3 specularPart = vec3(0.3);
 float distance = length(lampPlaceInWorld - placeInWorld);
 vec3 n = normalize(facingInView); vec3 l = normalize(toLampInView);
 float cosTheta = clamp(dot(n,l),0,1);
 vec3 E = normalize(toEyeInView); vec3 R = reflect(-l,n);
 float cosAlpha = clamp(dot(E,R),0,1);
 float gate = dot(n,l) > 0 ? 1.0 : 0.0;
 color = ambientPart + paintColor*lampColor*lampPower*cosTheta/(distance*distance) + specularPart*lampColor*lampPower*gate*pow(cosAlpha,5)/(distance*distance);
})t",
     {"scale = \"uniform\"", "\"ambient.light\" = 0.1", "\"material.specular\" = 0.3",
      "\"material.shininess\" = 5"}},

    {"a texture and colours of vertices in the place of a base colour, an exponent that only its use tells",
     "",
     R"t(#version 300 es
in vec3 a_pos; in vec3 a_nrm; in vec3 a_color; in vec2 a_uv;
uniform mat4 u_mvp; uniform mat4 u_world; uniform mat3 u_nrmMat;
out vec3 v_w; out vec3 v_n; out vec3 v_c; out vec2 v_uv;
void main(){ v_w=(u_world*vec4(a_pos,1.0)).xyz; v_n=u_nrmMat*a_nrm; v_c=a_color; v_uv=a_uv; gl_Position=u_mvp*vec4(a_pos,1.0); })t",
     R"t(#version 300 es
precision highp float;
in vec3 v_w; in vec3 v_n; in vec3 v_c; in vec2 v_uv; out vec4 frag;
uniform sampler2D u_albedoMap; uniform vec3 u_lightPos; uniform vec4 u_lightColorIntensity; uniform vec3 u_camPos; uniform vec3 u_ambientColor; uniform float u_ambientStrength, u_specularStrength, u_roughExp;
void main(){
 vec3 base = texture(u_albedoMap, v_uv).rgb*v_c;
 vec3 N=normalize(v_n); vec3 Ld=u_lightPos-v_w; float d=length(Ld); vec3 L=Ld/d; vec3 V=normalize(u_camPos-v_w);
 vec3 rad = u_lightColorIntensity.rgb*u_lightColorIntensity.w/(d*d);
 float nl=max(dot(N,L),0.0); float sp = nl>0.0? pow(max(dot(N,normalize(L+V)),0.0),u_roughExp):0.0;
 vec3 c = base*(u_ambientColor*u_ambientStrength + rad*nl) + rad*sp*u_specularStrength;
 frag = vec4(mix(12.92*c, 1.055*pow(max(c,vec3(1e-6)),vec3(1.0/2.4))-0.055, step(0.0031308,c)),1.0);
})t",
     {"without = [\"material.base\"]",
      "u_lightColorIntensity = [\"lights[0].color\", \"lights[0].intensity\"]",
      "u_ambientColor = \"ambient.color\"", "u_roughExp = \"material.shininess\"",
      "u_camPos = \"view.eye\""}},

    {"per vertex, the moon and two lamps that letters number",
     "",
     R"t(#version 150
in vec3 pos; in vec3 nrm; out vec3 lit;
uniform mat4 mvp, world; uniform mat3 nmat;
struct DirLight { vec3 dir; vec3 col; }; struct PtLight { vec3 pos; vec3 col; float lin; float quad; };
uniform DirLight moonlight; uniform PtLight lampA, lampB; uniform vec3 cam; uniform vec3 diffuseCol; uniform vec3 specCol; uniform float specExp; uniform vec3 amb;
vec3 shade(vec3 N, vec3 V, vec3 L, vec3 c){ float d = dot(N,L); if (d <= 0.0) return vec3(0); vec3 H = normalize(L+V); return c*(diffuseCol*d + specCol*pow(max(dot(N,H),0.0), specExp)); }
vec3 pt(PtLight p, vec3 w, vec3 N, vec3 V){ vec3 t = p.pos-w; float d = length(t); return shade(N,V,t/d,p.col)/(1.0+p.lin*d+p.quad*d*d); }
void main(){ vec3 w=(world*vec4(pos,1)).xyz; vec3 N=normalize(nmat*nrm); vec3 V=normalize(cam-w);
 lit = amb*diffuseCol + shade(N,V,-normalize(moonlight.dir),moonlight.col) + pt(lampA,w,N,V) + pt(lampB,w,N,V); gl_Position=mvp*vec4(pos,1); })t",
     R"t(#version 150
in vec3 lit; out vec4 fc;
void main(){ fc = vec4(lit,1.0); })t",
     {"rate = \"vertex\"", "lampA.pos\" = \"lights.point[0].position\"",
      "lampB.pos\" = \"lights.point[1].position\"", "specExp = \"material.shininess\"",
      "falloff = [\"polynomial\"]"}},

    {"a moon and cones with words for their angles and their reach, each told from the other by its struct",
     "",
     R"t(attribute vec3 position;
attribute vec3 normal;
uniform mat4 uModelView;
uniform mat4 uProjection;
uniform mat3 uNormal;
varying vec3 vN;
varying vec3 vP;
void main() {
  vec4 p = uModelView * vec4(position, 1.0);
  vP = p.xyz;
  vN = uNormal * normal;
  gl_Position = uProjection * p;
})t",
     R"t(precision highp float;
#define NUM_DIR 2
#define NUM_SPOT 2
uniform vec3 uAmbientColor;
uniform vec3 uDiffuseColor;
uniform vec3 uSpecularColor;
uniform float uShininess;
uniform float uOpacity;
struct DirLight { vec3 direction; vec3 color; };
struct SpotLight { vec3 position; vec3 direction; vec3 color; float distance; float coneCos; float penumbraCos; };
uniform DirLight uDirLights[NUM_DIR];
uniform SpotLight uSpotLights[NUM_SPOT];
varying vec3 vN;
varying vec3 vP;
void addLight(vec3 n, vec3 v, vec3 l, vec3 c, inout vec3 diff, inout vec3 spec) {
  float d = clamp(dot(n, l), 0.0, 1.0);
  diff += c * d;
  vec3 h = normalize(l + v);
  float s = pow(clamp(dot(n, h), 0.0, 1.0), uShininess);
  spec += d > 0.0 ? c * s : vec3(0.0);
}
void main() {
  vec3 n = normalize(vN);
  vec3 v = normalize(-vP);
  vec3 diff = vec3(0.0), spec = vec3(0.0);
  for (int i = 0; i < NUM_DIR; i++)
    addLight(n, v, normalize(uDirLights[i].direction), uDirLights[i].color, diff, spec);
  for (int i = 0; i < NUM_SPOT; i++) {
    vec3 lv = uSpotLights[i].position - vP;
    float r = length(lv);
    vec3 l = lv / r;
    float cosA = dot(l, uSpotLights[i].direction);
    float spot = smoothstep(uSpotLights[i].coneCos, uSpotLights[i].penumbraCos, cosA);
    float fall = clamp(1.0 - r / uSpotLights[i].distance, 0.0, 1.0);
    addLight(n, v, l, uSpotLights[i].color * spot * fall, diff, spec);
  }
  gl_FragColor = vec4(uAmbientColor * uDiffuseColor + uDiffuseColor * diff + uSpecularColor * spec, uOpacity);
})t",
     {"uSpotLights[*].coneCos\" = \"lights.spot[*].cos_outer\"",
      "uSpotLights[*].penumbraCos\" = \"lights.spot[*].cos_inner\"",
      "uSpotLights[*].distance\" = \"lights.spot[*].range\"", "falloff = [\"linear\"]"}},

    {"another shading language, one lamp whose cone is a power that nothing cuts off",
     "",
     R"t(cbuffer PerFrame : register(b0)
{
    float4x4 gViewProj;
    float3 gEyePosW;
    float pad0;
};
cbuffer PerObject : register(b1)
{
    float4x4 gWorld;
    float4x4 gWorldInvTranspose;
    float4 gDiffuseAlbedo;
    float3 gSpecularAlbedo;
    float gSpecPower;
};
struct SpotLamp
{
    float3 Position;  float Range;
    float3 Direction; float Spot;
    float3 Color;     float Intensity;
};
cbuffer Lamps : register(b2)
{
    SpotLamp gLamp;
    float3 gAmbient;
    float pad1;
};
struct VSIn { float3 PosL : POSITION; float3 NormalL : NORMAL; };
struct VSOut { float4 PosH : SV_POSITION; float3 PosW : TEXCOORD0; float3 NormalW : TEXCOORD1; };
VSOut quay_vertex(VSIn vin)
{
    VSOut o;
    float4 posW = mul(gWorld, float4(vin.PosL, 1.0f));
    o.PosW = posW.xyz;
    o.NormalW = mul((float3x3)gWorldInvTranspose, vin.NormalL);
    o.PosH = mul(gViewProj, posW);
    return o;
}
float4 quay_fragment(VSOut pin) : SV_TARGET
{
    float3 n = normalize(pin.NormalW);
    float3 toEye = normalize(gEyePosW - pin.PosW);
    float3 lightVec = gLamp.Position - pin.PosW;
    float d = length(lightVec);
    float3 ambient = gAmbient * gDiffuseAlbedo.rgb;
    float3 lit = 0;
    if (d < gLamp.Range)
    {
        lightVec /= d;
        float diffuseFactor = dot(lightVec, n);
        [flatten]
        if (diffuseFactor > 0.0f)
        {
            float3 h = normalize(lightVec + toEye);
            float specFactor = pow(max(dot(h, n), 0.0f), gSpecPower);
            float spot = pow(max(dot(-lightVec, gLamp.Direction), 0.0f), gLamp.Spot);
            float att = spot * saturate(1.0f - d / gLamp.Range);
            lit = gLamp.Color * gLamp.Intensity * att * (diffuseFactor * gDiffuseAlbedo.rgb + specFactor * gSpecularAlbedo);
        }
    }
    return float4(ambient + lit, gDiffuseAlbedo.a);
})t",
     "",
     {"gLamp.Direction\" = \"lights[0].axis\"", "gLamp.Spot\" = \"lights[0].exponent\"",
      "penumbra = [\"power\"]", "\"lights[*].outer_degrees\" = 90"}},

    {"lights of three kinds with parts of their own, a map of colours and one of highlights",
     "",
     R"t(#version 330 core
layout (location = 0) in vec3 aPos;
layout (location = 1) in vec3 aNormal;
layout (location = 2) in vec2 aTexCoords;
out vec3 FragPos;
out vec3 Normal;
out vec2 TexCoords;
uniform mat4 model;
uniform mat4 view;
uniform mat4 projection;
void main()
{
    FragPos = vec3(model * vec4(aPos, 1.0));
    Normal = mat3(transpose(inverse(model))) * aNormal;
    TexCoords = aTexCoords;
    gl_Position = projection * view * vec4(FragPos, 1.0);
})t",
     R"t(#version 330 core
out vec4 FragColor;
struct Surface { sampler2D albedoMap; sampler2D specularMap; float gloss; };
struct Moon { vec3 direction; vec3 ambient; vec3 diffuse; vec3 specular; };
struct Lantern { vec3 position; float constant; float linear; float quadratic; vec3 ambient; vec3 diffuse; vec3 specular; };
struct Torch { vec3 position; vec3 direction; float cutOff; float outerCutOff; float constant; float linear; float quadratic; vec3 ambient; vec3 diffuse; vec3 specular; };
#define NR_LANTERNS 4
in vec3 FragPos;
in vec3 Normal;
in vec2 TexCoords;
uniform vec3 viewPos;
uniform Moon moon;
uniform Lantern lanterns[NR_LANTERNS];
uniform Torch torch;
uniform Surface surface;
float Shine(vec3 normal, vec3 lightDir, vec3 viewDir)
{
    if (dot(normal, lightDir) <= 0.0) return 0.0;
    vec3 reflectDir = reflect(-lightDir, normal);
    return pow(max(dot(viewDir, reflectDir), 0.0), surface.gloss);
}
vec3 CalcMoon(Moon light, vec3 normal, vec3 viewDir)
{
    vec3 lightDir = normalize(-light.direction);
    float diff = max(dot(normal, lightDir), 0.0);
    vec3 ambient = light.ambient * vec3(texture(surface.albedoMap, TexCoords));
    vec3 diffuse = light.diffuse * diff * vec3(texture(surface.albedoMap, TexCoords));
    vec3 specular = light.specular * Shine(normal, lightDir, viewDir) * vec3(texture(surface.specularMap, TexCoords));
    return ambient + diffuse + specular;
}
vec3 CalcLantern(Lantern light, vec3 normal, vec3 fragPos, vec3 viewDir)
{
    vec3 lightDir = normalize(light.position - fragPos);
    float diff = max(dot(normal, lightDir), 0.0);
    float distance = length(light.position - fragPos);
    float attenuation = 1.0 / (light.constant + light.linear * distance + light.quadratic * (distance * distance));
    vec3 ambient = light.ambient * vec3(texture(surface.albedoMap, TexCoords)) * attenuation;
    vec3 diffuse = light.diffuse * diff * vec3(texture(surface.albedoMap, TexCoords)) * attenuation;
    vec3 specular = light.specular * Shine(normal, lightDir, viewDir) * vec3(texture(surface.specularMap, TexCoords)) * attenuation;
    return ambient + diffuse + specular;
}
vec3 CalcTorch(Torch light, vec3 normal, vec3 fragPos, vec3 viewDir)
{
    vec3 lightDir = normalize(light.position - fragPos);
    float diff = max(dot(normal, lightDir), 0.0);
    float distance = length(light.position - fragPos);
    float attenuation = 1.0 / (light.constant + light.linear * distance + light.quadratic * (distance * distance));
    float theta = dot(lightDir, normalize(-light.direction));
    float epsilon = light.cutOff - light.outerCutOff;
    float intensity = clamp((theta - light.outerCutOff) / epsilon, 0.0, 1.0);
    vec3 ambient = light.ambient * vec3(texture(surface.albedoMap, TexCoords)) * attenuation * intensity;
    vec3 diffuse = light.diffuse * diff * vec3(texture(surface.albedoMap, TexCoords)) * attenuation * intensity;
    vec3 specular = light.specular * Shine(normal, lightDir, viewDir) * vec3(texture(surface.specularMap, TexCoords)) * attenuation * intensity;
    return ambient + diffuse + specular;
}
void main()
{
    vec3 norm = normalize(Normal);
    vec3 viewDir = normalize(viewPos - FragPos);
    vec3 result = CalcMoon(moon, norm, viewDir);
    for (int i = 0; i < NR_LANTERNS; i++)
        result += CalcLantern(lanterns[i], norm, FragPos, viewDir);
    result += CalcTorch(torch, norm, FragPos, viewDir);
    FragColor = vec4(result, 1.0);
})t",
     {"surface.albedoMap\" = \"material.texture\"", "surface.specularMap\" = \"material.specular\"",
      "moon.direction\" = \"lights.directional[0].shines", "torch.cutOff\" = \"lights.spot[0].cos_inner\"",
      "lanterns[*].ambient\" = \"lights.point[*].ambient_light\""}},

    {"a list of lights whose kind is a vector's fourth number, hard cones",
     "",
     R"t(#version 450
layout(location = 0) in vec3 pos;
layout(location = 1) in vec3 nrm;
layout(location = 0) out vec3 outWorld;
layout(location = 1) out vec3 outNormal;
layout(set = 0, binding = 0) uniform Camera { mat4 view; mat4 proj; vec4 eye; } cam;
layout(push_constant) uniform Push { mat4 model; mat4 normalMat; } pc;
void main() {
    vec4 w = pc.model * vec4(pos, 1.0);
    outWorld = w.xyz;
    outNormal = mat3(pc.normalMat) * nrm;
    gl_Position = cam.proj * cam.view * w;
})t",
     R"t(#version 450
layout(location = 0) in vec3 inWorld;
layout(location = 1) in vec3 inNormal;
layout(location = 0) out vec4 o;
layout(set = 0, binding = 0) uniform Camera { mat4 view; mat4 proj; vec4 eye; } cam;
struct Light { vec4 posType; vec4 dirAngle; vec4 colorIntensity; };
layout(set = 0, binding = 1) uniform Lights { int count; Light list[8]; } lights;
layout(set = 1, binding = 0) uniform Mat { vec4 baseColor; vec4 specShin; vec4 ambient; } mat;
void main() {
    vec3 N = normalize(inNormal);
    vec3 V = normalize(cam.eye.xyz - inWorld);
    vec3 acc = mat.ambient.rgb * mat.baseColor.rgb;
    for (int i = 0; i < lights.count; i++) {
        Light li = lights.list[i];
        int type = int(li.posType.w);
        vec3 L; float att = 1.0;
        if (type == 0) {
            L = normalize(-li.dirAngle.xyz);
        } else {
            vec3 d = li.posType.xyz - inWorld;
            float dist2 = dot(d, d);
            L = d * inversesqrt(dist2);
            att = 1.0 / dist2;
            if (type == 2) {
                float c = dot(-L, normalize(li.dirAngle.xyz));
                att *= c >= cos(li.dirAngle.w) ? 1.0 : 0.0;
            }
        }
        float nl = dot(N, L);
        if (nl <= 0.0) continue;
        vec3 H = normalize(L + V);
        float s = pow(max(dot(N, H), 0.0), mat.specShin.w);
        acc += li.colorIntensity.rgb * li.colorIntensity.a * att * (mat.baseColor.rgb * nl + mat.specShin.rgb * s);
    }
    o = vec4(acc, mat.baseColor.a);
})t",
     {"posType\" = [\"lights[*].position\", \"lights[*].kind\"]",
      "dirAngle\" = [\"lights[*].shines\", \"lights[*].outer\"]"}},

    {"bands on a ladder of comparisons",
     "",
     normals_in_the_world,
     R"t(#version 300 es
precision highp float;
in vec3 v_normal;
in vec3 v_world;
uniform vec3 u_lightDir;
uniform vec3 u_color;
out vec4 outColor;
void main() {
  vec3 n = normalize(v_normal);
  float intensity = max(dot(n, normalize(u_lightDir)), 0.0);
  float f;
  if (intensity > 0.95) f = 1.0;
  else if (intensity > 0.5) f = 0.6;
  else if (intensity > 0.25) f = 0.4;
  else f = 0.2;
  outColor = vec4(u_color * f, 1.0);
})t",
     {"model = \"cel\"", "\"shading.thresholds\" = [0.25, 0.5, 0.95]",
      "\"shading.bands\" = [0.2, 0.4, 0.6, 1]", "without = [\"light.intensity\"]"}},

    {"bands in colours, from below, given back",
     "",
     normals_in_the_world,
     R"t(#version 300 es
precision highp float;
in vec3 v_normal;
in vec3 v_world;
uniform vec3 u_sunDirection;
uniform vec3 u_baseColor;
out vec4 outColor;
vec3 shade(float k) {
  if (k < 0.2) return vec3(0.1, 0.1, 0.3);
  if (k < 0.6) return vec3(0.5, 0.5, 0.55);
  else return vec3(1.0, 0.95, 0.9);
}
void main() {
  float k = max(dot(normalize(v_normal), -normalize(u_sunDirection)), 0.0);
  outColor = vec4(u_baseColor * shade(k), 1.0);
})t",
     {"model = \"cel\"", "\"shading.thresholds\" = [0.2, 0.6]",
      "\"shading.bands\" = [0.1, 0.1, 0.3, 0.5, 0.5, 0.55, 1, 0.95, 0.9]"}},

    {"beams in blocks, a window over the inverse square, an exponent in a fourth number, a matrix of one "
     "letter",
     "",
     R"t(#version 450 core
layout(location=0) in vec3 a_pos;
layout(location=1) in vec3 a_nrm;
layout(std140, binding=0) uniform Transforms { mat4 u_M; mat4 u_VP; mat4 u_N; vec4 u_camera; };
layout(location=0) out V { vec3 p; vec3 n; } v;
void main() { vec4 w = u_M * vec4(a_pos,1); v.p = w.xyz; v.n = mat3(u_N)*a_nrm; gl_Position = u_VP*w; })t",
     R"t(#version 450 core
layout(location=0) in V { vec3 p; vec3 n; } v;
layout(std140, binding=0) uniform Transforms { mat4 u_M; mat4 u_VP; mat4 u_N; vec4 u_camera; };
struct Beam { vec3 origin; float reach; vec3 axis; float innerAngle; vec3 tint; float outerAngle; float lumens; };
layout(std140, binding=1) uniform Beams { Beam beams[6]; int beamCount; };
layout(std140, binding=2) uniform Look { vec4 paint; vec4 shine; vec4 gloom; };
layout(location=0) out vec4 o;
float window(float d, float r) { float q = d / r; q = clamp(1.0 - q*q*q*q, 0.0, 1.0); return q / (d*d); }
void main() {
  vec3 n = normalize(v.n), e = normalize(u_camera.xyz - v.p), sum = gloom.rgb * paint.rgb;
  for (int i = 0; i < beamCount; i++) {
    vec3 t = beams[i].origin - v.p; float d = length(t); vec3 l = t/d;
    float c = dot(-l, normalize(beams[i].axis));
    float s = smoothstep(cos(beams[i].outerAngle), cos(beams[i].innerAngle), c);
    vec3 E = beams[i].tint * beams[i].lumens * window(d, beams[i].reach) * s;
    float nl = dot(n,l);
    if (nl > 0.0) sum += E * (paint.rgb*nl + shine.rgb * pow(max(dot(reflect(-l,n), e), 0.0), shine.w));
  }
  o = vec4(sum, paint.a);
})t",
     {"u_N = \"object.normal_to_world\"", "shine = [\"material.specular\", \"material.shininess\"]",
      "beams[*].origin\" = \"lights[*].position\"", "beams[*].lumens\" = \"lights[*].intensity\""}},

    {"lamps that are switched on by a number, colours of vertices, normals that are turned where the back is "
     "seen",
     "",
     R"t(#version 330
in vec3 vertexPosition; in vec3 vertexNormal; in vec4 vertexColor;
uniform mat4 mvp; uniform mat4 matModel; uniform mat4 matNormal;
out vec3 fragPosition; out vec4 fragColor; out vec3 fragNormal;
void main() {
    fragPosition = vec3(matModel*vec4(vertexPosition, 1.0));
    fragColor = vertexColor;
    fragNormal = normalize(vec3(matNormal*vec4(vertexNormal, 0.0)));
    gl_Position = mvp*vec4(vertexPosition, 1.0);
})t",
     R"t(#version 330
in vec3 fragPosition; in vec4 fragColor; in vec3 fragNormal;
uniform vec4 colDiffuse;
uniform vec4 ambient;
uniform vec3 viewPos;
struct Lamp { int enabled; int type; vec3 position; vec3 target; vec4 color; };
uniform Lamp lamps[4];
out vec4 finalColor;
void main() {
    vec3 lightDot = vec3(0.0);
    vec3 normal = normalize(fragNormal);
    if (!gl_FrontFacing) normal = -normal;
    vec3 viewD = normalize(viewPos - fragPosition);
    vec3 specular = vec3(0.0);
    for (int i = 0; i < 4; i++) {
        if (lamps[i].enabled == 1) {
            vec3 light = normalize(lamps[i].position - fragPosition);
            float NdotL = max(dot(normal, light), 0.0);
            lightDot += lamps[i].color.rgb*NdotL;
            if (NdotL > 0.0) specular += lamps[i].color.rgb*pow(max(0.0, dot(viewD, reflect(-light, normal))), 16.0);
        }
    }
    finalColor = vec4(fragColor.rgb*colDiffuse.rgb*(lightDot + ambient.rgb) + specular, colDiffuse.a*fragColor.a);
})t",
     {"lamps[*].enabled\" = 1", "\"material.two_sided\" = 1", "\"material.shininess\" = 16"}},

    {"a cosine cut into levels, a lamp whose strength is called a power",
     "",
     normals_in_the_world,
     R"t(#version 300 es
precision highp float;
in vec3 v_normal;
in vec3 v_world;
uniform vec3 u_lampPos;
uniform vec4 u_paint;
uniform float u_power;
out vec4 outColor;
const float LEVELS = 4.0;
void main() {
  vec3 n = normalize(v_normal);
  vec3 l = normalize(u_lampPos - v_world);
  float c = clamp(dot(n, l) * u_power, 0.0, 1.0);
  float toon = floor(c * LEVELS) / LEVELS;
  outColor = vec4(u_paint.rgb * toon, u_paint.a);
})t",
     {"model = \"cel\"", "\"shading.thresholds\" = [0.25, 0.5, 0.75, 1]", "u_power = \"lights[0].intensity\"",
      "u_paint = \"material.base_alpha\"", "falloff = [\"none\"]"}},
};

} // namespace

const std::vector<pair_of_stages>& written_shaders() { return pairs; }

} // namespace yurvo::testing
