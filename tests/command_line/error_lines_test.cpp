// What is said of bad input, line for line, by the built tool: place, what is wrong, what would be right.
#include <doctest/doctest.h>

#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/tool.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

const std::string view_of_quay = R"(format = 1
title = "quay"
[view]
eye = [0.0, 1.0, 4.0]
target = [0.0, 0.0, 0.0]
fov = 45.0
near = 0.1
far = 50.0
size = [32, 20]
[shading]
model = "blinn-phong"
rate = "fragment"
[ambient]
color = [1.0, 1.0, 1.0]
strength = 0.1
[materials.paint]
base = [0.9, 0.2, 0.1]
)";
const std::string box = "[[objects]]\nshape = \"box\"\nsize = [1.0, 1.0, 1.0]\nmaterial = \"paint\"\n";
const std::string moon = "[[lights]]\nkind = \"directional\"\nshines = [0.0, -1.0, -1.0]\n";

// A command in a folder of such files, and the one line that it must say. `@` stands for the folder.
struct refusal {
    std::string command, line;
    int status = 2;
};

void hold(const std::vector<refusal>& refusals, const temporary_folder& folder) {
    for (const refusal& each : refusals) {
        CAPTURE(each.command);
        const outcome said = run("cd " + folder.path() + " && " + tool + " " + each.command);
        CHECK(said.err == each.line + "\n");
        CHECK(said.status == each.status);
        CHECK(said.out == "");
    }
}

} // namespace

