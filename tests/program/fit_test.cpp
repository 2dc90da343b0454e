// Scenes are made to suit a claim, rule by rule: what becomes of each light, law, material, object and number
// is worked out here by hand from the rules in docs/programs.md, and every change is told once.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>
#include <string>
#include <vector>

#include "program/fit.hpp"
#include "yurvo/picture/texture.hpp"
#include "yurvo/scene/validate.hpp"

using namespace yurvo;
using namespace yurvo::program;
using doctest::Approx;

namespace {

// How far the numbers of a light's law, by its place in the scene, are still those of the first.
double apart(std::size_t number) { return std::pow(0.57, static_cast<double>(number)); }

light lamp_of(light_kind kind) {
    light lamp;
    lamp.kind = kind;
    lamp.intensity = 6;
    if (kind != light_kind::directional) {
        lamp.position = {2, 3, 1};
        lamp.falloff = falloff_kind::inverse_square;
    }
    if (kind != light_kind::point) {
        lamp.shines = {0, -2, 0};
    }
    if (kind == light_kind::spot) {
        lamp.penumbra = penumbra_kind::smooth;
        lamp.inner = radians(10);
        lamp.outer = radians(20);
    }
    return lamp;
}

// A quay of one crate, seen from the water, under one light of each kind.
scene quay() {
    scene made;
    made.view.eye = {0, 2, 8};
    made.view.target = {0, 1, 0};
    made.materials.push_back({.name = "planks"});
    made.materials[0].look.base = {0.4, 0.3, 0.2};
    made.materials[0].look.specular = {0.5, 0.4, 0.3};
    made.materials[0].look.shininess = 20.4;
    object crate;
    crate.name = "crate";
    crate.shape = box_shape{};
    made.objects.push_back(crate);
    made.lights.push_back({.name = "moon", .light = lamp_of(light_kind::directional)});
    made.lights.push_back({.name = "lantern", .light = lamp_of(light_kind::point)});
    made.lights.push_back({.name = "searchlight", .light = lamp_of(light_kind::spot)});
    made.expects.push_back({.name = "the crate", .pixel = {3, 4}});
    return made;
}

// A claim that takes all that quay() has.
claims everything() {
    claims claimed;
    claimed.model = model_kind::blinn_phong;
    claimed.rate = rate::fragment;
    claimed.kinds = {light_kind::directional, light_kind::point, light_kind::spot};
    claimed.fewest = 0;
    claimed.most = 16;
    claimed.in_any_order = true;
    for (const falloff_descriptor& known : falloff_list) {
        claimed.falloffs.push_back(known.kind);
    }
    for (const penumbra_descriptor& known : penumbra_list) {
        claimed.penumbras.push_back(known.kind);
    }
    claimed.bound = {"ambient.color",     "ambient.strength", "material.base",     "material.alpha",
                     "material.ambient",  "material.diffuse", "material.specular", "material.shininess",
                     "material.emission", "material.texture", "material.two_sided"};
    claimed.light_bound = {"color", "intensity", "ambient", "diffuse", "specular"};
    claimed.bound_of_all = claimed.light_bound;
    claimed.texcoords = claimed.colors = true;
    return claimed;
}

bool tells(const fitted_scene& of, const std::string& change) {
    return std::count(of.changes.begin(), of.changes.end(), change) == 1;
}

// Of three numbers, each within rounding of a few operations on numbers below 100.
void near(const vec3<double>& found, const vec3<double>& expected) {
    CHECK(found.x == Approx(expected.x).epsilon(1e-13));
    CHECK(found.y == Approx(expected.y).epsilon(1e-13));
    CHECK(found.z == Approx(expected.z).epsilon(1e-13));
}

} // namespace

TEST_CASE("fit: a scene that suits a claim stays as it is, with what its author expects") {
    const fitted_scene found = fit_to(everything(), quay());
    REQUIRE(found.fitted);
    CHECK(found.skipped.empty());
    CHECK(found.changes.empty());
    CHECK(*found.fitted == quay());
}

TEST_CASE("fit: what is expected of a scene is not expected of the one that it was changed into") {
    claims claimed = everything();
    claimed.rate = rate::vertex;
    const fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    CHECK(found.fitted->expects.empty());
    CHECK(found.fitted->shading.rate == rate::vertex);
    CHECK(found.changes == std::vector<std::string>{"drawn per vertex"});
}

