// What a program claims is read off what it binds: which lights it can be given, how many, under which laws,
// and what of a scene reaches it. The rules are those of docs/programs.md, each with the bindings of a shader
// as people write it.
#include <doctest/doctest.h>

#include <algorithm>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "program/advice.hpp"
#include "program/claims.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;
using namespace yurvo::program;

namespace {

using enum light_kind;
using names = std::vector<std::pair<std::string, std::string>>;

constexpr std::uint32_t vec3_type = 0x8B51;  // GL_FLOAT_VEC3
constexpr std::uint32_t int_type = 0x1404;   // GL_INT
constexpr std::uint32_t float_type = 0x1406; // GL_FLOAT

// The shader's names and what they mean, as the driver reports them: one with [*] for each element of an
// array.
claims claims_by(const names& bound, const shader_program& of = {}, int elements = 4,
                 std::uint32_t type = vec3_type) {
    bindings all;
    for (const auto& [name, means] : bound) {
        const std::size_t star = name.find("[*]");
        for (int each = 0; each < (star == std::string::npos ? 1 : elements); ++each) {
            bound_uniform uniform;
            uniform.active.name =
                star == std::string::npos
                    ? name
                    : name.substr(0, star + 1) + std::to_string(each) + name.substr(star + 2);
            uniform.active.type = type;
            uniform.each = each;
            uniform.means.push_back(parse_meaning(means, {"lantern.toml", 3, 1}));
            all.uniforms.push_back(uniform);
        }
    }
    return claims_of(of, all);
}

using kinds = std::vector<light_kind>;
using falloffs = std::vector<falloff_kind>;
using penumbras = std::vector<penumbra_kind>;

} // namespace

TEST_CASE("claims: the kinds of light that bindings can carry") {
    struct row {
        const char* what;
        names bound;
        kinds expected;
    };
    const std::vector<row> rows{
        {"a way alone is a directional light", {{"u", "lights[*].to_light"}}, {directional}},
        {"so is where it shines, without a place", {{"u", "lights[*].shines"}}, {directional}},
        {"and the half vector for a far eye", {{"u", "lights[*].half"}}, {directional}},
        {"a place alone is a point light", {{"u", "lights[*].position"}}, {point}},
        {"in whatever space", {{"u", "lights[*].position_view"}}, {point}},
        {"a place, an axis and an angle are a spot light",
         {{"u", "lights[*].position"}, {"a", "lights[*].axis"}, {"c", "lights[*].cos_outer"}},
         {spot}},
        {"in degrees too",
         {{"u", "lights[*].position"}, {"a", "lights[*].shines"}, {"c", "lights[*].outer_degrees"}},
         {spot}},
        {"a place with an axis and no angle is a point light",
         {{"u", "lights[*].position"}, {"a", "lights[*].axis"}},
         {point}},
        {"with `kind` all that the rest can carry",
         {{"u", "lights[*].position"},
          {"a", "lights[*].shines"},
          {"c", "lights[*].outer"},
          {"k", "lights[*].kind"}},
         {directional, point, spot}},
        {"without a cone no spot light",
         {{"u", "lights[*].position"}, {"a", "lights[*].shines"}, {"k", "lights[*].kind"}},
         {directional, point}},
        {"a place with a fourth number says which of two it is",
         {{"u", "lights[*].place"}},
         {directional, point}},
        {"sets by kind say it themselves",
         {{"u", "lights.point[*].position"}, {"m", "lights.directional[*].to_light"}},
         {directional, point}},
    };
    for (const row& each : rows) {
        CAPTURE(each.what);
        names bound = each.bound;
        for (auto& [name, means] : bound) {
            name += "[*]";
        }
        CHECK(claims_by(bound).kinds == each.expected);
    }
}

