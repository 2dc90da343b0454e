// Whole pictures against closed forms.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <memory>

#include "support/roundoff.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;
using testing::u;

namespace {

// One white material, unlit unless a test says more.
scene bare(const any_shape& shape) {
    scene made;
    made.view.width = 64;
    made.view.height = 40;
    made.shading.model = model_kind::unlit;
    made.materials.push_back({"paint", {}, "", nullptr});
    object one;
    one.shape = shape;
    made.objects.push_back(one);
    return made;
}

std::size_t lit_pixels(const picture& of) {
    std::size_t count = 0;
    for (std::size_t i = 0; i < of.values.size(); i += 4) {
        count += of.values[i] > 0 ? 1U : 0U;
    }
    return count;
}

// Where the ray through a pixel's centre meets y = 0.
vec3<double> on_level(const scene& of, int x, int y) {
    const camera seen = make_camera(of.view);
    const vec3<double> ray = seen.ray(x + 0.5, y + 0.5);
    return of.view.eye + ray * (-of.view.eye.y / ray.y);
}

} // namespace

TEST_CASE("a lamp over a level plane: base · cosine / d², at every pixel") {
    scene made = bare(plane_shape{{6, 6}, {1, 1}});
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    named_light lamp;
    lamp.light.position = {0.5, 1.25, -0.5};
    made.lights.push_back(lamp);
    const picture drawn = draw(made);
    std::size_t seen = 0;
    for (int y = 0; y < 40; ++y) {
        for (int x = 0; x < 64; ++x) {
            const vec3<double> p = on_level(made, x, y);
            if (std::abs(p.x) > 2.99 || std::abs(p.z) > 2.99 || p.z > made.view.eye.z) {
                continue;
            }
            ++seen;
            const double d = length(lamp.light.position - p);
            // The rounding of both places, 3 powers of d; 20 operations.
            const double tolerance = u * (20 + 3 * (2 * 8 + d) / d);
            REQUIRE(std::abs(drawn.color(x, y).g / (1.25 / (d * d * d)) - 1) <= tolerance);
        }
    }
    CHECK(seen > 500);
}

TEST_CASE("close above a plane of two kilometres that passes under the eye, only rounding is lost") {
    scene made = bare(plane_shape{{2000, 2000}, {1, 1}});
    made.view.eye = {0, 0.5, 0};
    made.view.target = {0, 0.3, -1};
    made.view.near = 0.01;
    made.view.far = 100;
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    named_light lamp;
    lamp.light.position = {0.3, 0.5, -1};
    made.lights.push_back(lamp);
    const picture drawn = draw(made);
    std::size_t seen = 0;
    for (int y = 0; y < 40; ++y) {
        for (int x = 0; x < 64; ++x) {
            const vec3<double> p = on_level(made, x, y);
            if (p.z >= 0 || -dot(p - made.view.eye, make_camera(made.view).axes.backward) > 99.9) {
                continue;
            }
            ++seen;
            const double d = length(lamp.light.position - p);
            const double from_eye = length(p - made.view.eye) + 2;
            REQUIRE(std::abs(drawn.color(x, y).r / (0.5 / (d * d * d)) - 1) <=
                    u * (20 + 3 * (from_eye + d) / d));
        }
    }
    CHECK(seen > 1000);
}

TEST_CASE("near and far are inclusive and cut pixel by pixel") {
    scene made = bare(plane_shape{{8, 8}, {1, 1}});
    made.objects[0].placed.rotation.x = radians(90); // facing +Z
    made.view.eye = {0, 0, 5};
    made.view.near = 5; // the plane is exactly at near
    CHECK(lit_pixels(draw(made)) == 64 * 40);
    made.view.near = 1;
    made.view.far = 5; // and exactly at far
    CHECK(lit_pixels(draw(made)) == 64 * 40);
    made.view.far = 4.999;
    CHECK(lit_pixels(draw(made)) == 0);
    made.view.near = 5.001;
    made.view.far = 100;
    CHECK(lit_pixels(draw(made)) == 0);
    // A level plane cut at far 20: rows whose ray meets it within 20 are there, the others are not.
    made = bare(plane_shape{{500, 500}, {1, 1}});
    made.view.eye = {0, 2, 0};
    made.view.target = {0, 1.5, -5};
    made.view.far = 20;
    const picture drawn = draw(made);
    const camera seen = make_camera(made.view);
    for (int y = 0; y < 40; ++y) {
        const vec3<double> ray = seen.ray(32, y + 0.5);
        const double depth = ray.y < 0 ? -2 / ray.y : 1e9; // its component along the view is 1
        CHECK((drawn.color(32, y).r > 0) == (depth <= 20));
    }
}

