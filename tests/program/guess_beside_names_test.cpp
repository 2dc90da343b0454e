// What a guess takes from a text where names alone mislead: shares of a lamp's light, what nobody speaks of,
// gates, and numbers of a claim. Expected values are what the texts say, by hand.
#include <algorithm>
#include <iterator>
#include <set>
#include <string>
#include <utility>
#include <variant>
#include <vector>

#include <doctest/doctest.h>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/written_names.hpp"

using namespace yurvo;
using namespace yurvo::program;
using formulas::slot;

namespace {

const type_shape a_vec3{3, 0, 0, false, false, "vec3"};
const type_shape a_float{1, 0, 0, false, false, "float"};

shader_program bound(const std::vector<std::pair<std::string, std::string>>& names) {
    shader_program of;
    for (const auto& [name, means] : names) {
        shader_binding binding;
        binding.name = name;
        binding.means = {means};
        of.uniforms.push_back(binding);
    }
    return of;
}

bool is_without(const shader_program& of, const std::string& what) {
    return std::find(of.without.begin(), of.without.end(), what) != of.without.end();
}

} // namespace

TEST_CASE("an ambient strength that a lamp's colour is multiplied by is that lamp's ambient part") {
    struct written {
        const char* text;
        bool share;
    };
    for (const written& each :
         std::initializer_list<written>{{"vec3 a = strength * lamp;", true},
                                        {"vec3 a = lamp * strength * paint;", true},
                                        {"c = (strength + nl) * lamp * paint;", true},
                                        {"c = (nl + strength) * lamp;", true},
                                        {"c = lamp * (nl + strength + extra);", true},
                                        {"c = lamp * (strength + max(dot(n, l), 0.0));", true},
                                        {"vec3 a = strength * gloom;", false},
                                        {"vec3 a = strength * lampside;", false},
                                        {"vec3 a = strength; c = nl * lamp;", false},
                                        {"c = (strength * gloom + nl) * lamp;", false},
                                        {"c = strengthened * lamp;", false}}) {
        CAPTURE(std::string(each.text));
        shader_program of = bound({{"lamp", "lights[0].light"}, {"strength", "ambient.strength"}});
        take_hints(of, each.text);
        CHECK(text_of(of.uniforms[1]) == (each.share ? "lights[0].ambient[0]" : "ambient.strength"));
        CHECK(is_without(of, "ambient") == each.share);
    }
    // Ambient light of three numbers, too, where the lamp's colour multiplies all of a sum that it is in.
    for (const auto& [text, share] : std::initializer_list<std::pair<const char*, bool>>{
             {"c = lamp * (paint * k + paint * glow);", true},
             {"c = lamp.rgb * (max(dot(n, l), 0.0) * paint + (glow * paint));", true},
             {"c = lamp * (paint * k) + paint * glow;", false},
             {"c = lamp * (paint * k); d = (glow);", false}}) {
        CAPTURE(std::string(text));
        shader_program of = bound({{"lamp", "lights[0].light"}, {"glow", "ambient.light"}});
        take_hints(of, text);
        CHECK(text_of(of.uniforms[1]) == (share ? "lights[0].ambient" : "ambient.light"));
        CHECK(is_without(of, "ambient") == share);
    }
    // Of many lamps it is one number, which the claim gives each of them.
    for (const char* const text : {"sum += strength * lamps[i].color;", "vec3 a = each.color * strength;"}) {
        CAPTURE(std::string(text));
        shader_program of = bound({{"lamps[*].color", "lights[*].light"}, {"strength", "ambient.strength"}});
        take_hints(of, text);
        const double* const number = std::get_if<double>(&of.uniforms[1].means.front());
        REQUIRE(number != nullptr);
        REQUIRE(of.constants.size() == 1);
        CHECK(of.constants[0].quantity == "lights[*].ambient");
        CHECK(of.constants[0].numbers == std::vector(3, *number));
        CHECK(*number > 0);
        CHECK(is_without(of, "ambient"));
    }
}

TEST_CASE("an ambient strength beside all of a lamp's light is a share of it") {
    for (const auto& each : std::initializer_list<std::pair<const char*, bool>>{
             {"vec3 a = li.amb * paint * li.glow;", true},
             {"vec3 a = li.glow * paint * lamps[i].amb;", true},
             {"vec3 a = amb * glow;", true},
             {"vec3 a = li.amb * paint; vec3 c = li.glow * k;", false},
             {"vec3 a = li.amb + li.glow;", false}}) {
        const char* const text = each.first;
        const bool share = each.second;
        CAPTURE(text);
        shader_program of = bound({{"lamps[*].glow", "lights[*].light"},
                                   {"lamps[*].amb", "= lights[*].intensity * lights[*].ambient.x"}});
        take_hints(of, text);
        CHECK(text_of(of.uniforms[1]) ==
              (share ? "lights[*].ambient[0]" : "= lights[*].intensity * lights[*].ambient.x"));
        CHECK(is_without(of, "ambient")); // its lights bring their own
    }
}

