// Formulas of one's own: the pipeline against the second method, mistakes in what they are given, and points
// where they give no number.
#include <cstdlib>

#include <doctest/doctest.h>

#include "support/buoy_scene.hpp"
#include "support/printing.hpp"
#include "support/random_formulas.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "support/told_result.hpp"
#include "verify/cast.hpp"
#include "verify/plain_formulas.hpp"
#include "yurvo/formula/evaluate.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using formulas::slot;

namespace {

// A built-in model and its laws, written out.
void write_out(scene& of) {
    of.formulas[slot::falloff] = "1.0 / (d * d)";
    of.formulas[slot::penumbra] = "smoothstep(cos_outer, cos_inner, cos_theta)";
    of.formulas[slot::diffuse] = "max(dot(n, l), 0.0)";
    of.formulas[slot::ambient] = "1.0";
    of.formulas[slot::color] = "c";
    if (of.shading.model == model_kind::phong) {
        of.formulas[slot::specular] = "dot(n, l) > 0.0 ? pow(max(dot(r, v), 0.0), shininess) : 0.0";
    } else if (of.shading.model == model_kind::blinn_phong) {
        of.formulas[slot::specular] = "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0";
    }
}

scene lit_buoys(model_kind model, rate at) {
    scene made = testing::buoy_scene(model);
    made.shading.rate = at;
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.position = {1.5, 1.2, 2};
    lantern.light.intensity = 3;
    lantern.light.ambient = {0.1, 0.05, 0.02};
    made.lights.push_back(lantern);
    named_light spot = lantern;
    spot.name = "searchlight";
    spot.light.kind = light_kind::spot;
    spot.light.position = {-1.5, 1, 2.5};
    spot.light.shines = {1.5, -1, -2.5};
    spot.light.inner = radians(12);
    spot.light.outer = radians(24);
    made.lights.push_back(spot);
    return made;
}

} // namespace

TEST_CASE("a built-in model written out as formulas equals the built-in one") {
    for (const model_kind model : {model_kind::lambert, model_kind::phong, model_kind::blinn_phong}) {
        for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
            CAPTURE(model);
            CAPTURE(at);
            const scene built_in = lit_buoys(model, at);
            scene written = built_in;
            write_out(written);
            const picture right = draw(built_in);
            const picture found = draw(written);
            const verify::caster casts(built_in);
            const verify::caster by_formulas(written);
            double most = 0;
            double most_in_double = 0;
            for (int y = 0; y < right.height; ++y) {
                for (int x = 0; x < right.width; ++x) {
                    const rgb<double> a(right.color(x, y));
                    const rgb<double> b(found.color(x, y));
                    most = std::max({most, std::abs(a.r - b.r), std::abs(a.g - b.g), std::abs(a.b - b.b)});
                    const rgb<double> c = casts.at(x + 0.5, y + 0.5).color;
                    const rgb<double> d = by_formulas.at(x + 0.5, y + 0.5).color;
                    most_in_double = std::max(
                        {most_in_double, std::abs(c.r - d.r), std::abs(c.g - d.g), std::abs(c.b - d.b)});
                }
            }
            // Colours up to 2; a power of 32 of a cosine known to 3u, and some twenty operations.
            CHECK(most <= 2 * (32 * 3 + 20) * 0x1p-24);
            CHECK(most_in_double <= 1e-12);
        }
    }
}

TEST_CASE("random scenes with formulas and parts agree with rays cast in double") {
    const std::uint64_t last = testing::random_scene_count(50);
    double most_used = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        scene made = testing::random_scenes(seed, true).next(96, 60);
        testing::random_formulas(seed).give(made);
        const verify::check_result result = verify::hold_against_second_method(made, draw(made));
        CAPTURE(seed);
        INFO(testing::told(result));
        CHECK(result.passed);
        CHECK(result.used <= 0.5);
        most_used = std::max(most_used, result.used);
    }
    MESSAGE("seeds 1 to " << last << ": at most " << most_used << " of the tolerance is used");
}

