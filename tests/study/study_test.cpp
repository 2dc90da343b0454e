// The studies, as a C++ user calls them: what each finds of scenes whose answer is known.
#include <doctest/doctest.h>

#include <cmath>

#include "support/buoy_scene.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/model.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/layers.hpp"
#include "yurvo/study/quiz.hpp"
#include "yurvo/study/rates.hpp"
#include "yurvo/study/turn.hpp"

using namespace yurvo;
using testing::buoy_scene;

namespace {

constexpr double u = 0x1p-24;

// Lambert's formula under another name, which nothing knows to be it.
struct plain_diffuse {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)), {}};
    }
};

// Light goes out only where something cuts it off.
const renderer& dark_right_half() {
    static const function_renderer half([](const scene& of) {
        picture made = draw(of);
        for (int y = 0; y < made.height; ++y) {
            for (int x = made.width / 2; x < made.width; ++x) {
                made.set(x, y, {}, 1);
            }
        }
        return made;
    });
    return half;
}

} // namespace

TEST_CASE("layers: the last is the picture, and neighbours differ by the term between them") {
    for (const model_kind model : {model_kind::lambert, model_kind::phong, model_kind::blinn_phong}) {
        for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
            scene made = buoy_scene(model);
            made.shading.rate = at;
            const std::vector<study::layer> layers = study::build_up(made).list;
            REQUIRE(layers.size() == (model == model_kind::lambert ? 4U : 5U));
            CHECK(layers.back().drawn == draw(made));
            for (std::size_t i = 2; i < layers.size(); ++i) {
                const term_choice& now = layers[i].terms;
                const term_choice& before = layers[i - 1].terms;
                const term_choice only{now.ambient && !before.ambient, now.diffuse && !before.diffuse,
                                       now.specular && !before.specular, now.emission && !before.emission};
                scene dark = made; // the background is no term
                dark.view.background = {};
                const picture term = draw(dark, {only});
                for (std::size_t k = 0; k < term.values.size(); ++k) {
                    if (k % 4 != 3) {
                        const double added =
                            static_cast<double>(layers[i].drawn.values[k]) - layers[i - 1].drawn.values[k];
                        REQUIRE(std::abs(added - term.values[k]) <=
                                6 * u * std::max(1.0F, layers[i].drawn.values[k]));
                    }
                }
            }
        }
    }
    CHECK(study::build_up(buoy_scene(model_kind::unlit)).list.size() == 1);
    CHECK(study::build_up(buoy_scene(model_kind::cel)).list.back().drawn ==
          draw(buoy_scene(model_kind::cel)));
}

TEST_CASE("turn: at a fixed point diffuse stays put, specular follows the eye") {
    const scene made = buoy_scene(model_kind::blinn_phong);
    const study::turn found = study::turn_around(made, turned_part::eye, 6, "", built_in_renderer());
    REQUIRE(found.point.has_value());
    CHECK(found.point->object == "buoy");
    REQUIRE(found.steps.size() == 6);
    CHECK(found.steps[0].drawn == draw(made));
    CHECK(found.steps[0].largest_difference == 0);
    for (std::size_t i = 1; i < 6; ++i) {
        CAPTURE(i);
        CHECK(std::abs(found.steps[i].angle - static_cast<double>(i) * pi / 3) <= 1e-15);
        // The point's position and the light are the same: only v changes, which diffuse does not know.
        CHECK(std::abs(found.steps[i].diffuse->r - found.steps[0].diffuse->r) <= 1e-15);
        CHECK(std::abs(found.steps[i].specular->r - found.steps[0].specular->r) > 1e-3);
    }
    CHECK_THROWS_AS(study::turn_around(made, turned_part::object, 2, "bouy", built_in_renderer()), error);
    CHECK_THROWS_AS(study::turn_around(made, turned_part::eye, 2, "buoy", built_in_renderer()), error);
}