TEST_CASE("the colour of a lamp of which nothing says how strong it is, is all of its light") {
    struct written {
        const char* strength; // what another name means
        bool all;
    };
    for (const written& each : std::initializer_list<written>{
             {"lights.directional[0].ambient", true},
             {"lights.point[*].intensity", true},
             {"= lights.directional[0].intensity * lights.directional[0].ambient.x", true},
             {"lights.directional[0].intensity", false},
             {"= 2.0 * lights.directional[0].intensity", false},
             {"lights[*].intensity", false}, // it may be among them
             {"lights[0].intensity", false}}) {
        CAPTURE(std::string(each.strength));
        shader_program of = bound({{"moon.hue", "lights.directional[0].color"}, {"other", each.strength}});
        take_hints(of, "c = moon.hue * k;");
        CHECK(text_of(of.uniforms[0]) ==
              (each.all ? "lights.directional[0].light" : "lights.directional[0].color"));
    }
    shader_program of =
        bound({{"hues[*]", "lights[*].color"}, {"strengths[*]", "lights.point[*].intensity"}});
    take_hints(of, "c = hues[i] * k;");
    CHECK(text_of(of.uniforms[0]) == "lights[*].color"); // some of them have a strength
}

TEST_CASE(
    "what no name speaks of is left out together: a light's colour, a highlight's factor, ambient light") {
    const auto left_out = [](const std::vector<std::pair<std::string, std::string>>& names) {
        guessed_bindings guessed;
        for (const auto& [name, means] : names) {
            guessed_name& one = guessed.uniforms.emplace_back();
            one.name = name;
            one.means = means;
        }
        std::set<std::set<std::string>> found;
        for (const move& each : starting_points(guessed)) {
            shader_program of;
            each.make(of);
            found.insert(std::set<std::string>(of.without.begin(), of.without.end()));
        }
        found.erase(std::set<std::string>{});
        return found;
    };
    using sets = std::set<std::set<std::string>>;
    CHECK(left_out({{"toMoon", "lights[0].to_light"}, {"paint", "material.base"}}) ==
          sets{{"light.color", "light.intensity", "material.specular"},
               {"ambient", "light.color", "light.intensity", "material.specular"}});
    CHECK(left_out({{"toMoon", "lights[0].to_light"},
                    {"shine", "material.specular"},
                    {"gloom", "ambient.light"}}) == sets{{"light.color", "light.intensity"}});
    for (const char* const colored :
         {"lights[0].light", "lights[0].color", "lights[0].intensity", "lights[0].diffuse_light"}) {
        CHECK(left_out({{"toMoon", "lights[0].to_light"}, {"lamp", colored}}).empty());
    }
    CHECK(left_out({{"paint", "material.base"}}).empty());
}

TEST_CASE("a highlight that small scenes do not show ungated is claimed with its gate") {
    const auto gated = [](const std::string& formula) {
        std::vector<std::string> all;
        shader_program of;
        of.formulas[slot::specular] = formula;
        for (const move& each : moves_that_gate(of)) {
            CHECK(each.omits == "specular-on-unlit-side");
            shader_program made = of;
            each.make(made);
            all.push_back(made.formulas[slot::specular] + " of " +
                          (made.model == model_kind::phong ? "phong" : "another"));
        }
        return all;
    };
    using texts = std::vector<std::string>;
    const std::string lobe = "pow(max(dot(r, v), 0.0), shininess)";
    CHECK(gated(lobe + " * base") == texts{"dot(n, l) > 0.0 ? " + lobe + " * base : vec3(0.0) of another"});
    CHECK(gated(lobe).front() == " of phong");
    CHECK(gated("2.0 * " + lobe) == texts{"dot(n, l) > 0.0 ? 2.0 * " + lobe + " : 0.0 of another"});
    CHECK(gated("front ? " + lobe + " : 1.0") ==
          texts{"dot(n, l) > 0.0 ? (front ? " + lobe + " : 1.0) : 0.0 of another"});
    CHECK(gated("").empty());
    CHECK(gated(lobe + " * max(dot(n, l), 0.0)").empty());
}

