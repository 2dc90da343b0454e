// The relations: exact where powers of two are, held by any subject that is right, and broken by those that
// are not.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <functional>

#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "support/told_result.hpp"
#include "verify/scene_changes.hpp"
#include "yurvo/model.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/relations.hpp"

using namespace yurvo;

namespace {

picture drawn(const scene& asked) { return draw(asked); }

// Which relations a subject breaks, over a few reference scenes that can show all of them.
std::vector<std::string> broken_by(const std::function<picture(const scene&)>& draws) {
    const function_renderer by(draws);
    std::vector<std::string> names;
    for (const char* name : {"lantern-quay-inverse-square", "moon-crates", "bollard"}) {
        for (const verify::check_unit& unit : verify::units_of(*verify::find_reference(name))) {
            for (const verify::check_result& result : verify::check_relations(unit.asked, by)) {
                if (!result.passed && std::find(names.begin(), names.end(), result.name) == names.end()) {
                    names.push_back(result.name);
                }
            }
        }
    }
    return names;
}

bool has(const std::vector<std::string>& names, const std::string& name) {
    return std::find(names.begin(), names.end(), name) != names.end();
}

struct wrapped {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max((dot(s.normal, in.to_light) + 0.3F) / 1.3F, Real(0)), {}};
    }
};
// Lambert's formula, claimed to be it.
struct lambert_of_ones_own {
    static constexpr auto equals = model_kind::lambert;
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)), {}};
    }
};
// ... and not quite it.
struct lambert_and_a_bit {
    static constexpr auto equals = model_kind::lambert;
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {in.light * max(dot(s.normal, in.to_light), Real(0)) * 1.001F, {}};
    }
};

scene quay_with_expectations() {
    scene made = verify::find_reference("lantern-quay-inverse-square")->scene;
    made.view.width = 201; // odd: the foot of the lantern is a pixel's centre
    made.view.height = 125;
    // At the foot h = d = 1: base · (ambient + color · 1.5).
    const rgb<double> foot = made.materials[0].look.base *
                             (made.ambient_color * made.ambient_strength + made.lights[0].light.color * 1.5);
    expected_value at_foot;
    at_foot.name = "the foot";
    at_foot.object = 0;
    at_foot.tolerance = rgb<double>(1e-5);
    at_foot.color = foot;
    made.expects.push_back(at_foot);
    expected_value self = at_foot;
    self.name = "itself";
    self.pixel = {100, 62};
    self.color = rgb<double>(1.0);
    self.ratio_to = "the foot";
    made.expects.push_back(self);
    return made;
}

} // namespace

TEST_CASE("powers of two and exchanged channels are exact, bit for bit") {
    const std::uint64_t seeds = testing::random_scene_count(60);
    std::size_t exact = 0;
    for (std::uint64_t seed = 1; seed <= seeds; ++seed) {
        testing::random_scenes random(seed, false);
        const scene made = random.next(160, 100);
        CAPTURE(seed);
        for (const verify::check_result& result : verify::check_relations(made, function_renderer(drawn))) {
            CAPTURE(result.name);
            const bool of_two = result.name == "doubled lengths" || result.name == "doubled intensity" ||
                                result.name == "a dark light" || result.name == "permuted channels";
            if (of_two) {
                CHECK(result.used == 0);
                CHECK(result.remark.ends_with(" (0 pixels at borders)"));
                ++exact;
            }
        }
    }
    MESSAGE("seeds 1 to " << seeds << ": " << exact << " exact");
    CHECK(exact > seeds);
}

