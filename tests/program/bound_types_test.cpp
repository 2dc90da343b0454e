// What a name may be of: samplers of every kind, double precision, elements of an array without a size,
// blocks that two stages call alike. Each shader writes what it was given; expected values are that.
#include <cmath>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "program/drawn_program.hpp"
#include "program/guess_names.hpp"
#include "program/sampler_types.hpp"
#include "support/facing_eye.hpp"
#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"

using namespace yurvo;
using namespace yurvo::program;
using testing::drawn_program;
using testing::drawn_with;
using testing::filled;
using testing::replaced;

namespace {

const std::string place_vertex = "#version 400\nuniform mat4 toClip;\nin vec3 place;\n"
                                 "void main() { gl_Position = toClip * vec4(place, 1.0); }\n";
const std::string to_clip = "toClip = \"object.to_clip\"\n";

// What a fragment stage of GLSL writes in the middle, with one name bound.
rgb<float> written(const std::string& declared, const std::string& color, const std::string& bound) {
    const std::string fragment = "#version 400\n" + declared +
                                 "\nout vec4 color;\nvoid main() { color = vec4(" + color + ", 1.0); }\n";
    return drawn_with({"glsl", place_vertex, fragment, to_clip + bound}, filled()).color(20, 20);
}

// How a sampler is asked, at a place that its texture has.
std::string asked(const sampler_type& type) {
    if (type.holds == texel_kind::depths) { // in front of what lies at 0.5
        const bool four = type.form == texture_form::cube || type.form == texture_form::layers;
        return type.form == texture_form::cubes ? "texture(s, vec4(0.6, 0.5, 0.3, 0.0), 0.25)"
               : four                           ? "texture(s, vec4(0.6, 0.5, 0.0, 0.25))"
                                                : "texture(s, vec3(0.6, 0.0, 0.25))";
    }
    switch (type.form) {
    case texture_form::line:
        return "texture(s, 0.6)";
    case texture_form::flat:
    case texture_form::rectangle:
    case texture_form::lines:
        return "texture(s, vec2(0.6, 0.0))";
    case texture_form::volume:
    case texture_form::cube:
    case texture_form::layers:
        return "texture(s, vec3(0.6, 0.5, 0.0))";
    case texture_form::buffer:
        return "texelFetch(s, 4095)";
    case texture_form::cubes:
        break;
    }
    return "texture(s, vec4(0.6, 0.5, 0.3, 0.0))";
}

std::string message_of(const std::string& declared, const std::string& color, const std::string& bound) {
    try {
        (void)written(declared, color, bound);
    } catch (const error& wrong) {
        return wrong.what();
    }
    return "";
}

} // namespace

TEST_CASE("a sampler of any kind that is bound to a number is a texture of it") {
    for (const sampler_type& type : sampler_types) {
        CAPTURE(type.name);
        const std::string declared = "uniform " + std::string(type.name) + " s;";
        if (type.holds == texel_kind::depths) { // 0.25 is nearer than 0.5 and 1, and not than 0
            const std::string color = "vec3(" + asked(type) + ")";
            CHECK(written(declared, color, "s = 1.0").g == 1);
            CHECK(written(declared, color, "s = 0.5").g == 1);
            CHECK(written(declared, color, "s = 0.0").g == 0);
            continue;
        }
        const bool whole = type.holds != texel_kind::reals;
        const std::string color = "vec3(" + asked(type) + ".rgb)" + (whole ? " / 8.0" : "");
        CHECK(written(declared, color, whole ? "s = 3" : "s = 0.375") == rgb<float>(0.375F));
        CHECK(written(declared, color, whole ? "s = [1, 2, 3]" : "s = [0.125, 0.25, 0.375]") ==
              rgb<float>{0.125F, 0.25F, 0.375F});
        const std::string alpha = "vec3(" + asked(type) + ".a)" + (whole ? " / 8.0" : "");
        CHECK(written(declared, alpha, whole ? "s = [1, 2, 3, 4]" : "s = [0.1, 0.2, 0.3, 0.5]") ==
              rgb<float>(0.5F));
    }
    CHECK(written("uniform isampler2D s;", "vec3(texture(s, vec2(0.5)).rgb) * -0.25", "s = -3").r == 0.75F);
    CHECK(written("uniform samplerCube s;", "texture(s, vec3(0.0, 1.0, 0.0)).rgb", "s = \"ambient.light\"") ==
          rgb<float>(filled().ambient_color * filled().ambient_strength));
}

