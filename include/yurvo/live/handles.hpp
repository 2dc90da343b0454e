// handles: what of a scene can be taken by the mouse, and what the scene becomes as it moves.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <vector>

#include "yurvo/live/edit.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// What a handle moves.
enum class handle_kind : std::uint8_t {
    light_place,
    light_direction,
    cone_border,
    object_place,
    object_turn
};

/// How a place follows the mouse.
enum class drag_along : std::uint8_t { ground, height, view };

/// Something in the picture that the mouse can take.
struct handle {
    handle_kind kind{};            ///< what it moves
    std::size_t index = 0;         ///< of the light, or of the object
    double x = 0, y = 0;           ///< pixels from the top left
    double from_x = 0, from_y = 0; ///< where it hangs: the lamp of a direction; a place hangs on itself
    bool in_front = false;         ///< of the eye, both of them; the pixels say nothing otherwise
};

/// All lights' places, and the directions of those that have no place, which hang on the view's target; of
/// the chosen light its direction and its cone's border too; of the chosen object its place and its turn.
std::vector<handle> handles_of(const scene& the_scene, std::optional<std::size_t> light = std::nullopt,
                               std::optional<std::size_t> object = std::nullopt);

/// The one nearest to a pixel, within some pixels.
std::optional<handle> handle_at(const std::vector<handle>& all, double x, double y, double within);

/// The circle on which a border or a turn lies, as pixels; points behind the eye are left out. Empty for
/// other kinds.
std::vector<std::array<double, 2>> circle_of(const scene& the_scene, const handle& which);

/// A handle that follows the mouse from where it was taken.
class held_handle {
    handle taken_;
    double mouse_x_, mouse_y_;
    vec3<double> start_;    // of a place, world
    vec3<double> rotation_; // of an object, radians
    std::array<double, 2> pixel_from(double x, double y) const;

  public:
    /// The light or object is in the scene; x and y are the mouse's pixel.
    held_handle(const scene& the_scene, const handle& taken, double x, double y);

    /// What changes as the mouse is at a pixel now. A place goes along the ground (its height stays), up and
    /// down, or across the view (its depth stays); where a level plane is seen edge-on it goes aside with the
    /// mouse, and to and fro as the mouse goes down and up. A direction follows on a sphere, a border opens
    /// and closes its cone (1° to 90°), a turn is about the vertical. Nothing where the mouse says nothing,
    /// or the scene has it no more.
    [[nodiscard]] std::vector<edit> moved_to(const scene& the_scene, double x, double y,
                                             drag_along along) const;
    /// The handle that was taken.
    [[nodiscard]] const handle& taken() const { return taken_; }
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
