// Sheets, plots and markers: what must be where, whatever they look like.
#include <doctest/doctest.h>

#include <cmath>
#include <limits>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/report/markers.hpp"
#include "yurvo/report/plot.hpp"
#include "yurvo/report/sheet.hpp"

using namespace yurvo;

namespace {

bool near(const rgb<float>& a, const rgb<float>& b, float room) {
    return std::abs(a.r - b.r) <= room && std::abs(a.g - b.g) <= room && std::abs(a.b - b.b) <= room;
}

// How many pixels of a box have about that colour.
int count(const picture& in, int left, int top, int right, int bottom, const rgb<float>& color,
          float room = 0.02F) {
    int found = 0;
    for (int y = top; y < bottom; ++y) {
        for (int x = left; x < right; ++x) {
            found += near(in.color(x, y), color, room) ? 1 : 0;
        }
    }
    return found;
}

} // namespace

TEST_CASE(
    "a sheet holds its pictures, shrunk by the mean of what each pixel covers, and its margins stay free") {
    report::sheet sheet;
    sheet.title =
        "A title that is very much longer than what fits a sheet, so that it has to be made smaller and then "
        "cut, whatever its words may say about the harbour, the quay, the crates and the lanterns";
    sheet.subtitle = sheet.title + sheet.title;
    picture checks(2392, 1496); // four times what a panel is wide
    for (int y = 0; y < 1496; ++y) {
        for (int x = 0; x < 2392; ++x) {
            checks.set(x, y, rgb<float>((x + y) % 2 == 0 ? 1.0F : 0.0F), 1);
        }
    }
    sheet.columns = 2;
    sheet.panels.push_back({sheet.title, sheet.title, checks, std::nullopt, {}});
    sheet.panels.push_back({"red", "", picture(80, 50, {1, 0, 0}), std::nullopt, {}});
    sheet.panels.push_back(
        {"figures", "", std::nullopt, std::nullopt, {{sheet.title, "1"}, {"short", sheet.title}}});
    const picture made = report::render(sheet);
    CHECK(made.width == 1280);
    // Black and white squares of one pixel each, shrunk: grey, the mean in linear light.
    CHECK(count(made, 100, 200, 500, 400, rgb<float>(0.5F), 0.06F) > 400 * 200 * 9 / 10);
    // The red picture is enlarged four times at most.
    const int red = count(made, 640, 92, 1280, 600, {1, 0, 0});
    CHECK(red == 80 * 4 * 50 * 4);
    // Nothing runs over the right margin.
    const rgb<float> night = made.color(1279, 1);
    CHECK(count(made, 1252, 0, 1280, made.height, night, 0) == 28 * made.height);
}

TEST_CASE("the colours of a difference: its sign, its size, and nothing where there is none") {
    const picture a(2, 1, rgb<float>(0.5F));
    picture b = a;
    b.set(0, 0, rgb<float>(0.75F), 1);
    CHECK(std::abs(report::luminance_range(a, b) - 0.25) <= 1e-7);
    const picture brighter = report::difference_colors(a, b, 0.25);
    const picture darker = report::difference_colors(b, a, 0.25);
    CHECK(brighter.color(0, 0).r > 0.9F); // amber
    CHECK(darker.color(0, 0).b > 0.9F);   // blue
    CHECK(near(brighter.color(1, 0), darker.color(1, 0), 0));
    CHECK(brighter.color(1, 0).r < 0.05F);
    CHECK(report::difference_colors(a, a, 0).color(0, 0).r < 0.05F); // no scale at all
}

TEST_CASE("a plot draws its curve where it is") {
    report::plot plot{"level", "across", "up", 10, 2, {{"half way up", {{0, 1}, {10, 1}}}}, ""};
    const picture made = report::render("plots", "", {plot}, {});
    CHECK(made.width == 1280);
    CHECK(made.height == 800);
    // One row, somewhere, that is the curve's amber across most of the sheet; and it is in the middle of the
    // grid.
    int best = 0;
    int at = 0;
    for (int y = 0; y < made.height; ++y) {
        int amber = 0;
        for (int x = 0; x < made.width; ++x) {
            const rgb<float> c = made.color(x, y);
            amber += c.r > 0.8F && c.g > 0.3F && c.g < 0.7F && c.b < 0.2F ? 1 : 0;
        }
        if (amber > best) {
            best = amber;
            at = y;
        }
    }
    CHECK(best > 1000);
    // The grid runs from 134 to what the names and notes leave.
    CHECK(at > 300);
    CHECK(at < 480);
    const picture empty =
        report::render("plots", "", {report::plot{"none", "x", "y", 1, 1, {}, "nothing here"}}, {});
    CHECK(empty.height == 800);
}

