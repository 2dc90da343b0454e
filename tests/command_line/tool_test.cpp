// The built tool, as users call it.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <filesystem>

#include <nlohmann/json.hpp>

#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/picture/comparison.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::outcome;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

const std::string broken_tool = YURVO_BROKEN_TOOL;
const std::string tests_folder = YURVO_TESTS;

} // namespace

TEST_CASE("help, version, and usage that is wrong") {
    CHECK(run(tool + " --version").out.starts_with("yurvo "));
    const outcome help = run(tool + " --help");
    CHECK(help.status == 0);
    CHECK(help.err.empty());
    for (const char* command : {"draw", "rates", "check", "scenes", "demo", "layers", "turn", "curves",
                                "cost", "export", "explain", "compare", "diagnose", "mistakes", "quiz"}) {
        CHECK(has(help.out, command));
        const outcome own = run(tool + " " + command + " --help");
        CHECK(own.status == 0);
        CHECK(own.out.size() > 100);
    }
    for (const char* wrong : {"",
                              "drwa",
                              "draw",
                              "draw lantern-quay",
                              "draw lantern-quay-inverse-square -o a.gif",
                              "draw --no-such",
                              "draw lantern-quay-inverse-square -o a.png --size 0x5",
                              "draw lantern-quay-inverse-square -o a.png --size 10",
                              "draw lantern-quay-inverse-square -o a.png --size 99999x10",
                              "draw lantern-quay-inverse-square -o a.png --rate pixel",
                              "draw lantern-quay-inverse-square -o a.png --model shiny",
                              "draw lantern-quay-inverse-square -o a.png --terms glow",
                              "draw lantern-quay-inverse-square -o a.png --encode gamma",
                              "draw lantern-quai -o a.png",
                              "draw lantern-quay-inverse-square -o no/such/folder/a.png",
                              "draw lantern-quay-inverse-square -o a.png --model cel --rate face",
                              "check no-such-scene",
                              "scenes no-such-scene",
                              "scenes -o a.toml",
                              "rates lantern-quay-inverse-square -o a.png --model cel",
                              "demo -o /dev/null/folder",
                              "check extra --json"}) {
        CAPTURE(wrong);
        const temporary_folder folder;
        const outcome got = run("cd " + folder.path() + " && " + tool + " " + wrong);
        CHECK(got.status == 2);
        CHECK(got.out.empty());
        CHECK(got.one_line_of_error());
        CHECK(has(got.err, "; "));
        CHECK(folder.count() == 0);
    }
    CHECK(has(run(tool + " drwa").err, "`draw`"));
    CHECK(has(run(tool + " draw lantern-quai -o a.png").err, "`lantern-quay`"));
}

TEST_CASE("every broken scene: its one line, status 2, nothing left behind") {
    std::size_t count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(tests_folder + "/files/broken")) {
        const std::string path = entry.path().string();
        CAPTURE(path);
        const std::string text = read_whole(path);
        const std::string expects = text.substr(11, text.find('\n') - 11); // after "# expects: "
        const temporary_folder folder;
        const outcome got = run(tool + " draw " + path + " -o " + (folder / "a.png"));
        CHECK(got.status == 2);
        CHECK(got.out.empty());
        CHECK(got.one_line_of_error());
        CHECK(got.err.starts_with(path + ":"));
        CHECK(has(got.err, expects));
        CHECK(folder.count() == 0);
        ++count;
    }
    CHECK(count >= 40);
}

TEST_CASE("more that scene files can be: empty, a folder, a device without end, not there, unreadable") {
    const temporary_folder folder;
    write_whole(folder / "empty.toml", "");
    for (const std::string& path :
         {folder / "empty.toml", folder.path(), std::string("/dev/zero"), folder / "nowhere.toml"}) {
        CAPTURE(path);
        const outcome got = run(tool + " draw " + path + " -o " + (folder / "a.png"));
        CHECK(got.status == 2);
        CHECK(got.one_line_of_error());
        CHECK(got.err.starts_with(path + ":"));
    }
    CHECK(folder.count() == 1);
}