TEST_CASE("fit: model, ambient rule and formulas are the claim's") {
    claims claimed = everything();
    claimed.model = model_kind::lambert;
    claimed.rule = ambient_rule::max;
    fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    CHECK(found.fitted->shading.model == model_kind::lambert);
    CHECK(found.fitted->shading.ambient_rule == ambient_rule::max);
    CHECK(tells(found, "drawn with the model lambert"));
    CHECK(tells(found, "the ambient rule is max"));

    scene with_formula = quay();
    with_formula.formulas[formulas::slot::diffuse] = "max(dot(n, l), 0.0) * wrap";
    with_formula.numbers = {{.name = "wrap", .values = {0.5}}};
    found = fit_to(everything(), with_formula);
    REQUIRE(found.fitted);
    CHECK_FALSE(found.fitted->formulas.any());
    CHECK(found.fitted->numbers.empty());
    CHECK(tells(found, "without formulas"));

    claimed = everything();
    claimed.formulas[formulas::slot::falloff] = "1.0 / (1.0 + d)";
    found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    CHECK(found.fitted->formulas[formulas::slot::falloff] == "1.0 / (1.0 + d)");
    CHECK(tells(found, "with the program's formulas"));
}

TEST_CASE("fit: a formula that asks for a range or an exponent has lights that have one") {
    claims claimed = everything();
    claimed.formulas[formulas::slot::falloff] = "max(1.0 - d / range, 0.0)";
    claimed.formulas[formulas::slot::penumbra] = "pow(max(cos_theta, 0.0), exponent)";
    const fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[0].light.range == 0); // a directional light has none
    CHECK(found.fitted->lights[1].light.range == Approx(5 + 5 * apart(1)).epsilon(1e-15));
    CHECK(found.fitted->lights[2].light.range == Approx(5 + 5 * apart(2)).epsilon(1e-15));
    CHECK(found.fitted->lights[1].light.exponent == 0);
    CHECK(found.fitted->lights[2].light.exponent == Approx(18 - 10 * apart(2)).epsilon(1e-15));
    CHECK(tells(found, "ranges from 10 to 5, which a formula asks for"));
    CHECK(tells(found, "exponents from 8 to 18, which a formula asks for"));
}

TEST_CASE("fit: an essential that is neither bound nor meant to be missing keeps the scene's value") {
    for (const char* const essential :
         {"ambient.color", "material.base", "material.specular", "material.shininess"}) {
        CAPTURE(essential);
        claims claimed = everything();
        claimed.bound.erase(essential);
        claimed.bound.erase("ambient.strength");
        scene of = quay();
        of.ambient_strength = 1;
        const fitted_scene found = fit_to(claimed, of);
        REQUIRE(found.fitted);
        CHECK(found.changes.empty());
        CHECK(*found.fitted == of);
    }
    claims claimed = everything();
    claimed.light_bound.erase("color");
    claimed.light_bound.erase("intensity");
    CHECK(fit_to(claimed, quay()).changes.empty());
}

TEST_CASE("fit: one that is meant to be missing is neutral") {
    claims claimed = everything();
    claimed.without = {"ambient", "light.color", "light.intensity", "material.base", "material.specular"};
    scene of = quay();
    of.lights[1].light.color = {1, 0.5, 0.25};
    // Nothing is, as long as it is bound: what the program does with it would not be looked at.
    CHECK(fit_to(claimed, of).changes.empty());
    for (const char* const bound :
         {"ambient.color", "ambient.strength", "material.base", "material.specular"}) {
        claimed.bound.erase(bound);
    }
    claimed.light_bound.erase("color");
    claimed.light_bound.erase("intensity");
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->ambient_strength == 0);
    CHECK(found.fitted->materials[0].look.base == rgb<double>(1.0));
    CHECK(found.fitted->materials[0].look.specular == rgb<double>(1.0));
    for (const named_light& lamp : found.fitted->lights) {
        CHECK(lamp.light.color == rgb<double>(1.0));
        CHECK(lamp.light.intensity == 1);
    }
    for (const char* const change :
         {"no ambient light", "white lights", "intensities 1", "white base colours", "specular factors 1"}) {
        CAPTURE(change);
        CHECK(tells(found, change)); // once, though three lights were changed
    }
}