TEST_CASE("options and commands that make no sense") {
    const temporary_folder folder;
    write_whole(folder / "quay.toml", view_of_quay + box + moon);
    write_whole(folder / "dark.toml", view_of_quay + box);
    write_whole(
        folder / "field.toml",
        view_of_quay +
            "[[objects]]\nshape = \"field\"\nfield = \"sphere\"\nradius = 1.0\nmaterial = \"paint\"\n" +
            moon);
    write_picture(folder / "other.png", picture(8, 8));
    write_picture(folder / "same.png", picture(32, 20));
    write_picture(folder / "same.exr", picture(32, 20));
    REQUIRE(run(tool + " new program " + (folder / "lantern")).status == 0);
    const std::string no_size = "; WIDTHxHEIGHT, such as 1280x800, each from 1 to 16384";
    const std::string no_picture_name =
        ": the name says no kind of picture; a name that ends in .png, .exr or .pfm";
    hold(
        {
            {"", "yurvo: no command was given; yurvo COMMAND; `yurvo --help` lists them"},
            {"moor", "yurvo: there is no command `moor`; `yurvo --help` lists them"},
            {"drow quay.toml", "yurvo: there is no command `drow`; the nearest is `draw`"},
            {"draw quay.toml", "yurvo draw: --output is required; `yurvo draw --help` says what it takes"},
            {"draw quay.toml -o quay.bmp", "quay.bmp" + no_picture_name},
            {"draw quay.toml -o a.png --size 12", "--size: `12` is no size" + no_size},
            {"draw quay.toml -o a.png --size 0x4", "--size: `0x4` is no size" + no_size},
            {"draw quay.toml -o a.png --size 16385x4", "--size: `16385x4` is no size" + no_size},
            {"draw quay.toml -o a.png --terms ambient,glow",
             "--terms: `glow` is no term; ambient, diffuse, specular or emission, with commas between"},
            {"draw quay.toml -o a.png --light moon",
             "--light: it goes with --show cosine; --show cosine, or no --light"},
            {"draw quay.toml -o a.png --program lantern/per-fragment.toml --show normals",
             "--show: it shows what the built-in pipeline gives a model; --show or --program, not both"},
            {"draw quay.toml -o a.png --program lantern/per-fragment.toml --rate vertex",
             "--program: the program file claims a model and a rate itself; --program without --model and "
             "--rate"},
            {"draw dark.toml -o a.png --show cosine",
             "--light: the scene has no light; a scene's light by its name"},
            {"explain quay.toml --pixel 32,4",
             "--pixel: `32,4` is no pixel of the picture; X,Y with X from 0 to 31 and Y from 0 to 19"},
            {"explain quay.toml --pixel 3",
             "--pixel: `3` is no pixel of the picture; X,Y with X from 0 to 31 and Y from 0 to 19"},
            {"explain quay.toml --pixel 1,1 --picture same.png --program lantern/per-fragment.toml",
             "yurvo explain: there are a picture and a program; one of the two"},
            {"explain quay.toml --pixel 1,1 --picture same.png --as cmyk",
             "--as: `cmyk` is no way to hold colours; linear or srgb"},
            {"explain quay.toml --pixel 1,1 --picture same.exr --as srgb",
             "--as: same.exr holds floats, which are linear; a PNG, or --as linear"},
            {"diagnose quay.toml",
             "yurvo diagnose: there is no one thing to look into; --picture FILE or --program FILE"},
            {"diagnose quay.toml --picture same.png --report page.txt",
             "page.txt: a page is not named so; a name that ends in .html"},
            {"export quay.toml -o quay.stl",
             "quay.stl: the name says no kind of file to export to; a name that ends in .obj, .gltf or .glb"},
            {"export quay.toml --language c++ -o quay.txt",
             "quay.txt: is no name for a header; a name that ends in .hpp"},
            {"check --picture same.png",
             "yurvo check: --picture was given with 0 scenes; the one scene that the picture shows"},
            {"check quay.toml --picture other.png",
             "other.png: the picture is 8x8, the scene's view 32x20; a picture of the view's size"},
            {"check quay.toml --as linear", "--as: there is no picture for it; --picture FILE"},
            {"check quay.toml --shard 3/2",
             "--shard: `3/2` is no part of a whole; I/N with 1 ≤ I ≤ N, such as 2/4"},
            {"check quay.toml --shard x",
             "--shard: `x` is no part of a whole; I/N with 1 ≤ I ≤ N, such as 2/4"},
            {"check quay.toml --only searchlight", "--only: no check's scene, name or kind contains "
                                                   "`searchlight`; a part of one, as --json lists them"},
            {"check quay.toml --picture same.png --program lantern/per-fragment.toml",
             "yurvo check: there are a picture and a program; one of the two"},
            {"compare same.png", "yurvo compare: there is one picture; two, or a scene with --program FILE"},
            {"compare same.png other.png",
             "other.png: the picture is 8x8, same.png is 32x20; two pictures of one size"},
            {"compare quay.toml same.png --program lantern/per-fragment.toml",
             "yurvo compare: there are a second picture and a program; one of the two"},
            {"watch",
             "yurvo watch: there is no one thing to watch; --program FILE, or --picture FILE with its scene"},
            {"watch --picture same.png",
             "yurvo watch: --picture was given with 0 scenes; the one scene that the picture shows"},
            {"view quay.toml --size 10x10",
             "--size: `10x10` is no size of a window; WxH, 640x400 to 7680x4320"},
            {"view quay.toml --panel ropes",
             "--panel: there is no panel `ropes`; lights, objects, scene, formulas, pixel or verdict"},
            {"view quay.toml --theme night", "--theme: `night` is not known; dark or light"},
            {"view quay.toml --picture same.png --program lantern/per-fragment.toml",
             "yurvo view: there are a picture and a program; one of the two"},
            {"new scene quay", "yurvo new: `scene` cannot be made; yurvo new program DIR"},
            {"new program lantern",
             "lantern/per-fragment.vert: is there already, and is not overwritten; another folder"},
            {"new program other --rate face",
             "--rate: a shader has no rate `face`; vertex, fragment or both"},
            {"new program other --from a.vert", "--from: there is one source; --from VERT FRAG"},
            {"new program other --language hlsl --from a.hlsl",
             "--from: one file of HLSL needs the names of its entry points; --from FILE --entries VERTEX "
             "FRAGMENT"},
            {"pack dark.toml", "dark.toml: the scene has no light; a scene with lights"},
            {"pack quay.toml --room 65537", "--room: there are 65537; room for up to 65536 lights"},
            {"rates field.toml -o a.png",
             "field.toml: `objects[0]` is a field, drawn per fragment only; a scene without fields"},
            {"turn quay.toml -o a.png --what eye --name moon",
             "--name: there is only one eye; --what object or light, or no --name"},
            {"turn quay.toml -o a.png --what light --name moon",
             "--name: there is no `moon`; the name of one of the scene's"},
            {"quiz quay.toml --seed 3 --answer zz",
             "--answer: `zz` is not among the answers; a letter from a to d, or an id"},
            {"draw quay.toml -o a.png --mistake no-lamp",
             "mistake: there is no mistake `no-lamp`; an id that `yurvo mistakes` lists"},
            {"draw sea.toml -o a.png", "sea.toml: there is no such scene, nor a file of that name; a path, "
                                       "or a name that `yurvo scenes` lists"},
            {"draw lantern-quey -o a.png",
             "lantern-quey: there is no such scene, nor a file of that name; the nearest is `lantern-quay`"},
        },
        folder);
}