TEST_CASE("point by point, as mistakes are drawn, formulas give what the pipeline draws") {
    const std::uint64_t last = 100 + testing::random_scene_count(12);
    MESSAGE("seeds 101 to " << last);
    for (std::uint64_t seed = 101; seed <= last; ++seed) {
        scene made = testing::random_scenes(seed, true).next(96, 60);
        testing::random_formulas(seed).give(made);
        CAPTURE(seed);
        CHECK(verify::hold_against_second_method(made, verify::draw_with_mistakes(made, {})).passed);
    }
}

TEST_CASE("intervals of the second method hold what float and double give") {
    // Every function on numbers from all over, in float by the standard library: within the interval.
    const std::vector<std::pair<const char*, double (*)(double)>> functions{
        {"sin(x)", std::sin},
        {"cos(x)", std::cos},
        {"tan(x)", std::tan},
        {"exp(x)", std::exp},
        {"exp2(x)", std::exp2},
        {"atan(x)", std::atan},
        {"floor(x)", std::floor},
        {"ceil(x)", std::ceil},
        {"abs(x)", std::abs},
        {"sqrt(x * x)", [](double x) { return std::abs(x); }},
        {"log(1.0 + x * x)", [](double x) { return std::log(1 + x * x); }},
        {"asin(sin(x) * 0.9)", [](double x) { return std::asin(std::sin(x) * 0.9); }},
        {"pow(1.0 + abs(x), 2.5)", [](double x) { return std::pow(1 + std::abs(x), 2.5); }},
        {"x - 2.0 * floor(x / 2.0)", [](double x) { return x - 2 * std::floor(x / 2); }},
        {"mod(x, 2.0)", [](double x) { return x - 2 * std::floor(x / 2); }},
        {"smoothstep(-1.0, 2.0, x)", [](double x) {
             const double t = std::clamp((x + 1) / 3, 0.0, 1.0);
             return t * t * (3 - 2 * t);
         }}};
    for (const auto& each : functions) {
        const auto& text = each.first;
        const auto& exact = each.second;
        CAPTURE(text);
        const verify::plain_formula formula(text);
        for (int step = 0; step < 170; ++step) {
            const double x = -6.05 + 0.0713 * step; // to 5.9997
            const double rounded = static_cast<float>(x);
            verify::plain_names known;
            known[verify::plain_name("x")] = verify::range(std::min(x, rounded), x, std::max(x, rounded));
            const verify::plain_value value = formula.evaluate(known);
            CAPTURE(x);
            CHECK(value.at(0).value == doctest::Approx(exact(x)).epsilon(1e-12));
            CHECK(value.at(0).low <= exact(rounded) + 1e-12);
            CHECK(value.at(0).high >= exact(rounded) - 1e-12);
        }
    }
}

