// Pictures taken apart into what each light adds, and added up again under other lights.
#include <doctest/doctest.h>

#include <cmath>
#include <string>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/study/relight.hpp"

using namespace yurvo;

namespace {

const std::string plank = R"(format = 1
[view]
eye = [0, 4, 0.001]
target = [0, 0, 0]
size = [40, 30]
background = [0.1, 0.2, 0.3]
[ambient]
color = [0.5, 1.0, 0.25]
strength = 0.2
[materials.deck]
base = [0.4, 0.3, 0.2]
emission = [0.01, 0.0, 0.0]
[[objects]]
shape = "plane"
size = [2, 2]
material = "deck"
)";
const std::string lantern = "[[lights]]\nkind = \"point\"\nname = \"lantern\"\nposition = [0, 1, 0]\ncolor = "
                            "[1, 0.5, 0]\nintensity = 3\n";
const std::string moon = "[[lights]]\nkind = \"directional\"\nshines = [0, -1, 0]\nambient = 0.25\n";

scene scene_of(const std::string& text) { return parse_scene(text, "plank", {}); }

} // namespace

TEST_CASE(
    "each light's each term is a layer for light of color 1; their sum is the picture, under any lights") {
    const scene of = scene_of(plank + lantern + moon);
    const study::relight parts = study::take_apart(of);
    REQUIRE(parts.why_not.empty());
    REQUIRE(parts.lights.size() == 2);
    CHECK(parts.lights[0].name == "lantern");
    CHECK(parts.lights[1].name == "lights[1]");
    // ambient, emission, the lantern's diffuse, the moon's ambient part and its diffuse: nothing is specular.
    REQUIRE(parts.layers.size() == 5);
    const auto middle = [&](std::size_t layer) { return parts.layers[layer].drawn.color(20, 15); };
    // In closed form, in the middle: base · 1; the emission; base · (n·l) / d² of the lantern, one metre
    // above and hardly aside; base · 0.25 and base of the moon straight above.
    CHECK(parts.layers[0].what == term::ambient);
    CHECK(middle(0).r == doctest::Approx(0.4));
    CHECK(middle(0).b == doctest::Approx(0.2));
    CHECK(parts.layers[1].what == term::emission);
    CHECK(middle(1).r == doctest::Approx(0.01));
    CHECK(middle(1).g == 0);
    CHECK(parts.layers[2].light == 0);
    const double aside = 0.5 / 30 * 2 * 4 * std::tan(radians(22.5)); // half a pixel, on the plank
    const double squared = 1 + 2 * aside * aside;
    CHECK(middle(2).g == doctest::Approx(0.3 / (squared * std::sqrt(squared))).epsilon(1e-3));
    CHECK(parts.layers[3].what == term::ambient);
    CHECK(parts.layers[3].light == 1);
    CHECK(middle(3).r == doctest::Approx(0.1));
    CHECK(middle(4).r == doctest::Approx(0.4));
    CHECK(parts.layers[0].drawn.color(0, 0).r == 0); // beside the plank only the background is
    CHECK(parts.background.color(0, 0).b == doctest::Approx(0.3));
    CHECK(parts.background.color(20, 15).b == 0);
    // Under other lights it is what is drawn under those.
    scene other = of;
    other.lights[0].light.color = {0.2, 0.4, 2};
    other.lights[0].light.intensity = 7;
    other.lights[1].light.intensity = 0;
    other.ambient_strength = 0.9;
    std::vector<rgb<double>> factors;
    for (const study::linear_layer& layer : parts.layers) {
        factors.push_back(layer.light ? *layer.light == 0 ? rgb<double>(1.4, 2.8, 14) : rgb<double>(0.0)
                          : layer.what == term::ambient ? rgb<double>(0.45, 0.9, 0.225)
                                                        : rgb<double>(1.0));
    }
    const picture sum = study::add_up(parts, factors);
    const picture right = draw(other);
    double most = 0;
    for (std::size_t i = 0; i < sum.values.size(); ++i) {
        most = std::max(most, std::abs(static_cast<double>(sum.values[i] - right.values[i])) /
                                  std::max(1.0F, right.values[i]));
    }
    CHECK(most < 20 * 6e-8); // roundings of five floats and their products
    CHECK(parts.largest_off < 20 * 6e-8);
}

TEST_CASE("what is no sum of lights says so") {
    CHECK(study::take_apart(scene_of(plank + "[shading]\nmodel = \"unlit\"\n")).why_not ==
          "its model shows base colours, whatever the lights");
    const std::string sum = "its light is no sum of what each light adds";
    CHECK(study::take_apart(scene_of(plank + lantern + "[shading]\nambient_rule = \"max\"\n")).why_not ==
          sum);
    CHECK(study::take_apart(scene_of(plank + lantern +
                                     "[shading]\nmodel = \"cel\"\nthresholds = [0.5]\nbands = [0.2, 1.0]\n"))
              .why_not == sum);
    // A formula that squares all light at the end.
    const study::relight squared =
        study::take_apart(scene_of(plank + lantern + "[formulas]\ncolor = \"c * c\"\n"));
    CHECK(squared.why_not == sum);
    CHECK(squared.layers.empty());
    CHECK(squared.largest_off > 1e-3);
    // One in the place of a part of a light's own light leaves a sum.
    CHECK(
        study::take_apart(scene_of(plank + lantern + "[formulas]\ndiffuse = \"max(dot(n, l), 0.0) * 0.5\"\n"))
            .why_not.empty());
}

TEST_CASE("of many lights eight have layers of their own, the others are one group") {
    scene of = scene_of(plank);
    for (int i = 0; i < 20; ++i) {
        named_light one;
        one.light.kind = light_kind::point;
        one.light.position = {0.1 * i - 1, 1, 0};
        one.light.color = {1, 0.05 * i, 0.3};
        one.light.intensity = 0.1 + 0.01 * i;
        of.lights.push_back(one);
    }
    const study::relight parts = study::take_apart(of);
    REQUIRE(parts.why_not.empty());
    REQUIRE(parts.lights.size() == 9);
    CHECK(parts.lights[8].name == "the other 12");
    CHECK(parts.lights[8].lights == 12);
    CHECK(parts.lights[8].intensity == 1);
    CHECK(parts.layers.size() == 11); // ambient, emission, nine times diffuse
    of.lights.clear();
    const study::relight dark = study::take_apart(of);
    CHECK(dark.why_not.empty());
    CHECK(dark.layers.size() == 2);
}
