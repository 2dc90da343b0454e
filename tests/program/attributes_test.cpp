// What vertices have: tangents along a texture, and what is the same at every one.
#include <cmath>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "program/drawn_program.hpp"
#include "program/guess_names.hpp"
#include "program/lambert_program.hpp"
#include "program/object_data.hpp"
#include "support/replaced.hpp"
#include "support/roundoff.hpp"
#include "support/run.hpp"
#include "support/tool.hpp"
#include "yurvo/geometry/shapes.hpp"

using namespace yurvo;
using namespace yurvo::program;
using testing::drawn_with;
using testing::filled;
using testing::has;
using testing::outcome;
using testing::replaced;
using testing::run;
using testing::tool;
using testing::u;
using testing::written_program;

namespace {

vec3<double> three_at(const std::vector<float>& values, std::size_t corner, std::size_t width) {
    const std::size_t first = width * corner;
    return {static_cast<double>(values[first]), static_cast<double>(values[first + 1]),
            static_cast<double>(values[first + 2])};
}

// Beside a map that changes no normal: the normal's column of the frame alone counts.
const char* const framed_vertex = R"(#version 330
in vec3 a; in vec3 b; in vec2 onBoard; in vec4 along; out vec3 p; out vec2 board; out mat3 frame;
uniform mat4 m; uniform mat3 k; uniform mat4 vp;
void main() {
    p = (m * vec4(a, 1.0)).xyz;
    vec3 n = normalize(k * b);
    vec3 t = mat3(m) * along.xyz;
    t = normalize(t - dot(t, n) * n);
    frame = mat3(t, cross(n, t) * along.w, n);
    board = onBoard;
    gl_Position = vp * vec4(p, 1.0);
})";
const char* const framed_fragment = R"(#version 330
in vec3 p; in vec2 board; in mat3 frame; out vec4 c;
uniform sampler2D grain; uniform vec3 sky; uniform vec3 paint; uniform vec3 moon; uniform vec3 glow;
void main() {
    vec3 n = normalize(frame * (texture(grain, board).xyz * 2.0 - 1.0));
    c = vec4(paint * (sky + glow * max(dot(n, moon), 0.0)), 1.0);
})";
std::string framed_claim() {
    return replaced(testing::lambert_program("kinds = [\"directional\"]\nlights = [1, 1]\n",
                                             "moon = \"lights[0].to_light\"\nglow = \"lights[0].light\"\n"
                                             "grain = [0.5, 0.5, 1.0]\n"),
                    "b = \"normal\"", "b = \"normal\", onBoard = \"texcoord\", along = \"tangent\"");
}

} // namespace

TEST_CASE("a plane's tangent is along +X and its bitangent along -Z, as its texture lies") {
    const mesh plane = make_plane(2, 2, 3, 2);
    const std::vector<float> tangents = attribute_of(plane, "tangent", 4);
    const std::vector<float> bitangents = attribute_of(plane, "bitangent", 3);
    REQUIRE(tangents.size() == 4 * 3 * plane.triangles.size());
    for (std::size_t i = 0; i < 3 * plane.triangles.size(); ++i) {
        // Exact but for the roundings of the plane's corners in double.
        CHECK(length(three_at(tangents, i, 4) - vec3<double>{1, 0, 0}) < u);
        CHECK(tangents[4 * i + 3] == 1.0F);
        CHECK(length(three_at(bitangents, i, 3) - vec3<double>{0, 0, -1}) < u);
    }
}

TEST_CASE(
    "where a texture is mirrored the fourth number says so; without one a tangent is square to the normal") {
    mesh plane = make_plane(2, 2, 1, 1);
    for (texcoord& each : plane.texcoords) {
        each.u = -each.u;
    }
    const std::vector<float> mirrored = attribute_of(plane, "tangent", 4);
    const std::vector<float> bitangents = attribute_of(plane, "bitangent", 4);
    for (std::size_t i = 0; i < 3 * plane.triangles.size(); ++i) {
        CHECK(length(three_at(mirrored, i, 4) - vec3<double>{-1, 0, 0}) < u);
        CHECK(mirrored[4 * i + 3] == -1.0F);
        CHECK(length(three_at(bitangents, i, 4) - vec3<double>{0, 0, -1}) < u);
        CHECK(bitangents[4 * i + 3] == 0.0F);
    }
    mesh bare = make_sphere(1, 12, 7);
    bare.texcoords.clear();
    bare.texcoord_triangles.clear();
    const std::vector<float> any = attribute_of(bare, "tangent", 3);
    for (std::size_t t = 0; t < bare.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double> tangent = three_at(any, 3 * t + k, 3);
            // Three components of at most 1, each rounded to float once.
            CHECK(std::abs(dot(tangent, bare.normals[bare.triangles[t][k]])) < 3 * u);
            CHECK(std::abs(length(tangent) - 1) < 3 * u);
        }
    }
}

