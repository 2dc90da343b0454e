// A pixel worked by hand, in words: what stands behind each number says how it comes about, and it is what
// the models' equations say. The explanations are put together here, with round numbers.
#include <doctest/doctest.h>

#include <string>
#include <vector>

#include "support/run.hpp"
#include "yurvo/report/explanation.hpp"

using namespace yurvo;
using testing::has;

namespace {

// A line without its columns: one space for each gap.
std::string line_of(const std::string& text, const std::string& name, std::size_t which = 0) {
    std::size_t at = 0;
    for (std::size_t found = 0; at < text.size();) {
        const std::size_t end = text.find('\n', at);
        std::string line;
        for (const char each : text.substr(at, end - at)) {
            if (each != ' ' || (!line.empty() && line.back() != ' ')) {
                line += each;
            }
        }
        line.erase(line.find_last_not_of(' ') + 1);
        if (line.starts_with(name + " ") && found++ == which) {
            return line;
        }
        at = end + 1;
    }
    return "";
}

light lamp_of(light_kind kind) {
    light lamp;
    lamp.kind = kind;
    lamp.color = {1, 0.5, 0.25};
    lamp.intensity = 8;
    lamp.inner = 0; // cosines of round numbers: 1 and 0.5
    lamp.outer = radians(60);
    return lamp;
}

struct told {
    study::named_scene named;
    verify::explanation of;

    explicit told(model_kind model = model_kind::blinn_phong) {
        scene& quay = named.scene;
        named.name = "quay.toml";
        quay.shading.model = model;
        quay.ambient_color = {1, 1, 1};
        quay.ambient_strength = 0.5;
        quay.materials.push_back({.name = "planks"});
        quay.materials[0].look.base = {0.5, 0.25, 0.125};
        quay.materials[0].look.specular = {1, 1, 1};
        quay.materials[0].look.shininess = 32;
        quay.objects.push_back({.name = "quay"});
        of.object = 0;
        of.object_name = "quay";
        of.material_name = "planks";
        of.model = descriptor_of(model);
        of.point.position = {1, 2, 3};
        of.point.normal = {0, 1, 0};
        of.point.normal_length = 0.5;
        of.point.to_eye = {0, 0, 1};
        of.point.eye_distance = 4;
        of.point.base = {0.5, 0.25, 0.125};
        of.point.ambient = {0.25, 0.125, 0.0625};
        of.linear = {0.5, 0.25, 2};
        of.encoded = {188, 137, 255};
        of.clamped = {false, false, true};
    }

    verify::explained_light& add(light_kind kind, const std::string& name) {
        named.scene.lights.push_back({.name = name, .light = lamp_of(kind)});
        verify::explained_light lit;
        lit.name = name;
        lit.kind = kind;
        lit.to_light = {0, 1, 0};
        lit.whole = {0, 2, 0};
        lit.distance = 2;
        lit.falloff = 0.25;
        lit.falloff_law = falloff_kind::inverse_square;
        lit.penumbra = 0.5;
        lit.penumbra_law = penumbra_kind::ramp;
        lit.cone_cosine = 0.75;
        lit.cosine = 0.5;
        lit.arriving = {2, 1, 0.5};
        lit.half = {0, 1, 0};
        lit.reflected = {0, 0, 1};
        lit.highlight_cosine = 0.875;
        lit.highlight = 0.125;
        lit.diffuse = {0.5, 0.125, 0.03125};
        lit.specular = {0.25, 0.125, 0.0625};
        of.point.lights.push_back(lit);
        return of.point.lights.back();
    }

    [[nodiscard]] std::string text(const std::string& model = "blinn-phong") const {
        return report::explanation_text(named, model, of, 7, 9);
    }
};

} // namespace

