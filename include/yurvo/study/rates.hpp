// rates: one scene per face, per vertex and per fragment: where the pictures differ and by how much.
#pragma once

#include <string>
#include <vector>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/study/named_scene.hpp"

namespace yurvo::study {

struct drawn_rate {
    rate at = rate::fragment;
    picture drawn;
    draw_statistics statistics;
    rgb<float> brightest; ///< the colour of greatest luminance ...
    int x = 0, y = 0;     ///< ... and where it is
};

struct rates {
    std::string model;                 ///< what drew
    drawn_rate face, vertex, fragment; ///< each rate's picture
    difference face_off, vertex_off;   ///< of those two against per fragment
};

/// Throws yurvo::error where the scene has a field or the model `cel`, which are per fragment only.
rates compare_rates(const named_scene& named, const renderer& by);

/// The right picture at one rate, and how far a renderer's is from it.
struct rate_distance {
    rate at = rate::fragment;
    picture right;
    difference off;
};

struct rate_claim {
    std::string drawn_by; ///< the driver
    rate claimed = rate::fragment;
    rate nearest = rate::fragment; ///< the right picture per … is the nearest in the mean
    picture drawn;
    std::vector<rate_distance> rates;
};

/// At which rate a renderer of one rate works: its picture against the right one at each.
rate_claim find_rate(const named_scene& named, const renderer& by);

} // namespace yurvo::study
