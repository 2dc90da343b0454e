// layers: a picture built up term by term, and what each term adds.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/study/named_scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// The picture up to one term.
struct layer {
    std::string name;               ///< `unlit`, `ambient`, `+ diffuse`, ...
    term_choice terms;              ///< what it holds; of `unlit`, nothing
    picture drawn;                  ///< linear
    double mean = 0;                ///< of all components, linear
    std::optional<difference> adds; ///< against the layer before, from the third on
};

/// A picture built up term by term.
struct layers {
    std::string model;       ///< what drew
    std::vector<layer> list; ///< in the order in which terms are added
};

/// The base colours without light, then one term more each time; the last is the whole picture. Terms that
/// the scene's materials or model do not have are left out.
layers build_up(const scene& the_scene, const renderer& by = built_in_renderer());

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
