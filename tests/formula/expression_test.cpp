// Formulas: what they give, of which type, and what is said of those that are wrong.
#include <cmath>
#include <random>

#include <doctest/doctest.h>

#include "support/printing.hpp"
#include "yurvo/formula/evaluate.hpp"
#include "yurvo/formula/formula_set.hpp"
#include "yurvo/formula/print.hpp"

using namespace yurvo;
using formulas::components;
using formulas::slot;

namespace {

const std::vector<formulas::known_name> names{
    {"x", {1, false}}, {"y", {1, false}}, {"a", {3, false}}, {"b", {3, false}}, {"yes", {1, true}}};
const std::vector<components> values{
    {0.3, 0, 0, 0}, {-1.7, 0, 0, 0}, {1, 2, 3, 0}, {-0.5, 0.25, 2, 0}, {1, 0, 0, 0}};

std::vector<double> value_of(const std::string& text) {
    const formulas::expression formula = formulas::parse(text, names);
    const components all = evaluate(formula, values);
    return {all.begin(), all.begin() + formula.type().width};
}

formulas::fault_in_text fault_of(const std::string& text) {
    try {
        formulas::parse(text, names);
    } catch (const formulas::fault_in_text& fault) {
        return fault;
    }
    return {9999, "there is no fault", ""};
}

} // namespace

TEST_CASE("formulas give what their functions say") {
    const double x = 0.3;
    const double y = -1.7;
    const std::vector<std::pair<const char*, std::vector<double>>> known{
        {"1 + 2 * 3", {7}},
        {"(1.0 + 2.0) * 3.0", {9}},
        {"8.0 / 4.0 / 2.0", {1}},
        {"1.0 - 2.0 - 3.0", {-4}},
        {"-x * y", {-x * y}},
        {".5 + 1. + 1e-1 + 2.0f", {3.6}},
        {"x < 1.0 ? 2.0 : 3.0", {2}},
        {"x > 1.0 ? 2.0 : y < 0.0 ? 4.0 : 5.0", {4}},
        {"x >= 0.3 && y <= -1.7 && !(x == y) || false ? 1.0 : 0.0", {1}},
        {"a == b || a != a ? 1.0 : 0.0", {0}},
        {"yes ? a : b", {1, 2, 3}},
        {"a.zyx", {3, 2, 1}},
        {"a.rg", {1, 2}},
        {"a.xxyy.w", {2}},
        {"vec3(x)", {x, x, x}},
        {"vec4(a, 1.0)", {1, 2, 3, 1}},
        {"vec2(a)", {1, 2}},
        {"vec3(a.xy, y)", {1, 2, y}},
        {"float(x)", {x}},
        {"1.0 + float(x) * 2.0 + y", {1 + x * 2 + y}},
        {"a * 2.0 + b", {1.5, 4.25, 8}},
        {"1.0 / a", {1, 0.5, 1.0 / 3}},
        {"radians(180.0)", {3.14159265358979323846}},
        {"degrees(x)", {x * 180 / 3.14159265358979323846}},
        {"sin(x) + cos(x) + tan(x)", {std::sin(x) + std::cos(x) + std::tan(x)}},
        {"asin(x) + acos(x) + atan(x)", {std::asin(x) + std::acos(x) + std::atan(x)}},
        {"atan(y, x)", {std::atan2(y, x)}},
        {"pow(x, 2.5)", {std::pow(x, 2.5)}},
        {"pow(0.0, 0.0) + pow(y, 0.0)", {2}},
        {"exp(x) + log(x) + exp2(x) + log2(x)", {std::exp(x) + std::log(x) + std::exp2(x) + std::log2(x)}},
        {"sqrt(x) * inversesqrt(x)", {1}},
        {"abs(y) + sign(y) + floor(y) + ceil(y) + fract(y)", {1.7 - 1 - 2 - 1 + 0.3}},
        {"mod(y, 1.0)", {y - std::floor(y)}},
        {"mod(a, 2.0)", {1, 0, 1}},
        {"min(a, 2.0) + max(b, vec3(0.0))", {1, 2.25, 4}},
        {"clamp(b, 0.0, 1.0)", {0, 0.25, 1}},
        {"mix(a, b, 0.5)", {0.25, 1.125, 2.5}},
        {"step(0.3, x) + step(0.31, x)", {1}},
        {"smoothstep(0.0, 1.0, x)", {x * x * (3 - 2 * x)}},
        {"smoothstep(0.3, 0.3, x) + smoothstep(0.4, 0.4, x)", {1}},
        {"length(a)", {std::sqrt(14.0)}},
        {"distance(a, b)", {std::sqrt(1.5 * 1.5 + 1.75 * 1.75 + 1)}},
        {"dot(a, b)", {-0.5 + 0.5 + 6}},
        {"cross(a, b)", {2 * 2 - 3 * 0.25, 3 * -0.5 - 2, 0.25 + 1}},
        {"normalize(vec2(3.0, 4.0))", {0.6, 0.8}},
        {"reflect(a, vec3(0.0, 1.0, 0.0))", {1, -2, 3}},
        {"faceforward(a, b, vec3(0.0, 0.0, 1.0))", {-1, -2, -3}},
        {"length(y)", {1.7}},
    };
    for (const auto& each : known) {
        const auto& text = each.first;
        const auto& expected = each.second;
        CAPTURE(text);
        const std::vector<double> found = value_of(text);
        REQUIRE(found.size() == expected.size());
        for (std::size_t i = 0; i < found.size(); ++i) {
            // A few operations in double.
            CHECK(std::abs(found[i] - expected[i]) <= 1e-14 * (1 + std::abs(expected[i])));
        }
    }
}