TEST_CASE("a sphere's tangents run against the longitude, its bitangents towards its upper pole") {
    const std::uint32_t around = 32;
    const mesh ball = make_sphere(1, around, 16);
    const std::vector<float> tangents = attribute_of(ball, "tangent", 3);
    const std::vector<float> bitangents = attribute_of(ball, "bitangent", 3);
    std::size_t looked_at = 0;
    for (std::size_t t = 0; t < ball.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double> n = ball.normals[ball.triangles[t][k]];
            const double off_axis = std::hypot(n.x, n.z);
            if (off_axis < 0.5) {
                continue; // near a pole the texture turns within a triangle
            }
            ++looked_at;
            const vec3<double> along{n.z / off_axis, 0, -n.x / off_axis};
            const vec3<double> tangent = three_at(tangents, 3 * t + k, 3);
            // Between the two corners of a row lies half a cell's angle, and a row's side leans by no more.
            CHECK(dot(tangent, along) > std::cos(2 * pi / around));
            CHECK(std::abs(dot(tangent, n)) < 3 * u);
            CHECK(dot(three_at(bitangents, 3 * t + k, 3), cross(n, along)) > std::cos(2 * pi / around));
            CHECK(cross(n, along).y > 0);
        }
    }
    CHECK(looked_at > 1000);
}

TEST_CASE(
    "a shader whose normals go through a frame of tangents is right, and told that they are not looked at") {
    const written_program right(framed_vertex, framed_fragment, framed_claim());
    const outcome held = run(tool + " check --program " + right.file);
    CHECK(held.status == 0);
    CHECK(has(held.out + held.err, "no value of `along` changes a picture"));
    // What the map has where it is not flat goes along the tangents.
    const written_program wrong(framed_vertex, framed_fragment,
                                replaced(framed_claim(), "[0.5, 0.5, 1.0]", "[1.0, 0.5, 0.5]"));
    CHECK(run(tool + " check moon-crates --program " + wrong.file).status == 1);
    const written_program flipped(replaced(framed_vertex, "* along.w, n)", "* along.w, -n)"), framed_fragment,
                                  framed_claim());
    const outcome found = run(tool + " check moon-crates --program " + flipped.file);
    CHECK(found.status == 1);
    CHECK(has(found.out, "normal-flipped"));
}

TEST_CASE("what is the same at every vertex: numbers, whole numbers, quantities, matrices") {
    const auto color_of = [](const std::string& type, const std::string& color, const std::string& means) {
        const std::string vertex = "#version 330\nuniform mat4 toClip;\nin vec3 place;\nin " + type +
                                   " same;\nflat out vec3 given;\nvoid main() { given = " + color +
                                   "; gl_Position = toClip * vec4(place, 1.0); }\n";
        return drawn_with(
                   {"glsl", vertex,
                    "#version 330\nflat in vec3 given;\nout vec4 c;\nvoid main() { c = vec4(given, 1.0); }\n",
                    "toClip = \"object.to_clip\"", "place = \"position\"\nsame = " + means + "\n"},
                   filled())
            .color(20, 20);
    };
    CHECK(color_of("float", "vec3(same)", "0.25") == rgb<float>(0.25F));
    CHECK(color_of("vec4", "same.xyw", "[0.5, 0.25, 0.0, 0.125]") == rgb<float>(0.5F, 0.25F, 0.125F));
    CHECK(color_of("ivec4", "vec3(same.x, same.y, same.w) / 8.0", "[3, -4, 5, 6]") ==
          rgb<float>(0.375F, -0.5F, 0.75F));
    CHECK(color_of("uvec2", "vec3(same, 0u)", "[3, 4]") == rgb<float>(3, 4, 0));
    CHECK(color_of("vec3", "same", "\"= material.base * 2.0\"") ==
          rgb<float>(filled().materials.front().look.base * 2.0));
    // A matrix is an attribute for each of its columns.
    CHECK(color_of("mat4", "vec3(same[0][0], same[3][1], same[2][3])",
                   "[1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16]") == rgb<float>(1, 14, 12));
    CHECK(color_of("mat3", "same * vec3(0.0, 0.0, 1.0)", "[1, 2, 3, 4, 5, 6, 7, 8, 9]") ==
          rgb<float>(7, 8, 9));
}

TEST_CASE("a mesh with bones, drawn many times by matrices of its vertices, is right as it stands") {
    const std::string vertex = R"(#version 330
in vec3 a; in vec3 b; in ivec4 bones; in vec4 weights; in mat4 place; in vec3 hull; out vec3 n; out vec3 paint;
uniform mat4 moved[4]; uniform mat3 k; uniform mat4 vp;
void main() {
    mat4 skin = weights.x * moved[bones.x] + weights.y * moved[bones.y] + weights.z * moved[bones.z] + weights.w * moved[bones.w];
    n = k * mat3(skin) * b;
    paint = hull;
    gl_Position = vp * place * skin * vec4(a, 1.0);
})";
    const std::string fragment = R"(#version 330
