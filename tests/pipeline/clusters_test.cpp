// Clusters of triangles that are put off or left out: they cost less and change nothing.
#include <doctest/doctest.h>

#include <cmath>
#include <memory>
#include <random>

#include "pipeline/frame.hpp"
#include "pipeline/stage.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"

using namespace yurvo;

namespace {

// A buoy, a coil and a deck, of enough triangles for clusters; the deck may be seen from below, the buoy
// turned inside out by a mirror.
scene harbour_parts(const vec3<double>& eye, const vec3<double>& target) {
    scene made;
    made.view.eye = eye;
    made.view.target = target;
    made.view.width = 160;
    made.view.height = 100;
    made.view.near = 0.05;
    named_material paint;
    paint.look.base = {0.7, 0.3, 0.2};
    paint.look.specular = {0.3, 0.3, 0.3};
    made.materials.push_back(paint);
    paint.look.two_sided = true;
    made.materials.push_back(paint);
    object one;
    one.shape = sphere_shape{1.0, {100, 60}};
    made.objects.push_back(one);
    one.placed.position = {1.8, 0.2, -0.5};
    one.placed.scale = {-0.8, 1.2, 0.8};
    one.placed.rotation = {0.3, 0.8, 0};
    one.material = 1;
    made.objects.push_back(one);
    one = {};
    one.shape = plane_shape{{9, 9}, {60, 60}};
    one.placed.position = {0, -1, 0};
    made.objects.push_back(one);
    one = {};
    one.shape = torus_shape{1.3, 0.3, {90, 40}};
    made.objects.push_back(one);
    named_light moon;
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-0.4, -1, -0.6};
    made.lights.push_back(moon);
    return made;
}

} // namespace

TEST_CASE("with clusters and without, the same picture and the same triangles, bit for bit, from anywhere") {
    std::mt19937_64 engine(41); // NOLINT: the same every time
    MESSAGE("seed 41");
    std::uniform_real_distribution<double> any(-1, 1);
    std::size_t with_clusters = 0;
    for (int i = 0; i < 60; ++i) {
        CAPTURE(i);
        // From outside and inside, from below the deck, close by, and looking past it all.
        const double reach = i % 3 == 0 ? 0.9 : i % 3 == 1 ? 2.5 : 6;
        const vec3<double> eye = vec3<double>{any(engine), any(engine), any(engine)} * reach;
        const vec3<double> target = vec3<double>{any(engine), any(engine), any(engine)} * 2.0;
        const scene made = harbour_parts(eye, target);
        pipeline::stage staged = pipeline::make_stage(made);
        pipeline::stage plain = staged;
        for (pipeline::staged_object& object : plain.objects) {
            with_clusters += object.clusters != nullptr ? 1U : 0U;
            object.clusters = nullptr;
        }
        const blinn_phong<> model;
        const auto shader = pipeline::make_shader<formula, float>(model);
        pipeline::frame frame;
        pipeline::frame plain_frame;
        REQUIRE(frame.draw(staged, shader) == plain_frame.draw(plain, shader));
        const pipeline::visibility seen = frame.see(staged);
        const pipeline::visibility seen_plainly = plain_frame.see(plain);
        REQUIRE(seen.triangles == seen_plainly.triangles);
        REQUIRE(seen.inverse_depth == seen_plainly.inverse_depth);
        // At rate vertex every vertex is lit, whether any triangle of it is sorted or not.
        staged.rate = rate::vertex;
        plain.rate = rate::vertex;
        REQUIRE(frame.draw(staged, shader) == plain_frame.draw(plain, shader));
    }
    CHECK(with_clusters == 60 * 4);
}

TEST_CASE("a frame used for other views keeps nothing of the clusters and vertices of the last") {
    const blinn_phong<> model;
    const auto shader = pipeline::make_shader<formula, float>(model);
    pipeline::frame kept;
    for (const double turn : {0.0, 2.0, 4.0, 1.0, 3.14}) {
        const scene made = harbour_parts({4 * std::sin(turn), 1, 4 * std::cos(turn)}, {0, 0, 0});
        const pipeline::stage staged = pipeline::make_stage(made);
        pipeline::frame fresh;
        REQUIRE(kept.draw(staged, shader) == fresh.draw(staged, shader));
    }
}

