// Squares that show one object are shaded cell by cell, others run by run: no pixel shows which it was.
#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <memory>
#include <random>

#include "pipeline/frame.hpp"
#include "pipeline/stage.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"

using namespace yurvo;

namespace {

constexpr int square = 16; // as the pipeline has them

// A harbour with nothing but one thing in it, close by.
scene one_thing(const any_shape& of, const vec3<double>& eye, const vec3<double>& target) {
    scene made;
    made.view.eye = eye;
    made.view.target = target;
    made.view.width = 178; // no whole number of cells
    made.view.height = 115;
    made.view.near = 0.01;
    made.view.background = {0.01, 0.01, 0.02};
    named_material paint;
    paint.look.base = {0.7, 0.3, 0.2};
    paint.look.specular = {0.3, 0.3, 0.3};
    paint.look.shininess = 20;
    paint.look.two_sided = true;
    paint.look.alpha = 0.5;
    made.materials.push_back(paint);
    object one;
    one.shape = of;
    made.objects.push_back(one);
    named_light moon;
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-0.4, -1, -0.6};
    made.lights.push_back(moon);
    named_light lantern;
    lantern.light.position = eye + vec3<double>{0.3, 0.5, 0.1};
    lantern.light.falloff = falloff_kind::inverse_square;
    made.lights.push_back(lantern);
    return made;
}

// A plank of two triangles, and ropes on it so thin that snapping alone brings pixels' centres into them.
any_shape plank_with_ropes(std::mt19937_64& engine) {
    auto made = std::make_shared<mesh>();
    const auto put = [&](const vec3<double>& a, const vec3<double>& b, const vec3<double>& c) {
        const auto first = static_cast<std::uint32_t>(made->positions.size());
        for (const vec3<double>& at : {a, b, c}) {
            made->positions.push_back(at);
            made->normals.push_back(normalize(vec3<double>{at.x * 0.1, at.y * 0.2, 1}));
            made->texcoords.push_back({0.7 * at.x, -1.3 * at.y});
            made->colors.emplace_back(0.5 + 0.1 * at.x, 0.6 - 0.1 * at.y, 0.4);
        }
        made->triangles.push_back({first, first + 1, first + 2});
    };
    put({-3, -3, 0}, {3, -3, 0}, {3, 3, 0});
    put({-3, -3, 0}, {3, 3, 0}, {-3, 3, 0});
    std::uniform_real_distribution<double> any(-1, 1);
    for (int i = 0; i < 400; ++i) {
        const vec3<double> at{any(engine), any(engine), 0.001};
        const vec3<double> end = at + vec3<double>{any(engine), any(engine), 0};
        put(at, end, end + vec3<double>{any(engine) * 1e-4, any(engine) * 1e-4, 0});
    }
    return mesh_shape{"", made, {}};
}

// The same with small buoys adrift before it, one in most squares.
scene with_buoys_before(const scene& of, std::mt19937_64& engine) {
    scene made = of;
    const camera seen_from = make_camera(made.view);
    const double pixel = length(seen_from.ray(1, 0) - seen_from.ray(0, 0)); // at depth 1
    std::uniform_real_distribution<double> place(0.2, square - 0.2);
    for (int y = 0; y < made.view.height; y += square) {
        for (int x = 0; x < made.view.width; x += square) {
            object buoy;
            constexpr double near = 0.02;
            buoy.shape = sphere_shape{near * pixel * 1.4, {6, 4}};
            buoy.placed.position = seen_from.eye + seen_from.ray(x + place(engine), y + place(engine)) * near;
            made.objects.push_back(buoy);
        }
    }
    return made;
}

picture drawn(pipeline::frame& frame, const pipeline::stage& staged) {
    const blinn_phong<> model;
    return frame.draw(staged, pipeline::make_shader<formula, float>(model));
}

// Boards of so many texels, no two alike.
std::shared_ptr<const texture> boards(int width, int height) {
    auto made = std::make_shared<texture>();
    made->width = width;
    made->height = height;
    made->texels.clear();
    for (int i = 0; i < width * height; ++i) {
        made->texels.emplace_back(0.3F + 0.001F * static_cast<float>(i % 600), 0.2F,
                                  0.9F - 0.002F * static_cast<float>(i % 300));
    }
    return made;
}

struct counts {
    std::size_t compared = 0;    // pixels of the thing, with buoys before it
    std::size_t alone = 0;       // squares that show nothing but the thing, without the buoys ...
    std::size_t alone_still = 0; // ... and with them
};

