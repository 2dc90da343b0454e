// The equations, each against its closed form at hand-picked places.
#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <limits>
#include <vector>

#include "yurvo/model.hpp"
#include "yurvo/shading/shade.hpp"

using namespace yurvo;

namespace {

constexpr double u = 0x1p-53; // unit roundoff of double

bool near(double found, double expected, double operations) {
    return std::abs(found - expected) <= operations * u * std::abs(expected);
}

light spot_down(penumbra_kind penumbra, double inner_degrees, double outer_degrees) {
    light made;
    made.kind = light_kind::spot;
    made.position = {0, 2, 0};
    made.shines = {0, -3, 0};
    made.falloff = falloff_kind::none;
    made.penumbra = penumbra;
    made.inner = radians(inner_degrees);
    made.outer = radians(outer_degrees);
    made.exponent = 3;
    return made;
}

// A point two metres below the lamp, at an angle from its axis.
vec3<double> below_at(double angle_degrees) { return {2 * std::tan(radians(angle_degrees)), 0, 0}; }

template <class Model>
outgoing<double> lit(const Model& model, const surface<double>& s, const std::vector<light>& lights,
                     const finish_settings<double>& settings = {}) {
    std::vector<ready_light<double>> ready;
    ready.reserve(lights.size());
    for (const light& light : lights) {
        ready.push_back(make_ready<double>(light));
    }
    return shade(model, s, std::span<const ready_light<double>>(ready), settings);
}

surface<double> up_facing() {
    surface<double> s;
    s.normal = {0, 1, 0};
    s.to_eye = {0, 1, 0};
    return s;
}

} // namespace

TEST_CASE("falloff") {
    CHECK(formula::falloff_none(3.0) == 1);
    CHECK(formula::falloff_inverse_square(2.0) == 0.25);
    CHECK(formula::falloff_inverse_square(4.0F) == 0.0625F);
    CHECK(formula::falloff_polynomial(2.0, 1.0, 0.5, 0.25) == 1.0 / 3);
    CHECK(formula::falloff_linear(1.0, 4.0) == 0.75);
    CHECK(formula::falloff_linear(5.0, 4.0) == 0);
    CHECK(near(formula::falloff_windowed(1.0, 2.0), 15.0 / 16, 4));
    CHECK(formula::falloff_windowed(2.0, 2.0) == 0);
    CHECK(formula::falloff_windowed(9.0, 2.0) == 0);
}

TEST_CASE("penumbra: the middle of each, in the cosine") {
    // At this angle the cosine lies half way between those of 20° and 30°: t = 1/2.
    const double middle = degrees(std::acos((std::cos(radians(20)) + std::cos(radians(30))) / 2));
    const auto at = [&](penumbra_kind penumbra, double angle) {
        return arrive<formula>(make_ready<double>(spot_down(penumbra, 20, 30)), below_at(angle)).brightness;
    };
    // t is known to the rounding of a cosine near 0.9 over a difference of 0.074: about 30 units.
    const double t_error = 60 * u;
    CHECK(std::abs(at(penumbra_kind::ramp, middle) - 0.5) < t_error);
    CHECK(std::abs(at(penumbra_kind::squared, middle) - 0.25) < t_error);
    CHECK(std::abs(at(penumbra_kind::smooth, middle) - 0.5) < 1.5 * t_error); // its slope there is 3/2
    CHECK(at(penumbra_kind::ramp, 19) == 1);
    CHECK(at(penumbra_kind::smooth, 31) == 0);
    CHECK(at(penumbra_kind::hard, 29.9) == 1);
    CHECK(at(penumbra_kind::hard, 30.1) == 0);
    CHECK(near(at(penumbra_kind::power, 25), std::pow(std::cos(radians(25)), 3), 20));
    CHECK(at(penumbra_kind::power, 30.1) == 0);
}