TEST_CASE("fit: of ambient light, the factor that is not bound is 1") {
    claims claimed = everything();
    claimed.bound.erase("ambient.strength");
    scene of = quay();
    of.ambient_strength = 0.3;
    of.ambient_color = {0.5, 0.6, 0.7};
    fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->ambient_strength == 1);
    CHECK(found.fitted->ambient_color == rgb<double>(0.5, 0.6, 0.7));
    CHECK(tells(found, "ambient strength 1"));

    claimed = everything();
    claimed.bound.erase("ambient.color");
    found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->ambient_strength == 0.3);
    CHECK(found.fitted->ambient_color == rgb<double>(1.0));
    CHECK(tells(found, "white ambient light"));
}

TEST_CASE("fit: what is not bound and is no essential is neutral") {
    claims claimed = everything();
    for (const char* const what : {"material.alpha", "material.ambient", "material.diffuse",
                                   "material.emission", "material.texture", "material.two_sided"}) {
        claimed.bound.erase(what);
    }
    for (const char* const what : {"ambient", "diffuse", "specular"}) {
        claimed.light_bound.erase(what);
        claimed.bound_of_all.erase(what);
    }
    scene of = quay();
    material& look = of.materials[0].look;
    look.alpha = 0.5;
    look.ambient = {0.2, 0.3, 0.4};
    look.diffuse = {0.7, 0.8, 0.9};
    look.emission = {0.1, 0, 0};
    look.two_sided = true;
    of.materials[0].image = std::make_shared<texture>();
    of.materials[0].texture_file = "planks.png";
    of.lights[1].light.ambient = {0.1, 0.1, 0.1};
    of.lights[1].light.diffuse = {0.5, 0.5, 0.5};
    of.lights[2].light.specular = {0, 0, 0};
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    const named_material& made = found.fitted->materials[0];
    CHECK(made.look.alpha == 1);
    CHECK(made.look.ambient == rgb<double>(1.0));
    CHECK(made.look.diffuse == rgb<double>(1.0));
    CHECK(made.look.emission == rgb<double>());
    CHECK_FALSE(made.look.two_sided);
    CHECK(made.image == nullptr);
    CHECK(made.texture_file.empty());
    CHECK(made.look.base == rgb<double>(0.4, 0.3, 0.2));
    CHECK(found.fitted->lights[1].light.ambient == rgb<double>());
    CHECK(found.fitted->lights[1].light.diffuse == rgb<double>(1.0));
    CHECK(found.fitted->lights[2].light.specular == rgb<double>(1.0));
    for (const char* const change :
         {"alpha 1", "ambient factors 1", "diffuse factors 1", "no emission", "no two-sided materials",
          "no textures", "lights without ambient parts", "diffuse parts of 1", "specular parts of 1"}) {
        CAPTURE(change);
        CHECK(tells(found, change));
    }
}

TEST_CASE("fit: a texture needs coordinates; per vertex a formula for the colour has none") {
    scene of = quay();
    of.materials[0].image = std::make_shared<texture>();
    of.materials[0].texture_file = "planks.png";
    claims claimed = everything();
    CHECK(fit_to(claimed, of).changes.empty());
    claimed.texcoords = false;
    CHECK(tells(fit_to(claimed, of), "no textures"));
    claimed = everything();
    claimed.formulas[formulas::slot::color] = "c * 0.5";
    CHECK_FALSE(tells(fit_to(claimed, of), "no textures"));
    claimed.rate = rate::vertex;
    CHECK(tells(fit_to(claimed, of), "no textures"));
}

TEST_CASE("fit: a colour of which one component is bound is grey, and what is taken whole is whole") {
    claims claimed = everything();
    claimed.grey = {"ambient.color", "material.base", "material.specular", "lights.color"};
    claimed.whole = {"material.shininess", "lights.intensity", "material.emission"};
    scene of = quay();
    of.ambient_color = {0.25, 0.5, 0.75};
    of.materials[0].look.emission = {0.6, 0.2, 1.5};
    of.lights[1].light.color = {0.9, 0.5, 0.1};
    of.lights[1].light.intensity = 2.6;
    of.lights[2].light.intensity = 0.2;
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    const material& look = found.fitted->materials[0].look;
    CHECK(found.fitted->ambient_color == rgb<double>(0.25));
    CHECK(look.base == rgb<double>(0.4));
    CHECK(look.specular == rgb<double>(0.5));
    CHECK(look.shininess == 20);
    CHECK(look.emission == rgb<double>(1, 0, 2));
    CHECK(found.fitted->lights[1].light.color == rgb<double>(0.9));
    CHECK(found.fitted->lights[1].light.intensity == 3);
    CHECK(found.fitted->lights[2].light.intensity == 1); // at least 1, or it would be dark
    CHECK(tells(found, "grey ambient light"));
    CHECK(tells(found, "grey where only one component is bound"));
    CHECK(tells(found, "whole numbers where a shader has them"));
}

