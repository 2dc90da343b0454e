// What is seen, and what it looks like, where triangles are of every size: from a fraction of a pixel to more
// than the picture, from the front and from behind.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <random>

#include "pipeline/frame.hpp"
#include "pipeline/stage.hpp"
#include "pipeline/visibility.hpp"
#include "support/roundoff.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"

using namespace yurvo;
using testing::u;

namespace {

// A corner in steps of 1/256 pixel, and how deep it lies.
struct corner {
    std::int64_t x = 0, y = 0;
    double depth = 1;
};
using three_corners = std::array<corner, 3>;

// Planks adrift: of all sizes, some as thin as a rope, turned either way.
std::vector<three_corners> planks_adrift(std::size_t count, const view& in, std::mt19937_64& engine) {
    std::uniform_real_distribution<double> anywhere(0, 1);
    const std::array<double, 8> sizes{0.7, 2, 4, 12, 60, 500, 3000, 20000}; // pixels
    std::vector<three_corners> made;
    for (std::size_t i = 0; i < count; ++i) {
        const double size = 256 * sizes[i % sizes.size()];
        const double thinness = i % 7 == 0 ? 0.02 : 1;
        const double left = anywhere(engine) * 256 * in.width;
        const double top = anywhere(engine) * 256 * in.height;
        three_corners& one = made.emplace_back();
        for (corner& at : one) {
            at.x = static_cast<std::int64_t>(left + (anywhere(engine) - 0.5) * size);
            at.y = static_cast<std::int64_t>(top + (anywhere(engine) - 0.5) * size * thinness);
            if (i % 5 == 0) { // in the middle of a pixel: edges run exactly through centres
                at.x = at.x / 256 * 256 + 128;
                at.y = at.y / 256 * 256 + 128;
            }
            // Small ones nearer, mostly, or none would be seen.
            at.depth =
                1 + static_cast<double>(std::min<std::size_t>(i % sizes.size(), 4)) + 3 * anywhere(engine);
        }
    }
    return made;
}

// In the world, where each is seen at its steps; mirrored ones in the space of an object that is turned over.
std::shared_ptr<const mesh> as_mesh(const std::vector<three_corners>& of, const camera& seen_from,
                                    double side) {
    auto made = std::make_shared<mesh>();
    for (const three_corners& one : of) {
        const auto first = static_cast<std::uint32_t>(made->positions.size());
        for (const corner& at : one) {
            const vec3<double> place =
                seen_from.eye +
                seen_from.ray(static_cast<double>(at.x) / 256, static_cast<double>(at.y) / 256) * at.depth;
            made->positions.push_back({side * place.x, place.y, place.z});
            made->normals.push_back({0, 0, 1});
        }
        made->triangles.push_back({first, first + 1, first + 2});
    }
    return made;
}

std::int64_t side_of(const corner& from, const corner& to, std::int64_t x, std::int64_t y) {
    return (to.x - from.x) * (y - from.y) - (to.y - from.y) * (x - from.x);
}

} // namespace

