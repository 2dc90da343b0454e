// Whatever a program claims, no mistake that it could hold may hide: random claims of one shader that can
// draw all.
#include <cstdlib>
#include <random>

#include <doctest/doctest.h>

#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/program/starters.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/verify/coverage.hpp"

using namespace yurvo;

namespace {

class random_claims {
    std::mt19937_64 engine_;

    std::size_t below(std::size_t count) {
        return std::uniform_int_distribution<std::size_t>(0, count - 1)(engine_);
    }
    bool chance(double probability) {
        return std::uniform_real_distribution<double>(0, 1)(engine_) < probability;
    }

  public:
    explicit random_claims(std::uint64_t seed) : engine_(seed) {}

    /// What a starter claims, narrowed at random: kinds, counts, laws, scales, constants, what it is without.
    shader_program next(const shader_program& starter) {
        shader_program made = starter;
        const auto some = [&](auto all) {
            decltype(all) kept;
            for (const auto& each : all) {
                if (chance(0.5)) {
                    kept.push_back(each);
                }
            }
            return kept.empty() ? decltype(all){all[below(all.size())]} : kept;
        };
        using enum light_kind;
        if (chance(0.7)) {
            made.kinds = some(std::vector{directional, point, spot});
        }
        if (chance(0.5)) {
            made.falloffs =
                some(std::vector{falloff_kind::inverse_square, falloff_kind::polynomial,
                                 falloff_kind::windowed, falloff_kind::linear, falloff_kind::none});
        }
        if (chance(0.5)) {
            made.penumbras = some(std::vector{penumbra_kind::smooth, penumbra_kind::ramp, penumbra_kind::hard,
                                              penumbra_kind::squared});
        }
        if (chance(0.5)) {
            const int fewest = static_cast<int>(below(3)) + 1;
            made.lights = std::array<int, 2>{fewest, fewest + static_cast<int>(below(4))};
        }
        if (chance(0.3)) {
            made.scale = chance(0.5) ? scale_claim::uniform : scale_claim::none;
        }
        if (chance(0.4)) {
            made.constants.push_back(
                {"material.shininess", {static_cast<double>(4 + below(60))}, {made.file, 0, 0}});
        }
        if (chance(0.3)) {
            made.constants.push_back({"lights[*].intensity", {1}, {made.file, 0, 0}});
        }
        if (chance(0.2)) {
            made.without.emplace_back("ambient");
        }
        if (chance(0.2)) {
            made.without.emplace_back("material.specular");
        }
        return made;
    }
};

} // namespace

TEST_CASE("whatever is claimed, no mistake that such a program could hold is unseen, and each that is shown "
          "is caught" *
          doctest::test_suite("slow")) {
    const char* asked = std::getenv("YURVO_RANDOM_CLAIMS");
    const std::uint64_t last = asked != nullptr ? std::strtoull(asked, nullptr, 10) : testing::rounds(20);
    const testing::temporary_folder folder;
    std::vector<std::unique_ptr<program_renderer>> compiled;
    for (const model_kind model : {model_kind::lambert, model_kind::phong, model_kind::blinn_phong}) {
        starter_choice chosen;
        chosen.shading.model = model;
        const std::string name = std::string(name_of(model));
        for (const starter_file& file : starter_files(chosen, name)) {
            write_whole(folder / file.name, file.text);
        }
        compiled.push_back(std::make_unique<program_renderer>(read_program(folder / (name + ".toml"))));
    }
    std::size_t could = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        CAPTURE(seed);
        const program_renderer& starter = *compiled[seed % compiled.size()];
        const std::unique_ptr<program_renderer> subject =
            starter.with_claim(random_claims(seed).next(starter.program()));
        std::vector<std::string> lines;
        std::vector<verify::check_unit> units = study::all_units(*subject, lines);
        const verify::coverage covered = study::cover(units, *subject, lines);
        std::string unseen;
        for (const verify::mistake each : covered.unseen) {
            unseen += std::string(verify::entry_of(each).id) + " ";
        }
        CHECK(unseen == "");
        could += covered.could.size();
        // Each is caught by the check that draws that scene.
        for (std::size_t i = 0; i < covered.shown.size(); ++i) {
            if ((seed + i) % 7 != 0) {
                continue; // a seventh of them
            }
            CAPTURE(verify::entry_of(covered.shown[i]).id);
            CAPTURE(covered.where[i]);
            bool caught = false;
            for (const verify::check_unit& unit : units) {
                if (unit.scene_name != covered.where[i] || caught ||
                    !verify::applies(covered.shown[i], unit.asked)) {
                    continue;
                }
                scene small = unit.asked;
                small.view.width = 160;
                small.view.height = 100;
                small.expects.clear();
                const picture wrong = verify::draw_with_mistakes(small, {covered.shown[i]});
                caught =
                    !verify::hold_against_second_method(small, wrong, subject->format(), subject->tolerance())
                         .passed;
            }
            CHECK(caught);
        }
    }
    MESSAGE("seeds 1 to " << last << ": " << could << " mistakes that programs could hold");
    CHECK(could > 15 * last);
}
