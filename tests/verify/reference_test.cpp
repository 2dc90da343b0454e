// The reference scenes, the tolerances, and what they catch.
#include <doctest/doctest.h>

#include <cmath>
#include <set>

#include "support/printing.hpp"
#include "support/sampling.hpp"
#include "support/told_result.hpp"
#include "verify/cast.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/check.hpp"

using namespace yurvo;

namespace {

// 0, or 1 as soon as something does not hold.
std::size_t failures(const renderer& by) {
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        // Of those that a sanitized test asks, none has a penumbra that is smooth.
        const std::string scenes = testing::scenes_asked + std::string(" searchlight ");
        const bool asked = testing::whole || scenes.find(" " + reference.name + " ") != std::string::npos;
        if (!asked || reference.scene.formulas.any()) { // which would stand in the place of what is broken
            continue;
        }
        for (const verify::check_unit& unit : verify::units_of(reference)) {
            for (const verify::check_result& result : verify::check_by_drawing(unit, by)) {
                if (!result.passed) {
                    return 1;
                }
            }
        }
    }
    return 0;
}

std::size_t failures_of(std::function<picture(const scene&)> draws) {
    return failures(function_renderer(std::move(draws)));
}

template <class Formula> std::size_t failures_with() { return failures(formula_renderer<Formula>()); }

struct cosine_not_clamped : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        return dot(n, l);
    }
};
struct cosine_squared : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        const Real cosine = formula::diffuse_cosine(n, l);
        return cosine * cosine;
    }
};
struct falloff_cubed : formula {
    template <class Real> static Real falloff_inverse_square(const Real& d) { return Real(1) / (d * d * d); }
};
struct no_gate : formula {
    template <class Real> static Real gate(const vec3<Real>&, const vec3<Real>&, const Real& highlight) {
        return highlight;
    }
};
struct penumbra_not_smooth : formula {
    template <class Real> static Real penumbra_smooth(const Real& t) { return t; }
};
struct axis_not_normalized : formula {
    template <class Real> static vec3<Real> axis(const vec3<Real>& shines) { return shines; }
};
struct full_angle : formula {
    template <class Real> static Real cone_versine(const Real& angle) {
        return formula::cone_versine(angle / 2);
    }
};
// Two parts in a hundred thousand: a few times what rounding to float explains.
struct barely_wrong : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        return formula::diffuse_cosine(n, l) * Real(1 + 2e-5);
    }
};

} // namespace

TEST_CASE("the built-in models hold on every reference scene with half the tolerance to spare") {
    testing::part_of_list part;
    double most = 0;
    std::size_t count = 0;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(reference.name);
        CHECK_FALSE(find_fault(reference.scene).has_value());
        CHECK_FALSE(reference.shows.empty());
        CHECK_FALSE(reference.known.empty());
        double most_here = 0;
        std::size_t count_here = 0;
        for (const verify::check_result& result : verify::check_reference(reference, built_in_renderer())) {
            INFO(testing::told(result));
            CHECK(result.passed);
            CHECK(result.used <= 0.5);
            most_here = std::max(most_here, result.used);
            ++count_here;
        }
        MESSAGE(reference.name << ": " << count_here << " checks, at most " << most_here
                               << " of a tolerance");
        most = std::max(most, most_here);
        count += count_here;
    }
    MESSAGE(count << " checks; at most " << most << " of a tolerance is used");
}

TEST_CASE("a formula broken in any of these ways is found" * doctest::test_suite("slow")) {
    CHECK(failures_with<formula>() == 0);
    CHECK(failures_with<cosine_not_clamped>() > 0);
    CHECK(failures_with<cosine_squared>() > 0);
    CHECK(failures_with<falloff_cubed>() > 0);
    CHECK(failures_with<no_gate>() > 0);
    CHECK(failures_with<penumbra_not_smooth>() > 0);
    CHECK(failures_with<axis_not_normalized>() > 0);
    CHECK(failures_with<full_angle>() > 0);
    CHECK(failures_with<barely_wrong>() > 0);
}

TEST_CASE("another rate, a scene turned upside down, swapped channels, wrong alpha: all found") {
    CHECK(failures_of([](scene drawn) {
              drawn.shading.rate = drawn.shading.rate == rate::vertex ? rate::fragment : drawn.shading.rate;
              return draw(drawn);
          }) > 0);
    CHECK(failures_of([](const scene& drawn) {
              const picture right = draw(drawn);
              picture wrong = right;
              for (int y = 0; y < right.height; ++y) {
                  for (int x = 0; x < right.width; ++x) {
                      wrong.set(x, y, right.color(x, right.height - 1 - y), 1);
                  }
              }
              return wrong;
          }) > 0);
    CHECK(failures_of([](const scene& drawn) {
              picture wrong = draw(drawn);
              for (std::size_t i = 0; i < wrong.values.size(); i += 4) {
                  std::swap(wrong.values[i], wrong.values[i + 2]);
              }
              return wrong;
          }) > 0);
    CHECK(failures_of([](const scene& drawn) {
              picture wrong = draw(drawn);
              for (std::size_t i = 3; i < wrong.values.size(); i += 4) {
                  wrong.values[i] = 0.999F;
              }
              return wrong;
          }) > 0);
}

