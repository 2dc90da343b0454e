// guess_names: what a name and a type say of their meaning, before anything is drawn.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "program/bindings.hpp"
#include "yurvo/program/guess.hpp"

namespace yurvo::inline v0_1::program {

// Words by which names speak of lights.
inline constexpr std::array light_words{"light", "lamp", "sun",  "moon", "lantern",
                                        "torch", "bulb", "spot", "beam"};
bool names_a_light(const std::string& word);
// Of `keyPosition`, `fillColor` how long what says whose it is is, of lamps as in a studio; 0 for others.
std::size_t lamp_of_studio(const std::string& word);

// Empty where nothing is likely.
std::string likely_attribute(const std::string& name, const type_shape& shape);
// Bones that move what is fixed to them.
bool names_a_skeleton(const std::string& name);
// Of a matrix, by its name in small letters.
std::string likely_matrix(const std::string& name, const type_shape& shape);
std::string likely_uniform(const std::string& name, const type_shape& shape);

// What a letter that stands for itself most often is; empty for other names. Not enough to be settled on.
std::string meaning_of_letter(const std::string& name, const std::string& type);

// What only all names together say: a light's parts beside its colour, lights of several kinds.
void tell_lights_apart(std::vector<guessed_name>& all);

} // namespace yurvo::inline v0_1::program
