// live: what `view` and `watch` do, without a window: edits and steps back, files that are saved, broken and
// mended, work that is begun anew.
#include <doctest/doctest.h>

#include <chrono>
#include <filesystem>
#include <random>
#include <set>
#include <string>
#include <thread>

#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/toml_edit.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/live/background.hpp"
#include "yurvo/live/document.hpp"
#include "yurvo/live/judge.hpp"
#include "yurvo/live/watched_files.hpp"
#include "yurvo/live/watcher.hpp"
#include "yurvo/live/workspace.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/mistakes.hpp"

using namespace yurvo;
using namespace yurvo::live;
using testing::has;
using testing::replaced;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

using namespace std::chrono_literals;

const std::string quay = R"(# The quay.
format = 1
[view]
eye = [0, 2, 5] # from the water
target = [0, 0, 0]
size = [64, 40]
[materials.deck]
base = [0.4, 0.3, 0.2]
[[objects]]
shape = "plane"
material = "deck"
# The lantern.
[[lights]]
name = "lantern"
kind = "point"
position = [0, 1, 0]
)";

struct written_scene {
    temporary_folder folder;
    std::string file = folder / "quay.toml";
    written_scene() { write_whole(file, quay); }
};

// Waits until it is so, at most for a time; true where it came to be.
template <class So> bool comes(So so, std::chrono::milliseconds most = 30'000ms) {
    const auto end = std::chrono::steady_clock::now() + most;
    while (!so()) {
        if (std::chrono::steady_clock::now() > end) {
            return false;
        }
        std::this_thread::sleep_for(5ms);
    }
    return true;
}

} // namespace

TEST_CASE("an edit changes the scene and the text where the value stands; undo and redo walk through them") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    CHECK_FALSE(of.changed());
    CHECK_FALSE(of.can_undo());
    const std::uint64_t before = of.revision();
    REQUIRE(of.apply(set_numbers("lights[0].position", {1, 2, 3})));
    CHECK(of.revision() > before);
    CHECK(of.shown().lights[0].light.position.y == 2);
    CHECK(of.text() == replaced(quay, "[0, 1, 0]", "[1.0, 2.0, 3.0]"));
    REQUIRE(of.apply(set_number("ambient.strength", 0.25)));
    CHECK(of.shown().ambient_strength == 0.25);
    REQUIRE(of.apply(set_text("shading.rate", "vertex")));
    CHECK(of.shown().shading.rate == rate::vertex);
    CHECK(of.undo());
    CHECK(of.shown().shading.rate == rate::fragment);
    CHECK(of.undo());
    CHECK(of.undo());
    CHECK(of.text() == quay);
    CHECK_FALSE(of.undo());
    CHECK(of.redo());
    CHECK(of.shown().lights[0].light.position.y == 2);
    // Another edit forgets what was undone.
    REQUIRE(of.apply(set_number("view.fov", 30)));
    CHECK_FALSE(of.can_redo());
}

TEST_CASE("a drag is one step back, however many edits it takes; a light is added and taken out") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    of.begin_step();
    for (int i = 1; i <= 50; ++i) {
        REQUIRE(of.apply(set_number("lights[0].position[0]", 0.1 * i)));
    }
    of.end_step();
    CHECK(of.shown().lights[0].light.position.x == doctest::Approx(5).epsilon(1e-12));
    CHECK(of.undo());
    CHECK(of.text() == quay);
    CHECK_FALSE(of.can_undo());
    // One step back in the middle of a drag: what follows is a step of its own.
    of.begin_step();
    REQUIRE(of.apply(set_number("lights[0].position[0]", 1)));
    REQUIRE(of.undo());
    REQUIRE(of.apply(set_number("lights[0].position[0]", 2)));
    REQUIRE(of.apply(set_number("lights[0].position[0]", 3)));
    of.end_step();
    CHECK(of.undo());
    CHECK(of.text() == quay);
    CHECK_FALSE(of.can_undo());
    CHECK(of.redo());
    CHECK(of.shown().lights[0].light.position.x == 3);
    CHECK(of.undo());
    REQUIRE(of.apply({"lights[]", "name = \"moon\"\nkind = \"directional\"\nshines = [0.0, -1.0, -1.0]\n"}));
    REQUIRE(of.shown().lights.size() == 2);
    CHECK(of.shown().lights[1].name == "moon");
    REQUIRE(of.apply({"lights[0]", ""}));
    REQUIRE(of.shown().lights.size() == 1);
    CHECK(of.shown().lights[0].name == "moon");
    CHECK_FALSE(has(of.text(), "The lantern"));
    CHECK(has(of.text(), "# The quay."));
}