TEST_CASE("draw: linear files hold what the library draws, a PNG its codes, at any size and rate") {
    const temporary_folder folder;
    const outcome got = run("cd " + folder.path() + " && " + tool +
                            " draw lantern-quay-inverse-square -o a.pfm --size 160x100 --json - && " + tool +
                            " draw lantern-quay-inverse-square -o a.exr --size 160x100 && " + tool +
                            " draw lantern-quay-inverse-square -o a.png --size 160x100 && " + tool +
                            " draw lantern-quay-inverse-square -o vertex.pfm --size 160x100 --rate vertex");
    CHECK(got.status == 0);
    CHECK(got.err.empty());
    scene quay = verify::find_reference("lantern-quay-inverse-square")->scene;
    quay.view.width = 160;
    quay.view.height = 100;
    const picture expected = draw(quay);
    CHECK(read_picture(folder / "a.pfm") == expected);
    CHECK(read_picture(folder / "a.exr") == expected);
    CHECK(codes_of(read_picture(folder / "a.png")) == codes_of(expected));
    quay.shading.rate = rate::vertex;
    CHECK(read_picture(folder / "vertex.pfm") == draw(quay));
    const json data = json::parse(got.out.substr(0, got.out.find("\n}") + 2));
    CHECK(data["size"] == json::array({160, 100}));
    CHECK(data["rate"] == "fragment");
    CHECK(data["pixels"] == data["evaluations"]);
}

TEST_CASE("draw --terms: the terms add up to the whole") {
    const temporary_folder folder;
    CHECK(run("cd " + folder.path() + " && " + tool +
              " draw lantern-quay-inverse-square -o all.pfm --size 64x40 && " + tool +
              " draw lantern-quay-inverse-square -o ambient.pfm --size 64x40 --terms ambient && " + tool +
              " draw lantern-quay-inverse-square -o rest.pfm --size 64x40 --terms diffuse,specular,emission")
              .status == 0);
    const picture all = read_picture(folder / "all.pfm");
    const picture ambient = read_picture(folder / "ambient.pfm");
    const picture rest = read_picture(folder / "rest.pfm");
    const rgb<float> background =
        verify::find_reference("lantern-quay-inverse-square")->scene.view.background.r > 0 ? all.color(0, 0)
                                                                                           : rgb<float>();
    for (std::size_t i = 0; i < all.values.size(); i += 4) {
        if (all.values[i] == background.r) {
            continue; // the background has no terms
        }
        // Each part is tinted and rounded by itself, then their sum.
        REQUIRE(std::abs(ambient.values[i] + rest.values[i] - all.values[i]) <= 4 * 0x1p-24 * all.values[i]);
    }
}

TEST_CASE("rates: per vertex evenly dark, per fragment brightest below the lantern; the figures are right") {
    const temporary_folder folder;
    const outcome got =
        run(tool + " rates lantern-quay-inverse-square -o " + (folder / "rates.png") + " --json -");
    CHECK(got.status == 0);
    const json data = json::parse(got.out);
    // The foot of the lantern is in the middle of the picture: h = 1, intensity 1.5, base · (ambient + color
    // · 1.5).
    const json& fragment = data["rates"][2];
    CHECK(std::abs(fragment["brightest_at"][0].get<int>() - 640) <= 1);
    CHECK(std::abs(fragment["brightest_at"][1].get<int>() - 400) <= 2);
    const double foot = 0.45 * (0.025 + 1.5);
    // The foot is on the corner of four pixels. At 6.7 m a pixel is 6.9 mm wide and, seen at 26.6°, 15.5 mm
    // deep: the nearest centre is at most 8.5 mm off, which takes 3/2 · 0.0085² of the light.
    const double off_foot = 1.5 * 0.0085 * 0.0085 * foot;
    CHECK(std::abs(fragment["brightest"][0].get<double>() - foot) <= off_foot);
    // Per vertex: every corner at √18, from the first formula; the difference between the two at the foot.
    const double corner = 0.45 * (0.025 + 1.5 / std::pow(19, 1.5));
    CHECK(std::abs(data["rates"][1]["brightest"][0].get<double>() - corner) <= 40 * 0x1p-24 * corner);
    CHECK(std::abs(data["differences"][1]["largest"].get<double>() - (foot - corner)) <= off_foot);
    CHECK(data["rates"][0]["evaluations"] == 2);
    CHECK(data["rates"][1]["evaluations"] == 4);
    CHECK(data["rates"][2]["evaluations"] == data["rates"][2]["pixels"]);
    // The printed figures are those of the pictures.
    scene quay = verify::find_reference("lantern-quay-inverse-square")->scene;
    const picture per_fragment = draw(quay);
    quay.shading.rate = rate::vertex;
    const difference found = compare(per_fragment, draw(quay));
    CHECK(data["differences"][1]["mean"] == found.mean);
    CHECK(data["differences"][1]["largest_at"] == json::array({found.largest_x, found.largest_y}));
    const picture sheet = read_picture(folder / "rates.png");
    CHECK(sheet.width == 1280);
    CHECK(sheet.height > 600);
}

