// What a fragment stage's text works out, read as formulas: expected values are what the text says, by hand.
#include "program/written_formulas.hpp"

#include <algorithm>
#include <string>
#include <vector>

#include <doctest/doctest.h>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/shader_words.hpp"
#include "program/written_vectors.hpp"
#include "support/replaced.hpp"

using namespace yurvo;
using namespace yurvo::program;
using formulas::slot;
using testing::replaced;

namespace {

shader_program stage(const std::string& text, const std::vector<std::pair<std::string, std::string>>& means) {
    shader_program of;
    of.rate = rate::fragment;
    of.fragment.source = text;
    of.fragment.entry = "main";
    for (const auto& [name, quantity] : means) {
        shader_binding bound;
        bound.name = name;
        bound.means = {quantity};
        of.uniforms.push_back(bound);
    }
    return of;
}

std::vector<written_formula> formulas_of(const shader_program& of) {
    return written_formulas(of, stage_texts(of));
}

const char* const head = R"(#version 330
in vec3 place; in vec3 facing; out vec4 seen;
uniform vec3 lampPosition, lampLight, paint, eyePosition; uniform float gloss, reach, wrap, exposure, density, thin, primary, tint, rimPower, lampDecay;
uniform vec3 fogColor, rimColor, lampShines; uniform float inside, outside; uniform int kind;
)";
const char* const begin = R"(
void main() {
    vec3 n = normalize(facing), l = lampPosition - place;
    float d = length(l); l /= d;
    vec3 v = normalize(eyePosition - place), h = normalize(l + v);
    float nl = max(dot(n, l), 0.0);
)";

const std::vector<std::pair<std::string, std::string>> usual{{"lampPosition", "lights[0].position"},
                                                             {"lampLight", "lights[0].light"},
                                                             {"paint", "material.base"},
                                                             {"eyePosition", "view.eye"},
                                                             {"gloss", "material.shininess"},
                                                             {"reach", "lights[0].range"},
                                                             {"wrap", "lights[0].intensity"},
                                                             {"exposure", "lights[0].intensity"},
                                                             {"density", "lights[0].coefficients[0]"},
                                                             {"fogColor", "material.base"},
                                                             {"thin", "view.aspect"},
                                                             {"primary", "view.aspect"},
                                                             {"tint", "view.aspect"},
                                                             {"rimPower", "view.aspect"},
                                                             {"rimColor", "material.base"},
                                                             {"lampShines", "lights[0].shines"},
                                                             {"inside", "lights[0].inner"},
                                                             {"outside", "lights[0].outer"},
                                                             {"kind", "lights[0].kind"}};

std::vector<written_formula> read(const std::string& statements, const std::string& functions = "") {
    const std::string text = head + functions + begin + statements + "}";
    return formulas_of(stage(text, usual));
}

bool has(const std::vector<written_formula>& all, slot where, const std::string& text) {
    return std::any_of(all.begin(), all.end(),
                       [&](const written_formula& each) { return each.where == where && each.text == text; });
}

} // namespace

TEST_CASE("a shader's words: names with their members and indices are one, numbers have no type") {
    CHECK(shader_words("#define K 2\nfloat a=lamps[i + f[2]].color.rgb*2.50f-.5;") ==
          std::vector<std::string>{"float", "a", "=", "lamps[*].color.rgb", "*", "2.50", "-", ".5", ";"});
    CHECK(shader_words("sum += (m * p).xyz; if (a>=b) x *= 1e-3;") ==
          std::vector<std::string>{"sum", "+=", "(", "m",  "*", "p", ")", ".",  "xyz",  ";",
                                   "if",  "(",  "a", ">=", "b", ")", "x", "*=", "1e-3", ";"});
    CHECK(shader_words("a[").size() == 1);
    CHECK(closed_at({"(", "a", "(", ")", ")", "b"}, 0) == 4);
    CHECK(closed_at({"(", "a"}, 0) == 2);
    CHECK_FALSE(is_name("2a"));
    CHECK_FALSE(is_name(""));
}

