// Models of one's own under mistakes: what a model is given is as wrong for it as for a built-in one.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>

#include "support/sampling.hpp"
#include "verify/cast.hpp"
#include "yurvo/model.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using namespace yurvo::verify;

namespace {

// Blinn's and Phong's models, written out by cosines and powers: none of the library's formulas.
struct own_blinn_phong {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const Real cosine = dot(s.normal, in.to_light);
        const vec3<Real> h = normalize(in.to_light + s.to_eye);
        const Real highlight = pow(max(dot(s.normal, h), Real(0)), s.shininess);
        return {in.light * max(cosine, Real(0)), in.light * select(cosine > Real(0), highlight, Real(0))};
    }
};
struct own_phong {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const Real cosine = dot(s.normal, in.to_light);
        const vec3<Real> r = s.normal * (Real(2) * cosine) - in.to_light;
        const Real highlight = pow(max(dot(r, s.to_eye), Real(0)), s.shininess);
        return {in.light * max(cosine, Real(0)), in.light * select(cosine > Real(0), highlight, Real(0))};
    }
};
struct own_lambert {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)), {}};
    }
};
// With a finish of its own: its terms are no sum, so nothing is said of them.
struct own_bands {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)), {}};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>& sum,
                          const finish_settings<scalar_t<Real>>&) const {
        return {s.base * select(sum.diffuse.g > Real(0.25), Real(1), Real(0.4F)), {}};
    }
};

// Asks a light for all its numbers, how far it is, and which side is seen.
struct own_of_all_numbers {
    static constexpr bool asks_for_place = true;
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        using number = scalar_t<Real>;
        const ready_light<number>& lamp = *in.lamp;
        const number all = lamp.inner + number(0.5) * lamp.outer + number(0.25) * lamp.cos_inner +
                           number(0.125) * lamp.cos_outer + number(0.0625) * lamp.seen_exponent +
                           number(0.03125) * lamp.seen_range + number(lamp.whole ? 0.5 : 0) +
                           lamp.coefficients.x + lamp.coefficients.y + lamp.coefficients.z +
                           lamp.inner_versine + number(0.5) * lamp.outer_versine;
        const Real here = Real(all) + Real(1) / (Real(1) + in.distance) + Real(0.25F) * s.front;
        return {in.light * max(dot(s.normal, in.to_light), Real(0)) * here, {}};
    }
};

scene small(const char* name, int width = 96, int height = 60) {
    scene made = find_reference(name)->scene;
    made.expects.clear();
    made.view.width = width;
    made.view.height = height;
    return made;
}

// The same scene, lit by a C++ model that it names.
template <class Model> scene lit_by_own(const scene& of, Model model) {
    scene made = of;
    made.shading.model = model_kind::blinn_phong;
    made.shading.own = {"own", any_model(model).shared()};
    return made;
}

bool is_named(const diagnosis& found, mistake which) {
    return found.verdict == verdict_kind::mistake &&
           (found.mistakes.front().which == std::vector{which} ||
            std::find(found.ties.begin(), found.ties.end(), which) != found.ties.end());
}

} // namespace

TEST_CASE("a built-in model written as one's own has the same mistaken pictures, mistake by mistake") {
    const model_renderer blinn_phong("blinn", own_blinn_phong{});
    const model_renderer phong("phong", own_phong{});
    const model_renderer lambert("lambert", own_lambert{});
    std::size_t compared = 0;
    for (const char* name : {"buoys", "buoys-phong", "moon-crates", "penumbras", "bollard", "searchlight"}) {
        const scene of = small(name);
        const model_kind kind = of.shading.model;
        const renderer& own = kind == model_kind::lambert ? lambert
                              : kind == model_kind::phong ? phong
                                                          : blinn_phong;
        for (const mistake_entry& one : all_mistakes()) {
            if (!applies(one.which, of) || !applies(one.which, of, lit_by::own_model)) {
                continue;
            }
            CAPTURE(name);
            CAPTURE(one.id);
            const picture expected = draw_with_mistakes(of, {one.which});
            const picture found = draw_with_mistakes(of, {one.which}, {}, own.own_model());
            double most = 0;
            for (std::size_t i = 0; i < expected.values.size(); ++i) {
                const double a = expected.values[i];
                const double b = found.values[i];
                most = std::max(most, std::abs(a - b) / std::max(1e-3, std::abs(a)));
            }
            // Both are worked out in double and rounded to float once; a power by another way is off by some
            // 64 · 2⁻⁵³ before that. A step of a float, where the two are rounded apart.
            CHECK(most <= 2 * 0x1p-24);
            ++compared;
        }
    }
    MESSAGE(compared << " mistaken pictures");
    CHECK(compared > 150);
}

TEST_CASE("the formulas that a model of one's own does not use cannot be wrong in it") {
    const scene of = small("bollard");
    for (const mistake one :
         {mistake::cosine_not_clamped, mistake::specular_on_unlit_side, mistake::half_not_normalized,
          mistake::specular_reflect_flipped, mistake::specular_half_for_reflect}) {
        CHECK_FALSE(applies(one, of, lit_by::own_model));
    }
}