TEST_CASE("check: all held, and what it writes") {
    const temporary_folder folder;
    const outcome got = run(tool + " check" + testing::scenes_asked + " --json " + (folder / "check.json"));
    CHECK(got.status == 0);
    CHECK(has(got.out, "held"));
    const json data = json::parse(read_whole(folder / "check.json"));
    CHECK(data["failed"] == 0);
    CHECK(data["passed"] == data["checks"].size());
    for (const json& check : data["checks"]) {
        CHECK(check["passed"] == true);
        CHECK(check["used"].get<double>() <= 0.5); // a right renderer stays below half its tolerance
        for (const char* field : {"name", "scene", "kind", "measured", "expected", "tolerance"}) {
            CHECK(check.contains(field));
        }
    }
    CHECK(run(tool + " check lantern-quay-cells").status == 0);
}

TEST_CASE("check: a formula broken on purpose is found, and the line says what was expected and found" *
          doctest::test_suite("slow")) {
    testing::part_of_list part;
    for (const char* breakage :
         {"falloff-missing", "cosine-missing", "falloff-not-squared", "slightly-bright"}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(breakage);
        const outcome got = run(broken_tool + " " + breakage + " check" + testing::scenes_asked);
        CHECK(got.status == 1);
        CHECK(got.out.starts_with("FAILED"));
        CHECK(has(got.out, "expected ("));
        CHECK(has(got.out, "found ("));
        CHECK(has(got.out, "did not hold"));
    }
    // At the foot, without falloff's effect there (d = 1), the missing falloff shows where d is not 1.
    const outcome missing = run(broken_tool + " falloff-missing check lantern-quay-inverse-square --json -");
    const json data = json::parse(missing.out);
    for (const json& check : data["checks"]) {
        if (check["name"] == "fragment, 2 m from its foot") {
            // base · (ambient + color · intensity · h / d) instead of ... / d³, d² = 1 + ρ², near ρ = 2.
            CHECK(check["passed"] == false);
            const double cosine = 1 / std::sqrt(5.0);
            CHECK(std::abs(check["measured"][0].get<double>() - 0.45 * (0.025 + 1.5 * cosine)) < 2e-3);
            CHECK(std::abs(check["expected"][0].get<double>() - 0.45 * (0.025 + 1.5 * cosine / 5)) < 2e-3);
        }
    }
    CHECK(run(broken_tool + " wrong-size check" + testing::scenes_asked).status == 1);
    const outcome nan = run(broken_tool + " not-a-number check" + testing::scenes_asked + " --json -");
    CHECK(nan.status == 1);
    // What passes is said of the scene's own formulas, not of the picture.
    const json of_nan = json::parse(nan.out);
    for (const json& check : of_nan["checks"]) {
        CHECK(check["passed"] == (check["kind"] == "formula"));
    }
    CHECK(run(broken_tool + " none check" + testing::scenes_asked).status == 0);
}

TEST_CASE("scenes: every reference scene with what is known, and files to start from") {
    const outcome got = run(tool + " scenes --json -");
    CHECK(got.status == 0);
    const json data = json::parse(got.out);
    CHECK(data["reference"].size() == verify::reference_scenes().size());
    for (const json& reference : data["reference"]) {
        CHECK_FALSE(reference["known"].empty());
        CHECK(has(run(tool + " scenes").out, reference["name"].get<std::string>()));
    }
    const temporary_folder folder;
    for (const char* name : {"lantern-quay", "harbour"}) {
        CHECK(run(tool + " scenes " + name + " -o " + (folder / "a.toml")).status == 0);
        CHECK(run(tool + " draw " + (folder / "a.toml") + " -o " + (folder / "a.pfm") + " --size 96x60")
                  .status == 0);
        CHECK(run(tool + " draw " + name + " -o " + (folder / "b.pfm") + " --size 96x60").status == 0);
        CHECK(read_whole(folder / "a.pfm") == read_whole(folder / "b.pfm"));
    }
}

TEST_CASE("demo: from any folder, and it says what it made" * doctest::test_suite("slow")) {
    if (!testing::whole) { // it does at length what all other tests do
        return;
    }
    const temporary_folder folder;
    const outcome got = run("cd " + folder.path() + " && " + tool + " demo");
    CHECK(got.status == 0);
    CHECK(got.err.empty());
    for (const auto& entry : std::filesystem::directory_iterator(folder / "demo")) {
        CHECK(has(got.out, entry.path().filename().string()));
    }
    CHECK(has(got.out, " 0 did not"));
    CHECK(read_picture(folder / "demo/harbour.png").width == 1280);
}