TEST_CASE("what a text works out is read as formulas: the distance, the cosine, the highlight, the colour") {
    struct written {
        std::string statements;
        slot where;
        std::string formula;
    };
    for (const written& each : std::initializer_list<written>{
             {"float f = clamp(10.0 / d, 0.0, 1.0);", slot::falloff, "clamp(10.0 / d, 0.0, 1.0)"},
             {"float t = d / reach + 1.0; float f = 1.0 / (t * t);", slot::falloff,
              "1.0 / ((d / range + 1.0) * (d / range + 1.0))"},
             {"float f = saturate(1.0f - distance(place, lampPosition) / reach); f *= f;", slot::falloff,
              "clamp(1.0 - d / range, 0.0, 1.0) * clamp(1.0 - d / range, 0.0, 1.0)"},
             {"float f = 0.0; if (d < reach) { f = 1.0 / (1.0 + d); }", slot::falloff,
              "(d < range) ? (1.0 / (1.0 + d)) : 0.0"},
             {"nl = dot(n, l) * 0.5 + 0.5; nl *= nl;", slot::diffuse,
              "(dot(n, l) * 0.5 + 0.5) * (dot(n, l) * 0.5 + 0.5)"},
             {"nl = max((dot(n, l) + wrap) / (1.0 + wrap), 0.0);", slot::diffuse,
              "max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)"},
             {"float nv = max(dot(n, v), 0.0); float f = nl * (0.8 + 0.4 * max(dot(l, v) - nl * nv, 0.0));",
              slot::diffuse,
              "max(dot(n, l), 0.0) * (0.8 + 0.4 * max(dot(l, v) - max(dot(n, l), 0.0) * max(dot(n, v), 0.0), "
              "0.0))"},
             {"float s = nl > 0.0 ? pow(max(dot(n, h), 0.0), gloss * 4.0) : 0.0;", slot::specular,
              "max(dot(n, l), 0.0) > 0.0 ? pow(max(dot(n, h), 0.0), shininess * 4.0) : 0.0"},
             {"float s = pow(max(dot(reflect(-l, n), v), 0.0), gloss) * nl;", slot::specular,
              "pow(max(dot(r, v), 0.0), shininess) * max(dot(n, l), 0.0)"},
             {"seen = vec4(lampLight * nl * paint, 1.0); seen.rgb = vec3(1.0) - exp(-seen.rgb * exposure);",
              slot::color, "vec3(1.0) - exp(-c * exposure)"},
             {"vec3 sum = lampLight * nl; sum *= exposure; seen = vec4(sum / (sum + 1.0), 1.0);", slot::color,
              "(c * exposure) / ((c * exposure) + 1.0)"},
             {"vec3 sum = lampLight * nl; seen = vec4(mix(fogColor, sum, exp(-density * "
              "distance(eyePosition, "
              "place))), 1.0);",
              slot::color, "mix(fogColor, c, exp(-density * length(eye - position)))"},
             // Light times the base colour is a colour, whichever stands first.
             {"vec3 sum = lampLight * nl; vec3 o = mix(fogColor, paint * sum, exp(-density * "
              "distance(eyePosition, place)));",
              slot::color, "mix(fogColor, c, exp(-density * length(eye - position)))"},
             {"vec3 sum = lampLight * nl; vec3 o = 1.0 - exp(-(sum * paint) * exposure);", slot::color,
              "1.0 - exp(-(c) * exposure)"}}) {
        CAPTURE(each.statements);
        const std::vector<written_formula> all = read(each.statements);
        std::string found;
        for (const written_formula& one : all) {
            found += std::string(formulas::descriptor_of(one.where).name) + " = " + one.text + "\n";
        }
        CAPTURE(found);
        CHECK(has(all, each.where, each.formula));
    }
}

TEST_CASE(
    "vectors are the models' own, whatever the text does with them: no mistake of theirs becomes a formula") {
    const std::string cosine = "max(dot(n, l) * 0.8 + 0.2, 0.0)";
    for (const char* const light :
         {"l", "-l", "(place - lampPosition)", "normalize(place - lampPosition)", "(l * 3.0)"}) {
        CAPTURE(std::string(light));
        const std::vector<written_formula> all =
            read("float c = max(dot(n, " + std::string(light) + ") * 0.8 + 0.2, 0.0);");
        REQUIRE(all.size() >= 1);
        CHECK(all[0].where == slot::diffuse);
        CHECK(all[0].text == cosine);
    }
    const std::string lobe = "pow(max(dot(n, h), 0.0), shininess * 4.0)";
    for (const char* const half :
         {"h", "(l + v)", "normalize(l - v)", "(l + v) / length(l + v)", "normalize(l + place)"}) {
        CAPTURE(std::string(half));
        CHECK(has(read("float s = pow(max(dot(n, " + std::string(half) + "), 0.0), gloss * 4.0);"),
                  slot::specular, lobe));
    }
    const std::string mirrored = "pow(max(dot(r, v), 0.0), shininess * 4.0)";
    for (const char* const product :
         {"reflect(-l, n), v", "reflect(l, n), v", "reflect(-v, n), l", "2.0 * dot(n, l) * n - l, v"}) {
        CAPTURE(std::string(product));
        CHECK(has(read("float s = pow(max(dot(" + std::string(product) + "), 0.0), gloss * 4.0);"),
                  slot::specular, mirrored));
    }
    CHECK(has(read("float f = 1.0 / (1.0 + dot(l, l));"), slot::falloff, "1.0 / (1.0 + (d * d))"));
    // Where no model has such a product, and of a part of a vector, nothing is read.
    CHECK(read("float s = pow(max(dot(reflect(-l, n), h), 0.0), gloss * 4.0);").empty());
    CHECK(read("float f = exp(-n.y * d);").empty());
    CHECK(read("vec3 sum = lampLight * nl; sum = mix(fogColor, sum, exp(-density * place.y));").empty());
    CHECK(holds_other_vectors("dot(n, l) + v.x"));
    CHECK_FALSE(holds_other_vectors("dot(n, l) * length(eye - position) * dot(r, v)"));
}