TEST_CASE("diagnose: mistakes in what one's own model is given are named; its right pictures are right" *
          doctest::test_suite("slow")) {
    const model_renderer bands("bands", own_bands{});
    const model_renderer blinn("blinn", own_blinn_phong{});
    testing::part_of_list part;
    std::size_t asked = 0;
    std::size_t named = 0;
    for (const renderer* by : {static_cast<const renderer*>(&bands), static_cast<const renderer*>(&blinn)}) {
        const scene of = small("buoys", 320, 200);
        CHECK(diagnose(of, by->draw(of), pixel_format::floats, {}, *by).verdict == verdict_kind::right);
        const picture right = draw_with_mistakes(of, {}, {}, by->own_model());
        for (const mistake_entry& one : all_mistakes()) {
            if (!part.asks_next() || !applies(one.which, of, lit_by::own_model) || is_of_codes(one.which)) {
                continue;
            }
            const picture wrong = draw_with_mistakes(of, {one.which}, {}, by->own_model());
            std::size_t off = 0;
            for (std::size_t i = 0; i < wrong.values.size(); i += 4) {
                off += std::abs(wrong.values[i] - right.values[i]) > 0.02F ? 1U : 0U;
            }
            if (off < 64) {
                continue; // it does not show
            }
            CAPTURE(one.id);
            CAPTURE(by->name_for(of));
            const bool found = is_named(diagnose(of, wrong, pixel_format::floats, {}, *by), one.which);
            CHECK(found);
            ++asked;
            named += found ? 1U : 0U;
        }
    }
    MESSAGE(named << " of " << asked << " named");
    CHECK((asked > 50 || !testing::whole));
}

TEST_CASE(
    "explain: one's own model is told by its terms, or, where it finishes itself, by its colour alone") {
    const scene of = small("buoys", 320, 200);
    const model_renderer bands("bands", own_bands{});
    const model_renderer blinn("blinn", own_blinn_phong{});
    const explanation built_in = explain(of, 100, 80);
    const explanation own = explain(of, 100, 80, blinn);
    REQUIRE(own.point.lights.size() == built_in.point.lights.size());
    for (std::size_t i = 0; i < own.point.lights.size(); ++i) {
        CHECK(own.point.lights[i].diffuse.r ==
              doctest::Approx(built_in.point.lights[i].diffuse.r).epsilon(1e-12));
        CHECK(own.point.lights[i].specular.g ==
              doctest::Approx(built_in.point.lights[i].specular.g).epsilon(1e-10));
        CHECK(own.point.lights[i].falloff == built_in.point.lights[i].falloff);
    }
    const explanation banded = explain(of, 100, 80, bands);
    CHECK(banded.point.lights[0].diffuse == rgb<double>{});
    const double share = banded.linear.r / banded.point.base.r;
    CHECK((std::abs(share - 1) <= 1e-6 || std::abs(share - 0.4F) <= 1e-6));
    CHECK(diagnose(of, bands.draw(of), pixel_format::floats, {}, bands).makeup.empty());
    CHECK_FALSE(diagnose(of, blinn.draw(of), pixel_format::floats, {}, blinn).makeup.empty());
}

TEST_CASE(
    "a scene that names a C++ model is drawn and checked by it; one that equals a built-in model has its "
    "pictures, and tolerances not six times as wide") {
    for (const char* name : {"buoys", "buoys-phong", "moon-crates", "searchlight", "lamp-parts", "bollard"}) {
        CAPTURE(name);
        scene built_in = small(name);
        built_in.formulas = {};
        const scene own = built_in.shading.model == model_kind::lambert ? lit_by_own(built_in, own_lambert{})
                          : built_in.shading.model == model_kind::phong
                              ? lit_by_own(built_in, own_phong{})
                              : lit_by_own(built_in, own_blinn_phong{});
        REQUIRE_FALSE(find_fault(own).has_value());
        const check_report held = check(own, built_in_renderer());
        CAPTURE(held.failures());
        CHECK(held.failed() == 0);
        double most = 0;
        std::size_t wide = 0;
        const caster by_equations(built_in);
        const caster by_model(own);
        for (int y = 0; y < own.view.height; ++y) {
            for (int x = 0; x < own.view.width; ++x) {
                const cast_color expected = by_equations.at(x + 0.5, y + 0.5);
                const cast_color found = by_model.at(x + 0.5, y + 0.5);
                most = std::max(most, std::abs(found.color.g - expected.color.g) / (expected.color.g + 1e-3));
                wide += found.tolerance.g > 6 * expected.tolerance.g + 1e-7 ? 1U : 0U;
            }
        }
        // Both work in double; a power by another way is off by shininess × unit roundoff.
        CHECK(most <= 256 * 0x1p-53);
        // A gate or a highlight's border is nearer by what the inputs are moved twice as far.
        CHECK(wide <= 96 * 60 / 100);
    }
}

