// What is said of programs that are wrong, line for line.
#include <doctest/doctest.h>

#include <array>
#include <string>
#include <vector>

#include "support/replaced.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using testing::replaced;

namespace {

const std::string lines_vertex = R"(#version 330
in vec3 corner;
in vec3 facing;
uniform mat4 to_clip;
uniform mat3 turned_by;
out vec3 turned;
void main() {
    turned = turned_by * facing;
    gl_Position = to_clip * vec4(corner, 1.0);
}
)";
const std::string lines_fragment = R"(#version 330
uniform vec3 way;
uniform vec3 glow;
uniform vec3 sky;
uniform vec3 paint;
in vec3 turned;
layout(location = 0) out vec4 result;
void main() {
    result = vec4((sky + glow * max(dot(normalize(turned), way), 0.0)) * paint, 1.0);
}
)";
const std::string lines_claim = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "lambert"
rate = "fragment"
kinds = ["directional"]
[attributes]
corner = "position"
facing = "normal"
[uniforms]
to_clip = "object.to_clip"
turned_by = "object.normal_to_world"
way = "lights[0].to_light"
glow = "lights[0].light"
sky = "ambient.light"
paint = "material.base"
)";

// A change of one of the three files, and what is said of it; the folder's path before names of files is left
// out.
struct wrong_program {
    const char *file, *what, *with, *line;
};

std::string line_of(const wrong_program& wrong) {
    const testing::temporary_folder folder;
    const auto text = [&](const char* name, const std::string& right) {
        return std::string(wrong.file) == name ? replaced(right, wrong.what, wrong.with) : right;
    };
    write_whole(folder / "a.vert", text("a.vert", lines_vertex));
    write_whole(folder / "a.frag", text("a.frag", lines_fragment));
    write_whole(folder / "a.toml", text("a.toml", lines_claim));
    std::string said = "nothing";
    try {
        const program_renderer made(read_program(folder / "a.toml"));
        const scene& of = verify::find_reference("moon-crates")->scene;
        const fitted_scene fitted = made.fit(of);
        said = fitted.fitted ? "drawn" : fitted.skipped;
        if (fitted.fitted) {
            said = made.draw(*fitted.fitted).width > 0 ? "drawn" : "empty";
        }
    } catch (const error& failed) {
        said = failed.what();
    }
    for (std::size_t at = said.find(folder.path()); at != std::string::npos; at = said.find(folder.path())) {
        said.erase(at, folder.path().size() + 1);
    }
    return said;
}

} // namespace

TEST_CASE("a program that is right is drawn") {
    CHECK(line_of({"", "", "", ""}) == "drawn");
    // With the mark of UTF-8 before it, as some editors write it, as well.
    CHECK(line_of({"a.frag", "#version 330", "\xEF\xBB\xBF#version 330", ""}) == "drawn");
    CHECK(line_of({"a.vert", "#version 330", "\xEF\xBB\xBF#version 330", ""}) == "drawn");
}

