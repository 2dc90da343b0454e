// What a program is read and bound by, piece by piece, without a driver: expressions of quantities, a source
// before the driver has it, constants that scenes take.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <string>
#include <vector>

#include "program/binding_expression.hpp"
#include "program/constants.hpp"
#include "program/source_text.hpp"
#include "support/run.hpp"
#include "yurvo/geometry/transform.hpp"

using namespace yurvo;
using testing::has;
using namespace yurvo::program;

namespace {

// A crate 2 m up, turned by nothing and doubled along x; a lantern and the moon. The eye looks along -z.
scene crate_and_two_lights() {
    scene made;
    made.view.eye = {1, 2, 10};
    made.view.target = {1, 2, 0};
    made.view.width = 64;
    made.view.height = 32;
    named_material paint;
    paint.name = "paint";
    paint.look.base = {0.5, 0.25, 0.125};
    paint.look.shininess = 20;
    made.materials.push_back(paint);
    object crate;
    crate.shape = box_shape{{1, 1, 1}};
    crate.placed.position = {0, 2, 0};
    crate.placed.scale = {2, 1, 1};
    made.objects.push_back(crate);
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.kind = light_kind::point;
    lantern.light.position = {4, 1, 1};
    lantern.light.color = {1, 0.5, 0.25};
    lantern.light.intensity = 8;
    lantern.light.falloff = falloff_kind::windowed;
    lantern.light.range = 5;
    made.lights.push_back(lantern);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {0, -3, -4};
    made.lights.push_back(moon);
    return made;
}

const source_location here{"quay.toml", 7, 1};

std::vector<double> value_of(const std::string& expression, int each = 0) {
    const scene of = crate_and_two_lights();
    const pipeline::stage staged = pipeline::make_stage(of);
    const law_numbers numbered;
    const quantity_context in{of, staged, staged.objects.front(), numbered};
    return evaluate(parse_binding_expression(expression, here), each, in, here).numbers;
}

void check_numbers(const std::string& expression, const std::vector<double>& expected, int each = 0) {
    CAPTURE(expression);
    const std::vector<double> found = value_of(expression, each);
    REQUIRE(found.size() == expected.size());
    for (std::size_t i = 0; i < found.size(); ++i) {
        // At most a few dozen operations on numbers below 100.
        CHECK(found[i] == doctest::Approx(expected[i]).epsilon(1e-13));
    }
}

std::string told(const std::string& expression) {
    try {
        value_of(expression);
    } catch (const error& wrong) {
        CHECK(wrong.where().file == "quay.toml");
        CHECK(wrong.where().line == 7);
        return wrong.what();
    }
    return "";
}

shader_program with_sources(const std::string& vertex, const std::string& fragment,
                            shading_language language = shading_language::glsl) {
    shader_program made;
    made.language = language;
    made.file = "quay.toml";
    made.vertex.file = "quay.vert";
    made.vertex.source = vertex;
    made.fragment.file = "quay.frag";
    made.fragment.source = fragment;
    return made;
}

claims with_constant(const std::string& what, const std::vector<double>& numbers) {
    claims made;
    made.constants.push_back({parse_quantity(what, here), numbers, here});
    return made;
}

} // namespace

TEST_CASE("an expression of quantities has the value that hand arithmetic gives") {
    check_numbers("material.shininess * 4.0", {80});
    check_numbers("lights[*].color * lights[*].intensity", {8, 4, 2}, 0);
    check_numbers("1.0 / lights[*].range", {0.2}, 0);
    // The moon has no range: 1 / 0 is not finite, and for such a light 0.
    check_numbers("1.0 / lights[*].range", {0}, 1);
    check_numbers("lights[1].to_light", {0, 0.6, 0.8});
    check_numbers("lights.lantern.position.zyx", {1, 1, 4});
    check_numbers("lights[0].position - view.eye", {3, -1, -9});
    check_numbers("max(material.base.r, 0.75) + pi", {0.75 + pi});
    // Matrices by hand: the crate's corner (0.5, 0.5, 0.5) stands at (1, 2.5, 0.5); a direction only doubles.
    check_numbers("object.to_world * vec4(0.5, 0.5, 0.5, 1.0)", {1, 2.5, 0.5, 1});
    check_numbers("(object.to_world * vec4(1.0, 0.0, 0.0, 0.0)).xyz", {2, 0, 0});
    check_numbers("view.world_to_view * object.to_world * vec4(0.0, 0.0, 0.0, 1.0)", {-1, 0, -10, 1});
    // From the world and back is nothing.
    check_numbers("object.from_world * object.to_world", {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1});
}