TEST_CASE("a closed pipe, a full disk, a folder that may not be written to") {
    CHECK(run(tool + " scenes | true").err.empty());
    CHECK(run(tool + " scenes > /dev/full").status == 2);
    CHECK(run(tool + " scenes > /dev/full").one_line_of_error());
    const temporary_folder folder;
    // A limit on file sizes stands for the full disk.
    const outcome full = run("trap '' XFSZ; ulimit -f 8; " + tool + " draw lantern-quay-inverse-square -o " +
                             (folder / "a.pfm"));
    CHECK(full.status == 2);
    CHECK(has(full.err, "cannot be written"));
    CHECK(folder.count() == 0);
    for (const char* ending : {"a.exr", "a.png"}) {
        const outcome other =
            run("trap '' XFSZ; ulimit -f 8; " + tool + " draw harbour -o " + (folder / ending));
        CHECK(other.status == 2);
        CHECK(folder.count() == 0);
    }
    const outcome nowhere = run(tool + " draw lantern-quay-inverse-square -o /proc/a.png");
    CHECK(nowhere.status == 2);
    CHECK(nowhere.one_line_of_error());
    // Known before anything is drawn: a program that is not there is not even looked for.
    for (const char* asked :
         {"report --program no.toml -o nowhere/a.html", "check --program no.toml --json nowhere/a",
          "check --program no.toml --junit nowhere/a", "check --program no.toml --report nowhere/a.html",
          "diagnose buoys --program no.toml -o nowhere/a.png", "cost no.toml -o nowhere/a.png",
          "draw no.toml -o nowhere/a.png", "view no.toml --still nowhere/a.png"}) {
        CAPTURE(asked);
        const outcome early = run(tool + " " + asked);
        CHECK(early.status == 2);
        CHECK(early.err.starts_with("nowhere/a"));
        CHECK(has(early.err, "cannot be written: No such file or directory; a folder that exists and may be "
                             "written to"));
        CHECK(early.one_line_of_error());
    }
}

TEST_CASE("layers: the panels written out add up to what draw gives") {
    const temporary_folder folder;
    const outcome got =
        run("cd " + folder.path() + " && " + tool +
            " layers wet-planks -o layers.png --size 160x100 --panels panels --json layers.json && " + tool +
            " draw wet-planks -o whole.exr --size 160x100");
    CHECK(got.status == 0);
    CHECK(has(got.out, "+ specular"));
    const json data = json::parse(read_whole(folder / "layers.json"));
    REQUIRE(data["layers"].size() == 5);
    CHECK(read_picture(folder / data["layers"][4]["file"].get<std::string>()) ==
          read_picture(folder / "whole.exr"));
    CHECK(read_picture(folder / "layers.png").width == 1280);
}

TEST_CASE("turn: the figures say that diffuse stays put and specular follows the eye") {
    const temporary_folder folder;
    const outcome got =
        run("cd " + folder.path() + " && " + tool +
            " turn bollard-with-rope --what eye --steps 4 --size 160x100 -o turn.png --json -");
    CHECK(got.status == 0);
    const json data = json::parse(got.out);
    REQUIRE(data["steps"].size() == 4);
    for (std::size_t i = 1; i < 4; ++i) {
        CHECK(std::abs(data["steps"][i]["diffuse"][0].get<double>() -
                       data["steps"][0]["diffuse"][0].get<double>()) <= 1e-14);
        CHECK(data["steps"][i]["specular"][0] != data["steps"][0]["specular"][0]);
        CHECK(data["steps"][i]["largest_difference"].get<double>() > 0.1);
    }
    for (const char* wrong : {"--what sideways", "--steps 0", "--steps 99", "--what light --name sun",
                              "--what eye --name moon"}) {
        CAPTURE(wrong);
        const outcome refused = run(tool + " turn bollard-with-rope -o " + (folder / "a.png") + " " + wrong);
        CHECK(refused.status == 2);
        CHECK(refused.one_line_of_error());
    }
    CHECK(has(run(tool + " turn bollard-with-rope -o a.png --what light --name moo").err, "`moon`"));
}