TEST_CASE("claims: what the program file says goes before what bindings can carry") {
    shader_program of;
    of.kinds = kinds{point};
    of.falloffs = falloffs{falloff_kind::linear};
    of.penumbras = penumbras{penumbra_kind::hard};
    of.lights = {1, 2};
    of.scale = scale_claim::uniform;
    of.follows = ambient_follows::distance;
    of.normals = normals_claim::face;
    of.without = {"ambient"};
    of.model = model_kind::phong;
    of.rate = rate::vertex;
    of.ambient_rule = ambient_rule::max;
    const claims found = claims_by({{"u[*].place", "lights[*].position"},
                                    {"u[*].way", "lights[*].shines"},
                                    {"u[*].kind", "lights[*].kind"},
                                    {"u[*].law", "lights[*].falloff"}},
                                   of);
    CHECK(found.kinds == kinds{point});
    CHECK(found.falloffs == falloffs{falloff_kind::linear});
    CHECK(found.penumbras == penumbras{penumbra_kind::hard});
    CHECK(found.fewest == 1);
    CHECK(found.most == 2);
    CHECK(found.scale == scale_claim::uniform);
    CHECK(found.follows == ambient_follows::distance);
    CHECK(found.normals == normals_claim::face);
    CHECK(found.without == std::set<std::string>{"ambient"});
    CHECK(found.model == model_kind::phong);
    CHECK(found.rate == rate::vertex);
    CHECK(found.rule == ambient_rule::max);
}

TEST_CASE("claims: the falloffs that bindings can carry, the likeliest first") {
    const auto by = [](const std::vector<std::string>& properties) {
        names bound{{"u[*].place", "lights[*].position"}};
        for (const std::string& property : properties) {
            bound.emplace_back("u[*]." + property, "lights[*]." + property);
        }
        return claims_by(bound).falloffs;
    };
    using enum falloff_kind;
    CHECK(by({}) == falloffs{inverse_square});
    CHECK(by({"range"}) == falloffs{windowed}); // a range and no name of a law: the window that ends there
    CHECK(by({"coefficients"}) == falloffs{inverse_square, none, polynomial}); // whatever k0, k1, k2 can be
    CHECK(by({"falloff"}) == falloffs{inverse_square, none});
    CHECK(by({"falloff", "range"}) == falloffs{inverse_square, none, linear, windowed});
    const falloffs all = by({"falloff", "range", "coefficients"});
    CHECK(all.front() == inverse_square);
    CHECK(std::set<falloff_kind>(all.begin(), all.end()).size() == falloff_count);
}

TEST_CASE("claims: the penumbras that bindings can carry") {
    const auto by = [](const std::vector<std::string>& properties) {
        names bound{{"u[*].place", "lights[*].position"},
                    {"u[*].axis", "lights[*].axis"},
                    {"u[*].outer", "lights[*].cos_outer"}};
        for (const std::string& property : properties) {
            bound.emplace_back("u[*]." + property, "lights[*]." + property);
        }
        return claims_by(bound).penumbras;
    };
    using enum penumbra_kind;
    CHECK(by({}) == penumbras{hard}); // a border and nothing else
    CHECK(by({"exponent"}) == penumbras{power});
    for (const char* const inner : {"inner", "inner_degrees", "cos_inner"}) {
        CAPTURE(inner);
        CHECK(by({inner}) == penumbras{smooth});
    }
    const penumbras named = by({"penumbra", "cos_inner"});
    CHECK(named.front() == smooth);
    CHECK(named.size() == penumbra_count - 1); // without an exponent no power
    CHECK(by({"penumbra", "cos_inner", "exponent"}).size() == penumbra_count);
}

TEST_CASE("claims: how few lights and how many") {
    // An array takes as many as it holds, and none where a count says so.
    claims found = claims_by({{"u[*].place", "lights[*].position"}, {"n", "lights.count"}}, {}, 8);
    CHECK(found.most == 8);
    CHECK(found.fewest == 0);
    CHECK(found.in_any_order);
    // A shader for one lamp is given one.
    found = claims_by({{"lamp", "lights[0].position"}});
    CHECK(found.most == 1);
    CHECK(found.fewest == 1);
    // One that reads two by index, two.
    found = claims_by({{"a", "lights[0].position"}, {"b", "lights[1].position"}});
    CHECK(found.most == 2);
    CHECK(found.fewest == 2);
    // Sets by kind: as many of each.
    found = claims_by({{"p[*]", "lights.point[*].position"}, {"m", "lights.directional[0].to_light"}}, {}, 3);
    CHECK(found.most == 4);
    CHECK(found.most_of_kind == std::map<light_kind, int>{{directional, 1}, {point, 3}});
    CHECK(found.fewest_of_kind == std::map<light_kind, int>{{directional, 1}, {point, 0}});
    CHECK_FALSE(found.in_any_order);
    // By name.
    found = claims_by({{"moon", "lights.moon.to_light"}, {"lamp", "lights.lamp.position"}});
    CHECK(found.names == std::set<std::string>{"lamp", "moon"});
    CHECK(found.most == 2);
    CHECK(found.kind_of_name == std::map<std::string, light_kind>{{"lamp", point}, {"moon", directional}});
}

