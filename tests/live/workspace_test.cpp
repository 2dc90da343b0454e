// The workspace behind the window: what is shown in the light's place, differences, costs, all scenes, the
// shape of a picture, models.
#include <doctest/doctest.h>

#include <set>
#include <string>

#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/live/walk.hpp"
#include "yurvo/live/workspace.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/pipeline/show.hpp"

using namespace yurvo;
using namespace yurvo::live;
using testing::has;
using testing::replaced;
using testing::run;
using testing::temporary_folder;
using testing::tool;

namespace {

scene small(scene of, int width, int height) {
    of.view.width = width;
    of.view.height = height;
    return of;
}

// What a screen gets of a picture: a screen has nothing behind it.
std::vector<std::uint8_t> on_screen(const picture& of, encoding how = encoding::srgb) {
    std::vector<std::uint8_t> codes = codes_of(of, how);
    for (std::size_t i = 3; i < codes.size(); i += 4) {
        codes[i] = 255;
    }
    return codes;
}

} // namespace

TEST_CASE("in the light's place: normals, the chosen light's cosine, depth, overflow; a fault where there is "
          "none") {
    workspace on(open_scene("harbour"), {});
    on.set_size(160, 100);
    const std::vector<std::uint8_t> light = on.picture().bytes;
    scene of = small(find_scene("harbour"), 160, 100);
    of.view.background = {}; // there is nothing to be shown of it
    on.set_part(study::shown_part::normals);
    CHECK(on.picture().bytes == on_screen(show_normals(of), encoding::linear));
    on.set_part(study::shown_part::cosine);
    std::set<std::vector<std::uint8_t>> each_light;
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        on.choose_light(i);
        scene alone = of;
        alone.lights = {of.lights[i]};
        CHECK(on.picture().bytes == on_screen(show_cosine(alone)));
        each_light.insert(on.picture().bytes);
    }
    CHECK(each_light.size() == of.lights.size());
    on.set_part(study::shown_part::depth);
    const std::vector<std::uint8_t> depth = on.picture().bytes;
    CHECK(depth != light);
    // The near planks are brighter than the far end of the water.
    const auto red_at = [&](std::size_t x, std::size_t y) { return depth[(y * 160 + x) * 4]; };
    CHECK(red_at(10, 95) > red_at(10, 40));
    on.set_part(study::shown_part::overflow);
    CHECK(on.picture().bytes != light);
    on.set_part(std::nullopt);
    CHECK(on.picture().bytes == light);
    while (!on.edited().shown().lights.empty()) {
        REQUIRE(on.edited().apply({"lights[0]", ""}));
    }
    on.set_part(study::shown_part::cosine);
    on.picture();
    CHECK_FALSE(on.part_fault().empty());
    on.set_part(std::nullopt);
    on.picture();
    CHECK(on.part_fault().empty());
}

TEST_CASE("the difference beside the picture is grey where nothing differs, blue where it is darker, amber "
          "where brighter") {
    workspace on(open_scene("harbour"), {});
    on.set_size(160, 100);
    on.set_beside(beside_kind::vertex);
    on.wait();
    REQUIRE(on.picture_beside() != nullptr);
    const std::vector<std::uint8_t> vertex = on.picture_beside()->bytes;
    on.set_difference(true);
    on.wait();
    REQUIRE(on.picture_beside() != nullptr);
    const std::vector<std::uint8_t>& shown = on.picture_beside()->bytes;
    CHECK(on.difference_scale() > 0.01);
    CHECK(on.difference_scale() < 1);
    const std::vector<std::uint8_t>& right = on.picture().bytes;
    std::size_t darker = 0;
    std::size_t brighter = 0;
    for (std::size_t i = 0; i < right.size(); i += 4) {
        int sum = 0; // of codes, which grow with the light
        bool same = true;
        bool one_way = true;
        for (std::size_t c = i; c < i + 3; ++c) {
            const int off = vertex[c] - right[c];
            sum += off;
            same = same && off == 0;
            one_way = one_way && (off >= 0) == (vertex[i] >= right[i]);
        }
        if (!same && one_way && sum < -30) { // darker in every component
            ++darker;
            CHECK(shown[i + 2] > shown[i]);
        } else if (!same && one_way && sum > 30) {
            ++brighter;
            CHECK(shown[i] > shown[i + 2]);
        }
    }
    CHECK(darker > 100);
    CHECK(brighter > 100);
    constexpr std::size_t in_the_sky = 8;              // the third pixel's red
    CHECK(shown[in_the_sky] == shown[in_the_sky + 2]); // it is the same
}