TEST_CASE("each thing that can be wrong with a program is said in its own line, with its place") {
    const std::vector<wrong_program> all{
        // Sources: of the program's own the program file is told, of what they include they themselves.
        {"a.toml", "fragment = \"a.frag\"", "fragment = \"none.frag\"",
         "a.toml:4:12: `none.frag` cannot be read: No such file or directory; a source beside this file"},
        {"a.frag", "uniform vec3 way;\n", "#include \"none.glsl\"\n",
         "a.frag:2:11: `none.glsl` cannot be read: No such file or directory; a file beside the one that "
         "includes it"},
        // Before it is compiled, too.
        {"a.frag", "uniform vec3 way;\n", "#if 1 +\n#endif\nuniform vec3 way;\n",
         "a.frag:2:8: syntax error, unexpected NEWLINE; what the #version and the `language` of the program "
         "file have at this place"},
        // Attributes and uniforms.
        {"a.toml", "facing = \"normal\"\n", "",
         "a.toml: the shader reads the attribute `facing`, which [attributes] leaves out; "
         "facing = \"position\", \"normal\", \"texcoord\" or \"color\""},
        {"a.toml", "facing = ", "facign = ",
         "a.toml: the shader reads the attribute `facing`, which [attributes] leaves out; the nearest that "
         "it has is "
         "`facign`"},
        {"a.toml", "facing = \"normal\"\n", "facing = \"normal\"\ntangents = \"color\"\n",
         "a.toml:11:12: no source declares the attribute `tangents`; a name that the vertex stage declares"},
        {"a.toml", "facing = \"normal\"", "facing = \"binding\"",
         "a.toml:10:10: `facing` means no attribute; position, normal, texcoord, color, tangent, bitangent "
         "or "
         "what is the same at every vertex (a quantity, numbers)"},
        {"a.toml", "facing = \"normal\"", "facing = \"material.ropes\"",
         "a.toml:10:10: there is no quantity `material.ropes`; the nearest is `material.base`"},
        {"a.toml", "facing = \"normal\"", "facing = [1, 2]",
         "a.toml:10:10: `facing` is a vec3, and the literal has 2 numbers; a quantity of that size"},
        {"a.vert", "in vec3 facing;", "in ivec3 facing;\n#define facing vec3(facing)\n",
         "a.toml:10:10: the attribute `facing` is of a type that cannot be \"normal\"; float, or a vector of "
         "floats"},
        {"a.vert", "#version 330\nin vec3 corner;\nin vec3 facing;",
         "#version 410\nin vec3 corner;\nin dvec3 facing;\n#define facing vec3(facing)\n",
         "a.toml:10:10: the attribute `facing` is of a type that cannot be \"normal\"; float, or a vector of "
         "floats"},
        {"a.toml", "paint = \"material.base\"", "\"paint[*]\" = \"material.base\"",
         "a.toml:17:14: `paint` is no array; `paint`, without [*]"},
        {"a.toml", "corner = \"position\"", "corner = \"normal\"",
         "a.vert: the vertex stage reads no position; an attribute that [attributes] calls \"position\""},
        {"a.toml", "paint = \"material.base\"\n", "",
         "a.toml: the shader reads the uniform `paint`, which [uniforms] leaves out; \"paint\" = "
         "\"QUANTITY\""},
        {"a.toml", "paint = ", "pant = ",
         "a.toml: the shader reads the uniform `paint`, which [uniforms] leaves out; the nearest that it has "
         "is `pant`"},
        {"a.toml", "paint = \"material.base\"\n", "paint = \"material.base\"\nropes = 1.0\n",
         "a.toml:18:9: no source declares the uniform `ropes`; a name that a stage declares"},
        {"a.toml", "paint = \"material.base\"", "paint = []",
         "a.toml:17:9: `paint` means nothing; a quantity, a number, or a list of them"},
        {"a.toml", "paint = \"material.base\"", "paint = 2024-01-01",
         "a.toml:17:9: `paint` means no quantity and no number; a quantity in quotes, a number, or a list of "
         "them"},
        {"a.toml", "paint = \"material.base\"", "paint = \"material.base.transposed\"",
         "a.toml:17:9: `material.base.transposed` is no matrix; a matrix, or no .transposed"},
        {"a.toml", "paint = \"material.base\"", "paint = \"material.texture\"",
         "a.toml:17:9: `paint` is a vec3, and `material.texture` has 0 numbers; a quantity of that size"},
        {"a.toml", "paint = \"material.base\"", "paint = \"numbers.wrap\"",
         "a.toml:17:9: there is no number `wrap`; one of [numbers] in the program file"},
        {"a.toml", "way = \"lights[0].to_light\"", "way = \"lights[moon].to_light\"",
         "a.toml:14:7: `lights[moon]` names no light; lights[0], lights[*], lights.spot[0], or a light by "
         "its name: lights.NAME"},
        {"a.toml", "paint = \"material.base\"", "paint = \"= material.base / 0.0\"",
         "a.toml:17:9: `= material.base / 0.0` is not finite in this scene; an expression that is finite for "
         "every light "
         "that it is given"},
        // Stages that do not fit.
        {"a.frag", "in vec3 turned;", "in vec3 turned; in vec3 lost;\n#define turned (turned + lost)\n",
         "a.frag: the fragment stage reads `lost`, which the vertex stage does not write; an output of that "
         "name and "
         "type in the vertex stage"},
        {"a.frag", "out vec4 result;",
         "out vec2 small;\nvec4 result;\nvoid shade();\nvoid main() { shade(); small = result.rg; "
         "}\n#define main shade\n",
         "a.frag: the fragment stage writes `small` as a vec2; a vec4, a colour and its alpha, or a vec3"},
        {"a.frag", "layout(location = 0)", "layout(location = 2)",
         "a.frag: the fragment stage writes only `result` at location 2; a vec4 at location 0"},
        {"a.frag", "uniform vec3 paint;",
         "uniform vec3 paint; uniform sampler2DMS fog;\n#define paint texelFetch(fog, ivec2(paint.xy), "
         "0).rgb\n",
         "a.toml: the uniform `fog` is of a type that cannot be bound; float, double, int, bool, vectors and "
         "matrices of them, and samplers of textures that are not multisampled"},
        // The program file itself.
        {"a.toml", "kinds = [\"directional\"]", "without = [\"moon\"]",
         "a.toml:7:12: `moon` is no essential; ambient, light.color, light.intensity, material.base or "
         "material.specular"},
        {"a.toml", "kinds = [\"directional\"]", "without = \"moon\"",
         "a.toml:7:11: it is not a list of essentials; ambient, light.color, light.intensity, material.base "
         "or material.specular"},
        {"a.toml", "[attributes]", "[constants]\nmaterial = { shininess = [] }\n[attributes]",
         "a.toml:9:26: `material.shininess` has no numbers; a number, or a list of them"},
        {"a.toml", "[attributes]", "[constants]\nmaterial = { base = [1.0, 1.0] }\n[attributes]",
         "a.toml:9:21: the constant `material.base` has 2 numbers; three, or one for all"},
        {"a.toml", "[attributes]", "[constants]\nview = { eye = [0.0, 0.0, 1.0] }\n[attributes]",
         "a.toml:9:16: `view.eye` is no constant of a scene's; a quantity of a material, of ambient light, "
         "of [shading] "
         "or of a light"},
        {"a.toml", "kinds = [\"directional\"]", "kinds = [\"sun\"]",
         "a.toml:7:9: `sun` is not known; directional, point or spot"},
        {"a.frag", "uniform vec3 paint;",
         "uniform sampler2D paint;\nvec3 of(sampler2D s) { return texture(s, vec2(0.5)).rgb; }\n"
         "#define paint of(paint)\n",
         "a.toml:17:9: `paint` is a texture, a sampler2D; material.texture, material.texture_codes, a factor "
         "(material.specular, .emission, .ambient, .diffuse, ambient.light), a number, three, or four"},
        {"a.toml", "[attributes]", "[constants]\n\"lights[0].kind\" = 1.0\n[attributes]",
         "a.toml:9:20: `lights[0].kind` cannot be set in a scene; a quantity that determines values of the "
         "scene: "
         "lights[0].position, material.shininess"},
        {"a.toml", "kinds = [\"directional\"]\n", "", "drawn"},
    };
    for (const wrong_program& each : all) {
        CAPTURE(std::string(each.what));
        CAPTURE(std::string(each.with));
        CHECK(line_of(each) == each.line);
    }
}