TEST_CASE("an edit that makes no scene changes nothing and says why, with the place") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    const std::uint64_t revision = of.revision();
    CHECK_FALSE(of.apply(set_number("view.fov", 200)));
    REQUIRE(of.fault());
    CHECK(has(*of.fault(), "quay.toml:"));
    CHECK(has(*of.fault(), "fov"));
    CHECK_FALSE(of.apply(set_number("lights[3].intensity", 1)));
    CHECK_FALSE(of.apply({"lights[]", "kind = \"sun\"\n"}));
    CHECK_FALSE(of.apply(set_text("formulas.diffuse", "max(dot(n, l)")));
    CHECK(has(*of.fault(), "diffuse"));
    // All or nothing.
    CHECK_FALSE(of.apply_all({set_number("view.fov", 30), set_number("view.near", -1)}));
    CHECK(of.revision() == revision);
    CHECK(of.text() == quay);
    CHECK_FALSE(of.can_undo());
    REQUIRE(of.apply(set_number("view.fov", 30)));
    CHECK_FALSE(of.fault());
}

TEST_CASE("saving writes the text with its comments; a scene that comes with the tool needs a name") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    REQUIRE(of.apply(set_number("lights[0].intensity", 3)));
    CHECK(of.changed());
    of.save();
    CHECK_FALSE(of.changed());
    CHECK(read_whole(on_disk.file) == of.text());
    CHECK(has(read_whole(on_disk.file), "# from the water"));
    document comes_along(open_scene("wet-planks"));
    CHECK(comes_along.file().empty());
    CHECK_THROWS_AS(comes_along.save(), error);
    const std::string copy = on_disk.folder / "mine.toml";
    REQUIRE(comes_along.apply(set_number("view.fov", 40)));
    comes_along.save_as(copy);
    scene expected = find_scene("wet-planks");
    expected.view.fov = radians(40);
    CHECK(read_scene(copy) == expected); // its texture lies beside it
    CHECK(comes_along.files().size() == 2);
}

TEST_CASE("a file that is saved elsewhere is read again; a broken one keeps the last good scene") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    CHECK_FALSE(of.reread());
    write_whole(on_disk.file, replaced(quay, "eye = [0, 2, 5]", "eye = [0, 3, 5]"));
    CHECK(of.reread());
    CHECK(of.shown().view.eye.y == 3);
    CHECK_FALSE(of.changed());
    write_whole(on_disk.file, replaced(quay, "format = 1", "format = = 1"));
    CHECK_FALSE(of.reread());
    REQUIRE(of.fault());
    CHECK(has(*of.fault(), "quay.toml:2:"));
    CHECK(of.shown().view.eye.y == 3);
    std::filesystem::remove(on_disk.file);
    CHECK_FALSE(of.reread());
    CHECK(of.fault());
    std::filesystem::create_directory(on_disk.file);
    CHECK_FALSE(of.reread());
    CHECK(of.fault());
    std::filesystem::remove(on_disk.file);
    write_whole(on_disk.file, quay);
    CHECK(of.reread());
    CHECK_FALSE(of.fault());
    CHECK(of.text() == quay);
    // What was edited and not saved is one step back.
    REQUIRE(of.apply(set_number("view.fov", 20)));
    const std::string edited = of.text();
    write_whole(on_disk.file, quay + "# more\n");
    CHECK(of.reread());
    CHECK(of.undo());
    CHECK(of.text() == edited);
}