TEST_CASE("a cast ray meets a level plane where geometry says, and lights it by the closed form") {
    scene made;
    made.view.eye = {0, 2, 4};
    made.view.width = 80;
    made.view.height = 50;
    made.shading.model = model_kind::lambert;
    made.ambient_strength = 0;
    made.materials.push_back({.name = "deck"});
    made.objects.push_back({.name = "quay", .shape = plane_shape{{8, 8}, {3, 5}}});
    named_light lamp;
    lamp.light.position = {0.5, 1.5, 0.25};
    lamp.light.intensity = 2;
    made.lights.push_back(lamp);
    const verify::caster casts(made);
    const vec3<double> forward = normalize(vec3<double>{0, -2, -4});
    const vec3<double> right{1, 0, 0};
    const vec3<double> up = cross(right, forward);
    const double half = std::tan(radians(22.5));
    for (const auto& [x, y] : {std::pair{40.5, 25.5}, {13.25, 30.0}, {66.0, 41.75}}) {
        const vec3<double> ray = forward + right * ((x - 40) / 25 * half) - up * ((y - 25) / 25 * half);
        const vec3<double> p = made.view.eye + ray * (-2 / ray.y);
        const double d = length(lamp.light.position - p);
        const verify::cast_color cast = casts.at(x, y);
        CHECK(cast.object == 0);
        CHECK(std::abs(cast.color.g - 2 * 1.5 / (d * d * d)) <= 1e-12);
        // The tolerance is what float can lose: more than one rounding; less than twice that of forty
        // operations, of three powers of a distance whose ends are each rounded at some 6 m from the eye, and
        // of the cosine, which turns by as much as the direction does times its tangent.
        const double tangent = std::hypot(p.x - 0.5, p.z - 0.25) / 1.5;
        CHECK(cast.tolerance.g > 0x1p-24 * cast.color.g);
        CHECK(cast.tolerance.g < 2 * 0x1p-24 * (60 + (3 + tangent) * (12 + d) / d) * cast.color.g);
    }
    CHECK(casts.at(40, 0.5).object == -1);
}

TEST_CASE("each farther plate of the lantern's row is held against the nearest, and that against nothing") {
    const verify::reference_scene& row = *verify::find_reference("lantern-row");
    std::vector<double> ratios;
    for (const verify::expectation& each : row.expectations) {
        if (each.is_ratio) {
            ratios.push_back(each.color.g);
        }
    }
    REQUIRE(ratios.size() == 3);
    for (const double k : {2.0, 3.0, 4.0}) {
        // The square of the distance. A pixel there is less than 2 cm of a plate: ρ metres off its centre, d
        // away, light is 1.5 (ρ / d)² weaker.
        CHECK(ratios[static_cast<std::size_t>(k) - 2] ==
              doctest::Approx(1 / (k * k)).epsilon(1.5 * 0.02 * 0.02));
    }
}

TEST_CASE("how a tolerance comes about is told of eight lights, and how many more there are") {
    scene made = verify::find_reference("lantern-row")->scene;
    const named_light lantern = made.lights[0];
    for (const std::size_t lights : {1U, 8U, 9U, 13U}) {
        CAPTURE(lights);
        made.lights.assign(lights, lantern);
        const verify::expectation& plate = verify::find_reference("lantern-row")->expectations.front();
        std::string told;
        for (const std::string& line : verify::caster(made).derivation(plate.x + 0.5, plate.y + 0.5)) {
            told += line + "\n";
        }
        std::size_t named = 0;
        for (std::size_t at = told.find(" m away: "); at != std::string::npos;
             at = told.find(" m away: ", at + 1)) {
            ++named;
        }
        CHECK(named == std::min<std::size_t>(lights, 8));
        CHECK((told.find("... and " + std::to_string(lights - 8) + " lights more.\n") != std::string::npos) ==
              (lights > 8));
    }
}

TEST_CASE("what is expected on the slipway is said of each of its things by name") {
    const verify::reference_scene& slipway = *verify::find_reference("slipway");
    std::set<std::string> lit;
    std::set<std::string> counted;
    for (const verify::expectation& each : slipway.expectations) {
        (each.area_of ? counted : lit).insert(each.name);
    }
    for (const object& each : slipway.scene.objects) {
        CAPTURE(each.name);
        CHECK(lit.count("the moon on the " + each.name) == 1);
        CHECK(counted.count("how many pixels show the " + each.name) == 1);
    }
}

TEST_CASE("names of scenes are told apart, and found") {
    std::set<std::string> names;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        CHECK(names.insert(reference.name).second);
        CHECK(verify::find_reference(reference.name) == &reference);
    }
    CHECK(verify::find_reference("nowhere") == nullptr);
}
