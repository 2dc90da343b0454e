// explain, compare, diagnose, mistakes, quiz and draw --mistake, as users call them.
#include <doctest/doctest.h>

#include <cmath>
#include <vector>

#include <nlohmann/json.hpp>

#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::outcome;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

void hold_refused(const std::string& folder, const std::string& arguments, const std::string& says) {
    CAPTURE(arguments);
    const outcome got = run("cd " + folder + " && " + tool + " " + arguments);
    CHECK(got.status == 2);
    CHECK(got.out.empty());
    CHECK(got.one_line_of_error());
    CHECK(has(got.err, "; "));
    CHECK(has(got.err, says));
}

} // namespace

TEST_CASE("mistakes: the catalogue, one of it, as data") {
    const outcome all = run(tool + " mistakes");
    CHECK(all.status == 0);
    const json data = json::parse(run(tool + " mistakes --json -").out);
    CHECK(data["mistakes"].size() == verify::mistake_count);
    for (const json& one : data["mistakes"]) {
        CHECK(has(all.out, one["id"].get<std::string>()));
        CHECK(one["scenes"].size() >= 1);
        for (const char* key : {"what", "symptom", "cause", "fix", "applies_to"}) {
            CHECK(one[key].get<std::string>().size() > 3);
        }
    }
    const outcome one = run(tool + " mistakes falloff-not-squared");
    CHECK(one.status == 0);
    CHECK(has(one.out, "falloff = 1 / dot(to_light, to_light)"));
    CHECK(has(one.out, "lantern-row"));
    hold_refused(".", "mistakes falloff-mising", "`falloff-missing`");
    hold_refused(".", "mistakes rim-full-angle", "it is called `cone-full-angle` now");
    hold_refused(".", "draw rims -o a.png", "it is called `penumbras` now");
}

TEST_CASE("draw --mistake: the wrong picture; what does not apply is said") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " draw buoys --size 160x100 --mistake channels-swapped -o a.pfm").status == 0);
    REQUIRE(run(in + " draw buoys --size 160x100 -o b.pfm").status == 0);
    const picture swapped = read_picture(folder / "a.pfm");
    const picture right = read_picture(folder / "b.pfm");
    CHECK(swapped.color(80, 50).r == doctest::Approx(right.color(80, 50).b).epsilon(1e-4));
    REQUIRE(run(in + " draw buoys --size 160x100 --mistake encode-missing -o a.png").status == 0);
    REQUIRE(run(in + " draw buoys --size 160x100 --encode linear -o b.png").status == 0);
    CHECK(codes_of(read_picture(folder / "a.png")) == codes_of(read_picture(folder / "b.png")));
    const outcome nothing = run(in + " draw moon-crates --mistake cone-full-angle -o c.png");
    CHECK(nothing.status == 0);
    CHECK(has(nothing.err, "nothing to get wrong"));
    const outcome floats = run(in + " draw buoys --size 16x10 --mistake output-wraps -o d.exr");
    CHECK(floats.status == 0);
    CHECK(has(floats.err, "floats"));
    hold_refused(folder.path(), "draw buoys --mistake no-such -o e.png", "no mistake `no-such`");
    hold_refused(folder.path(), "draw buoys --mistake factor-pi --show depth -o e.png", "--show");
    CHECK(run(in + " draw buoys --size 160x100 --mistake falloff-missing,ambient-missing -o f.png").status ==
          0);
}