TEST_CASE("the second method knows where a comparison is open, and where float may find no number") {
    // What is true of some numbers within two intervals, of none or of all.
    struct compared {
        const char* text;
        std::array<double, 2> x, y; // least and greatest; the middle is the value
        bool can_fail, holds, can_hold;
    };
    const std::vector<compared> all{
        {"x == y", {1, 1}, {1, 1}, false, true, true},
        {"x == y", {1, 2}, {3, 4}, true, false, false},
        {"x == y", {1, 2}, {2, 3}, true, false, true},
        {"x == y", {1, 3}, {1, 3}, true, true, true},
        {"x == y", {3, 4}, {1, 2}, true, false, false},
        {"x != y", {1, 1}, {1, 1}, true, false, false},
        {"x != y", {1, 2}, {3, 4}, false, true, true},
        {"x != y", {3, 4}, {1, 2}, false, true, true},
        {"x != y", {1, 3}, {1, 3}, true, false, true},
        {"x < y", {1, 2}, {3, 4}, false, true, true},
        {"x < y", {1, 2}, {2, 3}, true, true, true},
        {"x < y", {2, 3}, {1, 2}, true, false, false},
        {"x <= y", {1, 2}, {2, 3}, false, true, true},
        {"x <= y", {2, 3}, {1, 2}, true, false, true},
        {"x > y", {2, 3}, {1, 2}, true, true, true},
        {"x > y", {1, 2}, {2, 3}, true, false, false},
        {"x >= y", {2, 3}, {1, 2}, false, true, true},
        {"x >= y", {1, 2}, {2, 3}, true, false, true},
        {"x < y && x > 0.0", {1, 2}, {3, 4}, false, true, true},
        {"x > y || x > 0.0", {1, 2}, {3, 4}, false, true, true},
        {"!(x < y)", {1, 2}, {2, 3}, true, false, true},
    };
    const auto middle = [](const std::array<double, 2>& ends) {
        return verify::range(ends[0], (ends[0] + ends[1]) / 2, ends[1]);
    };
    const auto asked = [&](const std::string& text, const std::array<double, 2>& x,
                           const std::array<double, 2>& y) {
        verify::plain_names known;
        known[verify::plain_name("x")] = middle(x);
        known[verify::plain_name("y")] = middle(y);
        return verify::plain_formula(text).evaluate(known);
    };
    for (const compared& each : all) {
        CAPTURE(each.text);
        CAPTURE(each.x);
        CAPTURE(each.y);
        const verify::plain_value found = asked(std::string(each.text) + " ? 1.0 : 0.0", each.x, each.y);
        CHECK(found.at(0).low == (each.can_fail ? 0 : 1));
        CHECK(found.at(0).value == (each.holds ? 1 : 0));
        CHECK(found.at(0).high == (each.can_hold ? 1 : 0));
    }
    for (const char* const text : {"acos(x)", "asin(x)", "sqrt(1.0 - x)", "log(1.0 - x)", "pow(1.0 - x, 0.5)",
                                   "1.0 / (1.0 - x)", "inversesqrt(1.0 - x)", "mod(1.0, 1.0 - x)"}) {
        CAPTURE(text);
        CHECK(asked(text, {0.9, 1.1}, {0, 0}).doubtful);
        CHECK(!asked(text, {0.2, 0.3}, {0, 0}).doubtful);
    }
    for (const char* const text : {"acos(x)", "asin(x)"}) { // the other end
        CHECK(asked(text, {-1.1, -0.9}, {0, 0}).doubtful);
        CHECK(!asked(text, {-1, -0.9}, {0, 0}).doubtful);
    }
    CHECK(asked("tan(x)", {1.5, 1.6}, {0, 0}).doubtful); // π / 2 is 1.5708
    CHECK(!asked("tan(x)", {1.6, 1.7}, {0, 0}).doubtful);
}