TEST_CASE("random edits, undone and redone: the text always reads back as what is shown") {
    const written_scene on_disk;
    document of(open_scene(on_disk.file));
    std::mt19937_64 engine(20261128);
    MESSAGE("seed 20261128");
    std::vector<std::string> path{of.text()};
    const auto number = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(engine);
    };
    for (int i = 0; i < 300; ++i) {
        switch (engine() % 6) {
        case 0:
            of.apply(set_numbers("lights[0].position", {number(-5, 5), number(0.1, 5), number(-5, 5)}));
            break;
        case 1:
            of.apply(set_number("ambient.strength", number(-0.5, 1)));
            break; // sometimes refused
        case 2:
            of.apply(set_numbers("materials.deck.base", {number(0, 1), number(0, 1), number(0, 1)}));
            break;
        case 3:
            of.apply(
                {"lights[]", "kind = \"point\"\nposition = " + toml_numbers({1, 2, number(0, 3)}) + "\n"});
            break;
        case 4:
            of.undo();
            break;
        default:
            of.redo();
            break;
        }
        CHECK(parse_scene(of.text(), "quay.toml", {}) == of.shown());
    }
    while (of.undo()) {
    }
    CHECK(of.text() == quay);
}

TEST_CASE("watched files: each save is told once it has settled, whatever becomes of the file") {
    const temporary_folder folder;
    const std::string a = folder / "a";
    const std::string b = folder / "b";
    write_whole(a, std::string("1"));
    watched_files watched(5ms);
    watched.watch({a, b});
    std::this_thread::sleep_for(150ms); // as long as a clock may stand still
    while (!watched.changed().empty()) {
    }
    CHECK(watched.changed().empty());
    const auto told = [&](const std::string& path) {
        return comes([&] {
            const std::vector<std::string> all = watched.changed();
            return std::find(all.begin(), all.end(), path) != all.end();
        });
    };
    write_whole(a, std::string("2"));
    CHECK(told(a));
    write_whole(b, std::string("new")); // it was not there
    CHECK(told(b));
    std::filesystem::remove(a);
    CHECK(told(a));
    std::filesystem::create_directory(a);
    CHECK(told(a));
    std::filesystem::remove(a);
    // One that changes all the time is told of all the same.
    std::atomic<bool> stop{false};
    std::thread writer([&] {
        for (int i = 0; !stop; ++i) {
            write_whole(b, std::to_string(i));
        }
    });
    CHECK(told(b));
    stop = true;
    writer.join();
    // The last state is told of, and then nothing more.
    std::this_thread::sleep_for(10ms);
    CHECK(told(b));
    std::this_thread::sleep_for(200ms);
    while (!watched.changed().empty()) {
    }
    std::this_thread::sleep_for(50ms);
    CHECK(watched.changed().empty());
}

TEST_CASE("background work: the last that was asked for is the one that counts") {
    background<int> work;
    std::atomic<int> begun{0};
    std::atomic<int> cancelled_ones{0};
    const auto slow = [&](int result) {
        return [&, result](const std::atomic<bool>& cancelled, const std::function<void(int)>&) {
            ++begun;
            while (!cancelled) { // a test that hangs is one that failed
                std::this_thread::sleep_for(1ms);
            }
            cancelled_ones += cancelled ? 1 : 0;
            return result;
        };
    };
    work.start(slow(1));
    REQUIRE(comes([&] { return begun == 1; }));
    CHECK(work.busy());
    work.start(slow(2));
    REQUIRE(comes([&] { return begun == 2; })); // what waits only would be replaced, not cancelled
    work.start([](const std::atomic<bool>&, const std::function<void(int)>& so_far) {
        so_far(30);
        return 3;
    });
    work.wait();
    CHECK(work.take() == std::optional<int>(3));
    CHECK(work.take() == std::nullopt);
    CHECK(cancelled_ones == 2);
}

TEST_CASE("a program is judged as it is saved: right, broken with its place, mistaken by name, right again") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string file = folder / "p/per-fragment.toml";
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    kept_program program(file);
    const std::atomic<bool> never{false};
    const scene buoys = find_scene("buoys");
    const auto now = [&] { return judge({file, "", {}}, &program, "buoys", buoys, never); };
    verdict found = now();
    CHECK(found.what == finding::right);
    CHECK(found.used < 0.5);
    REQUIRE(found.found);
    CHECK(found.found->width == found.right->width);
    const std::shared_ptr<const program_renderer> compiled = program.now();
    CHECK(program.now() == compiled); // nothing has changed
    write_whole(fragment, replaced(right, "void main() {", "void main() { oops;"));
    found = now();
    CHECK(found.what == finding::broken);
    CHECK(has(found.line, "per-fragment.frag:"));
    write_whole(fragment, replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;"));
    found = now();
    CHECK(found.what == finding::mistake);
    CHECK(found.ids == std::vector<std::string>{"falloff-not-squared"});
    std::filesystem::remove(fragment);
    CHECK(now().what == finding::broken);
    CHECK(program.files().size() == 3); // it is still waited for
    write_whole(fragment, right);
    CHECK(now().what == finding::right);
}