TEST_CASE("explanation: the point, the ambient term and the sum") {
    const told quay;
    const std::string text = quay.text();
    CHECK(text.starts_with("quay.toml, pixel (7, 9), blinn-phong per fragment\n\n"));
    CHECK(line_of(text, "object") == "object quay material planks, seen from the front");
    CHECK(line_of(text, "position") == "position (1, 2, 3) m, world");
    CHECK(line_of(text, "n") == "n (0, 1, 0) of length 0.5 before it was normalised");
    CHECK(line_of(text, "v") == "v (0, 0, 1) to the eye, 4 m away");
    CHECK(line_of(text, "base") == "base (0.5, 0.25, 0.125)");
    CHECK(line_of(text, "ambient") == "ambient (0.25, 0.125, 0.0625) (1, 1, 1) · 0.5 · (1, 1, 1) · base");
    CHECK(line_of(text, "ambient", 1) == "ambient (0.25, 0.125, 0.0625)");
    CHECK(line_of(text, "diffuse") == "diffuse (0, 0, 0) of all lights");
    CHECK(line_of(text, "linear") == "linear (0.5, 0.25, 2)");
    CHECK(line_of(text, "encoded") == "encoded (188, 137, 255) clamped: blue");
    CHECK(line_of(text, "alpha").empty()); // of an opaque one nothing is said
}

TEST_CASE("explanation: a directional light has no distance") {
    told quay;
    quay.add(light_kind::directional, "moon").falloff = 1;
    quay.of.point.lights[0].penumbra = 1;
    const std::string text = quay.text();
    CHECK(has(text, "\nmoon (directional)\n"));
    CHECK(line_of(text, "l") == "l (0, 1, 0) −shines, made unit");
    CHECK(line_of(text, "d").empty());
    CHECK(line_of(text, "falloff").empty());
    CHECK(line_of(text, "penumbra").empty());
    CHECK(line_of(text, "n·l") == "n·l 0.5");
    CHECK(line_of(text, "E") == "E (2, 1, 0.5) (1, 0.5, 0.25) · 8 · 1 · 1");
    CHECK(line_of(text, "diffuse") == "diffuse (0.5, 0.125, 0.03125) E · 0.5 · (1, 1, 1) · base");
}

TEST_CASE("explanation: a point light has a distance and a law, each law in its own words") {
    told quay;
    verify::explained_light& lit = quay.add(light_kind::point, "lantern");
    light& lamp = quay.named.scene.lights[0].light;
    lamp.coefficients = {1, 2, 3};
    lamp.range = 8;
    const std::vector<std::pair<falloff_kind, std::string>> laws{
        {falloff_kind::none, "none"},
        {falloff_kind::inverse_square, "1 / 2²"},
        {falloff_kind::polynomial, "1 / (1 + 2·2 + 3·2²)"},
        {falloff_kind::linear, "max(0, 1 − 2 / 8)"},
        {falloff_kind::windowed, "clamp(1 − (2 / 8)⁴, 0, 1) / 2²"}};
    for (const auto& [law, said] : laws) {
        lamp.falloff = lit.falloff_law = law;
        CHECK(line_of(quay.text(), "falloff") == "falloff 0.25 " + said);
    }
    const std::string text = quay.text();
    CHECK(line_of(text, "to light") == "to light (0, 2, 0) m, from the point to the light");
    CHECK(line_of(text, "d") == "d 2 its length, m");
    CHECK(line_of(text, "l") == "l (0, 1, 0) to light / d");
}

TEST_CASE("explanation: a spot light's penumbra, each in its own words") {
    told quay;
    verify::explained_light& lit = quay.add(light_kind::spot, "searchlight");
    light& lamp = quay.named.scene.lights[0].light;
    lamp.exponent = 4;
    const std::string t = "t = clamp((0.75 − 0.5) / (1 − 0.5), 0, 1)";
    const std::vector<std::pair<penumbra_kind, std::string>> laws{
        {penumbra_kind::hard, "hard: cos θ = 0.75 against cos outer = 0.5"},
        {penumbra_kind::ramp, t},
        {penumbra_kind::squared, t + ", t²"},
        {penumbra_kind::smooth, t + ", t²(3 − 2t)"},
        {penumbra_kind::power, "0.75^4 where cos θ ≥ 0.5"}};
    for (const auto& [law, said] : laws) {
        lamp.penumbra = lit.penumbra_law = law;
        CHECK(line_of(quay.text(), "penumbra") == "penumbra 0.5 " + said);
    }
}