TEST_CASE("places that cannot be written, displays that are not there, scenes that do not suit") {
    const temporary_folder folder;
    write_whole(folder / "quay.toml", view_of_quay + box + moon);
    write_whole(
        folder / "dark.toml",
        replaced(replaced(view_of_quay, "blinn-phong", "unlit"), "[0.9, 0.2, 0.1]", "[0.0, 0.0, 0.0]") + box);
    write_whole(folder / "facing.toml", replaced(view_of_quay, "rate = \"fragment\"", "rate = \"vertex\"") +
                                            "[formulas]\ndiffuse = \"front ? 1.0 : 0.5\"\n" + box + moon);
    write_whole(folder / "broken.toml", "format = = 1\n");
    write_picture(folder / "shot.png", picture(4, 4));
    const std::string png = read_whole(folder / "shot.png");
    write_whole(folder / "half.png", png.substr(0, png.size() / 2));
    write_whole(folder / "half.pfm", "PF\n4 4\n-1.0\nxxxx");
    write_picture(folder / "shot.exr", picture(4, 4));
    std::string exr = read_whole(folder / "shot.exr");
    write_whole(folder / "half.exr", exr.substr(0, exr.size() / 2));
    // Its channels are called otherwise, in the same order.
    for (const auto& [before, after] : {std::pair{'B', 'C'}, std::pair{'G', 'H'}, std::pair{'R', 'S'}}) {
        const std::size_t at = exr.find(std::string(1, before) + std::string(1, '\0'));
        REQUIRE(at != std::string::npos);
        exr[at] = after;
    }
    write_whole(folder / "names.exr", exr);
    hold(
        {
            {"scenes >/dev/full",
             "standard output: cannot be written: No space left on device; a place with room"},
            {"demo -o /proc/quay",
             "/proc/quay: the folder cannot be made: No such file or directory; the name of a "
             "folder that may be made and written to"},
            {"draw broken.toml -o a.png", "broken.toml:1:10: this is not TOML: Error while parsing value: "
                                          "could not determine value type; valid TOML in UTF-8"},
            {"quiz dark.toml --seed 1",
             "dark.toml: too few mistakes can be seen in this scene; another scene"},
            {"export facing.toml --language glsl -o out",
             "front: a vertex stage does not know which way a triangle faces; rate = \"fragment\", or a "
             "formula without "
             "`front`"},
            {"compare shot.png names.exr",
             "names.exr: the picture has no channels R, G and B, nor Y; an EXR with colours"},
        },
        folder);
    for (const char* const kind : {"png", "exr", "pfm"}) {
        const outcome said = run("cd " + folder.path() + " && " + tool + " compare shot.png half." + kind);
        CHECK(said.status == 2);
        CHECK(said.err.starts_with(std::string("half.") + kind + ": not a whole "));
        CHECK(said.one_line_of_error());
    }
    const outcome unseen = run("env -u DISPLAY -u WAYLAND_DISPLAY " + tool + " view buoys");
    CHECK(unseen.status == 3);
    CHECK(unseen.err ==
          "yurvo view: no window can be opened: there is no display; a display with OpenGL 3, or --still "
          "FILE, which needs none\n");
}