TEST_CASE("fit: scales and normals as a program takes them") {
    scene of = quay();
    of.objects[0].placed.scale = {2, 1, 4};
    claims claimed = everything();
    claimed.scale = scale_claim::uniform;
    fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    near(found.fitted->objects[0].placed.scale, {2, 2, 2}); // the cube root of 8: as large as before
    CHECK(tells(found, "even scales"));
    claimed.scale = scale_claim::none;
    found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->objects[0].placed.scale == vec3<double>(1, 1, 1));
    CHECK(tells(found, "no scale"));

    claimed = everything();
    claimed.normals = normals_claim::face;
    claimed.bound.erase("material.two_sided"); // such normals face the eye whatever is bound
    found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->objects[0].normals == normals_kind::flat);
    CHECK(found.fitted->materials[0].look.two_sided);
    CHECK(tells(found, "flat normals"));
    CHECK(tells(found, "two-sided materials, since the normals face the eye"));
}

TEST_CASE("fit: surfaces without vertices are left out; a scene of nothing else is") {
    scene of = quay();
    object buoy;
    buoy.shape = field_shape{};
    of.objects.push_back(buoy);
    const fitted_scene found = fit_to(everything(), of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->objects.size() == 1);
    CHECK(tells(found, "without implicit surfaces, which have no vertices"));
    of.objects.erase(of.objects.begin());
    const fitted_scene nothing = fit_to(everything(), of);
    CHECK_FALSE(nothing.fitted);
    CHECK(nothing.skipped == "nothing is left to show: its surfaces have no vertices");
}

TEST_CASE("fit: a law that a program does not have becomes its first, with numbers that it needs") {
    for (const falloff_descriptor& to : falloff_list) {
        CAPTURE(to.name);
        claims claimed = everything();
        claimed.falloffs = {to.kind};
        const fitted_scene found = fit_to(claimed, quay());
        REQUIRE(found.fitted);
        for (const std::size_t i : {1U, 2U}) {
            const light& lamp = found.fitted->lights[i].light;
            CHECK(lamp.falloff == to.kind);
            CHECK(lamp.range == Approx(to.range ? 5 + 5 * apart(i) : 0).epsilon(1e-15));
            const std::array<double, 3> polynomial = {1.4 - 0.4 * apart(i), 0.2 - 0.1 * apart(i),
                                                      0.1 + 0.1 * apart(i)};
            for (std::size_t k = 0; k < 3; ++k) {
                CHECK(lamp.coefficients.at(k) ==
                      Approx(to.coefficients ? polynomial.at(k) : 0).epsilon(1e-14));
            }
        }
        const bool stays = to.kind == falloff_kind::inverse_square;
        CHECK(tells(found, "falloff " + std::string(to.name) + " for inverse-square") != stays);
    }
    for (const penumbra_descriptor& to : penumbra_list) {
        CAPTURE(to.name);
        claims claimed = everything();
        claimed.penumbras = {to.kind};
        scene of = quay();
        of.lights[2].light.outer = radians(120);
        const fitted_scene found = fit_to(claimed, of);
        REQUIRE(found.fitted);
        const light& lamp = found.fitted->lights[2].light;
        CHECK(lamp.penumbra == to.kind);
        CHECK(lamp.exponent == Approx(to.exponent ? 18 - 10 * apart(2) : 0).epsilon(1e-15));
        CHECK(lamp.outer == Approx(radians(to.exponent ? 90 : 120)).epsilon(1e-15));
        const bool stays = to.kind == penumbra_kind::smooth;
        CHECK(tells(found, "penumbra " + std::string(to.name) + " for smooth") != stays);
    }
}