TEST_CASE(
    "turn: the terms at the point in the middle are the pixel's, with a built-in model and with one's own") {
    scene made = buoy_scene(model_kind::lambert);
    made.materials[0].look.emission = {};
    made.ambient_strength = 0;
    const model_renderer own("plain", plain_diffuse{});
    for (const renderer* by : {&built_in_renderer(), static_cast<const renderer*>(&own)}) {
        const study::turn found = study::turn_around(made, turned_part::light, 3, "", *by);
        for (const study::turn_step& step : found.steps) {
            const rgb<float> pixel = step.drawn.color(made.view.width / 2, made.view.height / 2);
            // A float's rounding in each of some twenty operations on the way to the pixel.
            CHECK(std::abs(step.diffuse->r - pixel.r) <= 20 * u * pixel.r + 1e-9);
        }
        CHECK(found.model == by->name_for(made));
    }
}

TEST_CASE("rates: figures are those of the pictures, and what is per fragment only is refused") {
    const study::named_scene quay{"lantern-quay-inverse-square", find_scene("lantern-quay-inverse-square")};
    const study::rates found = study::compare_rates(quay, built_in_renderer());
    CHECK(found.face.statistics.evaluations == 2);   // a quad is two triangles
    CHECK(found.vertex.statistics.evaluations == 4); // with four corners
    CHECK(found.fragment.statistics.evaluations == found.fragment.statistics.pixels);
    CHECK(found.vertex_off.largest == compare(found.fragment.drawn, found.vertex.drawn).largest);
    // The lantern hangs over the quay's middle: per fragment it is brightest there, in the picture's middle.
    CHECK(std::abs(found.fragment.x - quay.scene.view.width / 2) <= 1);
    CHECK_THROWS_AS(study::compare_rates({"a", buoy_scene(model_kind::cel)}, built_in_renderer()), error);
    scene field = buoy_scene(model_kind::lambert);
    field.objects[0].shape = field_shape{};
    CHECK_THROWS_AS(study::compare_rates({"a", field}, built_in_renderer()), error);
}

TEST_CASE("rates: a renderer that works at one rate is found to") {
    const study::named_scene quay{"lantern-quay-inverse-square", find_scene("lantern-quay-inverse-square")};
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        const function_renderer only([at](const scene& of) {
            scene changed = of;
            changed.shading.rate = at;
            return draw(changed);
        });
        CHECK(study::find_rate(quay, only).nearest == at);
    }
}

TEST_CASE("cost: every rate is measured, of any renderer, with what it tells") {
    scene made = buoy_scene(model_kind::blinn_phong);
    study::cost_settings settings;
    settings.repeat = 3;
    const study::cost built_in = study::measure_cost(made, built_in_renderer(), settings);
    REQUIRE(built_in.rates.size() == 3);
    for (const study::rate_cost& one : built_in.rates) {
        CHECK(one.lower <= one.median);
        CHECK(one.median <= one.upper);
        CHECK(one.median > 0);
        // The stages' shares make up the frame; medians of three are near to those of the sums, not equal.
        CHECK(one.vertices + one.visibility + one.shading > 0);
    }
    CHECK(built_in.rates[2].codes_off == 0);
    CHECK(built_in.rates[0].codes_off > 0); // facets
    CHECK(built_in.advice.size() == 3);
    const model_renderer own("plain", plain_diffuse{});
    CHECK(study::measure_cost(made, own, settings).rates[2].statistics.evaluations ==
          built_in.rates[2].statistics.evaluations);
    made.shading.model = model_kind::cel;
    CHECK(study::measure_cost(made, built_in_renderer(), settings).rates.size() == 1);
    CHECK(study::measure_cost(made, own, settings).rates.size() == 3); // its own model has every rate
}