TEST_CASE("of two surfaces in one place the first drawn is seen; a nearer one covers both") {
    scene made = bare(plane_shape{{4, 4}, {1, 1}});
    made.materials[0].look.base = {1, 0, 0};
    made.materials.push_back({"other", {{0, 1, 0}}, "", nullptr});
    made.objects.push_back(made.objects[0]);
    made.objects[1].material = 1;
    CHECK(draw(made).color(32, 20) == rgb<float>{1, 0, 0});
    std::swap(made.objects[0], made.objects[1]);
    CHECK(draw(made).color(32, 20) == rgb<float>{0, 1, 0});
    made.objects[1].placed.position.y = 1e-4;
    CHECK(draw(made).color(32, 20) == rgb<float>{1, 0, 0});
}

TEST_CASE("of two grids in one place the first drawn is seen, though it is the one that faces away") {
    // Faces that turn away are looked at after all others; with 30 cells a triangle is smaller than 4 pixels.
    for (const std::uint32_t cells : {1U, 30U}) {
        CAPTURE(cells);
        scene made = bare(plane_shape{{4, 4}, {cells, cells}});
        made.view.eye = {0, 6, 0};
        made.view.up = {0, 0, -1};
        made.materials[0].look.base = {1, 0, 0};
        made.materials.push_back({"other", {{0, 1, 0}}, "", nullptr});
        made.objects.push_back(made.objects[0]);
        made.objects[1].material = 1;
        // Turned over it is the same grid, to the last digit, and faces away.
        made.objects[0].placed.scale = {1, -1, -1};
        for (int turned = 0; turned < 2; ++turned) {
            const picture drawn = draw(made);
            const rgb<float> first = turned == 0 ? rgb<float>{1, 0, 0} : rgb<float>{0, 1, 0};
            std::size_t seen = 0;
            for (int y = 0; y < 40; ++y) {
                for (int x = 0; x < 64; ++x) {
                    if (drawn.color(x, y) == rgb<float>{0, 0, 0}) {
                        continue;
                    }
                    ++seen;
                    REQUIRE(drawn.color(x, y) == first);
                }
            }
            CHECK(seen > 800);
            std::swap(made.objects[0], made.objects[1]);
        }
    }
}

TEST_CASE(
    "depth tells surfaces a thousandth apart at far / near = 10 000, also where the nearer faces away") {
    scene made = bare(plane_shape{{4000, 4000}, {1, 1}});
    made.view.eye = {0, 0, 0};
    made.view.target = {0, 0, -1};
    made.view.near = 0.1;
    made.view.far = 1000;
    made.objects[0].placed = {{0, 0, -900.9}, {radians(90), 0, 0}, {1, 1, 1}};
    made.materials[0].look.base = {1, 0, 0};
    made.materials.push_back({"nearer", {{0, 1, 0}}, "", nullptr});
    made.objects.push_back(made.objects[0]);
    made.objects[1].material = 1;
    made.objects[1].placed.position.z = -900;
    for (const double turn : {90.0, -90.0}) {
        for (const std::uint32_t segments : {1U, 60U}) { // of 60 times 60 cells clusters are made
            CAPTURE(turn);
            CAPTURE(segments);
            made.objects[1].shape = plane_shape{{4000, 4000}, {segments, segments}};
            made.objects[1].placed.rotation.x = radians(turn);
            const picture drawn = draw(made);
            for (std::size_t i = 0; i < drawn.values.size(); i += 4) {
                REQUIRE(drawn.values[i + 1] == 1);
            }
        }
    }
}

