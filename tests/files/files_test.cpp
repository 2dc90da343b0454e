#include <csignal>

#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <doctest/doctest.h>

#include <filesystem>
#include <fstream>
#include <limits>
#include <random>

#include "pipeline/parallel.hpp"
#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "support/replaced.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

namespace {

picture random_picture(int width, int height, float alpha) {
    std::mt19937 engine(31);
    std::uniform_real_distribution<float> values(-0.5F, 3.0F);
    picture made(width, height);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            made.set(x, y, {values(engine), values(engine), values(engine)}, alpha);
        }
    }
    return made;
}

std::string line_of(const auto& fails) {
    try {
        fails();
    } catch (const error& failed) {
        return failed.what();
    }
    return "nothing was thrown";
}

} // namespace

TEST_CASE("EXR and PFM keep every float; PNG keeps codes") {
    const testing::temporary_folder folder;
    const picture opaque = random_picture(13, 7, 1);
    const picture half = random_picture(13, 7, 0.5F);
    write_picture(folder / "a.pfm", opaque);
    CHECK(read_picture(folder / "a.pfm") == opaque);
    write_picture(folder / "a.exr", opaque);
    CHECK(read_picture(folder / "a.exr") == opaque);
    write_picture(folder / "half.exr", half);
    CHECK(read_picture(folder / "half.exr") == half);
    // More rows than are written at a time, and a last few.
    const picture tall = random_picture(5, 53, 1);
    const picture tall_half = random_picture(5, 53, 0.5F);
    for (const encoding how : {encoding::srgb, encoding::linear}) {
        for (const picture& each : {opaque, half, tall, tall_half}) {
            write_picture(folder / "a.png", each, how);
            CHECK(codes_of(read_picture(folder / "a.png", how), how) == codes_of(each, how));
        }
    }
}

TEST_CASE("a PNG has an alpha channel only where it needs one") {
    const testing::temporary_folder folder;
    // The color type stands at byte 25: 2 is RGB, 6 RGBA.
    write_picture(folder / "opaque.png", random_picture(4, 4, 1));
    CHECK(read_whole(folder / "opaque.png")[25] == 2);
    write_picture(folder / "half.png", random_picture(4, 4, 0.5F));
    CHECK(read_whole(folder / "half.png")[25] == 6);
}

// Read by libpng, which knows nothing of how rows were put together. Noise, which deflate cannot shrink, and
// one colour.
TEST_CASE("a PNG of many bands of rows holds every code, the same bytes for any number of threads") {
    const testing::temporary_folder folder;
    picture last_row(400, 1000, rgb<float>(0.25F));
    last_row.set(399, 999, {0, 0, 0}, 0.5F); // the only pixel that needs an alpha channel
    picture last_but_one = last_row;
    last_but_one.set(399, 999, {1, 0, 0}, 1);
    last_but_one.set(0, 998, {0, 1, 0}, 0);
    const picture wide = random_picture(16384, 9, 1);    // some rows a band
    const picture tall = random_picture(3, 16384, 0.5F); // some bands
    for (const picture& each :
         {random_picture(801, 701, 1), random_picture(640, 777, 0.5F), wide, tall, last_row, last_but_one,
          picture(2048, 700, rgb<float>(0.5F)), random_picture(1, 1, 1)}) {
        CAPTURE(each.width);
        CAPTURE(each.height);
        std::string bytes;
        pipeline::with_threads(1, [&] { bytes = png_bytes(each); });
        for (const int threads : {2, 5}) {
            pipeline::with_threads(threads, [&] { CHECK((png_bytes(each) == bytes)); });
        }
        write_whole(folder / "bands.png", bytes);
        CHECK((codes_of(read_picture(folder / "bands.png")) == codes_of(each)));
    }
    CHECK(line_of([] { (void)png_bytes(picture()); }) == "PNG: the picture has no pixels; one at least");
}

TEST_CASE("PFM: bottom row first, little-endian, and the other byte order is read as well") {
    const testing::temporary_folder folder;
    picture two(1, 2);
    two.set(0, 0, {1, 2, 3}, 1);
    two.set(0, 1, {4, 5, 6}, 1);
    write_picture(folder / "a.pfm", two);
    const std::string bytes = read_whole(folder / "a.pfm");
    CHECK(bytes.substr(0, 12) == "PF\n1 2\n-1.0\n");
    CHECK(bytes.size() == 12 + 24);
    CHECK(bytes.substr(12, 4) == std::string("\x00\x00\x80\x40", 4)); // 4.0, of the bottom row
    std::string swapped = "PF\n1 2\n1.0\n";
    for (std::size_t i = 12; i < bytes.size(); i += 4) {
        swapped += {bytes[i + 3], bytes[i + 2], bytes[i + 1], bytes[i]};
    }
    write_whole(folder / "swapped.pfm", swapped);
    CHECK(read_picture(folder / "swapped.pfm") == two);
    write_whole(folder / "grey.pfm", std::string("Pf 1 1 -1\n") + std::string("\x00\x00\x00\x3f", 4));
    CHECK(read_picture(folder / "grey.pfm").color(0, 0) == rgb<float>(0.5F));
}