TEST_CASE("an instruction set that is none, or no kernel here") {
    const temporary_folder folder;
    write_whole(folder / "quay.toml", view_of_quay + box + moon);
    const outcome said =
        run("cd " + folder.path() + " && YURVO_ISA=mmx " + tool + " draw quay.toml -o a.png");
    CHECK(
        said.err ==
        "YURVO_ISA: mmx is no instruction set Yurvo has kernels for; use baseline, avx2 or avx512, or leave "
        "YURVO_ISA unset\n");
    CHECK(said.status == 2);
}

TEST_CASE("scene files: lists, numbers and places that are none") {
    const temporary_folder folder;
    const auto refused = [&](const std::string& text, const std::string& line) {
        write_whole(folder / "quay.toml", text);
        hold({{"draw quay.toml -o a.png", line}}, folder);
    };
    refused(view_of_quay + box + "lights = 3\n",
            "quay.toml:22:1: unknown key `lights` in `objects[0]`; the nearest known key is `height`");
    refused("lights = 3\n" + view_of_quay + box,
            "quay.toml:1:10: `lights` is not a list of tables; sections that begin with [[lights]]");
    refused("numbers = 3\n" + view_of_quay + box,
            "quay.toml:1:11: `numbers` is not a table; a section that begins with [numbers]");
    refused("format = 1\nview = 3\n" + box,
            "quay.toml:2:8: `view` is not a table; a section that begins with [view]");
    refused("format = 1\n" + box, "quay.toml:1:1: [view] is missing; a [view] with `eye` and `target`");
    refused(replaced(view_of_quay, "[materials.paint]", "[materials]\npaint = 3\n[materials.rope]") + box,
            "quay.toml:17:1: `materials.paint` is not a table; a section that begins with [materials.paint]");
    refused("lights = [3]\n" + view_of_quay + box,
            "quay.toml:1:11: `lights` is not a list of tables; sections that begin with [[lights]]");
    refused(view_of_quay + "[[objects]]\nshape = \"sphere\"\nradius = 1.0\ncells = 3\nmaterial = \"paint\"\n",
            "quay.toml:21:9: `cells` is a whole number; two whole numbers, such as [8, 4]");
    refused(view_of_quay +
                "[[objects]]\nshape = \"sphere\"\nradius = 1.0\ncells = [3]\nmaterial = \"paint\"\n",
            "quay.toml:21:9: `cells` has 1 values; two whole numbers, such as [8, 4]");
    refused(view_of_quay +
                "[[objects]]\nshape = \"sphere\"\nradius = 1.0\ncells = [3.5, 4]\nmaterial = \"paint\"\n",
            "quay.toml:21:10: `cells` holds a number; two whole numbers, such as [8, 4]");
    refused(view_of_quay +
                "[[objects]]\nshape = \"sphere\"\nradius = 1.0\ncells = [-3, 4]\nmaterial = \"paint\"\n",
            "quay.toml:21:10: `cells` holds -3; whole numbers, 1 or more");
    refused(view_of_quay + "[numbers]\nwrap = \"much\"\n" + box,
            "quay.toml:19:8: `wrap` is not a number; a finite number, or a list of one to four");
    refused(view_of_quay + "[numbers]\nwrap = []\n" + box,
            "quay.toml:19:8: `wrap` has no components; a finite number, or a list of one to four");
    refused(view_of_quay + "[[objects]]\nshape = \"mesh\"\nfile = \"crate.obj\"\nmaterial = \"paint\"\n",
            "quay.toml:20:8: the mesh crate.obj: cannot be read: No such file or directory; a file that "
            "exists and may be read");
}