TEST_CASE("where GLSL leaves a value open, it is none") {
    for (const char* text : {"pow(-1.0, 2.0)", "sqrt(-1.0)", "asin(1.5)", "acos(-1.5)",
                             "normalize(vec3(0.0)).x", "log(-1.0)", "0.0 / 0.0", "mod(1.0, 0.0)"}) {
        CAPTURE(text);
        CHECK(std::isnan(value_of(text)[0]));
    }
    CHECK(std::isinf(value_of("1.0 / 0.0")[0]));
    CHECK(std::isinf(value_of("log(0.0)")[0]));
    CHECK(value_of("max(sqrt(-1.0), 0.0) > 1.0 ? 1.0 : 2.0")[0] == 2); // the other one is not asked
}

TEST_CASE("what is wrong with a formula, and at which character") {
    struct wrong {
        const char* text;
        std::size_t offset;
        const char* says;
    };
    for (const wrong& each : std::vector<wrong>{
             {"", 0, "the formula is empty"},
             {"   ", 0, "the formula is empty"},
             {"1.0 +", 5, "the formula ends where a value belongs"},
             {"1.0 + * 2.0", 6, "`*` where a value belongs"},
             {"(1.0", 4, "the formula ends where `)` belongs"},
             {"1.0)", 3, "`)` after the formula's end"},
             {"x y", 2, "`y` after the formula's end"},
             {"x + z", 4, "`z` is not known here"},
             {"sine(x)", 0, "there is no function `sine`"},
             {"x + sin", 4, "`sin` is a function"},
             {"sin()", 0, "`sin` is given 0 arguments"},
             {"max(x, y, 1.0)", 0, "`max` is given 3 arguments"},
             {"dot(a, x)", 7, "`dot` is given vec3, float"},
             {"pow(a, 2.0)", 7, "`pow` is given vec3, float"},
             {"cross(x, y)", 6, "`cross` is given float, float"},
             {"a + a.xy", 2, "`+` is given vec3 and vec2"},
             {"a < b", 2, "`<` compares vec3 and vec3"},
             {"x == a", 2, "`==` compares float and vec3"},
             {"x ? 1.0 : 2.0", 2, "`?` is given a float"},
             {"yes ? x : a", 4, "`?` chooses between float and vec3"},
             {"yes + 1.0", 4, "`+` is given a bool"},
             {"!x", 0, "`!` is given a float"},
             {"x && yes", 2, "`&&` is given a float"},
             {"a.q", 2, "a vec3 has no component `q`"},
             {"a.xr", 2, "a vec3 has no component `xr`"},
             {"a.xy.z", 5, "a vec2 has no component `z`"},
             {"x.x", 2, "a float has no component `x`"},
             {"a[0]", 1, "`[` has no meaning in a formula"},
             {"x = 1.0", 2, "`=` has no meaning in a formula"},
             {"vec3(x, y)", 0, "`vec3` is given 2 components"},
             {"vec2(a, x)", 8, "`vec2` is full before this argument"},
             {"vec3(yes)", 5, "`vec3` is given a bool"},
             {"1e60", 0, "`1e60` is no number of a float"},
         }) {
        CAPTURE(each.text);
        const formulas::fault_in_text fault = fault_of(each.text);
        CHECK(fault.offset == each.offset);
        CHECK(fault.wrong == each.says);
        CHECK(!fault.right.empty());
    }
}