TEST_CASE("an expression that is none is one line with its place and what would be right") {
    CHECK(has(told("view.eyes"), "`view.eye`"));
    CHECK(has(told("view.eye +"), "in `= view.eye +`"));
    CHECK(has(told("object.to_world + 1.0"), "a matrix stands where no product is"));
    CHECK(has(told("object.to_world * view.eye"), "multiplied with 3 numbers"));
    CHECK(has(told("vec3(1.0, 2.0)"), "vec3"));
}

TEST_CASE("a source without its comments has the same lines and columns") {
    CHECK(without_comments("a // b\nc") == "a     \nc");
    CHECK(without_comments("a /* b\nc */ d") == "a     \n     d");
    CHECK(without_comments("a /* // */ b") == "a          b");
    CHECK(without_comments("// no end") == std::string(9, ' '));
    CHECK(without_comments("/* no end") == std::string(9, ' '));
}

TEST_CASE("a light that a scene has not is dark, far above the eye, and has numbers that can be divided by") {
    const int missing = 7; // of two
    check_numbers("lights[*].color", {0, 0, 0}, missing);
    check_numbers("lights[*].range", {1}, missing);
    check_numbers("lights[*].outer_degrees", {90}, missing);
    check_numbers("lights[*].exponent", {1}, missing);
    check_numbers("lights[*].coefficients", {1, 0, 0}, missing);
    check_numbers("lights[*].shines", {0, -1, 0}, missing);
    check_numbers("lights[*].cos_inner", {1}, missing);
    check_numbers("lights[*].cos_outer", {0}, missing);
    check_numbers("lights[*].position.y - view.eye.y", {1000}, missing);
}

TEST_CASE("what the driver is given: a version, high precision, and the source as it is written beside it") {
    const std::string main = "void main() { gl_FragColor = vec4(1.0); }\n";
    const driver_sources es =
        prepared(with_sources("attribute vec3 p;\nvoid main() {}\n", "precision mediump float;\n" + main,
                              shading_language::glsl_es));
    CHECK(es.fragment.starts_with("#version 100"));
    CHECK(has(es.fragment, "#define mediump highp"));
    CHECK(has(es.fragment_as_written, "precision mediump float"));
    CHECK_FALSE(has(es.fragment_as_written, "highp"));
    // Samplers of ES are coarser than they need to be; a desktop's dialect has no defaults to raise.
    CHECK(has(es.fragment, "precision highp float; precision highp int; precision highp sampler2D;"));
    // They stand after the version and before everything else, but in no #if.
    const auto place_in = [](const std::string& text, const std::string& part) { return text.find(part); };
    CHECK(place_in(es.fragment, "#define mediump highp") < place_in(es.fragment, "precision highp float;"));
    CHECK(place_in(es.fragment, "precision highp sampler2D;") <
          place_in(es.fragment, "precision mediump float;"));
    const std::string guarded =
        prepared(with_sources("attribute vec3 p;\nvoid main() {}\n",
                              "#ifdef GL_ES\nprecision mediump float;\n#endif\nvarying vec3 lit;\n" + main,
                              shading_language::glsl_es))
            .fragment;
    CHECK(place_in(guarded, "#endif") < place_in(guarded, "precision highp float;"));
    CHECK(place_in(guarded, "precision highp sampler2D;") < place_in(guarded, "varying vec3 lit;"));
    const driver_sources desktop =
        prepared(with_sources("#version 330\nvoid main() {}\n", "#version 330\nmediump float lit;\n" + main));
    CHECK(has(desktop.fragment, "#define mediump highp"));
    CHECK_FALSE(has(desktop.fragment, "precision highp"));
    CHECK(has(desktop.fragment_as_written, "mediump float lit"));
    // A source that declares no coarser precision is handed over as it is: one picture, not two.
    const driver_sources plain =
        prepared(with_sources("#version 330\nvoid main() {}\n", "#version 330\n" + main));
    CHECK(plain.fragment == "#version 330\n" + main);
    CHECK(plain.fragment_as_written.empty());
    CHECK_FALSE(plain.old_dialect);
    // `mediump` in a comment declares nothing.
    CHECK(prepared(with_sources("#version 330\n", "#version 330\n// mediump\n" + main))
              .fragment_as_written.empty());
    CHECK(prepared(with_sources("#version 120\n", "#version 120\n" + main)).old_dialect);
    CHECK(prepared(with_sources("void main() {}\n", main)).old_dialect);
    // Lines that were added are not the user's.
    const std::size_t version = 1, defines = 2;
    CHECK(line_as_written(es.fragment, version + defines + 2) <= 2);
    CHECK(line_as_written(plain.fragment, 2) == 2);
}