TEST_CASE(
    "of triangles of every size, from both sides, each pixel shows the nearest that covers its centre") {
    scene made;
    made.view.eye = {1, 2, 3};
    made.view.target = {1.5, 1.8, -1};
    made.view.width = 301; // no whole number of tiles
    made.view.height = 197;
    made.view.background = {0, 0, 0};
    made.materials.push_back({"paint", {}, "", nullptr});
    const camera seen_from = make_camera(made.view);
    std::mt19937_64 engine(11);
    MESSAGE("seed 11");
    const std::vector<three_corners> planks = planks_adrift(4000, made.view, engine);
    constexpr std::size_t of_first = 2500; // the others belong to an object that is turned over
    const auto put = [&](std::size_t begin, std::size_t end, double side) {
        object one;
        one.shape = mesh_shape{"",
                               as_mesh({planks.begin() + static_cast<std::ptrdiff_t>(begin),
                                        planks.begin() + static_cast<std::ptrdiff_t>(end)},
                                       seen_from, side),
                               {}};
        one.placed.scale = {side, 1, 1};
        made.objects.push_back(one);
    };
    put(0, of_first, 1);
    put(of_first, planks.size(), -1);

    // Of each pixel the nearest and the next to it, by lines and planes worked out here.
    struct best {
        double nearest = 0, next = 0;
        std::uint32_t triangle = pipeline::visibility::nothing;
    };
    const auto place = [&](int x, int y) {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(made.view.width) +
               static_cast<std::size_t>(x);
    };
    std::vector<best> expected(static_cast<std::size_t>(made.view.width) *
                               static_cast<std::size_t>(made.view.height));
    for (std::size_t t = 0; t < planks.size(); ++t) {
        three_corners one = planks[t];
        const std::int64_t area = side_of(one[0], one[1], one[2].x, one[2].y);
        if (area == 0) {
            continue;
        }
        if (area < 0) {
            std::swap(one[1], one[2]);
        }
        for (int y = 0; y < made.view.height; ++y) {
            for (int x = 0; x < made.view.width; ++x) {
                std::array<std::int64_t, 3> sides{};
                bool covered = true;
                for (std::size_t k = 0; k < 3; ++k) {
                    const corner& from = one[k];
                    const corner& to = one[(k + 1) % 3];
                    sides[k] = side_of(from, to, x * 256 + 128, y * 256 + 128);
                    // Clockwise with y down, a left edge runs up and a top one to the right.
                    const bool top_left = to.y < from.y || (to.y == from.y && to.x > from.x);
                    covered = covered && (sides[k] > 0 || (sides[k] == 0 && top_left));
                }
                if (!covered) {
                    continue;
                }
                best& here = expected[place(x, y)];
                double inverse_depth = 0; // side k lies opposite the corner before it
                for (std::size_t k = 0; k < 3; ++k) {
                    inverse_depth += static_cast<double>(sides[k]) / one[(k + 2) % 3].depth;
                }
                inverse_depth /= static_cast<double>(std::abs(area));
                if (inverse_depth > here.nearest) {
                    here.next = here.nearest;
                    here.nearest = inverse_depth;
                    here.triangle = static_cast<std::uint32_t>(t);
                } else {
                    here.next = std::max(here.next, inverse_depth);
                }
            }
        }
    }

    const pipeline::visibility found = pipeline::find_visible(pipeline::make_stage(made));
    std::size_t compared = 0;
    std::array<std::size_t, 8> of_size{};
    for (int y = 0; y < made.view.height; ++y) {
        for (int x = 0; x < made.view.width; ++x) {
            const best& here = expected[place(x, y)];
            // Nearness is kept in floats: two that differ by less are as good as equal.
            if (here.nearest > 0 && here.nearest - here.next < 4 * u * here.nearest) {
                continue;
            }
            ++compared;
            CAPTURE(x);
            CAPTURE(y);
            REQUIRE(found.triangles[found.index(x, y)] == here.triangle);
            if (here.triangle != pipeline::visibility::nothing) {
                ++of_size[here.triangle % of_size.size()];
                // Planes are carried on from unsnapped corners, which here are the snapped ones to 1e-12.
                REQUIRE(std::abs(found.inverse_depth[found.index(x, y)] - here.nearest) <=
                        2 * u * here.nearest);
            }
        }
    }
    CHECK(compared > 58000); // of 59,297
    for (const std::size_t count : of_size) {
        CHECK(count > 10); // every size is among what is seen
    }
}

TEST_CASE("a buoy of more triangles than pixels is lit as the sphere it is") {
    scene made;
    made.view.eye = {0, 0, 4};
    made.view.width = 150;
    made.view.height = 100;
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    made.materials.push_back({"paint", {}, "", nullptr});
    object buoy;
    constexpr std::uint32_t around = 600;
    buoy.shape = sphere_shape{1.4, {around, around / 2}};
    made.objects.push_back(buoy);
    named_light moon;
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-0.3, -0.4, -1};
    made.lights.push_back(moon);

    const camera seen_from = make_camera(made.view);
    const pipeline::stage staged = pipeline::make_stage(made);
    const lambert<> model;
    const auto shader = pipeline::make_shader<formula, float>(model);
    pipeline::frame frame;
    const picture drawn = frame.draw(staged, shader);
    const vec3<double> to_light = normalize(moon.light.shines) * -1.0;
    // The interpolated normal points from the middle to the place on the facet. That lies below the sphere by
    // a facet's sagitta in either direction at most, which moves it along the ray by that over cos, aside by
    // tan.
    // A right picture is to use half of the tolerance; rounding adds 10 operations on numbers up to 1.
    const double half = pi / around;
    const double sagitta = 2 * (1 - std::cos(half));
    std::size_t compared = 0;
    for (int y = 0; y < made.view.height; ++y) {
        for (int x = 0; x < made.view.width; ++x) {
            const vec3<double> ray = normalize(seen_from.ray(x + 0.5, y + 0.5));
            const double along = -dot(made.view.eye, ray);
            const double squared = along * along - dot(made.view.eye, made.view.eye) + 1.4 * 1.4;
            if (squared <= 0) {
                continue;
            }
            const vec3<double> normal = normalize(made.view.eye + ray * (along - std::sqrt(squared)));
            const double facing = -dot(normal, ray);
            if (facing < 0.3) {
                continue; // the facets' outline is not the sphere's
            }
            ++compared;
            const double sine = std::sqrt(1 - facing * facing);
            REQUIRE(std::abs(drawn.color(x, y).g - std::max(dot(normal, to_light), 0.0)) <=
                    2 * sagitta * sine / facing + 20 * u);
        }
    }
    CHECK(compared > 4000);
    CHECK(frame.statistics().evaluations == frame.statistics().pixels);
    CHECK(frame.statistics().pixels >= compared);
}
