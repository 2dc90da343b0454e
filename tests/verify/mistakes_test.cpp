// The catalogue of mistakes: every id, what each computes, worked out by hand, and what tells them apart.
#include <doctest/doctest.h>

#include <array>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <map>
#include <set>

#include "pipeline/parallel.hpp"
#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"

using namespace yurvo;
using enum verify::mistake;
using verify::mistake;

namespace {

using numbers = std::array<double, 3>;

numbers operator+(const numbers& a, const numbers& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }
numbers operator-(const numbers& a, const numbers& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
numbers operator*(double s, const numbers& a) { return {s * a[0], s * a[1], s * a[2]}; }
double product(const numbers& a, const numbers& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
numbers unit(const numbers& a) { return (1 / std::sqrt(product(a, a))) * a; }
numbers times(const numbers& a, const numbers& b) { return {a[0] * b[0], a[1] * b[1], a[2] * b[2]}; }

// A tilted, stretched, displaced plank under one spot: nothing is unit, nothing at the origin, so that every
// step shows.
struct plank {
    model_kind model = model_kind::blinn_phong;
    double tilt = 30; // degrees about Z
    numbers scale{1.5, 2, 1}, at{0.4, -0.2, 0.3};
    numbers eye{0.5, 3, 4}, lamp{1.2, 2.2, 0.9}, shines{-0.9, -2.4, -0.7};
    numbers light_color{1, 0.8, 0.5}, base{0.6, 0.5, 0.3}, ambient_color{0.5, 0.6, 1};
    double intensity = 5, strength = 0.1, inner = 5, outer = 40, shininess = 12;
    numbers diffuse{0.9, 0.8, 0.7}, specular{0.5, 0.6, 0.4};
    numbers ambient_part{0.2, 0.1, 0.3}, diffuse_part{0.8, 1, 0.6}, specular_part{0.7, 0.4, 1.2};

    [[nodiscard]] scene as_scene() const {
        const auto vec = [](const numbers& a) { return vec3<double>{a[0], a[1], a[2]}; };
        const auto color = [](const numbers& a) { return rgb<double>{a[0], a[1], a[2]}; };
        scene made;
        made.view.eye = vec(eye);
        made.view.target = vec(at);
        made.view.width = 65;
        made.view.height = 41;
        made.shading.model = model;
        made.ambient_color = color(ambient_color);
        made.ambient_strength = strength;
        named_material wood;
        wood.name = "wood";
        wood.look.base = color(base);
        wood.look.diffuse = color(diffuse);
        wood.look.specular = color(specular);
        wood.look.shininess = shininess;
        made.materials.push_back(wood);
        object one;
        one.name = "plank";
        one.shape = plane_shape{{2, 2}, {1, 1}};
        one.placed.position = vec(at);
        one.placed.rotation = {0, 0, radians(tilt)};
        one.placed.scale = vec(scale);
        made.objects.push_back(one);
        named_light lantern;
        lantern.light.kind = light_kind::spot;
        lantern.light.position = vec(lamp);
        lantern.light.shines = vec(shines);
        lantern.light.color = color(light_color);
        lantern.light.intensity = intensity;
        lantern.light.ambient = color(ambient_part);
        lantern.light.diffuse = color(diffuse_part);
        lantern.light.specular = color(specular_part);
        lantern.light.inner = radians(inner);
        lantern.light.outer = radians(outer);
        lantern.light.penumbra = penumbra_kind::smooth;
        made.lights.push_back(lantern);
        return made;
    }
};

// The plank's middle, which the middle pixel shows, worked out step by step with the mistake in its place.
numbers by_hand(const plank& p, mistake wrong) {
    const double angle = p.tilt * std::acos(-1.0) / 180;
    const double c = std::cos(angle);
    const double s = std::sin(angle);
    // The columns of Rz · S.
    const std::array<numbers, 3> columns{numbers{p.scale[0] * c, p.scale[0] * s, 0},
                                         numbers{-p.scale[1] * s, p.scale[1] * c, 0},
                                         numbers{0, 0, p.scale[2]}};
    numbers position = p.at; // of the object's origin
    numbers n{-s, c, 0};
    if (wrong == position_in_object_space) {
        position = {0, 0, 0};
    }
    if (wrong == normal_as_point) {
        n = unit(columns[1] + p.at);
    }
    if (wrong == normal_in_object_space) {
        n = {0, 1, 0};
    }
    if (wrong == normal_in_view_space) {
        const numbers backward = unit(p.eye - p.at);
        const numbers right = unit({backward[2], 0, -backward[0]});
        const numbers up{backward[1] * right[2] - backward[2] * right[1],
                         backward[2] * right[0] - backward[0] * right[2],
                         backward[0] * right[1] - backward[1] * right[0]};
        n = {product(right, n), product(up, n), product(backward, n)};
    }
    if (wrong == matrix_transposed) { // the rows instead of the columns, times (0, 1, 0)
        n = unit({columns[0][1], columns[1][1], columns[2][1]});
    }
    if (wrong == normal_flipped) {
        n = -1.0 * n;
    }
    numbers lamp = p.lamp;
    numbers shines = p.shines;
    numbers color = p.light_color;
    if (wrong == light_moves_with_object) {
        lamp = p.at + (p.lamp[0] * columns[0] + p.lamp[1] * columns[1] + p.lamp[2] * columns[2]);
        shines = p.shines[0] * columns[0] + p.shines[1] * columns[1] + p.shines[2] * columns[2];
    }
    if (wrong == block_padding_missed) { // 6 numbers written, 8 read: color from the 5th on
        color = {p.light_color[1], p.light_color[2], 0};
    }
    if (wrong == light_color_ignored) {
        color = {1, 1, 1};
    }
    const double intensity = wrong == light_intensity_ignored ? 1 : p.intensity;
    const numbers whole = lamp - position;
    const double d = std::sqrt(product(whole, whole));
    const numbers to_light = (1 / d) * whole;
    double falloff = 1 / (d * d);
    if (wrong == falloff_missing || wrong == falloff_after_normalize) {
        falloff = 1;
    }
    if (wrong == falloff_not_squared) {
        falloff = 1 / d;
    }
    const numbers axis = wrong == shines_not_normalized ? shines : unit(shines);
    double cosine_of_cone = -product(to_light, axis);
    if (wrong == cone_axis_flipped) {
        cosine_of_cone = -cosine_of_cone;
    }
    double inner = p.inner;
    double outer = p.outer;
    if (wrong == cone_full_angle) {
        inner /= 2;
        outer /= 2;
    }
    const double to_radians = wrong == cone_angle_in_degrees ? 1 : std::acos(-1.0) / 180;
    double cos_inner = std::cos(inner * to_radians);
    double cos_outer = std::cos(outer * to_radians);
    if (wrong == cone_inner_outer_swapped) {
        std::swap(cos_inner, cos_outer);
    }
    const double t = std::min(1.0, std::max(0.0, (cosine_of_cone - cos_outer) / (cos_inner - cos_outer)));
    const double penumbra = t * t * (3 - 2 * t);
    const numbers arriving = intensity * falloff * penumbra * color;

    numbers l = to_light;
    if (wrong == to_light_not_normalized) {
        l = whole;
    }
    if (wrong == light_direction_flipped) {
        l = -1.0 * l;
    }
    numbers v = unit((wrong == specular_eye_at_origin ? numbers{0, 0, 0} : p.eye) - position);
    if (wrong == eye_vector_flipped) {
        v = -1.0 * v;
    }
    const double cosine = product(n, l);
    double kept = wrong == cosine_not_clamped ? cosine : std::max(0.0, cosine);
    numbers lit = kept * arriving;
    const bool in_parts = wrong != parts_ignored;
    for (double& component : lit) {
        component = wrong == clamp_per_light ? std::min(1.0, component) : component;
        component = wrong == factor_pi ? component / std::acos(-1.0) : component;
    }
    numbers h = l + v;
    h = wrong == half_not_normalized ? 0.5 * h : unit(h);
    numbers r = 2 * cosine * n - l;
    if (wrong == specular_reflect_flipped) {
        r = -1.0 * r;
    }
    const bool by_half = p.model == model_kind::blinn_phong || wrong == specular_half_for_reflect;
    double highlight = std::pow(std::max(0.0, by_half ? product(n, h) : product(r, v)), p.shininess);
    if (cosine <= 0 && wrong != specular_on_unlit_side) {
        highlight = 0;
    }
    if (wrong == specular_times_cosine) {
        highlight *= cosine;
    }
    numbers shine =
        times(highlight * (wrong == specular_without_falloff ? intensity * color : arriving), p.specular);
    if (wrong == specular_tinted_by_base) {
        shine = times(shine, p.base);
    }
    const numbers none{0, 0, 0};
    const double follows = wrong == ambient_without_falloff ? 1 : falloff * penumbra;
    lit = in_parts ? times(lit, p.diffuse_part) : lit;
    shine = in_parts ? times(shine, p.specular_part) : shine;
    const numbers spread = in_parts ? times(intensity * follows * color, p.ambient_part) : none;
    numbers ambient = times(p.strength * p.ambient_color + spread, p.base);
    if (wrong == ambient_missing) {
        ambient = {0, 0, 0};
    }
    numbers sum = ambient + times(times(lit, p.diffuse), p.base) + shine;
    if (wrong == channels_swapped) {
        std::swap(sum[0], sum[2]);
    }
    return sum;
}

void hold_by_hand(const plank& p, mistake wrong) {
    CAPTURE(verify::entry_of(wrong).id);
    CAPTURE(name_of(p.model));
    const picture drawn = verify::draw_with_mistakes(p.as_scene(), {wrong});
    const rgb<float> found = drawn.color(32, 20);
    const numbers expected = by_hand(p, wrong);
    const std::array<float, 3> got{found.r, found.g, found.b};
    for (std::size_t i = 0; i < 3; ++i) {
        // Both are in double; the picture is rounded to float once. Beyond 1e30 a power is cut off.
        CHECK(static_cast<double>(got[i]) ==
              doctest::Approx(expected[i]).epsilon(1e-6).scale(std::max(1e-3, std::abs(expected[i]))));
    }
}

// 4 codes or more, alpha too: what a picture of 8 bits shows beyond its tolerance of 1, fourfold.
std::size_t pixels_apart(const std::vector<std::uint8_t>& a, const std::vector<std::uint8_t>& b) {
    std::size_t count = 0;
    for (std::size_t i = 0; i < a.size(); i += 4) {
        int most = 0;
        for (std::size_t c = 0; c < 4; ++c) {
            most = std::max(most, std::abs(static_cast<int>(a[i + c]) - static_cast<int>(b[i + c])));
        }
        count += most >= 4 ? 1U : 0U;
    }
    return count;
}

} // namespace

TEST_CASE("the catalogue has every id, once, with all that is to be said of it") {
    const std::set<std::string_view> asked{"normal-not-renormalized",
                                           "normal-as-point",
                                           "normal-without-inverse-transpose",
                                           "normal-in-object-space",
                                           "normal-in-view-space",
                                           "normal-shared-corners",
                                           "normal-flipped",
                                           "light-direction-flipped",
                                           "to-light-not-normalized",
                                           "to-light-normalized-per-vertex",
                                           "shines-not-normalized",
                                           "half-not-normalized",
                                           "eye-vector-flipped",
                                           "specular-eye-at-origin",
                                           "position-in-object-space",
                                           "matrix-transposed",
                                           "falloff-missing",
                                           "falloff-after-normalize",
                                           "falloff-not-squared",
                                           "falloff-on-directional",
                                           "cone-angle-in-degrees",
                                           "cone-full-angle",
                                           "cone-inner-outer-swapped",
                                           "cone-axis-flipped",
                                           "cosine-not-clamped",
                                           "specular-on-unlit-side",
                                           "specular-reflect-flipped",
                                           "specular-half-for-reflect",
                                           "specular-tinted-by-base",
                                           "specular-without-falloff",
                                           "specular-times-cosine",
                                           "factor-pi",
                                           "ambient-missing",
                                           "ambient-per-light",
                                           "ambient-without-falloff",
                                           "parts-ignored",
                                           "viewer-at-infinity",
                                           "clamp-per-light",
                                           "light-color-ignored",
                                           "light-intensity-ignored",
                                           "single-light-only",
                                           "rate-vertex-for-fragment",
                                           "rate-face-for-fragment",
                                           "interpolation-affine",
                                           "light-moves-with-object",
                                           "light-moves-with-eye",
                                           "encode-missing",
                                           "encode-twice",
                                           "texture-not-decoded",
                                           "output-wraps",
                                           "alpha-lit",
                                           "channels-swapped",
                                           "picture-upside-down",
                                           "depth-test-missing",
                                           "depth-test-reversed",
                                           "block-padding-missed"};
    std::set<std::string_view> found;
    for (std::size_t i = 0; i < verify::all_mistakes().size(); ++i) {
        const verify::mistake_entry& one = verify::all_mistakes()[i];
        CAPTURE(one.id);
        CHECK(static_cast<std::size_t>(one.which) == i);
        CHECK(found.insert(one.id).second);
        CHECK(verify::find_mistake(one.id) == &one);
        for (const std::string_view text : {one.what, one.symptom, one.cause, one.fix, one.applies_to}) {
            CHECK(text.size() > 8);
        }
        CHECK_FALSE(verify::revealed_by(one.which).empty());
    }
    CHECK(found == asked);
    CHECK(verify::find_mistake("falloff-mising") == nullptr);
}

TEST_CASE("each mistake computes what its line says, worked out by hand") {
    const std::vector<mistake> of_all{
        normal_as_point,          normal_in_object_space,   normal_in_view_space,  normal_flipped,
        light_direction_flipped,  to_light_not_normalized,  shines_not_normalized, eye_vector_flipped,
        specular_eye_at_origin,   position_in_object_space, matrix_transposed,     falloff_missing,
        falloff_after_normalize,  falloff_not_squared,      cone_angle_in_degrees, cone_full_angle,
        cone_inner_outer_swapped, cone_axis_flipped,        cosine_not_clamped,    specular_on_unlit_side,
        specular_tinted_by_base,  specular_without_falloff, specular_times_cosine, factor_pi,
        ambient_missing,          clamp_per_light,          light_color_ignored,   light_intensity_ignored,
        light_moves_with_object,  ambient_without_falloff,  parts_ignored,         channels_swapped,
        block_padding_missed};
    for (const model_kind model : {model_kind::phong, model_kind::blinn_phong}) {
        for (const bool from_behind : {false, true}) {
            plank p;
            p.model = model;
            if (from_behind) { // the light comes from below: n·l is negative
                p.lamp = {0.9, -1.8, 0.8};
                p.shines = {-0.5, 1.7, -0.4};
            }
            for (const mistake one : of_all) {
                hold_by_hand(p, one);
            }
            if (model == model_kind::phong) {
                hold_by_hand(p, specular_reflect_flipped);
                hold_by_hand(p, specular_half_for_reflect);
            } else {
                hold_by_hand(p, half_not_normalized);
            }
        }
    }
}

TEST_CASE("a viewer at infinity: every highlight is worked out along the view's axis") {
    for (const model_kind model : {model_kind::phong, model_kind::blinn_phong}) {
        plank p;
        p.model = model;
        p.lamp = {-1.3, 0.7, -1.9}; // about where the view's axis is mirrored, so that there is a highlight
        p.shines = {1.7, -0.9, 2.2};
        const scene made = p.as_scene();
        const numbers axis = unit(p.eye - p.at); // the view looks at the plank's middle
        const picture drawn =
            verify::draw_with_mistakes(made, {viewer_at_infinity}, {false, false, true, false});
        int lit = 0;
        for (int i = 0; i < made.view.width * made.view.height; ++i) {
            const int x = i % made.view.width;
            const int y = i / made.view.width;
            CAPTURE(x);
            CAPTURE(y);
            const verify::explanation told = verify::explain(made, x, y);
            if (!told.object) {
                continue;
            }
            const verify::explained_point& at = told.point;
            const verify::explained_light& lamp = at.lights.front();
            const numbers n{at.normal.x, at.normal.y, at.normal.z};
            const numbers l{lamp.to_light.x, lamp.to_light.y, lamp.to_light.z};
            const double cosine = product(n, l);
            const double of_highlight =
                model == model_kind::phong ? product(2 * cosine * n - l, axis) : product(n, unit(l + axis));
            const double highlight = cosine > 0 ? std::pow(std::max(0.0, of_highlight), p.shininess) : 0.0;
            const numbers arriving{lamp.arriving.r, lamp.arriving.g, lamp.arriving.b};
            const numbers expected = times(times(highlight * arriving, p.specular), p.specular_part);
            lit += expected[0] > 1e-4 ? 1 : 0;
            // In double, rounded to float once.
            CHECK(std::abs(static_cast<double>(drawn.color(x, y).r) - expected[0]) <=
                  1e-6 * expected[0] + 1e-12);
            CHECK(std::abs(static_cast<double>(drawn.color(x, y).b) - expected[2]) <=
                  1e-6 * expected[2] + 1e-12);
        }
        CHECK(lit > 100);
    }
}

TEST_CASE("a picture with no mistake is right, by the second method") {
    testing::part_of_list part;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        for (const verify::check_unit& unit : verify::units_of(reference)) {
            if (!part.asks_next()) {
                continue;
            }
            scene small = unit.asked;
            small.view.width = 320;
            small.view.height = 200;
            small.expects.clear();
            CAPTURE(reference.name);
            CAPTURE(unit.variant);
            const verify::check_result held =
                verify::hold_against_second_method(small, verify::draw_with_mistakes(small, {}));
            CHECK(held.passed);
            CHECK(held.used < 0.5);
        }
    }
    const std::uint64_t last = testing::random_scene_count(40);
    MESSAGE("seeds 1 to " << last);
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        const scene random = testing::random_scenes(seed, true).next();
        CAPTURE(seed);
        CHECK(verify::hold_against_second_method(random, verify::draw_with_mistakes(random, {})).passed);
    }
}

