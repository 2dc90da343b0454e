// The reference scenes: each shows one thing, and says what is known of it in closed form.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// A colour known in closed form, at one pixel of a scene drawn at one rate.
struct expectation {
    std::string name;                               ///< `at the foot of the lantern`
    std::string says;                               ///< the closed form, for people
    yurvo::rate rate = rate::fragment;              ///< at which it is expected
    int x = 0, y = 0;                               ///< the pixel
    rgb<double> color;                              ///< linear
    rgb<double> tolerance;                          ///< ≥ 0, in the same numbers
    std::optional<model_kind> model = std::nullopt; ///< where the scene is drawn with several: which of them
    /// A ratio instead of a colour: the pixel's colour over that of another one is `color`.
    bool is_ratio = false;
    int other_x = 0, other_y = 0; ///< of a ratio: the pixel it is taken to
    /// Codes of a PNG instead of a colour, 0 to 255; exact.
    bool is_code = false;
    /// Instead of a colour: how many pixels of the picture have this one, each component to a thousandth or a
    /// code, is `color`, three times.
    std::optional<rgb<double>> area_of = std::nullopt;
    std::string because; ///< how the tolerance is derived, for people
};

/// A scene with what is known of it.
struct reference_scene {
    std::string name;                      ///< by which it is asked for
    std::string shows;                     ///< one sentence
    std::vector<std::string> known;        ///< what is known in closed form, a line each
    yurvo::scene scene;                    ///< its data
    std::vector<yurvo::rate> rates;        ///< at which it is checked
    std::vector<expectation> expectations; ///< in closed form
    std::vector<model_kind>
        models; ///< with which; none: with the scene's own. cel is drawn per fragment only
};

/// All of them, in the order in which they are checked.
const std::vector<reference_scene>& reference_scenes();

/// Null where there is none of that name.
const reference_scene* find_reference(std::string_view name);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