TEST_CASE("a picture is judged by what it shows") {
    const temporary_folder folder;
    const std::string file = folder / "mine.png";
    scene buoys = find_scene("buoys");
    buoys.view.width = 320;
    buoys.view.height = 200;
    const std::atomic<bool> never{false};
    const auto now = [&] {
        return judge({"", file, pixel_format::srgb_codes}, nullptr, "buoys", buoys, never);
    };
    CHECK(now().what == finding::broken);
    write_picture(file, draw(buoys));
    CHECK(now().what == finding::right);
    write_picture(file, verify::draw_with_mistakes(buoys, {verify::mistake::ambient_missing}));
    const verdict found = now();
    CHECK(found.what == finding::mistake);
    CHECK(found.ids.front() == "ambient-missing");
}

TEST_CASE("the watcher gives the verdict of check, and that of a file that is not there") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string file = folder / "p/per-fragment.toml";
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    const std::atomic<bool> never{false};
    const auto quiet = [](const std::string&) {};
    watcher watched({file, "", {}}, {"buoys", "plates"});
    study::run_verdict now = watched.verdict_now(never, quiet);
    CHECK(now.what == finding::right);
    CHECK(now.status == 0);
    watched.look_anew();
    std::this_thread::sleep_for(150ms);
    while (watched.saved()) {
    }
    write_whole(fragment, replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;"));
    CHECK(comes([&] { return watched.saved(); }));
    now = watched.verdict_now(never, quiet);
    CHECK(now.ids == std::vector<std::string>{"falloff-not-squared"});
    CHECK(now.status == 1);
    CHECK_FALSE(now.advice.empty());
    std::filesystem::remove(file);
    now = watched.verdict_now(never, quiet);
    CHECK(now.what == finding::broken);
    CHECK(now.status == 2);
    const std::atomic<bool> at_once{true};
    CHECK(watched.verdict_now(at_once, quiet).line.empty());
}

TEST_CASE("a save is seen whatever the clock says: set back by a year, far ahead, or standing still") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    const std::atomic<bool> never{false};
    const auto quiet = [](const std::string&) {};
    watcher watched({folder / "p/per-fragment.toml", "", {}}, {"buoys"});
    REQUIRE(watched.verdict_now(never, quiet).what == finding::right);
    const auto first = std::filesystem::last_write_time(fragment);
    bool wrong = false;
    for (const std::chrono::hours off : {-8760h, 8760h, 0h, -1h}) {
        CAPTURE(off.count());
        watched.look_anew();
        std::this_thread::sleep_for(150ms);
        while (watched.saved()) {
        }
        wrong = !wrong;
        write_whole(fragment, wrong ? replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;") : right);
        std::filesystem::last_write_time(fragment, first + off);
        CHECK(comes([&] { return watched.saved(); }));
        CHECK(watched.verdict_now(never, quiet).what == (wrong ? finding::mistake : finding::right));
    }
}

TEST_CASE("walking around keeps the distance, zooming changes it, panning moves both, fitting shows all") {
    workspace on(open_scene("buoys"), {});
    on.set_size(320, 200);
    const auto away = [&] { return length(on.edited().shown().view.eye - on.edited().shown().view.target); };
    const double before = away();
    REQUIRE(on.orbit(0.7, 0.2));
    CHECK(away() == doctest::Approx(before).epsilon(1e-3)); // places are rounded to a tenth of a millimetre
    REQUIRE(on.zoom(0.5));
    CHECK(away() == doctest::Approx(before / 2).epsilon(1e-3));
    const vec3<double> target = on.edited().shown().view.target;
    REQUIRE(on.pan(30, 0));
    CHECK(length(on.edited().shown().view.target - target) > 0.01);
    CHECK(away() == doctest::Approx(before / 2).epsilon(1e-3));
    for (int i = 0; i < 40; ++i) {
        on.orbit(0, 0.2); // never over the top
    }
    CHECK(on.edited().shown().view.eye.y > on.edited().shown().view.target.y);
    REQUIRE(on.fit());
    const screen_picture& shown = on.picture();
    CHECK(shown.width == 320);
    // Nothing touches the border: the first and last columns are the background.
    const std::array<std::uint8_t, 3> corner{shown.bytes[0], shown.bytes[1], shown.bytes[2]};
    for (int y = 0; y < 200; ++y) {
        for (const int x : {0, 319}) {
            const std::size_t at = (static_cast<std::size_t>(y) * 320 + static_cast<std::size_t>(x)) * 4;
            CHECK(shown.bytes[at] == corner[0]);
        }
    }
}

