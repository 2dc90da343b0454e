// A C++ model named by a scene and claimed by a program, through the tool that was built with it.
#include <doctest/doctest.h>

#include <cmath>

#include <nlohmann/json.hpp>

#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::outcome;
using testing::replaced;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

const std::string own_tool = YURVO_OWN_MODEL;
const std::string examples = std::string(YURVO_TESTS) + "/../examples/wrapped/";

} // namespace

TEST_CASE("a scene that names a C++ model: drawn, checked, explained and diagnosed by it, with its numbers") {
    const temporary_folder folder;
    const std::string scene = examples + "rope_coil.toml";
    const std::string at = "cd " + folder.path() + " && " + own_tool;
    REQUIRE(run(at + " draw " + scene + " --size 320x200 -o right.png").status == 0);
    const outcome held = run(at + " check " + scene);
    CHECK(held.status == 0);
    CHECK(has(held.out, "all 13 checks held"));
    // wrap = 0.45 in the scene's [numbers], 0.3 in the model as it is written.
    const json told = json::parse(run(at + " explain " + scene + " --pixel 300,200 --json -").out);
    CHECK(told["model"] == "wrapped");
    const json& lantern = told["lights"][0];
    const double wrapped = (lantern["cosine"].get<double>() + 0.45F) / (1 + 0.45F);
    CHECK(lantern["diffuse"][1].get<double>() ==
          doctest::Approx(lantern["arriving"][1].get<double>() * wrapped * told["base"][1].get<double>())
              .epsilon(1e-6)); // the model's number is a float
    REQUIRE(run(at + " draw " + scene + " --size 320x200 --mistake falloff-missing -o wrong.png").status ==
            0);
    CHECK(run(at + " diagnose " + scene + " --picture right.png").status == 0);
    const json found = json::parse(run(at + " diagnose " + scene + " --picture wrong.png --json -").out);
    CHECK(found["mistakes"][0]["id"] == "falloff-missing");
    // Another model by --model takes its place.
    CHECK(has(run(at + " draw " + scene + " --size 64x40 --model lambert -o l.png").out,
              "lambert per fragment"));
    for (const char* command : {"turn %s --size 64x40 --steps 2 -o a.png", "layers %s --size 64x40 -o a.png",
                                "rates %s --size 64x40 -o a.png", "cost %s --size 64x40 --repeat 2",
                                "curves %s -o a.png", "export %s -o a.glb", "pack %s"}) {
        CAPTURE(command);
        CHECK(run(at + " " + replaced(command, "%s", scene)).status == 0);
    }
    const outcome printed = run(at + " export " + scene + " --language glsl -o shader");
    CHECK(printed.status == 2);
    CHECK(has(printed.err, "`wrapped`"));
}

TEST_CASE("a scene that names a C++ model wrongly: one line with its place") {
    const temporary_folder folder;
    const std::string text = read_whole(examples + "rope_coil.toml");
    const auto said = [&](const std::string& with, const std::string& changed) {
        write_whole(folder / "a.toml", changed);
        const outcome got = run("cd " + folder.path() + " && " + with + " draw a.toml -o a.png");
        CHECK(got.status == 2);
        CHECK(got.out.empty());
        return got.err;
    };
    // The plain tool was built with no model of its own.
    CHECK(said(tool, text) ==
          "a.toml:12:9: `model` is `wrapped`; `unlit`, `lambert`, `phong`, `blinn-phong` or `cel`\n");
    CHECK(said(own_tool, replaced(text, "\"wrapped\"", "\"wraped\"")) ==
          "a.toml:12:9: `model` is `wraped`; `unlit`, `lambert`, `phong`, `blinn-phong`, `cel` or `wrapped`; "
          "nearest: `wrapped`\n");
    CHECK(said(own_tool, replaced(text, "wrap = 0.45", "wrep = 0.45")) ==
          "a.toml:16:8: the model `wrapped` has no number `wrep`; wrap\n");
    CHECK(said(own_tool, replaced(text, "wrap = 0.45", "wrap = [0.45, 1]")) ==
          "a.toml:16:8: the model's `wrap` has 1 component, not 2; one number\n");
    CHECK(said(own_tool, replaced(text, "[ambient]", "[formulas]\ndiffuse = \"1.0\"\n[ambient]")) ==
          "a.toml:18:1: the model `wrapped` takes no formulas: it is written in C++; a built-in model, or no "
          "[formulas]\n");
    CHECK(said(own_tool, replaced(text, "rate = \"fragment\"", "rate = \"fragment\"\noutline = 0.2")) ==
          "a.toml:14:1: `outline` is not used by the model `wrapped`; leave it out, or use one of "
          "`model`, `rate` or `ambient_rule`\n");
}

TEST_CASE("a program that claims a C++ model is held to it" * doctest::test_suite("slow")) {
    const temporary_folder folder;
    for (const char* name : {"wrapped.toml", "wrapped.vert", "wrapped.frag"}) {
        write_whole(folder / name, read_whole(examples + name));
    }
    const std::string at = "cd " + folder.path() + " && " + own_tool;
    // In one scene: the same verdict by its picture.
    const std::string on_scene = " " + examples + "rope_coil.toml --program wrapped.toml";
    CHECK(run(at + " check" + on_scene).status == 0);
    CHECK(run(at + " diagnose" + on_scene).status == 0);
    if (!testing::whole) { // more of the same
        return;
    }
    const outcome right = run(at + " check --program wrapped.toml");
    CAPTURE(right.out);
    CHECK(right.status == 0);
    CHECK(has(right.out, "checks held"));
    // Not divided by 1 + wrap: near, and wrong.
    const std::string source = read_whole(examples + "wrapped.frag");
    write_whole(folder / "wrapped.frag", replaced(source, " / (1.0 + u_wrap)", ""));
    CHECK(run(at + " check" + on_scene).status == 1);
    // A mistake in what the model is given is named.
    write_whole(folder / "wrapped.frag", replaced(source, "1.0 / dot(to_light, to_light)", "1.0"));
    const outcome unfallen = run(at + " diagnose" + on_scene + " --json -");
    CHECK(unfallen.status == 1);
    CHECK(json::parse(unfallen.out)["mistakes"][0]["id"] == "falloff-missing");
    write_whole(folder / "wrapped.frag", source);
    // Another number in the claim than the shader was given would be another model.
    const std::string claim = read_whole(examples + "wrapped.toml");
    write_whole(folder / "wrapped.toml", replaced(claim, "\"numbers.wrap\"", "0.4"));
    CHECK(run(at + " check" + on_scene).status == 1);
    write_whole(folder / "wrapped.toml", replaced(claim, "wrap = 0.45", "wrap = 0.45\nglow = 1"));
    CHECK(has(run(at + " check" + on_scene).err, "the model `wrapped` has no number `glow`; wrap"));
    write_whole(folder / "wrapped.toml",
                replaced(claim, "[attributes]", "[formulas]\ndiffuse = \"1.0\"\n[attributes]"));
    CHECK(has(run(at + " check" + on_scene).err, "takes no formulas"));
}