in vec3 n; in vec3 paint; out vec4 c; uniform vec3 sky; uniform vec3 moon; uniform vec3 glow;
void main() { c = vec4(paint * (sky + glow * max(dot(normalize(n), moon), 0.0)), 1.0); })";
    const std::string claim = replaced(
        replaced(
            testing::lambert_program("kinds = [\"directional\"]\nlights = [1, 1]\n",
                                     "moon = \"lights[0].to_light\"\nglow = \"lights[0].light\"\n"
                                     "\"moved[*]\" = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]\n"),
            "b = \"normal\"",
            "b = \"normal\", bones = 0, weights = [1, 0, 0, 0], place = \"object.to_world\", hull = "
            "\"material.base\""),
        "m = \"object.to_world\"\n", "");
    const std::string bound = replaced(claim, "paint = \"material.base\"\n", "");
    const written_program right(vertex, fragment, bound);
    CHECK(run(tool + " check --program " + right.file).status == 0);
    // What an attribute brings and the shader forgets is claimed all the same: no driver lists it then.
    const written_program glowing(replaced(vertex, "in vec3 hull;", "in vec3 hull; in vec3 glow;"), fragment,
                                  replaced(bound, "hull = ", "glow = \"material.emission\", hull = "));
    CHECK(run(tool + " check line-up --program " + glowing.file).status == 1);
    // A base colour that no name brings is forgotten, as always.
    const written_program forgotten(vertex, fragment, replaced(bound, "\"material.base\"", "[1, 1, 1]"));
    CHECK(run(tool + " check moon-crates --program " + forgotten.file).status == 1);
}

TEST_CASE("HLSL's vertices have tangents, bones and matrices by their semantics") {
    const std::string source = R"(
cbuffer Draw { float4x4 toClip; };
struct Vertex { float3 place : PLACE; float3 along : TANGENT; uint4 bones : BLENDINDICES; row_major float4x4 each : EACH; };
struct Varying { float4 clip : SV_Position; nointerpolation float3 given : GIVEN; };
Varying vertex_main(Vertex v) {
    Varying o;
    o.clip = mul(toClip, float4(v.place, 1));
    o.given = v.along * 0.5 + float3(0, v.bones.y, mul(v.each, float4(0, 0, 0, 1)).y);
    return o;
}
float4 fragment_main(Varying v) : SV_Target { return float4(v.given, 1); }
)";
    const picture drawn =
        drawn_with({"hlsl", "", source, "toClip = \"object.to_clip\"",
                    "place = \"position\"\nTANGENT = \"tangent\"\nBLENDINDICES = [5, 3, 0, 0]\n"
                    "EACH = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 7, 8, 9, 1]\n"},
                   filled());
    // The plank's tangent is +X in its own space; the matrix moves by (7, 8, 9).
    CHECK(drawn.color(20, 20) == rgb<float>(0.5F, 3, 8));
}

TEST_CASE("names of attributes say tangents, bones and places of many") {
    const type_shape vec3_of{3, 0, 0, false, false, "vec3"};
    const type_shape vec4_of{4, 0, 0, false, false, "vec4"};
    const type_shape ivec4_of{4, 0, 0, true, false, "ivec4"};
    const type_shape mat4_of{16, 4, 4, false, false, "mat4"};
    CHECK(likely_attribute("aTangent", vec4_of) == "tangent");
    CHECK(likely_attribute("TANGENT", vec3_of) == "tangent");
    CHECK(likely_attribute("a_bitangent", vec3_of) == "bitangent");
    CHECK(likely_attribute("BINORMAL", vec3_of) == "bitangent");
    CHECK(likely_attribute("a_weights", vec4_of) == "1, 0, 0, 0");
    CHECK(likely_attribute("a_joints", ivec4_of) == "0");
    CHECK(likely_attribute("boneIds", vec4_of) == "0");
    CHECK(likely_attribute("instanceMatrix", mat4_of) == "object.to_world");
    CHECK(likely_attribute("instanceColor", vec4_of) == "material.base_alpha");
    CHECK(likely_attribute("instanceTint", vec3_of) == "");
    CHECK(likely_attribute("st", {2, 0, 0, false, false, "vec2"}) == "texcoord");
    CHECK(likely_attribute("a_normal", vec3_of) == "normal");
    CHECK(likely_uniform("normalMap", {1, 0, 0, true, true, "sampler2D"}) == "1");
    CHECK(likely_uniform("normalMap", {0, 0, 0, false, true, "sampler2D"}) == "0.5, 0.5, 1");
    CHECK(likely_uniform("joints[*]", mat4_of) == "1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1");
}