TEST_CASE("what a sampler cannot be is one line with its kind") {
    const std::string cube =
        message_of("uniform samplerCube sky;", "texture(sky, vec3(1.0)).rgb", "sky = \"material.texture\"");
    CHECK(testing::has(cube, "`sky` is a texture, a samplerCube; a factor (material.specular"));
    const std::string shadow = message_of("uniform sampler2DShadow deep;", "vec3(texture(deep, vec3(0.5)))",
                                          "deep = \"material.specular\"");
    CHECK(testing::has(shadow, "`deep` is a texture, a sampler2DShadow; a number, three, or four"));
    CHECK(
        testing::has(message_of("uniform sampler2D map;", "texture(map, vec2(0.5)).rgb", "map = [1, 2]"),
                     "`map` is a texture, a sampler2D; material.texture, material.texture_codes, a factor"));
    const std::string many =
        message_of("uniform sampler2DMS many;", "texelFetch(many, ivec2(0), 0).rgb", "many = 1");
    CHECK(testing::has(many, "the uniform `many` is of a type that cannot be bound; float, double"));
}

TEST_CASE("an array of textures shows the material's as a single one does") {
    scene textured = filled();
    textured.objects = {testing::facing_plank(4, 4)}; // from border to border
    texture image;
    image.width = 2;
    image.height = 2;
    image.texels = {rgb<float>(0.25F), rgb<float>(0.5F), rgb<float>(0.75F), rgb<float>(1.0F)};
    textured.materials[0].image = std::make_shared<const texture>(image);
    const std::string with_places =
        "#version 400\nuniform mat4 toClip;\nin vec3 place; in vec2 at; out vec2 t;\n"
        "void main() { t = at; gl_Position = toClip * vec4(place, 1.0); }\n";
    const auto shown = [&](const std::string& sampler, const std::string& place) {
        const std::string fragment = "#version 400\nin vec2 t;\nuniform " + sampler +
                                     " map;\nout vec4 color;\nvoid main() { color = texture(map, " + place +
                                     "); }\n";
        return drawn_with({"glsl", with_places, fragment, to_clip + "map = \"material.texture\"",
                           "place = \"position\"\nat = \"texcoord\"\n"},
                          textured);
    };
    const picture one = shown("sampler2D", "t");
    const picture layer = shown("sampler2DArray", "vec3(t, 0.0)");
    CHECK(one.values == layer.values);
    // Nearly in the middle of the lower left texel, which the file has third: an eightieth of the picture
    // away either way, of which a fortieth is of its neighbours, 0.25 brighter and 0.5 darker.
    CHECK(std::abs(one.color(9, 29).r - 0.75F) < 0.025F * 0.75F);
}

TEST_CASE("numbers of double precision, alone and in blocks") {
    CHECK(written("uniform dvec3 three; uniform double one;", "vec3(three * one)",
                  "three = [0.25, 0.5, 0.75]\none = 0.5") == rgb<float>{0.125F, 0.25F, 0.375F});
    // Column by column: the first is (1, 2), the second (3, 4), the third (5, 6).
    const std::string columns = "four[0].y / 8.0, four[1].x / 8.0, four[2].y / 8.0";
    const std::string numbers = "four = [1, 2, 3, 4, 5, 6]";
    CHECK(written("uniform dmat3x2 four;", columns, numbers) == rgb<float>{0.25F, 0.375F, 0.75F});
    for (const std::string layout : {"std140", "std140, row_major", "shared"}) {
        CAPTURE(layout);
        CHECK(written("layout(" + layout + ") uniform Quay { double before; dmat3x2 four; dvec3 three; };",
                      "vec3(" + columns + ") + vec3(before + three)",
                      numbers + "\nbefore = 0.25\nthree = [0.25, 0.5, 0.125]") ==
              rgb<float>{0.75F, 1.125F, 1.125F});
    }
}

