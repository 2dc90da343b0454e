// What explain says is what is drawn, and adds up.
#include <doctest/doctest.h>

#include <cmath>
#include <random>

#include "support/printing.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/explain.hpp"

using namespace yurvo;

namespace {

double most_of(const rgb<double>& c) { return std::max({std::abs(c.r), std::abs(c.g), std::abs(c.b)}); }

double apart(const rgb<double>& a, const rgb<double>& b) { return most_of(a - b); }

// One evaluation by hand, from the numbers that are told and nothing else.
void hold_sum(const scene& of, const verify::explanation& told, const verify::explained_point& at) {
    const material& look = of.materials[told.material].look;
    const model_kind model = of.shading.model;
    CHECK(length(at.normal) == doctest::Approx(1).epsilon(1e-9));
    CHECK(apart(at.ambient, of.ambient_color * of.ambient_strength * look.ambient * at.base) < 1e-12);
    for (const verify::explained_light& light : at.lights) {
        const yurvo::light& given = of.lights[static_cast<std::size_t>(&light - at.lights.data())].light;
        CHECK(light.cosine == doctest::Approx(dot(at.normal, light.to_light)).epsilon(1e-9));
        CHECK(apart(light.arriving, given.color * (given.intensity * light.falloff * light.penumbra)) <
              1e-12);
        const bool placed = given.kind != light_kind::directional;
        const double follows = !placed || given.follows == ambient_follows::nothing ? 1
                               : given.follows == ambient_follows::distance         ? light.falloff
                                                                            : light.falloff * light.penumbra;
        CHECK(std::abs(light.ambient_factor - follows) <= 1e-12 * follows);
        const rgb<double> ambient =
            given.color * given.intensity * given.ambient * follows * look.ambient * at.base;
        CHECK(apart(light.ambient, ambient) <= 1e-12 + 1e-9 * most_of(ambient));
        const rgb<double> diffuse =
            light.arriving * given.diffuse * std::max(light.cosine, 0.0) * look.diffuse * at.base;
        CHECK(apart(light.diffuse, diffuse) <= 1e-12 + 1e-9 * most_of(diffuse));
        if (light.kind != light_kind::directional) {
            CHECK(length(light.whole) == doctest::Approx(light.distance).epsilon(1e-12));
        }
        if (model == model_kind::phong || model == model_kind::blinn_phong) {
            const double c =
                model == model_kind::phong ? dot(light.reflected, at.to_eye) : dot(at.normal, light.half);
            const double highlight = light.cosine > 0 ? std::pow(std::max(c, 0.0), look.shininess) : 0;
            const rgb<double> specular = light.arriving * given.specular * highlight * look.specular;
            // A rounding in the cosine counts shininess times.
            CHECK(apart(light.specular, specular) <=
                  1e-12 + 1e-14 * look.shininess + 1e-9 * most_of(specular));
        }
    }
}

rgb<double> sum_of_terms(const verify::explained_point& at, ambient_rule rule) {
    rgb<double> ambient = at.ambient;
    rgb<double> diffuse;
    rgb<double> specular;
    for (const verify::explained_light& light : at.lights) {
        ambient = ambient + light.ambient;
        diffuse = diffuse + light.diffuse;
        specular = specular + light.specular;
    }
    return (rule == ambient_rule::max ? max(ambient, diffuse) : ambient + diffuse) + specular + at.emission;
}

} // namespace