TEST_CASE("what has a telling name is claimed before anything is tried: what a mistake would be stays one") {
    const std::string text = head + std::string(begin) +
                             "nl = max((dot(n, -l) + wrap) / (1.0 + wrap), 0.0);\n"
                             "float f = pow(1.0 - d / reach, lampDecay);\n"
                             "vec3 sum = lampLight * nl * f; sum = 1.0 - exp(-sum * exposure); }";
    std::vector<std::pair<std::string, std::string>> means = usual;
    means.emplace_back("lampDecay", "lights[0].intensity");
    shader_program of = stage(text, means);
    CHECK(take_told(of, stage_texts(of)) == std::vector<std::string>{"diffuse", "falloff", "color"});
    CHECK(of.formulas[slot::diffuse] ==
          "max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)"); // l is not turned round
    CHECK(of.formulas[slot::falloff] == "pow(1.0 - d / range, lampDecay)");
    CHECK(of.falloffs == std::vector{falloff_kind::linear});
    CHECK(of.formulas[slot::color] == "1.0 - exp(-c * exposure)");
    CHECK(text_of(*find_binding(of.uniforms, "lampDecay")) == "numbers.lampDecay");
    CHECK(text_of(*find_binding(of.uniforms, "gloss")) == "material.shininess");
    CHECK(of.numbers.size() == 3);
    // Hints leave it as it is.
    take_hints(of, text);
    CHECK(of.formulas[slot::color] == "1.0 - exp(-c * exposure)");
}

TEST_CASE("what HLSL says of a loop or a branch is no part of it") {
    for (const char* const said : {"", "[loop]", "[unroll(8)]", "[ unroll ]", "[branch]", "[flatten]"}) {
        CAPTURE(said);
        const std::vector<written_formula> all =
            read(std::string(said) + " if (d < 9.0) { float f = max(1.0 - d / reach, 0.0); use(f); }");
        CHECK(has(all, slot::falloff, "max(1.0 - d / range, 0.0)"));
    }
}

TEST_CASE("functions of the text's own are read where they are called, and each way out of them") {
    const std::vector<written_formula> all =
        read("float f = fading(d, reach);",
             "const float EDGE = 0.25;\n"
             "float fading(float far, float end) { if (far > end) return 0.0; float t = far / end; "
             "return max(1.0 - t * t, EDGE); }\n");
    CHECK(has(all, slot::falloff, "(d > range) ? 0.0 : max(1.0 - (d / range) * (d / range), 0.25)"));
    // One that calls itself (which no driver takes) or is called with too little ends.
    CHECK(read("float f = again(d);", "float again(float x) { return again(x) + again(x); }\n").empty());
    CHECK(read("float f = two(d);", "float two(float x, float y) { return x / y; }\n").empty());
}

TEST_CASE("where light ends is read with what it falls off by: by leaving, by a block, and no longer than "
          "the loop") {
    const std::string law = "1.0 / (1.0 + 0.2 * d)";
    for (const std::string statements :
         {"if (d > reach) return; float f = 1.0 / (1.0 + 0.2 * d);",
          "for (int i = 0; i < 2; ++i) { if (d > reach) { continue; } float f = 1.0 / (1.0 + 0.2 * d); }"}) {
        CAPTURE(statements);
        CHECK(has(read(statements), slot::falloff, "(d > range) ? 0.0 : (" + law + ")"));
    }
    CHECK(has(read("if (d < reach) { float f = 1.0 / (1.0 + 0.2 * d); }"), slot::falloff,
              "(d < range) ? (" + law + ") : 0.0"));
    // A gate on the cosine ends no falloff, nor does a loop that is over.
    for (const std::string statements :
         {"if (nl <= 0.0) return; float f = 1.0 / (1.0 + 0.2 * d);",
          "for (int i = 0; i < 2; ++i) { if (d > reach) continue; } float f = 1.0 / (1.0 + 0.2 * d);"}) {
        CAPTURE(statements);
        const std::vector<written_formula> all = read(statements);
        CHECK(has(all, slot::falloff, law));
        CHECK(std::none_of(all.begin(), all.end(), [](const written_formula& each) {
            return each.where == slot::falloff && each.text.find('?') != std::string::npos;
        }));
    }
}