TEST_CASE("fit: what is one for all lights, each takes from the first that it is bound of") {
    scene lamps = quay();
    light first = lamp_of(light_kind::spot);
    first.falloff = falloff_kind::windowed;
    first.range = 7;
    light second = first;
    second.range = 12;
    second.outer = radians(40);
    second.inner = radians(30);
    light far_away = lamp_of(light_kind::directional);
    lamps.lights = {{.name = "searchlight", .light = first},
                    {.name = "lamp", .light = second},
                    {.name = "moon", .light = far_away}};
    claims claimed = everything();
    for (const char* const bound : {"range", "inner", "outer"}) {
        claimed.light_bound.insert(bound);
    }
    const auto apart = fit_to(claimed, lamps);
    REQUIRE(apart.fitted);
    CHECK(apart.fitted->lights[1].light.range == 12);
    claimed.shared = {"range", "outer"};
    const auto made = fit_to(claimed, lamps);
    REQUIRE(made.fitted);
    CHECK(made.fitted->lights[0].light.range == 7);
    CHECK(made.fitted->lights[1].light.range == 7);
    CHECK(made.fitted->lights[1].light.outer == radians(20));
    CHECK(made.fitted->lights[1].light.inner <= radians(20)); // still a cone
    CHECK(made.fitted->lights[2].light == far_away);
    CHECK(std::count(made.changes.begin(), made.changes.end(), "one range for all lights") == 1);
    CHECK(std::count(made.changes.begin(), made.changes.end(), "one outer angle for all lights") == 1);
    // Coefficients are shared where both have some.
    for (std::size_t i = 0; i < 2; ++i) {
        lamps.lights[i].light.falloff = falloff_kind::polynomial;
        lamps.lights[i].light.range = 0;
    }
    lamps.lights[0].light.coefficients = {1, 0.5, 0.25};
    lamps.lights[1].light.coefficients = {1, 0, 2};
    claimed.shared = {"coefficients"};
    const auto by_law = fit_to(claimed, lamps);
    REQUIRE(by_law.fitted);
    CHECK(by_law.fitted->lights[1].light.coefficients == lamps.lights[0].light.coefficients);
}

TEST_CASE("fit: no two lights that are given numbers of a law are given the same") {
    const auto of_first_two = [](const claims& claimed) {
        scene lamps = quay();
        lamps.lights = {{.name = "lantern A", .light = lamp_of(light_kind::point)},
                        {.name = "lantern B", .light = lamp_of(light_kind::point)}};
        lamps.lights[1].light.position = {-2, 3, 1};
        const fitted_scene found = fit_to(claimed, lamps);
        REQUIRE(found.fitted);
        return std::pair{found.fitted->lights[0].light, found.fitted->lights[1].light};
    };
    claims claimed = everything();
    claimed.falloffs = {falloff_kind::windowed};
    const auto [near_one, far_one] = of_first_two(claimed);
    CHECK(near_one.range == 10);
    CHECK(far_one.range == Approx(5 + 5 * 0.57).epsilon(1e-15));
    claimed.falloffs = {falloff_kind::polynomial};
    const auto [first, second] = of_first_two(claimed);
    CHECK(first.coefficients == std::array{1.0, 0.1, 0.2});
    for (std::size_t k = 0; k < 3; ++k) {
        CHECK(first.coefficients.at(k) != second.coefficients.at(k));
    }
    claimed.kinds = {light_kind::spot};
    const auto [left, right] = of_first_two(claimed);
    CHECK(left.inner != right.inner);
    CHECK(left.outer != right.outer);
    claimed.penumbras = {penumbra_kind::power};
    const auto [tight, tighter] = of_first_two(claimed);
    CHECK(tight.exponent == 8);
    CHECK(tighter.exponent == Approx(8 + 10 * 0.43).epsilon(1e-15));
}

TEST_CASE("fit: a ramp without room is hard, and gets room where only ramps are taken") {
    scene of = quay();
    of.lights[2].light.inner = of.lights[2].light.outer;
    claims claimed = everything();
    claimed.penumbras = {penumbra_kind::smooth};
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[2].light.inner == Approx(0.7 * radians(20)).epsilon(1e-15));
    CHECK(tells(found, "penumbra smooth for hard"));
    claimed.penumbras = {penumbra_kind::hard};
    CHECK(tells(fit_to(claimed, quay()), "penumbra hard for smooth"));
    CHECK_FALSE(tells(fit_to(claimed, of), "penumbra hard for smooth")); // it is hard already
}