TEST_CASE(
    "a surface from behind is unlit unless its material is two-sided; a mirror does not turn it inside out") {
    scene made = bare(plane_shape{{8, 8}, {1, 1}});
    made.view.eye = {0, -5, 0.1};
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    named_light moon;
    moon.light.kind = light_kind::directional;
    moon.light.shines = {0, 1, 0}; // from below, where the eye is
    made.lights.push_back(moon);
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        made.shading.rate = at;
        for (const double scale : {1.0, -1.0}) {
            made.objects[0].placed.scale = {scale, 1, 1};
            made.materials[0].look.two_sided = false;
            CHECK(draw(made).color(32, 20).r == 0);
            made.materials[0].look.two_sided = true;
            CHECK(std::abs(draw(made).color(32, 20).r - 1) <= 4 * u); // normalised and multiplied
            // And from the front it is not turned.
            scene above = made;
            above.view.eye = {0, 5, 0.1};
            CHECK(draw(above).color(32, 20).r == 0);
        }
    }
}

TEST_CASE("a texture is repeated however far away its coordinates are") {
    // One texel's colour in three columns; texel coordinates beyond what a float or 32 bits tell apart.
    auto boards = std::make_shared<texture>();
    boards->width = 3;
    boards->height = 2;
    boards->texels = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0.5F, 0, 0}, {0, 0.5F, 0}, {0, 0, 0.5F}};
    auto shape = std::make_shared<mesh>();
    shape->positions = {{-3, 0, -2}, {-3, 0, 2}, {3, 0, 2}, {3, 0, -2}};
    shape->normals.assign(4, {0, 1, 0});
    shape->triangles = {{0, 1, 2}, {0, 2, 3}};
    const auto drawn_from = [&](double across, double up) {
        auto moved = std::make_shared<mesh>(*shape);
        moved->texcoords = {{across, up + 1}, {across, up}, {across + 2, up}, {across + 2, up + 1}};
        scene made = bare(mesh_shape{"", moved, {}});
        made.materials[0].texture_file = "boards.png";
        made.materials[0].image = boards;
        return draw(made);
    };
    const picture near = drawn_from(0.25, 0.125);
    for (const auto& by :
         {std::array{-1.0, 2.0}, {-7.0, -5.0}, {300.0, -900.0}, {6e6, -9e6}, {-5e8, 3e8}, {7e10, -4e10}}) {
        CAPTURE(by[0]);
        const picture far = drawn_from(by[0] + 0.25, by[1] + 0.125);
        double most = 0;
        for (std::size_t i = 0; i < near.values.size(); ++i) {
            most = std::max(most, std::abs(1.0 * near.values[i] - far.values[i]));
        }
        // What a double leaves of the place between two texels, in texels, twice; and a float's rounding.
        CHECK(most <= 8 * std::max(std::abs(by[0]), std::abs(by[1])) * 3 * 0x1p-52 + 4 * 0x1p-24);
    }
}

TEST_CASE("base colour, texture and vertex colour multiply, each where present, at every rate") {
    auto shape = std::make_shared<mesh>();
    shape->positions = {{-9, 0, -9}, {-9, 0, 9}, {9, 0, 9}, {9, 0, -9}};
    shape->normals.assign(4, {0, 1, 0});
    shape->triangles = {{0, 1, 2}, {0, 2, 3}};
    auto board = std::make_shared<texture>();
    board->texels = {{0.5F, 1, 0.25F}};
    for (const rate at : {rate::fragment, rate::vertex, rate::face}) {
        for (const bool colored : {false, true}) {
            for (const bool textured : {false, true}) {
                auto painted = std::make_shared<mesh>(*shape);
                if (colored) {
                    painted->colors.assign(4, {0.25, 0.5, 1});
                }
                scene made = bare(mesh_shape{"", painted, {}});
                made.shading.rate = at;
                made.materials[0].look.base = {0.5, 0.75, 1};
                if (textured) {
                    made.materials[0].texture_file = "board.png";
                    made.materials[0].image = board;
                }
                const rgb<double> expected = rgb<double>{0.5, 0.75, 1} *
                                             (colored ? rgb<double>{0.25, 0.5, 1} : rgb<double>(1.0)) *
                                             (textured ? rgb<double>{0.5, 1, 0.25} : rgb<double>(1.0));
                const rgb<double> found(draw(made).color(32, 30));
                CAPTURE(colored);
                CAPTURE(textured);
                // Each of them is exact; interpolating the same number three times rounds it a few times.
                CHECK(std::abs(found.r - expected.r) <= 4 * u * expected.r);
                CHECK(std::abs(found.g - expected.g) <= 4 * u * expected.g);
                CHECK(std::abs(found.b - expected.b) <= 4 * u * expected.b);
            }
        }
    }
}

