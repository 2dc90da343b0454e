// The page: what it says, what it escapes, and how it behaves in a browser.
#include <doctest/doctest.h>

#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

std::string drive(const std::string& page, const std::string& folder) {
    const testing::outcome found =
        run("node " + std::string(YURVO_TESTS) + "/page/page.mjs " + page + " " + folder);
    CHECK(found.status == 0);
    return found.out;
}

// By how many codes bytes of a canvas are off what is drawn.
int codes_off(const std::string& file, const scene& of) {
    const std::string bytes = read_whole(file);
    const std::vector<std::uint8_t> right = codes_of(draw(of));
    REQUIRE(bytes.size() == right.size());
    int most = 0;
    for (std::size_t i = 0; i < right.size(); ++i) {
        if (i % 4 != 3) {
            most = std::max(most, std::abs(static_cast<int>(static_cast<std::uint8_t>(bytes[i])) - right[i]));
        }
    }
    return most;
}

// The JSON in the page's element of that id.
json embedded_data(const std::string& html, const std::string& id) {
    const std::string begin = "<script type=\"application/json\" id=\"" + id + "\">";
    const std::size_t at = html.find(begin);
    REQUIRE(at != std::string::npos);
    const std::size_t end = html.find("</script>", at);
    return json::parse(html.substr(at + begin.size(), end - at - begin.size()));
}

const std::string looks = "1280x800 dark: 0 errors, 0 pixels too wide, 0 cut off, 0 serious\n"
                          "1280x800 light: 0 errors, 0 pixels too wide, 0 cut off, 0 serious\n"
                          "390x844 dark: 0 errors, 0 pixels too wide, 0 cut off, 0 serious\n"
                          "390x844 light: 0 errors, 0 pixels too wide, 0 cut off, 0 serious\n";
const std::string lights = "webgl: back again, 0 errors\nwebgl: parts\n"
                           "canvas: back again, 0 errors\ncanvas: parts\n";

} // namespace

TEST_CASE("a page of one scene: lights changed in the browser give what is drawn with those lights, within a "
          "code") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " scenes harbour -o harbour.toml").status == 0);
    scene of = read_scene(folder / "harbour.toml");
    of.view.width = testing::patient ? 400 : 160;
    of.view.height = testing::patient ? 250 : 100;
    of.expects.clear();
    write_scene(folder / "small.toml", of);
    const testing::outcome made = run(in + " report small.toml -o page.html");
    CHECK(made.status == 0);
    CHECK(has(made.out, "page.html: right: all "));
    write_whole(folder / "asked.json", R"({"sources": {"lantern": {"brightness": 5.5, "color": "#80ff40"},
        "moonlight": {"brightness": 0.0}, "ambient light": {"brightness": 0.3}}, "without": ["specular"]})");
    CHECK(drive(folder / "page.html", folder.path()) == looks + lights + "data: checks\n");
    CHECK(codes_off(folder / "webgl-own.bytes", of) <= 1);
    CHECK(codes_off(folder / "canvas-own.bytes", of) <= 1);
    scene changed = of;
    for (named_light& light : changed.lights) {
        if (light.name == "lantern") {
            light.light.intensity = 5.5;
            light.light.color = {srgb_decoded(128.0 / 255), 1, srgb_decoded(64.0 / 255)};
        } else if (light.name == "moonlight") {
            light.light.intensity = 0;
        }
    }
    changed.ambient_strength = 0.3;
    for (named_material& each : changed.materials) { // without its term
        each.look.specular = rgb<double>(0.0);
    }
    CHECK(codes_off(folder / "webgl-changed.bytes", changed) <= 1);
    CHECK(codes_off(folder / "canvas-changed.bytes", changed) <= 1);
    CHECK(codes_off(folder / "webgl-changed.bytes", of) > 50);
    const std::string html = read_whole(folder / "page.html");
    for (const char* part : {"Build-up of", "Rates of", "Curves of", "Costs of", "A pixel worked by hand",
                             "yurvo report small.toml -o page.html"}) {
        CAPTURE(part);
        CHECK(has(html, part));
    }
    const json data = embedded_data(html, "data");
    CHECK(data.at("failed") == 0);
    CHECK(data.at("checks").size() == data.at("passed").get<std::size_t>());
}

