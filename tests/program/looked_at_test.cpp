// Whether what a shader does with a name is looked at: numbers that are given other values, and pictures that
// stay as they are.
#include <algorithm>
#include <iterator>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "program/disturbance.hpp"
#include "program/guess_looking.hpp"
#include "program/lambert_program.hpp"
#include "scene/in_size.hpp"
#include "support/run.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using namespace yurvo::program;
using testing::outcome;
using testing::run;
using testing::temporary_folder;

namespace {

// As drivers number types (OpenGL).
constexpr std::uint32_t float_type = 0x1406, vec3_type = 0x8B51, vec4_type = 0x8B52, int_type = 0x1404,
                        matrix_type = 0x8B5C, sampler_type = 0x8B5E;

bound_uniform uniform(const std::string& name, std::uint32_t type, const std::vector<std::string>& means) {
    bound_uniform made;
    made.active.name = name;
    made.active.type = type;
    for (const std::string& each : means) {
        const bool number = each.find_first_not_of("0123456789") == std::string::npos;
        made.means.push_back(number ? meaning(std::stod(each)) : parse_meaning(each, {}));
    }
    return made;
}

} // namespace

TEST_CASE("numbers that mean quantities are disturbed, each part of a vector alone, arrays as a whole") {
    bindings bound;
    bound.uniforms = {uniform("eye", vec3_type, {"view.eye"}),
                      uniform("lamps[0].reach", float_type, {"lights[0].range"}),
                      uniform("lamps[1].reach", float_type, {"lights[1].range"}),
                      uniform("place[2]", vec4_type, {"lights[2].position", "lights[2].range"}),
                      uniform("cone", vec4_type, {"lights[0].cos_inner", "lights[0].cos_outer", "1", "1"}),
                      uniform("boost", float_type, {"2"}),
                      uniform("count", int_type, {"lights.count"}),
                      uniform("counted", float_type, {"lights.count"}),
                      uniform("model", matrix_type, {"object.to_world"}),
                      uniform("boards", sampler_type, {"material.texture"})};
    const std::vector<disturbed_numbers> all = numbers_to_disturb(bound);
    std::vector<std::string> names;
    std::transform(all.begin(), all.end(), std::back_inserter(names),
                   [](const disturbed_numbers& each) { return each.name + each.letters; });
    REQUIRE(names == std::vector<std::string>{"eye", "lamps[*].reach", "place[*].xyz", "place[*].w", "cone.x",
                                              "cone.y"});
    std::vector<float> numbers{1, 2, 3, 4};
    disturb(all[3], disturbed_way::up, bound.uniforms[3], numbers);
    CHECK(numbers[0] == 1);
    CHECK(numbers[2] == 3);
    CHECK(numbers[3] > 4);
    const std::vector<float> before = numbers;
    disturb(all[4], disturbed_way::up, bound.uniforms[3], numbers); // another one's
    CHECK(numbers == before);
    disturb(all[3], disturbed_way::down, bound.uniforms[3], numbers);
    CHECK(numbers[3] < before[3]);
    std::vector<float> zeros{0, 0, 0};
    disturb(all[0], disturbed_way::down, bound.uniforms[0], zeros);
    CHECK(zeros[0] != 0);
    CHECK(zeros[1] != 0);
    CHECK(zeros[2] != 0);
}

