#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "yurvo/geometry/field.hpp"

using namespace yurvo;

namespace {

field of(const field_part& part) { return {part.kind, {part}, 0.25}; }

} // namespace

TEST_CASE("distances in closed form") {
    field_part part;
    part.kind = field_kind::sphere;
    part.radius = 2;
    CHECK(evaluate(of(part), {0, 5, 0}).distance == 3);
    CHECK(evaluate(of(part), {0, 0, -1}).distance == -1);
    part.kind = field_kind::rounded_box;
    part.size = {2, 4, 6};
    part.rounding = 0.5;
    CHECK(evaluate(of(part), {3, 0, 0}).distance == 2);
    CHECK(evaluate(of(part), {0, -1.5, 0}).distance == -0.5);
    // From a corner of the inner box (0.5, 1.5, 2.5), by (3, 4, 0): 5, less the rounding.
    CHECK(std::abs(evaluate(of(part), {3.5, 5.5, 2.5}).distance - 4.5) <= 1e-15);
    part.kind = field_kind::torus;
    part.radius = 3;
    part.tube = 1;
    CHECK(evaluate(of(part), {0, 0, 3}).distance == -1);
    CHECK(evaluate(of(part), {3, 4, 0}).distance == 3);
    part.kind = field_kind::capsule;
    part.radius = 1;
    part.height = 4;
    CHECK(evaluate(of(part), {3, 1, 0}).distance == 2);
    CHECK(evaluate(of(part), {0, 5, 0}).distance == 2);
}

TEST_CASE("gradients are the slopes of the distance, everywhere") {
    std::mt19937_64 engine(13);
    MESSAGE("seed 13");
    std::uniform_real_distribution<double> anywhere(-2, 2);
    field several{field_kind::smooth_union, {}, 0.6};
    for (const field_kind kind :
         {field_kind::sphere, field_kind::rounded_box, field_kind::torus, field_kind::capsule}) {
        field_part part;
        part.kind = kind;
        part.radius = 0.8;
        part.position = {0.3 * static_cast<double>(several.parts.size()), 0.1, -0.2};
        several.parts.push_back(part);
        field_part alone = part;
        alone.position = {};
        for (const field& shape : {of(alone), several}) {
            for (int i = 0; i < 200; ++i) {
                const vec3<double> at{anywhere(engine), anywhere(engine), anywhere(engine)};
                const field_value here = evaluate(shape, at);
                constexpr double step = 1e-6;
                const auto slope = [&](const vec3<double>& axis) {
                    return (evaluate(shape, at + axis * step).distance -
                            evaluate(shape, at - axis * step).distance) /
                           (2 * step);
                };
                // Curvature leaves step² / r², kinks (the box's inside, the blend's end) a step; rounding
                // 1e-16 / step.
                const vec3<double> by_slopes{slope({1, 0, 0}), slope({0, 1, 0}), slope({0, 0, 1})};
                CHECK(length(here.gradient - by_slopes) <= 1e-4);
            }
        }
    }
}

TEST_CASE("a ray meets a sphere where the quadratic says, from outside, from inside, and scaled directions") {
    field_part part;
    part.radius = 1.5;
    const field shape = of(part);
    std::mt19937_64 engine(17);
    MESSAGE("seed 17");
    std::uniform_real_distribution<double> unit(-1, 1);
    int met = 0;
    for (int i = 0; i < 2000; ++i) {
        const vec3<double> from = vec3<double>{unit(engine), unit(engine), unit(engine)} * 4.0;
        const vec3<double> along = vec3<double>{unit(engine), unit(engine), unit(engine)} * 3.0;
        const double a = dot(along, along);
        const double b = dot(from, along);
        const double c = dot(from, from) - 1.5 * 1.5;
        const double discriminant = b * b - a * c;
        const std::optional<double> found = march(shape, from, along, 0, 100);
        if (std::abs(discriminant) < 1e-4 * a) {
            continue; // grazing: either is right
        }
        double expected = discriminant < 0 ? -1 : (-b - std::sqrt(discriminant)) / a;
        if (expected < 0 && discriminant > 0) {
            expected = (-b + std::sqrt(discriminant)) / a;
        }
        if (expected < 0) {
            CHECK_FALSE(found.has_value());
        } else {
            REQUIRE(found.has_value());
            // The slope of the distance where it meets is at least the root over a; 1e-15 of four metres.
            CHECK(std::abs(*found - expected) <= 1e-11 * (1 + expected));
            ++met;
        }
    }
    CHECK(met > 100);
    CHECK_FALSE(march(shape, {0, 0, 5}, {0, 0, -1}, 0, 3).has_value()); // beyond the end
    CHECK(std::abs(march(shape, {0, 0, 5}, {0, 0, -1}, 4, 30).value_or(0) - 6.5) <=
          1e-12); // the near side is cut off
}

TEST_CASE(
    "a smooth union: far from the seam each part alone, in the middle lower by a quarter of the blend") {
    field two{field_kind::smooth_union, {}, 0.4};
    field_part part;
    part.radius = 1;
    part.position = {-2, 0, 0};
    two.parts.push_back(part);
    part.position = {2, 0, 0};
    two.parts.push_back(part);
    CHECK(evaluate(two, {-5, 0, 0}).distance == 2);
    // On the plane between, both are equally far: h = 1.
    CHECK(std::abs(evaluate(two, {0, 3, 0}).distance - (std::sqrt(13.0) - 1 - 0.1)) <= 1e-15);
    const bounds box = bounds_of(two);
    CHECK(box.low.x == -3.1);
    CHECK(box.high.y == 1.1);
}

TEST_CASE("rays that go together meet nothing on the way that any of them meets alone") {
    std::mt19937_64 engine(19);
    MESSAGE("seed 19");
    std::uniform_real_distribution<double> unit(-1, 1);
    field several{field_kind::smooth_union, {}, 0.4};
    for (const field_kind kind :
         {field_kind::sphere, field_kind::rounded_box, field_kind::torus, field_kind::capsule}) {
        field_part part;
        part.kind = kind;
        part.radius = 0.7;
        part.position = {0.5 * static_cast<double>(several.parts.size()) - 0.8, 0.2, -0.1};
        several.parts.push_back(part);
    }
    int met = 0;
    int shortened = 0; // bundles that went more than half of the way to what is met first
    for (int bundle = 0; bundle < 300; ++bundle) {
        const vec3<double> from = vec3<double>{unit(engine), unit(engine), unit(engine)} * 5.0;
        const vec3<double> along =
            vec3<double>{unit(engine), unit(engine), unit(engine)} * 0.3 - from * 0.2; // roughly at it
        constexpr double spread = 0.01;
        const double clear = march_together(several, from, along, spread, 0.1, 40);
        double first = 1e9;
        for (int ray = 0; ray < 30; ++ray) {
            const vec3<double> aside = normalize(vec3<double>{unit(engine), unit(engine), unit(engine)}) *
                                       (spread * std::abs(unit(engine)));
            const std::optional<double> alone = march(several, from, along + aside, 0.1, 40);
            if (alone) {
                ++met;
                first = std::min(first, *alone);
                CHECK(*alone >= clear);
                // And from there on it meets the same.
                const std::optional<double> from_there = march(several, from, along + aside, clear, 40);
                REQUIRE(from_there.has_value());
                CHECK(std::abs(*from_there - *alone) <= 1e-11 * (1 + *alone));
            }
        }
        shortened += first < 1e9 && clear > first / 2 ? 1 : 0;
    }
    CHECK(met > 2000);
    CHECK(shortened > 100);
}