TEST_CASE("a model of one's own has the whole tool: explain, diagnose, mistakes, turn, layers, cost") {
    const temporary_folder folder;
    const std::string mine = "cd " + folder.path() + " && " + YURVO_OWN_MODEL;
    REQUIRE(run(mine + " draw buoys --size 320x200 --model wrapped -o right.png").status == 0);
    const json right =
        json::parse(run(mine + " diagnose buoys --model wrapped --picture right.png --json -").out);
    CHECK(right["verdict"] == "right");
    for (const char* wrong : {"normal-in-object-space", "falloff-missing", "eye-vector-flipped",
                              "ambient-missing", "light-color-ignored", "encode-twice"}) {
        CAPTURE(wrong);
        const outcome drawn =
            run(mine + " draw buoys --size 320x200 --model wrapped --mistake " + wrong + " -o w.png");
        REQUIRE(drawn.status == 0);
        const outcome got = run(mine + " diagnose buoys --model wrapped --picture w.png --json -");
        const json found = json::parse(got.out);
        if (std::string(wrong) == "eye-vector-flipped") {
            CHECK(found["verdict"] == "right"); // a wrapped cosine never looks at the eye
            continue;
        }
        CHECK(got.status == 1);
        CHECK(found["verdict"] == "mistake");
        bool named = found["mistakes"][0]["id"] == wrong;
        for (const json& tie : found["ties"]) {
            named = named || tie == wrong;
        }
        CHECK(named);
    }
    // Its picture is not lambert's, and diagnose says so.
    CHECK(json::parse(
              run(mine + " diagnose buoys --model lambert --picture right.png --json -").out)["verdict"] !=
          "right");
    const json told =
        json::parse(run(mine + " explain buoys --size 320x200 --model wrapped --pixel 100,80 --json -").out);
    CHECK(told["model"] == "wrapped");
    REQUIRE(run(mine + " draw buoys --size 320x200 --model wrapped -o right.pfm").status == 0);
    const rgb<float> pixel = read_picture(folder / "right.pfm").color(100, 80);
    const std::array<float, 3> drawn{pixel.r, pixel.g, pixel.b};
    for (std::size_t c = 0; c < 3; ++c) {
        double sum = told["ambient"][c].get<double>() + told["emission"][c].get<double>();
        for (const json& light : told["lights"]) {
            sum += light["diffuse"][c].get<double>() + light["specular"][c].get<double>();
        }
        CHECK(sum == doctest::Approx(told["linear"][c].get<double>()).epsilon(1e-9));
        CHECK(sum == doctest::Approx(drawn[c]).epsilon(1e-5)); // in float
    }
    // (n·l + 0.3) / 1.3 at least 0, times E and the base colour: the moon's share worked by hand.
    const json& moon = told["lights"][0];
    const double wrapped = std::max(0.0, (moon["cosine"].get<double>() + 0.3F) / (1 + 0.3F));
    CHECK(moon["diffuse"][0].get<double>() ==
          doctest::Approx(moon["arriving"][0].get<double>() * wrapped * told["base"][0].get<double>())
              .epsilon(1e-6));
    for (const char* command : {"turn buoys --size 64x40 --steps 2 -o a.png --model wrapped",
                                "layers buoys --size 64x40 -o a.png --model wrapped",
                                "rates moon-crates --size 64x40 -o a.png --model wrapped",
                                "cost buoys --size 64x40 --repeat 2 --model wrapped"}) {
        CAPTURE(command);
        CHECK(run(mine + " " + command).status == 0);
    }
}