TEST_CASE("what a screen gets are the codes that a file gets") {
    scene of = find_scene("boatyard");
    of.view.width = 200;
    of.view.height = 120;
    picture drawn = draw(of);
    for (std::size_t i = 0; i < 4000; ++i) { // every code's borders, and what no light is
        drawn.values[i] = static_cast<float>(i) / 3999;
    }
    drawn.values[5] = std::nanf("");
    drawn.values[9] = -3;
    drawn.values[13] = 1e30F;
    std::vector<std::uint8_t> bytes;
    encode_for_screen(drawn, bytes);
    const std::vector<std::uint8_t> codes = codes_of(drawn);
    std::size_t apart = 0;
    for (std::size_t i = 0; i < bytes.size(); ++i) {
        apart += i % 4 != 3 && bytes[i] != codes[i] ? 1U : 0U;
    }
    CHECK(apart == 0);
}

TEST_CASE(
    "what stands beside the picture is drawn in the background; a subject is drawn in its size and judged") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    workspace on(open_scene("buoys"), {folder / "p/per-fragment.toml", "", {}});
    on.set_size(160, 100);
    on.set_beside(beside_kind::subject);
    on.wait();
    REQUIRE(on.judged() != nullptr);
    CHECK(on.judged()->what == finding::right);
    REQUIRE(on.picture_beside() != nullptr);
    std::size_t apart = 0;
    const screen_picture& main = on.picture();
    for (std::size_t i = 0; i < main.bytes.size(); ++i) {
        apart += std::abs(main.bytes[i] - on.picture_beside()->bytes[i]) > 1 ? 1U : 0U;
    }
    CHECK(apart < main.bytes.size() / 100); // edges, drawn elsewhere by the driver
    write_whole(fragment, replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;"));
    CHECK(comes([&] {
        on.look();
        return on.judged()->what == finding::mistake;
    }));
    write_whole(fragment, "no shader");
    CHECK(comes([&] {
        on.look();
        return on.judged()->what == finding::broken;
    }));
    write_whole(fragment, right);
    CHECK(comes([&] {
        on.look();
        return on.judged()->what == finding::right;
    }));
    on.set_beside(beside_kind::mistake, "normal-flipped");
    on.wait();
    REQUIRE(on.picture_beside() != nullptr);
    CHECK(on.picture_beside()->bytes != on.picture().bytes);
    on.set_beside(beside_kind::mistake, "texture-not-decoded"); // there is no texture
    on.wait();
    CHECK(on.picture_beside() == nullptr);
    CHECK(has(on.beside_fault(), "texture-not-decoded"));
}

