// Lights that formulas leave out: only what adds nothing, which is proved of the formulas beforehand.
#include <doctest/doctest.h>

#include "drawn_as.hpp"
#include "pipeline/formula_lights.hpp"
#include "support/random_formulas.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"

using namespace yurvo;
using formulas::slot;
using testing::drawn_as;

namespace {

// Planks between two lanterns, one of them below, and a searchlight behind.
scene between_lights() {
    scene made;
    made.view.width = 96;
    made.view.height = 64;
    made.view.eye = {0, 3, 6};
    made.view.target = {0, 0, 0};
    made.shading.model = model_kind::blinn_phong;
    made.materials.push_back({});
    made.objects.push_back({});
    made.objects[0].shape = plane_shape{};
    made.objects.push_back({});
    made.objects[1].shape = sphere_shape{};
    for (const double height : {2.0, -2.0}) {
        named_light lamp;
        lamp.light.position = {1, height, 0.5};
        made.lights.push_back(lamp);
    }
    named_light searchlight;
    searchlight.light.kind = light_kind::spot;
    searchlight.light.position = {0, -3, -1};
    searchlight.light.shines = {0, 1, 0};
    searchlight.light.outer = 0.6;
    made.lights.push_back(searchlight);
    return made;
}

pipeline::adds_nothing proved(const scene& made) {
    return pipeline::proved_for(made, parse_all(made.formulas, made.numbers));
}

} // namespace

TEST_CASE("a light behind the surface is left out where every share is gated by n·l, and nowhere else") {
    struct choice {
        slot where;
        const char* formula;
        bool behind, dark;
    };
    const choice all[]{
        {slot::diffuse, "max(dot(n, l), 0.0)", true, true},
        {slot::diffuse, "pow(max(dot(l, n), 0.0), 2.0)", true, true},
        {slot::diffuse, "dot(n, l) > 0.0 ? vec3(1.0, 0.5, 0.2) : vec3(0.0)", true, true},
        {slot::diffuse, "floor(max(dot(n, l), 0.0) * 4.0) / 4.0", true, true},
        {slot::falloff, "1.0 / (d * d)", true,
         false}, // not the light's own law, by whose range it would be dark
        {slot::falloff, "exp(-d)", true, false},
        {slot::penumbra, "step(cos_outer, cos_theta)", true, false},
        {slot::specular, "max(dot(n, l), 0.0) * pow(max(dot(n, h), 0.0), shininess)", true, true},
        {slot::ambient, "0.5 + 0.5 * n.y", true, true},
        {slot::h, "(l + v) * 0.5", true, true},
        // What lights from behind.
        {slot::diffuse, "dot(n, l) * 0.5 + 0.5", false, true},
        {slot::diffuse, "max(dot(n, l) + 0.01, 0.0)", false, true},
        {slot::diffuse, "abs(dot(n, l))", false, true},
        {slot::diffuse, "dot(n, l) >= 0.0 ? 1.0 : 0.0", false, true}, // n may be 0
        {slot::diffuse, "max(dot(n, v), 0.0)", false, true},
        {slot::specular, "pow(max(dot(n, h), 0.0), shininess)", false, true},
        // What may give no number, and would be counted.
        {slot::diffuse, "1.0 / (d - 2.0) > 0.0 ? max(dot(n, l), 0.0) : 1.0 / dot(n, l)", false, false},
        {slot::falloff, "1.0 / (d - 2.0)", false, false},
        {slot::falloff, "log(d - 1.0)", false, false},
        {slot::h, "normalize(l + v)", false, false},
        // l is not where the light is.
        {slot::l, "normalize(vec3(0.0, 1.0, 0.0) - l)", false, false},
    };
    for (const choice& each : all) {
        CAPTURE(std::string(each.formula));
        scene made = between_lights();
        made.formulas[each.where] = each.formula;
        CHECK(proved(made).behind == each.behind);
        CHECK(proved(made).dark == each.dark);
        CHECK(drawn_as(made, {16, true}, 2) == drawn_as(made, {64, false}, 1));
    }
}

TEST_CASE("a light with an ambient part arrives from everywhere") {
    scene made = between_lights();
    made.formulas[slot::diffuse] = "max(dot(n, l), 0.0)";
    REQUIRE(proved(made).behind);
    made.lights[1].light.ambient = {0.1, 0.1, 0.1};
    CHECK(!proved(made).behind);
    CHECK(!proved(made).dark);
    CHECK(drawn_as(made, {16, true}, 2) == drawn_as(made, {64, false}, 1));
}

TEST_CASE("with random formulas the picture, and the count of what is no number, are the same bit for bit "
          "whatever is left out") {
    constexpr std::uint64_t first = 9001;
    const std::uint64_t last = first - 1 + testing::random_scene_count(120);
    MESSAGE("seeds " << first << " to " << last);
    int behind = 0;
    int dark = 0;
    for (std::uint64_t seed = first; seed <= last; ++seed) {
        CAPTURE(seed);
        scene made = testing::random_scenes(seed, true).next(120, 80);
        testing::random_formulas(seed).give(made);
        const pipeline::adds_nothing found = proved(made);
        behind += found.behind ? 1 : 0;
        dark += found.dark ? 1 : 0;
        draw_statistics with_all;
        draw_statistics with_some;
        const picture expected = drawn_as(made, {64, false}, 1, &with_all);
        REQUIRE(drawn_as(made, {16, true}, 2, &with_some) == expected);
        CHECK(with_some.not_finite == with_all.not_finite);
    }
    MESSAGE("left out from behind in " << behind << " of them, in the dark in " << dark);
    CHECK((behind > 10 || !testing::whole));
    CHECK((dark > 1 || !testing::whole));
}
