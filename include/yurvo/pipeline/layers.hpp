// layers: a picture built up term by term.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "yurvo/pipeline/draw.hpp"

namespace yurvo {

struct layer {
    std::string name;  // `unlit`, `ambient`, `+ diffuse`, ...
    term_choice terms; // what it holds; of `unlit`, nothing
    picture made;
};

// Draws a scene with some of its terms.
using term_drawer = std::function<picture(const scene&, const draw_settings&)>;

// The base colours without light, then one term more each time; the last is the whole picture. Terms that the
// scene's materials or model do not have are left out. `drawn` is the built-in pipeline where it is empty.
std::vector<layer> build_up(const scene& from, const term_drawer& drawn = {});

} // namespace yurvo
