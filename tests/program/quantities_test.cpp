// What each name of a program file means, and what a name is taken to mean: rule by rule.
#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <map>
#include <string>
#include <vector>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/program/program_renderer.hpp"

using namespace yurvo;

namespace {

// A crate at the quay under a lantern, the moon, a searchlight and a torch. The eye looks along −z with y up,
// so that view space is the world moved by −eye.
const vec3<double> eye{3, -2, 5};

scene crate_at_the_quay() {
    scene made;
    made.view.eye = eye;
    made.view.target = {3, -2, 0};
    made.view.fov = radians(90);
    made.view.near = 1;
    made.view.far = 3;
    made.view.width = 112;
    made.view.height = 56;
    made.shading.cel.thresholds = {0.4, 0.7};
    made.shading.cel.bands = {{0.1, 0.2, 0.3}, {0.4, 0.5, 0.6}, {0.7, 0.8, 0.9}};
    made.shading.cel.outline = 0.125;
    made.shading.cel.outline_color = {0.25, 0.5, 0.75};
    made.ambient_color = {0.5, 0.25, 1};
    made.ambient_strength = 0.5;
    named_material paint;
    paint.name = "paint";
    paint.look.base = {0.75, 0.5, 0.25};
    paint.look.alpha = 0.5;
    paint.look.ambient = {0.1, 0.2, 0.3};
    paint.look.diffuse = {0.4, 0.5, 0.6};
    paint.look.specular = {0.7, 0.8, 0.9};
    paint.look.shininess = 17;
    paint.look.emission = {0.01, 0.02, 0.03};
    made.materials.push_back(paint);
    object crate;
    crate.name = "crate";
    crate.shape = box_shape{{2, 2, 2}};
    crate.placed.position = {1, 2, 3};
    crate.placed.scale = {2, 4, 8};
    made.objects.push_back(crate);

    named_light lantern;
    lantern.name = "lantern";
    lantern.light.kind = light_kind::point;
    lantern.light.position = {4, 1, 1};
    lantern.light.color = {1, 0.5, 0.25};
    lantern.light.intensity = 3;
    lantern.light.falloff = falloff_kind::polynomial;
    lantern.light.coefficients = {1, 0.5, 0.125};
    lantern.light.ambient = {0.5, 0.25, 0.125};
    lantern.light.diffuse = {0.75, 0.5, 2};
    lantern.light.specular = {0.25, 1, 4};
    made.lights.push_back(lantern);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {0, -3, -4};
    made.lights.push_back(moon);
    named_light searchlight;
    searchlight.name = "searchlight";
    searchlight.light.kind = light_kind::spot;
    searchlight.light.position = {0, 6, 0};
    searchlight.light.shines = {0, -2, 0};
    searchlight.light.inner = radians(30);
    searchlight.light.outer = radians(60);
    searchlight.light.falloff = falloff_kind::windowed;
    searchlight.light.range = 12;
    made.lights.push_back(searchlight);
    named_light torch = searchlight;
    torch.name = "torch";
    torch.light.penumbra = penumbra_kind::power;
    torch.light.exponent = 5;
    made.lights.push_back(torch);
    return made;
}

// One uniform, what is made of it in the shader, and what must come out.
struct meaning {
    std::string quantity, type, shown; // `q` in `shown` is the uniform
    std::array<double, 3> expected;
};

std::string name_of_uniform(std::size_t i) { return "uniform_" + std::to_string(i); }

// A program that shows meaning i at the pixels of column i.
shader_program showing(const std::vector<meaning>& all) {
    shader_program made;
    made.file = "columns.toml";
    made.vertex.file = "columns.vert";
    made.vertex.source = "#version 330\nin vec3 a_position;\n"
                         "void main() { gl_Position = vec4(a_position.xy * 9.0, 0.0, 1.0); }\n";
    made.fragment.file = "columns.frag";
    std::string& source = made.fragment.source;
    source = "#version 330\nlayout(location = 0) out vec4 result;\n";
    std::string body;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const std::string name = name_of_uniform(i);
        source += "uniform " + all[i].type + " " + name + ";\n";
        std::string shown = all[i].shown;
        for (std::size_t at = shown.find('q'); at != std::string::npos;
             at = shown.find('q', at + name.size())) {
            shown.replace(at, 1, name);
        }
        body += "    if (column == " + std::to_string(i) + ") { v = " + shown + "; }\n";
        made.uniforms.push_back({name, {all[i].quantity}, {}});
    }
    source += "void main() {\n    int column = int(gl_FragCoord.x);\n    vec3 v = vec3(0.0);\n" + body +
              "    result = vec4(v, 1.0);\n}\n";
    made.attributes.push_back({"a_position", {"position"}, {}});
    // Nothing of the scene is to be fitted.
    made.kinds = {light_kind::directional, light_kind::point, light_kind::spot};
    made.lights = {4, 4};
    made.falloffs = {falloff_kind::polynomial, falloff_kind::windowed, falloff_kind::inverse_square};
    made.penumbras = {penumbra_kind::smooth, penumbra_kind::power};
    return made;
}

} // namespace