TEST_CASE("numbers of a claim: sky and ground stand beside others, and names that tell are no material's") {
    shader_program of = bound({{"skyColor", "ambient.light"}, {"groundColor", "material.base"}});
    of.numbers.push_back({"rimWidth", {0.3}});
    take_hints(of, "vec3 hemi = mix(groundColor, skyColor, n.y * 0.5 + 0.5);");
    std::vector<std::string> names;
    for (const auto& each : of.numbers) {
        names.push_back(each.name);
    }
    CHECK(names == std::vector<std::string>{"rimWidth", "sky", "ground"});
    for (const char* const name : {"rimColor", "fogColor", "u_fresnelColor"}) {
        CAPTURE(std::string(name));
        CHECK(likely_uniform(name, a_vec3).empty());
        shader_binding called;
        called.name = name;
        CHECK(names_a_number(called));
    }
    CHECK(likely_uniform("trimColor", a_vec3) == "material.base");
    CHECK(likely_uniform("f0", a_vec3) == "material.specular");
    CHECK(likely_uniform("u_innerLimit", a_float) == "lights[0].cos_inner");
    CHECK(likely_uniform("outerLimit", a_float) == "lights[0].cos_outer");
    CHECK(likely_uniform("coneOuter", a_float) == "lights[0].outer");
    CHECK(likely_uniform("limit", a_float) == "lights[0].cos_outer");
    CHECK(likely_uniform("beamCosOuterCone", a_float) == "lights[0].cos_outer");
}

TEST_CASE("names that hold two things, products, strengths of three numbers and where light begins to fade") {
    const type_shape vec4_shape{4, 0, 0, false, false, "vec4"};
    struct named {
        const char* name;
        type_shape shape;
        const char* means;
    };
    for (const named& each : std::initializer_list<named>{
             {"lamps[*].posRange", vec4_shape, "lights[*].position, lights[*].range"},
             {"lamps[*].dirCosOuter", vec4_shape, "lights[*].shines, lights[*].cos_outer"},
             {"lamps[*].colorCosInner", vec4_shape, "lights[*].color, lights[*].cos_inner"},
             {"ambientAndCount", vec4_shape, "ambient.light, lights.count"},
             {"AmbientProduct", vec4_shape, "= ambient.light * material.base * material.ambient"},
             {"DiffuseProduct", vec4_shape, "= lights[0].light * material.base * material.diffuse"},
             {"SpecularProduct", vec4_shape, "= lights[0].light * material.specular"},
             {"lights[*].Strength", a_vec3, "lights[*].light"},
             {"lights[*].FalloffEnd", a_float, "lights[*].range"},
             {"u_reverseLightDirection", a_vec3, "lights[0].to_light"},
             {"lampDirection", a_vec3, "lights[0].shines"},
             {"kConst", a_float, "lights[0].coefficients[0]"},
             {"kLin", a_float, "lights[0].coefficients[1]"},
             {"quadratic", a_float, "lights[0].coefficients[2]"}}) {
        CAPTURE(std::string(each.name));
        CHECK(likely_uniform(each.name, each.shape) == each.means);
    }
    for (const char* const name : {"lights[*].FalloffStart", "fadeBegin", "attenuationNear", "lamp.decay"}) {
        CAPTURE(std::string(name));
        shader_binding called;
        called.name = name;
        CHECK(names_a_number(called));
        guessed_name number;
        number.name = name;
        number.type = "float";
        CHECK(means_by_use("float f = pow(x, " + last_name(name) + ");", number).empty());
    }
    shader_binding end;
    end.name = "falloffEnd";
    CHECK_FALSE(names_a_number(end));
}

TEST_CASE("a moon in a block of lamps is directional, and where a number says kinds, words say none") {
    const auto settled = [](const std::vector<std::pair<std::string, std::string>>& names) {
        std::vector<guessed_name> all;
        for (const auto& [name, means] : names) {
            guessed_name& made = all.emplace_back();
            made.name = name;
            made.means = means;
        }
        tell_lights_apart(all);
        std::vector<std::string> means;
        std::transform(all.begin(), all.end(), std::back_inserter(means),
                       [](const auto& each) { return each.means; });
        return means;
    };
    using list = std::vector<std::string>;
    CHECK(settled({{"Lamps.moonDir", "lights[0].shines"},
                   {"Lamps.moonColor", "lights[0].color"},
                   {"Lamps.points[*].place", "lights[*].position"},
                   {"Lamps.pointCount", "lights.count"}}) ==
          list{"lights.directional[0].shines", "lights.directional[0].color", "lights.point[*].position",
               "lights.point.count"});
    CHECK(settled({{"placeKind[*]", "lights[*].position, lights[*].kind"},
                   {"dirReach[*]", "lights[*].shines, lights[*].range"}}) ==
          list{"lights[*].position, lights[*].kind", "lights[*].shines, lights[*].range"});
}