TEST_CASE(
    "what diffuse and specular light share is one formula, where its numbers tell that no model of ours is "
    "meant") {
    const std::string statements =
        "vec3 mirrored = mix(vec3(0.04), paint, metallic);\n"
        "vec3 shares = paint * (1.0 - metallic) / 3.0 + mirrored * pow(max(dot(n, h), "
        "0.0), 9.0);\n"
        "vec3 sum = vec3(0.0); sum += shares * lampLight * nl / (d * d);";
    const std::string text = head + std::string("uniform float metallic;") + begin + statements + "}";
    std::vector<std::pair<std::string, std::string>> means = usual;
    means.emplace_back("metallic", "view.aspect");
    shader_program of = stage(text, means);
    const std::string formula =
        "(base * (1.0 - metallic) / 3.0 + (mix(vec3(0.04), base, metallic)) * pow(max(dot(n, "
        "h), 0.0), 9.0)) * (max(dot(n, l), 0.0))";
    const std::vector<written_formula> all = formulas_of(of);
    std::string found;
    for (const written_formula& one : all) {
        found += one.text + "\n";
    }
    CAPTURE(found);
    const auto whole =
        std::find_if(all.begin(), all.end(), [](const written_formula& each) { return each.whole; });
    REQUIRE(whole != all.end());
    CHECK(whole->where == slot::specular);
    CHECK(whole->numbers.size() == 1);
    CHECK(whole->numbers[0].uniform == "metallic");
    // Brackets apart, which are the reader's own business.
    const auto bare = [](std::string formula_text) {
        std::erase_if(formula_text, [](char c) { return c == '(' || c == ')' || c == ' '; });
        return formula_text;
    };
    CHECK(bare(whole->text) == bare(formula));
    CHECK(take_told(of, stage_texts(of)).front() == "specular");
    CHECK(of.formulas[slot::diffuse] == "0.0");
    CHECK(of.without == std::vector<std::string>{"material.specular"});
    // With no such number it could be a mistake in a model of ours, and is not read.
    const std::vector<written_formula> ours = read(
        "vec3 sum = vec3(0.0); sum += (paint * nl + paint * pow(max(dot(n, h), 0.0), gloss)) * lampLight;");
    CHECK(std::none_of(ours.begin(), ours.end(), [](const written_formula& each) { return each.whole; }));
}

TEST_CASE("a light's share is what its colour is multiplied by") {
    CHECK(share_of_light("(base + dot(v, h)) * (?lamp * (1.0 / (d * d))) * max(dot(n, l), 0.0)") ==
          "(base + dot(v, h)) * max(dot(n, l), 0.0)");
    CHECK(share_of_light("?lamp.rgb * base / dot(n, v)") == "base / (dot(n, v))");
    CHECK_FALSE(share_of_light("base * dot(n, l)").has_value());           // no light
    CHECK_FALSE(share_of_light("base / ?lamp").has_value());               // divided by it
    CHECK_FALSE(share_of_light("?lamp * texture(?a) + base").has_value()); // a sum
    CHECK_FALSE(share_of_light("?lamp * base * (?other + 1.0)").has_value());
    CHECK_FALSE(share_of_light("?lamp").has_value());
    CHECK_FALSE(share_of_light("").has_value());
}

TEST_CASE("what is worked out of lights' numbers is in formulas as it is worked out") {
    const auto falloff = [](const std::string& means) {
        shader_program of =
            stage(head + std::string(begin) +
                      "float w = clamp(1.0 - d * reach, 0.0, 1.0); seen = vec4(lampLight * w, 1.0);}",
                  usual);
        for (shader_binding& each : of.uniforms) {
            if (each.name == "reach") {
                each.means = {means};
            }
        }
        for (const written_formula& each : formulas_of(of)) {
            if (each.where == slot::falloff && each.text.starts_with("clamp")) {
                return each.text;
            }
        }
        return std::string();
    };
    CHECK(falloff("= 1.0 / lights[*].range") == "clamp(1.0 - d * (1.0 / range), 0.0, 1.0)");
    CHECK(falloff("= 1.0 / (lights[0].range + 2.0)") == "clamp(1.0 - d * (1.0 / (range + 2.0)), 0.0, 1.0)");
    CHECK(falloff("= 1.0 / lights[0].intensity").find("range") == std::string::npos);
}