TEST_CASE("claims: more lights than the arrays hold are one line") {
    shader_program of;
    of.file = "lantern.toml";
    of.lights = {1, 9};
    try {
        claims_by({{"u[*].place", "lights[*].position"}}, of, 4);
        FAIL("it was taken");
    } catch (const error& wrong) {
        CHECK(std::string(wrong.what()) ==
              "lantern.toml: `lights` says up to 9, and the shader's arrays hold 4; lights "
              "= [1, 4], or larger arrays");
    }
}

TEST_CASE("claims: two lamps of different kinds have their kinds in order") {
    const claims found = claims_by({{"moon_way", "lights[0].to_light"},
                                    {"lamp_place", "lights[1].position"},
                                    {"lamp_color", "lights[1].color"}});
    CHECK(found.kinds == kinds{directional, point});
    CHECK(found.in_order);
    CHECK(found.by_index == std::set<std::string>{"color", "position", "to_light"});
}

TEST_CASE("claims: what is bound by index, every light must have") {
    // A range is of no directional light, so that such a light cannot be the first.
    const claims found = claims_by({{"way", "lights[0].place"}, {"range", "lights[0].range"}});
    CHECK(found.kinds == kinds{point});
}

TEST_CASE("claims: a number that is bound of the first light alone is one for all of several") {
    const auto shared = [](names more, std::uint32_t type = float_type) {
        names bound{{"places[*]", "lights[*].position"}, {"colors[*]", "lights[*].light"}};
        bound.insert(bound.end(), more.begin(), more.end());
        return claims_by(bound, {}, 4, type).shared;
    };
    using set = std::set<std::string>;
    CHECK(shared({{"reach", "lights[0].range"}}) == set{"range"});
    CHECK(shared({{"kq", "lights[0].coefficients[2]"}}) == set{"coefficients"});
    CHECK(shared({{"edge", "lights[0].cos_outer"}, {"soft", "lights[0].inner_degrees"}}) ==
          set{"inner", "outer"});
    CHECK(shared({{"tight", "lights[0].exponent"}}) == set{"exponent"});
    CHECK(shared({{"reach[*]", "lights[*].range"}}).empty());
    CHECK(shared({{"reach", "lights[0].range"}, {"other", "lights[1].range"}}).empty());
    CHECK(shared({{"other", "lights[1].range"}}).empty());
    // Nor where the file binds the other's to a name that the shader never reads.
    shader_program forgotten;
    shader_binding& unread = forgotten.uniforms.emplace_back();
    unread.name = "lampBReach";
    unread.means = {std::string("lights[1].range")};
    const names two{{"a", "lights[0].position"}, {"b", "lights[1].position"}, {"c", "lights[0].range"}};
    CHECK(claims_by(two, forgotten).shared.empty());
    CHECK(advice_on(claims_by(two), {}).back() == "`range` is bound of the first light alone and taken for "
                                                  "every light's: where each has its own, bind that too");
    // Of one light it is that light's; and a colour is nobody's but its own.
    CHECK(claims_by({{"place", "lights[0].position"}, {"reach", "lights[0].range"}}).shared.empty());
    CHECK(claims_by({{"a", "lights[0].position"}, {"b", "lights[1].position"}, {"c", "lights[0].light"}})
              .shared.empty());
    CHECK(claims_by({{"a", "lights[0].position"}, {"b", "lights[1].position"}, {"c", "lights[0].range"}})
              .shared == set{"range"});
}

