// fit_lights: which lights a scene has for a program: those that it can be given, as many as it takes.
#pragma once

#include <functional>
#include <string>

#include "program/claims.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::program {

// A light of a kind that the program does not take becomes one that it takes; lights are added or left out to
// meet what it wants. Laws and values are not looked at. `changed` gets what was changed.
void take_lights(const claims& claimed, scene& of, const std::function<void(const std::string&)>& changed);

} // namespace yurvo::inline v0_1::program