TEST_CASE("curves: the points are the laws'") {
    const temporary_folder folder;
    const outcome got = run(tool + " curves searchlight-on-hull -o " + (folder / "a.png") + " --json -");
    CHECK(got.status == 0);
    const json data = json::parse(got.out);
    for (const json& law : data["falloffs"]) {
        const bool windowed = has(law["law"].get<std::string>(), "windowed");
        for (const json& point : law["points"]) {
            const double d = point[0].get<double>();
            if (d > 0) {
                const double window = windowed ? std::max(0.0, 1 - std::pow(d / 5, 4)) : 1;
                CHECK(std::abs(point[1].get<double>() - window / (d * d)) <=
                      1e-14 * window / (d * d) + 1e-15);
            }
        }
    }
    REQUIRE(data["penumbras"].size() == 1);
    for (const json& point : data["penumbras"][0]["points"]) {
        const double angle = radians(point[0].get<double>());
        const double t = std::clamp((std::cos(angle) - std::cos(radians(16))) /
                                        (std::cos(radians(11)) - std::cos(radians(16))),
                                    0.0, 1.0);
        // The cosines' difference is 0.02: their rounding, 1e-16, is 5e-15 of it.
        CHECK(std::abs(point[1].get<double>() - t * t * (3 - 2 * t)) <= 5e-14);
    }
    CHECK(run(tool + " curves lantern-quay-inverse-square -o " + (folder / "b.png")).status == 0);
}

TEST_CASE("draw --threads: the same file, and nothing said") {
    const temporary_folder folder;
    for (const char* threads : {"1", "2", "7"}) {
        const outcome got = run(tool + " draw wet-planks --size 160x100 --threads " + threads + " -o " +
                                (folder / threads) + ".pfm");
        CHECK(got.status == 0);
        CHECK(got.err.empty());
        CHECK(read_whole((folder / threads) + ".pfm") == read_whole(folder / "1.pfm"));
    }
    CHECK(run(tool + " draw wet-planks --threads -3 -o " + (folder / "a.png")).status == 2);
}

TEST_CASE("draw --show and --markers") {
    const temporary_folder folder;
    for (const char* what : {"normals", "cosine", "depth", "overflow"}) {
        CAPTURE(what);
        const outcome got =
            run(tool + " draw harbour -o " + (folder / "a.png") + " --size 160x100 --show " + what);
        CHECK(got.status == 0);
        CHECK(has(got.out, what == std::string("cosine") ? "n·l" : what));
    }
    CHECK(run(tool + " draw harbour -o " + (folder / "depth.pfm") + " --size 160x100 --show depth").status ==
          0);
    CHECK(run(tool + " draw harbour -o " + (folder / "a.png") + " --show nothing").status == 2);
    CHECK(has(run(tool + " draw harbour -o " + (folder / "a.png") + " --show cosine --light lantrn").err,
              "`lantern`"));
    // The quay's lantern, one metre above the middle, is seen: its ring and its name are drawn.
    CHECK(run("cd " + folder.path() + " && " + tool +
              " draw lantern-quay-inverse-square -o plain.png --size 320x200 && " + tool +
              " draw lantern-quay-inverse-square -o marked.png --size 320x200 --markers")
              .err.empty());
    const difference marked =
        compare(read_picture(folder / "plain.png"), read_picture(folder / "marked.png"));
    CHECK(marked.pixels_that_differ > 100);
    CHECK(marked.pixels_that_differ < 3000);
    CHECK(
        has(run(tool + " draw harbour -o " + (folder / "a.png") + " --markers").err, "outside the picture"));
}

TEST_CASE("export: files that read back, what is left out is said, and other names are refused") {
    const temporary_folder folder;
    const outcome got = run("cd " + folder.path() + " && " + tool + " export wet-planks -o planks.obj && " +
                            tool + " export wet-planks -o planks.glb");
    CHECK(got.status == 0);
    CHECK(has(got.out, "planks.mtl"));
    CHECK(has(got.out, "planks-0.png"));
    CHECK(has(got.out, "all lights, 5"));
    CHECK(has(got.out, "`specular` and `shininess`"));
    CHECK(run(tool + " export wet-planks -o " + (folder / "planks.stl")).one_line_of_error());
    CHECK(run(tool + " export wet-planks -o " + (folder / "no/planks.obj")).status == 2);
}

