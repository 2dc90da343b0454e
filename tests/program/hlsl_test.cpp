// HLSL as it is written beside Direct3D: buffers of structures, matrices that are not square, its own
// functions.
#include <map>

#include <doctest/doctest.h>
#include <nlohmann/json.hpp>

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

// Structures lie in a buffer without gaps, 24 bytes each, which no block of GLSL has. A point goes through
// rows on the left at the vertices, and through columns on the right at the fragments: the same place.
const std::string source = R"(struct Lantern { float3 place; float3 light; };
StructuredBuffer<Lantern> lanterns : register(t0);
cbuffer Thing { float4x3 rows; float3x4 columns; float3x3 turn; float4x4 toClip; };
cbuffer Look { float3 eye; uint count; float3 sky; float gloss; float3 paint; float3 shine; };
struct Between { float4 clip : SV_Position; float3 seen : PLACE; float3 own : OWN; float3 facing : FACING; };
Between quay_vertex(float3 corner : POSITION, float3 facing : NORMAL) {
    Between to;
    to.seen = mul(float4(corner, 1), rows);
    to.own = corner;
    to.facing = mul(turn, facing);
    to.clip = mul(toClip, float4(corner, 1));
    return to;
}
float4 quay_fragment(Between from) : SV_Target {
    float3 n = normalize(from.facing), v = normalize(eye - from.seen);
    float3 place = mul(columns, float4(from.own, 1));
    float3 sum = sky * paint;
    for (uint i = 0; i < count; ++i) {
        float3 to_light = lanterns[i].place - place;
        float d = length(to_light);
        float3 l = to_light / d;
        float4 k = lit(dot(n, l), dot(n, normalize(l + v)), gloss);
        sum += lanterns[i].light / (d * d) * (paint * k.y + shine * k.z);
    }
    return float4(sum, 1);
}
)";
const std::string quay_claim = R"(format = 1
language = "hlsl"
vertex = { file = "quay.hlsl", entry = "quay_vertex" }
fragment = { file = "quay.hlsl", entry = "quay_fragment" }
model = "blinn-phong"
rate = "fragment"
kinds = ["point"]
falloff = ["inverse-square"]
[attributes]
POSITION = "position"
NORMAL = "normal"
[uniforms]
rows = "object.to_world.transposed"
columns = "object.to_world"
turn = "object.normal_to_world"
toClip = "object.to_clip"
eye = "view.eye"
count = "lights.count"
sky = "ambient.light"
gloss = "material.shininess"
paint = "material.base"
shine = "material.specular"
"lanterns[*].place" = "lights[*].position"
"lanterns[*].light" = "lights[*].light"
)";

outcome checked_quay(const std::string& given, const std::string& program) {
    const temporary_folder folder;
    write_whole(folder / "quay.hlsl", given);
    write_whole(folder / "quay.toml", program);
    const std::string scenes = testing::whole ? "buoys lantern-row boatyard" : "buoys lantern-row";
    return run("cd " + folder.path() + " && " + tool + " check " + scenes + " --program quay.toml");
}

} // namespace

TEST_CASE("HLSL: a buffer of structures by its own name, matrices that are not square, lit()") {
    const outcome right = checked_quay(source, quay_claim);
    CAPTURE(right.out);
    CAPTURE(right.err);
    CHECK(right.status == 0);
    // lit() raises: what only multiplies is another model.
    CHECK(checked_quay(
              replaced(source, "shine * k.z", "shine * (k.y > 0 ? dot(n, normalize(l + v)) * gloss : 0)"),
              quay_claim)
              .status == 1);
    // The next lantern's place in the place of this one's.
    CHECK(checked_quay(replaced(source, "lanterns[i].place", "lanterns[(i + 1) % count].place"), quay_claim)
              .status == 1);
    if (!testing::patient) {
        return;
    }
    // A function of one's own that has the name is called.
    const std::string own =
        "float4 lit(float cosine, float highlight, float exponent) {\n    return float4(1, max(cosine, "
        "0), cosine > 0 ? pow(max(highlight, 0), exponent) : 0, 1);\n}\n";
    CHECK(checked_quay(own + source, quay_claim).status == 0);
    CHECK(checked_quay(replaced(own, "pow(max(highlight, 0), exponent)", "highlight") + source, quay_claim)
              .status == 1);
}

TEST_CASE("HLSL: a matrix that leaves out what is no row of the identity is one line") {
    const outcome turned = checked_quay(
        source, replaced(quay_claim, "rows = \"object.to_world.transposed\"", "rows = \"object.to_world\""));
    CHECK(turned.status == 2);
    CHECK(turned.one_line_of_error());
    CHECK(has(turned.err,
              "and `object.to_world` has more in its last row or column than the identity; a matrix of four "
              "columns and rows, or `.transposed` of this one"));
    const outcome projected = checked_quay(
        source, replaced(quay_claim, "columns = \"object.to_world\"", "columns = \"object.to_clip\""));
    CHECK(projected.status == 2);
    CHECK(projected.one_line_of_error());
    CHECK(has(projected.err, "`object.to_clip` has more in its last row"));
    const outcome none = checked_quay(source, replaced(quay_claim, "turn = \"object.normal_to_world\"",
                                                       "turn = \"object.normal_to_world[3]\""));
    CHECK(none.status == 2);
    CHECK(has(none.err, "`object.normal_to_world[3]` has no column 3; columns are 0 to 2"));
}

TEST_CASE("HLSL: where a block's numbers lie is told as HLSL has them, or that GLSL cannot say it") {
    const auto packed = [](const std::string& given) {
        const temporary_folder folder;
        write_whole(folder / "quay.hlsl", given);
        write_whole(folder / "quay.toml", quay_claim);
        return run("cd " + folder.path() + " && " + tool + " pack buoys --program quay.toml --json -");
    };
    const outcome told = packed(source);
    CAPTURE(told.err);
    // eye and count fill sixteen bytes, so do sky and gloss; std140 and HLSL agree.
    const nlohmann::json data = nlohmann::json::parse(told.out);
    std::map<std::string, int> offsets;
    for (const nlohmann::json& each : data.at("blocks")) {
        offsets[each.at("member").get<std::string>()] = each.at("offset").get<int>();
    }
    CHECK(offsets["eye"] == 0);
    CHECK(offsets["count"] == 12);
    CHECK(offsets["sky"] == 16);
    CHECK(offsets["gloss"] == 28);
    CHECK(offsets["paint"] == 32);
    CHECK(offsets["shine"] == 48);
    // A float3 after a float begins at 4 in HLSL, which no layout of GLSL has.
    const outcome close = packed(replaced(source, "float3 eye; uint count;", "uint count; float3 eye;"));
    CHECK(close.status == 2);
    CHECK(close.one_line_of_error());
    CHECK(has(close.err, "quay.hlsl: a vector in a block begins where no layout of GLSL can put it; each "
                         "float3 or float4 at a multiple of 16 bytes"));
    // To be drawn it may lie anywhere: its members are fed by name.
    CHECK(checked_quay(replaced(source, "float3 eye; uint count;", "uint count; float3 eye;"), quay_claim)
              .status == 0);
}