TEST_CASE("fit: a light of a kind that is not taken becomes the nearest kind that is") {
    claims claimed = everything();
    claimed.kinds = {light_kind::point};
    claimed.falloffs = {falloff_kind::inverse_square};
    fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    REQUIRE(found.fitted->lights.size() == 3);
    for (const named_light& lamp : found.fitted->lights) {
        CHECK(lamp.light.kind == light_kind::point);
    }
    // The moon, which shines straight down: 4 m above the target; as bright there as it was, 6, by 1 / 4².
    near(found.fitted->lights[0].light.position, {0, 5, 0});
    CHECK(found.fitted->lights[0].light.intensity == Approx(96).epsilon(1e-13));
    // The searchlight: where it was, as strong as it was.
    near(found.fitted->lights[2].light.position, {2, 3, 1});
    CHECK(found.fitted->lights[2].light.intensity == 6);
    // A point light has no cone: what a light has where nothing is said.
    const light usual;
    for (const named_light& lamp : found.fitted->lights) {
        CHECK(lamp.light.penumbra == usual.penumbra);
        CHECK(lamp.light.inner == usual.inner);
        CHECK(lamp.light.outer == usual.outer);
        CHECK(lamp.light.coefficients == usual.coefficients);
    }
    CHECK(tells(found, "a directional light made point"));
    CHECK(tells(found, "a spot light made point"));

    // The moon where only polynomials are taken: 1 + 0.1 d + 0.2 d² is 4.6 over 4 m.
    claimed.falloffs = {falloff_kind::polynomial};
    found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[0].light.coefficients == std::array{1.0, 0.1, 0.2});
    CHECK(found.fitted->lights[0].light.intensity == Approx(6 * 4.6).epsilon(1e-13));
    claimed.falloffs = {falloff_kind::inverse_square};

    claimed.kinds = {light_kind::directional};
    found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    // The lantern: along the way to the target, by what arrives over 3 m: √(2² + 2² + 1²).
    near(found.fitted->lights[1].light.shines, {-2, -2, -1});
    CHECK(found.fitted->lights[1].light.intensity == Approx(6.0 / 9).epsilon(1e-13));
    CHECK(tells(found, "a point light made directional"));

    claimed.kinds = {light_kind::spot};
    found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    const light& lantern = found.fitted->lights[1].light;
    near(lantern.position, {2, 3, 1});
    near(lantern.shines, {-2.0 / 3, -2.0 / 3, -1.0 / 3});
    CHECK(lantern.penumbra == penumbra_kind::smooth);
    CHECK(lantern.inner == Approx(radians(19 - 5 * apart(1))).epsilon(1e-15));
    CHECK(lantern.outer == Approx(radians(41 - 9 * apart(1))).epsilon(1e-15));
    CHECK(found.fitted->lights[0].light.inner == radians(14)); // the first's
    CHECK(found.fitted->lights[0].light.outer == radians(32));
    // A moon prefers a spot to a point; a lantern a spot to a moon.
    claimed.kinds = {light_kind::point, light_kind::spot};
    CHECK(fit_to(claimed, quay()).fitted->lights[0].light.kind == light_kind::spot);
    claimed.kinds = {light_kind::directional, light_kind::spot};
    CHECK(fit_to(claimed, quay()).fitted->lights[1].light.kind == light_kind::spot);
    claimed.kinds = {light_kind::directional, light_kind::point};
    CHECK(fit_to(claimed, quay()).fitted->lights[2].light.kind == light_kind::point);
}

TEST_CASE("fit: a light in view space is converted from where it is in the world") {
    scene of = quay(); // the eye is at (0, 2, 8), and looks down a little: to (0, 1, 0)
    of.lights = {{.name = "head lamp", .light = lamp_of(light_kind::point), .space = light_space::view}};
    of.lights[0].light.position = {0, 0, 0};
    claims claimed = everything();
    claimed.kinds = {light_kind::spot};
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[0].space == light_space::world);
    near(found.fitted->lights[0].light.position, {0, 2, 8});
    const double d = std::sqrt(65.0);
    near(found.fitted->lights[0].light.shines, {0, -1 / d, -8 / d});
}