TEST_CASE("numbers of a formula are the uniforms that it asks for, told by their names or not") {
    const std::vector<written_formula> fog = read(
        "vec3 sum = lampLight * nl; sum = mix(fogColor, sum, exp(-density * distance(eyePosition, place)));");
    REQUIRE(fog.size() == 1);
    REQUIRE(fog[0].numbers.size() == 2);
    CHECK(fog[0].numbers[0].uniform == "fogColor");
    CHECK(fog[0].numbers[0].values.size() == 3);
    CHECK(fog[0].numbers[0].told);
    CHECK(fog[0].numbers[1].uniform == "density");
    CHECK(fog[0].numbers[1].values.size() == 1);
    CHECK(fog[0].numbers[1].told);
    // Of three numbers, wherever among others it is declared.
    const shader_program beside_arrays =
        stage(replaced(head, "uniform vec3 fogColor,", "uniform vec3 places[4], lights[ 2 * 2 ], fogColor,") +
                  begin +
                  "vec3 sum = lampLight * nl; sum = mix(fogColor, sum, exp(-density * distance(eyePosition, "
                  "place)));}",
              usual);
    const std::vector<written_formula> same = formulas_of(beside_arrays);
    REQUIRE(same.size() == 1);
    CHECK(same[0].text == fog[0].text);
    CHECK(same[0].numbers[0].values == fog[0].numbers[0].values);
    // `primary` does not begin with `rim`, and a tint is a material's more often than not.
    for (const char* const name : {"thin", "primary", "tint"}) {
        CAPTURE(std::string(name));
        const std::vector<written_formula> fading = read("float f = exp(-d * " + std::string(name) + ");");
        REQUIRE(has(fading, slot::falloff, "exp(-d * " + std::string(name) + ")"));
        REQUIRE(fading[0].numbers.size() == 1);
        CHECK(fading[0].numbers[0].uniform == name);
        CHECK_FALSE(fading[0].numbers[0].told);
    }
    // Steps have a number of their own, off what plain scenes have for cosines.
    const std::string text = head + std::string("uniform float toonLevels;") + begin +
                             "float f = floor(nl * toonLevels) / toonLevels; }";
    std::vector<std::pair<std::string, std::string>> means = usual;
    means.emplace_back("toonLevels", "material.shininess");
    const std::vector<written_formula> steps = formulas_of(stage(text, means));
    REQUIRE(has(steps, slot::diffuse, "floor(max(dot(n, l), 0.0) * toonLevels) / toonLevels"));
    CHECK(steps[0].numbers[0].values == std::vector{3.7});
    CHECK(steps[0].numbers[0].told);
    const std::vector<written_formula> rim = read("float f = exp(-d * rimPower);");
    REQUIRE(has(rim, slot::falloff, "exp(-d * rimPower)"));
    CHECK(rim[0].numbers[0].told);
}

TEST_CASE("what is added to a colour and follows the eye alone is `more`, and no curve") {
    const std::string rim = "pow(1.0 - max(dot(n, v), 0.0), rimPower)";
    for (const std::string& statements :
         {"vec3 sum = lampLight * nl; sum += rimColor * " + rim + "; seen = vec4(sum, 1.0);",
          "vec3 sum = lampLight * nl; seen = vec4(sum + rimColor * " + rim + ", 1.0);",
          "vec3 sum = lampLight * nl + (paint * 0.1 + rimColor * " + rim + ");"}) {
        CAPTURE(statements);
        const std::vector<written_formula> all = read(statements);
        REQUIRE(has(all, slot::more, "rimColor * " + rim));
        const auto found = std::find_if(all.begin(), all.end(),
                                        [](const written_formula& each) { return each.where == slot::more; });
        REQUIRE(found->numbers.size() == 2);
        CHECK(found->numbers[0].told);
        CHECK(found->numbers[1].told);
        CHECK(std::none_of(all.begin(), all.end(),
                           [](const written_formula& each) { return each.where == slot::color; }));
    }
    // A number is added to each of the three.
    CHECK(has(read("vec3 sum = lampLight * nl; sum += " + rim + ";"), slot::more, "vec3(" + rim + ")"));
    // What comes behind it has the sum.
    const std::vector<written_formula> curved =
        read("vec3 sum = lampLight * nl; sum += rimColor * " + rim + "; sum = sum / (sum + 1.0);");
    CHECK(has(curved, slot::more, "rimColor * " + rim));
    CHECK(has(curved, slot::color, "c / (c + 1.0)"));
    // A light's share is none, nor what a sum is multiplied by, what is taken away, and what is not added
    // yet.
    for (const std::string& statement :
         {"sum += rimColor * lampLight * " + rim + ";", "sum += rimColor * nl * " + rim + ";",
          "sum += rimColor * " + rim + " / d;", "sum *= " + rim + ";", "sum -= rimColor * " + rim + ";",
          "vec3 edge = rimColor * " + rim + "; sum += edge * lampLight;"}) {
        CAPTURE(statement);
        const std::vector<written_formula> all = read("vec3 sum = lampLight * nl; " + statement);
        CHECK(std::none_of(all.begin(), all.end(),
                           [](const written_formula& each) { return each.where == slot::more; }));
    }
    CHECK(summands_of("a * (b + c) + (d + (e - f))") ==
          std::vector<std::string>{"a * (b + c)", "d", "e - f"});
    CHECK(summands_of("a ? b + c : d") == std::vector<std::string>{"a ? b + c : d"});
    CHECK(summands_of("") == std::vector<std::string>{""});
}