TEST_CASE("doubled lengths: how much brighter a light must be, by its law; a law with a fixed length has no "
          "answer") {
    using law = std::function<double(double)>;
    const law inverse_square = [](double d) { return 1 / (d * d); };
    CHECK(verify::brighter_at_twice(inverse_square, inverse_square) == 4.0);
    CHECK(verify::brighter_at_twice([](double d) { return std::max(0.0, 1 - d / 3); },
                                    [](double d) { return std::max(0.0, 1 - d / 6); }) == 1.0);
    CHECK(verify::brighter_at_twice([](double) { return 0.0; }, [](double) { return 0.0; }) == 1.0);
    const law softened = [](double d) { return 1 / (1 + d * d); };
    CHECK_FALSE(verify::brighter_at_twice(softened, softened).has_value());
    // A range that does not grow with the rest: dark where the other is not.
    const law ends = [](double d) { return d < 3 ? 1.0 : 0.0; };
    CHECK_FALSE(verify::brighter_at_twice(ends, ends).has_value());

    // The lights that scenes have: 1 / d² takes 4, a law of d / range or of its own coefficients 1.
    for (const auto& each : {std::pair{falloff_kind::none, 1.0}, std::pair{falloff_kind::inverse_square, 4.0},
                             std::pair{falloff_kind::polynomial, 1.0}, std::pair{falloff_kind::linear, 1.0},
                             std::pair{falloff_kind::windowed, 4.0}}) {
        const auto& kind = each.first;
        const auto& factor = each.second;
        scene quay = verify::find_reference("lantern-quay-inverse-square")->scene;
        light& lamp = quay.lights[0].light;
        lamp.falloff = kind;
        lamp.range = 5.3;
        lamp.coefficients = {0.7, 0.21, 0.13};
        CAPTURE(static_cast<int>(kind));
        REQUIRE(verify::lengths_can_double(quay));
        const scene twice = verify::doubled_lengths(quay);
        CHECK(twice.view.near == 2 * quay.view.near);
        CHECK(twice.view.far == 2 * quay.view.far);
        CHECK(twice.view.eye == quay.view.eye * 2);
        const light& far = twice.lights[0].light;
        CHECK(far.position == lamp.position * 2);
        CHECK(far.intensity == lamp.intensity * factor);
        CHECK(far.range == 2 * lamp.range);
    }
}

TEST_CASE("random right scenes hold every relation") {
    const std::uint64_t seeds = testing::random_scene_count(50);
    double most = 0;
    for (std::uint64_t seed = 1; seed <= seeds; ++seed) {
        testing::random_scenes random(seed, true);
        const scene made = random.next(160, 100);
        for (const verify::check_result& result : verify::check_relations(made, function_renderer(drawn))) {
            CAPTURE(seed);
            INFO(testing::told(result));
            CHECK(result.passed);
            most = std::max(most, result.used);
        }
    }
    MESSAGE("seeds 1 to " << seeds << ": at most " << most << " of a tolerance is used");
}

TEST_CASE("each relation is broken by a subject that breaks what it says") {
    CHECK(broken_by(drawn).empty());
    CHECK(has(broken_by([](scene asked) {
                  if (asked.lights.size() > 1) {
                      asked.lights.resize(1); // only the first light counts
                  }
                  return draw(asked);
              }),
              "superposition"));
    CHECK(has(broken_by([](const scene& asked) {
                  picture made = draw(asked); // clamped to what a screen shows
                  for (float& value : made.values) {
                      value = std::min(value, 1.0F);
                  }
                  return made;
              }),
              "doubled intensity"));
    CHECK(has(broken_by([](scene asked) { // distances taken in another unit
                  for (named_light& one : asked.lights) {
                      one.light.falloff =
                          one.light.kind == light_kind::directional ? one.light.falloff : falloff_kind::none;
                  }
                  return draw(asked);
              }),
              "doubled lengths"));
    const std::vector<std::string> world = broken_by([](scene asked) { // objects' turns are forgotten
        for (object& one : asked.objects) {
            one.placed.rotation = {};
        }
        return draw(asked);
    });
    CHECK(has(world, "bake"));
    CHECK(has(world, "move everything"));
    CHECK(has(broken_by([](const scene& asked) {
                  picture made = draw(asked);
                  for (std::size_t i = 0; i < made.values.size(); i += 4) {
                      made.values[i] *= 1.01F; // too red
                  }
                  return made;
              }),
              "permuted channels"));
    CHECK(has(broken_by([](const scene& asked) { // brighter on the right
                  picture made = draw(asked);
                  for (std::size_t i = 0; i < made.values.size(); ++i) {
                      made.values[i] *=
                          1 + 0.01F * static_cast<float>(i / 4 % static_cast<std::size_t>(made.width)) / 160;
                  }
                  return made;
              }),
              "mirror"));
    CHECK(has(broken_by([](scene asked) { // darker with every light
                  asked.ambient_strength /= 1.0 + static_cast<double>(asked.lights.size());
                  return draw(asked);
              }),
              "a dark light"));
    CHECK(has(broken_by([](scene asked) { // lit from both sides
                  for (named_light& one : asked.lights) {
                      if (one.light.kind == light_kind::directional && one.light.shines.y > 0) {
                          one.light.shines = one.light.shines * -1.0;
                      }
                  }
                  return draw(asked);
              }),
              "a light below"));
    CHECK(has(broken_by([](scene asked) { // the first light counts more
                  if (!asked.lights.empty()) {
                      asked.lights[0].light.intensity *= 1.01;
                  }
                  return draw(asked);
              }),
              "swapped lights"));
    CHECK(has(broken_by([](scene asked) { // more cells, more ambient light
                  for (const object& one : asked.objects) {
                      if (const auto* plane = std::get_if<plane_shape>(&one.shape)) {
                          asked.ambient_strength *= 1 + 0.01 * plane->cells[0];
                      }
                  }
                  return draw(asked);
              }),
              "subdivided plane"));
    CHECK(has(broken_by([](scene asked) { // point lights a little brighter
                  for (named_light& one : asked.lights) {
                      one.light.intensity *= one.light.kind == light_kind::point ? 1.001 : 1;
                  }
                  return draw(asked);
              }),
              "a far light"));
    CHECK(has(broken_by([](scene asked) { // the lights go with the eye
                  for (named_light& one : asked.lights) {
                      one.light.position = one.light.position + asked.view.eye * 0.1;
                      one.light.shines = one.light.shines + asked.view.eye * 0.05;
                  }
                  return draw(asked);
              }),
              "eye moved"));
    CHECK(has(broken_by([](scene asked) {
                  asked.shading.rate = asked.shading.rate == rate::vertex ? rate::face : asked.shading.rate;
                  return draw(asked);
              }),
              "finer cells"));
}

