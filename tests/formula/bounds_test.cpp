// What is known of a formula's value before any of its inputs: closed forms, and the formula itself at
// points.
#include <algorithm>
#include <cmath>
#include <random>

#include <doctest/doctest.h>

#include "yurvo/formula/bounds.hpp"
#include "yurvo/formula/evaluate.hpp"
#include "yurvo/formula/formula_set.hpp"

using namespace yurvo;
using formulas::bounds;
using formulas::component_bounds;
using formulas::components;

namespace {

const std::vector<formulas::known_name> bounded_names{
    {"x", {1, false}}, {"y", {1, false}}, {"a", {3, false}}, {"b", {3, false}}, {"yes", {1, true}}};

component_bounds between(double low, double high) {
    component_bounds all;
    all.fill({low, high});
    return all;
}

bounds of(const std::string& text, const component_bounds& x, const component_bounds& y = between(0, 0)) {
    return bounds_of(formulas::parse(text, bounded_names),
                     {x, y, between(-1, 1), between(2, 3), between(0, 1)})[0];
}

} // namespace

TEST_CASE("a value lies where its inputs put it, with room for a float's rounding and no more") {
    struct known {
        const char* text;
        double x_low, x_high, low, high;
    };
    const known all[]{
        {"x + 2.0", -1, 3, 1, 5},
        {"2.0 - x", -1, 3, -1, 3},
        {"x * x", -1, 3, 0, 9},
        {"x * -2.0", -1, 3, -6, 2},
        {"1.0 / (1.0 + x * x)", -1, 1, 0.5, 1},
        {"1.0 / x", 2, 4, 0.25, 0.5},
        {"max(x, 0.0)", -1, 3, 0, 3},
        {"min(x, 0.5)", -1, 3, -1, 0.5},
        {"clamp(x, 0.0, 1.0)", -1, 3, 0, 1},
        {"abs(x)", -1, 3, 0, 3},
        {"abs(x)", -5, -3, 3, 5},
        {"sqrt(x)", 4, 9, 2, 3},
        {"inversesqrt(x)", 4, 16, 0.25, 0.5},
        {"exp(-x)", 0, 2, std::exp(-2.0), 1},
        {"log2(x)", 2, 8, 1, 3},
        {"floor(x)", -1.5, 3.5, -2, 3},
        {"mix(2.0, 4.0, x)", 0, 1, 0, 6}, // the two halves apart know nothing of each other
        {"x < 0.0 ? 1.0 : 2.0", -1, 3, 1, 2},
        {"x < 4.0 ? 1.0 : 2.0", -1, 3, 1, 1},
        {"x >= 4.0 ? 1.0 : 2.0", -1, 3, 2, 2},
        {"x < 4.0 && !(x < 4.0) ? 1.0 : 2.0", -1, 3, 2, 2},
        {"step(4.0, x)", -1, 3, 0, 0},
        {"length(vec2(x, 3.0))", 4, 4, 5, 5},
        {"dot(b, b)", 0, 0, 12, 27}, // b is from 2 to 3 in each component
        {"distance(b, vec3(0.0))", 0, 0, std::sqrt(12.0), std::sqrt(27.0)},
        {"cross(vec3(1.0, 0.0, 0.0), vec3(0.0, x, 0.0)).z", 1, 2, 1, 2},
        {"b.zy.y", 0, 0, 2, 3},
        {"vec3(x).z", 1, 2, 1, 2},
        {"radians(x)", 0, 180, 0, 3.141592653589793},
    };
    for (const known& each : all) {
        CAPTURE(std::string(each.text));
        const bounds found = of(each.text, between(each.x_low, each.x_high));
        CAPTURE(found.low);
        CAPTURE(found.high);
        // Room of 2^-17 for each of at most eight steps, of the numbers that were added.
        const double room = 8 * 0x1p-17 * std::max({1.0, std::abs(each.low), std::abs(each.high)});
        CHECK(found.low <= each.low);
        CHECK(found.low >= each.low - room);
        CHECK(found.high >= each.high);
        CHECK(found.high <= each.high + room);
    }
}