TEST_CASE("broken pictures are one clear line each") {
    const testing::temporary_folder folder;
    const picture whole = random_picture(40, 30, 1);
    for (const std::string ending : {".png", ".exr", ".pfm"}) {
        const std::string name = folder / ("whole" + ending);
        write_picture(name, whole);
        const std::string bytes = read_whole(name);
        const std::string broken = folder / ("broken" + ending);
        for (const std::size_t length :
             {std::size_t{0}, std::size_t{5}, std::size_t{40}, bytes.size() / 2, bytes.size() - 3}) {
            CAPTURE(ending);
            CAPTURE(length);
            write_whole(broken, bytes.substr(0, length));
            const std::string line = line_of([&] { (void)read_picture(broken); });
            // A PNG's last bytes are a checksum of nothing: without them all its pixels are still there.
            if (ending == ".png" && length == bytes.size() - 3 && line == "nothing was thrown") {
                continue;
            }
            CHECK(line.starts_with(broken + ": "));
            CHECK(line.find('\n') == std::string::npos);
        }
    }
    write_whole(folder / "huge.pfm", "PF\n16384 16384\n-1.0\n");
    CHECK(line_of([&] { (void)read_picture(folder / "huge.pfm"); }).find("ends before its last pixel") !=
          std::string::npos);
    write_whole(folder / "wide.pfm", "PF\n99999 1\n-1.0\n");
    CHECK(line_of([&] { (void)read_picture(folder / "wide.pfm"); }).find("16384") != std::string::npos);
    CHECK(line_of([&] { (void)read_picture(folder / "nowhere.png"); }).find("cannot be read") !=
          std::string::npos);
    CHECK(line_of([&] { (void)read_picture("picture.gif"); }).find(".png, .exr or .pfm") !=
          std::string::npos);
}

TEST_CASE("a PNG that claims more pixels than its bytes can hold takes no memory") {
    const testing::temporary_folder folder;
    write_picture(folder / "small.png", random_picture(4, 4, 1));
    std::string bytes = read_whole(folder / "small.png");
    // Width and height stand at bytes 16 to 23, big-endian: 16384 each. The header's checksum is fixed.
    bytes.replace(16, 8, std::string("\x00\x00\x40\x00\x00\x00\x40\x00", 8));
    std::uint32_t crc = 0xFFFFFFFFU;
    for (std::size_t i = 12; i < 29; ++i) {
        crc ^= static_cast<std::uint8_t>(bytes[i]);
        for (int bit = 0; bit < 8; ++bit) {
            crc = (crc & 1U) != 0 ? (crc >> 1U) ^ 0xEDB88320U : crc >> 1U;
        }
    }
    crc = ~crc;
    for (std::size_t i = 0; i < 4; ++i) {
        bytes[29 + i] = static_cast<char>(crc >> (24 - 8 * i));
    }
    write_whole(folder / "huge.png", bytes);
    CHECK(line_of([&] { (void)read_picture(folder / "huge.png"); }).find("claims far more pixels") !=
          std::string::npos);
}

TEST_CASE("a file appears whole or not at all, and what was there stays") {
    const testing::temporary_folder folder;
    write_whole(folder / "kept.txt", "before");
    const auto fails = [&] {
        write_whole(folder / "kept.txt", [&](const std::string& temporary) {
            std::ofstream(temporary) << "half";
            throw error({"disk", 0, 0}, "full", "room");
        });
    };
    CHECK_THROWS_AS(fails(), error);
    CHECK(read_whole(folder / "kept.txt") == "before");
    CHECK(folder.count() == 1);
    CHECK_THROWS_AS(write_whole(folder / "missing/a.txt", "x"), error);
    CHECK_THROWS_AS(write_whole(folder.path(), "x"), error);
    // Known before anything is written, and nothing is left by asking.
    CHECK_THROWS_AS(require_writable(folder / "missing/a.txt"), error);
    CHECK_THROWS_AS(require_writable(folder / "kept.txt/a.txt"), error);
    CHECK_THROWS_AS(require_writable(folder.path()), error);
    CHECK_NOTHROW(require_writable(folder / "kept.txt"));
    CHECK_NOTHROW(require_writable(folder / "a.txt"));
    CHECK_NOTHROW(require_writable("a.txt"));
    CHECK_NOTHROW(require_writable("/dev/null"));
    CHECK(folder.count() == 1);
    // A link stays a link.
    std::filesystem::create_symlink(folder / "kept.txt", folder / "link.txt");
    write_whole(folder / "link.txt", "after");
    CHECK(std::filesystem::is_symlink(folder / "link.txt"));
    CHECK(read_whole(folder / "kept.txt") == "after");
}