TEST_CASE("mistakes that are other scenes give the pipeline's picture of that scene") {
    const scene buoys = [] {
        scene made = verify::find_reference("buoys")->scene;
        made.view.width = 160;
        made.view.height = 100;
        return made;
    }();
    const auto same = [&](mistake wrong, const scene& other) {
        CAPTURE(verify::entry_of(wrong).id);
        // Codes of one picture drawn in float and in double: at a step between two they may fall either way.
        CHECK(pixels_apart(codes_of(verify::draw_with_mistakes(buoys, {wrong})), codes_of(draw(other))) == 0);
    };
    scene other = buoys;
    other.shading.rate = rate::vertex;
    same(rate_vertex_for_fragment, other);
    other.shading.rate = rate::face;
    same(rate_face_for_fragment, other);
    other = buoys;
    other.lights.resize(1);
    same(single_light_only, other);
    other = buoys;
    other.ambient_strength *= 2;
    REQUIRE(buoys.lights.size() == 2);
    same(ambient_per_light, other);
    other = buoys;
    for (named_light& one : other.lights) {
        one.space = light_space::view;
    }
    same(light_moves_with_eye, other);
    other = buoys;
    for (object& one : other.objects) {
        one.normals = normals_kind::shared;
    }
    same(normal_shared_corners, other);
    other = buoys;
    for (named_light& one : other.lights) {
        if (one.light.kind == light_kind::directional) {
            one.light.kind = light_kind::point;
            one.light.position = -one.light.shines;
        }
    }
    same(falloff_on_directional, other);
}

