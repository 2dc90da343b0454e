// turn: a scene with its objects, its eye or its lights turned about the vertical.
#pragma once

#include <string>

#include "yurvo/scene/names.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What is turned.
enum class turned_part : std::uint8_t { object, eye, light };
template <> struct names_of<turned_part> {
    static constexpr std::array<std::string_view, 3> list{"object", "eye", "light"};
};

/// Turned by an angle in radians, from +Z towards +X. Objects turn in place, each about the vertical through
/// its own position; the eye and the lights walk around the view's target. With a name, only the object or
/// light so named; it must be in the scene.
scene turned(const scene& from, turned_part what, double angle, const std::string& name = {});

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