TEST_CASE("a triangle that snapping turns round is seen, though its cluster faces away and is put off") {
    // Slivers without any area, which lie on the picture's grid one way round or the other; in each cluster
    // one real triangle, which faces away.
    std::mt19937_64 engine(47); // NOLINT: the same every time
    MESSAGE("seed 47");
    std::uniform_real_distribution<double> any(-1, 1);
    mesh slivers;
    constexpr std::size_t clusters = 70;
    for (std::size_t t = 0; t < clusters * mesh_clusters::triangles_each; ++t) {
        const vec3<double> at{any(engine), any(engine), 0.1 * any(engine)};
        const bool real = t % mesh_clusters::triangles_each == 0;
        const auto first = static_cast<std::uint32_t>(slivers.positions.size());
        slivers.positions.push_back(at);
        slivers.positions.push_back(at + vec3<double>{real ? 0.0 : 0.5, real ? 0.01 : 0.0, 0});
        slivers.positions.push_back(at + vec3<double>{real ? 0.01 : 0.25, 0, 0});
        slivers.normals.resize(slivers.positions.size(), {0, 0, -1});
        slivers.triangles.push_back({first, first + 1, first + 2});
    }
    auto known = std::make_shared<mesh_clusters>();
    for (std::size_t i = 0; i < clusters; ++i) {
        known->list.push_back(make_cluster(slivers, i));
    }
    scene made = harbour_parts({0, 0, 3}, {0, 0, 0});
    made.objects.resize(1);
    made.objects[0].placed.rotation = {0, 0, 0.3};
    pipeline::stage staged = pipeline::make_stage(made);
    staged.objects[0].shape = std::make_shared<const mesh>(slivers);
    staged.objects[0].clusters = known;
    pipeline::frame frame;
    const pipeline::visibility seen = frame.see(staged);
    staged.objects[0].clusters = nullptr;
    pipeline::frame plain;
    REQUIRE(seen.triangles == plain.see(staged).triangles);
    std::size_t by_slivers = 0;
    for (const std::uint32_t triangle : seen.triangles) {
        by_slivers += triangle != pipeline::visibility::nothing && triangle % 64 != 0 ? 1U : 0U;
    }
    CHECK(by_slivers > 10);
}

namespace {

// Shows a lit point's position, or its normal, instead of a colour.
template <bool Normal> struct shown_point {
    template <class Real>
    reflected<Real> operator()(const surface<Real>& /*s*/, const arrival<Real>& /*in*/) const {
        return {};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>& /*sum*/,
                          const finish_settings<scalar_t<Real>>& /*settings*/) const {
        const vec3<Real>& v = Normal ? s.normal : s.position;
        return {{v.x, v.y, v.z}, {}};
    }
};

template <class Model> double most_apart(const scene& made, double of_whole_vector) {
    const Model model;
    const pipeline::stage staged = pipeline::make_stage(made);
    pipeline::frame frame;
    pipeline::frame in_double;
    const picture& found = frame.draw(staged, pipeline::make_shader<formula, float>(model));
    const picture& expected = in_double.draw(staged, pipeline::make_shader<formula, double>(model));
    double most = 0;
    for (std::size_t i = 0; i < found.values.size(); i += 4) {
        double longest = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            longest = std::max(longest, std::abs(static_cast<double>(expected.values[i + k])));
        }
        for (std::size_t k = 0; k < 3 && longest > 0; ++k) {
            const double apart = std::abs(static_cast<double>(found.values[i + k]) -
                                          static_cast<double>(expected.values[i + k]));
            most = std::max(most, apart / (of_whole_vector > 0 ? of_whole_vector : longest));
        }
    }
    return most;
}

} // namespace

TEST_CASE("positions and normals in floats are as near to those in doubles as is said") {
    constexpr double u = 0x1p-24;
    std::mt19937_64 engine(43); // NOLINT: the same every time
    MESSAGE("seed 43");
    std::uniform_real_distribution<double> any(-1, 1);
    double worst_position = 0;
    double worst_normal = 0;
    for (int i = 0; i < 30; ++i) {
        CAPTURE(i);
        scene made = harbour_parts({3 * any(engine), 1 + any(engine), 3 + any(engine)},
                                   {any(engine), any(engine), any(engine)});
        made.view.fov = radians(i % 2 == 0 ? 8 : 3); // near enough for squares in which little changes
        // Both are rounded to floats in the end, by u each at most. Before that a position's difference from
        // its square's middle, a 28th of its greatest component at most (a 32nd over inverse_depth that may
        // be an eighth less), takes eight roundings.
        const double position = most_apart<shown_point<false>>(made, 0);
        REQUIRE(position <= (2 + 8.0 / 28) * u);
        worst_position = std::max(worst_position, position);
        // A normal's difference is two sevenths at most; making it unit, here and there, adds 3 roundings,
        // and what is interpolated may have shrunk by a fifth before it on meshes as fine as these.
        const double normal = most_apart<shown_point<true>>(made, 1);
        REQUIRE(normal <= (1.25 * (1 + 8 * 2.0 / 7) + 2 + 3) * u);
        worst_normal = std::max(worst_normal, normal);
    }
    CHECK(worst_position > 0); // or floats were not used at all
    CHECK(worst_normal > 0);
    MESSAGE("at most " << worst_position / u << " u of a position, " << worst_normal / u << " u of a normal");
}
