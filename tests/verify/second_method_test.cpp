// The pipeline against the second method.
#include <cstdlib>

#include <doctest/doctest.h>

#include "support/printing.hpp"
#include "support/random_scene.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/check.hpp"

using namespace yurvo;

TEST_CASE("random scenes agree with rays cast in double") {
    // YURVO_RANDOM_SCENES asks for more than the sample.
    const char* asked = std::getenv("YURVO_RANDOM_SCENES");
    const std::uint64_t last = asked != nullptr ? std::strtoull(asked, nullptr, 10) : 50;
    double most_used = 0;
    for (std::uint64_t seed = 1; seed <= last; ++seed) {
        testing::random_scenes random(seed, true);
        const scene made = random.next(96, 60);
        const verify::check_result result = verify::hold_against_second_method(made, draw(made));
        CAPTURE(seed);
        CAPTURE(name_of(made.shading.model));
        CAPTURE(name_of(made.shading.rate));
        CAPTURE(result.x);
        CAPTURE(result.y);
        CAPTURE(result.remark);
        CAPTURE(result.measured);
        CAPTURE(result.expected);
        CAPTURE(result.tolerance);
        CHECK(result.passed);
        CHECK(result.used <= 0.5);
        most_used = std::max(most_used, result.used);
    }
    MESSAGE("seeds 1 to " << last << ": at most " << most_used << " of the tolerance is used");
}
