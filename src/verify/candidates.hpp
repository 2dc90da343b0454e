// candidates: mistakes, pairs of mistakes and exposures that may explain a picture, the likeliest first.
#pragma once

#include <optional>
#include <vector>

#include "verify/compared_picture.hpp"

namespace yurvo::inline v0_1::verify {

constexpr std::size_t verified_suspects = 10;

// The mistakes that can show in the scene and in a picture of that format.
std::vector<mistake> applicable(const compared_picture& on);

// By the residual at the places, best first.
void rank(const compared_picture& on, std::vector<suspect>& all, const std::vector<pixel_place>& places);

// The uniform factor between a suspect's light and the picture's, where there is one; nothing where it is
// 1 or differs from place to place.
std::optional<double> exposure_of(const compared_picture& on, const suspect& candidate);

// The suspects with whom all light is off by one factor as well.
std::vector<suspect> exposed_suspects(const compared_picture& on, const std::vector<suspect>& singles);

// Pairs: what becomes of the picture with every other mistake, and the nearest single ones with all.
std::vector<suspect> likely_pairs(const compared_picture& on, const std::vector<suspect>& singles,
                                  const std::vector<mistake>& candidates);

} // namespace yurvo::inline v0_1::verify
