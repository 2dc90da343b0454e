// guess_comparing: how far the picture of a candidate is from the right one.
#pragma once

#include <cstdint>
#include <optional>
#include <utility>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::program {

// What an alpha above 1 says: what adds lights up with theirs is read by its colours alone.
enum class beyond_one : std::uint8_t { passed_over, counts };

// What is off, as a share of the light that either picture holds: a darker claim is no better one. 0 where
// all codes agree, but for a handful of pixels at edges; nothing where hardly anything is to be seen, or
// hardly anything but what both have clamped to white.
std::optional<double> apart(const picture& found, const picture& right, const rgb<double>& background,
                            beyond_one alpha = beyond_one::passed_over);

// Whether somewhere alpha is above 1, as where lights' alphas are added up.
bool alpha_goes_beyond(const picture& found);

// Whether lights are to be seen in two of the scenes, each with its right picture.
bool lights_reach(const std::vector<std::pair<scene, picture>>& drawn);

} // namespace yurvo::inline v0_1::program