TEST_CASE("a cone of the text's own is read, and none that mistakes the angles or is one of the laws") {
    const std::string angle = "float a = acos(clamp(dot(-l, normalize(lampShines)), -1.0, 1.0)); "
                              "float c = dot(l, normalize(-lampShines)); ";
    const auto cone = [&](const std::string& written) {
        return read(angle + "float f = 1.0 / (1.0 + d); f *= " + written + ";");
    };
    const std::string faded = "1.0 - smoothstep(inner, outer, acos(clamp(cos_theta, -1.0, 1.0)))";
    CHECK(has(cone("1.0 - smoothstep(inside, outside, a)"), slot::penumbra, faded));
    CHECK(has(cone("clamp((outside - a) / (outside - inside), 0.0, 1.0)"), slot::penumbra,
              "clamp((outer - acos(clamp(cos_theta, -1.0, 1.0))) / (outer - inner), 0.0, 1.0)"));
    CHECK(has(cone("pow(smoothstep(cos(outside), cos(inside), c), 3.0)"), slot::penumbra,
              "pow(smoothstep(cos(outer), cos(inner), cos_theta), 3.0)"));
    // The distance and the angle, each for itself, in one product.
    const std::vector<written_formula> both =
        read(angle + "float f = (1.0 - smoothstep(inside, outside, a)) * 2.0 / (1.0 + d);");
    CHECK(has(both, slot::penumbra, "(" + faded + ")"));
    CHECK(has(both, slot::falloff, "2.0 / (1.0 + d)"));
    // Edges that run the other way are whole where the cone is. (GLSL leaves that open; drivers draw it.)
    CHECK(has(cone("smoothstep(outside, inside, a)"), slot::penumbra,
              "smoothstep(outer, inner, acos(clamp(cos_theta, -1.0, 1.0)))"));
    CHECK_FALSE(has(cone("(1.0 - smoothstep(outside, inside, a))"), slot::penumbra,
                    "(1.0 - smoothstep(outer, inner, acos(clamp(cos_theta, -1.0, 1.0))))"));
    // Edges that are exchanged or halved, a cone turned inside out, degrees, and what a law is.
    for (const char* const written :
         {"smoothstep(inside, outside, a)", "1.0 - smoothstep(inside * 0.5, outside * 0.5, a)",
          "1.0 - smoothstep(radians(inside), radians(outside), a)",
          "smoothstep(cos(inside), cos(outside), c)", "smoothstep(cos(outside), cos(inside), c)",
          "clamp((c - cos(outside)) / (cos(inside) - cos(outside)), 0.0, 1.0)", "(a < outside ? 1.0 : 0.0)",
          "(a < outside ? pow(c, 2.0) - 0.5 : 0.0)", "max(c, 0.0)"}) {
        CAPTURE(std::string(written));
        const std::vector<written_formula> all = cone(written);
        CHECK(std::none_of(all.begin(), all.end(),
                           [](const written_formula& each) { return each.where == slot::penumbra; }));
    }
    // Of a switch every case is read; a directional light's axis is the way to it.
    const std::vector<written_formula> kinds =
        read("float f = 1.0; float s; switch (kind) { case 0: s = pow(max(dot(n, normalize(lampShines + v)), "
             "0.0), gloss * 4.0); break; "
             "case 1: case 2: { f = clamp(1.0 - d / reach, 0.0, 1.0); f *= f; if (kind == 2) { " +
             angle + "f *= 1.0 - smoothstep(inside, outside, a); } break; } default: f = 0.0; }");
    CHECK(has(kinds, slot::falloff, "clamp(1.0 - d / range, 0.0, 1.0) * clamp(1.0 - d / range, 0.0, 1.0)"));
    CHECK(has(kinds, slot::penumbra, faded));
    CHECK(has(kinds, slot::specular, "pow(max(dot(n, h), 0.0), shininess * 4.0)"));
}

