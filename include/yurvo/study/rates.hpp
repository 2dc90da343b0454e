// rates: one scene per face, per vertex and per fragment: where the pictures differ and by how much.
#pragma once

#include <string>
#include <vector>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/study/named_scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A scene drawn at one rate.
struct drawn_rate {
    rate at = rate::fragment;   ///< where it lights
    picture drawn;              ///< linear
    draw_statistics statistics; ///< of its frame
    rgb<float> brightest;       ///< the colour of greatest luminance ...
    int x = 0, y = 0;           ///< ... and where it is
};

/// A scene at each rate, and how far they are apart.
struct rates {
    std::string model;                 ///< what drew
    drawn_rate face, vertex, fragment; ///< each rate's picture
    difference face_off, vertex_off;   ///< of those two against per fragment
};

/// Throws yurvo::error where the scene has a field or the model `cel`, which are per fragment only.
rates compare_rates(const named_scene& named, const renderer& by);

/// The right picture at one rate, and how far a renderer's is from it.
struct rate_distance {
    rate at = rate::fragment; ///< where it lights
    picture right;            ///< of the model that is claimed
    difference off;           ///< of what was drawn
};

/// Which rate a subject lights at, by its picture.
struct rate_claim {
    std::string drawn_by;             ///< the driver
    rate claimed = rate::fragment;    ///< by the subject
    rate nearest = rate::fragment;    ///< the right picture per … is the nearest in the mean
    picture drawn;                    ///< by the subject
    std::vector<rate_distance> rates; ///< nearest first
};

/// At which rate a renderer of one rate works: its picture against the right one at each.
rate_claim find_rate(const named_scene& named, const renderer& by);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