TEST_CASE("intervals of the second method end where the function's own values end") {
    struct ends {
        const char* text;
        std::array<double, 2> x, y;
        double least, most;
    };
    const std::vector<ends> all{
        {"x + y", {1, 2}, {-3, 5}, -2, 7},
        {"x - y", {1, 2}, {-3, 5}, -4, 5},
        {"x * y", {-1, 2}, {-3, 5}, -6, 10},
        {"x / y", {-1, 2}, {4, 5}, -0.25, 0.5},
        {"x / y", {1, 2}, {-5, -4}, -0.5, -0.2},
        {"pow(x, y)", {2, 3}, {1, 2}, 2, 9},
        {"pow(x, y)", {0.5, 2}, {-1, 3}, 0.125, 8},
        {"pow(x, y)", {0.5, 0.75}, {1, 2}, 0.25, 0.75},
        {"pow(x, y)", {0, 2}, {3, 3}, 0, 8},
        {"exp(x)", {-1, 2}, {0, 0}, std::exp(-1.0), std::exp(2.0)},
        {"sin(x)", {0.25, 2}, {0, 0}, std::sin(0.25), 1},
        {"sin(x)", {3, 5}, {0, 0}, -1, std::sin(3.0)},
        {"cos(x)", {-1, 2}, {0, 0}, std::cos(2.0), 1},
        {"abs(x)", {-1, 2}, {0, 0}, 0, 2},
        {"abs(x)", {-3, -2}, {0, 0}, 2, 3},
        {"sqrt(x)", {4, 9}, {0, 0}, 2, 3},
        {"inversesqrt(x)", {4, 16}, {0, 0}, 0.25, 0.5},
        {"fract(x)", {1.25, 1.75}, {0, 0}, 0.25, 0.75},
        {"fract(x)", {0.75, 1.25}, {0, 0}, 0, 1},
        {"floor(x)", {0.75, 2.25}, {0, 0}, 0, 2},
        {"min(x, y)", {1, 4}, {2, 3}, 1, 3},
        {"max(x, y)", {1, 4}, {2, 3}, 2, 4},
        {"clamp(x, 0.0, 1.0)", {-1, 0.5}, {0, 0}, 0, 0.5},
        {"step(x, y)", {1, 2}, {1.5, 3}, 0, 1},
        {"step(x, y)", {1, 2}, {3, 4}, 1, 1},
        {"atan(x, y)", {1, 2}, {1, 2}, std::atan2(1, 2), std::atan2(2, 1)},
    };
    for (const ends& each : all) {
        CAPTURE(each.text);
        CAPTURE(each.x);
        verify::plain_names known;
        known[verify::plain_name("x")] = verify::range(each.x[0], (each.x[0] + each.x[1]) / 2, each.x[1]);
        known[verify::plain_name("y")] = verify::range(each.y[0], (each.y[0] + each.y[1]) / 2, each.y[1]);
        const verify::plain_value found = verify::plain_formula(each.text).evaluate(known);
        // Some roundings of a float of what is at hand, no more: a wider interval would let mistakes pass.
        const double room = 0x1p-24 * 64 * (1 + std::abs(each.least) + std::abs(each.most));
        CHECK(found.at(0).low <= each.least + 1e-15);
        CHECK(found.at(0).low >= each.least - room);
        CHECK(found.at(0).high >= each.most - 1e-15);
        CHECK(found.at(0).high <= each.most + room);
    }
}

TEST_CASE("where a formula gives no number the picture is black, counted, and check fails") {
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        scene made = lit_buoys(model_kind::blinn_phong, at);
        // No number on the left half of the buoy.
        made.formulas[slot::diffuse] = "sqrt(position.x)";
        draw_statistics statistics;
        const picture found = draw(made, {}, &statistics);
        const auto counted = statistics.not_finite[static_cast<std::size_t>(slot::diffuse)];
        CAPTURE(at);
        CHECK(counted > 0);
        CHECK(counted < statistics.evaluations);
        for (const float value : found.values) {
            CHECK(std::isfinite(value));
        }
        if (at == rate::fragment) {
            CHECK(found.color(40, 30).r == 0); // left of the middle, on the buoy
            CHECK(found.color(56, 30).r > 0);
        }
        const check_report report = check(made, built_in_renderer());
        CHECK(report.failed() > 0);
        CHECK(report.failures().find("diffuse") != std::string::npos);
        for (const verify::check_result& each : report.checks) {
            if (each.kind == "formula") {
                CHECK(each.measured[0] > 0);
                CHECK(!each.passed);
                CHECK(each.used > 1); // endless, or by how many pixels rounding leaves open besides
            }
        }
        made.formulas[slot::diffuse] = "sqrt(abs(position.x))";
        for (const verify::check_result& each : check(made, built_in_renderer()).checks) {
            if (each.kind == "formula") {
                CHECK(each.measured == std::vector<double>{0});
                CHECK(each.used == 0);
            }
        }
        made.formulas[slot::diffuse] = "sqrt(position.x)";
        // The second method knows as well where it is black.
        CHECK(verify::hold_against_second_method(made, found).passed);
    }
}

TEST_CASE("a formula that rounding leaves undecided is no place for a mistake to hide") {
    scene made = lit_buoys(model_kind::blinn_phong, rate::fragment);
    // 1 in double, anything from a root of less than 0 to 1 in float: every wrong value would be within that.
    made.formulas[slot::diffuse] = "max(dot(n, l), 0.0) * (1.0 + sqrt(dot(n, n) - 1.0) * 1000.0)";
    const check_report report =
        check(made, function_renderer([](const scene& of) {
                  return picture(of.view.width, of.view.height, rgb<float>(of.view.background));
              }));
    CHECK(report.failures().find("too many to tell right from wrong") != std::string::npos);
}