TEST_CASE("explain: the numbers, as text and as data, add up to the picture") {
    const outcome got = run(tool + " explain buoys --pixel 400,300 --json -");
    REQUIRE(got.status == 0);
    const json data = json::parse(got.out);
    for (const char* key : {"object", "material", "rate", "position", "normal", "normal_length", "to_eye",
                            "base", "ambient", "emission", "lights", "linear", "encoded", "clamped"}) {
        CAPTURE(key);
        CHECK(data.contains(key));
    }
    for (std::size_t c = 0; c < 3; ++c) {
        double sum = data["ambient"][c].get<double>() + data["emission"][c].get<double>();
        for (const json& light : data["lights"]) {
            sum += light["diffuse"][c].get<double>() + light["specular"][c].get<double>();
        }
        CHECK(sum == doctest::Approx(data["linear"][c].get<double>()).epsilon(1e-9));
        CHECK(data["encoded"][c].get<int>() == code_of(data["linear"][c].get<float>()));
    }
    for (const char* key : {"name", "kind", "to_light", "distance", "cosine", "falloff", "penumbra", "half",
                            "reflected", "diffuse", "specular"}) {
        CAPTURE(key);
        CHECK(data["lights"][0].contains(key));
    }
    CHECK(data["lights"][0]["distance"].is_null()); // the moon is a direction
    const json vertex = json::parse(run(tool + " explain buoys --pixel 400,300 --rate vertex --json -").out);
    REQUIRE(vertex["vertices"].size() == 3);
    for (std::size_t c = 0; c < 3; ++c) {
        double sum = 0;
        for (const json& one : vertex["vertices"]) {
            sum += one["weight"].get<double>() * one["color"][c].get<double>();
        }
        CHECK(sum == doctest::Approx(vertex["linear"][c].get<double>()).epsilon(1e-9));
    }
    CHECK(json::parse(run(tool + " explain buoys --pixel 0,0 --json -").out)["object"].is_null());
    for (const char* arguments :
         {"buoys --pixel 400,300", "buoys-phong --pixel 400,300 --rate face",
          "line-up --model cel --pixel 400,300", "many-lanterns --pixel 640,500", "penumbras --pixel 640,500",
          "buoys --pixel 0,0", "lantern-quay --pixel 600,500 --rate vertex"}) {
        CAPTURE(arguments);
        const outcome text = run(tool + " explain " + arguments);
        CHECK(text.status == 0);
        CHECK(text.err.empty());
        CHECK(has(text.out, "encoded"));
    }
    for (const char* wrong : {"buoys --pixel 1280,0", "buoys --pixel 5", "buoys --pixel -1,4",
                              "buoys --pixel a,b", "buoys --pixel 1,2,3", "buoys --pixel 1.5,2"}) {
        hold_refused(".", std::string("explain ") + wrong, "--pixel");
    }
    hold_refused(".", "explain buoys --pixel 4,4 --picture no-such.png", "no-such.png");
}

TEST_CASE("explain --picture: the value beside the right one, and what would have to differ") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(
        run(in + " draw lantern-quay-inverse-square --size 640x400 --mistake factor-pi -o pi.exr").status ==
        0);
    const outcome got = run(
        in + " explain lantern-quay-inverse-square --pixel 320,300 --size 640x400 --picture pi.exr --json -");
    REQUIRE(got.status == 0);
    const json data = json::parse(got.out);
    bool named = false;
    for (const json& one : data["found"]["would_need"]) {
        named = named || (has(one["what"].get<std::string>(), "diffuse") &&
                          std::abs(one["factor"].get<double>() - 1 / pi) < 1e-3);
    }
    CHECK(named);
    const outcome text =
        run(in + " explain lantern-quay-inverse-square --pixel 320,300 --size 640x400 --picture pi.exr");
    CHECK(has(text.out, "0.3183"));
}

TEST_CASE("compare: signed difference, where, in linear values and in codes") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    picture a(40, 30, rgb<float>(0.25F));
    picture b = a;
    b.set(7, 9, {0.25F, 0.0F, 0.25F}, 1);
    write_picture(folder / "a.pfm", a);
    write_picture(folder / "b.pfm", b);
    const outcome got = run(in + " compare a.pfm b.pfm -o sheet.png --json -");
    REQUIRE(got.status == 0);
    const json data = json::parse(got.out);
    CHECK(data["linear"]["largest"] == doctest::Approx(0.25));
    CHECK(data["linear"]["largest_at"] == json{7, 9});
    CHECK(data["linear"]["mean_signed"] == doctest::Approx(-0.25 / 3600));
    CHECK(data["codes"]["largest"] == -137); // sRGB(0.25) is 0.5371, 137 of 255
    CHECK(data["codes"]["pixels"] == 1);
    CHECK(read_picture(folder / "sheet.png").width == 1280);
    const outcome same = run(in + " compare a.pfm a.pfm");
    CHECK(same.status == 0);
    CHECK(has(same.out, "the same"));
    write_picture(folder / "small.png", picture(4, 3));
    hold_refused(folder.path(), "compare a.pfm small.png", "4x3");
    hold_refused(folder.path(), "compare a.pfm nowhere.png", "nowhere.png");
    hold_refused(folder.path(), "compare a.pfm", "compare");
}