TEST_CASE("lamps that differ by a letter are two") {
    std::vector<guessed_name> all(5);
    const std::vector<std::pair<std::string, std::string>> names{{"lanternAPosition", "lights[0].position"},
                                                                 {"lanternAColor", "lights[0].light"},
                                                                 {"lanternBPosition", "lights[0].position"},
                                                                 {"lanternBColor", "lights[0].light"},
                                                                 {"kLin", "lights[0].coefficients[1]"}};
    for (std::size_t i = 0; i < all.size(); ++i) {
        all[i].name = names[i].first;
        all[i].means = names[i].second;
    }
    tell_lights_apart(all);
    std::vector<std::string> means;
    std::transform(all.begin(), all.end(), std::back_inserter(means),
                   [](const auto& each) { return each.means; });
    CHECK(means == std::vector<std::string>{"lights[0].position", "lights[0].light", "lights[1].position",
                                            "lights[1].light", "lights[0].coefficients[1]"});
}

TEST_CASE("ambient light that is written as a number is one") {
    const auto ambient = [](const std::string& text, const char* lamp = "lights[0].light") {
        shader_program of = bound({{"paint", "material.base"}, {"lamp", lamp}});
        take_hints(of, text);
        const auto found = std::find_if(of.constants.begin(), of.constants.end(),
                                        [](const auto& each) { return each.quantity == "ambient.light"; });
        return found == of.constants.end() ? std::vector<double>{} : found->numbers;
    };
    using numbers = std::vector<double>;
    CHECK(ambient("vec3 ambient = 0.05 * paint;") == numbers{0.05});
    CHECK(ambient("vec3 ambientTerm = vec3(0.03) * paint * ao;") == numbers{0.03});
    CHECK(ambient("vec3 c = vec3(0.03) * paint + sum;") == numbers{0.03});
    CHECK(ambient("vec3 c = float3(0.25f) * paint.rgb + sum;") == numbers{0.25});
    CHECK(ambient("vec3 c = vec3(0.03) * gloom + sum;").empty());
    CHECK(ambient("vec3 c = 0.5 * paint;").empty());
    CHECK(ambient("vec3 ambient = 0.05 * lamp;").empty()); // a share of the lamp's
}

TEST_CASE("names that say the world are of no other space") {
    shader_program of = bound({{"u_lampWorldPosition", "lights[0].position"},
                               {"lampPosition", "lights[0].position"},
                               {"worldViewPosition", "lights[1].position"},
                               {"eye", "view.eye"}});
    for (const move& each : moves_of_space()) {
        each.make(of);
        CHECK(text_of(of.uniforms[0]) == "lights[0].position");
    }
    moves_of_space()[1].make(of);
    CHECK(text_of(of.uniforms[1]) == "lights[0].position_view");
    CHECK(text_of(of.uniforms[2]) == "lights[1].position_view");
    CHECK(text_of(of.uniforms[3]) == "view.eye");
}

TEST_CASE("a clip space is read from what the vertex stage does with the position that it writes") {
    const auto clip = [](const std::string& text) {
        shader_program of;
        take_hints(of, text);
        return of.clip;
    };
    CHECK(clip("gl_Position = m * p; gl_Position.y = -gl_Position.y;") == clip_space::vulkan);
    CHECK(clip("gl_Position.y *= -1.0;") == clip_space::vulkan);
    CHECK(clip("vec4 c = m * p; c.y = -c.y; c.z = (c.z + c.w) * 0.5; gl_Position = c;") ==
          clip_space::vulkan);
    CHECK(clip("vec4 c = m * p; gl_Position = vec4(c.x, -c.y, c.z, c.w);") == clip_space::vulkan);
    CHECK(clip("struct V { float4 at : SV_Position; }; o.at = mul(m, p); o.at.y = -o.at.y;") ==
          clip_space::vulkan);
    CHECK(clip("vec4 c = m * p; c.z = (c.z + c.w) * 0.5; gl_Position = c;") == clip_space::d3d);
    CHECK(clip("gl_Position.z = 0.5 * (gl_Position.z + gl_Position.w);") == clip_space::d3d);
    // Other things are turned too.
    CHECK(clip("t = uv; t.y = -t.y; n.z = 1.0; gl_Position = m * p;") == clip_space::gl);
}
