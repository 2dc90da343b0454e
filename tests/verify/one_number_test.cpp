// The one number with which wrong pictures are right.
#include <cmath>

#include <doctest/doctest.h>

#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/one_number.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;

TEST_CASE("one number away: what the pictures were drawn with, and nothing where two are wrong or none is") {
    scene told = verify::find_reference("buoys")->scene;
    told.expects.clear();
    told.view.width = 96;
    told.view.height = 60;
    const auto pictures = [&](auto&& change) {
        scene drawn = told;
        change(drawn);
        return std::vector<verify::wrong_picture>{{told, draw(drawn)}};
    };
    const auto shinier = [](scene& of) {
        for (named_material& each : of.materials) {
            each.look.shininess = 48;
        }
    };
    const auto brighter = [](scene& of) { of.ambient_strength = 0.07; };
    const auto away = [](const std::vector<verify::wrong_picture>& wrong) {
        return verify::one_number_away(wrong, pixel_format::floats, {});
    };
    const std::vector<verify::wrong_picture> one = pictures(shinier);
    const std::vector<verify::needed_number> found = away(one);
    REQUIRE(found.size() == 1);
    CHECK(found[0].quantity == "material.shininess");
    CHECK(found[0].value == doctest::Approx(48).epsilon(1e-12));
    CHECK(away({}).empty());
    CHECK(away(pictures([](scene& /*of*/) {})).empty());
    CHECK(away(pictures([&](scene& of) {
              shinier(of);
              brighter(of);
          })).empty());
    // The nearest is said, too, where it is not enough.
    const std::vector<verify::needed_number> nearest = verify::nearest_numbers(one, pixel_format::floats, {});
    REQUIRE_FALSE(nearest.empty());
    CHECK(nearest[0].quantity == "material.shininess");
    CHECK(nearest[0].value == doctest::Approx(48).epsilon(1e-3));
}