TEST_CASE("light that is worked out at the vertices is read there: places and normals behind matrices") {
    const auto at_vertices = [](const std::string& statements) {
        shader_program of = stage(
            "in vec3 lit; out vec4 seen; void main() { seen = vec4(lit * exp(-density), 1.0); }", usual);
        of.rate = rate::vertex;
        of.vertex.source = R"(#version 330
in vec3 corner; in vec3 facing; out vec3 lit;
uniform mat4 toWorld, toEye; uniform mat3 turned;
uniform vec3 lampPosition, lampLight, paint, eyePosition; uniform float gloss, density;
void main() {
)" + statements + "}";
        of.vertex.entry = "main";
        for (const auto& [name, means] : {std::pair{"corner", "position"}, {"facing", "normal"}}) {
            of.attributes.push_back({name, {means}, {}});
        }
        for (const auto& [name, means] : {std::pair{"toWorld", "object.to_world"},
                                          {"toEye", "view.world_to_view"},
                                          {"turned", "object.normal_to_view"}}) {
            of.uniforms.push_back({name, {means}, {}});
        }
        return of;
    };
    const std::string shares = R"(
    float d = length(l);
    l = l / d;
    float wrapped = dot(n, l) * 0.5 + 0.5;
    lit = lampLight * paint * wrapped * exp(-d * density);
)";
    for (const std::string begin_of_it :
         {"vec4 w = toWorld * vec4(corner, 1.0); vec3 l = lampPosition - w.xyz;"
          "vec3 n = normalize(mat3(transpose(inverse(toWorld))) * facing);",
          "vec3 l = lampPosition - (toWorld * vec4(corner, 1.0)).xyz; vec3 n = (toWorld * vec4(facing, "
          "0.0)).xyz;",
          "vec3 w = vec3(toEye * toWorld * vec4(corner, 1.0)); vec3 n = turned * facing;"
          "vec3 l = (toEye * vec4(lampPosition, 1.0)).xyz - w;",
          "vec3 l = lampPosition - mul(vec4(corner, 1.0), toWorld).xyz; vec3 n = mul(facing, "
          "mat3(toWorld));"}) {
        CAPTURE(begin_of_it);
        const std::vector<written_formula> all = formulas_of(at_vertices(begin_of_it + shares));
        CHECK(has(all, slot::diffuse, "dot(n, l) * 0.5 + 0.5"));
        REQUIRE(has(all, slot::falloff, "exp(-d * density)"));
        CHECK(all.size() == 2);
    }
    // What the other stage does is no part of the light.
    CHECK(formulas_of(at_vertices("lit = paint;")).empty());
}

TEST_CASE("what the vertex stage hands over is what it works out there, whatever it is called") {
    struct handed {
        const char *vertex, *fragment, *formula;
    };
    const auto by = [](const handed& each) {
        shader_program of =
            stage("uniform vec3 lamp; uniform float reach, lampDecay;\n" + std::string(each.fragment),
                  {{"lamp", "lights[0].position_view"},
                   {"reach", "lights[0].range"},
                   {"lampDecay", ""},
                   {"toWorld", "object.to_world"},
                   {"toView", "view.world_to_view"},
                   {"lamps[*].position", "lights[*].position"}});
        of.vertex.source =
            std::string("attribute vec3 position; attribute vec3 normal; uniform mat4 toWorld, toView; "
                        "uniform vec3 lamp;\n") +
            each.vertex;
        of.vertex.entry = "main";
        for (const char* const name : {"position", "normal"}) {
            shader_binding& given = of.attributes.emplace_back();
            given.name = name;
            given.means = {std::string(name)};
        }
        return formulas_of(of);
    };
    const std::string law = "pow(clamp(1.0 - d / range, 0.0, 1.0), lampDecay)";
    for (const handed& each : std::initializer_list<handed>{
             // The way to the eye, in view space; a member of the structure of lamps is called as an
             // attribute is.
             {"varying vec3 ahead; void main() { vec4 mv = toView * toWorld * vec4(position, 1.0); ahead = "
              "-mv.xyz; }",
              "varying vec3 ahead; void main() { float far = length(lamp + ahead); float f = pow(clamp(1.0 - "
              "far / "
              "reach, 0.0, 1.0), lampDecay); }",
              law.c_str()},
             // The way to the lamp, in the world, under a name that says nothing.
             {"out vec3 w; void main() { vec3 p = (toWorld * vec4(position, 1.0)).xyz; w = lamp - p; }",
              "in vec3 w; void main() { float f = pow(clamp(1.0 - length(w) / reach, 0.0, 1.0), lampDecay); "
              "}",
              law.c_str()},
             // Members of a block.
             {"out passed { vec3 s; vec3 q; } handed; void main() { vec4 p = toView * toWorld * "
              "vec4(position, 1.0); "
              "handed.q = p.xyz; handed.s = lamp; }",
              "in passed { vec3 s; vec3 q; } given; void main() { vec3 s = given.s - given.q; float f = "
              "pow(clamp(1.0 - "
              "length(s) / reach, 0.0, 1.0), lampDecay); }",
              law.c_str()}}) {
        CAPTURE(std::string(each.fragment));
        const std::vector<written_formula> all = by(each);
        CHECK(has(all, slot::falloff, each.formula));
        const auto found =
            std::find_if(all.begin(), all.end(), [&](const auto& one) { return one.text == law; });
        CHECK((found != all.end() && found->numbers.size() == 1 && found->numbers[0].uniform == "lampDecay"));
    }
    // What is handed over in two ways is neither.
    CHECK(by({"out passed { vec3 q; } a, b; void main() { a.q = position; b.q = lamp - position; }",
              "in passed { vec3 q; } a; void main() { float f = pow(clamp(1.0 - length(a.q) / reach, 0.0, "
              "1.0), "
              "lampDecay); }",
              ""})
              .empty());
}