TEST_CASE("channels are exchanged where no formula tells one from another") {
    const auto exchanged = [](formulas::slot which, const char* text) {
        scene made = verify::find_reference("moon-crates")->scene;
        made.view.width = 96;
        made.view.height = 60;
        made.formulas[which] = text;
        bool asked = false;
        for (const verify::check_result& result : verify::check_relations(made, function_renderer(drawn))) {
            asked = asked || result.name == "permuted channels";
            CHECK(result.passed);
        }
        return asked;
    };
    using formulas::slot;
    CHECK(exchanged(slot::color, "c / (c + 1.0)"));
    CHECK_FALSE(exchanged(slot::color, "c.bgr"));
    CHECK_FALSE(exchanged(slot::color, "c * vec3(1.0, 0.9, 0.8)"));
    CHECK(exchanged(slot::diffuse, "max(dot(n, l), 0.0)"));
    CHECK_FALSE(exchanged(slot::diffuse, "max(dot(n, l), 0.0) * vec3(1.0, 0.9, 0.8)"));
    CHECK_FALSE(exchanged(slot::more, "vec3(0.1, 0.2, 0.3)"));
}

TEST_CASE("a relation that a formula breaks at a few bright points only is not asked") {
    scene made = verify::find_reference("buoys-phong")->scene;
    const auto brightest = [&](int width, int height) {
        scene sized = made;
        sized.view.width = width;
        sized.view.height = height;
        const picture of = draw(sized);
        float most = 0;
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                const rgb<float> color = of.color(x, y);
                most = std::max({most, color.r, color.g, color.b});
            }
        }
        return most;
    };
    // Doubled light is beyond 1 at the checks' points, and not at the 48x30 that are asked first.
    const double most = brightest(verify::relation_width, verify::relation_height);
    const double few = brightest(48, 30);
    REQUIRE(few < 0.99 * most);
    made = verify::brightened(made, 1 / (most + few));
    const auto doubled = [&](const char* color,
                             const renderer& by) { // asked and held, asked and not, not asked
        made.formulas[formulas::slot::color] = color;
        std::string found = "not asked";
        for (const verify::check_result& result : verify::check_relations(made, by)) {
            if (result.name == "doubled intensity") {
                found = result.passed ? "held" : "broken";
            } else {
                CAPTURE(result.name);
                CHECK(result.passed);
            }
        }
        return found;
    };
    CHECK(doubled("min(c, vec3(1.0))", function_renderer(drawn)) == "not asked");
    // What breaks it without such a formula is found as before.
    const function_renderer cut([](const scene& asked) {
        picture result = draw(asked);
        std::transform(result.values.begin(), result.values.end(), result.values.begin(),
                       [](float value) { return std::min(value, 1.0F); });
        return result;
    });
    CHECK(doubled("c * 1.0", cut) == "broken");
    CHECK(doubled("c * 1.0", function_renderer(drawn)) == "held");
}