TEST_CASE("fit: as many lights as are taken: the first are kept, missing ones are added") {
    claims claimed = everything();
    claimed.most = 2;
    fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    REQUIRE(found.fitted->lights.size() == 2);
    CHECK(found.fitted->lights[0].name == "moon");
    CHECK(found.fitted->lights[1].name == "lantern");
    CHECK(tells(found, "of its lights the first 2"));

    claimed = everything();
    claimed.fewest = 5;
    found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    REQUIRE(found.fitted->lights.size() == 5);
    CHECK(found.fitted->lights[0] == quay().lights[0]);
    CHECK(tells(found, "lights added"));
    // Each from another side: no two of those that were added are the same.
    CHECK_FALSE(found.fitted->lights[3].light == found.fitted->lights[4].light);

    claimed = everything();
    claimed.in_any_order = false;
    claimed.most_of_kind = {{light_kind::point, 2}, {light_kind::spot, 1}};
    claimed.kinds = {light_kind::point, light_kind::spot};
    claimed.fewest_of_kind = {{light_kind::point, 2}, {light_kind::spot, 1}};
    claimed.most = 3;
    scene of = quay();
    of.lights.erase(of.lights.begin()); // a lantern and a searchlight
    found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    const auto number_of = [&](light_kind kind) {
        return std::count_if(found.fitted->lights.begin(), found.fitted->lights.end(),
                             [&](const named_light& lamp) { return lamp.light.kind == kind; });
    };
    CHECK(number_of(light_kind::point) == 2);
    CHECK(number_of(light_kind::spot) == 1);
    CHECK(number_of(light_kind::directional) == 0);
}

TEST_CASE("fit: lights in the order of their kinds") {
    claims claimed = everything();
    claimed.in_order = true;
    claimed.kinds = {light_kind::spot, light_kind::directional, light_kind::directional};
    claimed.fewest = claimed.most = 3;
    const fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    REQUIRE(found.fitted->lights.size() == 3);
    CHECK(found.fitted->lights[0].name == "searchlight");
    CHECK(found.fitted->lights[1].name == "moon");
    CHECK(found.fitted->lights[2].name == "lantern"); // what is left, made so
    CHECK(found.fitted->lights[2].light.kind == light_kind::directional);
    CHECK(found.changes == std::vector<std::string>{"a point light made directional"});

    scene dark = quay();
    dark.lights.clear();
    const fitted_scene lit = fit_to(claimed, dark);
    REQUIRE(lit.fitted);
    REQUIRE(lit.fitted->lights.size() == 3);
    CHECK(lit.fitted->lights[0].light.kind == light_kind::spot);
    CHECK(lit.fitted->lights[1].light.kind == light_kind::directional);
}

TEST_CASE("fit: lights that are called by name are there, of the kind that what is bound of them says") {
    claims claimed = everything();
    claimed.names = {"lamp", "searchlight"};
    claimed.kind_of_name = {{"lamp", light_kind::point}, {"searchlight", light_kind::spot}};
    claimed.most = 2;
    const fitted_scene found = fit_to(claimed, quay());
    REQUIRE(found.fitted);
    REQUIRE(found.fitted->lights.size() == 2);
    const auto named = [&](const std::string& name) {
        return std::find_if(found.fitted->lights.begin(), found.fitted->lights.end(),
                            [&](const named_light& lamp) { return lamp.name == name; });
    };
    REQUIRE(named("searchlight") != found.fitted->lights.end());
    REQUIRE(named("lamp") != found.fitted->lights.end());
    CHECK(named("searchlight")->light == quay().lights[2].light);
    CHECK(named("lamp")->light.kind == light_kind::point);
    CHECK(tells(found, "a light called `lamp`"));
}

TEST_CASE("fit: ambient parts fall off as the program says") {
    scene of = quay();
    of.lights[0].light.ambient = of.lights[1].light.ambient = {0.1, 0.1, 0.1};
    of.lights[1].light.follows = ambient_follows::nothing;
    claims claimed = everything();
    claimed.follows = ambient_follows::distance;
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[0].light.follows == ambient_follows::cone); // nothing falls off there
    CHECK(found.fitted->lights[1].light.follows == ambient_follows::distance);
    CHECK(found.fitted->lights[2].light.follows == ambient_follows::cone); // it has no such part
    CHECK(tells(found, "ambient parts that follow `distance`"));
}