TEST_CASE("what a source declares and reads") {
    const shader_program given =
        with_sources("#version 330\nuniform Lamps { vec4 place[4]; float unused; } lamps;\nvoid main() {}\n",
                     "#version 330\nuniform vec3 glow[3]; // glow[9]\nuniform Rope { float taut; };\n"
                     "void main() { vec3 a = glow[0] * taut; }\n");
    CHECK(declared_size(given, "glow") == 3);
    CHECK(declared_size(given, "place") == 4);
    CHECK(declared_size(given, "taut") == 0);
    CHECK(declared_size(given, "no(name") == 0);
    const auto size = [](const std::string& declared, const std::string& name = "lamps") {
        return declared_size(with_sources("void main() {}\n", declared), name);
    };
    // By names for numbers, and what is worked out of them.
    CHECK(size("#define MOST 6\nuniform Lamp lamps[MOST];") == 6);
    CHECK(size("#define MOST (2 * PAIRS) // pairs\n#define PAIRS 3u\nuniform Lamp lamps[ MOST ] ;") == 6);
    CHECK(size("const int most = 4;\nuniform vec3 places[2], lamps[most], other;") == 4);
    CHECK(size("static const uint Most = 5;\nLamp lamps[Most + 1] : register(c4);") == 6);
    CHECK(size("const highp int A = 12, B = 1;\nuniform vec4 lamps[A / 4 - B];") == 2);
    CHECK(size("layout(constant_id = 0) const int MOST = 3;\nuniform A { Lamp lamps[MOST]; };") == 3);
    CHECK(size("uniform A { vec4 x; } lamps[3];") == 3);
    CHECK(size("uniform vec3[4] lamps;") == 4);
    // Of an array of arrays each.
    CHECK(size("uniform vec3 lamps[2][5];", "lamps[0]") == 5);
    CHECK(size("uniform vec3 lamps[2][5];") == 2);
    CHECK(size("uniform vec3 lamps[2];", "lamps[0]") == 0);
    // Reading an element declares nothing.
    CHECK(size("uniform vec3 lamps[2]; void f() { a = lamps[7]; return lamps[9]; }") == 2);
    // Of two numbers the least: whichever branch is compiled has room for that.
    CHECK(size("#ifdef SMALL\n#define MOST 2\n#else\n#define MOST 8\n#endif\nuniform vec3 lamps[MOST];") ==
          2);
    // What is no number there: another name, itself, by nothing.
    CHECK(size("uniform vec3 lamps[MOST];") == 0);
    CHECK(size("#define MOST MOST\nuniform vec3 lamps[MOST];") == 0);
    CHECK(size("#define A B\n#define B A\nuniform vec3 lamps[A];") == 0);
    CHECK(size("uniform vec3 lamps[3 / 0];") == 0);
    CHECK(size("uniform vec3 lamps[999999 * 999999];") == 0);
    CHECK(size("uniform vec3 lamps[(((2)))];") == 2);
    CHECK(size("uniform vec3 lamps[" + std::string(1000, '(') + "];") == 0);
    CHECK(size("uniform vec3 lamps[-2];") == 0);
    CHECK(size("buffer A { Lamp lamps[]; };") == 0);
    const std::map<std::string, std::string> instances = block_instances(given);
    CHECK(instances.at("Lamps") == "lamps");
    CHECK(instances.at("Rope").empty());
    const driver_sources sources = prepared(given);
    CHECK(reads(sources, "Rope.taut"));
    CHECK(reads(sources, "glow[0]"));
    CHECK_FALSE(reads(sources, "Lamps.unused"));
    CHECK(declares(given, "Lamps.unused"));
    CHECK(declares(given, "lamps.place[2]"));
    CHECK_FALSE(declares(given, "lamps.height"));
    CHECK_FALSE(declares(given, "bollard"));
}