TEST_CASE("explanation: highlights by the half vector, by the reflected one, and none") {
    told blinn;
    blinn.add(light_kind::point, "lantern");
    std::string text = blinn.text();
    CHECK(line_of(text, "h") == "h (0, 1, 0) l + v, made unit");
    CHECK(line_of(text, "n·h") == "n·h 0.875");
    CHECK(line_of(text, "highlight") == "highlight 0.125 max(0.875, 0)^32");
    CHECK(line_of(text, "specular") == "specular (0.25, 0.125, 0.0625) E · (1, 1, 1) · 0.125");
    CHECK(line_of(text, "r").empty());

    told phong(model_kind::phong);
    phong.add(light_kind::point, "lantern");
    text = phong.text("phong");
    CHECK(line_of(text, "r") == "r (0, 0, 1) 2(n·l)n − l");
    CHECK(line_of(text, "r·v") == "r·v 0.875");
    CHECK(line_of(text, "h").empty());

    told lambert(model_kind::lambert);
    lambert.add(light_kind::point, "lantern");
    text = lambert.text("lambert");
    CHECK(line_of(text, "highlight").empty());
    CHECK(line_of(text, "specular").empty()); // neither of the light nor of all

    told matt;
    matt.named.scene.materials[0].look.specular = {0, 0, 0};
    matt.add(light_kind::point, "lantern");
    CHECK(line_of(matt.text(), "highlight").empty());
}

TEST_CASE("explanation: behind the surface a light adds nothing, and the gate says why") {
    told quay;
    verify::explained_light& lit = quay.add(light_kind::point, "lantern");
    lit.cosine = -0.25;
    lit.highlight = 0;
    const std::string text = quay.text();
    CHECK(line_of(text, "n·l") == "n·l -0.25 not above 0: it adds nothing");
    CHECK(line_of(text, "highlight") == "highlight 0 max(0.875, 0)^32, but n·l is not above 0");
    CHECK(line_of(text, "diffuse") == "diffuse (0.5, 0.125, 0.03125) E · 0 · (1, 1, 1) · base");
}

TEST_CASE("explanation: a light's parts, and what its ambient part falls off with") {
    told quay;
    verify::explained_light& lit = quay.add(light_kind::spot, "searchlight");
    light& lamp = quay.named.scene.lights[0].light;
    lamp.ambient = {0.5, 0.5, 0.5};
    lamp.diffuse = {0.25, 0.5, 1};
    lit.ambient_factor = 0.125;
    lit.ambient = {0.25, 0.125, 0.0625};
    const std::vector<std::pair<ambient_follows, std::string>> words{
        {ambient_follows::cone, "falloff · penumbra"},
        {ambient_follows::distance, "the falloff"},
        {ambient_follows::nothing, "follows nothing"}};
    for (const auto& [follows, said] : words) {
        lamp.follows = follows;
        CHECK(line_of(quay.text(), "ambient", 1) ==
              "ambient (0.25, 0.125, 0.0625) (1, 0.5, 0.25) · 8 · (0.5, 0.5, 0.5) · 0.125 (" + said +
                  ") · (1, 1, 1) · base");
    }
    CHECK(line_of(quay.text(), "diffuse") ==
          "diffuse (0.5, 0.125, 0.03125) E · (0.25, 0.5, 1) · 0.5 · (1, 1, 1) · base");
    // The sum has both.
    CHECK(line_of(quay.text(), "ambient", 2) == "ambient (0.5, 0.25, 0.125)");
    lamp.kind = lit.kind = light_kind::point;
    lamp.follows = ambient_follows::cone; // it has no cone
    CHECK(has(line_of(quay.text(), "ambient", 1), "(the falloff)"));
    lamp.kind = lit.kind = light_kind::directional;
    CHECK(has(line_of(quay.text(), "ambient", 1), "(nothing to fall off with)"));
}