TEST_CASE("mistakes of the output, component by component") {
    using verify::code_with;
    const auto curve = [](double c) { // IEC 61966-2-1
        return c <= 0.0031308 ? 12.92 * c : 1.055 * std::pow(c, 1 / 2.4) - 0.055;
    };
    for (const double c : {0.0, 0.002, 0.2, 0.5, 1.0}) {
        CAPTURE(c);
        CHECK(code_with(c, {}) == std::lround(255 * curve(c)));
        CHECK(code_with(c, {encode_missing}) == std::lround(255 * c));
        CHECK(code_with(c, {encode_twice}) == std::lround(255 * curve(curve(c))));
        CHECK(code_with(c, {output_wraps}) == std::lround(255 * curve(c)) % 256);
        CHECK(code_with(c, {}, encoding::linear) == std::lround(255 * c));
    }
    CHECK(code_with(2.0, {}) == 255);
    CHECK(code_with(2.0, {output_wraps}) == std::lround(255 * curve(2.0)) - 256);
    CHECK(code_with(-0.01, {}) == 0);
    CHECK(code_with(-0.01, {output_wraps}) == 256 + std::lround(255 * 12.92 * -0.01));
    const scene penumbras = verify::find_reference("bollard")->scene;
    const picture right = draw(penumbras);
    const picture turned = verify::draw_with_mistakes(penumbras, {picture_upside_down});
    std::size_t off = 0;
    for (int x = 0; x < right.width; x += 7) {
        for (int y = 0; y < right.height; y += 7) {
            const float a = right.color(x, y).g;
            const float b = turned.color(x, right.height - 1 - y).g;
            off += std::abs(a - b) > 1e-4F * std::max(1.0F, a) ? 1U : 0U;
        }
    }
    CHECK(off == 0);
}