TEST_CASE("advice: what is bound of lights and no light of the claim has is not looked at") {
    const auto told = [](names more) {
        names bound{{"places[*]", "lights[*].position"}, {"aims[*]", "lights[*].shines"}};
        bound.insert(bound.end(), more.begin(), more.end());
        std::vector<std::string> lines = advice_on(claims_by(bound, {}, 4, float_type), {});
        std::erase_if(lines, [](const std::string& line) {
            return line.find("of lights is bound") == std::string::npos;
        });
        return lines;
    };
    const auto line = [](const std::string& property) {
        return "`" + property +
               "` of lights is bound, and no light that the claim takes has it: what the shader does "
               "with it is not looked at";
    };
    using lines = std::vector<std::string>;
    CHECK(told({{"inside[*]", "lights[*].inner"}}) == lines{line("inner"), line("shines")});
    CHECK(told({}) == lines{line("shines")}); // nothing makes a spot of a lamp that is aimed
    CHECK(told({{"inside[*]", "lights[*].inner"}, {"outside[*]", "lights[*].outer"}}).empty());
}

TEST_CASE("advice: what is bound and named in `without` is told") {
    claims claimed;
    claimed.model = model_kind::lambert;
    claimed.without = {"ambient"};
    const auto told = [&] {
        const std::vector<std::string> lines = advice_on(claimed, {});
        return std::count(
            lines.begin(), lines.end(),
            "`without` names `ambient`, which is bound: it is looked at all the same, so leave it "
            "out there");
    };
    CHECK(told() == 0);
    claimed.bound = {"ambient.color"};
    CHECK(told() == 1);
    claimed.without.clear();
    CHECK(told() == 0);
}

TEST_CASE("advice: what is bound of lights and no law of the claim uses is said") {
    const auto told = [](const claims& claimed) {
        std::vector<std::string> lines = advice_on(claimed, {});
        std::erase_if(lines, [](const std::string& line) {
            return line.find("no law of the claim uses it") == std::string::npos;
        });
        return lines;
    };
    const std::string after =
        " of lights is bound, and no law of the claim uses it: say which does, or leave it out";
    using lines = std::vector<std::string>;
    claims claimed;
    claimed.kinds = {spot};
    claimed.most = 1;
    claimed.light_bound = {"position",     "shines",   "cos_inner", "cos_outer",
                           "coefficients", "exponent", "range"};
    claimed.penumbras = {penumbra_kind::hard};
    claimed.falloffs = {falloff_kind::windowed};
    CHECK(told(claimed) == lines{"`coefficients`" + after, "`cos_inner`" + after, "`exponent`" + after});
    claimed.penumbras = {penumbra_kind::smooth, penumbra_kind::power};
    claimed.falloffs = {falloff_kind::none, falloff_kind::polynomial};
    CHECK(told(claimed) == lines{"`range`" + after});
    // A formula in a law's place is asked instead of the law.
    claimed.formulas[formulas::slot::penumbra] = "step(cos_outer, cos_theta)";
    CHECK(told(claimed) == lines{"`cos_inner`" + after, "`exponent`" + after, "`range`" + after});
    claimed.formulas[formulas::slot::penumbra] = "pow(smoothstep(cos_outer, cos_inner, cos_theta), exponent)";
    claimed.formulas[formulas::slot::falloff] = "step(d, range)";
    CHECK(told(claimed) == lines{"`coefficients`" + after});
    // A light that has none of it is told of otherwise.
    claimed.kinds = {directional};
    CHECK(told(claimed).empty());
}

TEST_CASE("claims: bindings of lights that make no kind of light are one line") {
    shader_program of;
    of.file = "lantern.toml";
    try {
        claims_by({{"u[*].color", "lights[*].color"}}, of);
        FAIL("it was taken");
    } catch (const error& wrong) {
        CHECK(wrong.wrong() == "what [uniforms] binds of lights makes no kind of light");
    }
}

TEST_CASE("claims: a lit model that no light reaches keeps the scene's lights, so that it fails") {
    shader_program of;
    of.model = model_kind::lambert;
    claims found = claims_by({{"paint", "material.base"}}, of);
    CHECK(found.kinds == kinds{directional, point, spot});
    CHECK(found.most > 1000);
    of.model = model_kind::unlit;
    found = claims_by({{"paint", "material.base"}}, of);
    CHECK(found.kinds.empty());
    CHECK(found.most == 0);
    of.model = model_kind::lambert;
    of.lights = {0, 0}; // it says that it takes none
    CHECK(claims_by({{"paint", "material.base"}}, of).most == 0);
}

