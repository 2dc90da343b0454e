// No right shader is accused: random scenes, their things small and finely divided too, drawn in the driver
// and held against rays cast in double.
#include <doctest/doctest.h>

#include <algorithm>
#include <memory>

#include "support/random_scene.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/program/starters.hpp"
#include "yurvo/verify/check.hpp"

using namespace yurvo;

namespace {

// Triangles of a fraction of a pixel, many of them seen nearly edge-on.
void make_small(scene& of) {
    for (object& each : of.objects) {
        if (sphere_shape* const sphere = std::get_if<sphere_shape>(&each.shape)) {
            sphere->cells[0] = 32;
            sphere->cells[1] = 16;
        } else if (torus_shape* const torus = std::get_if<torus_shape>(&each.shape)) {
            torus->cells[0] = 32;
            torus->cells[1] = 16;
        } else if (cylinder_shape* const cylinder = std::get_if<cylinder_shape>(&each.shape)) {
            cylinder->cells[0] = 24;
        } else {
            continue;
        }
        each.placed.scale = each.placed.scale * 0.25;
    }
}

} // namespace

TEST_CASE("no right shader is accused: random scenes in the driver agree with rays cast in double") {
    const testing::temporary_folder folder;
    std::vector<std::unique_ptr<program_renderer>> right;
    for (const model_kind model : {model_kind::blinn_phong, model_kind::phong, model_kind::lambert}) {
        starter_choice chosen;
        chosen.shading.model = model;
        const std::string name(name_of(model));
        for (const starter_file& file : starter_files(chosen, name)) {
            write_whole(folder / file.name, file.text);
        }
        right.push_back(std::make_unique<program_renderer>(read_program(folder / (name + ".toml"))));
    }
    constexpr std::uint64_t fewest = 4; // not all can be drawn
    const std::uint64_t last = std::max(testing::random_scene_count(60), fewest);
    double most = 0;
    std::size_t drawn = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        scene made = testing::random_scenes(seed, true).next(160, 100);
        if (seed % 2 == 0) {
            make_small(made);
        }
        const program_renderer& subject = *right[seed % right.size()];
        const fitted_scene fitted = subject.fit(made);
        if (!fitted.fitted) {
            continue; // without a light, say
        }
        const verify::check_result held = verify::hold_against_second_method(
            *fitted.fitted, subject.draw(*fitted.fitted), subject.format(), subject.tolerance());
        CAPTURE(seed);
        CAPTURE(held.x);
        CAPTURE(held.y);
        CAPTURE(held.measured);
        CAPTURE(held.expected);
        CHECK(held.passed);
        most = std::max(most, held.used);
        ++drawn;
    }
    MESSAGE("seeds 1 to " << last << ": " << drawn << " drawn, at most " << most
                          << " of a tolerance is used");
    CHECK(drawn > (testing::whole ? last / 2 : 0));
}
