// Whatever is chosen for speed, the picture is the same.
#include <doctest/doctest.h>

#include <cmath>
#include <cstdlib>
#include <random>

#include "drawn_as.hpp"
#include "own_models.hpp"
#include "pipeline/visibility.hpp"
#include "support/random_scene.hpp"
#include "support/roundoff.hpp"
#include "support/sampling.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"

using namespace yurvo;
using testing::drawn_as;
using testing::u;

TEST_CASE("the same picture, bit for bit, for every number of threads and size of tiles, and whatever is "
          "left out") {
    const std::uint64_t seeds = testing::random_scene_count(40);
    for (std::uint64_t seed = 1; seed <= seeds; ++seed) {
        CAPTURE(seed);
        testing::random_scenes random(seed, true);
        const scene made = random.next(150, 97);
        const picture expected = drawn_as(made, {16, false}, 1);
        REQUIRE(drawn_as(made, {64, true}, 1) == expected);
        REQUIRE(drawn_as(made, {64, true}, 2) == expected);
        REQUIRE(drawn_as(made, {32, true}, 7) == expected);
        REQUIRE(drawn_as(made, {256, true}, 7) == expected);
        REQUIRE(drawn_as(made, {128, false}, 2) == expected);
    }
    MESSAGE("seeds 1 to " << seeds);
}

TEST_CASE("a picture larger than the caches holds at each pixel the paint of what is seen there") {
    // 701 pixels across: rows begin anywhere in a cache line. 4.5 MB, where pixels go past the caches.
    scene made;
    made.view.eye = {0, 0, 9};
    made.view.width = 701;
    made.view.height = 401;
    made.view.background = {0.125, 0.25, 0.5};
    made.view.background_alpha = 0.75;
    made.shading.model = model_kind::unlit;
    std::mt19937_64 engine(3);
    MESSAGE("seed 3");
    std::uniform_real_distribution<double> anywhere(-1, 1);
    for (std::size_t i = 0; i < 300; ++i) {
        const auto number = static_cast<double>(i);
        named_material paint;
        paint.name = "paint " + std::to_string(i);
        paint.look.base = {number / 512, 1 - number / 512, 0.5};
        paint.look.alpha = number / 512;
        made.materials.push_back(paint);
        object& crate = made.objects.emplace_back();
        crate.material = i;
        // From a fraction of a pixel to a fifth of the picture.
        const double size = std::exp2(3.5 * anywhere(engine) - 3.5);
        crate.shape = box_shape{{size, size, size}};
        crate.placed.position = {6 * anywhere(engine), 3.5 * anywhere(engine), 2 * anywhere(engine)};
        crate.placed.rotation = {anywhere(engine), anywhere(engine), anywhere(engine)};
    }
    const pipeline::stage staged = pipeline::make_stage(made);
    const pipeline::visibility seen = pipeline::find_visible(staged);
    for (const int tile : {0, 16, 64, 128, 256}) {
        CAPTURE(tile);
        const picture drawn = drawn_as(made, {tile, true}, 2);
        std::size_t covered = 0;
        std::size_t wrong = 0;
        for (int y = 0; y < drawn.height; ++y) {
            for (int x = 0; x < drawn.width; ++x) {
                const std::uint32_t triangle = seen.triangles[seen.index(x, y)];
                rgb<double> color = made.view.background;
                double alpha = made.view.background_alpha;
                if (triangle != pipeline::visibility::nothing) {
                    ++covered;
                    const material& look = made.materials[pipeline::place_of(staged, triangle).object].look;
                    color = look.base;
                    alpha = look.alpha;
                }
                // All of these numbers are floats too.
                const bool same =
                    drawn.color(x, y) == rgb<float>(color) && drawn.alpha(x, y) == static_cast<float>(alpha);
                wrong += same ? 0 : 1;
            }
        }
        CHECK(wrong == 0);
        CHECK(covered > 50000); // of 281,101
    }
}

