// fit_lights: which lights a scene has for a program: those that it can be given, as many as it takes.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <functional>
#include <string>
#include <vector>

#include "program/claims.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::program {

template <class Value> bool contains(const std::vector<Value>& all, Value value) {
    return std::find(all.begin(), all.end(), value) != all.end();
}

// The numbers of laws, of those that a scene does not have but a program needs: angles in radians.
struct law_numbers {
    double range = 0;
    std::array<double, 3> coefficients{};
    double inner = 0;
    double outer = 0;
    double exponent = 0;
};

// Those of a scene's `number`-th light, counted from 0. They differ from light to light, or a shader that
// takes one light's for another's would be right on every scene. The first: range 10, coefficients (1, 0.1,
// 0.2), 14° and 32°, exponent 8.
law_numbers law_numbers_of(std::size_t number);

// A light of a kind that the program does not take becomes one that it takes; lights are added or left out to
// meet what it wants. Laws and values are not looked at. `changed` gets what was changed.
void take_lights(const claims& claimed, scene& of, const std::function<void(const std::string&)>& changed);

} // namespace yurvo::inline v0_1::program