TEST_CASE("a light at the point itself and a surface without a normal ask nothing of a formula") {
    scene made = testing::buoy_scene(model_kind::lambert);
    made.objects[0].shape = plane_shape{{2, 2}, {2, 2}};
    made.shading.rate = rate::vertex;
    made.view.eye = {0, 3, 0.5};
    named_light lantern;
    lantern.light.position = {0, 0, 0}; // at the middle vertex
    made.lights = {lantern};
    made.formulas[slot::falloff] = "1.0 / (d * d)";
    made.formulas[slot::diffuse] = "1.0 / d";
    draw_statistics statistics;
    const picture found = draw(made, {}, &statistics);
    for (const std::uint64_t count : statistics.not_finite) {
        CHECK(count == 0);
    }
    CHECK(verify::hold_against_second_method(made, found).passed);
}

TEST_CASE("no right picture of a scene with formulas is accused") {
    const std::uint64_t last = 300 + testing::random_scene_count(12);
    MESSAGE("seeds 301 to " << last);
    for (std::uint64_t seed = 301; seed <= last; ++seed) {
        scene made = testing::random_scenes(seed, true).next(160, 100);
        testing::random_formulas(seed).give(made);
        const verify::diagnosis result = verify::diagnose(made, draw(made), pixel_format::floats);
        CAPTURE(seed);
        CHECK(result.verdict == verify::verdict_kind::right);
    }
}

TEST_CASE("mistakes in random scenes with formulas are named from their 8-bit pictures" *
          doctest::test_suite("slow")) {
    const std::uint64_t last = 500 + testing::random_scene_count(4);
    testing::part_of_list part;
    std::size_t tried = 0;
    std::size_t named = 0;
    for (std::uint64_t seed = 501; seed <= last; ++seed) {
        scene made = testing::random_scenes(seed, true).next(160, 100);
        testing::random_formulas(seed).give(made);
        const auto codes_of_mistake = [&](const verify::mistake_set& wrong) {
            return picture_of(160, 100, verify::codes_with(verify::draw_with_mistakes(made, wrong), wrong));
        };
        const picture right = codes_of_mistake({});
        for (const verify::mistake_entry& entry : verify::all_mistakes()) {
            if (!part.asks_next() || !verify::applies(entry.which, made)) {
                continue;
            }
            const picture wrong = codes_of_mistake({entry.which});
            std::size_t off = 0; // pixels by four codes or more
            for (std::size_t i = 0; i < wrong.values.size(); i += 4) {
                const auto code = [&](const picture& of, std::size_t c) {
                    return static_cast<int>(code_of(of.values[i + c], encoding::srgb));
                };
                bool apart = false;
                for (std::size_t c = 0; c < 4; ++c) {
                    apart = apart || std::abs(code(wrong, c) - code(right, c)) >= 4;
                }
                off += apart ? 1U : 0U;
            }
            if (off < 64) {
                continue; // it does not show
            }
            const verify::diagnosis found = verify::diagnose(made, wrong, pixel_format::srgb_codes);
            ++tried;
            CAPTURE(seed);
            CAPTURE(entry.id);
            CHECK(found.verdict != verify::verdict_kind::right);
            const bool first =
                !found.mistakes.empty() && found.mistakes.front().which == std::vector{entry.which};
            if (first || std::find(found.ties.begin(), found.ties.end(), entry.which) != found.ties.end()) {
                ++named;
            } else {
                MESSAGE("seed " << seed << ": " << entry.id << " is not named");
            }
        }
    }
    MESSAGE("seeds 501 to " << last << ": " << named << " of " << tried << " named");
    CHECK((tried > 60 || !testing::whole));
    CHECK(100 * named >= 95 * tried);
}