TEST_CASE("with no depth test the last drawn wins, with a reversed one the farthest") {
    // Two planks face the eye, one behind the other; the near one is drawn first, or last.
    const auto two = [](bool near_first) {
        scene made;
        made.view.eye = {0, 0, 5};
        made.view.width = 32;
        made.view.height = 20;
        made.shading.model = model_kind::unlit;
        for (const double shade : {0.25, 0.75}) {
            named_material paint;
            paint.name = shade < 0.5 ? "near" : "far";
            paint.look.base = rgb<double>(shade);
            made.materials.push_back(paint);
        }
        for (const std::size_t i : {near_first ? 0U : 1U, near_first ? 1U : 0U}) {
            object one;
            one.material = i;
            one.shape = plane_shape{{2, 2}, {1, 1}};
            one.placed.rotation = {radians(90), 0, 0};
            one.placed.position = {0, 0, i == 0 ? 1.0 : -1.0};
            made.objects.push_back(one);
        }
        return made;
    };
    for (const bool near_first : {false, true}) {
        const scene of = two(near_first);
        CHECK(draw(of).color(16, 10).r == 0.25F);
        CHECK(verify::draw_with_mistakes(of, {depth_test_missing}).color(16, 10).r ==
              (near_first ? 0.75F : 0.25F));
        CHECK(verify::draw_with_mistakes(of, {depth_test_reversed}).color(16, 10).r == 0.75F);
    }
}