TEST_CASE("fit: a part that is bound of some lights is no part of the others") {
    scene of = quay();
    for (named_light& each : of.lights) {
        each.light.ambient = {0.1, 0.2, 0.3};
        each.light.diffuse = {0.5, 0.6, 0.7};
    }
    REQUIRE(of.lights.size() == 3);
    // Of each way of saying which: the lights that it leaves as they are.
    const std::string first_name = of.lights[0].name;
    REQUIRE_FALSE(first_name.empty());
    const std::set<std::string> part{"ambient"};
    for (int way = 0; way < 4; ++way) {
        CAPTURE(way);
        claims claimed = everything();
        claimed.bound_of_all.erase("ambient");
        const bool all_else = way == 0 || way == 3; // is bound of every light
        if (!all_else) {
            claimed.bound_of_index[way == 1 ? 1 : 0] = {"diffuse"};
            for (const named_light& each : of.lights) {
                claimed.bound_of_name[each.name] = {"diffuse"};
            }
            claimed.bound_of_all.clear();
        }
        std::vector<bool> kept(3, false);
        for (std::size_t i = 0; i < 3; ++i) {
            kept[i] = way == 0   ? of.lights[i].light.kind == light_kind::spot
                      : way == 1 ? i == 1
                      : way == 2 ? of.lights[i].name == first_name
                                 : false;
        }
        if (way == 0) {
            claimed.bound_of_kind[light_kind::spot] = part;
        } else if (way == 1) {
            claimed.bound_of_index[1].insert("ambient");
        } else if (way == 2) {
            claimed.bound_of_name[first_name].insert("ambient");
        }
        const fitted_scene found = fit_to(claimed, of);
        REQUIRE(found.fitted);
        REQUIRE(found.fitted->lights.size() == 3);
        for (std::size_t i = 0; i < 3; ++i) {
            const light& lamp = found.fitted->lights[i].light;
            CHECK(lamp.ambient == (kept[i] ? rgb<double>(0.1, 0.2, 0.3) : rgb<double>()));
            CHECK(lamp.diffuse == rgb<double>(0.5, 0.6, 0.7)); // bound of all of them
        }
        CHECK(tells(found, "lights without ambient parts"));
    }
    // Beside what all lights have, a part that is bound of one is one for all of them.
    claims claimed = everything();
    claimed.bound_of_all.erase("ambient");
    claimed.bound_of_index[0] = part;
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    CHECK(found.fitted->lights[2].light.ambient == rgb<double>(0.1, 0.2, 0.3));
}

TEST_CASE("fit: bands of cel, as many as its arrays hold") {
    scene of = quay();
    of.shading.model = model_kind::cel;
    claims claimed = everything();
    claimed.model = model_kind::cel;
    claimed.thresholds = 3;
    claimed.bands = 4;
    const fitted_scene found = fit_to(claimed, of);
    REQUIRE(found.fitted);
    const cel_settings& cel = found.fitted->shading.cel;
    REQUIRE(cel.bands.size() == 4);
    REQUIRE(cel.thresholds.size() == 3);
    CHECK(std::is_sorted(cel.thresholds.begin(), cel.thresholds.end()));
    CHECK(cel.bands.front().r == Approx(0.15).epsilon(1e-15));
    CHECK(cel.bands.back().r == Approx(1).epsilon(1e-15));
    CHECK(tells(found, "4 bands"));
    claimed.bands.reset(); // thresholds alone say how many bands there are
    claimed.thresholds = 1;
    CHECK(fit_to(claimed, of).fitted->shading.cel.bands.size() == 2);
}

TEST_CASE(
    "fit: bands of which one number is bound are grey, and those that are bound whole keep their colours") {
    scene of = quay();
    of.shading.model = model_kind::cel;
    of.shading.cel.thresholds = {0.5};
    of.shading.cel.bands = {{0.25, 0.5, 0.75}, {1, 0.5, 0.25}};
    claims claimed = everything();
    claimed.model = model_kind::cel;
    CHECK(fit_to(claimed, of).fitted->shading.cel.bands == of.shading.cel.bands);
    claimed.grey.insert("shading.bands");
    const fitted_scene found = fit_to(claimed, of);
    CHECK(found.fitted->shading.cel.bands == std::vector<rgb<double>>{rgb<double>(0.25), rgb<double>(1.0)});
    CHECK(tells(found, "grey bands"));
}

TEST_CASE("fit: with a claim that makes it no valid scene it is skipped, and says why") {
    claims claimed = everything();
    claimed.model = model_kind::cel;
    claimed.rate = rate::vertex; // cel is drawn per fragment only
    const fitted_scene found = fit_to(claimed, quay());
    CHECK_FALSE(found.fitted);
    const std::string why = "with the program's claims it is no valid scene: ";
    REQUIRE(found.skipped.starts_with(why));
    scene claimed_of = quay();
    claimed_of.shading.model = model_kind::cel;
    claimed_of.shading.rate = rate::vertex;
    CHECK(found.skipped == why + find_fault(claimed_of)->wrong);
}