TEST_CASE("a model of one's own is the tool's as well") {
    const temporary_folder folder;
    const std::string own = std::string(YURVO_OWN_MODEL);
    CHECK(run(own + " draw lantern-quay-inverse-square --model wrapped -o " + (folder / "a.pfm") +
              " --size 64x40")
              .status == 0);
    CHECK(run(own + " rates lantern-quay-inverse-square --model wrapped -o " + (folder / "a.png") +
              " --size 64x40")
              .status == 0);
    CHECK(run(own + " layers lantern-quay-inverse-square --model wrapped -o " + (folder / "a.png") +
              " --size 64x40")
              .status == 0);
    const outcome wrong =
        run(own + " draw lantern-quay-inverse-square --model warpped -o " + (folder / "a.pfm"));
    CHECK(wrong.status == 2);
    CHECK(has(wrong.err, "wrapped"));
}

TEST_CASE("cost: each rate's time, evaluations and pixels; a plot") {
    const temporary_folder folder;
    const std::string plot = (folder / ("cost.png"));
    const outcome made = run(tool + " cost moon-crates --size 160x100 --repeat 3 --json - -o " + plot);
    REQUIRE(made.status == 0);
    const json data = json::parse(made.out);
    REQUIRE(data["rates"].size() == 3);
    CHECK(data["rates"][0]["rate"] == "face");
    CHECK(data["rates"][2]["rate"] == "fragment");
    scene crates = verify::find_reference("moon-crates")->scene;
    std::size_t triangles = 0;
    std::size_t vertices = 0;
    for (const object& one : crates.objects) {
        triangles += build_mesh(one).triangles.size();
        vertices += build_mesh(one).positions.size();
    }
    CHECK(data["rates"][0]["evaluations"] == triangles);
    CHECK(data["rates"][1]["evaluations"] == vertices);
    CHECK(data["rates"][2]["evaluations"] == data["rates"][2]["pixels"]);
    for (const json& one : data["rates"]) {
        CHECK(one["milliseconds"].get<double>() > 0);
        CHECK(one["quartiles"][0] <= one["milliseconds"]);
        CHECK(one["quartiles"][1] >= one["milliseconds"]);
    }
    CHECK(read_picture(plot).width == 1280);
    const outcome words = run(tool + " cost lantern-quay-inverse-square --size 64x40 --repeat 1");
    CHECK(words.status == 0);
    CHECK(has(words.out, "per vertex is"));
    CHECK(has(run(tool + " cost painted-hull --size 64x40 --repeat 1").out, "implicit surfaces"));
    CHECK(run(tool + " cost lantern-quay-inverse-square --repeat 0").status == 2);
    CHECK(run(tool + " cost lantern-quay-inverse-square --threads -1").status == 2);
    CHECK(run(tool + " cost lantern-quay-inverse-square --size 8x8 --repeat 1 -o /no/such/folder/a.png")
              .status == 2);
}

TEST_CASE("every instruction set draws the same to rounding, term by term") {
    const temporary_folder folder;
    const outcome unknown =
        run("YURVO_ISA=mmx " + tool + " draw lantern-quay-inverse-square -o " + (folder / ("a.pfm")));
    CHECK(unknown.status == 2);
    CHECK(has(unknown.err, "YURVO_ISA: mmx"));
    for (const std::string term : {"ambient", "diffuse", "specular", "emission"}) {
        const std::string expected = (folder / ("baseline.pfm"));
        const std::string arguments = " draw harbour --size 320x200 --terms " + term + " -o ";
        REQUIRE(run("YURVO_ISA=baseline " + tool + arguments + expected).status == 0);
        const picture base = read_picture(expected);
        for (const std::string set : {"avx2", "avx512"}) {
            CAPTURE(set);
            CAPTURE(term);
            const std::string file = (folder / (set + ".pfm"));
            const outcome made = run("YURVO_ISA=" + set + " " + tool + arguments + file);
            if (made.status == 2 && has(made.err, "does not run on this machine")) {
                MESSAGE(set << " does not run here: skipped");
                continue;
            }
            REQUIRE(made.status == 0);
            const picture found = read_picture(file);
            double most = 0;
            for (const float value : base.values) {
                most = std::max(most, static_cast<double>(value));
            }
            for (std::size_t i = 0; i < base.values.size(); ++i) {
                // 2e-6 of the term where it is brightest: an exponent multiplies what rounding does to a
                // highlight's foot, which is as much smaller.
                REQUIRE(std::abs(static_cast<double>(found.values[i]) - base.values[i]) <= 2e-6 * most);
            }
        }
    }
}