TEST_CASE("interpolation without the division by depth: the middle of the screen gets the middle value") {
    // A quay that runs away from the eye, its corners' colours told apart by height above the sea: at a place
    // half-way on the screen between its near and its far edge the affine weight is a half.
    scene made;
    made.view.eye = {0, 1, 0};
    made.view.target = {0, 0, -8};
    made.view.width = 201;
    made.view.height = 201;
    made.shading.rate = rate::vertex;
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    named_material paint;
    paint.name = "paint";
    made.materials.push_back(paint);
    object quay;
    quay.shape = plane_shape{{4, 8}, {1, 1}};
    quay.placed.position = {0, 0, -6}; // from z = −2 to −10
    made.objects.push_back(quay);
    named_light lantern;
    lantern.light.position = {0, 1, -2};
    lantern.light.falloff = falloff_kind::none;
    made.lights.push_back(lantern);
    const auto lit = [](double x, double z) { // at a corner: n·l
        return 1 / std::sqrt(x * x + 1 + (z + 2) * (z + 2));
    };
    const camera seen = make_camera(made.view);
    const auto row = [&](double z) { // where the quay's middle line at that depth is on the screen
        const vec3<double> p = seen.to_pixels(vec3<double>{0, 0, z} - made.view.eye);
        return p.y / p.z;
    };
    // On x = 0 both triangles agree: each end's colour is that of both its corners.
    const double near_end = lit(2, -2);
    const double far_end = lit(2, -10);
    const picture affine = verify::draw_with_mistakes(made, {interpolation_affine});
    const int first = static_cast<int>(std::ceil(row(-10)));
    const int last = static_cast<int>(std::floor(row(-2))) - 1;
    REQUIRE(last > first + 8);
    for (const int y : {first + 2, (2 * first + last) / 3, (first + 2 * last) / 3, last - 2}) {
        const double share = (y + 0.5 - row(-10)) / (row(-2) - row(-10)); // 0 far, 1 near
        CAPTURE(y);
        // The diagonal divides the quad: on the screen's middle column its triangles' weights of left and
        // right corners are not the quad's, but both corners of an end have one colour.
        CHECK(static_cast<double>(affine.color(100, y).r) ==
              doctest::Approx(far_end + (near_end - far_end) * share).epsilon(1e-5));
    }
}