TEST_CASE("explanation: of more than eight lights, those that do nothing are left out") {
    told quay;
    for (int i = 0; i < 8; ++i) {
        quay.add(light_kind::point, "lantern " + std::to_string(i)).arriving = {0, 0, 0};
    }
    CHECK(has(quay.text(), "\nlantern 7 (point)\n"));
    quay.add(light_kind::point, "lantern 8");
    CHECK_FALSE(has(quay.text(), "\nlantern 7 (point)\n"));
    CHECK(has(quay.text(), "\nlantern 8 (point)\n"));
}

TEST_CASE("explanation: formulas with what they were given, of the light that they were asked for") {
    told quay;
    quay.named.scene.formulas[formulas::slot::diffuse] = "max(dot(n, l), 0.0) * wrap";
    quay.named.scene.formulas[formulas::slot::falloff] = "1.0 / d";
    quay.named.scene.formulas[formulas::slot::color] = "c * 0.5";
    quay.named.scene.formulas[formulas::slot::more] = "vec3(0.5)";
    quay.named.scene.formulas[formulas::slot::ambient] = "0.5";
    quay.add(light_kind::point, "lantern");
    quay.add(light_kind::point, "lamp");
    quay.of.point.more = {0.5, 0.5, 0.5};
    quay.of.point.formulas = {
        {"diffuse", "lamp", "max(dot(n, l), 0.0) * wrap", {0.25}, {{"n", {0, 1, 0}}, {"wrap", {0.5}}}},
        {"color", "", "c * 0.5", {0.5, 0.25, 0.125}, {}}};
    const std::string text = quay.text();
    CHECK(line_of(text, "falloff") == "falloff 0.25 by its formula");
    CHECK(line_of(text, "[diffuse]") == "[diffuse] 0.25 = max(dot(n, l), 0.0) * wrap");
    CHECK(line_of(text, "[diffuse]", 1).empty()); // it was asked for one of the two
    CHECK(text.find("\n  [diffuse]") > text.find("\nlamp (point)\n"));
    CHECK(line_of(text, "with") == "with n = (0, 1, 0), wrap = 0.5");
    CHECK(line_of(text, "diffuse") == "diffuse (0.5, 0.125, 0.03125) E · [diffuse] · (1, 1, 1) · base");
    CHECK(has(text, "\nasked once\n"));
    CHECK(line_of(text, "[color]") == "[color] (0.5, 0.25, 0.125) = c * 0.5");
    CHECK(line_of(text, "more") == "more (0.5, 0.5, 0.5) by its formula");
    CHECK(line_of(text, "the formula") == "the formula `color` makes of their sum");
    CHECK(has(line_of(text, "ambient"), " · [ambient] · base"));
    quay.of.point.failed = true;
    CHECK(has(quay.text(), "a formula gives NaN or infinity: it is black"));
}

TEST_CASE("explanation: bands and outlines of cel") {
    told quay(model_kind::cel);
    verify::explained_light& lit = quay.add(light_kind::point, "lantern");
    lit.gradient = 0.5;
    quay.of.point.gradient = 0.5;
    quay.of.point.band = 1;
    std::string text = quay.text("cel");
    CHECK(line_of(text, "gradient") == "gradient 0.5 max(n·l, 0) · intensity · falloff · penumbra");
    CHECK(line_of(text, "gradient", 1) == "gradient 0.5 the lights' shares, clamped to 0 … 1");
    CHECK(line_of(text, "band") == "band 1 of 3, counted from 0");
    CHECK(line_of(text, "diffuse").empty());
    quay.of.point.band = -1;
    text = quay.text("cel");
    CHECK(line_of(text, "band").empty());
    CHECK(has(line_of(text, "outline"), "n·v is below 0.2"));
}

