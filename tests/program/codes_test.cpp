// Shaders that are handed a texture's codes, and that write codes.
#include <string>

#include <doctest/doctest.h>

#include "program/lambert_program.hpp"
#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/tool.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using testing::has;
using testing::outcome;
using testing::replaced;
using testing::run;
using testing::tool;
using testing::written_program;

namespace {

// Normals are made unit at each fragment alone, boards are decoded after they are blended.
const char* const decoding_vertex = R"(#version 330
in vec3 a, b; in vec2 at; out vec3 p, n; out vec2 onBoard;
uniform mat4 m, vp; uniform mat3 k;
void main() { p = (m * vec4(a, 1.0)).xyz; n = k * b; onBoard = at; gl_Position = vp * vec4(p, 1.0); })";
const std::string decoding_fragment = R"(#version 330
in vec3 p, n; in vec2 onBoard; out vec4 c;
uniform sampler2D boards;
uniform vec3 sky, place, light;
vec3 decoded(vec3 e) { return mix(e / 12.92, pow((e + 0.055) / 1.055, vec3(2.4)), step(0.04045, e)); }
vec3 encoded(vec3 l) { return mix(12.92 * l, 1.055 * pow(l, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, l)); }
void main() {
    vec3 to = place - p;
    vec3 lit = sky + light * max(dot(normalize(n), normalize(to)), 0.0) / dot(to, to);
    c = vec4(decoded(texture(boards, onBoard).rgb) * lit, 1.0);
})";
const std::string decoding_claim = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "lambert"
rate = "fragment"
falloff = ["inverse-square"]
without = ["material.base"]
attributes = { a = "position", b = "normal", at = "texcoord" }
[uniforms]
m = "object.to_world"
k = "object.normal_to_world"
vp = "view.world_to_clip"
sky = "ambient.light"
place = "lights[0].position"
light = "lights[0].light"
boards = "material.texture_codes"
)";

outcome checked_decoding(const std::string& source, const std::string& claim) {
    const written_program made(decoding_vertex, source, claim);
    return run(tool + " check --program " + made.file);
}

} // namespace

TEST_CASE("a shader that is handed codes, blends them and decodes them is right, and no other way to do it") {
    const outcome right = checked_decoding(decoding_fragment, decoding_claim);
    INFO(right.out);
    CHECK(right.status == 0);
    CHECK(has(right.out, "textures that are blended in codes and decoded then"));
    const outcome left_out = checked_decoding(
        replaced(decoding_fragment, "decoded(texture(boards, onBoard).rgb)", "texture(boards, onBoard).rgb"),
        decoding_claim);
    CHECK(left_out.status == 1);
    CHECK(has(left_out.out, "What explains it: texture-not-decoded"));
    // The display's gamma is near that curve, and is another one.
    CHECK(checked_decoding(replaced(decoding_fragment, "decoded(texture(boards, onBoard).rgb)",
                                    "pow(texture(boards, onBoard).rgb, vec3(2.2))"),
                           decoding_claim)
              .status == 1);
    // What is linear already is not to be decoded.
    CHECK(checked_decoding(decoding_fragment,
                           replaced(decoding_claim, "material.texture_codes", "material.texture"))
              .status == 1);
    CHECK(checked_decoding(replaced(decoding_fragment, "decoded(texture(boards, onBoard).rgb)",
                                    "texture(boards, onBoard).rgb"),
                           replaced(decoding_claim, "material.texture_codes", "material.texture"))
              .status == 0);
}

TEST_CASE("of a shader that encodes, white tells nothing of where its normals are made unit") {
    const std::string encodes =
        replaced(decoding_fragment, "c = vec4(decoded(texture(boards, onBoard).rgb) * lit, 1.0);",
                 "c = vec4(encoded(clamp(decoded(texture(boards, onBoard).rgb) * lit, "
                 "0.0, 1.0)), 1.0);");
    const outcome right =
        checked_decoding(encodes, replaced(decoding_claim, "model =", "output = \"srgb\"\nmodel ="));
    INFO(right.out);
    CHECK(right.status == 0);
    CHECK(has(right.out, "normals are made unit at each fragment only, which is right too"));
}
