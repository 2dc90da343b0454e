// check: whether a subject draws the reference scenes right.
#pragma once

#include <cstddef>
#include <functional>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::verify {

// Whatever is being verified: draws a scene at the rate it asks for.
using subject = std::function<picture(const scene&)>;

struct check_result {
    std::string name;             // `fragment, at the foot of the lantern`
    std::string scene;            // the reference scene's name
    std::string kind;             // `expectation` or `second-method`
    int x = -1, y = -1;           // the pixel that decided
    std::vector<double> measured; // there: red, green, blue, and alpha for the second method
    std::vector<double> expected;
    double tolerance = 0; // in the component that decided
    double used = 0;      // the share of the tolerance that was used; above 1 the check does not hold
    bool passed = false;
    std::string remark; // what else is to be said
};

// What a whole picture is, held against the second method: the pixel that uses most of its tolerance.
//
// At a border a pixel may be on either side, since corners are snapped to 1/256 pixel: where the centre does
// not agree, the places 1/256 pixel around it are asked. Such pixels are counted, and at most one in 500 may
// be so: even with a border every four pixels, only 2 / 256 / 4 of all centres lie that near to one.
check_result hold_against_second_method(const scene& drawn, const picture& found);

// The scene with each of its models at each of its rates, and what tells them apart: `phong, vertex`.
std::vector<scene> scenes_of(const reference_scene& reference);
std::string variant_of(const reference_scene& reference, const scene& asked);

// Every expectation of a reference scene and the second method at each of its rates. The subject is asked
// once for each rate, at the scene's own size, and once more at 320x200 for the second method.
std::vector<check_result> check_reference(const reference_scene& reference, const subject& subject);

} // namespace yurvo::verify