TEST_CASE("the display's curve is the claim's output, and no part of a colour's formula") {
    const auto colors = [](output_kind output, const std::string& statement) {
        shader_program of =
            stage(head + std::string(begin) + "vec3 sum = lampLight * nl; " + statement + "}", usual);
        of.output = output;
        std::vector<std::string> all;
        for (const written_formula& each : formulas_of(of)) {
            if (each.where == slot::color) {
                all.push_back(each.text);
            }
        }
        return all;
    };
    using texts = std::vector<std::string>;
    CHECK(colors(output_kind::gamma, "vec3 o = pow(sum * 1.5 / (sum + 0.5), vec3(1.0 / 2.2));") ==
          texts{"c * 1.5 / (c + 0.5)"});
    CHECK(colors(output_kind::gamma, "sum = sum * 1.5 / (sum + 0.5); sum = pow(sum, vec3(0.4545));") ==
          texts{"c * 1.5 / (c + 0.5)"});
    CHECK(colors(output_kind::linear, "vec3 o = pow(sum * 1.5 / (sum + 0.5), vec3(1.0 / 2.2));") ==
          texts{"pow(c * 1.5 / (c + 0.5), vec3(1.0 / 2.2))"});
    CHECK(colors(output_kind::gamma, "vec3 o = pow(sum, vec3(1.0 / 2.2));").empty());
    CHECK(colors(output_kind::gamma, "vec3 o = pow(sum, vec3(1.0 / 1.8));") ==
          texts{"pow(c, vec3(1.0 / 1.8))"});
}

TEST_CASE("of a file with both stages it is the one that names a lamp, in a function of its own or not") {
    const auto rate_of = [](const std::string& lit_in) {
        const std::string vertex_gives = lit_in == "VS" ? "cosine(n, p)" : "0";
        const std::string fragment_gives = lit_in == "PS" ? "cosine(n, w)" : "0";
        shader_program of;
        of.language = shading_language::hlsl;
        of.vertex.entry = "VS";
        of.fragment.entry = "PS";
        of.fragment.source = R"(
cbuffer Frame { float3 LampPos; float4x4 World; };
float cosine(float3 n, float3 w) { return dot(n, normalize(LampPos - w)); }
float4 VS(float3 p : POSITION, float3 n : NORMAL) : SV_Position { return )" +
                             vertex_gives + R"(; }
float4 PS(float3 n : NORMAL, float3 w : PLACE) : SV_Target { return )" +
                             fragment_gives + "; }";
        of.vertex.source = of.fragment.source;
        guessed_bindings guessed;
        guessed.uniforms.emplace_back().name = "Frame.LampPos";
        guessed.uniforms.back().means = "lights[0].position";
        return likely_rate(of, guessed);
    };
    CHECK(rate_of("VS") == rate::vertex);
    CHECK(rate_of("PS") == rate::fragment);
    CHECK(text_reached_from(
              "float a() { return 1.0; } float b() { return a() * b(); } float c() { return 2.0; }", "b") ==
          "return a ( ) * b ( ) ; return 1.0 ; ");
    CHECK(text_reached_from("float a() { return 1.0; }", "none") == "float a() { return 1.0; }");
}

TEST_CASE("what says no more than the models, is the whole lighting, or is no formula is left out") {
    CHECK(read("seen = vec4(lampLight * nl * paint / (d * d), 1.0);").empty());
    CHECK(read("float f = 1.0 / (d * d);").empty());
    CHECK(read("float f = unknown(d) + texture(sky, uv).r * d;").empty());
    // Deeper than any person writes, longer than any formula: nothing, at once.
    CHECK(read("float f = " + std::string(5000, '(') + "d" + std::string(5000, ')') + ";").empty());
    std::string sum = "float f = d";
    for (int i = 0; i < 20'000; ++i) {
        sum += " + d";
    }
    CHECK(read(sum + ";").empty());
    CHECK(formulas_of(stage("", {})).empty());
    shader_program by_face = stage("void main() { float f = exp(-distance(p, q)); }", {});
    by_face.rate = rate::face;
    CHECK(formulas_of(by_face).empty());
}