TEST_CASE("penumbra: inner = outer is hard, and a cone of 180° lights everything") {
    const auto at = [](const light& lamp, const vec3<double>& point) {
        return arrive<formula>(make_ready<double>(lamp), point).brightness;
    };
    CHECK(at(spot_down(penumbra_kind::smooth, 30, 30), below_at(29.9)) == 1);
    CHECK(at(spot_down(penumbra_kind::smooth, 30, 30), below_at(30.1)) == 0);
    CHECK(at(spot_down(penumbra_kind::hard, 0, 180), {0, 5, 0}) == 1); // straight behind the lamp
}

TEST_CASE("a light at distance zero brings nothing, and no NaN") {
    light lamp;
    lamp.position = {1, 2, 3};
    const arrival<float> in = arrive<formula>(make_ready<float>(lamp), vec3<float>{1, 2, 3});
    CHECK(in.brightness == 0);
    CHECK(in.light == rgb<float>{});
    CHECK(in.to_light == vec3<float>{});
}

TEST_CASE("a directional light has neither falloff nor penumbra, and its shines any length") {
    light moon;
    moon.kind = light_kind::directional;
    moon.shines = {0, -7, 0};
    moon.color = {0.5, 0.25, 1};
    moon.intensity = 2;
    const arrival<double> in = arrive<formula>(make_ready<double>(moon), vec3<double>{4, -9, 2});
    CHECK(in.to_light == vec3<double>{0, 1, 0});
    CHECK(in.light == rgb<double>{1, 0.5, 2});
    CHECK(std::isinf(in.distance));
}

TEST_CASE("lambert: cosine times inverse square, added over lights, tinted by base") {
    surface<double> s = up_facing();
    s.base = {0.5, 0.5, 1};
    s.diffuse = {1, 0.5, 1};
    s.emission = {0.125, 0, 0};
    light lamp;
    lamp.position = {0, 2, 0};
    lamp.intensity = 3;
    light aslant = lamp;
    aslant.position = {3, 4, 0}; // distance 5, cosine 4/5
    finish_settings<double> settings;
    settings.ambient_light = {0.25, 0.25, 0.25};
    const outgoing<double> out = lit(lambert{}, s, {lamp, aslant}, settings);
    const double sum = 3.0 / 4 + 3.0 / 25 * 4 / 5;
    CHECK(near(out.tinted.r, 0.5 * (0.25 + sum), 12));
    CHECK(near(out.tinted.g, 0.5 * (0.25 + 0.5 * sum), 12));
    CHECK(near(out.tinted.b, 0.25 + sum, 12));
    CHECK(out.untinted == rgb<double>{0.125, 0, 0});
}

TEST_CASE("no light from behind, at no rate of specular") {
    surface<double> s = up_facing();
    s.specular = {1, 1, 1};
    s.to_eye = {0, -1, 0};
    light below;
    below.position = {0, -2, 0};
    for (const auto& out : {lit(phong{}, s, {below}), lit(blinn_phong{}, s, {below})}) {
        CHECK(out.tinted == rgb<double>{});
        CHECK(out.untinted == rgb<double>{});
    }
}

TEST_CASE("phong and blinn-phong: the cosine of 60° from the mirror, and of half of that from the normal") {
    surface<double> s = up_facing();
    s.specular = {1, 0.5, 0};
    s.shininess = 4;
    s.to_eye = {std::sin(radians(60)), std::cos(radians(60)), 0};
    light moon;
    moon.kind = light_kind::directional;
    moon.shines = {0, -1, 0};
    const double by_mirror = std::pow(std::cos(radians(60)), 4);
    const double by_half = std::pow(std::cos(radians(30)), 4);
    // The power multiplies the rounding of a cosine by 4; ten operations besides.
    CHECK(near(lit(phong{}, s, {moon}).untinted.r, by_mirror, 40));
    CHECK(near(lit(blinn_phong{}, s, {moon}).untinted.r, by_half, 40));
    CHECK(near(lit(blinn_phong{}, s, {moon}).untinted.g, by_half / 2, 40));
    CHECK(lit(blinn_phong{}, s, {moon}).untinted.b == 0);
}

TEST_CASE("a half vector that does not exist gives no highlight") {
    CHECK(formula::blinn_phong_highlight(vec3<double>{0, 1, 0},
                                         formula::half(vec3<double>{0, 1, 0}, {0, -1, 0}), 2.0) == 0);
}