TEST_CASE("alpha that is lit: multiplied by the luminance of ambient and diffuse") {
    plank p;
    scene of = p.as_scene();
    of.materials[0].look.alpha = 0.8;
    p.base = {1, 1, 1};
    p.specular = {0, 0, 0};
    const numbers factor = by_hand(p, picture_upside_down);
    const double luminance = 0.2126 * factor[0] + 0.7152 * factor[1] + 0.0722 * factor[2];
    const picture drawn = verify::draw_with_mistakes(of, {alpha_lit});
    CHECK(static_cast<double>(drawn.alpha(32, 20)) ==
          doctest::Approx(0.8 * std::min(1.0, luminance)).epsilon(1e-5));
    CHECK(static_cast<double>(drawn.alpha(0, 0)) == 1);
}

TEST_CASE("a mistake in a step that the scene does not have changes nothing") {
    std::size_t tried = 0;
    for (const char* name : {"float-field", "plates", "behind-the-wall"}) {
        scene small = verify::find_reference(name)->scene;
        small.view.width = 64;
        small.view.height = 40;
        const picture right = verify::draw_with_mistakes(small, {});
        for (const verify::mistake_entry& one : verify::all_mistakes()) {
            if (!verify::applies(one.which, small)) {
                CAPTURE(one.id);
                CHECK(verify::draw_with_mistakes(small, {one.which}) == right);
                ++tried;
            }
        }
    }
    CHECK(tried > 20);
}