TEST_CASE("a scene's text reads back as the same scene") {
    for (std::uint64_t seed = 1; seed <= 100; ++seed) {
        CAPTURE(seed);
        scene made = testing::random_scenes(seed).next();
        made.title = "Night \"harbour\" \\ \t ü";
        made.objects[0].name = "quay";
        // What a light does not use is not written, and reads back as its default.
        for (named_light& named : made.lights) {
            const light defaults;
            light& light = named.light;
            const bool spot = light.kind == light_kind::spot;
            const bool directional = light.kind == light_kind::directional;
            const bool ramped =
                spot && light.penumbra != penumbra_kind::hard && light.penumbra != penumbra_kind::power;
            light.position = directional ? defaults.position : light.position;
            light.shines = light.kind == light_kind::point ? defaults.shines : light.shines;
            light.falloff = directional ? defaults.falloff : light.falloff;
            light.penumbra = spot ? light.penumbra : defaults.penumbra;
            light.outer = spot ? light.outer : defaults.outer;
            light.inner = ramped ? light.inner : defaults.inner;
            light.exponent =
                spot && light.penumbra == penumbra_kind::power ? light.exponent : defaults.exponent;
            light.coefficients = light.falloff == falloff_kind::polynomial && !directional
                                     ? light.coefficients
                                     : defaults.coefficients;
            const bool ranged =
                light.falloff == falloff_kind::linear || light.falloff == falloff_kind::windowed;
            light.range = ranged && !directional ? light.range : defaults.range;
        }
        const std::string text = scene_text(made);
        const scene back = parse_scene(text, "back.toml", [](const std::string&) { return std::string(); });
        CHECK(back == made);
    }
}

TEST_CASE("formulas and numbers are read, written and told off with their places") {
    const std::string text = R"toml(format = 1
[view]
eye = [0, 1, 5]
target = [0, 0, 0]
[formulas]
falloff = "1.0 / (1.0 + d * d)"
penumbra = 'step(cos_outer, cos_theta)'
diffuse = """
max(dot(n, l) + wrap,
    0.0)"""
[numbers]
sky = [0.1, 0.2, 0.3]
wrap = 1
[materials.paint]
[[objects]]
material = "paint"
shape = "sphere"
radius = 1
[[lights]]
kind = "spot"
position = [0, 2, 0]
shines = [0, -1, 0]
outer = 30
)toml";
    const auto no_file = [](const std::string&) { return std::string(); };
    const scene read = parse_scene(text, "quay.toml", no_file);
    CHECK(read.formulas[formulas::slot::falloff] == "1.0 / (1.0 + d * d)");
    REQUIRE(read.numbers.size() == 2);
    CHECK(read.numbers[0].values == std::vector<double>{0.1, 0.2, 0.3});
    CHECK(read.numbers[1].values == std::vector<double>{1});
    CHECK(read.lights[0].light.range == 0); // none was given
    CHECK(parse_scene(scene_text(read), "again.toml", no_file) == read);
    // What is expected of it: at a pixel, at a point of an object, as a ratio.
    const std::string named =
        testing::replaced(text, "shape = \"sphere\"", "shape = \"sphere\"\nname = \"buoy\"");
    const scene expecting = parse_scene(named + R"toml(
[[expect]]
name = "dark"
pixel = [3, 0]
color = [0, 0, 0]
tolerance = 1e-6
[[expect]]
name = "under the lamp"
object = "buoy"
point = [0, 1, 0]
ratio = [2, 2, 2]
to = "dark"
tolerance = 0.5
)toml",
                                        "quay.toml", no_file);
    REQUIRE(expecting.expects.size() == 2);
    CHECK(expecting.expects[0].pixel[0] == 3);
    CHECK(expecting.expects[1].point == vec3<double>{0, 1, 0});
    CHECK(parse_scene(scene_text(expecting), "again.toml", no_file) == expecting);
    const std::string of_none = "\n[[expect]]\nname = \"lit\"\nobject = \"buoy\"\npoint = [0, 1, 0]\n";
    CHECK(line_of([&] { parse_scene(text + of_none, "quay.toml", no_file); })
              .ends_with(": `object` is `buoy`, and no object has a name; a `name` in its [[objects]], and "
                         "that here"));

    const auto told = [&](const std::string& from, const std::string& to) {
        std::string changed = text;
        changed.replace(changed.find(from), from.size(), to);
        try {
            parse_scene(changed, "quay.toml", no_file);
        } catch (const error& failed) {
            return std::string(failed.what());
        }
        return std::string("nothing");
    };
    CHECK(told("1.0 + d", "1.0 + dd") ==
          "quay.toml:6:25: in `falloff`: `dd` is not known here; the nearest is `d`");
    CHECK(told("step(cos_outer", "step(cos_uter") ==
          "quay.toml:7:18: in `penumbra`: `cos_uter` is not known here; the nearest is `cos_outer`");
    CHECK(told("    0.0)", "    zero)").substr(0, 46) == "quay.toml:10:5: in `diffuse`: `zero` is not kn");
    CHECK(told("wrap,", "rap,") ==
          "quay.toml:9:17: in `diffuse`: `rap` is not known here; the nearest is `wrap`");
    CHECK(told("falloff =", "fallof =") ==
          "quay.toml:6:1: unknown key `fallof` in `formulas`; the nearest known key is `falloff`");
    CHECK(told("wrap = 1", "shininess = 1").substr(0, 16) == "quay.toml:13:1: ");
    CHECK(told("wrap = 1", "wrap = [1, 2, 3, 4, 5]").substr(0, 17) == "quay.toml:13:21: ");
    CHECK(told("wrap = 1", "wrap = inf").substr(0, 16) == "quay.toml:13:8: ");
    CHECK(told("wrap = 1", "wrap = \"1\"").substr(0, 16) == "quay.toml:13:8: ");
    CHECK(told("[formulas]", "[shading]\nmodel = \"cel\"\n[formulas]") ==
          "quay.toml:7:1: the model `cel` takes no formulas; lambert, phong or blinn-phong, whose terms "
          "formulas "
          "can replace");
}