counts compare(const scene& thing, const scene& crowded) {
    const pipeline::stage staged = pipeline::make_stage(thing);
    const pipeline::stage crowded_stage = pipeline::make_stage(crowded);
    const auto triangles = static_cast<std::uint32_t>(staged.objects[0].shape->triangles.size());
    pipeline::frame frame;
    pipeline::frame crowded_frame;
    const picture made = drawn(frame, staged);
    const picture crowded_made = drawn(crowded_frame, crowded_stage);
    const pipeline::visibility seen = frame.see(staged);
    const pipeline::visibility crowded_seen = crowded_frame.see(crowded_stage);
    counts found;
    const auto shows_thing = [&](const pipeline::visibility& of, int x, int y) {
        return of.triangles[of.index(x, y)] < triangles;
    };
    for (int y = 0; y < made.height; ++y) {
        for (int x = 0; x < made.width; ++x) {
            if (!shows_thing(crowded_seen, x, y)) {
                continue;
            }
            ++found.compared;
            CAPTURE(x);
            CAPTURE(y);
            REQUIRE(seen.triangles[seen.index(x, y)] == crowded_seen.triangles[seen.index(x, y)]);
            for (std::size_t k = 0; k < 4; ++k) {
                const std::size_t at = 4 * seen.index(x, y) + k;
                REQUIRE(made.values[at] == crowded_made.values[at]);
            }
        }
    }
    for (int top = 0; top + square <= made.height; top += square) {
        for (int left = 0; left + square <= made.width; left += square) {
            bool alone = true;
            bool still = true;
            for (int i = 0; i < square * square; ++i) {
                alone = alone && shows_thing(seen, left + i % square, top + i / square);
                still = still && shows_thing(crowded_seen, left + i % square, top + i / square);
            }
            found.alone += alone ? 1U : 0U;
            found.alone_still += still ? 1U : 0U;
        }
    }
    return found;
}

} // namespace

TEST_CASE("a pixel has the same digits, whether its square shows one object or others too") {
    std::mt19937_64 engine(53); // NOLINT: the same every time
    MESSAGE("seed 53");
    // Triangles from larger than the picture to less than a pixel; some that only doubles hold, where the eye
    // is a hand's breadth above a deck, one triangle of which passes behind it.
    const std::vector<std::pair<any_shape, vec3<double>>> things{
        {sphere_shape{1.0, {8, 6}}, {0.4, 0.5, 1.5}},
        {sphere_shape{1.0, {40, 30}}, {0.2, 0.7, 1.4}},
        {sphere_shape{1.0, {150, 100}}, {0.6, 0.2, 1.4}},
        {sphere_shape{1.0, {300, 200}}, {0.3, 0.9, 1.2}},
        {sphere_shape{1.0, {700, 500}}, {0.2, 0.3, 1.5}},
        {sphere_shape{1.0, {60, 40}}, {0.1, 0.2, 0.3}},
        {plane_shape{{9, 9}, {90, 90}}, {0.1, 0.1, 1.0}},
        {plane_shape{{4000, 4000}, {2, 2}}, {0.3, 0.1, 0.2}},
        {torus_shape{0.8, 0.5, {120, 60}}, {0.2, 0.9, 1.2}},
        {plank_with_ropes(engine), {0.2, 0.1, 1.4}}};
    // Of one texel, of one column, of one row, of a few, and as large as they are.
    const std::vector<std::shared_ptr<const texture>> textures{nullptr,      boards(1, 1), boards(1, 7),
                                                               boards(9, 1), boards(3, 5), boards(700, 300)};
    counts all;
    for (std::size_t i = 0; i < 3 * things.size(); ++i) {
        const std::size_t variant = i % things.size();
        CAPTURE(variant);
        scene thing = one_thing(things[variant].first, things[variant].second, {0, -0.1, 0});
        thing.shading.rate = std::array{rate::fragment, rate::vertex, rate::face}.at(i / things.size());
        CAPTURE(name_of(thing.shading.rate));
        // The planks are textured at least once at each rate.
        const std::size_t which = variant == 9 ? 3 + i / things.size() : (i + i / things.size()) % 6;
        CAPTURE(which);
        if (textures[which]) {
            thing.materials[0].texture_file = "boards.png";
            thing.materials[0].image = textures[which];
        }
        for (const double turn : {0.0, 0.7}) {
            // Near enough, too, for squares in which so little changes that floats hold it.
            thing.view.fov = radians(turn > 0 ? 4 : 60);
            thing.objects[0].placed.rotation = {0, turn, 0.02 * turn};
            thing.objects[0].placed.scale = {turn > 0 ? -1.0 : 1.0, 1.0, 1.0};
            const counts found = compare(thing, with_buoys_before(thing, engine));
            CHECK(found.compared > 4000);
            all.alone += found.alone;
            all.alone_still += found.alone_still;
        }
    }
    CHECK(all.alone > 1500); // or nothing went cell by cell
    CHECK(all.alone_still < all.alone / 4);
}

TEST_CASE("pixels are counted and evaluated once each, whatever their squares show") {
    std::mt19937_64 engine(59); // NOLINT: the same every time
    MESSAGE("seed 59");
    const scene thing = one_thing(sphere_shape{1.0, {40, 30}}, {0.2, 0.7, 1.9}, {0.5, 0, 0});
    for (const scene& made : {thing, with_buoys_before(thing, engine)}) {
        const pipeline::stage staged = pipeline::make_stage(made);
        pipeline::frame frame;
        static_cast<void>(drawn(frame, staged));
        std::uint64_t shown = 0;
        for (const std::uint32_t triangle : frame.see(staged).triangles) {
            shown += triangle != pipeline::visibility::nothing ? 1U : 0U;
        }
        CHECK(shown < 178 * 115);
        CHECK(frame.statistics().pixels == shown);
        CHECK(frame.statistics().evaluations == shown);
    }
}