TEST_CASE("colours between vertices keep their digits where they are dark beside bright ones") {
    // One triangle of thirty pixels that faces the eye: each component is a plane over the picture, and
    // changes over a square by half of what it is anywhere.
    constexpr double size = 0.15;
    // Each component by itself, the others plain: that of one must not hide what becomes of another.
    for (const std::size_t dark : {0U, 1U, 2U}) {
        CAPTURE(dark);
        std::array<rgb<double>, 3> colors{rgb<double>(0.5), rgb<double>(0.5), rgb<double>(0.5)};
        const std::array<double, 3> values{0x1p-13, 1, 0.5};
        for (std::size_t k = 0; k < 3; ++k) {
            (dark == 0 ? colors[k].r : dark == 1 ? colors[k].g : colors[k].b) = values[k];
        }
        auto shape = std::make_shared<mesh>();
        shape->positions = {{-size, -size, 0}, {size, -size, 0}, {-size, size, 0}};
        shape->normals.assign(3, {0, 0, 1});
        shape->triangles = {{0, 1, 2}};
        shape->colors.assign(colors.begin(), colors.end());
        scene made = bare(mesh_shape{"", shape, {}});
        made.shading.rate = rate::vertex;
        made.view.eye = {0, 0, 3};
        made.view.target = {0, 0, 0};
        made.view.width = 320;
        made.view.height = 320;
        const picture drawn = draw(made);
        const camera seen = make_camera(made.view);
        std::size_t compared = 0;
        double most = 0;
        for (int y = 0; y < 320; ++y) {
            for (int x = 0; x < 320; ++x) {
                const vec3<double> along = seen.ray(x + 0.5, y + 0.5);
                const vec3<double> p = seen.eye + along * (-seen.eye.z / along.z);
                const double b = (p.x / size + 1) / 2;
                const double c = (p.y / size + 1) / 2;
                if (b < 0.01 || c < 0.01 || b + c > 0.99) {
                    continue;
                }
                ++compared;
                const rgb<double> expected = colors[0] * (1 - b - c) + colors[1] * b + colors[2] * c;
                const rgb<double> found(drawn.color(x, y));
                most = std::max({most, std::abs(found.r - expected.r) / expected.r,
                                 std::abs(found.g - expected.g) / expected.g,
                                 std::abs(found.b - expected.b) / expected.b});
            }
        }
        CHECK(compared > 200);
        CHECK(most <= 6 * u); // 4.6 (docs/numbers.md), and one rounding of the colour itself
    }
}

TEST_CASE("the rates run the model as often as they say") {
    scene made = bare(plane_shape{{6, 6}, {3, 2}});
    made.shading.model = model_kind::lambert;
    draw_statistics done;
    made.shading.rate = rate::face;
    draw(made, {}, &done);
    CHECK(done.evaluations == 12);
    made.shading.rate = rate::vertex;
    draw(made, {}, &done);
    CHECK(done.evaluations == 12);
    // Of vertices only those that are seen, in blocks of 64, and only from the side they are seen from.
    made.materials[0].look.two_sided = true;
    draw(made, {}, &done);
    CHECK(done.evaluations == 12);
    scene apart = made;
    apart.objects.push_back(made.objects[0]);
    apart.objects[1].placed.position = {0, -0.1, 0}; // hidden
    apart.objects[1].placed.scale = {0.5, 0.5, 0.5};
    draw(apart, {}, &done);
    CHECK(done.evaluations == 12);
    apart.objects[1].placed.position = {500, 0, 0}; // beside the picture
    draw(apart, {}, &done);
    CHECK(done.evaluations == 12);
    made.shading.rate = rate::fragment;
    const picture drawn = draw(made, {}, &done);
    CHECK(done.evaluations == done.pixels);
    CHECK(done.pixels == lit_pixels(drawn));
}

TEST_CASE("terms add up to the whole picture") {
    scene made = bare(sphere_shape{1.5, {24, 12}});
    made.shading.model = model_kind::blinn_phong;
    made.materials[0].look.specular = {0.5, 0.5, 0.5};
    made.materials[0].look.emission = {0.01, 0.02, 0.03};
    named_light lamp;
    lamp.light.position = {2, 3, 3};
    lamp.light.intensity = 8;
    made.lights.push_back(lamp);
    const picture whole = draw(made);
    const picture parts[] = {
        draw(made, {{true, false, false, false}}), draw(made, {{false, true, false, false}}),
        draw(made, {{false, false, true, false}}), draw(made, {{false, false, false, true}})};
    for (std::size_t i = 0; i < whole.values.size(); ++i) {
        if (i % 4 == 3) {
            continue;
        }
        double sum = 0;
        for (const picture& part : parts) {
            sum += part.values[i];
        }
        REQUIRE(std::abs(sum - whole.values[i]) <=
                4 * u * whole.values[i]); // three additions, in another order
    }
}