TEST_CASE("curves: the points are the laws' closed forms, and lights that share a law share a curve") {
    scene made = buoy_scene(model_kind::lambert);
    named_light spot;
    spot.light.kind = light_kind::spot;
    spot.light.falloff = falloff_kind::linear;
    spot.light.range = 8;
    spot.light.penumbra = penumbra_kind::ramp;
    spot.light.inner = radians(10);
    spot.light.outer = radians(20);
    made.lights.push_back(spot);
    made.lights.push_back(spot);
    const study::curves found = study::curves_of(made);
    CHECK(found.lights.size() == 3);
    REQUIRE(found.falloffs.size() == 1);
    REQUIRE(found.penumbras.size() == 1);
    CHECK(found.falloffs[0].lights.size() == 2);
    CHECK(found.farthest == doctest::Approx(9.6));
    for (const auto& [d, factor] : found.falloffs[0].points) {
        CHECK(factor == doctest::Approx(std::max(0.0, 1 - std::max(d, 1e-9) / 8)).epsilon(1e-12));
    }
    for (const auto& [angle, factor] : found.penumbras[0].points) {
        const double c = std::cos(radians(angle));
        const double t = (c - std::cos(radians(20))) / (std::cos(radians(10)) - std::cos(radians(20)));
        CHECK(std::abs(factor - std::clamp(t, 0.0, 1.0)) <= 1e-12);
    }
}

TEST_CASE("comparison: linear values and codes, signed") {
    const picture a(3, 2, rgb<float>(0.5F));
    picture b = a;
    b.set(2, 1, {0.5F, 0.25F, 0.5F}, 1);
    const study::comparison found = study::compare_pictures(a, b);
    CHECK_FALSE(found.same());
    CHECK(found.linear.largest == 0.25);
    CHECK(found.codes.pixels == 1);
    CHECK(found.codes.x == 2);
    CHECK(found.codes.y == 1);
    // IEC 61966-2-1: 0.5 is code 188, 0.25 is 137.
    CHECK(found.codes.largest == 137 - 188);
    CHECK(found.codes.mean == doctest::Approx((188 - 137) / 18.0));
    CHECK(study::compare_pictures(a, a).same());
}

TEST_CASE("quiz: the same question by the same seed, and every answer told apart") {
    const study::question one = study::ask("buoys", 4);
    const study::question again = study::ask("buoys", 4);
    CHECK(one.offered == again.offered);
    CHECK(one.right == again.right);
    CHECK(one.mistaken_codes == again.mistaken_codes);
    CHECK(one.offered.size() == 4);
    CHECK(one.answered(std::string(verify::entry_of(one.mistake()).id)) == one.right);
    CHECK(one.answered("A") == 0);
    CHECK(one.answered("nonsense") == one.offered.size());
    const auto [x, y] = one.farthest();
    CHECK(one.right_picture.color(x, y) != one.mistaken_picture.color(x, y));
}

TEST_CASE("a run of checks: what failed, its diagnosis, parts of it, and one finished picture") {
    std::vector<std::string> fitted;
    study::check_request asked;
    asked.units =
        study::units_of_scene(built_in_renderer(), {"moon-crates", find_scene("moon-crates")}, fitted);
    CHECK(fitted.empty());
    const study::check_run right = study::run_checks(asked, built_in_renderer());
    CHECK(right.failed() == 0);
    CHECK(right.passed() > 10);
    CHECK(right.diagnoses.empty());

    const verify::mistaken_renderer flipped({verify::mistake::normal_flipped}, built_in_renderer());
    std::size_t pictures = 0;
    asked.failed = [&](const verify::check_unit&, const picture& found) {
        pictures += found.pixels() > 0 ? 1U : 0U;
    };
    const study::check_run wrong = study::run_checks(asked, flipped);
    CHECK(wrong.failed() > 0);
    CHECK(pictures > 0);
    REQUIRE(wrong.diagnoses.size() == 1);
    // Under lambert a flipped normal and a flipped direction of light are one picture.
    const std::vector<std::string> ids = wrong.common_explanations();
    CHECK(std::find(ids.begin(), ids.end(), "normal-flipped") != ids.end());

    asked.failed = {};
    asked.only = "mirror";
    for (const verify::check_result& one : study::run_checks(asked, built_in_renderer()).results) {
        CHECK(one.name.find("mirror") != std::string::npos);
    }
    asked.only = "";
    CHECK(study::run_checks(asked, dark_right_half()).failed() > 0);
    asked.units = {asked.units.front()};
    const picture finished = draw(asked.units.front().asked);
    asked.finished = &finished;
    CHECK(study::run_checks(asked, built_in_renderer()).failed() == 0);
}