TEST_CASE("claims: a product binds its factors") {
    const claims found = claims_by({{"sky", "ambient.light"},
                                    {"paint", "material.base_alpha"},
                                    {"glow", "lights[0].light"},
                                    {"way", "lights[0].to_light"},
                                    {"part", "lights[0].specular_light"}});
    for (const char* const what :
         {"ambient.light", "ambient.color", "ambient.strength", "material.base", "material.alpha"}) {
        CAPTURE(what);
        CHECK(found.has(what));
    }
    for (const char* const what : {"color", "intensity", "specular", "to_light"}) {
        CAPTURE(what);
        CHECK(found.light_has(what));
    }
    CHECK_FALSE(found.has("material.specular"));
    CHECK_FALSE(found.light_has("diffuse"));
    // In an expression as well.
    const claims worked_out =
        claims_by({{"glow", "= lights[0].color * lights[0].intensity * material.diffuse"},
                   {"way", "lights[0].to_light"}});
    CHECK(worked_out.light_has("color"));
    CHECK(worked_out.light_has("intensity"));
    CHECK(worked_out.has("material.diffuse"));
}

TEST_CASE("claims: a colour of which only the first number is bound is grey") {
    claims found = claims_by({{"gloss", "material.specular[0]"},
                              {"paint", "material.base"},
                              {"sky", "ambient.color[0]"},
                              {"sky_green", "ambient.color[1]"},
                              {"lamp", "lights[0].color[0]"},
                              {"way", "lights[0].to_light"}});
    CHECK(found.grey.count("material.specular") == 1);
    CHECK(found.grey.count("material.base") == 0);
    CHECK(found.grey.count("ambient.color") == 0); // the second is bound as well
    CHECK(found.grey.count("lights.color") == 1);
}

TEST_CASE("claims: what an integer is bound to is taken whole") {
    const claims found = claims_by({{"power", "material.shininess"}}, {}, 1, int_type);
    CHECK(found.whole == std::set<std::string>{"material.shininess"});
    CHECK(claims_by({{"power", "material.shininess"}}).whole.empty());
}

TEST_CASE("claims: bands and thresholds as long as their arrays") {
    claims found = claims_by({{"limits[*]", "shading.thresholds"}, {"bands[*]", "shading.bands"}}, {}, 5);
    CHECK(found.thresholds == 5U);
    CHECK(found.bands == 5U);
    CHECK(found.grey.count("shading.bands") == 0); // each a colour
    CHECK(claims_by({{"bands[*]", "shading.bands"}}, {}, 3, float_type).grey.count("shading.bands") == 1);
    found = claims_by({{"limits", "shading.thresholds"}}); // a vec3 holds three
    CHECK(found.thresholds == 3U);
    CHECK_FALSE(found.bands);
}

TEST_CASE("claims: constants are claimed as what is bound is; what is no scene's is one line") {
    shader_program of;
    of.model = model_kind::lambert;
    of.constants = {{"material.shininess", {64}, {"lantern.toml", 9, 1}},
                    {"lights[*].intensity", {2}, {"lantern.toml", 10, 1}}};
    const claims found = claims_by({{"u[*].place", "lights[*].position"}}, of, 4);
    CHECK(found.has("material.shininess"));
    CHECK(found.light_has("intensity"));
    CHECK(found.constants.size() == 2);
    CHECK(found.most == 4); // of however many lights
    for (const char* const what :
         {"view.eye", "object.to_world", "lights.count", "numbers.wrap", "view.world_to_clip.transposed"}) {
        CAPTURE(what);
        of.constants = {{what, {1}, {"lantern.toml", 9, 1}}};
        CHECK_THROWS_AS(claims_by({}, of), error);
    }
}

TEST_CASE("claims: texture coordinates and vertex colours, where the vertex stage takes them") {
    shader_program of;
    of.attributes = {{"a_place", {"position"}, {}}, {"a_paint", {"color"}, {}}};
    claims found = claims_by({}, of);
    CHECK(found.colors);
    CHECK_FALSE(found.texcoords);
    of.attributes = {{"a_at", {"texcoord"}, {}}};
    found = claims_by({}, of);
    CHECK(found.texcoords);
    CHECK_FALSE(found.colors);
}

TEST_CASE("claims: a quantity in another space is the same one") {
    CHECK(without_space("position_view") == "position");
    CHECK(without_space("shines_object") == "shines");
    CHECK(without_space("to_light") == "to_light");
    CHECK(without_space("view") == "view");
}