TEST_CASE("markers: seen where the light is, hidden behind what is nearer, told when outside") {
    scene made;
    made.view.width = 200;
    made.view.height = 200;
    made.view.eye = {0, 0, 5};
    named_light lamp;
    lamp.name = "lamp";
    lamp.light.color = {1, 0.2, 0.2};
    made.lights.push_back(lamp);
    const picture dark(200, 200);
    const std::vector<float> empty(dark.pixels(), 1e-3F);
    const report::marked seen = report::draw_markers(made, dark, empty);
    CHECK(seen.hidden.empty());
    CHECK(seen.out_of_view.empty());
    // A ring about the middle, with nothing in it.
    CHECK(near(seen.drawn.color(100, 100), {0, 0, 0}, 0.02F));
    int red = 0;
    for (int y = 90; y < 110; ++y) {
        for (int x = 90; x < 110; ++x) {
            red += seen.drawn.color(x, y).r > 0.5F && seen.drawn.color(x, y).b < 0.5F ? 1 : 0;
        }
    }
    CHECK(red > 10);
    // A wall before it, two metres from the eye.
    const std::vector<float> wall(dark.pixels(), 0.5F);
    const report::marked hidden = report::draw_markers(made, dark, wall);
    REQUIRE(hidden.hidden.size() == 1);
    CHECK(hidden.drawn == report::draw_markers({}, dark, wall).drawn);
    made.lights[0].light.position = {50, 0, 0};
    CHECK(report::draw_markers(made, dark, empty).out_of_view.size() == 1);
    made.lights[0].light.position = {0, 0, 9}; // behind the eye
    CHECK(report::draw_markers(made, dark, empty).out_of_view.size() == 1);
    // A spot's cone and a directional light's arrow are drawn; alpha stays what it was.
    for (const light_kind kind : {light_kind::spot, light_kind::directional}) {
        scene other = made;
        other.lights[0].light.kind = kind;
        other.lights[0].light.position = {-1, 1, 0};
        other.lights[0].light.shines = {1, -0.5, 0};
        other.lights[0].light.outer = radians(20);
        const report::marked drawn = report::draw_markers(other, picture(200, 200, {}, 0.25F), empty);
        CHECK(drawn.drawn.alpha(0, 0) == 0.25F);
        CHECK(drawn.hidden.empty());
        int bright = 0;
        for (std::size_t i = 0; i < drawn.drawn.values.size(); i += 4) {
            bright += drawn.drawn.values[i] > 0.5F ? 1 : 0;
        }
        CHECK(bright > 80);
    }
}

TEST_CASE("the range that most of what differs stays within; a picture as one can show it that is clamped") {
    const picture black(10, 10);
    picture other(10, 10);
    for (int i = 0; i < 40; ++i) { // forty pixels differ: by 0.01 to 0.40, and one by 5
        const auto off = static_cast<float>(i + 1) * 0.01F;
        other.set(i % 10, i / 10, rgb<float>(i == 39 ? 5.0F : off), 1);
    }
    CHECK(report::luminance_range(black, other) == doctest::Approx(5).epsilon(1e-6));
    CHECK(report::luminance_range(black, other, 0.5) ==
          doctest::Approx(0.20).epsilon(1e-6)); // the 20th of 40
    CHECK(report::luminance_range(other, black, 0.98) == doctest::Approx(0.39).epsilon(1e-6));
    CHECK(report::luminance_range(black, black, 0.5) == 0);
    other.set(0, 9, rgb<float>(-1, 0.5F, 3), 1);
    CHECK(report::as_held(other, pixel_format::floats) == other);
    for (const pixel_format held : {pixel_format::srgb_codes, pixel_format::linear_codes,
                                    pixel_format::srgb_floats, pixel_format::gamma_floats}) {
        const picture shown = report::as_held(other, held);
        CHECK(shown.color(0, 9).r == 0);
        CHECK(shown.color(0, 9).g == 0.5F);
        CHECK(shown.color(0, 9).b == 1);
        CHECK(shown.color(9, 3).g == 1);
    }
}
