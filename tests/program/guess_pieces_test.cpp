// What a guess makes of names, of what a text does with them, and of the numbers that it has, without a
// driver.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <limits>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "program/guess_comparing.hpp"
#include "program/guess_constants.hpp"
#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_structures.hpp"

using namespace yurvo;
using namespace yurvo::program;

namespace {

const type_shape vec3_shape{3, 0, 0, false, false, "vec3"};
const type_shape vec4_shape{4, 0, 0, false, false, "vec4"};
const type_shape mat4_shape{16, 4, 4, false, false, "mat4"};
const type_shape float_shape{1, 0, 0, false, false, "float"};

// What names mean once all of them are known.
std::vector<std::string> told_apart(std::vector<guessed_name> all) {
    tell_lights_apart(all);
    std::vector<std::string> means;
    means.reserve(all.size());
    for (const guessed_name& each : all) {
        means.push_back(each.means);
    }
    return means;
}

} // namespace

TEST_CASE("names without their prefix, single letters and a light's own name say what they mean") {
    const std::vector<std::pair<std::string, std::string>> attributes{{"a_position", "position"},
                                                                      {"in_normal", "normal"},
                                                                      {"p", "position"},
                                                                      {"n", "normal"},
                                                                      {"c", "color"},
                                                                      {"t", "texcoord"}};
    for (const auto& each : attributes) {
        const auto& name = each.first;
        const auto& means = each.second;
        CAPTURE(name);
        CHECK(likely_attribute(name, vec3_shape) == means);
    }
    const std::vector<std::pair<std::string, std::string>> vectors{{"u_lampPosition", "lights[0].position"},
                                                                   {"lamp", "lights[0].position"},
                                                                   {"lampView", "lights[0].position_view"},
                                                                   {"lampObj", "lights[0].position_object"},
                                                                   {"eyeObj", "object.eye"},
                                                                   {"cameraLocal", "object.eye"},
                                                                   {"attenuation", "lights[0].coefficients"},
                                                                   {"radiance", "lights[0].light"},
                                                                   {"u_eye", "view.eye"},
                                                                   {"uDirectionalColor", "lights[0].color"},
                                                                   {"dirLightColor", "lights[0].color"},
                                                                   {"dirDirection", "lights[0].shines"},
                                                                   {"keyColor", "lights[0].color"},
                                                                   {"u_fillDir", "lights[0].shines"},
                                                                   {"rimColor", ""},
                                                                   {"Ia", "ambient.light"},
                                                                   {"windOffset", "0"},
                                                                   {"tide", ""}};
    for (const auto& each : vectors) {
        const auto& name = each.first;
        const auto& means = each.second;
        CAPTURE(name);
        CHECK(likely_uniform(name, vec3_shape) == means);
    }
    CHECK(likely_uniform("lamp", vec4_shape) == "lights[0].place");
    CHECK(likely_uniform("M", mat4_shape) == "object.to_world");
    CHECK(likely_uniform("PVM", mat4_shape) == "object.to_clip");
    CHECK(likely_uniform("VM", mat4_shape) == "object.to_view");
    CHECK(likely_uniform("PV", mat4_shape) == "view.world_to_clip");
    CHECK(likely_uniform("projectionViewModel", mat4_shape) == "object.to_clip");
    CHECK(likely_uniform("projectionView", mat4_shape) == "view.world_to_clip");
    // What stands in a list beside others is what lights have.
    CHECK(likely_uniform("positions[*]", vec4_shape) == "lights[*].position");
    CHECK(likely_uniform("colors[*]", vec3_shape) == "lights[*].color");
    CHECK(likely_uniform("toneColors[*]", vec3_shape) == "shading.bands");
    CHECK(likely_uniform("V", mat4_shape) == "view.world_to_view");
    CHECK(likely_uniform("P", mat4_shape) == "view.view_to_clip");
    CHECK(likely_uniform("sh", float_shape) == "material.shininess");
    // A letter may mean it: it is tried first, not settled on.
    CHECK(likely_uniform("L", vec3_shape).empty());
    CHECK(meaning_of_letter("L", "vec3") == "lights[0].to_light");
    CHECK(meaning_of_letter("i", "float") == "lights[0].intensity");
    CHECK(meaning_of_letter("L", "float").empty());
    // Where names say two kinds, each is numbered among its own; where they say one, all are in one list.
    guessed_name sun, lamps;
    sun.name = "sun.dir";
    sun.means = "lights[0].shines";
    lamps.name = "pointLamps[*].position";
    lamps.means = "lights[*].position";
    CHECK(told_apart({sun, lamps}) ==
          std::vector<std::string>{"lights.directional[0].shines", "lights.point[*].position"});
    CHECK(told_apart({lamps}) == std::vector<std::string>{"lights[*].position"});
    // Beside a colour of its own, a light's diffuse is a part.
    guessed_name color = lamps, diffuse = lamps;
    color.means = "lights[*].color";
    diffuse.means = "lights[*].diffuse_light";
    CHECK(told_apart({color, diffuse}) == std::vector<std::string>{"lights[*].color", "lights[*].diffuse"});
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
    // What is done with a lamp's numbers.
    guessed_name edges = four;
    edges.name = "edges[*]";
    CHECK(means_by_components("c = smoothstep(edges[i].y, edges[i].x, k);", edges) ==
          "lights[*].cos_inner, lights[*].cos_outer, 1, 1");
    CHECK(means_by_components("c = smoothstep(cos(edges[i].x), cos(edges[i].w), k);", edges) ==
          "lights[*].outer, 1, 1, lights[*].inner");
    CHECK(means_by_components("c = (k - edges[i].z) / (edges[i].y - edges[i].z);", edges) ==
          "1, lights[*].cos_inner, lights[*].cos_outer, 1");
    edges.name = "fade";
    CHECK(means_by_components("f = 1.0 / (fade.x + fade.y * d + fade.z * d * d);", edges) ==
          "lights[0].coefficients[0], lights[0].coefficients[1], lights[0].coefficients[2], 1");
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
    CHECK(means("lamps[*].coneDirection", vec3_shape) == "lights[*].shines"); // where it points
    CHECK(means("lamps[*].coneAxis", {4, 0, 0, false, false, "vec4"}) == "lights[*].shines");
    CHECK(means("lamps[*].cone", {4, 0, 0, false, false, "vec4"}) ==
          "lights[*].cos_inner, lights[*].cos_outer, 0, 0");
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

TEST_CASE("how a text uses a light's numbers says which they are") {
    const auto used = [](const char* name, const char* type, const char* means, const char* text) {
        guessed_name each;
        each.name = name;
        each.type = type;
        each.means = means;
        return means_by_use(text, each);
    };
    // Three numbers and their strength.
    CHECK(used("L[*].col", "vec4", "lights[*].color", "e = L[i].col.rgb * L[i].col.a;") ==
          "lights[*].color, lights[*].intensity");
    CHECK(used("L[*].col", "vec4", "lights[*].color", "e = one.col.w * one.col.xyz;") ==
          "lights[*].color, lights[*].intensity");
    CHECK(used("L[*].col", "vec4", "lights[*].color", "e = L[i].col.rgb * L[i].tide.a;") ==
          "lights[*].color");
    CHECK(used("amb", "vec4", "ambient.light", "c = amb.rgb * amb.a;") == "ambient.color, ambient.strength");
    // A fourth number that says whether it is a place; one of three kinds says more than that.
    CHECK(used("L[*].at", "vec4", "lights[*].position", "d = L[i].at.xyz - p * L[i].at.w;") ==
          "lights[*].place");
    CHECK(used("L[*].at", "vec4", "lights[*].position", "if (one.at.w == 0.0) l = one.at.xyz;") ==
          "lights[*].place");
    CHECK(used("L[*].at", "vec4", "lights[*].position", "if (a.at.w > 0.5) x(); if (a.at.w > 1.5) y();") ==
          "lights[*].position");
    CHECK(used("L[*].at", "vec4", "lights[*].position", "d = L[i].at.xyz - p;") == "lights[*].position");
    // A cone's border beside its axis.
    CHECK(used("L[*].aim", "vec4", "lights[*].shines", "if (c < cos(L[i].aim.w)) f = 0.0;") ==
          "lights[*].shines, lights[*].outer");
    CHECK(used("L[*].aim", "vec4", "lights[*].shines", "k = cos(radians(one.aim.w));") ==
          "lights[*].shines, lights[*].outer_degrees");
    CHECK(used("L[*].aim", "vec4", "lights[*].shines", "f = dot(l, aim.xyz) > L[i].aim.w ? 1.0 : 0.0;") ==
          "lights[*].shines, lights[*].cos_outer");
    CHECK(used("L[*].aim", "vec4", "lights[*].shines", "l = -L[i].aim.xyz; t = L[i].aim.w * d;") ==
          "lights[*].shines");
    // An angle in degrees, which the text compares with the degrees of an arc.
    CHECK(used("L[*].cone", "float", "lights[*].outer",
               "a = degrees(acos(dot(-l, aim))); if (a > one.cone) f = 0.0;") == "lights[*].outer_degrees");
    CHECK(used("L[*].cone", "float", "lights[*].outer",
               "a = acos(dot(-l, aim)); if (a > one.cone) f = 0.0;") == "lights[*].outer");
    CHECK(used("L[*].cone", "float", "lights[*].outer", "a = degrees(acos(c)); b = cos(one.cone);") ==
          "lights[*].outer");
    // A light by its own name: neither made unit nor subtracted from, it is a colour.
    CHECK(used("sunLight", "vec3", "lights[0].to_light", "c += sunLight * k;") == "lights[0].color");
    CHECK(used("sunLight", "vec3", "lights[0].to_light", "l = normalize(sunLight); c *= sunLight;") ==
          "lights[0].to_light");
    CHECK(used("lampLight", "vec3", "lights[0].position", "c += lampLight / d2;") == "lights[0].color");
    CHECK(used("lampLight", "vec3", "lights[0].position", "l = lampLight - p; c = 2.0 * k;") ==
          "lights[0].position");
    // What a cone's cosine is scaled by.
    const std::string scale = "= 1.0 / (lights[*].cos_inner - lights[*].cos_outer)";
    const std::string offset = "= -lights[*].cos_outer / (lights[*].cos_inner - lights[*].cos_outer)";
    const char* const cone = "lights[*].cos_inner, lights[*].cos_outer";
    CHECK(used("L[*].cone", "vec2", cone, "t = (c - L[i].cone.y) * L[i].cone.x;") ==
          scale + ", lights[*].cos_outer");
    CHECK(used("L[*].cone", "vec2", cone, "t = c * L[i].cone.x + L[i].cone.y;") == scale + ", " + offset);
    CHECK(used("L[*].cone", "vec4", cone, "t = c * L[i].cone.z + L[i].cone.w;") ==
          "0, 0, " + scale + ", " + offset);
    CHECK(used("L[*].cone", "vec2", cone, "t = smoothstep(L[i].cone.y, L[i].cone.x, c);") == cone);
    CHECK(used("L[*].angleScale", "float", "lights[*].outer", "") == scale);
    CHECK(used("L[*].angleOffset", "float", "lights[*].outer", "") == offset);
    CHECK(used("L[*].invCone", "float", "lights[*].outer", "") == scale);
    CHECK(used("tideScale", "float", "", "").empty());
    // One over a reach, and squares; what is worked out already stays.
    const auto reach = [&](const char* name, const char* means) { return used(name, "float", means, ""); };
    CHECK(reach("L[*].invRange", "lights[*].range") == "= 1.0 / lights[*].range");
    CHECK(reach("L[*].radiusSq", "lights[*].range") == "= lights[*].range * lights[*].range");
    CHECK(reach("lampRcpRange2", "lights[0].range") == "= 1.0 / (lights[0].range * lights[0].range)");
    CHECK(reach("L[*].range", "lights[*].range") == "lights[*].range");
    CHECK(reach("L[*].invRange", "= 1.0 / lights[*].range") == "= 1.0 / lights[*].range");
}

TEST_CASE("names of lights and of lists that say nothing more are what the text does with them") {
    const auto used = [](const char* name, const char* type, const char* text) {
        guessed_name each;
        each.name = name;
        each.type = type;
        return means_by_use(text, each);
    };
    CHECK(used("lp[*]", "vec3", "l = lp[i] - p; d = length(l);") == "lights[*].position");
    CHECK(used("lp[*]", "vec3", "d = distance(p, q); l = normalize(p - lp[i]);") == "lights[*].position");
    CHECK(used("lq[*]", "vec3", "c = max(dot(n, lq[i]), 0.0);") == "lights[*].to_light");
    CHECK(used("lq[*]", "vec3", "c = max(dot(n, -lq[i]), 0.0);") == "lights[*].shines");
    CHECK(used("lq[*]", "vec3", "l = normalize(-lq[2]);") == "lights[*].shines");
    CHECK(used("lc[*]", "vec3", "c += lc[i] * w * x;") == "lights[*].light");
    CHECK(used("lc[*]", "vec3", "c += w * x * lc[i];") == "lights[*].light");
    CHECK(used("lr[*]", "float", "w = clamp(1.0 - d / lr[i], 0.0, 1.0);") == "lights[*].range");
    CHECK(used("lr[*]", "float", "w = d * lr[i];").empty());
    CHECK(used("moonQ", "vec3", "c += q * moonQ;") == "lights[0].light");
    CHECK(used("moonQ", "vec3", "l = normalize(moonQ);") == "lights[0].to_light");
    CHECK(used("moonQ", "float", "w = d / moonQ;").empty()); // of one light it may be anything
    CHECK(used("tide", "vec3", "l = normalize(tide);").empty());
    CHECK(used("lp[*]", "vec3", "c = f(lp[i]);").empty());
}

TEST_CASE("numbers that a text has names for: single ones, colours, lists of lights") {
    const std::string text = "const vec3 PLACE[2] = vec3[2](vec3(-2.0, 2.5, 1.0), vec3(0.0, 3.0, 2.0));\n"
                             "static const float3 LIGHT[2] = { {2.0, 1.6f, 1}, float3(1, 1, 2) };\n"
                             "const vec3 SKY = vec3(0.1, 0.2, 0.3);\nfloat tide = 0.5;\n#define GLOSS 24.0\n"
                             "c += LIGHT[i] / d2; l = PLACE[i] - p;\n";
    std::map<std::string, std::vector<double>> found;
    for (const written_constant& each : constants_in(text)) {
        found[each.name] = each.numbers;
        CHECK(each.list == (each.numbers.size() == 6));
    }
    CHECK(found == std::map<std::string, std::vector<double>>{{"PLACE", {-2, 2.5, 1, 0, 3, 2}},
                                                              {"LIGHT", {2, 1.6, 1, 1, 1, 2}},
                                                              {"SKY", {0.1, 0.2, 0.3}},
                                                              {"tide", {0.5}},
                                                              {"GLOSS", {24}}});
    shader_program of;
    take_constants(of, text, [](const char*) { return false; }, {});
    std::map<std::string, std::vector<double>> taken;
    for (const shader_constant& each : of.constants) {
        taken[each.quantity] = each.numbers;
    }
    CHECK(taken == std::map<std::string, std::vector<double>>{{"lights[0].position", {-2, 2.5, 1}},
                                                              {"lights[1].position", {0, 3, 2}},
                                                              {"lights[0].light", {2, 1.6, 1}},
                                                              {"lights[1].light", {1, 1, 2}},
                                                              {"material.shininess", {24}}});
    CHECK(of.kinds == std::vector{light_kind::point});
    CHECK(of.lights == std::array<int, 2>{2, 2});
    // What is bound is no constant.
    shader_program bound;
    take_constants(bound, text, [](const char* part) { return std::string(part) == "lights"; },
                   {true, true, true});
    CHECK(bound.constants.empty());
}

TEST_CASE(
    "lights that only their names or structures tell apart are the first and the second of their kind") {
    const auto after = [](const char* text, const std::vector<std::pair<const char*, type_shape>>& names) {
        const std::map<std::string, std::string> structures = structures_in(text);
        std::vector<guessed_name> all;
        for (const auto& [name, shape] : names) {
            guessed_name& each = all.emplace_back();
            each.name = name;
            find_structure(each, structures);
            each.means = likely_uniform(telling_name(each), shape);
        }
        return told_apart(std::move(all));
    };
    using list = std::vector<std::string>;
    CHECK(
        after("",
              {{"keyLightDir", vec3_shape}, {"fillLightDir", vec3_shape}, {"fillLightColor", vec3_shape}}) ==
        list{"lights[0].shines", "lights[1].shines", "lights[1].color"});
    CHECK(after("struct Glow { vec3 direction, color; };\nuniform Glow dirLight;",
                {{"dirLight.direction", vec3_shape}, {"dirLight.ambient", vec3_shape}}) ==
          list{"lights[0].shines", "lights[0].ambient_light"});
    const char* const lamps = "struct Headlamp { vec3 position; vec3 color; };\n"
                              "uniform Headlamp left, right;\n"
                              "vec3 under(Headlamp glow, vec3 n) { return n; }";
    CHECK(
        after(lamps,
              {{"left.position", vec3_shape}, {"left.color", vec3_shape}, {"right.position", vec3_shape}}) ==
        list{"lights[0].position", "lights[0].color", "lights[1].position"});
    CHECK(structures_in(lamps).size() == 2); // a parameter's name is no uniform's
    CHECK(structures_in("uniform struct Headlamp { vec3 place; } bow, stern[2];") ==
          std::map<std::string, std::string>{{"bow", "Headlamp"}, {"stern", "Headlamp"}});
    // Kinds by structures; each kind is numbered by itself.
    CHECK(after("struct DirLight { vec3 dir; }; struct PointLight { vec3 pos; };\n"
                "uniform DirLight far; uniform PointLight near[1], gate; uniform PointLight door;",
                {{"far.dir", vec3_shape}, {"gate.pos", vec3_shape}, {"door.pos", vec3_shape}}) ==
          list{"lights.directional[0].shines", "lights.point[0].position", "lights.point[1].position"});
    // Three kinds, of which one has no name for it; a cone that nothing else gives a place.
    CHECK(
        after("",
              {{"sunDirection", vec3_shape}, {"torchPosition", vec3_shape}, {"lampPosition", vec3_shape}}) ==
        list{"lights.directional[0].shines", "lights.spot[0].position", "lights.point[0].position"});
    CHECK(
        after("", {{"lightPos", vec3_shape}, {"spotDirection", vec3_shape}, {"spotExponent", float_shape}}) ==
        list{"lights[0].position", "lights[0].shines", "lights[0].exponent"});
    CHECK_FALSE(names_a_light("highlight"));
    CHECK(names_a_light("dirlight"));
    CHECK(names_a_light("keylight"));
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
    // The third of three factors, by what stands beside it.
    std::vector<guessed_name> factors(3);
    factors[0].name = "lamp.fading.constant";
    factors[0].means = "lights[0].coefficients[0]";
    factors[1].name = "lamp.fading.linear";
    factors[1].means = "lights[0].coefficients[1]";
    factors[2].name = "lamp.fading.exp";
    factors[2].means = "lights[0].exponent";
    std::vector<guessed_name> elsewhere = factors;
    tell_lights_apart(factors);
    CHECK(factors[2].means == "lights[0].coefficients[2]");
    elsewhere[2].name = "lamp.cone.exp";
    tell_lights_apart(elsewhere);
    CHECK(elsewhere[2].means == "lights[0].exponent");
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

TEST_CASE("an alpha above 1 is passed over where colours are compared, and told; one below 1 counts") {
    const rgb<double> night(0.0);
    const picture right(8, 8, rgb<float>(0.5F), 1);
    picture beyond = right;
    beyond.values[3] = 2;
    beyond.values[7] = 0.25F;
    CHECK(alpha_goes_beyond(beyond));
    CHECK(apart(beyond, right, night) == 0.0);
    CHECK(apart(beyond, right, night, beyond_one::counts).value() > 0);
    picture none = right;
    none.values[3] = std::numeric_limits<float>::quiet_NaN();
    CHECK(apart(none, right, night).value() > 0);
    const picture half(8, 8, rgb<float>(0.5F), 0.5F);
    CHECK_FALSE(alpha_goes_beyond(half));
    CHECK(apart(half, right, night).value() > 0);
    picture other = beyond;
    other.values[0] = 0;
    CHECK(apart(other, right, night).value() > 0);
}

TEST_CASE("pictures that are white tell nothing; what is off is a share of the rest") {
    const rgb<double> night(0.0);
    const auto half = [](float left, float right) { // of 10x10
        picture made(10, 10, rgb<float>(right), 1);
        for (int y = 0; y < 10; ++y) {
            for (int x = 0; x < 5; ++x) {
                made.set(x, y, rgb<float>(left), 1);
            }
        }
        return made;
    };
    CHECK_FALSE(apart(half(1, 1), half(1, 1), night)); // clamped in both, whatever is behind it
    CHECK_FALSE(apart(half(1, 1), half(3, 7), night));
    CHECK_FALSE(apart(half(0, 0), half(0, 0), night)); // nothing is seen
    CHECK(apart(half(1, 0.5F), half(4, 0.5F), night) == 0.0);
    // Half white, and of the rest all are off, by all that is seen: 0.3 of the pixels and 0.7 of the light.
    CHECK(apart(half(1, 0), half(4, 0.5F), night) == doctest::Approx(1.0));
    // Not clamped: a light of 1 beside one of 0.5 is off.
    CHECK(apart(half(1, 1), half(0.5F, 0.5F), night).value_or(0) > 0.3);
    CHECK(apart(half(3, 3), half(3, 3), night) == 0.0); // unclamped, it is seen
}

TEST_CASE("a claim may not leave out what a name means") {
    const auto claim = [](const std::vector<const char*>& means,
                          std::optional<std::vector<light_kind>> kinds) {
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
    CHECK(claim({"lights[*].position", "lights[*].inner", "lights[*].shines"}, {}));   // and none is one
    CHECK(claim(lamp, std::vector{point}));                                            // nobody has a cone
    CHECK(claim({"lights[*].to_light", "lights[*].cos_outer"}, {}));                   // nor a place
    CHECK(claim({"lights[*].position", "lights[*].to_light", "lights[*].outer"}, {})); // nothing aims it
    CHECK_FALSE(claim({"lights[*].position", "= -lights[*].axis", "lights[*].outer"}, {}));
    CHECK(claim({"lights[*].to_light", "lights[*].coefficients[1]"}, {})); // nothing falls off
    CHECK(claim({"lights[0].position", "lights[0].range"}, std::vector{directional}));
    CHECK_FALSE(claim({"lights[0].place", "lights[0].range"}, std::vector{directional, point}));
    CHECK(claim({"lights.spot[*].position", "lights.point[*].position"}, std::vector{point}));
    CHECK_FALSE(claim({"lights[0].to_light", "material.base"}, std::vector{directional}));
    shader_program of;
    of.uniforms.emplace_back().means = {std::string("lights[0].place")};
    of.uniforms.emplace_back().means = {std::string("lights[0].coefficients[2]")};
    of.uniforms.emplace_back().means = {std::string("lights[0].exponent")};
    of.uniforms.emplace_back().means = {std::string("lights[0].shines")};
    of.uniforms.emplace_back().means = {std::string("material.shininess")};
    of.model = model_kind::phong;
    of.falloffs = std::vector{falloff_kind::polynomial};
    of.penumbras = std::vector{penumbra_kind::power};
    CHECK(leaves_unseen(of)); // no light is a spot without its outer angle
    of.constants.push_back({"lights[*].outer_degrees", {90}, {}});
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
    CHECK(changed([](shader_program& other) { other.falloffs = std::vector{falloff_kind::inverse_square}; }));
    CHECK(changed([](shader_program& other) { // a number that is 0 or 1, whatever takes it
        other.uniforms[1].means = {std::string("lights[0].coefficients[0]")};
    }));
    CHECK_FALSE(changed([](shader_program& other) {
        other.uniforms.emplace_back().means = {std::string("lights[0].coefficients[0]")};
    }));
}

TEST_CASE("a highlight's factor, paint over pi and a cone that fades from its axis are read from the text") {
    struct written {
        std::string text, specular, diffuse;
    };
    const std::string lobe = " * pow(max(dot(n, h), 0.0), shininess) * max(dot(n, l), 0.0)";
    const std::string mirrored = " * pow(max(dot(r, v), 0.0), shininess) * max(dot(n, l), 0.0)";
    const std::string eight = "(shininess + 8.0) / (8.0 * pi)";
    const char* const over_pi = "max(dot(n, l), 0.0) / pi";
    for (const written& each : std::initializer_list<written>{
             {"k = (s + 8.0) / (8.0 * PI);", eight + lobe, ""},
             {"k = ( paint.gloss + 8.0f ) / ( 3.14159265 * 8.0f ); r = reflect(-l, n);", eight + mirrored,
              ""},
             {"k = (m[0].s + 2) / (2 * M_PI) * p; c = paint.rgb / M_PI;", "(shininess + 2) / (2 * pi)" + lobe,
              over_pi},
             {"c = paint * INV_PI * k;", "", over_pi},
             {"c = paint * 0.3183099 * k;", "", over_pi},
             {"c = power / (4.0 * PI * d * d); s = (d + 1.0) / (2.0 * size);", "", ""},
             {"c = (x + 0.5) / pixels; t = a / piles;", "", ""}}) {
        CAPTURE(each.text);
        shader_program of;
        of.model = model_kind::blinn_phong;
        take_normalised(of, each.text);
        CHECK(of.formulas[formulas::slot::specular] == each.specular);
        CHECK(of.formulas[formulas::slot::diffuse] == each.diffuse);
    }
    // The factor stays, whatever else is tried of such a highlight; another formula becomes one with a usual
    // factor.
    shader_program of;
    of.formulas[formulas::slot::specular] = "(shininess + 5.0) / (3.0 * pi)" + lobe;
    std::set<std::string> tried;
    for (const move& each : moves_of_normalised()) {
        shader_program made = of;
        each.make(made);
        tried.insert(made.formulas[formulas::slot::specular]);
    }
    CHECK(tried.size() == 6);
    CHECK(tried.contains(
        "dot(n, l) > 0.0 ? (shininess + 5.0) / (3.0 * pi) * pow(max(dot(r, v), 0.0), shininess) : 0.0"));
    CHECK(tried.contains(of.formulas[formulas::slot::specular]));

    // Without a gate, and without the cosine, it lights the side that is turned away: that is said.
    of.formulas[formulas::slot::specular] =
        "(shininess + 5.0) / (3.0 * pi) * pow(max(dot(n, h), 0.0), shininess)";
    CHECK(claimed_mistakes(of) ==
          std::vector<std::pair<std::string, std::string>>{{"specular", "specular-on-unlit-side"}});

    // So is a highlight in the base colour, but where it is the diffuse share as well.
    of.formulas[formulas::slot::specular] = "pow(max(dot(n, h), 0.0), 9.0) * base * max(dot(n, l), 0.0)";
    CHECK(claimed_mistakes(of) ==
          std::vector<std::pair<std::string, std::string>>{{"specular", "specular-tinted-by-base"}});
    of.formulas[formulas::slot::diffuse] = "0.0";
    CHECK(claimed_mistakes(of).empty());

    // An edge alone, and 1 in the place of the other angle's cosine.
    struct cone {
        const char *text, *other;
        std::optional<penumbra_kind> fades;
    };
    for (const cone& each : std::initializer_list<cone>{
             {"f = 1.0 - (1.0 - c) * 1.0 / (1.0 - lamps[i].cut);", "ambient.light", penumbra_kind::ramp},
             {"f = (c - lamp.cut) / (1. - lamp.cut);", "ambient.light", penumbra_kind::ramp},
             {"f = smoothstep(lamps[i].cut, 1.0, c);", "ambient.light", penumbra_kind::smooth},
             {"f = smoothstep(lamps[i].cut, lamps[i].full, c);", "ambient.light", std::nullopt},
             {"f = (c - lamp.cut) / (1. - lamp.tide);", "ambient.light", std::nullopt},
             {"f = (c - lamp.cut) / (1. - lamp.cut);", "lights[*].cos_inner", std::nullopt}}) {
        CAPTURE(each.text);
        shader_program made;
        for (const auto& [name, means] :
             {std::pair("lamps[*].cut", "lights[*].cos_outer"), std::pair("full", each.other)}) {
            shader_binding binding;
            binding.name = name;
            binding.means = {std::string(means)};
            made.uniforms.push_back(binding);
        }
        take_hints(made, each.text);
        CHECK((made.penumbras == (each.fades ? std::optional(std::vector{*each.fades}) : std::nullopt)));
        const bool from_axis =
            std::any_of(made.constants.begin(), made.constants.end(), [](const shader_constant& one) {
                return one.quantity == "lights[*].inner_degrees" && one.numbers == std::vector<double>{0};
            });
        CHECK(from_axis == each.fades.has_value());
    }
}

TEST_CASE("a curve of one name over itself and 1 is seen in the text, and no falloff is taken for one") {
    for (const auto& each : std::initializer_list<std::pair<std::string, std::string>>{
             {"c = sum / (sum + 1.0);", "c / (c + 1.0)"},
             {"c = sum / (vec3(1.0) + sum);", "c / (c + 1.0)"},
             {"c = sum / (1 + sum);", "c / (c + 1.0)"},
             {"a = 1.0 / (1.0 + 0.09 * d + 0.032 * d * d);", ""},
             {"a = 1 / (1 + 1 * d);", ""},
             {"c = sum / (rest + 1.0);", ""}}) {
        CAPTURE(each.first);
        shader_program of;
        take_hints(of, each.first);
        CHECK(of.formulas[formulas::slot::color] == each.second);
    }
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
    // An outline that is bound stays so.
    shader_program of;
    of.uniforms.emplace_back().name = "width";
    of.uniforms.back().means = {std::string("shading.outline")};
    take_hints(of, "if (k > 0.95) f = 1.0; else if (k > 0.5) f = 0.6; else f = 0.2; if (c < width) f = 0.0;");
    CHECK(of.model == model_kind::cel);
    REQUIRE(of.constants.size() == 2);
    CHECK(of.constants[1].quantity == "shading.bands");
    CHECK(of.without == std::vector<std::string>{"light.intensity"});
    // Bands that are bound are no numbers of the text's.
    of = {};
    of.uniforms.emplace_back().name = "tones";
    of.uniforms.back().means = {std::string("shading.bands")};
    take_hints(of, "if (k > 0.95) f = 1.0; else if (k > 0.5) f = 0.6; else f = 0.2;");
    CHECK(of.constants.empty());
}

TEST_CASE("what a text declares and never reads means nothing") {
    const std::string text =
        "struct lamp { vec3 place; float pad; float rest; };\nuniform float left, over;\n"
        "void main() { x = lamps[i].place * over; return rest; }";
    CHECK(is_only_declared(text, "lamps[*].pad"));
    CHECK_FALSE(is_only_declared(text, "lamps[*].place"));
    CHECK_FALSE(is_only_declared(text, "rest"));
    CHECK_FALSE(is_only_declared(text, "over"));
    CHECK(is_only_declared(text, "left"));
}

TEST_CASE("what a claim's formulas take out is told by what they give") {
    using formulas::slot;
    struct claimed {
        slot where;
        const char *text, *mistake;
    };
    for (const claimed& each : std::initializer_list<claimed>{
             {slot::diffuse, "(dot(n, l) + 0.3) / 1.3", "cosine-not-clamped"},
             {slot::diffuse, "max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)", ""},
             {slot::diffuse, "(dot(n, l) * 0.5 + 0.5) * (dot(n, l) * 0.5 + 0.5)", ""},
             {slot::diffuse, "dot(n, l) * vec3(1.0, 0.5, 0.2)", "cosine-not-clamped"},
             {slot::specular, "2.0 * pow(max(dot(n, h), 0.0), shininess)", "specular-on-unlit-side"},
             {slot::specular, "pow(max(dot(r, v), 0.0), shininess * 2.0)", "specular-on-unlit-side"},
             {slot::specular, "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess * 4.0) : 0.0", ""},
             {slot::specular, "pow(max(dot(n, h), 0.0), shininess) * max(dot(n, l), 0.0) * 2.0", ""},
             {slot::falloff, "2.0 / d", "falloff-not-squared"},
             {slot::falloff, "clamp(1.0 - pow(d / range, 4.0), 0.0, 1.0) / d", "falloff-not-squared"},
             {slot::falloff, "pow(max(1.0 - d / range, 0.0), 2.0) / (d * d)", ""},
             {slot::falloff, "pow(max(1.0 - d / range, 0.0), 2.0)", ""},
             {slot::falloff, "max(1.0 - d / range, 0.0) / (1.0 + d)", ""},
             {slot::falloff, "wrap", "falloff-missing"},
             {slot::falloff, "1.0 / (1.0 + 0.1 * d * d)", ""},
             {slot::falloff, "clamp(10.0 / d, 0.0, 1.0)", ""},
             {slot::penumbra, "smoothstep(cos_inner, cos_outer, cos_theta)", "cone-inner-outer-swapped"},
             {slot::penumbra, "1.0 - smoothstep(outer, inner, acos(cos_theta))", "cone-inner-outer-swapped"},
             {slot::penumbra, "smoothstep(cos_outer, cos_inner, cos_theta)", ""},
             {slot::penumbra, "1.0 - smoothstep(inner, outer, acos(cos_theta))", ""},
             {slot::color, "pow(pow(c, vec3(1.0 / 2.2)), vec3(1.0 / 2.2))", "encode-twice"},
             {slot::color, "vec3(c.r, pow(c.g, 0.2066), c.b)", "encode-twice"}, // in one component
             {slot::color, "pow(c, vec3(0.25))", ""},                           // up to 0.06 away from twice
             {slot::color, "pow(c, vec3(1.0 / 2.2))", ""},
             {slot::color, "min(c, vec3(1.0))", ""},
             {slot::color, "fract(c)", "output-wraps"},
             {slot::color, "1.0 - c", "output-wraps"},
             {slot::color, "vec3(c.r, c.g, fract(c.b))", "output-wraps"},
             {slot::color, "c * c * (vec3(3.0) - 2.0 * c)", "output-wraps"}, // above 1
             {slot::color, "smoothstep(0.0, 1.0, c)", ""},
             {slot::color, "vec3(1.0) - exp(-c * 5.0)", ""},
             {slot::diffuse, "no formula", ""}}) {
        CAPTURE(std::string(each.text));
        shader_program of;
        of.numbers.push_back({"wrap", {0.3}});
        of.formulas[each.where] = each.text;
        std::vector<std::pair<std::string, std::string>> expected;
        if (*each.mistake != '\0') {
            expected.emplace_back(formulas::descriptor_of(each.where).name, each.mistake);
        }
        CHECK(mistakes_in_formulas(of) == expected);
    }
    // Behind a tone curve as well, in the formula alone or by the stage after it.
    const std::string filmic = "clamp(c * (2.5 * c + 0.03) / (c * (2.4 * c + 0.6) + 0.14), 0.0, 1.0)";
    const auto of_color = [](const std::string& color, output_kind output) {
        shader_program made;
        made.formulas[slot::color] = color;
        made.output = output;
        return mistakes_in_formulas(made).size();
    };
    for (const std::string& tone : {filmic, std::string("c / (c + 1.0)")}) {
        CAPTURE(tone);
        const std::string once = "pow(" + tone + ", vec3(1.0 / 2.2))";
        CHECK(of_color(tone, output_kind::gamma) == 0);
        CHECK(of_color(tone, output_kind::srgb) == 0);
        CHECK(of_color(once, output_kind::linear) == 0);
        CHECK(of_color(once, output_kind::gamma) == 1);
        CHECK(of_color(once, output_kind::srgb) == 1);
        CHECK(of_color("pow(" + once + ", vec3(1.0 / 2.2))", output_kind::linear) == 1);
        CHECK(of_color("1.055 * pow(" + tone + ", vec3(1.0 / 2.4)) - 0.055", output_kind::srgb) == 1);
        CHECK(of_color("1.055 * pow(" + tone + ", vec3(1.0 / 2.4)) - 0.055", output_kind::linear) == 0);
    }
    shader_program encoding_after; // the formula encodes, and so does the stage after it
    encoding_after.formulas[slot::color] = "pow(c, vec3(1.0 / 2.2))";
    for (const output_kind how : {output_kind::gamma, output_kind::srgb}) {
        encoding_after.output = how;
        CHECK(mistakes_in_formulas(encoding_after) ==
              std::vector<std::pair<std::string, std::string>>{{"color", "encode-twice"}});
    }
    const auto changes_bright = [](const char* color) {
        shader_program of;
        of.formulas[slot::color] = color;
        return changes_what_is_bright(of);
    };
    CHECK(changes_bright("min(c, vec3(1.0))"));
    CHECK_FALSE(changes_bright("max(c, vec3(0.0))"));
    CHECK_FALSE(changes_bright(""));
    const auto lets_through = [](const char* diffuse) {
        shader_program of;
        of.formulas[slot::diffuse] = diffuse;
        return lets_light_through(of);
    };
    CHECK(lets_through("abs(dot(n, l))"));
    CHECK(lets_through("0.2 + max(dot(n, l), 0.0)"));
    CHECK_FALSE(lets_through("dot(n, l) * 0.5 + 0.5")); // 0 there
    CHECK_FALSE(lets_through("dot(n, l)"));
    CHECK_FALSE(lets_through(""));
}

TEST_CASE("a switch is tried on and off, and is never how many lights there are") {
    guessed_bindings guessed;
    guessed.uniforms.emplace_back().name = "curved";
    guessed.uniforms.back().type = "bool";
    const move_lists moves = all_moves(guessed);
    std::set<std::string> tried;
    for (const std::vector<move>* list : {&moves.open, &moves.usual, &moves.twins, &moves.unlikely}) {
        for (const move& each : *list) {
            shader_program of;
            of.uniforms.push_back({"curved", {}, {}});
            each.make(of);
            const auto& means = of.uniforms.front().means;
            if (!means.empty()) {
                const double* const number = std::get_if<double>(&means.front());
                tried.insert(number == nullptr ? text_of(of.uniforms.front()) : *number != 0 ? "on" : "off");
            }
        }
    }
    CHECK(tried == std::set<std::string>{"material.two_sided", "off", "on"});
}

TEST_CASE(
    "whole numbers that switch something on are switched on, and matrices in an array are different ones") {
    const type_shape whole{1, 0, 0, true, false, "uint"};
    CHECK(likely_uniform("_Global.UseSpec", whole) == "1");
    CHECK(likely_uniform("hasRope", whole) == "1");
    CHECK(likely_uniform("enableFog", {1, 0, 0, true, false, "int"}) == "1");
    CHECK(likely_uniform("lamps[*].used", whole) != "1"); // each lamp's own
    CHECK(likely_uniform("lampCount", whole) == "lights.count");
    // How many lights there are may be one of several whole numbers.
    guessed_name several;
    several.name = "night.counts";
    several.type = "ivec4";
    CHECK(means_by_use("for (int i = 0; i < night.counts.z; ++i) {", several) == "1, 1, lights.count, 1");
    CHECK(means_by_use("for (uint i = 0u; i < uint(counts.r); ++i) {", several) == "lights.count, 1, 1, 1");
    CHECK(means_by_use("int i = night.counts.z;", several).empty());
    // By what a shadow is looked up.
    for (const char* const name : {"lightSpaceMatrix", "u_shadowMatrix", "lightViewProj", "depthBiasMVP"}) {
        CAPTURE(std::string(name));
        CHECK(likely_uniform(name, mat4_shape) == "view.world_to_clip");
    }
    shader_program of;
    of.vertex.entry = of.fragment.entry = "main";
    of.vertex.source = "#version 330\nuniform mat4 all[2];\nin vec3 place;\n"
                       "void main() { gl_Position = all[1] * all[0] * vec4(place, 1.0); }\n";
    of.fragment.source = "#version 330\nuniform vec3 hues[2];\nout vec4 c;\n"
                         "void main() { c = vec4(hues[0] + hues[1], 1.0); }\n";
    std::vector<std::string> names;
    for (const guessed_name& each : guess_bindings(of).uniforms) {
        names.push_back(each.name);
    }
    std::sort(names.begin(), names.end());
    CHECK(names == std::vector<std::string>{"all[0]", "all[1]", "hues[*]"});
}