TEST_CASE("every quantity but textures reaches the shader with the value that it has in the scene") {
    const double cos30 = std::sqrt(3.0) / 2;
    const auto only = [](double value) { return std::array<double, 3>{value, value, value}; };
    const std::string x = "vec3(q)";
    const std::string third = "(q * vec4(1.0, 1.0, 1.0, 1.0)).xyz";
    // Corners at (1, 1, 1) of the crate's own space lie at position + scale in the world.
    const std::vector<meaning> all{
        {"view.eye", "vec3", "q", {3, -2, 5}},
        {"view.eye[1]", "float", x, only(-2)},
        {"object.to_world", "mat4", third, {3, 6, 11}},
        {"object.to_view", "mat4", third, {0, 8, 6}},
        {"view.world_to_view", "mat4", third, {1 - 3, 1 + 2, 1 - 5}},
        {"object.normal_to_world", "mat3", "q * vec3(2.0, 4.0, 8.0)", only(1)},
        {"object.normal_to_view", "mat3", "q * vec3(2.0, 4.0, 8.0)", only(1)},
        // A field of view of 90° and twice as wide as high: x/2, y, and −1 to 1 between near and far.
        {"view.view_to_clip", "mat4", "(q * vec4(2.0, 3.0, -1.0, 1.0)).xyw", {1, 3, 1}},
        {"view.view_to_clip", "mat4", "vec3((q * vec4(0.0, 0.0, -1.0, 1.0)).z)", only(-1)},
        {"view.view_to_clip", "mat4", "vec3((q * vec4(0.0, 0.0, -3.0, 1.0)).z)", only(3)},
        {"view.world_to_clip", "mat4", "(q * vec4(5.0, 1.0, 4.0, 1.0)).xyw", {1, 3, 1}},
        {"object.to_clip", "mat4", "(q * vec4(1.0, -1.0, -1.0, 1.0)).xyw", {0, 0, 10}},
        {"object.to_world.transposed", "mat4", "(vec4(1.0) * q).xyz", {3, 6, 11}},
        // Without the last row, or as rows: what points that keep w = 1 need no more of.
        {"object.to_world", "mat4x3", "q * vec4(1.0)", {3, 6, 11}},
        {"object.to_world.transposed", "mat3x4", "vec4(1.0) * q", {3, 6, 11}},
        {"object.to_world.transposed[0]", "vec4", "vec3(dot(q, vec4(1.0)))", only(3)},
        {"object.to_world[3]", "vec4", "q.xyw", {1, 2, 1}},
        {"object.normal_to_world[1]", "vec3", "q", {0, 0.25, 0}},
        {"object.normal_to_world", "mat3x4", "(q * vec3(2.0, 4.0, 8.0)).xyz", only(1)},
        {"object.normal_to_world.transposed[2]", "vec4", "q.yzw", {0, 0.125, 0}},
        {"ambient.color", "vec3", "q", {0.5, 0.25, 1}},
        {"ambient.strength", "float", x, only(0.5)},
        {"ambient.light", "vec3", "q", {0.25, 0.125, 0.5}},
        {"material.base", "vec3", "q", {0.75, 0.5, 0.25}},
        {"material.base_alpha", "vec4", "q.gba", {0.5, 0.25, 0.5}},
        {"material.alpha", "float", x, only(0.5)},
        {"material.ambient", "vec3", "q", {0.1, 0.2, 0.3}},
        {"material.diffuse", "vec3", "q", {0.4, 0.5, 0.6}},
        {"material.specular", "vec3", "q", {0.7, 0.8, 0.9}},
        {"material.shininess", "float", x, only(17)},
        {"material.emission", "vec3", "q", {0.01, 0.02, 0.03}},
        {"material.two_sided", "bool", "vec3(q ? 1.0 : 0.0)", only(0)},
        {"lights.count", "int", x, only(4)},
        {"lights.spot.count", "int", x, only(2)},
        {"lights.lantern.position", "vec3", "q", {4, 1, 1}},
        {"lights[0].position", "vec3", "q", {4, 1, 1}},
        {"lights.lantern.position_view", "vec3", "q", {1, 3, -4}},
        {"lights.lantern.place", "vec4", "q.xyw", {4, 1, 1}},
        {"lights.moon.place", "vec4", "q.yzw", {0.6, 0.8, 0}},
        {"lights.moon.shines", "vec3", "q", {0, -3, -4}}, // as given
        {"lights.moon.shines_view", "vec3", "q", {0, -3, -4}},
        {"lights.lantern.place_view", "vec4", "q.xyw", {1, 3, 1}},
        {"lights.moon.to_light", "vec3", "q", {0, 0.6, 0.8}},
        {"lights.moon.to_light_view", "vec3", "q", {0, 0.6, 0.8}},
        {"lights.lantern.color", "vec3", "q", {1, 0.5, 0.25}},
        {"lights.lantern.intensity", "float", x, only(3)},
        {"lights.lantern.light", "vec3", "q", {3, 1.5, 0.75}},
        {"lights.lantern.ambient", "vec3", "q", {0.5, 0.25, 0.125}},
        {"lights.lantern.diffuse", "vec3", "q", {0.75, 0.5, 2}},
        {"lights.lantern.specular", "vec3", "q", {0.25, 1, 4}},
        {"lights.lantern.ambient_light", "vec3", "q", {1.5, 0.375, 0.09375}},
        {"lights.lantern.diffuse_light", "vec3", "q", {2.25, 0.75, 1.5}},
        {"lights.lantern.specular_light", "vec3", "q", {0.75, 1.5, 3}},
        {"lights.lantern.coefficients", "vec3", "q", {1, 0.5, 0.125}},
        {"lights.lantern.coefficients[2]", "float", x, only(0.125)},
        {"lights.searchlight.range", "float", x, only(12)},
        {"lights.searchlight.inner", "float", x, only(pi / 6)},
        {"lights.searchlight.outer", "float", x, only(pi / 3)},
        {"lights.searchlight.inner_degrees", "float", x, only(30)},
        {"lights.searchlight.outer_degrees", "float", x, only(60)},
        {"lights.searchlight.cos_inner", "float", x, only(cos30)},
        {"lights.spot[0].cos_outer", "float", x, only(0.5)},
        {"lights.torch.exponent", "float", x, only(5)},
        {"lights.spot[1].position", "vec3", "q", {0, 6, 0}},
        {"lights.moon.kind", "int", x, only(0)},
        {"lights.lantern.kind", "int", x, only(1)},
        {"lights.torch.kind", "int", x, only(2)},
        {"lights.directional.count", "int", x, only(1)},
        {"lights.point.count", "int", x, only(1)},
        // Numbered as the laws are listed: none, inverse square, polynomial, linear, windowed; hard, ramp,
        // squared, smooth, power.
        {"lights.lantern.falloff", "int", x, only(2)},
        {"lights.torch.falloff", "int", x, only(4)},
        {"lights.searchlight.penumbra", "int", x, only(3)},
        {"lights.torch.penumbra", "int", x, only(4)},
        {"shading.thresholds", "vec2", "vec3(q, 0.0)", {0.4, 0.7, 0}},
        {"shading.bands", "vec3", "q", {0.1, 0.2, 0.3}},
        {"shading.outline", "float", x, only(0.125)},
        {"shading.outline_color", "vec3", "q", {0.25, 0.5, 0.75}},
        // In the crate's own space: at (1, 2, 3), stretched by 2, 4 and 8.
        {"object.eye", "vec3", "q", {1, -1, 0.25}},
        {"object.from_world", "mat4", "(q * vec4(3.0, 6.0, 11.0, 1.0)).xyz", {1, 1, 1}},
        {"lights.lantern.position_object", "vec3", "q", {1.5, -0.25, -0.25}},
        {"lights.moon.to_light_object",
         "vec3",
         "q",
         {0, 0.15 / std::hypot(0.15, 0.1), 0.1 / std::hypot(0.15, 0.1)}},
        {"lights.moon.axis", "vec3", "q", {0, -0.6, -0.8}},
        {"lights.moon.half", "vec3", "q", {0, 0.6 / std::hypot(0.6, 1.8), 1.8 / std::hypot(0.6, 1.8)}},
        {"view.size", "vec2", "vec3(q, 0.0)", {112, 56, 0}},
        {"view.view_to_world", "mat4", "(q * vec4(0.0, 0.0, -1.0, 1.0)).xyz", {3, -2, 4}},
        // 2 m ahead, near 1 and far 3: depth 1 over w = 2 in clip space.
        {"view.clip_to_world", "mat4", "(q * vec4(0.0, 0.0, 1.0, 2.0)).xyz", {3, -2, 3}},
        {"= 2.0 * lights.lantern.intensity", "float", x, only(6)},
        {"= object.to_world * vec4(1.0, 1.0, 1.0, 1.0)", "vec4", "q.xyz", {3, 6, 11}},
        {"= view.world_to_view * object.to_world * vec4(1.0, 1.0, 1.0, 1.0)", "vec4", "q.xyz", {0, 8, 6}},
        {"= view.world_to_view * object.to_world", "mat4", "(q * vec4(1.0, 1.0, 1.0, 1.0)).xyz", {0, 8, 6}},
        {"= material.base.bgr * vec3(1.0, 2.0, 4.0)", "vec3", "q", {0.25, 1, 3}},
        {"= lights.lantern.intensity > 2.0 ? 0.25 : 0.5", "float", x, only(0.25)},
        {"= (view.world_to_view * vec4(lights.lantern.position, 1.0)).xyz", "vec3", "q", {1, 3, -4}},
        // A wider vector gets w = 1 after a position, 0 after a direction; a number fills every component; a
        // smaller matrix the upper left of a larger one.
        {"view.eye", "vec4", "q.yzw", {-2, 5, 1}},
        {"lights.moon.shines", "vec4", "q.yzw", {-3, -4, 0}},
        {"material.alpha", "vec3", "q", only(0.5)},
        // In the place of a map, a factor.
        {"material.specular", "sampler2D", "texture(q, vec2(0.25, 0.75)).rgb", {0.7, 0.8, 0.9}},
        {"material.emission", "sampler2D", "texture(q, vec2(0.25, 0.75)).rgb", {0.01, 0.02, 0.03}},
        {"material.ambient", "sampler2D", "texture(q, vec2(0.25, 0.75)).rgb", {0.1, 0.2, 0.3}},
        {"material.diffuse", "sampler2D", "texture(q, vec2(0.25, 0.75)).rgb", {0.4, 0.5, 0.6}},
        {"object.normal_to_world", "mat4", "(q * vec4(2.0, 4.0, 8.0, 1.0)).xyw", only(1)},
    };
    const scene from = crate_at_the_quay();
    REQUIRE(static_cast<int>(all.size()) <= from.view.width);
    const program_renderer subject(showing(all));
    const fitted_scene fitted = subject.fit(from);
    std::string changes;
    for (const std::string& change : fitted.changes) {
        changes += change + "; ";
    }
    CHECK(changes == "");
    REQUIRE_MESSAGE(fitted.fitted, fitted.skipped);
    const picture made = subject.draw(*fitted.fitted);
    for (std::size_t i = 0; i < all.size(); ++i) {
        CAPTURE(all[i].quantity);
        CAPTURE(all[i].shown);
        const rgb<float> got = made.color(static_cast<int>(i), 16);
        const std::array<float, 3> parts{got.r, got.g, got.b};
        for (std::size_t k = 0; k < 3; ++k) {
            constexpr double unit = 0x1p-24;
            // A number is rounded once on its way, after some operations in double. A matrix's are, and then
            // four products and their sums, each rounded at most four times; their sizes add up to 11 at
            // most.
            const double allowed = all[i].type.starts_with("mat")
                                       ? (1 + 4) * unit * 11
                                       : unit * std::abs(all[i].expected[k]) + 0x1p-48;
            CHECK(std::abs(static_cast<double>(parts[k]) - all[i].expected[k]) <= allowed);
        }
    }
}