TEST_CASE(
    "the real window: a shader is broken and mended on disk, a lamp dragged, a rate toggled, all saved" *
    doctest::test_suite("timed")) {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    // One lamp that the eye looks down at, near the middle.
    const std::string scene_of_one = replaced(replaced(quay, "size = [64, 40]", "size = [1280, 800]"),
                                              "kind = \"point\"", "kind = \"point\" # burning");
    write_whole(folder / "quay.toml", scene_of_one);
    workspace on(open_scene(folder / "quay.toml"), {});
    on.set_size(1280 - 404, 800 - 74); // as the window has it
    REQUIRE(on.handles().size() == 1);
    const handle marker = on.handles().front();
    const std::string script = std::string("xvfb-run -a -s '-screen 0 1280x800x24' bash ") + YURVO_TESTS +
                               "/live/window.sh " + tool + " " + folder.path() + " " +
                               std::to_string(std::lround(marker.x)) + " " +
                               std::to_string(std::lround(marker.y + 46)) + " 438 409"; // the target's
    const testing::outcome found = run(script);
    CAPTURE(found.err);
    CHECK(found.out == "right\nmistake\nbroken\nright again\ndragged\nsaved\ntoggled\nrate saved\nundone\n"
                       "object dragged\nobject saved\nsaved as another\nrenamed\nstatus 0\n");
    // The lamp went aside by 60 pixels and forth by 30; its comment, and all else, stayed.
    const scene dragged = read_scene(folder / "dragged.toml");
    CHECK(dragged.lights[0].light.position.x > 0.2);
    CHECK(dragged.lights[0].light.position.z > 0.1);
    CHECK(dragged.lights[0].light.position.y == 1);
    const std::string text = read_whole(folder / "dragged.toml");
    CHECK(has(text, "# burning"));
    CHECK(text.size() - scene_of_one.size() < 30);
    CHECK(read_scene(folder / "other.toml").shading.rate == rate::fragment); // as it was undone
    // The quay went aside along the ground.
    const vec3<double> moved = read_scene(folder / "quay.toml").objects[0].placed.position;
    CHECK(moved.x > 0.1);
    CHECK(moved.y == 0);
    CHECK(read_scene(folder / "before.toml").objects[0].placed.position.x == 0);
}

TEST_CASE("a still of the window needs no display; each panel and both themes are another picture") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && env -u DISPLAY -u WAYLAND_DISPLAY " + tool;
    std::set<std::string> different;
    std::size_t asked = 0;
    testing::part_of_list part;
    for (const char* options :
         {"--panel lights", "--panel objects", "--panel scene", "--panel formulas", "--panel pixel",
          "--panel verdict", "--theme light", "--beside face", "--beside difference:face", "--scale 150"}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(options);
        REQUIRE(run(in + " view foggy-harbour --still a.png --size 900x600 " + options).status == 0);
        different.insert(read_whole(folder / "a.png"));
        const picture shown = read_picture(folder / "a.png");
        CHECK(shown.width == 900);
        CHECK(shown.height == 600);
        ++asked;
    }
    CHECK(different.size() == asked);
    // What the scene looks like is in it: the picture's middle has the codes of the scene drawn in that size.
    scene of = find_scene("foggy-harbour");
    of.view.width = 900 - 404;
    of.view.height = 600 - 74;
    const std::vector<std::uint8_t> right = codes_of(draw(of));
    REQUIRE(run(in + " view foggy-harbour --still a.png --size 900x600").status == 0);
    const std::vector<std::uint8_t> whole = codes_of(read_picture(folder / "a.png"));
    std::size_t apart = 0;
    for (std::size_t y = 250; y < 400; ++y) {
        for (std::size_t x = 20; x < 120; ++x) {
            for (std::size_t c = 0; c < 3; ++c) {
                const int here = whole[((y + 46) * 900 + x) * 4 + c];
                const int there = right[(y * (900 - 404) + x) * 4 + c];
                apart += std::abs(here - there) > 1 ? 1U : 0U;
            }
        }
    }
    CHECK(apart == 0);
    for (const char* wrong : {"--still a.bmp", "--still a.png --size 3x4", "--still a.png --panel sea",
                              "--still a.png --theme dusk", "--still a.png --beside moonshine",
                              "--still a.png --scale 7", "--still a.png --beside difference:moonshine",
                              "--still nowhere/a.png", "--program a --picture b"}) {
        CAPTURE(wrong);
        const testing::outcome refused = run(in + " view buoys " + wrong);
        CHECK(refused.status == 2);
        CHECK(refused.one_line_of_error());
    }
    const testing::outcome blind = run(in + " view buoys");
    CHECK(blind.status == 3);
    CHECK(has(blind.err, "--still"));
}