TEST_CASE("mistakes act on formulas as the catalogue says") {
    using enum verify::mistake;
    scene made = lit_buoys(model_kind::blinn_phong, rate::fragment);
    write_out(made);
    for (const verify::mistake gone : {falloff_not_squared, cone_inner_outer_swapped, cosine_not_clamped,
                                       specular_on_unlit_side, specular_half_for_reflect}) {
        CAPTURE(verify::entry_of(gone).id);
        CHECK(!verify::applies(gone, made));
    }
    for (const verify::mistake stays :
         {falloff_missing, falloff_after_normalize, cone_angle_in_degrees, half_not_normalized,
          eye_vector_flipped, viewer_at_infinity, specular_without_falloff, ambient_missing, factor_pi,
          light_direction_flipped}) {
        CAPTURE(verify::entry_of(stays).id);
        CHECK(verify::applies(stays, made));
        // The same picture as of the built-in model with that mistake, which formulas write out.
        scene built_in = lit_buoys(model_kind::blinn_phong, rate::fragment);
        const picture a = verify::draw_with_mistakes(built_in, {stays});
        const picture b = verify::draw_with_mistakes(made, {stays});
        for (std::size_t i = 0; i < a.values.size(); ++i) {
            CHECK(std::abs(a.values[i] - b.values[i]) <= 1e-6F * (1 + std::abs(a.values[i])));
        }
    }
    made.formulas[slot::v] = "axis";
    CHECK(!verify::applies(eye_vector_flipped, made));
    CHECK(!verify::applies(viewer_at_infinity, made));
    CHECK(!verify::applies(specular_eye_at_origin, made));
    made.formulas[slot::h] = "normalize(l + v)";
    CHECK(!verify::applies(half_not_normalized, made));
}

TEST_CASE("a cone's angle in degrees: formulas are given the cosines of that") {
    scene made = lit_buoys(model_kind::lambert, rate::fragment);
    made.ambient_strength = 0;
    made.lights = {made.lights.back()};
    light& lamp = made.lights[0].light; // the searchlight
    lamp.ambient = {};
    made.formulas[slot::penumbra] = "0.5 + 0.25 * cos_outer + 0.125 * cos_inner";
    const auto penumbra = [&](double of_an_angle) {
        return 0.5 + 0.25 * std::cos(of_an_angle * lamp.outer) + 0.125 * std::cos(of_an_angle * lamp.inner);
    };
    const double degrees_in_a_radian = 180 / std::acos(-1.0);
    const double expected = penumbra(degrees_in_a_radian) / penumbra(1);
    const picture right = verify::draw_with_mistakes(made, {});
    const picture wrong = verify::draw_with_mistakes(made, {verify::mistake::cone_angle_in_degrees});
    std::size_t lit = 0;
    for (int y = 0; y < right.height; ++y) {
        for (int x = 0; x < right.width; ++x) {
            const float here = right.color(x, y).g; // in which nothing glows
            if (right.color(x, y) != rgb<float>(made.view.background) && here > 1e-3F) {
                ++lit;
                CHECK(static_cast<double>(wrong.color(x, y).g / here) ==
                      doctest::Approx(expected).epsilon(1e-6));
            }
        }
    }
    CHECK(lit > 100);
}

TEST_CASE("explain tells each formula, what it was given and what it gave") {
    scene made = lit_buoys(model_kind::blinn_phong, rate::fragment);
    made.numbers = {{"wrap", {0.5}}};
    made.formulas[slot::diffuse] = "max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)";
    made.formulas[slot::more] = "vec3(0.01, 0.02, 0.03)";
    const verify::explanation told = verify::explain(made, 48, 30);
    REQUIRE(told.point.formulas.size() == 4); // one for each of three lights, and one
    for (std::size_t i = 0; i < 3; ++i) {
        const verify::explained_formula& asked = told.point.formulas[i];
        CHECK(asked.name == "diffuse");
        CHECK(asked.light == told.point.lights[i].name);
        REQUIRE(asked.value.size() == 1);
        CHECK(asked.value[0] == doctest::Approx(std::max((told.point.lights[i].cosine + 0.5) / 1.5, 0.0)));
        REQUIRE(asked.inputs.size() == 3);
        CHECK(asked.inputs[2].name == "wrap");
    }
    CHECK(told.point.formulas[3].name == "more");
    CHECK(told.point.formulas[3].light == "");
    CHECK(told.point.more.g == 0.02);
}