TEST_CASE("what is no file is refused at once; an output goes through a link, whole or not at all") {
    const testing::temporary_folder folder;
    REQUIRE(::mkfifo((folder / "pipe").c_str(), 0600) == 0);
    for (const std::string& name : {folder / "pipe", std::string("/dev/zero"), folder.path()}) {
        CAPTURE(name);
        CHECK_THROWS_AS(read_whole(name), error); // and is not waited for
    }
    write_whole(folder / "there", "first");
    REQUIRE(::symlink("there", (folder / "link").c_str()) == 0);
    write_whole(folder / "link", "second");
    CHECK(read_whole(folder / "there") == "second");
    REQUIRE(::symlink("not-yet", (folder / "dangling").c_str()) == 0);
    write_whole(folder / "dangling", "third");
    CHECK(read_whole(folder / "not-yet") == "third");
    CHECK(std::filesystem::is_symlink(folder / "dangling"));
    // Stopped half-way: what was there is there, and nothing else.
    const auto count = [&] { return std::distance(std::filesystem::directory_iterator(folder.path()), {}); };
    const auto before = count();
    const pid_t child = ::fork();
    if (child == 0) {
        write_whole(folder / "there", [](const std::string&) { ::raise(SIGKILL); });
        ::_exit(0);
    }
    int status = 0;
    REQUIRE(::waitpid(child, &status, 0) == child);
    CHECK(WIFSIGNALED(status));
    CHECK(count() == before);
    CHECK(read_whole(folder / "there") == "second");
}

TEST_CASE("a scene file: defaults, whole numbers for numbers, textures beside it") {
    const testing::temporary_folder folder;
    write_picture(folder / "planks.png", picture(2, 2, rgb<float>(0.25F)));
    write_whole(folder / "quay.toml", R"(
format = 1
[view]
eye = [0, 3, 6]
target = [0, 0, 0]
[materials.deck]
texture = "planks.png"
[[objects]]
material = "deck"
shape = "plane"
[[lights]]
kind = "spot"
position = [0, 2, 0]
shines = [0, -1, 0]
inner = 15
outer = 25
)");
    const scene read = read_scene(folder / "quay.toml");
    CHECK(read.view == view{});
    CHECK(read.shading == shading_choice{});
    CHECK(read.ambient_strength == 0.05);
    CHECK(std::get<plane_shape>(read.objects[0].shape) == plane_shape{{6, 6}, {1, 1}});
    CHECK(read.lights[0].light.penumbra == penumbra_kind::smooth);
    CHECK(read.lights[0].light.falloff == falloff_kind::inverse_square);
    CHECK(read.lights[0].light.inner == radians(15));
    REQUIRE(read.materials[0].image != nullptr);
    // 0.25 is code 137, whose centre decodes to 0.2502.
    CHECK(read.materials[0].image->sample(0.3, 0.3).r == read_picture(folder / "planks.png").color(0, 0).r);
}