TEST_CASE("check: shards make up the whole, --only picks, --explain derives" * doctest::test_suite("slow")) {
    std::size_t all = 0;
    const std::string scenes = testing::patient ? "buoys line-up" : "buoys";
    const json whole = json::parse(run(tool + " check " + scenes + " --json -").out);
    for (const std::string part : {"1/3", "2/3", "3/3"}) {
        const outcome got = run(tool + " check " + scenes + " --shard " + part + " --json -");
        CHECK(got.status == 0);
        all += json::parse(got.out)["checks"].size();
    }
    CHECK(all == whole["checks"].size());
    const json only =
        json::parse(run(tool + " check" + testing::scenes_asked + " --only superposition --json -").out);
    CHECK(only["checks"].size() > (testing::whole ? 20 : 2));
    for (const json& one : only["checks"]) {
        CHECK(has(one["name"].get<std::string>(), "superposition"));
        CHECK(one["kind"] == "relation");
    }
    const outcome why = run(tool + " check searchlight --explain penumbra");
    CHECK(why.status == 0);
    CHECK(has(why.out, "u = 2^-24"));
    CHECK(has(why.out, "The pixel that decides is ("));
    CHECK(has(run(tool + " check buoys --explain rays").out, "m from the eye"));
    for (const char* wrong :
         {"--shard 0/3", "--shard 4/3", "--shard 2", "--shard a/b", "--only nothing-of-this-name",
          "--explain nothing-of-this-name", "--as linear", "--picture no-such.png", "--keep /proc/no/such"}) {
        CAPTURE(wrong);
        const outcome got = run(
            std::string(std::string(wrong).starts_with("--keep") ? broken_tool + " falloff-missing" : tool) +
            " check lantern-row " + wrong);
        CHECK(got.status == 2);
        CHECK(got.one_line_of_error());
    }
}

TEST_CASE("check --picture: a picture made elsewhere, in floats or codes; another size is said") {
    const temporary_folder folder;
    for (const std::string ending : {".png", ".exr", ".pfm"}) {
        CAPTURE(ending);
        const std::string file = folder / ("row" + ending);
        REQUIRE(run(tool + " draw lantern-row -o " + file).status == 0);
        const outcome right = run(tool + " check lantern-row --picture " + file);
        CHECK(right.status == 0);
        CHECK(has(right.out, "held"));
        CHECK(has(right.err, "relations"));
        REQUIRE(run(tool + " draw lantern-row --rate vertex -o " + file).status == 0);
        CHECK(run(tool + " check lantern-row --picture " + file).status == 1);
    }
    const std::string linear = folder / "linear.png";
    REQUIRE(run(tool + " draw moon-crates --encode linear -o " + linear).status == 0);
    CHECK(run(tool + " check moon-crates --picture " + linear).status == 1);
    CHECK(run(tool + " check moon-crates --as linear --picture " + linear).status == 0);
    const std::string small = folder / "small.png";
    REQUIRE(run(tool + " draw moon-crates --size 64x40 -o " + small).status == 0);
    const outcome size = run(tool + " check moon-crates --picture " + small);
    CHECK(size.status == 2);
    CHECK(has(size.err, "64x40"));
    CHECK(run(tool + " check --picture " + small).status == 2);
    CHECK(run(tool + " check moon-crates --as gamma --picture " + small).status == 2);
}

TEST_CASE("formulas on the command line: explained, left out with a remark, black and remarked at where they "
          "fail") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    const outcome told = run(in + " explain foggy-quay --pixel 215,405 --json -");
    REQUIRE(told.status == 0);
    const nlohmann::json data = nlohmann::json::parse(told.out);
    REQUIRE(data["formulas"].size() == 9); // a light's three and the searchlight's four, and two asked once
    CHECK(data["formulas"][0]["name"] == "falloff");
    CHECK(data["formulas"][0]["light"] == "lantern");
    // exp(−0.35 d) / (1 + d²), d from the lights' own numbers.
    const double d = data["lights"][0]["distance"];
    CHECK(std::abs(data["formulas"][0]["value"].get<double>() - std::exp(-0.35 * d) / (1 + d * d)) < 1e-12);
    CHECK(data["lights"][0]["falloff"] == data["formulas"][0]["value"]);
    const outcome words = run(in + " explain foggy-quay --pixel 215,405");
    CHECK(has(words.out, "[diffuse]"));
    CHECK(has(words.out, "= max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)"));
    CHECK(has(words.out, "wrap = 0.4"));

    const outcome other = run(in + " draw foggy-quay --model cel --size 64x40 -o a.png");
    CHECK(other.status == 0);
    CHECK(has(other.err, "the formulas are left out: the model has none"));

    std::string text = read_whole(std::string(YURVO_TESTS) + "/../scenes/reference/foggy-quay.toml");
    const std::string from = "exp(-thickness * d)";
    text.replace(text.find(from), from.size(), "sqrt(position.x)");
    write_whole(folder / "bad.toml", text);
    const outcome drawn = run(in + " draw bad.toml --size 64x40 -o b.pfm");
    CHECK(drawn.status == 0);
    CHECK(has(drawn.err, "the formula `falloff` gives NaN or infinity at "));
    CHECK(has(drawn.err, " pixels, which are black"));
    const outcome checked = run(in + " check bad.toml");
    CHECK(checked.status == 1);
    CHECK(has(checked.out, "formulas give numbers"));
    const outcome curves = run(in + " curves foggy-quay -o curves.png");
    CHECK(curves.status == 0);
    CHECK(has(curves.out, "falloff = exp(-thickness * d)"));
}