TEST_CASE("names of the fixed function are refused with their line, and with what to write instead") {
    const auto refused = [](const std::string& line) {
        try {
            prepared(with_sources("#version 120\n", "#version 120\n" + line + "\nvoid main() {}\n"));
        } catch (const error& wrong) {
            CHECK(wrong.where().file == "quay.frag");
            CHECK(wrong.where().line == 2);
            return std::string(wrong.what());
        }
        return std::string();
    };
    CHECK(has(refused("vec4 a = gl_LightSource[0].position;"), "lights[0]"));
    CHECK(has(refused("mat4 a = gl_ModelViewProjectionMatrix;"), "object.to_clip"));
    CHECK(has(refused("vec4 a = gl_Vertex;"), "[attributes]"));
    CHECK(refused("// gl_Vertex").empty());
}

TEST_CASE("constants set the scene: products the colour, directions made unit, one component of a colour") {
    scene of = crate_and_two_lights();
    set_constants(with_constant("material.shininess", {64}), of);
    CHECK(of.materials[0].look.shininess == 64);
    set_constants(with_constant("material.base[1]", {0.75}), of);
    CHECK(of.materials[0].look.base.r == 0.5);
    CHECK(of.materials[0].look.base.g == 0.75);
    set_constants(with_constant("lights[0].light", {0.9, 0.6, 0.3}), of);
    CHECK(of.lights[0].light.color.g == 0.6);
    CHECK(of.lights[0].light.intensity == 1);
    set_constants(with_constant("ambient.light", {0.1}), of);
    CHECK(of.ambient_color.b * of.ambient_strength == doctest::Approx(0.1).epsilon(1e-15));
    // (3, 0, 4) to the light: it shines the other way, made unit.
    set_constants(with_constant("lights.directional[0].to_light", {3, 0, 4}), of);
    CHECK(of.lights[1].light.shines.x == doctest::Approx(-0.6).epsilon(1e-15));
    CHECK(of.lights[1].light.shines.z == doctest::Approx(-0.8).epsilon(1e-15));
    set_constants(with_constant("lights[*].intensity", {2}), of);
    CHECK(of.lights[0].light.intensity == 2);
    CHECK(of.lights[1].light.intensity == 2);
    // A light that is not there is passed over.
    set_constants(with_constant("lights[7].intensity", {3}), of);
    CHECK(of.lights[1].light.intensity == 2);
    CHECK_THROWS_AS(set_constants(with_constant("material.shininess", {1, 2}), of), error);
}

TEST_CASE("constants of materials and of cel: a colour with its alpha, bands grey and in colours") {
    scene of = crate_and_two_lights();
    set_constants(with_constant("material.base_alpha", {0.5, 0.25, 0.125, 0.75}), of);
    CHECK(of.materials[0].look.base == rgb<double>{0.5, 0.25, 0.125});
    CHECK(of.materials[0].look.alpha == 0.75);
    set_constants(with_constant("material.alpha", {0.5}), of);
    CHECK(of.materials[0].look.alpha == 0.5);
    set_constants(with_constant("material.two_sided", {1}), of);
    CHECK(of.materials[0].look.two_sided);
    of.shading.model = model_kind::cel;
    set_constants(with_constant("shading.thresholds", {0.25, 0.5}), of);
    CHECK(of.shading.cel.thresholds == std::vector<double>{0.25, 0.5});
    set_constants(with_constant("shading.outline", {0.125}), of);
    CHECK(of.shading.cel.outline == 0.125);
    set_constants(with_constant("shading.outline_color", {0.5, 0, 0.25}), of);
    CHECK(of.shading.cel.outline_color == rgb<double>{0.5, 0, 0.25});
    set_constants(with_constant("shading.bands", {0.25, 0.5, 1}), of); // two thresholds: three greys
    CHECK(of.shading.cel.bands ==
          std::vector<rgb<double>>{rgb<double>(0.25), rgb<double>(0.5), rgb<double>(1.0)});
    set_constants(with_constant("shading.bands", {0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9}), of);
    CHECK(of.shading.cel.bands ==
          std::vector<rgb<double>>{{0.1, 0.2, 0.3}, {0.4, 0.5, 0.6}, {0.7, 0.8, 0.9}});
    CHECK_THROWS_WITH_AS(set_constants(with_constant("material.base_alpha", {1, 1, 1}), of),
                         doctest::Contains("four: a colour and its alpha"), error);
}