TEST_CASE("of an array without a size what is bound by its place is enough") {
    const std::string declared = "#version 430\nstruct Crate { vec4 paint; };\n"
                                 "layout(std430) readonly buffer Crates { Crate crates[]; };\n"
                                 "layout(std430) readonly buffer Numbers { float numbers[]; };\n"
                                 "out vec4 color;\nvoid main() { int i = int(gl_FragCoord.y) / 40;\n"
                                 "color = vec4(crates[i].paint.rgb * numbers[i + 1], 1.0); }\n";
    const std::string bound = "\"crates[0].paint\" = [0.25, 0.5, 1.0, 1.0]\n\"numbers[1]\" = 0.5";
    const drawn_program right{"glsl", place_vertex, declared, to_clip + bound};
    // The first one of numbers is read nowhere, as far as anybody knows.
    const testing::temporary_folder folder;
    CHECK_THROWS_AS((void)drawn_with(right, filled()), error);
    const drawn_program whole{"glsl", place_vertex, declared, to_clip + bound + "\n\"numbers[0]\" = 8.0"};
    CHECK(drawn_with(whole, filled()).color(20, 20) == rgb<float>{0.125F, 0.25F, 0.5F});
}

TEST_CASE("of an array of lights without a size every element is asked for") {
    // By the first one's place alone a shader that reads that one for all would be right.
    const std::string declared = "#version 430\nstruct Lamp { vec4 light; };\n"
                                 "layout(std430) readonly buffer Lamps { Lamp lamps[]; };\n"
                                 "out vec4 color;\nvoid main() { int i = int(gl_FragCoord.y) / 40;\n"
                                 "color = vec4(lamps[i].light.rgb, 1.0); }\n";
    const drawn_program first{"glsl", place_vertex, declared,
                              to_clip + "\"lamps[0].light\" = \"lights[0].light\""};
    CHECK_THROWS_WITH_AS((void)drawn_with(first, filled()),
                         doctest::Contains("the shader reads the uniform `lamps[1].light`"), error);
}

TEST_CASE("blocks that two stages call alike and fill otherwise, as Vulkan and Direct3D allow") {
    const std::string vulkan_vertex =
        "#version 450\nlayout(location = 0) in vec3 place;\n"
        "layout(set = 0, binding = 0) uniform Block { mat4 toClip; } block;\n"
        "layout(push_constant) uniform Push { vec4 moved; } push;\n"
        "void main() { gl_Position = block.toClip * vec4(place + push.moved.xyz, 1.0); }\n";
    const std::string vulkan_fragment =
        "#version 450\nlayout(location = 0) out vec4 color;\n"
        "layout(set = 1, binding = 0) uniform Block { float share; vec3 paint; } block;\n"
        "layout(push_constant) uniform Push { layout(offset = 16) vec4 tint; } push;\n"
        "void main() { color = vec4(block.paint * block.share * push.tint.rgb, 1.0); }\n";
    const std::string uniforms = "\"block.toClip\" = \"object.to_clip\"\n\"push.moved\" = 0.0\n"
                                 "\"block.share\" = 0.5\n\"Block.paint\" = [1.0, 0.5, 0.25]\n"
                                 "\"push.tint\" = [1.0, 0.5, 1.0, 1.0]";
    const drawn_program vulkan{"glsl-vulkan", vulkan_vertex, vulkan_fragment, uniforms};
    CHECK(drawn_with(vulkan, filled()).color(20, 20) == rgb<float>{0.5F, 0.125F, 0.125F});
    // What both have alike is one block, as before.
    const drawn_program alike{
        "glsl-vulkan", vulkan_vertex,
        "#version 450\nlayout(location = 0) out vec4 color;\n"
        "layout(set = 0, binding = 0) uniform Block { mat4 toClip; } block;\n"
        "layout(push_constant) uniform Push { vec4 moved; } push;\n"
        "void main() { color = vec4(0.25 + push.moved.xyz + 0.0 * block.toClip[0].xyz, 1.0); }\n",
        "\"block.toClip\" = \"object.to_clip\"\n\"push.moved\" = 0.0"};
    CHECK(drawn_with(alike, filled()).color(20, 20) == rgb<float>(0.25F));
}