TEST_CASE("formulas in every instruction set") {
    for (const std::string set : {"baseline", "avx2", "avx512"}) {
        const outcome held = run("YURVO_ISA=" + set + " " + tool + " check foggy-quay");
        CAPTURE(set);
        CHECK((held.status == 0 || has(held.err, "YURVO_ISA"))); // or it cannot run here
    }
}

TEST_CASE("draw --samples: several places a pixel, averaged in linear light") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " draw plates --size 64x40 --samples 4 -o smooth.pfm").status == 0);
    REQUIRE(run(in + " draw plates --size 256x160 -o large.pfm").status == 0);
    const picture smooth = read_picture(folder / "smooth.pfm");
    const picture large = read_picture(folder / "large.pfm");
    REQUIRE(smooth.width == 64);
    for (int y = 0; y < 40; ++y) {
        for (int x = 0; x < 64; ++x) {
            double sum = 0;
            for (int i = 0; i < 16; ++i) {
                sum += large.color(4 * x + i % 4, 4 * y + i / 4).g;
            }
            CHECK(std::abs(smooth.color(x, y).g - sum / 16) <= 1e-6);
        }
    }
    CHECK(run(in + " draw plates --samples 0 -o a.png").status == 2);
    CHECK(run(in + " draw plates --samples 17 -o a.png").status == 2);
    CHECK(run(in + " draw plates --size 16384x10 --samples 2 -o a.png").status == 2);
    CHECK(run(in + " draw plates --show depth --samples 2 -o a.png").status == 2);
}

TEST_CASE("check: your own scene with its expectations; what fails is kept, and written for test servers") {
    const temporary_folder folder;
    const std::string file = folder / "mine.toml";
    const std::string begin =
        "format = 1\n[view]\neye = [0, 3, 6]\ntarget = [0, 0, 0]\nsize = [201, 125]\n"
        "[shading]\nmodel = \"lambert\"\n[ambient]\nstrength = 0.0\n[materials.deck]\n[[objects]]\n"
        "name = \"quay\"\nmaterial = \"deck\"\nshape = \"plane\"\n[[lights]]\nkind = \"point\"\n"
        "position = [0, 2, 0]\n[[expect]]\nname = \"foot\"\nobject = \"quay\"\npoint = [0, 0, 0]\ntolerance "
        "= 1e-4\n";
    // 1 / 2² at the foot.
    write_whole(file, begin + "color = 0.25\n");
    const outcome held = run(tool + " check " + file + " --json -");
    CHECK(held.status == 0);
    CHECK(json::parse(held.out)["checks"][0]["kind"] == "expectation");
    write_whole(file, begin + "color = 0.5\n");
    const std::string kept = folder / "kept";
    const std::string junit = folder / "results.xml";
    const outcome wrong = run(tool + " check " + file + " --keep " + kept + " --junit " + junit);
    CHECK(wrong.status == 1);
    CHECK(has(wrong.out, "expected (0.5, 0.5, 0.5), found (0.25, 0.25, 0.25)"));
    const std::string xml = read_whole(junit);
    CHECK(has(xml, "<testsuites tests="));
    CHECK(has(xml, "failures=\"1\""));
    CHECK(has(xml, "<failure message="));
    std::size_t pictures = 0;
    for (const auto& entry : std::filesystem::directory_iterator(kept)) {
        CHECK(read_picture(entry.path().string()).width > 0);
        ++pictures;
    }
    CHECK(pictures == 3);
    const outcome sheet = run(tool + " scenes plates -o " + (folder / "plates.png"));
    CHECK(sheet.status == 0);
    CHECK(read_picture(folder / "plates.png").width == 1280);
}