TEST_CASE("constants of places and directions: in the space that they name, a fourth number, strengths") {
    scene of = crate_and_two_lights(); // the eye is at (1, 2, 10) and looks along -z
    set_constants(with_constant("ambient.strength", {0.25}), of);
    CHECK(of.ambient_strength == 0.25);
    set_constants(with_constant("ambient.color", {0.5, 0.25, 0.125}), of);
    CHECK(of.ambient_color == rgb<double>(0.5, 0.25, 0.125));
    CHECK(of.ambient_strength == 0.25);
    // A place in view space, and back in the world.
    set_constants(with_constant("lights[0].position_view", {1, 0, -4}), of);
    CHECK(of.lights[0].space == light_space::view);
    CHECK(of.lights[0].light.position == vec3<double>(1, 0, -4));
    set_constants(with_constant("lights[0].position", {3, 2, 1}), of);
    CHECK(of.lights[0].space == light_space::world);
    CHECK(of.lights[0].light.position == vec3<double>(3, 2, 1));
    // A number that has no space leaves it as it is.
    set_constants(with_constant("lights[0].position_view", {1, 0, -4}), of);
    set_constants(with_constant("lights[0].intensity", {3}), of);
    CHECK(of.lights[0].space == light_space::view);
    // A fourth number says which of the two it is: a place, or the way to a light.
    of = crate_and_two_lights();
    set_constants(with_constant("lights[0].place", {4, 5, 6, 1}), of);
    CHECK(of.lights[0].light.position == vec3<double>(4, 5, 6));
    set_constants(with_constant("lights[1].place", {0, 3, 4, 0}), of);
    CHECK(of.lights[1].light.shines.y == doctest::Approx(-0.6).epsilon(1e-15));
    CHECK(of.lights[1].light.shines.z == doctest::Approx(-0.8).epsilon(1e-15));
    CHECK_THROWS_AS(set_constants(with_constant("lights[0].place", {4, 5, 6}), of), error);
}

TEST_CASE("a constant product: one number is grey light, three a colour") {
    scene of = crate_and_two_lights();
    set_constants(with_constant("lights[0].diffuse_light", {0.5}), of);
    CHECK(of.lights[0].light.color == rgb<double>(0.5));
    CHECK(of.lights[0].light.intensity == 1);
    CHECK(of.lights[0].light.diffuse == rgb<double>(1.0));
    set_constants(with_constant("lights[0].specular_light", {0.5, 0.25, 0.125}), of);
    CHECK(of.lights[0].light.color == rgb<double>(0.5, 0.25, 0.125));
    CHECK(of.lights[0].light.specular == rgb<double>(1.0));
}

TEST_CASE("a constant that another contradicts is found, one that agrees is not") {
    claims both = with_constant("lights[0].light", {1, 0.5, 0.25});
    both.constants.push_back({parse_quantity("lights[0].intensity", here), {1}, here});
    scene of = crate_and_two_lights();
    set_constants(both, of);
    CHECK(contradiction(both, of) == nullptr);
    both.constants.push_back({parse_quantity("lights[0].color", here), {1, 1, 1}, here});
    set_constants(both, of);
    const claimed_constant* found = contradiction(both, of);
    REQUIRE(found != nullptr);
    CHECK(found->what.text == "lights[0].light");
}
