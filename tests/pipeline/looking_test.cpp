// The ways of looking at a model: turning, what else can be shown, models of one's own.
#include <doctest/doctest.h>

#include <cmath>

#include "support/buoy_scene.hpp"
#include "support/roundoff.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/show.hpp"
#include "yurvo/scene/turn.hpp"

using namespace yurvo;
using testing::buoy_scene;
using testing::u;

namespace {

double largest_off(const picture& a, const picture& b) {
    double most = 0;
    for (std::size_t i = 0; i < a.values.size(); ++i) {
        most = std::max(most, static_cast<double>(std::abs(a.values[i] - b.values[i])));
    }
    return most;
}

} // namespace

TEST_CASE("turning an object under a directional light: a sphere does not change") {
    const scene mesh_buoy = buoy_scene(model_kind::blinn_phong);
    scene field_buoy = mesh_buoy;
    field_buoy.objects[0].shape = field_shape{};
    for (const double angle : {radians(45), radians(90), radians(180)}) { // the mesh has 32 columns
        // Rotating rounds the corners by 1e-16, which the interpolated normal keeps; then as any right
        // picture.
        CHECK(largest_off(draw(mesh_buoy), draw(turned(mesh_buoy, turned_part::object, angle))) <= 200 * u);
    }
    CHECK(largest_off(draw(field_buoy), draw(turned(field_buoy, turned_part::object, radians(33)))) <=
          200 * u);
    // A box does change.
    scene crate = mesh_buoy;
    crate.objects[0].shape = box_shape{};
    CHECK(largest_off(draw(crate), draw(turned(crate, turned_part::object, radians(33)))) > 0.1);
}

TEST_CASE("a turn of nothing, of a whole circle, and of one by its name") {
    scene made = buoy_scene(model_kind::lambert);
    made.objects[0].placed.rotation = {0.3, -0.7, 1.9};
    made.objects.push_back(made.objects[0]);
    made.objects[1].name = "other";
    const matrix4 before = object_to_world(made.objects[0].placed);
    const matrix4 after = object_to_world(turned(made, turned_part::object, 2 * pi).objects[0].placed);
    for (std::size_t i = 0; i < before.values.size(); ++i) {
        CHECK(std::abs(after.values[i] - before.values[i]) <= 1e-14);
    }
    const scene one = turned(made, turned_part::object, 1, "other");
    CHECK(one.objects[0] == made.objects[0]);
    CHECK(one.objects[1].placed.rotation != made.objects[1].placed.rotation);
    // From +Z towards +X.
    const scene quarter = turned(made, turned_part::eye, pi / 2);
    CHECK(length(quarter.view.eye - vec3<double>{4, 0, 0}) <= 1e-15);
    CHECK(length(turned(made, turned_part::light, pi / 2).lights[0].light.shines -
                 vec3<double>{-1, -0.5, 1}) <= 1e-15);
}

TEST_CASE("what else can be shown: normals, cosine, depth, overflow") {
    scene made = buoy_scene(model_kind::lambert);
    made.objects[0].shape = field_shape{};
    made.view.background = {};
    const picture normals = show_normals(made);
    // In the middle the normal points at the eye, half a pixel off: n = (x, y, z) with x² + y² as small as
    // that.
    CHECK(std::abs(normals.color(48, 30).b - 1) <= 1e-3);
    CHECK(std::abs(normals.color(48, 30).r - 0.5) <= 0.02);
    const picture depth = show_depth(made);
    CHECK(std::abs(depth.color(48, 30).r - 3) <= 1e-3);
    CHECK(depth.color(0, 0).r == 0);
    const picture cosine = show_cosine(made);
    const vec3<double> n = {2 * normals.color(40, 25).r - 1, 2 * normals.color(40, 25).g - 1,
                            2 * normals.color(40, 25).b - 1};
    const double expected = dot(n, normalize(vec3<double>{1, 0.5, 1}));
    CHECK(std::abs(cosine.color(40, 25).r - expected) <= 8 * u);
    std::size_t pixels = 0;
    picture bright(3, 1, rgb<float>(0.5F));
    bright.set(1, 0, {0.2F, 1.01F, 0.2F}, 1);
    bright.set(2, 0, {1, 1, 1}, 1);
    show_overflow(bright, pixels);
    CHECK(pixels == 1); // exactly 1 is no overflow
    double least = 0;
    double most = 0;
    const picture shown = depth_to_look_at(depth, least, most);
    CHECK(std::abs(least - 3) <= 2e-3);
    CHECK(shown.color(0, 0).r == 0);
}

namespace {

struct turned_diffuse {
    float wrap = 0.3F;
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const Real cosine = (dot(s.normal, in.to_light) + wrap) / (1 + wrap);
        return {.diffuse = in.light * max(cosine, Real(0)), .specular = {}};
    }
};

// With a finish of its own: base and light are all there is.
struct bare_light {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)), {}};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>& sum,
                          const finish_settings<scalar_t<Real>>&) const {
        return {sum.diffuse * s.base, {}};
    }
};

} // namespace

TEST_CASE("models of one's own: by name, at every rate, in float and double, with a finish of their own") {
    const models mine{{"wrapped", turned_diffuse{}}, {"bare", bare_light{}}};
    REQUIRE(mine.find("wrapped") != nullptr);
    CHECK(mine.find("nothing") == nullptr);
    CHECK(mine.names().size() == 2);
    scene made = buoy_scene(model_kind::lambert);
    made.materials[0].look.emission = {};
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        const picture single = draw(made, *mine.find("wrapped"), at);
        made.shading.rate = at;
        const turned_diffuse model;
        const picture twice =
            pipeline::draw_with_shader(made, pipeline::make_shader<formula, double>(model), {}, nullptr);
        CHECK(largest_off(single, twice) <= 20 * u);
        // Without wrap it is lambert; compiled for another instruction set, it may be rounded otherwise.
        CHECK(largest_off(draw(made, turned_diffuse{0}, at), draw(made)) <= 8 * u);
    }
    scene without_ambient = made;
    without_ambient.ambient_strength = 0;
    without_ambient.shading.rate = rate::fragment;
    CHECK(largest_off(draw(made, bare_light{}), draw(without_ambient)) <= 2 * u);
    static_assert(lighting_model<turned_diffuse>);
    static_assert(!lighting_model<int>);
}