TEST_CASE("a frame used again, for other scenes, sizes and rates, draws what a new one does") {
    pipeline::frame again;
    for (std::uint64_t seed = 100; seed < 140; ++seed) {
        CAPTURE(seed);
        testing::random_scenes random(seed, true);
        const scene made =
            random.next(40 + static_cast<int>(seed % 3) * 30, 30 + static_cast<int>(seed % 5) * 9);
        const pipeline::stage staged = pipeline::make_stage(made);
        const pipeline::owned_shader own = pipeline::built_in_shader(made);
        again.draw(staged, own.shade);
        draw_statistics done;
        const unlit flat;
        REQUIRE(again.draw(staged, pipeline::make_shader<formula, float>(flat)).width == made.view.width);
        REQUIRE(again.draw(staged, own.shade) == draw(made, {}, &done));
        REQUIRE(again.statistics().pixels == done.pixels);
        REQUIRE(again.statistics().evaluations == done.evaluations);
    }
}

TEST_CASE("of many lanterns with a range, each pixel has the sum of those within reach") {
    // 400 lanterns over a quay; at each pixel only those within 1.5 m of it can add anything.
    scene made;
    made.view.eye = {0, 12, 14};
    made.view.width = 120;
    made.view.height = 80;
    made.ambient_strength = 0;
    made.materials.push_back({.name = "planks"});
    object quay;
    quay.shape = plane_shape{{20, 20}, {1, 1}};
    made.objects.push_back(quay);
    for (int i = 0; i < 400; ++i) {
        named_light lantern;
        lantern.light.position = {-9.5 + i % 20, 0.5, -9.5 + i / 20}; // NOLINT: whole metres
        lantern.light.falloff = falloff_kind::windowed;
        lantern.light.range = 1.5;
        made.lights.push_back(lantern);
    }
    const picture all = draw(made);
    // The sum over the lanterns that are near, in double, by the equation.
    const camera seen = make_camera(made.view);
    for (const auto& [x, y] : {std::pair{60, 40}, {30, 60}, {100, 55}}) {
        const vec3<double> ray = seen.ray(x + 0.5, y + 0.5);
        const vec3<double> p = made.view.eye + ray * (-made.view.eye.y / ray.y);
        double sum = 0;
        for (const named_light& one : made.lights) {
            const vec3<double> whole = one.light.position - p;
            const double d = length(whole);
            sum += d < 1.5 ? whole.y / d * (1 - std::pow(d / 1.5, 4)) / (d * d) : 0;
        }
        // The nearer half metre of 18 from the eye: positions are rounded by u · 18 m, which changes 1 / d²
        // by at most 2 · 18 u / 0.5; at most a dozen lanterns are near.
        CHECK(std::abs(all.color(x, y).r - sum) <= 12 * 80 * u * sum);
    }
}

TEST_CASE("a model compiled for every instruction set draws what it draws compiled once") {
    const bool wide = pipeline::chosen_instruction_set() != pipeline::instruction_set::baseline;
    const bool known = pipeline::registered_kernel(typeid(rope_sheen)) != nullptr;
    const bool known_again = pipeline::registered_kernel(typeid(rope_sheen_again)) != nullptr;
    CHECK(known == wide);
    CHECK_FALSE(known_again);
    testing::random_scenes random(3, false);
    scene made = random.next(90, 60);
    made.shading.ambient_rule = ambient_rule::add;
    const picture a = draw(made, rope_sheen{0.4F});
    const picture b = draw(made, rope_sheen_again{0.4F});
    const picture c = draw(made, rope_sheen_by_point{0.4F});
    CHECK(a != picture(90, 60));
    for (std::size_t i = 0; i < a.values.size(); ++i) {
        // A score of operations a light, each rounded in one of two ways.
        const double allowed = 64 * u * (1 + std::abs(a.values[i]));
        REQUIRE(std::abs(a.values[i] - b.values[i]) <= allowed);
        REQUIRE(std::abs(a.values[i] - c.values[i]) <= allowed);
    }
}

TEST_CASE("which instruction sets run is said, and the baseline always does") {
    CHECK(pipeline::runs(pipeline::instruction_set::baseline));
    CHECK(pipeline::runs(pipeline::chosen_instruction_set()));
    if (std::getenv("YURVO_ISA") == nullptr && pipeline::runs(pipeline::instruction_set::avx512)) {
        CHECK(pipeline::chosen_instruction_set() == pipeline::instruction_set::avx512);
    }
}