TEST_CASE("explanation: where it is lit: at the middle of a triangle, at three vertices") {
    told quay;
    quay.named.scene.shading.rate = quay.of.rate = rate::face;
    CHECK(has(quay.text(), "the model is evaluated at the triangle's middle, with its own normal"));
    quay.named.scene.shading.rate = quay.of.rate = rate::vertex;
    for (const double weight : {0.5, 0.25, 0.25}) {
        verify::explained_vertex corner;
        corner.weight = weight;
        corner.at = quay.of.point;
        corner.at.color = {0.5, 0.25, 0.125};
        quay.of.vertices.push_back(corner);
    }
    const std::string text = quay.text();
    CHECK(has(text, "\nVERTEX 1, weight 0.5\n"));
    CHECK(has(text, "\nVERTEX 3, weight 0.25\n"));
    CHECK(line_of(text, "colour") == "colour (0.5, 0.25, 0.125) all its terms");
    CHECK(has(text, "what the vertices have, blended by their weights\n"));
    quay.of.textured = true;
    quay.of.texel = {0.5, 0.5, 0.5};
    CHECK(has(quay.text(), "blended by their weights, times the texel\n"));
    CHECK(line_of(quay.text(), "texel") == "texel (0.5, 0.5, 0.5) decoded, part of base");
}

TEST_CASE("explanation: what is seen from behind, what is see-through, and the background") {
    told quay;
    quay.of.front = false;
    CHECK(line_of(quay.text(), "object") == "object quay material planks, seen from behind");
    quay.of.turned = true;
    CHECK(line_of(quay.text(), "object") ==
          "object quay material planks, seen from behind: its normals are turned");
    quay.of.alpha = 0.5;
    CHECK(line_of(quay.text(), "alpha") == "alpha 0.5");
    quay.named.scene.shading.ambient_rule = ambient_rule::max;
    CHECK(has(line_of(quay.text(), "ambient", 1), "the greater of this and diffuse counts"));
    quay.of.object.reset();
    CHECK(quay.text() ==
          "quay.toml, pixel (7, 9), blinn-phong per fragment\n\nNothing is seen here: the background.\n"
          "  linear      (0.5, 0.25, 2)\n  encoded     (188, 137, 255)\n");
}

TEST_CASE("explanation: a model of one's own says what it reflects, and not how") {
    told quay;
    quay.add(light_kind::point, "lantern");
    quay.of.own_model = true;
    const std::string text = quay.text("wrapped");
    CHECK(line_of(text, "diffuse") ==
          "diffuse (0.5, 0.125, 0.03125) E by the model's own formula, times factor and base");
    CHECK(line_of(text, "specular") ==
          "specular (0.25, 0.125, 0.0625) E by the model's own formula, times factor");
    CHECK(line_of(text, "highlight").empty());
}

TEST_CASE("explanation: another picture's value, and what would have to differ for it") {
    const told quay;
    study::found_pixel found;
    found.linear = {0.25, 0.125, 1};
    found.encoded = {137, 99, 255};
    std::string text = report::found_pixel_text(quay.of, found, "mine.png");
    CHECK(line_of(text, "linear") == "linear (0.25, 0.125, 1) right is (0.5, 0.25, 2)");
    CHECK(line_of(text, "encoded") == "encoded (137, 99, 255) right is (188, 137, 255)");
    CHECK(has(text, "No single number, changed alone, would give it"));
    found.changes = {{"lantern's diffuse", 0.5, "n·l", 0.5, 0.25}, {"the whole colour", 0.5, "", 0, 0}};
    text = report::found_pixel_text(quay.of, found, "mine.png");
    CHECK(has(text, "    lantern's diffuse were 0.5 times what it is (n·l 0.25 instead of 0.5)\n"));
    CHECK(has(text, "    the whole colour were 0.5 times what it is\n"));
    found.changes.clear();
    found.encoded = {188, 138, 255}; // a code is no difference
    CHECK(has(report::found_pixel_text(quay.of, found, "mine.png"), "  They agree.\n"));
    found.encoded = {188, 139, 255};
    CHECK_FALSE(has(report::found_pixel_text(quay.of, found, "mine.png"), "  They agree.\n"));
}
