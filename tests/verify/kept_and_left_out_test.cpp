// What the second method keeps, and what it leaves out: each as it is without.
#include <cmath>
#include <random>

#include "scene/in_size.hpp"
#include "verify/pixel_tolerances.hpp"
#include "verify/plain_lighting.hpp"
#include "yurvo/verify/reference.hpp"
#include <doctest/doctest.h>

using namespace yurvo;

TEST_CASE(
    "a pixel's tolerance: at least what it is without the snap, and the caster's own, whoever asks first") {
    for (const std::string name : {"lantern-quay", "paint-by-formula", "float-field"}) {
        CAPTURE(name);
        const scene made = in_size(verify::find_reference(name)->scene, 32, 20);
        tolerance_model allowed;
        allowed.precision = 4;
        allowed.snap = 1.0 / 256;
        const verify::caster casts(made, allowed);
        verify::pixel_tolerances one_by_one(made, allowed);
        verify::pixel_tolerances all_at_once(made, allowed);
        all_at_once.find_all();
        int snapped = 0; // pixels whose tolerance the snap widens
        for (int y = 0; y < made.view.height; ++y) {
            for (int x = 0; x < made.view.width; ++x) {
                const rgb<double> least = one_by_one.least(x, y);
                const rgb<double> without = casts.at_without_snap(x + 0.5, y + 0.5).tolerance;
                const verify::cast_color whole = casts.at(x + 0.5, y + 0.5);
                CHECK(least == without);
                for (const auto component : {&rgb<double>::r, &rgb<double>::g, &rgb<double>::b}) {
                    CHECK(least.*component <= whole.tolerance.*component);
                }
                for (const verify::pixel_tolerances* each : {&one_by_one, &all_at_once}) {
                    CHECK(each->at(x, y).tolerance == whole.tolerance);
                    CHECK(each->at(x, y).color == whole.color);
                    CHECK(each->at(x, y).object == whole.object);
                }
                CHECK(all_at_once.least(x, y) == whole.tolerance);
                snapped += least == whole.tolerance ? 0 : 1;
            }
        }
        CHECK(snapped > 50);
    }
}

TEST_CASE("a light is left out where all that rounding leaves of it is nothing, and only beyond its range") {
    std::mt19937_64 random(37);
    MESSAGE("seed 37");
    std::uniform_real_distribution<double> unit(-1, 1);
    const auto any = [&](double size) {
        return vec3<double>{unit(random), unit(random), unit(random)} * size;
    };
    int left_out = 0;
    int kept = 0;
    for (int i = 0; i < 20000; ++i) {
        verify::plain_light lamp;
        lamp.given.kind = i % 3 == 0 ? light_kind::spot : light_kind::point;
        lamp.given.falloff = i % 2 == 0 ? falloff_kind::linear : falloff_kind::windowed;
        lamp.given.ambient = rgb<double>(0.2);
        lamp.given.range = 3;
        lamp.given.inner = 0.2;
        lamp.given.outer = 3;
        const vec3<double> eye = any(1000); // far away, so that much is rounded
        lamp.position = any(5);
        lamp.shines = {0, 0, -1};
        const vec3<double> way = any(1);
        lamp.from_eye = length(lamp.position - eye);
        // Around the range, nearer to it time after time.
        const double beside = std::pow(10.0, -static_cast<double>(i % 8)) * unit(random);
        const vec3<double> place = lamp.position + normalize(way) * (lamp.given.range * (1 + beside));
        const verify::plain_arrival in = arrive_at(lamp, place, eye);
        if (lamp.ends_before(place)) {
            CHECK(in.brightness.high == 0);
            CHECK(in.ambient.high == 0);
            CHECK(length(place - lamp.position) > lamp.given.range);
            ++left_out;
        } else {
            // Rounding at the eye's distance, 2^-24 of a kilometre and a half there and back, is less than a
            // thousandth of a metre.
            CHECK(length(place - lamp.position) <= lamp.given.range + 1e-3);
            ++kept;
        }
    }
    CHECK(left_out > 5000);
    CHECK(kept > 5000);
    verify::plain_light endless;
    endless.given.kind = light_kind::point;
    endless.given.falloff = falloff_kind::inverse_square;
    endless.given.range = 1;
    CHECK_FALSE(endless.ends_before({1e6, 0, 0}));
    endless.given.falloff = falloff_kind::linear;
    endless.given.kind = light_kind::directional;
    CHECK_FALSE(endless.ends_before({1e6, 0, 0}));
}