TEST_CASE("a name is taken for what its words and its type say") {
    const std::vector<std::array<std::string, 3>> names{
        {"mat4", "u_mvp", "object.to_clip"},
        {"mat4", "model", "object.to_world"},
        {"mat4", "modelView", "object.to_view"},
        {"mat4", "viewProjection", "view.world_to_clip"},
        {"mat4", "projectionMatrix", "view.view_to_clip"},
        {"mat4", "viewMatrix", "view.world_to_view"},
        {"mat4", "worldToView", "view.world_to_view"},
        {"mat4", "objectToView", "object.to_view"},
        {"mat4", "inverseViewProjection", "view.clip_to_world"},
        {"mat4", "viewToWorld", "view.view_to_world"},
        {"mat4", "worldToObject", "object.from_world"},
        {"mat4x3", "objectToWorld", "object.to_world"},
        {"vec2", "resolution", "view.size"},
        {"vec3", "highlight", "material.specular"},
        {"bool", "useTide", "1"},
        {"mat3", "normalMatrix", "object.normal_to_world"},
        {"mat3", "view_normal", "object.normal_to_view"},
        {"vec3", "cameraPosition", "view.eye"},
        {"vec3", "albedo", "material.base"},
        {"vec4", "baseColour", "material.base_alpha"},
        {"vec3", "specular", "material.specular"},
        {"vec3", "mat_diffuse", "material.diffuse"},
        {"vec3", "glow", "material.emission"},
        {"vec3", "ambient", "ambient.color"}, // beside its strength
        {"vec3", "mat_ambient", "material.ambient"},
        {"float", "shininess", "material.shininess"},
        {"float", "opacity", "material.alpha"},
        {"float", "ambient_strength", "ambient.strength"},
        {"int", "lightCount", "lights.count"},
        {"sampler2D", "planks", "material.texture"},
        {"vec3", "lampPosition", "lights[0].position"},
        {"vec3", "lampDirection", "lights[0].shines"},
        {"vec3", "lampColor", "lights[0].color"},
        {"float", "lampIntensity", "lights[0].intensity"},
        {"float", "lampRange", "lights[0].range"},
        {"float", "lampInnerCos", "lights[0].cos_inner"},
        {"float", "lampQuadratic", "lights[0].coefficients[2]"},
        {"float", "tide", ""},
    };
    shader_program given;
    given.file = "quay.toml";
    given.vertex.file = "quay.vert";
    given.vertex.source = "#version 330\nin vec3 vertexPos;\nin vec3 inNormal;\nin vec2 uv;\nin vec3 tint;\n"
                          "in vec3 vertexColor;\nin vec2 vertexUv;\nout vec3 all;\n"
                          "void main() { all = inNormal + vec3(uv + vertexUv, 0.0) + tint + vertexColor; "
                          "gl_Position = vec4(vertexPos, 1.0); }\n";
    given.fragment.file = "quay.frag";
    std::string& source = given.fragment.source;
    source = "#version 330\nin vec3 all;\nlayout(location = 0) out vec4 result;\n"
             "struct lantern { vec3 position; vec3 color; float intensity; int falloff; };\n"
             "uniform lantern lights[3];\n";
    // Every one of them is read, or the driver would leave it out.
    std::string sum = "vec4(all, 1.0)";
    for (const auto& [type, name, means] : names) {
        source += "uniform " + type + " " + name + ";\n";
        if (type == "sampler2D") {
            sum += " + texture(" + name + ", all.xy)";
        } else if (type == "mat4") {
            sum += " + " + name + "[0]";
        } else if (type == "mat3") {
            sum += " + vec4(" + name + "[0], 0.0)";
        } else if (type == "vec4") {
            sum += " + " + name;
        } else if (type == "vec3") {
            sum += " + vec4(" + name + ", 0.0)";
        } else {
            sum += " + vec4(float(" + name + "))";
        }
    }
    source +=
        "void main() {\n    result = " + sum +
        ";\n    for (int i = 0; i < 3; ++i) {\n        result += vec4(lights[i].position + lights[i].color * "
        "lights[i].intensity, float(lights[i].falloff));\n    }\n}\n";
    const guessed_bindings guessed = guess_bindings(given);

    std::map<std::string, std::string> uniforms;
    for (const guessed_name& one : guessed.uniforms) {
        CHECK_MESSAGE(!uniforms.contains(one.name), one.name); // an array of structures counts once
        uniforms[one.name] = one.means;
    }
    for (const std::array<std::string, 3>& each : names) { // type, name, meaning
        const std::string& name = each[1];
        const std::string& means = each[2];
        CAPTURE(name);
        REQUIRE(uniforms.contains(name));
        CHECK(uniforms[name] == means);
    }
    CHECK(uniforms["lights[*].position"] == "lights[*].position");
    CHECK(uniforms["lights[*].color"] == "lights[*].color");
    CHECK(uniforms["lights[*].intensity"] == "lights[*].intensity");
    CHECK(uniforms["lights[*].falloff"] == "lights[*].falloff");
    CHECK(uniforms.size() == names.size() + 4);

    std::map<std::string, std::string> attributes;
    for (const guessed_name& one : guessed.attributes) {
        attributes[one.name] = one.means;
    }
    CHECK(attributes == std::map<std::string, std::string>{{"vertexPos", "position"},
                                                           {"inNormal", "normal"},
                                                           {"uv", "texcoord"},
                                                           {"vertexColor", "color"},
                                                           {"vertexUv", "texcoord"},
                                                           {"tint", ""}});
}