TEST_CASE("zero is said of what is zero however it is rounded, and of nothing else") {
    for (const char* text : {"max(x, 0.0)", "x > 0.0 ? 1.0 / y : 0.0", "pow(max(x, 0.0), 2.0) * 7.0",
                             "max(x * 3.0, 0.0) / 4.0", "sqrt(max(x, 0.0)) + 0.0", "vec3(max(x, 0.0)).y",
                             "min(max(x, 0.0), 1.0) * y", "clamp(x, 0.0, 1.0)"}) {
        CAPTURE(std::string(text));
        CHECK(of(text, between(-1, 0), between(-2, 2)).zero());
    }
    // The sum of 0.1 and 0.2 and −0.3 is none in float, nor is what is a little more than 0 for some inputs.
    for (const char* text :
         {"max(0.1 + 0.2 - 0.3, 0.0)", "max(x + 0.001, 0.0)", "max((x * 0.1 + 0.3) - 0.3, 0.0)", "x * x",
          "x >= 0.0 ? 1.0 : 0.0", "max(x, 0.0) + y", "max(x, 0.0) / y", "max(x, 0.0) * (1.0 / y)"}) {
        CAPTURE(std::string(text));
        CHECK(!of(text, between(-1, 0), between(-2, 2)).zero());
    }
}

TEST_CASE("where a float may be flushed to 0, zero lies within the bounds") {
    // Products of 1e-40, of which a float keeps a few digits or none.
    const bounds tiny = of("x * x", between(1e-20, 2e-20));
    CHECK(tiny.low == 0);
    CHECK(tiny.high >= 4e-40);
    const bounds negative = of("x * -x", between(1e-20, 2e-20));
    CHECK(negative.high == 0);
    CHECK(negative.low <= -4e-40);
    // 1e-28 is far enough from what is flushed: its sign is kept.
    CHECK(of("x * x", between(1e-14, 2e-14)).low > 0);
    CHECK(of("x * -x", between(1e-14, 2e-14)).high < 0);
}

TEST_CASE("what may be no number is not said to be one") {
    for (const char* text : {"1.0 / x", "log(x)", "sqrt(x - 1.0)", "pow(x, -1.0)", "pow(x - 1.0, 2.0)",
                             "inversesqrt(x)", "acos(2.0 * x)", "normalize(a * x).x", "1.0 / (x - x)",
                             "exp(100.0 * x)", "0.0 * (1.0 / x)", "max(0.0, 1.0 / x)", "tan(x)"}) {
        CAPTURE(std::string(text));
        CHECK(!of(text, between(0, 1)).finite());
    }
    for (const char* text :
         {"1.0 / (x + 0.001)", "normalize(b).x", "sin(100.0 * x)", "fract(x)", "smoothstep(0.0, 1.0, x)",
          "acos(x)", "atan(x)", "yes ? x : -x", "faceforward(a, a, b).x", "reflect(a, b).x", "sign(x)"}) {
        CAPTURE(std::string(text));
        CHECK(of(text, between(0, 1)).finite());
    }
}

TEST_CASE("vectors of length 1 have a cosine, and a power of it that is a number") {
    const formulas::expression highlight = formulas::parse("pow(max(dot(a, b), 0.0), 400.0)", bounded_names);
    const std::vector<component_bounds> inputs(5, between(-1, 1));
    CHECK(!bounds_of(highlight, inputs)[0].finite());
    CHECK(!bounds_of(highlight, inputs, {{2}, {}})[0].finite());
    const bounds known = bounds_of(highlight, inputs, {{2, 3}, {}})[0];
    CHECK(known.low <= 0);
    CHECK(known.high >= 1);
    // A cosine by 2^-17 too long to the power of 400, and a hundredth for the power's own rounding.
    CHECK(known.high <= std::pow(1 + 0x1p-17, 400) * 1.011);
}

TEST_CASE("what is known of n·l counts where it is asked for, and only there") {
    std::vector<formulas::known_name> known;
    std::vector<component_bounds> inputs;
    for (const formulas::input_descriptor& each : formulas::input_list) {
        known.push_back({std::string(each.name), each.type});
        inputs.push_back(between(-1, 1));
    }
    const auto found = [&](const char* text) {
        return bounds_of(formulas::parse(text, known), inputs, {{1, 2}, bounds{-1, 0}})[0];
    };
    CHECK(found("max(dot(n, l), 0.0)").zero());
    CHECK(found("max(dot(l, n), 0.0)").zero());
    CHECK(!found("max(dot(n, h), 0.0)").zero());
    CHECK(!found("max(dot(-n, l), 0.0)").zero());
    CHECK(!found("max(dot(n, v), 0.0)").zero());
}

