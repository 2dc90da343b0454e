// guess_comparing: how far the picture of a candidate is from the right one.
#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::program {

// What is off, as a share of the light that either picture holds: a darker claim is no better one. 0 where
// all codes agree, but for a handful of pixels at edges; nothing where hardly anything is to be seen, or
// hardly anything but what both have clamped to white. An alpha that goes beyond 1 says nothing of a reading,
// and is passed over.
std::optional<double> apart(const picture& found, const picture& right, const rgb<double>& background);

// Whether somewhere alpha is above 1, as where lights' alphas are added up.
bool alpha_goes_beyond(const picture& found);

// Whether lights are to be seen in two of the scenes, each with its right picture.
bool lights_reach(const std::vector<std::pair<scene, picture>>& drawn);

} // namespace yurvo::inline v0_1::program