TEST_CASE("explain agrees with the picture at a thousand random pixels, and its terms add up to it") {
    std::printf("seed 20\n");
    std::mt19937_64 random(20);
    std::vector<verify::check_unit> units;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        for (verify::check_unit& unit : verify::units_of(reference)) {
            units.push_back(std::move(unit));
        }
    }
    const std::size_t each = 1000 / units.size() + 1;
    std::size_t tried = 0;
    std::size_t on_objects = 0;
    for (const verify::check_unit& unit : units) {
        scene of = unit.asked;
        of.view.width = 320;
        of.view.height = 200;
        of.expects.clear();
        CAPTURE(unit.scene_name);
        CAPTURE(unit.variant);
        const picture drawn = draw(of);
        for (std::size_t i = 0; i < each; ++i, ++tried) {
            const int x = static_cast<int>(random() % 320);
            const int y = static_cast<int>(random() % 200);
            CAPTURE(x);
            CAPTURE(y);
            const verify::explanation told = verify::explain(of, x, y);
            const rgb<double> shown(drawn.color(x, y));
            // The picture is lit in float: a hundred roundings of its greatest component.
            CHECK(apart(told.linear, shown) <= 100 * 0x1p-24 * std::max(1.0, most_of(shown)));
            CHECK(told.alpha == doctest::Approx(drawn.alpha(x, y)).epsilon(1e-6));
            const std::array<std::uint8_t, 3> codes{
                code_of(drawn.color(x, y).r), code_of(drawn.color(x, y).g), code_of(drawn.color(x, y).b)};
            for (std::size_t c = 0; c < 3; ++c) {
                CHECK(std::abs(static_cast<int>(told.encoded[c]) - static_cast<int>(codes[c])) <= 1);
            }
            if (!told.object) {
                CHECK(apart(told.linear, of.view.background) == 0);
                continue;
            }
            ++on_objects;
            // Formulas are told apart from this: formulas_test.cpp.
            if (of.shading.model == model_kind::unlit || of.shading.model == model_kind::cel ||
                of.formulas.any()) {
                continue;
            }
            CHECK(apart(sum_of_terms(told.point, of.shading.ambient_rule), told.linear) <
                  1e-9 * std::max(1.0, most_of(told.linear)));
            if (of.shading.rate == rate::vertex) {
                REQUIRE(told.vertices.size() == 3);
                double weight = 0;
                for (const verify::explained_vertex& vertex : told.vertices) {
                    weight += vertex.weight;
                    hold_sum(of, told, vertex.at);
                }
                CHECK(weight == doctest::Approx(1).epsilon(1e-9));
            } else if (!told.textured || of.shading.rate == rate::fragment) {
                hold_sum(of, told, told.point);
            }
        }
    }
    CHECK(tried >= 1000);
    CHECK(on_objects > tried / 4);
}

TEST_CASE("what would have to differ: the number that was changed is named, with its factor") {
    scene of = verify::find_reference("buoys")->scene;
    of.expects.clear();
    const verify::explanation told = verify::explain(of, 640, 420);
    REQUIRE(told.object.has_value());
    CHECK(verify::changes_needed(told, told.linear, pixel_format::floats).empty());
    const auto factor_of = [&](const std::vector<verify::needed_change>& all, const std::string& what) {
        for (const verify::needed_change& one : all) {
            if (one.what == what) {
                return one.factor;
            }
        }
        return -1.0;
    };
    for (const verify::explained_light& light : told.point.lights) {
        if (most_of(light.diffuse) < 0.02) {
            continue;
        }
        const rgb<double> less = told.linear - light.diffuse * 0.75;
        CHECK(factor_of(verify::changes_needed(told, less, pixel_format::floats),
                        light.name + "'s diffuse") == doctest::Approx(0.25).epsilon(1e-3));
        const rgb<double> none = told.linear - light.diffuse;
        CHECK(factor_of(verify::changes_needed(told, none, pixel_format::floats),
                        light.name + "'s diffuse") == doctest::Approx(0).epsilon(1e-3));
    }
    const rgb<double> dim = told.linear * 0.5;
    CHECK(factor_of(verify::changes_needed(told, dim, pixel_format::floats), "the whole colour") ==
          doctest::Approx(0.5).epsilon(1e-3));
}

TEST_CASE("a part that is dark in a component changes nothing there, and is named where the rest agrees") {
    verify::explanation told;
    told.object = 0;
    told.rate = rate::fragment;
    told.linear = {0.5, 0.25, 0.125};
    verify::explained_light lamp;
    lamp.name = "lamp";
    lamp.diffuse = {0.5, 0, 0};
    told.point.lights = {lamp};
    const std::vector<verify::needed_change> half =
        verify::changes_needed(told, {0.25, 0.25, 0.125}, pixel_format::floats);
    REQUIRE(half.size() == 1);
    CHECK(half[0].what == "lamp's diffuse");
    CHECK(half[0].factor == doctest::Approx(0.5).epsilon(1e-3));
    CHECK(verify::changes_needed(told, {0.25, 0.375, 0.125}, pixel_format::floats).empty());
}

TEST_CASE("clamped, and seen from behind") {
    scene of = verify::find_reference("bollard")->scene;
    of.expects.clear();
    of.view.width = 160;
    of.view.height = 100;
    for (named_light& one : of.lights) {
        one.light.intensity *= 50;
    }
    bool any = false;
    for (int y = 0; y < of.view.height && !any; y += 5) {
        for (int x = 0; x < of.view.width && !any; x += 5) {
            const verify::explanation told = verify::explain(of, x, y);
            if (told.clamped[0]) {
                any = true;
                CHECK(told.linear.r > 1);
                CHECK(told.encoded[0] == 255);
            }
        }
    }
    CHECK(any);
}