TEST_CASE("a member that a structure's copy alone names needs no binding") {
    const std::string source = R"(struct Lantern { float3 light; float unused; };
StructuredBuffer<Lantern> lanterns;
cbuffer A { float4x4 toClip; };
float4 vertex_main(float3 place : PLACE) : SV_Position { return mul(toClip, float4(place, 1)); }
float4 fragment_main(float4 at : SV_Position) : SV_Target {
    Lantern one = lanterns[uint(at.y) / 40];
    return float4(one.light, 1);
}
)";
    const drawn_program without{"hlsl", "", source, to_clip + "\"lanterns[0].light\" = [0.5, 0.25, 1.0]"};
    CHECK(drawn_with(without, filled()).color(20, 20) == rgb<float>{0.5F, 0.25F, 1.0F});
    // One that is read has to be bound.
    const drawn_program read{"hlsl", "", replaced(source, "one.light,", "one.light * one.unused,"),
                             to_clip + "\"lanterns[0].light\" = [0.5, 0.25, 1.0]"};
    CHECK_THROWS_WITH_AS((void)drawn_with(read, filled()),
                         doctest::Contains("the shader reads the uniform `lanterns._data[0].unused`"), error);
}

TEST_CASE("a texture goes by one name, whatever it is asked with") {
    const std::string source = R"(Texture2D<float4> planks : register(t0);
SamplerState smooth : register(s0);
SamplerState rough : register(s1);
cbuffer A { float4x4 toClip; };
float4 vertex_main(float3 place : PLACE) : SV_Position { return mul(toClip, float4(place, 1)); }
float4 fragment_main(float4 at : SV_Position) : SV_Target {
    uint width, height;
    planks.GetDimensions(width, height);
    float3 all = planks.Sample(smooth, float2(0.5, 0.5)).rgb + planks.Sample(rough, float2(0, 0)).rgb;
    return float4((all + planks.Load(int3(0, 0, 0)).rgb) * width * height, 1);
}
)";
    CHECK(drawn_with({"hlsl", "", source, to_clip + "planks = [0.125, 0.25, 0.0625]"}, filled())
              .color(20, 20) == rgb<float>{0.375F, 0.75F, 0.1875F}); // three times, of one texel
}

TEST_CASE("what a sampler's name and kind say of it") {
    const auto means = [](const char* name, std::uint32_t type) {
        return likely_uniform(name, shape_of(type));
    };
    constexpr std::uint32_t flat = 0x8B5E;
    constexpr std::uint32_t cube = 0x8B60;
    constexpr std::uint32_t flat_shadow = 0x8B62;
    constexpr std::uint32_t layers = 0x8DC1;
    CHECK(means("shadowMap", flat_shadow) == "1");
    CHECK(means("u_depth", flat_shadow) == "1");
    CHECK(means("shadowMap", flat) == "1");
    CHECK(means("planks", flat) == "material.texture");
    CHECK(means("planks", layers) == "material.texture");
    CHECK(means("specularMap", flat) == "material.specular");
    CHECK(means("environment", cube) == "0");
    CHECK(means("irradiance", cube) == "ambient.light");
}