TEST_CASE("costs are measured when they are wanted and nothing changes, and again after a change") {
    workspace on(open_scene("buoys"), {});
    on.set_size(160, 100);
    CHECK(on.costs() == nullptr);
    on.wait();
    CHECK(on.costs() == nullptr); // nobody wants them
    on.want_costs(true);
    on.look();
    CHECK(on.costs() == nullptr); // not at once
    on.wait();
    REQUIRE(on.costs() != nullptr);
    CHECK(on.costs_fault().empty());
    REQUIRE(on.costs()->rates.size() == 3);
    for (const study::rate_cost& each : on.costs()->rates) {
        CHECK(each.median > 0);
    }
    CHECK(on.costs()->rates.back().codes_off == 0); // per fragment, from itself
    // Flat lighting evaluates once a triangle; without lights nothing is told apart.
    const int before = on.costs()->rates.front().codes_off;
    CHECK(before > 1);
    while (!on.edited().shown().lights.empty()) {
        REQUIRE(on.edited().apply({"lights[0]", ""}));
    }
    on.wait();
    CHECK(on.costs()->rates.front().codes_off <= 1);
}

TEST_CASE("a program is held to all reference scenes, one after another, and again once it has changed") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + folder.path() + "/p --rate fragment").status == 0);
    const std::string fragment = folder / "p/per-fragment.frag";
    const std::string right = read_whole(fragment);
    workspace on(open_scene("buoys"), {folder / "p/per-fragment.toml", "", {}});
    on.set_size(160, 100);
    on.wait();
    CHECK(on.all_scenes() == nullptr);
    on.want_all_scenes(true);
    on.wait();
    CHECK_FALSE(on.judging());
    REQUIRE(on.all_scenes() != nullptr);
    REQUIRE(on.all_scenes()->ended);
    CHECK(on.all_scenes()->scenes.size() == on.all_scenes()->all);
    CHECK(on.all_scenes()->all > 15);
    CHECK(on.all_scenes()->unseen.empty());
    CHECK(on.all_scenes()->shown > 40);
    CHECK(on.all_scenes()->verdict.what == finding::right);
    std::set<std::string> names;
    for (const round_line& each : on.all_scenes()->scenes) {
        CHECK(each.passed);
        CHECK(each.used < 1);
        names.insert(each.scene);
    }
    CHECK(names.size() == on.all_scenes()->all);
    // A change of the scene that is shown does not ask the others again.
    const std::string line = on.all_scenes()->verdict.line;
    REQUIRE(on.edited().apply(set_number("ambient.strength", 0.2)));
    on.look();
    on.wait();
    CHECK(on.all_scenes()->verdict.line == line);
    write_whole(fragment, replaced(right, "return 1.0 / (d * d);", "return 1.0 / d;"));
    while (on.judged()->what == finding::right) {
        on.look();
    }
    on.wait();
    REQUIRE(on.all_scenes()->ended);
    CHECK(on.all_scenes()->verdict.what == finding::mistake);
    CHECK(on.all_scenes()->verdict.ids == std::vector<std::string>{"falloff-not-squared"});
    std::size_t wrong = 0;
    for (const round_line& each : on.all_scenes()->scenes) {
        wrong += each.passed ? 0U : 1U;
    }
    CHECK(wrong >= 5);
    CHECK(wrong < on.all_scenes()->all); // some have no such lamp
}

TEST_CASE("a picture keeps its shape, whatever the window's") {
    const temporary_folder folder;
    scene of = small(find_scene("buoys"), 300, 100);
    write_picture(folder / "found.png", draw(of));
    workspace on(open_scene("buoys"), {"", folder / "found.png", pixel_format::srgb_codes});
    CHECK(on.fitting(876, 726) == std::array{876, 726}); // not known yet
    on.wait();
    CHECK(on.fitting(876, 726) == std::array{876, 292});
    CHECK(on.fitting(876, 100) == std::array{300, 100});
    CHECK(on.fitting(3, 1) == std::array{3, 1});
    REQUIRE(on.judged() != nullptr);
    CHECK(on.judged()->what == finding::right);
}

TEST_CASE("another model takes the keys that it needs and leaves those that it does not take") {
    document of(open_scene("buoys"));
    const std::string before = of.text();
    REQUIRE(of.apply(set_text("shading.rate", "vertex")));
    for (const char* name : {"cel", "phong", "unlit", "cel", "lambert", "blinn-phong"}) {
        CAPTURE(name);
        REQUIRE(of.apply_all(with_model(of.shown(), name)));
        CHECK(has(of.text(), name));
        CHECK(of.shown().shading.model == parse_scene(of.text(), "again", {}).shading.model);
        CHECK(has(of.text(), "bands") == (std::string(name) == "cel"));
    }
    CHECK(of.shown().shading.rate == rate::fragment); // which cel has made of it
}

TEST_CASE("the curves of one light are those of that light alone") {
    workspace on(open_scene("searchlight-on-hull"), {});
    for (std::size_t i = 0; i < on.edited().shown().lights.size(); ++i) {
        const light lamp = on.edited().shown().lights[i].light;
        const study::curves found = on.curves_of(i);
        CHECK(found.lights.size() == 1);
        CHECK(found.falloffs.size() == (lamp.kind == light_kind::directional ? 0U : 1U));
        CHECK(found.penumbras.size() == (lamp.kind == light_kind::spot ? 1U : 0U));
    }
    CHECK(on.curves_of(99).lights.empty());
}
