// Relations: what must hold between two pictures of a renderer, whatever its model: turn everything and
// nothing changes, double every light and the picture is twice as bright.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "yurvo/verify/check.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// The first picture and how far one in float may be from it, pixel by pixel. A relation may use both twice:
/// both of its pictures are drawn by the renderer.
struct drawn_once {
    const yurvo::scene& scene; ///< what was drawn
    const picture& found;      ///< the subject's picture
    /// Of one picture, at pixel (x, y).
    const std::function<rgb<double>(int, int)>& tolerance;
    /// Never more than that, and quicker to ask: what is within it is within the tolerance.
    const std::function<rgb<double>(int, int)>& least_tolerance;
    /// Of pixel (x, y): whether another surface lies within 1/128 pixel.
    const std::function<bool(int, int)>& at_border;
};

/// What must hold between pictures.
struct relation {
    std::string name;                          ///< by which it is asked for
    std::string says;                          ///< what must hold, for people
    std::function<bool(const scene&)> applies; ///< to scenes that can show it
    /// Draws what it needs and says whether it held.
    std::function<check_result(const drawn_once&, const renderer&)> hold;
};

/// The size, in pixels, in which scenes are drawn for relations.
constexpr int relation_width = 160;
/// Of the pictures that relations are held on, pixels.
constexpr int relation_height = 100;

/// All of them, in the order in which they are held.
const std::vector<relation>& relations();

/// Whether the renderer's values are those of the scene's model. Of a model that nobody knows, the tolerances
/// allow for a thousand operations at each pixel instead.
enum class known_model : bool { no, yes };

/// Every relation that applies to a scene, held by a renderer. The scene is drawn at 160x100.
std::vector<check_result> check_relations(const scene& drawn, const renderer& by,
                                          known_model known = known_model::yes,
                                          const tolerance_model& allowed = {});

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