TEST_CASE("what a program cannot draw is said before anything is drawn") {
    const testing::temporary_folder folder;
    write_whole(folder / "a.vert", lines_vertex);
    write_whole(folder / "a.frag", lines_fragment);
    write_whole(folder / "a.toml", lines_claim);
    const program_renderer made(read_program(folder / "a.toml"));
    const scene& moon_alone = verify::find_reference("moon-crates")->scene;
    const fitted_scene fitted = made.fit(moon_alone);
    REQUIRE(fitted.fitted);
    draw_settings without;
    without.terms = {.ambient = true, .diffuse = false, .specular = true, .emission = true};
    CHECK_THROWS_WITH_AS(static_cast<void>(made.draw(*fitted.fitted, without)),
                         ((folder / "a.toml") +
                          ": the program cannot draw this without some of its terms; material.diffuse, "
                          "material.specular and ambient.strength bound in [uniforms]")
                             .c_str(),
                         error);
    // What takes no scene at all.
    class in_the_dark final : public renderer {
      public:
        [[nodiscard]] picture draw(const scene& /*the_scene*/, const draw_settings& /*settings*/,
                                   draw_statistics* /*statistics*/) const override {
            throw cannot_draw();
        }
        [[nodiscard]] fitted_scene fit(const scene& /*the_scene*/) const override {
            return {std::nullopt, {}, "there is no lamp"};
        }
    };
    scene titled = moon_alone;
    titled.title = "quay";
    CHECK_THROWS_WITH_AS(static_cast<void>(check(titled, in_the_dark())),
                         "quay: there is no lamp; a scene that the renderer takes", error);
}

