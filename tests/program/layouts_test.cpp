// What GLSL lays numbers out in besides single uniforms: arrays of blocks and of samplers, places by number,
// several pictures, a version that the driver may not have.
#include <doctest/doctest.h>

#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using testing::has;
using testing::outcome;
using testing::replaced;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

const std::string layout_vertex = R"(#version 460 core
layout(location = 0) in vec3 inPosition;
layout(location = 1) in vec3 inNormal;
layout(location = 2) in vec2 inTexCoord;
layout(location = 0) uniform mat4 uModel;
layout(location = 1) uniform mat4 uViewProj[2];
layout(location = 0) out vec3 vWorld;
layout(location = 1) out vec3 vNormal;
layout(location = 2) out vec2 vUv;
invariant gl_Position;
void main() {
    vec4 w = uModel * vec4(inPosition, 1.0);
    vWorld = w.xyz;
    vNormal = transpose(inverse(mat3(uModel))) * inNormal;
    vUv = inTexCoord;
    gl_Position = uViewProj[1] * uViewProj[0] * w;
}
)";
const std::string layout_fragment = R"(#version 460 core
layout(location = 0) in vec3 vWorld;
layout(location = 1) in vec3 vNormal;
layout(location = 2) in vec2 vUv;
layout(location = 0) out vec3 outColor;
layout(location = 1) out vec4 outBright;
layout(std140, binding = 2) uniform Lamp { vec4 place; vec4 light[2]; } lamps[3];
layout(binding = 0) uniform sampler2D uMaps[2];
layout(location = 10) uniform int uLampCount;
layout(location = 11) uniform vec3 uEye;
layout(location = 12) uniform float uExponent;
layout(location = 13) uniform vec3 uAmbient;
layout(location = 14) uniform vec3 uBase;
void main() {
    vec3 base = uBase * texture(uMaps[0], vUv).rgb;
    vec3 shine = texture(uMaps[1], vUv).rgb;
    vec3 n = normalize(vNormal), v = normalize(uEye - vWorld);
    vec3 sum = uAmbient * base;
    for (int i = 0; i < 3; ++i) {
        if (i >= uLampCount) continue;
        vec4 place = i == 0 ? lamps[0].place : i == 1 ? lamps[1].place : lamps[2].place;
        vec3 diffuse = i == 0 ? lamps[0].light[0].rgb : i == 1 ? lamps[1].light[0].rgb : lamps[2].light[0].rgb;
        vec3 specular = i == 0 ? lamps[0].light[1].rgb : i == 1 ? lamps[1].light[1].rgb : lamps[2].light[1].rgb;
        vec3 l = place.xyz - vWorld * place.w;
        float d = length(l);
        l /= d;
        float a = place.w > 0.0 ? 1.0 / (d * d) : 1.0;
        float k = dot(n, l);
        if (k > 0.0) sum += a * (diffuse * base * k + specular * shine * pow(max(dot(n, normalize(l + v)), 0.0), uExponent));
    }
    outColor = sum;
    outBright = vec4(max(sum - 1.0, 0.0), 1.0);
    gl_FragDepth = gl_FragCoord.z;
}
)";
const std::string layout_claim = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "blinn-phong"
rate = "fragment"
kinds = ["directional", "point"]
falloff = ["inverse-square"]
lights = [1, 3]
[attributes]
inPosition = "position"
inNormal = "normal"
inTexCoord = "texcoord"
[uniforms]
uModel = "object.to_world"
"uViewProj[0]" = "view.world_to_view"
"uViewProj[1]" = "view.view_to_clip"
"lamps[*].place" = "lights[*].place"
"lamps[*].light[0]" = "lights[*].diffuse_light"
"lamps[*].light[1]" = "lights[*].specular_light"
"uMaps[0]" = "material.texture"
"uMaps[1]" = "material.specular"
uLampCount = "lights.count"
uEye = "view.eye"
uExponent = "material.shininess"
uAmbient = "ambient.light"
uBase = "material.base"
)";

outcome checked_layout(const std::string& stage, const std::string& program) {
    const temporary_folder folder;
    write_whole(folder / "a.vert", layout_vertex);
    write_whole(folder / "a.frag", stage);
    write_whole(folder / "a.toml", program);
    const std::string scenes = testing::whole     ? "buoys lamp-parts wet-planks"
                               : testing::patient ? "lamp-parts wet-planks"
                                                  : "lamp-parts";
    return run("cd " + folder.path() + " && " + tool + " check " + scenes + " --program a.toml");
}

} // namespace

TEST_CASE(
    "GLSL: arrays of blocks and of samplers, each element by its own name; 4.60 where the driver has 4.50") {
    const outcome right = checked_layout(layout_fragment, layout_claim);
    CAPTURE(right.out);
    CAPTURE(right.err);
    CHECK(right.status == 0);
    // Each block is another one: the second lamp's light taken for the third's.
    const outcome mixed = checked_layout(
        replaced(layout_fragment, "lamps[2].light[0].rgb;", "lamps[1].light[0].rgb;"), layout_claim);
    CHECK(mixed.status == 1);
    CHECK(checked_layout(layout_fragment, replaced(replaced(replaced(layout_claim, "light[0]", "light[x]"),
                                                            "light[1]", "light[0]"),
                                                   "light[x]", "light[1]"))
              .status == 1);
    // By the block's name, too.
    CHECK(checked_layout(layout_fragment, replaced(layout_claim, "lamps[*].place", "Lamp[*].place")).status ==
          0);
    const outcome none = checked_layout(
        layout_fragment, replaced(layout_claim, "\"lamps[*].place\" = \"lights[*].place\"\n", ""));
    CHECK(none.status == 2);
    CHECK(none.one_line_of_error());
    CHECK(has(none.err, "`Lamp[0].place`, which [uniforms] leaves out"));
    // A fault of one's own is still told where it stands.
    const outcome broken = checked_layout(
        replaced(layout_fragment, "vec3 sum = uAmbient * base;", "vec3 sum = tide * base;"), layout_claim);
    CHECK(broken.status == 2);
    CHECK(has(broken.err, "a.frag:18:"));
    CHECK(has(broken.err, "tide"));
}