TEST_CASE("no value of a formula lies outside what was said of it") {
    constexpr std::uint64_t seed = 20261129;
    MESSAGE("seed " << seed);
    std::mt19937_64 engine(seed);
    const auto uniform = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(engine);
    };
    const std::vector<std::string> leaves{"x",         "y",   "a.x", "b.y",           "length(a)",
                                          "dot(a, b)", "0.3", "2.0", "(yes ? x : y)", "distance(a, b)"};
    const std::vector<std::string> twigs{"(# + #)",
                                         "(# - #)",
                                         "(# * #)",
                                         "(# / #)",
                                         "max(#, #)",
                                         "min(#, #)",
                                         "clamp(#, 0.0, 1.0)",
                                         "abs(#)",
                                         "sqrt(#)",
                                         "exp(#)",
                                         "log(#)",
                                         "pow(#, 2.0)",
                                         "pow(abs(#), #)",
                                         "floor(#)",
                                         "ceil(#)",
                                         "fract(#)",
                                         "sin(#)",
                                         "(# < # ? # : #)",
                                         "(# <= # || # < # ? # : #)",
                                         "mix(#, #, #)",
                                         "step(#, #)",
                                         "smoothstep(0.1, 0.7, #)",
                                         "exp2(#)",
                                         "normalize(vec3(#, 1.0, #)).z",
                                         "reflect(vec3(#), a).y",
                                         "cross(a, vec3(#)).x",
                                         "sign(#)",
                                         "mod(#, 2.0)",
                                         "inversesqrt(#)",
                                         "radians(#)",
                                         "atan(#)",
                                         "acos(#)",
                                         "-#"};
    const auto one_of = [&](const std::vector<std::string>& list) {
        return list[std::uniform_int_distribution<std::size_t>(0, list.size() - 1)(engine)];
    };
    int finite = 0;
    int zero = 0;
    for (int formula = 0; formula < 3000; ++formula) {
        std::string text = one_of(twigs);
        for (std::size_t at = text.find('#'); at != std::string::npos; at = text.find('#')) {
            text.replace(at, 1, text.size() < 60 && uniform(0, 1) < 0.5 ? one_of(twigs) : one_of(leaves));
        }
        const formulas::expression parsed = formulas::parse(text, bounded_names);
        std::vector<component_bounds> inputs;
        for (std::size_t i = 0; i < bounded_names.size(); ++i) {
            component_bounds each;
            for (bounds& component : each) {
                const double low = uniform(-2, 2);
                component = i == 4                ? bounds{0, 1}
                            : uniform(0, 1) < 0.2 ? bounds{low, low}
                                                  : bounds{low, low + uniform(0, 2)};
            }
            inputs.push_back(each);
        }
        const bounds said = bounds_of(parsed, inputs)[0];
        finite += said.finite() ? 1 : 0;
        zero += said.zero() ? 1 : 0;
        for (int point = 0; point < 20; ++point) {
            std::vector<components> values;
            for (std::size_t i = 0; i < bounded_names.size(); ++i) {
                components each{};
                for (std::size_t k = 0; k < each.size(); ++k) {
                    const bounds& from = inputs[i][k];
                    const double part = uniform(-0.2, 1.2); // the ends among them
                    each[k] = std::clamp(from.low + part * (from.high - from.low), from.low, from.high);
                    each[k] = i == 4 ? std::round(each[k]) : each[k];
                }
                values.push_back(each);
            }
            const double value = evaluate(parsed, values)[0];
            if (said.finite() && !(value >= said.low && value <= said.high)) {
                CAPTURE(text);
                CAPTURE(value);
                CAPTURE(said.low);
                CAPTURE(said.high);
                FAIL_CHECK("it lies outside");
            }
        }
    }
    // Enough of them say something for this to be a test.
    CHECK(finite > 1000);
    MESSAGE(finite << " of 3000 are numbers for certain, " << zero << " are 0");
}
