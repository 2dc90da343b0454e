// turn: a scene with its objects turned, the eye walked around it, or its lights moved: does diffuse stay
// put, and specular follow the eye?
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "yurvo/scene/renderer.hpp"
#include "yurvo/scene/turn.hpp"
#include "yurvo/study/named_scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// One step of a turn.
struct turn_step {
    double angle = 0;              ///< radians
    picture drawn;                 ///< linear
    double mean = 0;               ///< of all components, linear
    double largest_difference = 0; ///< against the first step
    /// What the point in the middle reflects of all lights; nothing where nothing is seen there, or what
    /// draws does not say.
    ///@{
    std::optional<rgb<double>> diffuse, specular;
    ///@}
};

/// The point that the middle of the first picture shows.
struct followed_point {
    std::string object;    ///< the name of the object it is on
    vec3<double> position; ///< world, metres
};

/// A scene turned step by step.
struct turn {
    std::string model;                   ///< what drew
    turned_part what{};                  ///< object, eye or light
    std::string name;                    ///< of the one object or light that is turned; empty for all
    std::optional<followed_point> point; ///< none where nothing is in the middle
    std::vector<turn_step> steps;        ///< in order
};

/// A whole turn in 1 to 64 steps. Throws yurvo::error for a name that the scene does not have.
turn turn_around(const scene& the_scene, turned_part what, int steps, const std::string& name,
                 const renderer& by);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