TEST_CASE("sources that include themselves, each other, too much, or what is not there") {
    const testing::temporary_folder folder;
    const auto said = [&](const std::string& text) {
        write_whole(folder / "a.frag", text);
        std::string line = "read";
        try {
            read_stage(folder / "a.frag", shading_language::glsl);
        } catch (const error& failed) {
            line = failed.what();
        }
        for (std::size_t at = line.find(folder.path()); at != std::string::npos;
             at = line.find(folder.path())) {
            line.erase(at, folder.path().size() + 1);
        }
        return line;
    };
    CHECK(said("void main() {}\n") == "read");
    // What is included stands where it is included, and as it is.
    write_whole(folder / "lamp.glsl", "uniform float lamp;\n");
    CHECK(said("#include \"lamp.glsl\"\nvoid main() {}\n") == "read");
    CHECK(read_stage(folder / "a.frag", shading_language::glsl).source ==
          "uniform float lamp;\nvoid main() {}\n");
    CHECK(said("\n  #include \"none.glsl\"\n") == "a.frag:2:13: `none.glsl` cannot be read: No such file or "
                                                  "directory; a file beside the one that includes it");
    CHECK(said("#include \"a.frag\"\n") ==
          "a.frag:1:11: `a.frag` is included over and over; a file that does not include itself");
    write_whole(folder / "large.glsl", std::string(std::size_t{3} << 20U, ' ') + "\n");
    CHECK(said("#include \"large.glsl\"\n#include \"large.glsl\"\n") ==
          "large.glsl:1:1: with what it includes the source is over 4 MB; a smaller one");
}

TEST_CASE("SPIR-V that is none, cut off, or no valid module") {
    const testing::temporary_folder folder;
    const std::string spirv =
        replaced(replaced(replaced(lines_claim, "\"glsl\"", "\"spirv\""), "a.vert", "a.vert.spv"), "a.frag",
                 "a.frag.spv");
    write_whole(folder / "a.toml", spirv);
    const auto said = [&](const std::string& bytes) {
        write_whole(folder / "a.vert.spv", bytes);
        write_whole(folder / "a.frag.spv", bytes);
        try {
            const program_renderer made(read_program(folder / "a.toml"));
        } catch (const error& failed) {
            return std::string(failed.what()).substr(folder.path().size() + 1);
        }
        return std::string("read");
    };
    const std::string no_spirv =
        "a.vert.spv: it is no SPIR-V; a module as a compiler wrote it, little-endian";
    CHECK(said("") == no_spirv);
    CHECK(said("lantern") == no_spirv);
    CHECK(said(std::string("\x07\x23\x02\x03", 4) + std::string(16, '\0')) == no_spirv); // big-endian
    const std::string head("\x03\x02\x23\x07\x00\x05\x01\x00\x00\x00\x00\x00\x01\x00\x00\x00\x00\x00\x00\x00",
                           20);
    CHECK(said(head).starts_with("a.vert.spv: it is no valid SPIR-V module: "));
    CHECK(said(head + std::string("\xff\xff\xff\xff", 4))
              .starts_with("a.vert.spv: it is no valid SPIR-V module: "));
    CHECK(said(head).ends_with("; the module as a compiler wrote it"));
}

TEST_CASE("a shader's own numbers for words are whole and at most a million either way") {
    const testing::temporary_folder folder;
    write_whole(folder / "a.vert", lines_vertex);
    write_whole(folder / "a.frag", lines_fragment);
    const auto kinds_as = [&](const std::string& numbers) {
        write_whole(folder / "a.toml",
                    replaced(lines_claim, "kinds = [\"directional\"]",
                             "kinds = [\"directional\"]\nkind_numbers = { " + numbers + " }"));
        return read_program(folder / "a.toml").numbered.kinds;
    };
    CHECK(kinds_as("spot = 1000000") == std::array{0, 1, 1'000'000});
    CHECK(kinds_as("directional = -1000000, point = 7") == std::array{-1'000'000, 7, 2});
    for (const char* const number : {"1000001", "-1000001", "1.5", "\"two\"", "9223372036854775807"}) {
        CAPTURE(number);
        CHECK_THROWS_WITH_AS(kinds_as(std::string("point = ") + number),
                             (folder / "a.toml:8:26: `point` is no whole number; such as 1").c_str(), error);
    }
}