TEST_CASE("ambient rules") {
    surface<double> s = up_facing();
    light moon;
    moon.kind = light_kind::directional;
    moon.color = {0.5, 0.1, 0.5};
    finish_settings<double> settings;
    settings.ambient_light = {0.25, 0.25, 0.25};
    CHECK(lit(lambert{}, s, {moon}, settings).tinted == rgb<double>{0.75, 0.35, 0.75});
    settings.rule = ambient_rule::max;
    CHECK(lit(lambert{}, s, {moon}, settings).tinted == rgb<double>{0.5, 0.25, 0.5});
    settings.terms.diffuse = false;
    CHECK(lit(lambert{}, s, {moon}, settings).tinted == rgb<double>{0.25, 0.25, 0.25});
}

TEST_CASE("unlit is the base colour; a zero normal leaves ambient and emission") {
    surface<double> s = up_facing();
    s.base = {0.1, 0.2, 0.3};
    s.specular = {1, 1, 1};
    light lamp;
    lamp.position = {0, 1, 0};
    CHECK(lit(unlit{}, s, {lamp}).tinted == s.base);
    s.normal = {};
    s.emission = {1, 2, 3};
    finish_settings<double> settings;
    settings.ambient_light = {1, 1, 1};
    const outgoing<double> out = lit(blinn_phong{}, s, {lamp}, settings);
    CHECK(out.tinted == s.base);
    CHECK(out.untinted == s.emission);
}

TEST_CASE("cel: the band is the number of thresholds reached, the outline where the surface turns away") {
    cel_settings bands;
    bands.thresholds = {0.25, 0.75};
    bands.bands = {rgb<double>(0.0), rgb<double>(0.5), {1, 0.5, 0.25}};
    bands.outline = 0.3;
    bands.outline_color = {0, 0, 1};
    const cel<> model{&bands};
    surface<double> s = up_facing();
    s.base = {1, 1, 0.5};
    light moon;
    moon.kind = light_kind::directional;
    moon.color = {0, 1, 0}; // plays no part
    const auto at = [&](double intensity) {
        moon.intensity = intensity;
        return lit(model, s, {moon}).tinted;
    };
    CHECK(at(0.2) == rgb<double>{});
    CHECK(at(0.25) == rgb<double>{0.5, 0.5, 0.25}); // on the threshold: reached
    CHECK(at(0.5) == rgb<double>{0.5, 0.5, 0.25});
    CHECK(at(9) == rgb<double>{1, 0.5, 0.125});
    s.to_eye = {1, 0.2, 0};
    CHECK(lit(model, s, {moon}).tinted == rgb<double>{});
    CHECK(lit(model, s, {moon}).untinted == rgb<double>{0, 0, 1});
}

namespace {

struct cosine_not_clamped : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        return dot(n, l);
    }
};

} // namespace

TEST_CASE("a formula is replaced by deriving") {
    surface<double> s = up_facing();
    light moon;
    moon.kind = light_kind::directional;
    moon.shines = {0, 1, 0}; // from below
    CHECK(lit(lambert<>{}, s, {moon}).tinted.r == 0);
    CHECK(lit(lambert<cosine_not_clamped>{}, s, {moon}).tinted.r == -1);
}

TEST_CASE("float follows double to rounding") {
    light lamp = spot_down(penumbra_kind::smooth, 20, 30);
    lamp.falloff = falloff_kind::windowed;
    lamp.range = 5;
    for (const double angle : {5.0, 21.0, 25.0, 29.0}) {
        const vec3<double> point = below_at(angle);
        const double exact = arrive<formula>(make_ready<double>(lamp), point).brightness;
        const float rounded = arrive<formula>(make_ready<float>(lamp), vec3<float>(point)).brightness;
        // The slope of the penumbra over the angle is at most 1.5 · sin 30° / (cos 20° − cos 30°) = 10; the
        // angle is known to 4 units; about 16 operations follow.
        CHECK(std::abs(rounded - exact) <= 0x1p-24 * (4 * 10 + 16 * exact));
    }
}