TEST_CASE("the separation matrix" * doctest::test_suite("slow")) {
    // Every mistake by every reference scene, at 160x100: on how many pixels its codes are 4 or more off.
    const std::size_t count = verify::mistake_count;
    std::vector<std::map<std::string, std::size_t>> off(count);
    std::vector<std::vector<bool>> told_apart(count, std::vector<bool>(count, false));
    testing::part_of_list part;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        for (const verify::check_unit& unit : verify::units_of(reference)) {
            if (!part.asks_next()) {
                continue;
            }
            scene small = unit.asked;
            small.view.width = 160;
            small.view.height = 100;
            small.expects.clear();
            const std::vector<std::uint8_t> right = codes_of(draw(small));
            std::vector<std::vector<std::uint8_t>> codes(count, right);
            pipeline::for_each_of(count, [&](std::size_t i) {
                const auto one = static_cast<mistake>(i);
                if (verify::applies(one, small)) {
                    codes[i] = verify::codes_with(verify::draw_with_mistakes(small, {one}), {one});
                }
            });
            for (std::size_t i = 0; i < count; ++i) {
                std::size_t& most = off[i][reference.name];
                most = std::max(most, pixels_apart(codes[i], right));
                for (std::size_t j = 0; j < i; ++j) {
                    told_apart[i][j] = told_apart[i][j] || pixels_apart(codes[i], codes[j]) >= 64;
                }
            }
        }
    }
    std::string table = "| mistake |";
    std::string under = "| --- |";
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        table += " " + reference.name + " |";
        under += " ---: |";
    }
    table += "\n" + under + "\n";
    for (std::size_t i = 0; i < count; ++i) {
        const verify::mistake_entry& entry = verify::all_mistakes()[i];
        CAPTURE(entry.id);
        table += "| " + std::string(entry.id) + " |";
        std::vector<std::string> revealing;
        for (const verify::reference_scene& reference : verify::reference_scenes()) {
            const std::size_t pixels = off[i][reference.name];
            table += pixels == 0 ? "" : std::string(1, ' ').append(std::to_string(pixels));
            table += " |";
        }
        for (const auto& [name, pixels] : off[i]) {
            if (pixels >= 64) {
                revealing.push_back(name);
            }
        }
        table += "\n";
        const std::vector<std::string_view>& known = verify::revealed_by(entry.which);
        CHECK(std::all_of(revealing.begin(), revealing.end(), [&](const std::string& name) {
            return std::find(known.begin(), known.end(), name) != known.end();
        }));
        if (!testing::whole) {
            continue;
        }
        CHECK_FALSE(revealing.empty());
        CHECK(revealing == std::vector<std::string>(known.begin(), known.end()));
        for (std::size_t j = 0; j < i; ++j) {
            CAPTURE(verify::all_mistakes()[j].id);
            CHECK(told_apart[i][j]);
        }
    }
    if (const char* const file = std::getenv("YURVO_MATRIX")) {
        std::ofstream(file) << table;
    }
    std::printf("%zu mistakes, each revealed by a scene at least; %zu pairs, all told apart\n", count,
                count * (count - 1) / 2);
}
