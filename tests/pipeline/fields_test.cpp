// Rays at implicit surfaces, many at once, as every instruction set that runs here marches them: each meets
// what it meets alone, to the last digit, and that is where small steps along it first find a change of sign.
#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <limits>
#include <optional>
#include <random>
#include <vector>

#include "pipeline/wide/kernels.hpp"

using namespace yurvo;
using pipeline::instruction_set;

namespace {

constexpr std::array<field_kind, 4> kinds{field_kind::sphere, field_kind::rounded_box, field_kind::torus,
                                          field_kind::capsule};

// A float of each kind, and all of them run together.
std::vector<field> floats() {
    std::vector<field> all;
    field together{field_kind::smooth_union, {}, 0.3};
    for (const field_kind kind : kinds) {
        field_part part;
        part.kind = kind;
        part.radius = 0.7;
        part.tube = 0.2;
        part.position = {0.6 * static_cast<double>(all.size()) - 0.9, 0.2, -0.1};
        together.parts.push_back(part);
        all.push_back({kind, {part}, 0.3});
    }
    all.push_back(together);
    return all;
}

// Lanes beyond the rays hold no numbers.
void spoil(field_lanes::bundle& rays) {
    constexpr double none = std::numeric_limits<double>::quiet_NaN();
    rays.along.x.fill(none);
    rays.along.y.fill(none);
    rays.along.z.fill(none);
    rays.nearest.fill(none);
    rays.met.fill(none);
}

vec3<double> along(const field_lanes::bundle& rays, std::size_t l) {
    return {rays.along.x[l], rays.along.y[l], rays.along.z[l]};
}

// Rays from one place, from outside or from within, roughly at the middle or wherever; a few along an axis.
field_lanes::bundle any_rays(std::size_t count, std::mt19937_64& random) {
    std::uniform_real_distribution<double> unit(-1, 1);
    const auto any = [&] { return vec3<double>{unit(random), unit(random), unit(random)}; };
    field_lanes::bundle rays;
    spoil(rays);
    rays.count = count;
    rays.from = any() * (unit(random) < -0.6 ? 0.8 : 4.0);
    rays.farthest = 12;
    for (std::size_t l = 0; l < count; ++l) {
        const int way = static_cast<int>(random() % 8);
        vec3<double> to = way == 0 ? any() : any() * 0.3 - rays.from * 0.25;
        to = way == 1 ? vec3<double>{to.x, 0, 0} : way == 2 ? vec3<double>{0, to.y, to.z} : to;
        rays.along.x[l] = to.x;
        rays.along.y[l] = to.y;
        rays.along.z[l] = to.z;
        rays.nearest[l] = way == 3 ? 3.0 : 0.05;
    }
    return rays;
}

// With the loops of every instruction set that runs here.
template <class Use> void in_every_set(const Use& use) {
    for (const instruction_set set :
         {instruction_set::baseline, instruction_set::avx2, instruction_set::avx512}) {
        if (pipeline::runs(set)) {
            CAPTURE(pipeline::instruction_set_names.at(static_cast<std::size_t>(set)));
            use(pipeline::wide::kernels_for(set).fields);
        }
    }
}

} // namespace

TEST_CASE("rays in a bundle meet what each meets alone, to the last digit, in every instruction set") {
    in_every_set([](const pipeline::wide::field_kernels& kernels) {
        std::mt19937_64 random(23);
        int met = 0;
        int missed = 0;
        for (const field& shape : floats()) {
            for (const std::size_t count : {1U, 2U, 7U, 8U, 9U, 31U, 63U, 64U}) {
                for (int again = 0; again < 8; ++again) {
                    field_lanes::bundle rays = any_rays(count, random);
                    kernels.march(field_lanes::surface(shape), bounds_of(shape), rays);
                    for (std::size_t l = 0; l < count; ++l) {
                        const std::optional<double> alone =
                            march(shape, rays.from, along(rays, l), rays.nearest[l], rays.farthest);
                        CHECK(rays.met[l] == alone.value_or(field_lanes::unmet));
                        (alone ? met : missed) += 1;
                    }
                }
            }
        }
        CHECK(met > 2000);
        CHECK(missed > 1000);
    });
    MESSAGE("seed 23");
}

