// Where a fragment lies, by each language's own origin, and how far its coarser precisions reach.
#include <cmath>

#include <doctest/doctest.h>

#include "support/facing_eye.hpp"
#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"

using namespace yurvo;
using testing::replaced;

namespace {

// A plank that fills the picture.
scene filled() {
    scene made = testing::facing_eye(model_kind::unlit);
    made.objects = {testing::facing_plank(40, 40)};
    return made;
}

struct stages {
    std::string language, vertex, fragment;
    std::string uniforms = "toClip = \"object.to_clip\"";
};

program_renderer renderer_of(const testing::temporary_folder& folder, const stages& of) {
    const bool hlsl = of.language == "hlsl";
    write_whole(folder / "a.vert", of.vertex);
    write_whole(folder / "a.frag", of.fragment);
    if (of.language == "spirv") {
        for (const std::string stage : {"vert", "frag"}) {
            const std::string file = folder / ("a." + stage);
            REQUIRE(testing::run("glslangValidator -V -S " + stage + " " + file + " -o " + file).status == 0);
        }
    }
    write_whole(
        folder / "a.toml",
        "format = 1\nlanguage = \"" + of.language +
            "\"\nvertex = " + (hlsl ? R"({ file = "a.vert", entry = "vertex_main" })" : "\"a.vert\"") +
            "\nfragment = " + (hlsl ? R"({ file = "a.frag", entry = "fragment_main" })" : "\"a.frag\"") +
            "\nmodel = \"unlit\"\nrate = \"fragment\"\n[attributes]\n" + (hlsl ? "PLACE" : "place") +
            " = \"position\"\n[uniforms]\n" + of.uniforms + "\n");
    return program_renderer(read_program(folder / "a.toml"));
}

const std::string pixel_vertex =
    "uniform mat4 toClip;\nin vec3 place;\nvoid main() { gl_Position = toClip * vec4(place, 1.0); }\n";
const std::string vulkan_vertex =
    "#version 450\nlayout(binding = 0) uniform A { mat4 toClip; };\nlayout(location = 0) in vec3 place;\n"
    "void main() { gl_Position = toClip * vec4(place, 1.0); }\n";
const std::string hlsl_vertex =
    "cbuffer A { float4x4 toClip; };\n"
    "float4 vertex_main(float3 place : PLACE) : SV_Position { return mul(toClip, float4(place, 1)); }\n";

} // namespace

TEST_CASE("rows are counted from where each language counts them") {
    const std::string fragment = "out vec4 color;\nvoid main() { color = vec4(gl_FragCoord.y / 40.0); }\n";
    const std::string above = "layout(origin_upper_left) in vec4 gl_FragCoord;\n" + fragment;
    const std::string desktop = "#version 330\n";
    const std::string hlsl =
        hlsl_vertex + "float4 fragment_main(float4 at : SV_Position) : SV_Target { return at.y / 40; }\n";
    struct {
        const char* name;
        stages given;
        bool from_above;
    } const languages[] = {
        {"GLSL", {"glsl", desktop + pixel_vertex, desktop + fragment}, false},
        {"GLSL, as it declares", {"glsl", desktop + pixel_vertex, desktop + above}, true},
        {"GLSL ES",
         {"glsl-es", "#version 300 es\n" + pixel_vertex,
          "#version 300 es\nprecision highp float;\n" + fragment},
         false},
        {"GLSL for Vulkan",
         {"glsl-vulkan", vulkan_vertex, "#version 450\nlayout(location = 0) " + fragment},
         true},
        {"SPIR-V", {"spirv", vulkan_vertex, "#version 450\nlayout(location = 0) " + fragment}, true},
        {"HLSL", {"hlsl", hlsl, hlsl}, true},
    };
    for (const auto& each : languages) {
        CAPTURE(each.name);
        const testing::temporary_folder folder;
        const picture drawn = renderer_of(folder, each.given).draw(filled());
        for (const int y : {0, 1, 19, 39}) {
            CAPTURE(y);
            const float row = static_cast<float>(each.from_above ? y : 39 - y) + 0.5F;
            CHECK(std::abs(drawn.color(7, y).r - row / 40) <= 0x1p-24F); // one division, rounded
        }
    }
}

TEST_CASE("which side of a surface faces the eye does not change in a mirror") {
    const std::string fragment =
        "out vec4 color;\nvoid main() { color = vec4(gl_FrontFacing ? 1.0 : 0.25); }\n";
    const std::string hlsl = hlsl_vertex +
                             "float4 fragment_main(float4 at : SV_Position, bool front : SV_IsFrontFace) : "
                             "SV_Target { return front ? 1 : 0.25; }\n";
    const stages languages[] = {
        {"glsl", "#version 330\n" + pixel_vertex, "#version 330\n" + fragment},
        {"glsl-vulkan", vulkan_vertex, "#version 450\nlayout(location = 0) " + fragment},
        {"hlsl", hlsl, hlsl},
    };
    for (const stages& each : languages) {
        CAPTURE(each.language);
        const testing::temporary_folder folder;
        const program_renderer made = renderer_of(folder, each);
        for (const bool mirrored : {false, true}) {
            for (const bool turned : {false, true}) {
                CAPTURE(mirrored);
                CAPTURE(turned);
                scene of = filled();
                placement& placed = of.objects[0].placed;
                placed.scale.x = mirrored ? -1 : 1;
                placed.rotation.x *= turned ? -1 : 1; // its back to the eye
                CHECK(made.draw(of).color(20, 20).g == (turned ? 0.25F : 1.0F));
            }
        }
    }
}

TEST_CASE("what coarser precisions change is told, but not of the few pixels that an edge crosses") {
    // Sixteen bits have a whole step beyond 1024: there 1042.65 is 1043, and its sine another one.
    const std::string fragment = "#version 300 es\nprecision mediump float;\nout vec4 color;\nvoid main() {\n"
                                 "    float at = gl_FragCoord.x;\n"
                                 "    bool here = true;\n"
                                 "    color = vec4(here ? 0.5 + 0.5 * sin(at * 99.3) : 0.5);\n}\n";
    const auto told = [&](const std::string& where) {
        const testing::temporary_folder folder;
        const program_renderer made = renderer_of(
            folder, {"glsl-es", "#version 300 es\n" + pixel_vertex, replaced(fragment, "true", where)});
        (void)made.draw(filled());
        return made.codes_off_by_precision();
    };
    CHECK(told("true") > 2);
    CHECK(told("false") == 0);
    // One pixel of 1,600 says no more than that there may be two codes.
    CHECK(told("abs(at - 10.5) + abs(gl_FragCoord.y - 10.5) < 0.4") == 2);
    CHECK(told("at == 10.5") > 2); // a column of forty is no edge
}