TEST_CASE("a dot is followed by the components of what stands before it") {
    const std::vector<formulas::known_name> known{{"n", {3, false}}};
    const auto said = [&](const char* text) {
        try {
            formulas::parse(text, known);
        } catch (const formulas::fault_in_text& fault) {
            return std::string(fault.what());
        }
        return std::string("parsed");
    };
    const std::string right = "; one to four letters of xyzw, or of rgba, that the value has";
    CHECK(said("n.x") == "parsed");
    CHECK(said("n.") == "the formula ends after a dot" + right);
    CHECK(said("n.2") == "`.2` after the formula's end; one expression and nothing else");
    CHECK(said("n.xyzxy") == "`xyzxy` after a dot" + right);
}

TEST_CASE("64 deep and 10,000 long, and no more") {
    const auto nested = [](std::size_t depth) {
        return std::string(depth, '(') + "x" + std::string(depth, ')');
    };
    CHECK(value_of(nested(64))[0] == 0.3);
    CHECK(fault_of(nested(65)).wrong == "the formula is nested too deep");
    CHECK(fault_of(std::string(5000, '(')).wrong == "the formula is nested too deep");
    CHECK(fault_of(std::string(5000, '-') + "x").wrong == "the formula is nested too deep");
    std::string calls = "x";
    for (int i = 0; i < 60; ++i) {
        calls = "abs(" + calls + ")";
    }
    CHECK(value_of(calls)[0] == 0.3);
    // A long sum is not nested.
    std::string sum = "x";
    while (sum.size() + 4 <= 10'000) {
        sum += " + y";
    }
    const std::size_t added = (sum.size() - 1) / 4;
    CHECK(value_of(sum)[0] == doctest::Approx(0.3 - 1.7 * static_cast<double>(added)));
    CHECK(fault_of(sum + std::string(10'001 - sum.size(), ' ')).wrong == "the formula has 10001 characters");
}

TEST_CASE("nothing hostile hangs or crashes: random texts either parse or are told off") {
    constexpr std::uint64_t seed = 17;
    MESSAGE("seed " << seed);
    std::mt19937_64 random(seed);
    const std::vector<std::string> pieces{"x", "a",  "yes",  "(",   ")",   "1.0", ".5", "+", "-",
                                          "*", "/",  "<",    "==",  "?",   ":",   "&&", "!", ",",
                                          ".", "xy", "vec3", "sin", "max", "pow", " ",  "e9"};
    int parsed = 0;
    for (int i = 0; i < 20'000; ++i) {
        std::string text;
        for (std::uint64_t k = random() % 12; k > 0; --k) {
            text += pieces[random() % pieces.size()];
        }
        try {
            const formulas::expression formula = formulas::parse(text, names);
            (void)evaluate(formula, values);
            ++parsed;
        } catch (const formulas::fault_in_text& fault) {
            CHECK(fault.offset <= text.size());
        }
    }
    CHECK(parsed > 100);
}

TEST_CASE("a formula written out again says the same") {
    for (const char* text :
         {"x - (y - x) - 1.0", "-(x + y) * 2.0", "x / (y * x)", "(x < y ? 1.0 : 2.0) + 3.0",
          "yes && (yes || !yes) ? a : -b", "(a + b).zy.x", "mix(a, b, clamp(x, 0.0, 1.0)) * vec3(x, y, 0.5)",
          "mod(a, 2.0) + fract(b) + inversesqrt(abs(b))", "a == b ? x : atan(y, x)",
          "(x <= y ? 1.0 : 2.0) + (x >= y ? 4.0 : 8.0) + (x > y ? 16.0 : 32.0) + (x != y ? 64.0 : 128.0)",
          "(yes == true) ? 0.1 : 1e-7"}) {
        CAPTURE(text);
        const formulas::expression formula = formulas::parse(text, names);
        const std::string again =
            printed(formula, formulas::written_in::glsl, [](std::uint32_t i) { return names[i].name; });
        CAPTURE(again);
        const components first = evaluate(formula, values);
        const components second = evaluate(formulas::parse(again, names), values);
        for (std::size_t i = 0; i < 4; ++i) {
            // Numbers are written as floats.
            CHECK(std::abs(first[i] - second[i]) <= 1e-7 * std::abs(first[i]));
        }
    }
    const auto named = [](std::uint32_t i) { return names[i].name; };
    const auto hlsl = [&](const char* text) {
        return printed(formulas::parse(text, names), formulas::written_in::hlsl, named);
    };
    CHECK(hlsl("mix(a, vec3(x), y)") == "lerp(a, ((float3)(x)), y)");
    CHECK(hlsl("fract(x) + inversesqrt(x) + atan(y, x)") == "frac(x) + rsqrt(x) + atan2(y, x)");
    CHECK(hlsl("a == b ? 1.0 : mod(x, 2.0)") == "all(a == b) ? 1.0 : mod_of(x, 2.0)");
}

TEST_CASE("each place knows its own names, and gives its own type") {
    const auto fault = [](slot which, const std::string& text, const std::string& v = "") {
        formulas::formula_texts texts;
        texts[which] = text;
        texts[slot::v] = which == slot::v ? text : v;
        try {
            parse_all(texts, {{"wrap", {0.5}}, {"sky", {0.1, 0.2, 0.3}}});
        } catch (const formulas::fault_in_formula& found) {
            CHECK(found.where == which);
            return found.wrong;
        }
        return std::string();
    };
    CHECK(fault(slot::falloff, "wrap / d") == "");
    CHECK(fault(slot::falloff, "sky") == "the formula gives a vec3");
    CHECK(fault(slot::falloff, "light.x") == "`light` is not known here"); // it is what falloff leaves
    CHECK(fault(slot::diffuse, "light * dot(n, l)") == "");
    CHECK(fault(slot::diffuse, "dot(n, l)") == "");
    CHECK(fault(slot::specular, "d < 1.0") == "the formula gives a bool");
    CHECK(fault(slot::ambient, "sky * n.y") == "");
    CHECK(fault(slot::ambient, "l") == "`l` is not known here");
    CHECK(fault(slot::more, "1.0") == "the formula gives a float");
    CHECK(fault(slot::color, "c * wrap") == "");
    CHECK(fault(slot::more, "c") == "`c` is not known here");
    CHECK(fault(slot::l, "v") == "`v` is not known here");
    CHECK(fault(slot::v, "h") == "`h` is not known here");
    CHECK(fault(slot::h, "r") == "`r` is not known here");
    CHECK(fault(slot::h, "normalize(l + v) + 0.0 * h") == "");
    CHECK(fault(slot::ambient, "sky * dot(n, v)") == "");
    CHECK(fault(slot::ambient, "sky * dot(n, v)", "axis") == "");
    CHECK(fault(slot::ambient, "sky * dot(n, v)", "l") == "`v` is not known here"); // v knows a light
    CHECK(formulas::fault_in_number_name("wrap") == "");
    for (const char* taken : {"n", "shininess", "sin", "vec3", "true", "2x", "a-b", ""}) {
        CAPTURE(taken);
        CHECK(formulas::fault_in_number_name(taken) != "");
    }
    CHECK(formulas::fault_in_number_name("shininess") ==
          "formulas know that name already: the material's shininess");
}
