#include <doctest/doctest.h>

#include <cmath>
#include <limits>

#include "support/random_scene.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/validate.hpp"

using namespace yurvo;

TEST_CASE("random right scenes are valid, and their triangles are counted without building them") {
    for (std::uint64_t seed = 1; seed <= 30; ++seed) {
        CAPTURE(seed);
        const scene made = testing::random_scenes(seed).next();
        CHECK_FALSE(find_fault(made).has_value());
        for (const object& object : made.objects) {
            CHECK(build_mesh(object).triangles.size() == triangle_count(object.shape));
        }
    }
}

TEST_CASE("what is wrong with a scene built in code is named by its path") {
    scene made = testing::random_scenes(3).next();
    made.objects.resize(1);
    made.objects[0].shape = sphere_shape{-2, {8, 4}};
    const auto found = find_fault(made);
    REQUIRE(found.has_value());
    CHECK(found->path == "objects[0].radius");
    CHECK_THROWS_WITH_AS(require_valid(made), "objects[0].radius: `radius` is -2; a finite number above 0",
                         error);

    made.objects[0].shape = sphere_shape{1, {8, 4}};
    made.objects[0].placed.position.y = std::numeric_limits<double>::quiet_NaN();
    CHECK(find_fault(made)->path == "objects[0].position");
    made.objects[0].placed.position.y = 0;
    made.objects[0].material = 99;
    CHECK(find_fault(made)->path == "objects[0].material");
}

TEST_CASE("a light given in view space is where the view puts it") {
    view seen;
    seen.eye = {0, 0, 5};
    seen.target = {-1, 0, 5}; // looking along −X: right is −Z
    named_light lamp;
    lamp.space = light_space::view;
    lamp.light.position = {1, 2, -3};
    lamp.light.shines = {0, 0, -1};
    const light in_world = light_in_world(lamp, make_camera(seen));
    CHECK(length(in_world.position - vec3<double>{-3, 2, 4}) <= 1e-15);
    CHECK(length(in_world.shines - vec3<double>{-1, 0, 0}) <= 1e-15);
}

TEST_CASE("words and their enums") {
    CHECK(name_of(falloff_kind::inverse_square) == "inverse-square");
    CHECK(from_name<model_kind>("blinn-phong") == model_kind::blinn_phong);
    CHECK_FALSE(from_name<rate>("pixel").has_value());
    CHECK(shape_name(torus_shape{}) == "torus");
    CHECK(listed({"a", "b", "c"}) == "a, b or c");
    CHECK(listed({"a"}) == "a");
}

TEST_CASE("the nearest word: letters dropped, added, changed or swapped; nothing when all is different") {
    CHECK(nearest("positon", {"name", "position", "shines"}) == "position");
    CHECK(nearest("lamebrt", {"unlit", "lambert", "phong"}) == "lambert");
    CHECK(nearest("qzx", {"position", "shines"}).empty());
    CHECK(nearest(std::string(10000, 'a'), {"position"}).empty());
}

TEST_CASE("in the place of an unknown word: its new name, the nearest, or what the caller offers") {
    CHECK(renamed("rim", {"range", "penumbra"}) == "penumbra");
    CHECK(renamed("rim", {"range", "kind"}).empty()); // not known here
    CHECK(renamed("penumbra", {"penumbra"}).empty()); // not old
    CHECK(instead_of("rims", {"plates", "penumbras"}, "a name") == "it is called `penumbras` now");
    CHECK(instead_of("platse", {"plates", "penumbras"}, "a name") == "the nearest is `plates`");
    CHECK(instead_of("qzx", {"plates", "penumbras"}, "a name") == "a name");
}

TEST_CASE("errors are one line: place, what is wrong, what would be right") {
    CHECK(std::string(error({"quay.toml", 3, 7}, "this", "that").what()) == "quay.toml:3:7: this; that");
    CHECK(std::string(error({"quay.toml", 0, 0}, "this", "that").what()) == "quay.toml: this; that");
}