TEST_CASE("meshes that are none") {
    const temporary_folder folder;
    const std::string quay =
        view_of_quay + "[[objects]]\nshape = \"mesh\"\nfile = \"crate.obj\"\nmaterial = \"paint\"\n";
    const auto refused = [&](const std::string& mesh, const std::string& line) {
        write_whole(folder / "quay.toml", quay);
        write_whole(folder / "crate.obj", mesh);
        hold({{"draw quay.toml -o a.png", line}}, folder);
    };
    refused("v 0 0\n", "quay.toml:20:8: the mesh crate.obj:1:1: `v` has 2 numbers; at least 3");
    refused("v 0 0 0\n",
            "quay.toml:20:8: the mesh crate.obj: the file has no triangles; a mesh with at least one");
    std::string other = quay;
    other.replace(other.find("crate.obj"), 9, "crate.stl");
    write_whole(folder / "quay.toml", other);
    write_whole(folder / "crate.stl", "solid\n");
    hold({{"draw quay.toml -o a.png",
           "quay.toml:20:8: the mesh crate.stl: the name says no kind of mesh; a name that "
           "ends in .obj, .gltf or .glb"}},
         folder);
}

TEST_CASE("doctor says what is here, what is missing and what brings it") {
    const outcome said = run("env -u WAYLAND_DISPLAY DISPLAY=:7 " + tool + " doctor");
    CHECK(said.status == 0);
    CHECK(said.err == "");
    for (const char* const part :
         {"instruction set", "threads", "driver", "confinement", "translators", "window", "fonts"}) {
        CHECK_MESSAGE(has(said.out, part), part);
    }
    CHECK(has(said.out, "on the display :7"));
    const outcome without =
        run("env -u DISPLAY -u WAYLAND_DISPLAY YURVO_ISA=mmx " + tool + " doctor --json -");
    CHECK(without.status == 0);
    const nlohmann::json read = nlohmann::json::parse(without.out);
    CHECK(read["version"] == "0.1.0");
    const auto part = [&](const std::string& name) {
        for (const nlohmann::json& each : read["parts"]) {
            if (each["name"] == name) {
                return each;
            }
        }
        return nlohmann::json();
    };
    CHECK(part("instruction set")["here"] == false);
    CHECK(part("instruction set")["what"] == "mmx is no instruction set Yurvo has kernels for");
    CHECK(part("window")["here"] == false);
    CHECK(part("window")["lost"] == "`yurvo view` but with --still");
    CHECK(part("driver")["here"] == true); // the tests' own machine has one
    CHECK(part("translators")["package"] == "");
}

TEST_CASE("the library that opens windows is loaded for them alone: without it all else works, and a line "
          "says so") {
    const temporary_folder folder;
    write_whole(folder / "libSDL2-2.0.so.0", "no library"); // found first, and no library
    const std::string without = "LD_LIBRARY_PATH=" + folder.path() + " DISPLAY=:7 " + tool;
    CHECK(run(without + " --version").status == 0);
    CHECK(run(without + " view bollard --still " + (folder / "still.png")).status == 0);
    const outcome unseen = run(without + " view bollard");
    CHECK(unseen.status == 3);
    CHECK(unseen.err ==
          "yurvo view: no window can be opened: the library libSDL2-2.0.so.0 is not there, Debian's package "
          "libsdl2-2.0-0; a display with OpenGL 3, or --still FILE, which needs none\n");
    const nlohmann::json read = nlohmann::json::parse(run(without + " doctor --json -").out);
    for (const nlohmann::json& each : read["parts"]) {
        if (each["name"] == "window") {
            CHECK(each["here"] == false);
            CHECK(each["what"] == "the library libSDL2-2.0.so.0 is not there");
            CHECK(each["package"] == "libsdl2-2.0-0");
        }
    }
}