TEST_CASE("a model of one's own under the checks of the library") {
    const scene crates = verify::find_reference("moon-crates")->scene;
    const check_report right = check(crates, lambert_of_ones_own{});
    CHECK_MESSAGE(right.failed() == 0, right.failures());
    CHECK(right.passed() > 8);
    const check_report wrong = check(crates, lambert_and_a_bit{});
    CHECK(wrong.failed() > 0);
    CHECK(wrong.failures().find("whole picture by cast rays") != std::string::npos);
    // One that claims nothing is held to the relations.
    const check_report unknown = check(crates, wrapped{});
    CHECK_MESSAGE(unknown.failed() == 0, unknown.failures());
    for (const verify::check_result& one : unknown.checks) {
        CHECK(one.kind == "relation");
    }
    // Anything that draws scenes.
    CHECK(check(crates, function_renderer(drawn)).failed() == 0);
}

TEST_CASE("a scene's own expectations: at a point, at a pixel, as a ratio; hidden ones are said") {
    const scene quay = quay_with_expectations();
    const check_report held = check(quay, function_renderer(drawn));
    CHECK_MESSAGE(held.failed() == 0, held.failures());
    scene wrong = quay;
    wrong.expects[0].color = wrong.expects[0].color * 1.01;
    CHECK(check(wrong, function_renderer(drawn)).failed() == 1);
    wrong = quay;
    wrong.expects[0].point = {50, 0, 0};
    const check_report outside = check(wrong, function_renderer(drawn));
    CHECK(outside.failures().find("outside the picture") != std::string::npos);
    wrong = quay;
    object crate;
    crate.name = "crate";
    crate.shape = box_shape{{1, 0.6, 1}};
    wrong.objects.push_back(crate);
    CHECK(check(wrong, function_renderer(drawn)).failures().find("hidden") != std::string::npos);
}

TEST_CASE("a finished picture is held in floats, or in codes") {
    scene quay = quay_with_expectations();
    quay.expects.clear();
    const picture right = draw(quay);
    const verify::check_unit unit = verify::unit_of("quay", quay);
    CHECK(verify::check_finished(unit, right, pixel_format::floats).back().used <= 0.5);
    for (const auto& [how, held] : {std::pair{encoding::srgb, pixel_format::srgb_codes},
                                    {encoding::linear, pixel_format::linear_codes}}) {
        const picture coded = picture_of(right.width, right.height, codes_of(right, how), how);
        const verify::check_result in_codes = verify::check_finished(unit, coded, held).back();
        CHECK(in_codes.passed);
        CHECK(in_codes.used <= 0.51); // half a code, and what rounding adds
        // Of 64,000 pixels some are nearly half a code off, and none more; as a share of white.
        CHECK(in_codes.largest * 255 >= 0.45);
        CHECK(in_codes.largest * 255 <= 0.51);
        CHECK_FALSE(verify::check_finished(unit, coded, pixel_format::floats).back().passed);
        // A ratio of two pixels, each rounded to a code, stays below half of what that explains.
        scene ratios = quay;
        ratios.expects = quay_with_expectations().expects;
        ratios.expects[1].pixel = {120, 70};
        const rgb<double> aside(right.color(120, 70));
        const rgb<double> foot(right.color(100, 62));
        ratios.expects[1].color = {aside.r / foot.r, aside.g / foot.g, aside.b / foot.b};
        ratios.expects[1].tolerance = {};
        CHECK(verify::hold_expectations(ratios, coded, held)[1].used <= 0.5);
        ratios.expects[1].color = ratios.expects[1].color * 1.1;
        CHECK_FALSE(verify::hold_expectations(ratios, coded, held)[1].passed);
        // Two codes too bright is found.
        std::vector<std::uint8_t> codes = codes_of(right, how);
        for (std::size_t i = 0; i < codes.size(); i += 4) {
            codes[i] = static_cast<std::uint8_t>(std::min(255, codes[i] + 2));
        }
        CHECK_FALSE(verify::check_finished(unit, picture_of(right.width, right.height, codes, how), held)
                        .back()
                        .passed);
    }
}
