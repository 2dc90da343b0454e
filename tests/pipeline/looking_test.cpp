// The ways of looking at a model: layers, turning, what else can be shown, models of one's own.
#include <doctest/doctest.h>

#include <cmath>

#include "yurvo/numeric/unqualified.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/pipeline/layers.hpp"
#include "yurvo/pipeline/probe.hpp"
#include "yurvo/pipeline/show.hpp"
#include "yurvo/scene/turn.hpp"

using namespace yurvo;

namespace {

constexpr double u = 0x1p-24;

scene buoy_scene(model_kind model) {
    scene made;
    made.view.width = 96;
    made.view.height = 60;
    made.view.eye = {0, 0, 4};
    made.shading.model = model;
    named_material paint;
    paint.name = "paint";
    paint.look.base = {0.6, 0.2, 0.1};
    paint.look.specular = {0.7, 0.7, 0.7};
    paint.look.emission = {0.02, 0, 0.01};
    made.materials.push_back(paint);
    object buoy;
    buoy.name = "buoy";
    buoy.shape = sphere_shape{1, {32, 16}};
    made.objects.push_back(buoy);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-1, -0.5, -1};
    made.lights.push_back(moon);
    return made;
}

double largest_off(const picture& a, const picture& b) {
    double most = 0;
    for (std::size_t i = 0; i < a.values.size(); ++i) {
        most = std::max(most, static_cast<double>(std::abs(a.values[i] - b.values[i])));
    }
    return most;
}

} // namespace

TEST_CASE("layers: the last is the picture, and neighbours differ by the term between them") {
    for (const model_kind model : {model_kind::lambert, model_kind::phong, model_kind::blinn_phong}) {
        for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
            scene made = buoy_scene(model);
            made.shading.rate = at;
            const std::vector<layer> layers = build_up(made);
            REQUIRE(layers.size() == (model == model_kind::lambert ? 4U : 5U));
            CHECK(layers.back().made == draw(made));
            for (std::size_t i = 2; i < layers.size(); ++i) {
                const term_choice& now = layers[i].terms;
                const term_choice& before = layers[i - 1].terms;
                const term_choice only{now.ambient && !before.ambient, now.diffuse && !before.diffuse,
                                       now.specular && !before.specular, now.emission && !before.emission};
                scene dark = made; // the background is no term
                dark.view.background = {};
                const picture term = draw(dark, {only});
                for (std::size_t k = 0; k < term.values.size(); ++k) {
                    if (k % 4 != 3) {
                        const double added =
                            static_cast<double>(layers[i].made.values[k]) - layers[i - 1].made.values[k];
                        REQUIRE(std::abs(added - term.values[k]) <=
                                6 * u * std::max(1.0F, layers[i].made.values[k]));
                    }
                }
            }
        }
    }
    CHECK(build_up(buoy_scene(model_kind::unlit)).size() == 1);
    CHECK(build_up(buoy_scene(model_kind::cel)).back().made == draw(buoy_scene(model_kind::cel)));
}

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

TEST_CASE("walking the eye around: at a fixed point diffuse stays put, specular follows the eye") {
    const scene made = buoy_scene(model_kind::blinn_phong);
    const pipeline::stage staged = pipeline::make_stage(made);
    const auto point = pipeline::probe(staged, pipeline::find_visible(staged), 48, 30);
    REQUIRE(point.has_value());
    CHECK(point->object == 0);
    const rgb<double> diffuse = color_at(staged, made.shading, *point, {false, true, false, false});
    const rgb<double> specular = color_at(staged, made.shading, *point, {false, false, true, false});
    for (const double angle : {0.5, 1.0, 2.0}) {
        const pipeline::stage other = pipeline::make_stage(turned(made, turned_part::eye, angle));
        const rgb<double> diffuse_there = color_at(other, made.shading, *point, {false, true, false, false});
        const rgb<double> specular_there = color_at(other, made.shading, *point, {false, false, true, false});
        CHECK(std::abs(diffuse_there.r - diffuse.r) <= 1e-15);
        CHECK(std::abs(specular_there.r - specular.r) > 1e-3);
    }
    // And the colour at the point is the pixel's.
    const rgb<double> whole = color_at(staged, made.shading, *point, {});
    CHECK(std::abs(whole.r - draw(made).color(48, 30).r) <= 400 * u * whole.r); // shininess 32 in float
}

TEST_CASE("a turn of nothing, of a whole circle, and of one by its name") {
    scene made = buoy_scene(model_kind::lambert);
    made.objects[0].placed.rotation = {0.3, -0.7, 1.9};
    made.objects.push_back(made.objects[0]);
    made.objects[1].name = "other";
    const matrix4 before = object_to_world(made.objects[0].placed);
    CHECK((object_to_world(turned(made, turned_part::object, 2 * pi).objects[0].placed) - before).norm() <=
          1e-14);
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
    const picture normals = draw(made, show_normals{});
    // In the middle the normal points at the eye, half a pixel off: n = (x, y, z) with x² + y² as small as
    // that.
    CHECK(std::abs(normals.color(48, 30).b - 1) <= 1e-3);
    CHECK(std::abs(normals.color(48, 30).r - 0.5) <= 0.02);
    const picture depth = draw(made, show_depth{{0, 0, -1}});
    CHECK(std::abs(depth.color(48, 30).r - 3) <= 1e-3);
    CHECK(depth.color(0, 0).r == 0);
    const picture cosine = draw(made, show_cosine{});
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

struct wrapped_diffuse {
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
    const models mine{{"wrapped", wrapped_diffuse{}}, {"bare", bare_light{}}};
    REQUIRE(mine.find("wrapped") != nullptr);
    CHECK(mine.find("nothing") == nullptr);
    CHECK(mine.names().size() == 2);
    scene made = buoy_scene(model_kind::lambert);
    made.materials[0].look.emission = {};
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        const picture single = mine.find("wrapped")->draw(made, at);
        const picture twice = draw<double>(made, wrapped_diffuse{}, at);
        CHECK(largest_off(single, twice) <= 20 * u);
        // Without wrap it is lambert; compiled for another instruction set, it may be rounded otherwise.
        made.shading.rate = at;
        CHECK(largest_off(draw(made, wrapped_diffuse{0}, at), draw(made)) <= 8 * u);
    }
    scene without_ambient = made;
    without_ambient.ambient_strength = 0;
    without_ambient.shading.rate = rate::fragment;
    CHECK(largest_off(draw(made, bare_light{}), draw(without_ambient)) <= 2 * u);
    static_assert(lighting_model<wrapped_diffuse>);
    static_assert(!lighting_model<int>);
}
