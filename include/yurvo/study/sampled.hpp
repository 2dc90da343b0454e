// sampled: a picture of several samples for each pixel, for showing: edges without steps.
#pragma once

#include "yurvo/pipeline/draw.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// The most samples across a pixel for which a view still fits: its sides times this are at most 16384.
int most_samples(const view& of);

/// The scene drawn with `samples` by `samples` places for each pixel, averaged in linear light; colours count
/// by their alpha. 1 ≤ samples ≤ most_samples(). The statistics are those of all samples.
picture draw_sampled(const scene& the_scene, const renderer& by, int samples,
                     const draw_settings& settings = {}, draw_statistics* statistics = nullptr);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