TEST_CASE(
    "a page of a wrong shader names the mistake, shows what failed first, and a viewer that moves together" *
    doctest::skip(!testing::patient)) {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " new program p --rate fragment").status == 0);
    std::string text = read_whole(folder / "p/per-fragment.frag");
    const std::string right_line = "return 1.0 / (d * d);";
    text.replace(text.find(right_line), right_line.size(), "return 1.0 / d;");
    write_whole(folder / "p/per-fragment.frag", text);
    const testing::outcome made =
        run(in + " check buoys moon-crates --program p/per-fragment.toml --report page.html");
    CHECK(made.status == 1);
    write_whole(folder / "asked.json", R"({"sources": {}, "without": []})");
    CHECK(drive(folder / "page.html", folder.path()) ==
          looks + lights +
              "wipe: 0% to 100%\nkeys: 2.25 2.25 2.25, moved together\nall again: 1 1 1, 1x\n"
              "wheel: nearer together\ndata: checks\n");
    const std::string html = read_whole(folder / "page.html");
    CHECK(has(html, "falloff-not-squared"));
    CHECK(has(html, "Make-up"));
    CHECK(has(html, "The pixel that decides, worked by hand"));
    CHECK(html.find("data-scene=\"0\"") < html.find("moon-crates as it should be")); // buoys failed: first
    const json names = json::parse(read_whole(folder / "names.json"));
    CHECK(names == json({"buoys", "moon-crates"}));
    const json data = embedded_data(html, "data");
    CHECK(data.at("failed").get<int>() >= 1);
    // The page of a picture by `diagnose`.
    REQUIRE(run(in + " draw buoys --size 320x200 --mistake normal-flipped -o found.png").status == 0);
    CHECK(run(in + " diagnose buoys --picture found.png --report found.html").status == 1);
    CHECK(has(read_whole(folder / "found.html"), "normal-flipped"));
    if (!testing::whole) { // a sanitizer has seen such pages made
        return;
    }
    // Where nothing but the moon shines it holds, and the page says what that leaves open: falloff for one.
    CHECK(run(in + " report moon-crates --program p/per-fragment.toml -o moon.html").status == 0);
    const std::string moon = read_whole(folder / "moon.html");
    CHECK(has(moon, "In the scenes that were named, and nowhere else: "));
    CHECK(has(moon, "<td>falloff-not-squared</td><td>none: it could hide</td>"));
    // The same by `report`.
    CHECK(run(in + " report buoys moon-crates --program p/per-fragment.toml -o again.html").status == 1);
    CHECK(has(read_whole(folder / "again.html"), "falloff-not-squared"));
}

TEST_CASE(
    "names with script, quotes, marks that turn the line and ten thousand characters come out as text") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    const std::string name = "</script><script>alert(1)</script><b>\"'&amp; \xE2\x80\xAE"
                             "abc\x1b[31m " +
                             std::string(10'000, 'x');
    scene of = find_scene("moon-crates"); // boxes: nothing is cut finer for the costs
    of.view.width = 64;
    of.view.height = 40;
    of.expects.clear();
    of.title = name;
    of.lights[0].name = name;
    of.objects[0].name = name;
    write_scene(folder / "<b>&.toml", of);
    REQUIRE(run(in + " report '<b>&.toml' -o page.html").status == 0);
    const std::string html = read_whole(folder / "page.html");
    CHECK_FALSE(has(html, "<script>alert"));
    CHECK_FALSE(has(html, "</script><script>a"));
    CHECK_FALSE(has(html, "\x1b"));
    CHECK(has(html, "&lt;script&gt;alert(1)"));
    CHECK(has(html, "yurvo report &apos;&lt;b&gt;&amp;.toml&apos; -o page.html")); // as a shell takes it
    write_whole(folder / "asked.json", R"({"sources": {}, "without": []})");
    CHECK(drive(folder / "page.html", folder.path()) == looks + lights + "data: checks\n");
    CHECK(json::parse(read_whole(folder / "names.json")) == json({"<b>&.toml"}));
    const json layers = embedded_data(html, "layers");
    CHECK(has(layers.at(0).at("lights").at(0).at("name").get<std::string>(), "<script>alert(1)</script>"));
}

TEST_CASE("all reference scenes on one page, of at most six megabytes; what cannot be made is one line" *
          doctest::test_suite("slow")) {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " report" + testing::scenes_asked + " -o all.html").status == 0);
    const std::string html = read_whole(folder / "all.html");
    CHECK(html.size() < 6'000'000);
    CHECK(embedded_data(html, "layers").size() > (testing::whole ? 15 : 2));
    if (testing::whole) {
        CHECK(has(html, "No lights to change: its light is no sum of what each light adds."));
    }
    CHECK_FALSE(has(html, "http://"));
    CHECK_FALSE(has(html, "https://"));
    if (testing::whole) { // a huge view is shown smaller, in its shape
        scene huge = find_scene("buoys");
        huge.view.width = 16384;
        huge.view.height = 8192;
        huge.objects.resize(1);
        huge.expects.clear();
        write_scene(folder / "huge.toml", huge);
        REQUIRE(run(in + " report huge.toml -o huge.html").status == 0);
        const json shown = embedded_data(read_whole(folder / "huge.html"), "layers").at(0);
        CHECK(shown.at("width").get<int>() == 2 * shown.at("height").get<int>());
        CHECK(shown.at("width").get<int>() * shown.at("height").get<int>() <= 2560 * 1600);
    }
    for (const char* wrong :
         {"report", "report buoys", "report buoys -o page.txt", "report castle -o page.html",
          "report buoys -o nowhere/page.html", "report buoys plates --picture a.png -o page.html",
          "report --program a.toml --picture b.png -o page.html", "check buoys --report page.txt",
          "diagnose buoys --picture a.png --report page.txt", "report --program nowhere.toml -o page.html"}) {
        CAPTURE(wrong);
        const testing::outcome refused = run(in + " " + wrong);
        CHECK(refused.status == 2);
        CHECK(refused.one_line_of_error());
    }
}