TEST_CASE("diagnose: the verdict, its exit status, its data, its sheet") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " draw buoys --size 320x200 -o right.png").status == 0);
    const outcome right = run(in + " diagnose buoys --size 320x200 --picture right.png --json -");
    CHECK(right.status == 0);
    CHECK(json::parse(right.out)["verdict"] == "right");
    REQUIRE(run(in + " draw buoys --size 320x200 --mistake half-not-normalized -o wrong.png").status == 0);
    const outcome wrong = run(in + " diagnose buoys --picture wrong.png -o sheet.png --json -");
    CHECK(wrong.status == 1);
    const json data = json::parse(wrong.out);
    CHECK(data["verdict"] == "mistake");
    CHECK(data["mistakes"][0]["id"] == "half-not-normalized");
    CHECK(data["mistakes"][0]["residual"].get<double>() < data["residual"].get<double>());
    CHECK(data["makeup"].size() >= 4);
    CHECK(data.contains("ties"));
    CHECK(data.contains("separated_by"));
    CHECK(read_picture(folder / "sheet.png").width == 1280);
    const outcome text = run(in + " diagnose buoys --picture wrong.png");
    CHECK(has(text.out, "h = normalize(l + v)"));
    CHECK(has(text.out, "make-up"));
    hold_refused(folder.path(), "diagnose buoys --picture nowhere.png", "nowhere.png");
    hold_refused(folder.path(), "diagnose buoys", "--picture");
    hold_refused(folder.path(), "diagnose bouys --picture right.png", "`buoys`");
    hold_refused(folder.path(), "diagnose buoys --picture right.png --as gamma", "linear or srgb");
    REQUIRE(run("cd " + folder.path() + " && head -c 60 right.png >cut.png").status == 0);
    hold_refused(folder.path(), "diagnose buoys --picture cut.png", "cut.png");
}

TEST_CASE("a check that fails ends with what explains it") {
    const outcome got = run(std::string(YURVO_BROKEN_TOOL) + " falloff-not-squared check lantern-row buoys");
    CHECK(got.status == 1);
    CHECK(has(got.out, "What explains it: falloff-not-squared"));
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " draw buoys --mistake ambient-missing -o wrong.png").status == 0);
    const outcome picture = run(in + " check buoys --picture wrong.png --json -");
    CHECK(picture.status == 1);
    CHECK(json::parse(picture.out)["diagnosis"][0]["mistakes"][0]["id"] == "ambient-missing");
}

TEST_CASE("quiz: the same question for a seed; right and wrong answers") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    const outcome asked = run(in + " quiz buoys --seed 5");
    CHECK(asked.status == 0); // nobody answers
    CHECK(has(asked.out, "--seed 5"));
    CHECK(read_picture(folder / "quiz.png").width == 1280);
    std::size_t right = 0;
    std::vector<const char*> letters{"a", "b", "c", "d"};
    letters.resize(testing::patient ? 4 : 1);
    for (const char* const letter : letters) {
        const outcome answered = run(in + " quiz buoys --seed 5 --answer " + letter);
        CHECK(answered.status <= 1);
        CHECK(has(answered.out, "fix"));
        CHECK(has(answered.out, answered.status == 0 ? "Yes: " : "No: it is "));
        right += answered.status == 0 ? 1U : 0U;
    }
    CHECK((right == 1 || !testing::patient));
    const outcome piped = run("cd " + folder.path() + " && echo a | " + tool + " quiz buoys --seed 5");
    CHECK(has(piped.out, "fix"));
    hold_refused(folder.path(), "quiz no-such-scene --seed 1", "no-such-scene");
}