TEST_CASE("the driver lays a uniform block out as std140 says") {
    shader_program given;
    given.file = "tide.toml";
    given.vertex.file = "tide.vert";
    given.vertex.source = "#version 330\nin vec3 place;\nvoid main() { gl_Position = vec4(place, 1.0); }\n";
    given.fragment.file = "tide.frag";
    given.fragment.source =
        "#version 330\n"
        "layout(std140) uniform Tide {\n"
        "    float height; vec3 drift; float haze; mat3 turn; vec2 wind; mat4 roll; vec4 glow;\n"
        "    float gusts[2];\n"
        "};\n"
        "layout(location = 0) out vec4 result;\n"
        "void main() {\n"
        "    result = vec4(drift * turn, height + haze) * roll + glow + vec4(wind, gusts[0], gusts[1]);\n"
        "}\n";
    const std::vector<block_member> members = block_members(given);
    struct expected {
        std::string name, type;
        int offset, components, matrix, matrix_stride;
    };
    // OpenGL 3.3, 2.11.4: a vector of three begins at multiples of 16 bytes and leaves room for a number
    // after it; columns and elements of arrays are 16 bytes apart.
    const std::vector<expected> all{{"height", "float", 0, 1, 0, 0},    {"drift", "vec3", 16, 3, 0, 0},
                                    {"haze", "float", 28, 1, 0, 0},     {"turn", "mat3", 32, 9, 3, 16},
                                    {"wind", "vec2", 80, 2, 0, 0},      {"roll", "mat4", 96, 16, 4, 16},
                                    {"glow", "vec4", 160, 4, 0, 0},     {"gusts[0]", "float", 176, 1, 0, 0},
                                    {"gusts[1]", "float", 192, 1, 0, 0}};
    REQUIRE(members.size() == all.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        CAPTURE(all[i].name);
        CHECK(members[i].block == "Tide");
        CHECK(members[i].name == all[i].name);
        CHECK(members[i].type == all[i].type);
        CHECK(members[i].offset == all[i].offset);
        CHECK(members[i].components == all[i].components);
        CHECK(members[i].matrix == all[i].matrix);
        CHECK(members[i].matrix_stride == all[i].matrix_stride);
    }
}
