// Several lights of a kind: what a loop does with the second one shows, however the array's size is written.
#include <algorithm>
#include <map>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "program/lambert_program.hpp"
#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/tool.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/verify/coverage.hpp"

using namespace yurvo;
using testing::lambert_program;
using testing::replaced;
using testing::run;
using testing::tool;
using testing::written_program;

namespace {

// Moons and lanterns, each kind in an array that a name sizes. What reads the first one alone leaves the
// driver an array of one.
const std::string by_kind = R"(#version 330
#define MOONS 2
#define LANTERNS (2 * MOONS)
in vec3 p; in vec3 n; out vec4 c;
struct moon { vec3 shines, light; };
struct lantern { vec3 place, light; };
uniform vec3 paint, sky;
uniform moon moons[MOONS];
uniform lantern lanterns[LANTERNS];
uniform int moon_count, lantern_count;
void main() {
    vec3 u = normalize(n), lit = sky;
    for (int i = 0; i < moon_count; ++i) {
        lit += moons[i].light * max(dot(u, -normalize(moons[i].shines)), 0.0);
    }
    for (int i = 0; i < lantern_count; ++i) {
        vec3 to = lanterns[i].place - p;
        lit += lanterns[i].light * max(dot(u, normalize(to)), 0.0) / dot(to, to);
    }
    c = vec4(lit * paint, 1.0);
})";
const std::string by_kind_program =
    lambert_program("falloff = [\"inverse-square\"]\n", R"("moons[*].shines" = "lights.directional[*].shines"
"moons[*].light" = "lights.directional[*].light"
"lanterns[*].place" = "lights.point[*].position"
"lanterns[*].light" = "lights.point[*].light"
moon_count = "lights.directional.count"
lantern_count = "lights.point.count"
)");

std::map<light_kind, int> kinds_of(const scene& of) {
    std::map<light_kind, int> counts;
    for (const named_light& each : of.lights) {
        ++counts[each.light.kind];
    }
    return counts;
}

} // namespace

TEST_CASE("a loop over lights of one kind that reads the first alone, or ends after it, is wrong") {
    const auto status = [](const std::string& fragment) {
        const written_program made(testing::world_vertex, fragment, by_kind_program);
        return run(tool + " check --program " + made.file).status;
    };
    CHECK(status(by_kind) == 0);
    for (const auto& [right, wrong] : std::initializer_list<std::pair<const char*, const char*>>{
             {"lit += moons[i].light", "lit += moons[0].light"},
             {"normalize(moons[i].shines)", "normalize(moons[0].shines)"},
             {"vec3 to = lanterns[i].place", "vec3 to = lanterns[0].place"},
             {"lit += lanterns[i].light", "lit += lanterns[0].light"},
             {"i < moon_count", "i < min(moon_count, 1)"},
             {"i < lantern_count", "i < min(lantern_count, 1)"}}) {
        CAPTURE(std::string(wrong));
        CHECK(status(replaced(by_kind, right, wrong)) == 1);
    }
    // All of it at once: then the driver lists one light of each kind, and the claim still has several.
    const std::string first_alone =
        replaced(replaced(replaced(replaced(by_kind, "moons[i].light", "moons[0].light"), "moons[i].shines",
                                   "moons[0].shines"),
                          "lanterns[i].place", "lanterns[0].place"),
                 "lanterns[i].light", "lanterns[0].light");
    CHECK(status(first_alone) == 1);
}

TEST_CASE("whoever takes several lights of a kind is asked with several") {
    const scene& many = verify::scene_of_many_lights().scene;
    CHECK(kinds_of(many) == std::map<light_kind, int>{
                                {light_kind::directional, 3}, {light_kind::point, 3}, {light_kind::spot, 3}});
    // A plain program of one array for all kinds: of the reference scenes, fitted, none has two moons.
    const std::string fragment = R"(#version 330
in vec3 p; in vec3 n; out vec4 c;
uniform vec3 paint, sky;
uniform vec4 places[4];
uniform vec3 lights[4];
uniform int count;
void main() {
    vec3 lit = sky;
    for (int i = 0; i < count; ++i) {
        vec3 to = places[i].xyz - places[i].w * p;
        float reached = places[i].w == 0.0 ? 1.0 : 1.0 / dot(to, to);
        lit += lights[i] * max(dot(normalize(n), normalize(to)), 0.0) * reached;
    }
    c = vec4(lit * paint, 1.0);
})";
    const written_program made(
        testing::world_vertex, fragment,
        lambert_program("falloff = [\"inverse-square\"]\n", R"("places[*]" = "lights[*].place"
"lights[*]" = "lights[*].light"
count = "lights.count"
)"));
    const program_renderer by(read_program(made.file));
    std::vector<std::string> lines;
    std::vector<verify::check_unit> units = study::all_units(by, lines);
    const auto has_two_moons = [&] {
        return std::any_of(units.begin(), units.end(), [](const verify::check_unit& unit) {
            return kinds_of(unit.asked)[light_kind::directional] > 1;
        });
    };
    CHECK_FALSE(has_two_moons());
    CHECK(study::cover(units, by, lines).unseen.empty());
    CHECK(has_two_moons());
    const std::size_t before = units.size();
    // Once it is there, nothing is added again.
    CHECK(study::cover(units, by, lines).unseen.empty());
    CHECK(units.size() == before);
}

TEST_CASE("a cone whose angle the shader takes of its cosine is right, as far as the driver finds angles") {
    const std::string fragment = R"(#version 330
in vec3 p; in vec3 n; out vec4 c;
struct searchlight { vec3 place, shines, light; float degrees_wide; };
uniform vec3 paint, sky;
uniform searchlight lamps[8];
uniform int count;
void main() {
    vec3 u = normalize(n), lit = sky;
    for (int i = 0; i < count; ++i) {
        vec3 to = lamps[i].place - p, l = normalize(to);
        float angle = degrees(acos(dot(-l, normalize(lamps[i].shines))));
        lit += angle > lamps[i].degrees_wide ? vec3(0.0) : lamps[i].light * max(dot(u, l), 0.0) / dot(to, to);
    }
    c = vec4(lit * paint, 1.0);
})";
    const std::string claim =
        lambert_program("falloff = [\"inverse-square\"]\nkinds = [\"spot\"]\npenumbra = [\"hard\"]\n",
                        R"("lamps[*].place" = "lights[*].position"
"lamps[*].shines" = "lights[*].shines"
"lamps[*].light" = "lights[*].light"
"lamps[*].degrees_wide" = "lights[*].outer_degrees"
count = "lights.count"
)");
    const written_program right(testing::world_vertex, fragment, claim);
    CHECK(run(tool + " check --program " + right.file).status == 0);
    const double angle = program_renderer(read_program(right.file)).tolerance().angle;
    CHECK(angle > 0);
    CHECK(angle < 1e-3); // a pixel of the reference scenes is several times as wide
    // More than that is no error of the driver's.
    const written_program wide(testing::world_vertex,
                               replaced(fragment, "lamps[i].degrees_wide ?", "lamps[i].degrees_wide + 0.4 ?"),
                               claim);
    CHECK(run(tool + " check --program " + wide.file).status == 1);
    const written_program without(testing::world_vertex,
                                  replaced(fragment, "degrees(acos(dot(-l, normalize(lamps[i].shines))))",
                                           "-degrees(dot(-l, normalize(lamps[i].shines)))"),
                                  claim);
    CHECK(program_renderer(read_program(without.file)).tolerance().angle == 0);
}