TEST_CASE("a ray in a bundle meets the surface where small steps along it first find another sign") {
    const auto& kernels = pipeline::wide::kernels_for(pipeline::chosen_instruction_set()).fields;
    std::mt19937_64 random(29);
    MESSAGE("seed 29");
    int met = 0;
    for (const field& shape : floats()) {
        for (int again = 0; again < 5; ++again) {
            field_lanes::bundle rays = any_rays(64, random);
            kernels.march(field_lanes::surface(shape), bounds_of(shape), rays);
            for (std::size_t l = 0; l < rays.count; ++l) {
                const vec3<double> to = along(rays, l);
                const auto distance = [&](double t) { return evaluate(shape, rays.from + to * t).distance; };
                // A ray that leaves the surface again within a step, by less than it bends in one, grazes it.
                constexpr double step = 1e-3; // metres
                const double each = step / length(to);
                double before = rays.nearest[l];
                bool grazes = false;
                std::optional<double> first;
                for (double t = before; t < rays.farthest && !first; t += each) {
                    grazes = grazes || std::abs(distance(t)) < step * step;
                    if ((distance(t) < 0) != (distance(before) < 0)) {
                        double low = before;
                        double high = t;
                        for (int halved = 0; halved < 60; ++halved) {
                            const double middle = (low + high) / 2;
                            ((distance(middle) < 0) == (distance(low) < 0) ? low : high) = middle;
                        }
                        first = (low + high) / 2;
                    }
                    before = t;
                }
                if (first) {
                    // Both are on the surface to within rounding, 1e-14 of some metres through some ten
                    // operations, which the slope along the ray divides: a thousandth at the least, as what
                    // grazes is left out.
                    CHECK((grazes || std::abs(rays.met[l] - *first) * length(to) <= 1e-11));
                    met += grazes ? 0 : 1;
                } else {
                    CHECK((grazes || rays.met[l] == field_lanes::unmet));
                }
            }
        }
    }
    CHECK(met > 300);
}

TEST_CASE("places near a surface are moved onto it, and what lies there is what it is at one place") {
    in_every_set([](const pipeline::wide::field_kernels& kernels) {
        std::mt19937_64 random(31);
        int moved = 0;
        for (const field& shape : floats()) {
            field_lanes::bundle rays = any_rays(53, random);
            kernels.march(field_lanes::surface(shape), bounds_of(shape), rays);
            field_lanes::bundle near = rays;
            for (std::size_t l = 0; l < near.count; ++l) {
                near.met[l] = rays.met[l] < field_lanes::unmet
                                  ? static_cast<double>(1.0F / static_cast<float>(1 / rays.met[l]))
                                  : 1;
            }
            field_lanes::values there;
            kernels.polish(field_lanes::surface(shape), near, there);
            for (std::size_t l = 0; l < near.count; ++l) {
                if (!(rays.met[l] < field_lanes::unmet)) {
                    continue;
                }
                const vec3<double> to = along(near, l);
                CHECK(near.met[l] == polish(shape, near.from, to,
                                            static_cast<double>(1.0F / static_cast<float>(1 / rays.met[l]))));
                const field_value here = evaluate(shape, near.from + to * near.met[l]);
                CHECK(there.distance[l] == here.distance);
                CHECK(there.gradient.x[l] == here.gradient.x);
                CHECK(there.gradient.y[l] == here.gradient.y);
                CHECK(there.gradient.z[l] == here.gradient.z);
                // Where the ray does not graze, four steps of Newton's method leave rounding only, as above.
                if (std::abs(dot(here.gradient, to)) > 0.1 * length(to)) {
                    CHECK(std::abs(here.distance) <= 1e-14);
                    ++moved;
                }
            }
        }
        CHECK(moved > 80);
    });
    MESSAGE("seed 31");
}
