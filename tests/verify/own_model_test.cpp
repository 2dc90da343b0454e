// Models of one's own under mistakes: what a model is given is as wrong for it as for a built-in one.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>

#include "yurvo/model.hpp"
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

scene small(const char* name, int width = 96, int height = 60) {
    scene made = find_reference(name)->scene;
    made.expects.clear();
    made.view.width = width;
    made.view.height = height;
    return made;
}

bool names(const diagnosis& found, mistake which) {
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
    std::size_t asked = 0;
    std::size_t named = 0;
    for (const renderer* by : {static_cast<const renderer*>(&bands), static_cast<const renderer*>(&blinn)}) {
        const scene of = small("buoys", 320, 200);
        CHECK(diagnose(of, by->draw(of), pixel_format::floats, {}, *by).verdict == verdict_kind::right);
        const picture right = draw_with_mistakes(of, {}, {}, by->own_model());
        for (const mistake_entry& one : all_mistakes()) {
            if (!applies(one.which, of, lit_by::own_model) || is_of_codes(one.which)) {
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
            const bool found = names(diagnose(of, wrong, pixel_format::floats, {}, *by), one.which);
            CHECK(found);
            ++asked;
            named += found ? 1U : 0U;
        }
    }
    MESSAGE(named << " of " << asked << " named");
    CHECK(asked > 50);
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
