// What a program is read and bound by, piece by piece, without a driver: expressions of quantities, a source
// before the driver has it, constants that scenes take, and what names say.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "program/binding_expression.hpp"
#include "program/constants.hpp"
#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/source_text.hpp"
#include "yurvo/geometry/transform.hpp"

using namespace yurvo;
using namespace yurvo::program;

namespace {

const type_shape vec3_shape{3, 0, false, false, "vec3"};
const type_shape vec4_shape{4, 0, false, false, "vec4"};
const type_shape mat4_shape{16, 4, false, false, "mat4"};
const type_shape float_shape{1, 0, false, false, "float"};

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

bool has(const std::string& text, const std::string& part) { return text.find(part) != std::string::npos; }

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

TEST_CASE("names without their prefix, single letters and a light's own name say what they mean") {
    const std::vector<std::pair<std::string, std::string>> attributes{{"a_position", "position"},
                                                                      {"in_normal", "normal"},
                                                                      {"p", "position"},
                                                                      {"n", "normal"},
                                                                      {"c", "color"},
                                                                      {"t", "texcoord"}};
    for (const auto& [name, means] : attributes) {
        CAPTURE(name);
        CHECK(likely_attribute(name) == means);
    }
    const std::vector<std::pair<std::string, std::string>> vectors{{"u_lampPosition", "lights[0].position"},
                                                                   {"lamp", "lights[0].position"},
                                                                   {"lampView", "lights[0].position_view"},
                                                                   {"radiance", "lights[0].light"},
                                                                   {"u_eye", "view.eye"},
                                                                   {"tide", ""}};
    for (const auto& [name, means] : vectors) {
        CAPTURE(name);
        CHECK(likely_uniform(name, vec3_shape) == means);
    }
    CHECK(likely_uniform("lamp", vec4_shape) == "lights[0].place");
    CHECK(likely_uniform("M", mat4_shape) == "object.to_world");
    CHECK(likely_uniform("V", mat4_shape) == "view.world_to_view");
    CHECK(likely_uniform("P", mat4_shape) == "view.view_to_clip");
    CHECK(likely_uniform("sh", float_shape) == "material.shininess");
    // A letter may mean it: it is tried first, not settled on.
    CHECK(likely_uniform("L", vec3_shape).empty());
    CHECK(meaning_of_letter("L", "vec3") == "lights[0].to_light");
    CHECK(meaning_of_letter("i", "float") == "lights[0].intensity");
    CHECK(meaning_of_letter("L", "float").empty());
    // Where names say two kinds, each is numbered among its own; where they say one, all are in one list.
    const auto after = [](std::vector<guessed_name> all) {
        tell_lights_apart(all);
        std::vector<std::string> means;
        for (const guessed_name& each : all) {
            means.push_back(each.means);
        }
        return means;
    };
    guessed_name sun, lamps;
    sun.name = "sun.dir";
    sun.means = "lights[0].shines";
    lamps.name = "pointLamps[*].position";
    lamps.means = "lights[*].position";
    CHECK(after({sun, lamps}) ==
          std::vector<std::string>{"lights.directional[0].shines", "lights.point[*].position"});
    CHECK(after({lamps}) == std::vector<std::string>{"lights[*].position"});
    // Beside a colour of its own, a light's diffuse is a part.
    guessed_name color = lamps, diffuse = lamps;
    color.means = "lights[*].color";
    diffuse.means = "lights[*].diffuse_light";
    CHECK(after({color, diffuse}) == std::vector<std::string>{"lights[*].color", "lights[*].diffuse"});
}

TEST_CASE("what only one language has says which a shader is written in") {
    using enum shading_language;
    const std::string stage = "void main() { gl_Position = vec4(1.0); }";
    CHECK(likely_language("#version 330\n" + stage, "out vec4 o; void main() { o = vec4(1); }") == glsl);
    CHECK(likely_language("#version 300 es\n" + stage, "#version 300 es\nprecision mediump float;") ==
          glsl_es);
    CHECK(likely_language(stage, "precision highp float;\nvoid main() {}") == glsl_es);
    CHECK(likely_language("#version 100\n" + stage, "#version 100\nprecision highp float;") == glsl_es);
    CHECK(likely_language("#version 130\n" + stage, "#version 130\nprecision highp float;") == glsl);
    CHECK(likely_language(stage, "// precision highp float;\nvoid main() {}") == glsl); // in a comment
    CHECK(likely_language("#version 450\nlayout(push_constant) uniform P { mat4 m; };" + stage, "") ==
          glsl_vulkan);
    CHECK(likely_language("#version 450\nlayout(set = 0, binding = 1) uniform P { mat4 m; };" + stage, "") ==
          glsl_vulkan);
    CHECK(likely_language("cbuffer Hull { float4x4 World; };", "float4 hull() : SV_TARGET { return 1; }") ==
          hlsl);
    // The words of one language as names in another.
    CHECK(likely_language("#version 330\n#define float4 vec4\n" + stage, "") == glsl);
    CHECK(likely_language("", "") == glsl);
}

TEST_CASE(
    "a vector whose numbers are read one by one holds numbers that have nothing to do with one another") {
    const std::string text = "uniform vec4 params; uniform vec3 paint; uniform vec4 lamps[4];\n"
                             "float a = pow(max(c, 0.0), params.x) * params.g; vec3 b = paint * params.x;\n"
                             "vec3 at = lamps[i].xyz; float far = lamps[i].w;";
    CHECK(components_alone(text, "params") == "xy");
    CHECK(components_alone(text, "Hull.params") == "xy"); // in a block
    CHECK(components_alone(text, "paint").empty());
    CHECK(components_alone(text, "lamps[*]").empty()); // its first three go together
    CHECK(components_alone(text, "tide").empty());
    CHECK(says_only_numbers("u_materialParams"));
    CHECK(says_only_numbers("lampData[*]"));
    CHECK_FALSE(says_only_numbers("attenuation"));
    guessed_name four, two;
    four.name = "params";
    four.type = "vec4";
    two.name = "look";
    two.type = "vec2";
    CHECK(means_by_components(text, four) == "material.shininess, 1, 1, 1");
    CHECK(means_by_components("float s = pow(x, look.y);", two) == "1, material.shininess");
    CHECK(means_by_components("float s = look.x;", two) == "1, 1");
}

TEST_CASE("short names say as much as long ones") {
    const auto means = [](const char* name, const type_shape& shape) { return likely_uniform(name, shape); };
    CHECK(means("L[*].amb", vec3_shape) == "lights[*].ambient_light");
    CHECK(means("L[*].dif", vec3_shape) == "lights[*].diffuse_light");
    CHECK(means("L[*].spc", vec3_shape) == "lights[*].specular_light");
    CHECK(means("L[*].k0", float_shape) == "lights[*].coefficients[0]");
    CHECK(means("lamp.kl", float_shape) == "lights[0].coefficients[1]");
    CHECK(means("lamp.kq", float_shape) == "lights[0].coefficients[2]");
    CHECK(means("lamp.cutoffDeg", float_shape) == "lights[0].outer_degrees");
    CHECK(means("lamp.innerDeg", float_shape) == "lights[0].inner_degrees");
    CHECK(means("mat.amb", vec3_shape) == "material.ambient");
    CHECK(means("mat.dif", vec3_shape) == "material.diffuse");
    CHECK(means("mat.spc", vec3_shape) == "material.specular");
    CHECK(means("mat.emi", vec3_shape) == "material.emission");
    CHECK(means("globalAmb", vec3_shape) == "ambient.light");
    CHECK(means("lambertTint", vec3_shape) == "material.base"); // which holds `amb`, and says something else
    CHECK(means("modelIT", mat4_shape) == "object.normal_to_world");
    CHECK(means("mvit", mat4_shape) == "object.normal_to_view");
    // Places that may be directions, and cones that are none, are for lights of more kinds.
    guessed_name place, limit;
    place.name = "lamps[*].at";
    place.type = "vec4";
    limit.name = "lamps[*].limit";
    limit.type = "float";
    const auto wider = [](const guessed_name& name, const std::string& now) -> std::string {
        const std::vector<move> moves = moves_to_more_kinds(name, now);
        shader_program of;
        of.uniforms.emplace_back().name = name.name;
        if (moves.empty()) {
            return "";
        }
        moves.front().make(of);
        return text_of(of.uniforms.front());
    };
    CHECK(wider(place, "lights[*].position_view") == "lights[*].place_view");
    CHECK(wider(limit, "lights[*].cos_outer") == "= lights[*].kind == 2.0 ? lights[*].cos_outer : -1.0");
    CHECK(wider(limit, "lights[*].range").empty());
    // What is taken for one another is tried, each with the light that the name is of.
    guessed_name shines = place;
    shines.means = "lights.spot[*].shines";
    std::vector<std::string> tried;
    for (const move& each : moves_within_group(shines)) {
        shader_program of;
        of.uniforms.emplace_back().name = shines.name;
        each.make(of);
        tried.push_back(text_of(of.uniforms.front()));
    }
    CHECK(moves_within_group(shines)[0].omits ==
          "shines-not-normalized"); // `axis` is unit before the shader has it
    guessed_name degrees = limit;
    degrees.means = "lights[*].outer_degrees";
    for (const move& each : moves_within_group(degrees)) { // to `cos_outer` and `outer`
        shader_program of;
        of.uniforms.emplace_back().name = degrees.name;
        each.make(of);
        const bool radians = text_of(of.uniforms.front()) == "lights[*].outer";
        CHECK(each.omits == (radians ? "cone-angle-in-degrees" : ""));
    }
    // Not `to_light`, which differs from place to place for a spot.
    CHECK(tried ==
          std::vector<std::string>{"lights.spot[*].axis", "lights.spot[*].place", "lights.spot[*].position"});
}

TEST_CASE("what the text does with a name says more than the name") {
    const std::string text =
        "float s = pow(max(dot(n, h), 0.0), look.tight) + pow(c, glint.w); tide = tide * 0.25;\n"
        "o.p = mul(float4(v.p, 1.0f), World); o.n = mul(v.n, (float3x3)Turn); q = mul(View, p);";
    guessed_name tight, glint, tide;
    tight.name = "look.tight";
    tight.type = tide.type = "float";
    tide.name = "tide";
    glint.name = "glint";
    glint.type = "vec4";
    glint.means = "material.specular";
    CHECK(means_by_use(text, tight) == "material.shininess");
    CHECK(means_by_use(text, tide).empty());
    tight.means = "material.specular[0]";
    CHECK(means_by_use(text, tight) == "material.shininess");
    tight.means = "lights[0].exponent";
    CHECK(means_by_use(text, tight) == "lights[0].exponent");
    CHECK(means_by_use(text, glint) == "material.specular, material.shininess");
    CHECK(means_by_use("float s = pow(c, 2.0) * glint.w;", glint) == "material.specular");
    const std::vector<double> numbers = numbers_in(text);
    CHECK(std::count(numbers.begin(), numbers.end(), 0.25) == 1);
    // Matrices on the right of vectors are of rows.
    shader_program of;
    of.language = shading_language::hlsl;
    for (const char* const name : {"Hull.World", "Hull.Turn", "View"}) {
        of.uniforms.emplace_back().name = name;
        of.uniforms.back().means = {std::string("object.to_world")};
    }
    const std::set<std::string> rows = matrices_of_rows(of, text);
    CHECK(rows == std::set<std::string>{"Hull.World", "Hull.Turn"});
    const shader_program handed = with_rows(with_rows(of, rows), rows); // once and for all
    CHECK(text_of(handed.uniforms[0]) == "object.to_world.transposed");
    CHECK(text_of(handed.uniforms[2]) == "object.to_world");
    of.language = shading_language::glsl;
    CHECK(matrices_of_rows(of, text).empty());
}

TEST_CASE("lights that letters number, a strength beside a colour, and a claim that is widened") {
    guessed_name first, second, color, strength;
    first.name = "lampA.at";
    second.name = "lampB.at";
    first.means = second.means = "lights[0].position";
    color.name = "skyColor";
    color.means = "ambient.light";
    strength.name = "skyStrength";
    strength.means = "ambient.strength";
    std::vector<guessed_name> all{first, second, color, strength};
    tell_lights_apart(all);
    CHECK(all[0].means == "lights[0].position");
    CHECK(all[1].means == "lights[1].position");
    CHECK(all[2].means == "ambient.color");
    CHECK(likely_uniform("lampColorIntensity", vec4_shape) == "lights[0].color, lights[0].intensity");
    CHECK(likely_uniform("WorldViewProj", mat4_shape) == "object.to_clip");
    shader_program narrow;
    narrow.kinds = std::vector{light_kind::point};
    narrow.scale = scale_claim::none;
    narrow.without = {"ambient", "material.base"};
    CHECK(moves_that_widen(shader_program()).empty());
    const std::vector<move> moves = moves_that_widen(narrow);
    std::vector<std::string> about;
    for (const move& each : moves) {
        about.push_back(each.about);
        each.make(narrow);
    }
    CHECK(about == std::vector<std::string>{"without", "without", "kinds", "scale", "scale"});
    CHECK(narrow.without.empty());
    CHECK_FALSE(narrow.kinds.has_value());
    CHECK(narrow.scale == scale_claim::any);
}

TEST_CASE("a claim may not leave out what a name means") {
    const auto claim = [](std::vector<const char*> means, std::optional<std::vector<light_kind>> kinds) {
        shader_program of;
        for (const char* const each : means) {
            of.uniforms.emplace_back().means = {std::string(each)};
        }
        of.kinds = std::move(kinds);
        return leaves_unseen(of);
    };
    using enum light_kind;
    const std::vector<const char*> lamp{"lights[*].position_view", "lights[*].cos_outer",
                                        "lights[*].shines_view"};
    CHECK_FALSE(claim(lamp, {}));
    CHECK_FALSE(claim(lamp, std::vector{point, spot}));
    CHECK(claim(lamp, std::vector{point}));                                // nobody has a cone
    CHECK(claim({"lights[*].to_light", "lights[*].cos_outer"}, {}));       // nor a place
    CHECK(claim({"lights[*].to_light", "lights[*].coefficients[1]"}, {})); // nothing falls off
    CHECK(claim({"lights[0].position", "lights[0].range"}, std::vector{directional}));
    CHECK_FALSE(claim({"lights[0].place", "lights[0].range"}, std::vector{directional, point}));
    CHECK(claim({"lights.spot[*].position", "lights.point[*].position"}, std::vector{point}));
    CHECK_FALSE(claim({"lights[0].to_light", "material.base"}, std::vector{directional}));
    shader_program of;
    of.uniforms.emplace_back().means = {std::string("lights[0].place")};
    of.uniforms.emplace_back().means = {std::string("lights[0].coefficients[2]")};
    of.uniforms.emplace_back().means = {std::string("lights[0].exponent")};
    of.uniforms.emplace_back().means = {std::string("material.shininess")};
    of.model = model_kind::phong;
    of.falloffs = std::vector{falloff_kind::polynomial};
    of.penumbras = std::vector{penumbra_kind::power};
    CHECK_FALSE(leaves_unseen(of));
    const auto changed = [&](auto&& change) {
        shader_program other = of;
        change(other);
        return leaves_unseen(other);
    };
    CHECK(changed([](shader_program& other) { other.falloffs = std::vector{falloff_kind::none}; }));
    CHECK(changed([](shader_program& other) { other.penumbras = std::vector{penumbra_kind::hard}; }));
    CHECK(changed([](shader_program& other) { other.model = model_kind::lambert; }));
    CHECK_FALSE(changed([](shader_program& other) { other.falloffs.reset(); }));
}

TEST_CASE("bands that are written into a shader: ladders of comparisons, and cosines cut into levels") {
    struct written {
        const char* text;
        std::vector<double> thresholds, bands; // none: not taken for bands
    };
    const std::vector<written> all{
        {"if (k > 0.95) f = 1.0; else if (k > 0.5) f = 0.6; else f = 0.2;", {0.5, 0.95}, {0.2, 0.6, 1}},
        {"if (k >= .9) { f *= vec3(1.0, .5, .25); } else if (k >= .3f) { f *= vec3(.5, .25, .125); } else { "
         "f *= "
         "vec3(0.1, 0.2, 0.3); }",
         {0.3, 0.9},
         {0.1, 0.2, 0.3, 0.5, 0.25, 0.125, 1, 0.5, 0.25}},
        {"if (k < 0.2) return vec3(0.1); if (k < 0.6) return vec3(0.5); else return vec3(1.0);",
         {0.2, 0.6},
         {0.1, 0.5, 1}},
        {"float f = 0.3; if (k > 0.25) f = 0.5; if (k > 0.75) f = 0.9;", {0.25, 0.75}, {0.3, 0.5, 0.9}},
        {"if (k > 0.5) c = paint * 0.8; else if (k > 0.25) c = paint * 0.4; else c = 0.1 * paint;",
         {0.25, 0.5},
         {0.1, 0.4, 0.8}},
        {"float f = floor(k * 4.0) / 4.0;", {0.25, 0.5, 0.75, 1}, {0, 0.25, 0.5, 0.75, 1}},
        {"#define LEVELS 2\nfloat f = floor(k * float(LEVELS)) / float(LEVELS);", {0.5, 1}, {0, 0.5, 1}},
        {"const int levels = 2; f = floor(k * levels) * scale;", {0.5, 1}, {0, 0.5, 1}},
        {"if (k > 0.5) f = 1.0; else f = 0.2;", {}, {}},                                      // one gate
        {"if (k > 0.9) f = 1.0; else if (m > 0.5) f = 0.6; else f = 0.2;", {}, {}},           // of two things
        {"if (k > 0.9) f = a(k); else if (k > 0.5) f = b; else f = 0.2;", {}, {}},            // of no numbers
        {"if (k > 0.9) f = 1.0; else if (k > 0.5) f = vec3(1, 2, 3); else f = 1.0;", {}, {}}, // of two kinds
        {"if (k > 0.9) f = 1.0; if (k > 0.5) f = 0.5;", {}, {}}, // and otherwise?
        {"f = floor(k * many) / many;", {}, {}},                 // however many that are
    };
    for (const written& each : all) {
        CAPTURE(std::string(each.text));
        shader_program of;
        of.model = model_kind::lambert;
        take_bands(of, each.text);
        CHECK((of.model == model_kind::cel) == !each.bands.empty());
        REQUIRE(of.constants.size() == (each.bands.empty() ? 0 : 3));
        if (!each.bands.empty()) {
            CHECK(of.constants[0].quantity == "shading.thresholds");
            CHECK(of.constants[0].numbers == each.thresholds);
            CHECK(of.constants[1].quantity == "shading.bands");
            CHECK(of.constants[1].numbers == each.bands);
        }
    }
}