TEST_CASE("a wrong picture of a scene that names a C++ model does not hold against the second method") {
    const scene of = lit_by_own(small("buoys"), own_blinn_phong{});
    const picture right = draw(of);
    CHECK(hold_against_second_method(of, right, pixel_format::floats, {}).passed);
    std::size_t asked = 0;
    for (const mistake_entry& one : all_mistakes()) {
        if (!applies(one.which, of) || is_of_codes(one.which)) {
            continue;
        }
        const picture wrong = draw_with_mistakes(of, {one.which});
        std::size_t off = 0;
        for (std::size_t i = 0; i < wrong.values.size(); i += 4) {
            off += std::abs(wrong.values[i] - right.values[i]) > 1e-3F ? 1U : 0U;
        }
        if (off < 64) {
            continue;
        }
        CAPTURE(one.id);
        CHECK_FALSE(hold_against_second_method(of, wrong, pixel_format::floats, {}).passed);
        ++asked;
    }
    MESSAGE(asked << " mistakes");
    CHECK(asked > 20);
}

namespace {

// Light or none by the last bits of a sum: nobody can say which is right.
struct own_coin {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        const Real cosine = dot(s.normal, in.to_light);
        return {in.light * select(dot(s.normal, s.normal) > Real(1), cosine * cosine, Real(0)), {}};
    }
};

} // namespace

TEST_CASE("a model that rounding alone decides holds against no picture, and check says so") {
    const scene undecided = lit_by_own(small("buoys"), own_coin{});
    const check_report held = check(undecided, built_in_renderer());
    const auto said = std::find_if(held.checks.begin(), held.checks.end(),
                                   [](const check_result& each) { return each.kind == "model"; });
    REQUIRE(said != held.checks.end());
    CHECK_FALSE(said->passed);
    CHECK(said->measured.front() > said->tolerance);
    CHECK(said->remark.find("rounding alone") != std::string::npos);
    // One that is decided says so too.
    const check_report right = check(lit_by_own(small("buoys"), own_blinn_phong{}), built_in_renderer());
    const auto decided = std::find_if(right.checks.begin(), right.checks.end(),
                                      [](const check_result& each) { return each.kind == "model"; });
    REQUIRE(decided != right.checks.end());
    CHECK(decided->passed);
}

TEST_CASE("a model of one's own with a finish of its own, named by a scene, holds") {
    const scene of = lit_by_own(small("buoys"), own_bands{});
    const check_report held = check(of, built_in_renderer());
    CAPTURE(held.failures());
    CHECK(held.failed() == 0);
}

namespace {

struct own_tint {
    float share = 0.5F;
    rgb<float> tint{1, 1, 1};
    void list_numbers(model_numbers& of) {
        of("share", share);
        of("tint", tint);
    }
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * (max(dot(s.normal, in.to_light), Real(0)) * share) * rgb<Real>(tint), {}};
    }
};

} // namespace

TEST_CASE("a model's numbers are set by their names") {
    const any_model as_it_is(own_tint{});
    CHECK(as_it_is->number_names() == std::vector<std::string>{"share", "tint"});
    const scene of = small("moon-crates");
    const auto color_with = [&](const std::vector<formulas::named_number>& numbers) {
        return rgb<double>(draw(of, as_it_is.with(numbers)).color(48, 30));
    };
    const rgb<double> before = color_with({});
    const rgb<double> after = color_with({{"share", {0.25}}, {"tint", {1, 0.5, 0.25}}, {"other", {9}}});
    scene dark = of;
    dark.lights.clear();
    const rgb<double> ambient(draw(dark, as_it_is).color(48, 30));
    REQUIRE(before.r - ambient.r > 0.01);
    // Halves and quarters are exact; the sum with ambient light is rounded once.
    const double rounded = 4 * 0x1p-24;
    CHECK(std::abs((after.r - ambient.r) - 0.5 * (before.r - ambient.r)) <= rounded);
    CHECK(std::abs((after.g - ambient.g) - 0.25 * (before.g - ambient.g)) <= rounded);
    CHECK(std::abs((after.b - ambient.b) - 0.125 * (before.b - ambient.b)) <= rounded);
    CHECK(color_with({{"tint", {0.5}}, {"share", {1}}}) == before); // one value for all three
    CHECK_THROWS_WITH_AS(
        (void)as_it_is.with({{"tint", {1, 2}}}),
        "numbers.tint: the model's `tint` has 3 components, not 2; three numbers, or one for all", error);
    CHECK(any_model(own_lambert{})->number_names().empty());
}

TEST_CASE("a model's lights have the same numbers in the pipeline and in the second method") {
    for (const char* const name :
         {"penumbras", "lantern-quay", "many-lanterns", "lamp-parts", "moon-crates", "plates"}) {
        CAPTURE(name);
        const scene made = lit_by_own(small(name), own_of_all_numbers{});
        const check_result found = hold_against_second_method(made, draw(made));
        CAPTURE(found.used);
        CHECK(found.passed);
        CHECK(found.used <= 0.5);
    }
}