TEST_CASE("watch --once ends as check does; what cannot be read is one line") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string in = "cd " + folder.path() + " && " + tool;
    const testing::outcome right = run(in + " watch buoys --program p/per-fragment.toml --once");
    CHECK(right.status == 0);
    CHECK(has(right.out, "right: all "));
    CHECK_FALSE(has(right.out, "\x1b")); // no terminal, no colour
    const std::string fragment = folder / "p/per-fragment.frag";
    write_whole(fragment, replaced(read_whole(fragment), "return 1.0 / (d * d);", "return 1.0 / d;"));
    const testing::outcome wrong = run(in + " watch buoys --program p/per-fragment.toml --once");
    CHECK(wrong.status == 1);
    CHECK(has(wrong.out, "falloff-not-squared: "));
    for (const char* bad :
         {"watch buoys --once", "watch buoys --program nowhere.toml --once",
          "watch buoys plates --picture a.png --once", "watch castle --program p/per-fragment.toml --once",
          "watch buoys --picture a.png --once"}) {
        CAPTURE(bad);
        const testing::outcome refused = run(in + " " + bad);
        CHECK(refused.status == 2);
        CHECK(refused.one_line_of_error());
    }
}

TEST_CASE("watch in a terminal: a verdict for each save, coloured, and a clean end on Ctrl-C") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    // `script` gives it a terminal; what was printed there stands in a file that is read meanwhile.
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string printed = folder / "printed";
    testing::outcome ended;
    std::thread watching([&] {
        ended = run("cd " + folder.path() + " && script -qefc \"echo \\$\\$ >pid; exec " + tool +
                    " watch buoys --program p/per-fragment.toml\" printed");
    });
    const auto shows = [&](const std::string& text) {
        return comes([&] { return std::filesystem::exists(printed) && has(read_whole(printed), text); }, 60s);
    };
    CHECK(shows("\x1b[32mright\x1b[0m: all "));
    write_whole(fragment, replaced(read_whole(fragment), "return 1.0 / (d * d);", "return 1.0 / d;"));
    CHECK(shows("\x1b[31mfalloff-not-squared\x1b[0m"));
    CHECK(shows("(was right)"));
    run("kill -INT $(cat " + folder / "pid" + ")");
    watching.join();
    CHECK(ended.status == 0);
}

TEST_CASE("watch: a shader that is written, broken, cut off, deleted and made a folder a thousand times" *
          doctest::test_suite("timed")) {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    const std::string wrong = replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;");
    const std::string said = folder / "said";
    testing::outcome ended;
    std::thread watching([&] {
        ended = run("cd " + folder.path() + " && echo $$ >pid && exec " + tool +
                    " watch buoys --program p/per-fragment.toml >said");
    });
    const auto last_line = [&] {
        std::string text = std::filesystem::exists(said) ? read_whole(said) : "";
        // From the last line that begins with a time: a fix may stand below it.
        std::size_t at = 0;
        for (std::size_t line = 0; line < text.size(); line = text.find('\n', line) + 1) {
            at = text[line] >= '0' && text[line] <= '9' ? line : at;
            if (text.find('\n', line) == std::string::npos) {
                break;
            }
        }
        return text.substr(at);
    };
    CHECK(comes([&] { return has(last_line(), "right: all "); }));
    constexpr unsigned seed = 20261129;
    MESSAGE("seed " << seed);
    std::mt19937 random(seed);
    for (int i = 0; i < 1000; ++i) {
        std::filesystem::remove_all(fragment);
        switch (random() % 6) {
        case 0: // it is gone for a moment
            break;
        case 1:
            std::filesystem::create_directory(fragment);
            break;
        case 2: // cut off in the middle of a write
            write_whole(fragment, right.substr(0, random() % right.size()));
            break;
        case 3:
            write_whole(fragment, "");
            break;
        case 4:
            write_whole(fragment, wrong);
            break;
        default:
            write_whole(fragment, right);
        }
        std::this_thread::sleep_for(std::chrono::microseconds(random() % 4000));
    }
    // Whatever came before, the last save is the one that counts.
    std::filesystem::remove_all(fragment);
    write_whole(fragment, wrong);
    CHECK(comes([&] { return has(last_line(), "falloff-not-squared: "); }));
    std::filesystem::remove_all(fragment);
    std::filesystem::create_directory(fragment);
    CHECK(comes([&] { return has(last_line(), "this is a folder"); }));
    std::filesystem::remove_all(fragment);
    write_whole(fragment, right);
    CHECK(comes([&] { return has(last_line(), "right: all "); }));
    std::filesystem::remove_all(fragment);
    CHECK(comes([&] { return has(last_line(), "cannot be read: No such file"); }));
    run("kill -INT $(cat " + folder / "pid" + ")");
    watching.join();
    CHECK(ended.status == 0);
    CHECK(ended.err.empty());
}