TEST_CASE("double follows float to rounding, and alpha is the material's") {
    scene made = bare(sphere_shape{1.5, {24, 12}});
    made.shading.model = model_kind::lambert;
    made.materials[0].look.alpha = 0.25;
    made.view.background_alpha = 0.5;
    named_light moon;
    moon.light.kind = light_kind::directional;
    made.lights.push_back(moon);
    const picture single = draw(made);
    const picture twice = draw_with<formula, double>(made);
    for (std::size_t i = 0; i < single.values.size(); ++i) {
        // Directions to 4 units, ambient and diffuse at most 1.05.
        REQUIRE(std::abs(single.values[i] - twice.values[i]) <= 12 * u);
    }
    CHECK(single.alpha(32, 20) == 0.25F);
    CHECK(single.alpha(0, 0) == 0.5F);
}

TEST_CASE("never NaN: a lamp on the surface, one beyond all measure, and a mesh with no pixels") {
    scene made = bare(plane_shape{{6, 6}, {1, 1}});
    made.shading.model = model_kind::blinn_phong;
    made.materials[0].look.specular = {1, 1, 1};
    made.materials[0].look.base = {0, 1, 1};
    named_light lamp;
    lamp.light.position = {0, 0, 0};
    made.lights.push_back(lamp);
    lamp.light.intensity = 1e308;
    lamp.light.color = {0, 1, 1};
    lamp.light.position = {0, 1e-30, 0};
    made.lights.push_back(lamp);
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        made.shading.rate = at;
        for (const float value : draw(made).values) {
            REQUIRE(value == value);
        }
    }
    made.objects[0].placed.position = {0, 0, 50}; // behind the eye
    CHECK(lit_pixels(draw(made)) == 0);
    made.objects.clear();
    CHECK(draw(made).values.size() == 64 * 40 * 4);
}

TEST_CASE("a scene that is not valid is not drawn") {
    scene made = bare(plane_shape{});
    made.view.near = -1;
    CHECK_THROWS_AS(draw(made), error);
}

namespace {

struct wrapped_diffuse {
    float wrap = 0.5F;
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const Real shifted = (dot(s.normal, in.to_light) + Real(wrap)) / (Real(1) + Real(wrap));
        return {in.light * max(shifted, Real(0)), {}};
    }
};

} // namespace

TEST_CASE("a model of one's own runs at every rate") {
    scene made = bare(plane_shape{{6, 6}, {1, 1}});
    made.ambient_strength = 0;
    named_light moon;
    moon.light.kind = light_kind::directional;
    moon.light.shines = {1, 0, 0}; // grazing: the cosine is 0, wrapped (0 + 0.5) / 1.5
    made.lights.push_back(moon);
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        CHECK(std::abs(draw(made, wrapped_diffuse{}, at).color(32, 20).r - 1.0 / 3) <= 4 * u);
    }
}

TEST_CASE("the same picture, bit for bit, for 1, 2 and 7 threads") {
    scene made = bare(sphere_shape{1.5, {64, 32}});
    made.view.width = 331;
    made.view.height = 207;
    made.shading.model = model_kind::blinn_phong;
    made.materials[0].look.specular = {0.5, 0.5, 0.5};
    made.materials[0].look.two_sided = true;
    made.objects.push_back(made.objects[0]);
    made.objects[1].shape = plane_shape{{9, 9}, {5, 7}};
    for (const double x : {-2.0, 0.5, 3.0}) {
        named_light lamp;
        lamp.light.position = {x, 3, 2};
        made.lights.push_back(lamp);
    }
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        made.shading.rate = at;
        draw_statistics alone;
        const picture one = draw(made, {{}, 1}, &alone);
        for (const int threads : {2, 7}) {
            draw_statistics together;
            CHECK(draw(made, {{}, threads}, &together) == one);
            CHECK(together.evaluations == alone.evaluations);
            CHECK(together.pixels == alone.pixels);
        }
    }
}