TEST_CASE("a name of which no value changes a picture is told, and no other") {
    const temporary_folder folder;
    write_whole(folder / "a.vert", testing::world_vertex);
    // The cone is asked of spots alone, and the claim has none. The reach is one that only shows where it is
    // less.
    write_whole(folder / "a.frag", R"(#version 330
in vec3 p; in vec3 n; out vec4 c;
uniform vec3 sky, paint; uniform int count;
struct lamp { vec4 place; vec3 light; int kind; vec3 shines; vec2 cone; };
uniform lamp lamps[4];
void main() {
    vec3 u = normalize(n), lit = sky;
    for (int i = 0; i < count; ++i) {
        vec3 to = lamps[i].place.xyz - p;
        float d = length(to);
        float cone = lamps[i].kind != 2 ? 1.0
                   : smoothstep(lamps[i].cone.y, lamps[i].cone.x, dot(-to / d, normalize(lamps[i].shines)));
        lit += lamps[i].light * cone * max(1.0 - d / lamps[i].place.w, 0.0) * max(dot(u, to / d), 0.0);
    }
    c = vec4(lit * paint, 1.0);
})");
    write_whole(folder / "a.toml", testing::lambert_program("falloff = [\"linear\"]\nkinds = [\"point\"]\n",
                                                            R"(count = "lights.count"
"lamps[*].place" = ["lights[*].position", "lights[*].range"]
"lamps[*].light" = "lights[*].light"
"lamps[*].kind" = "lights[*].kind"
"lamps[*].shines" = "lights[*].shines"
"lamps[*].cone" = ["lights[*].cos_inner", "lights[*].cos_outer"]
)"));
    const program_renderer subject(read_program(folder / "a.toml"));
    std::vector<scene> scenes;
    for (const char* const name : {"buoys", "searchlight", "lamp-parts"}) {
        fitted_scene fitted = subject.fit(in_size(verify::find_reference(name)->scene, 64, 40));
        REQUIRE(fitted.fitted);
        scenes.push_back(*fitted.fitted);
    }
    CHECK(subject.names_without_effect(scenes) ==
          std::vector<std::string>{"lamps[*].shines", "lamps[*].cone.x", "lamps[*].cone.y"});
    const std::string tool = YURVO_TOOL;
    const outcome got = run(tool + " check buoys --program " + (folder / "a.toml"));
    CHECK(got.status == 0);
    CHECK(got.out.find("no value of `lamps[*].cone.x` changes a picture") != std::string::npos);
    CHECK(got.out.find("no value of `lamps[*].light`") == std::string::npos);
}

TEST_CASE("a guess asks of names that the text does something with, and takes them as it did at first") {
    shader_program sources;
    sources.vertex.source = sources.fragment.source = // HLSL has both stages in one file
        "struct lamp { float4 place; float2 cone; float reach; }; lamp lamps[4]; // reach, reach\n"
        "float4 f() { return lamps[0].place * lamps[0].cone.x; }";
    CHECK(names_in_use({"lamps[*].cone.x", "lamps[*].cone.y", "lamps[*].reach"}, sources) ==
          std::vector<std::string>{"lamps[*].cone"});
    // Where the eye is matters to no picture where all that it is for is a mirror of nothing; a highlight
    // that is switched off is not looked at.
    const auto asked_beside = [](const std::string& declared, double number, const char* means) {
        shader_program of;
        of.fragment.source = declared + "uniform vec3 eye; void main() { c = f(other, eye); }";
        of.uniforms.resize(2);
        of.uniforms[0].name = "eye";
        of.uniforms[0].means = {std::string(means)};
        of.uniforms[1].name = "other";
        of.uniforms[1].means = {number};
        return names_in_use({"eye"}, of);
    };
    CHECK(asked_beside("uniform samplerCube other; ", 0, "view.eye").empty());
    CHECK(asked_beside("TextureCube<float4> other; ", 0, "object.eye").empty());
    const std::vector<std::string> asked{"eye"};
    CHECK(asked_beside("uniform samplerCube other; ", 1, "view.eye") == asked);
    CHECK(asked_beside("uniform samplerCube other; ", 0, "lights[0].position") == asked);
    CHECK(asked_beside("uniform float other; ", 0, "view.eye") == asked);
    CHECK(asked_beside("uniform bool other; ", 0, "view.eye") == asked);
    CHECK(asked_beside("uniform sampler2D other; ", 0, "view.eye") == asked);
    const auto bound = [](const char* cone, std::vector<light_kind> kinds) {
        shader_program made;
        made.uniforms.resize(2);
        made.uniforms[0].name = "lamps[*].place";
        made.uniforms[0].means = {std::string("lights[*].place")};
        made.uniforms[1].name = "lamps[*].cone";
        made.uniforms[1].means = {std::string(cone)};
        made.kinds = std::move(kinds);
        return made;
    };
    const shader_program now = bound("ambient.light", {light_kind::point});
    shader_program first = bound("lights[*].cos_outer", {});
    first.uniforms[0].means = {std::string("lights[*].position")};
    const shader_program made = as_meant_at_first(now, first, {"lamps[*].cone"});
    CHECK_FALSE(made.kinds.has_value());
    CHECK(std::get<std::string>(made.uniforms[0].means.front()) == "lights[*].place");
    CHECK(std::get<std::string>(made.uniforms[1].means.front()) == "lights[*].cos_outer");
}
