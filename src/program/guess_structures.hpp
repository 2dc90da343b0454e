// guess_structures: which structure of the text a name's members are of, and which of its instances.
#pragma once

#include <map>
#include <string>

#include "yurvo/program/guess.hpp"

namespace yurvo::inline v0_1::program {

// Structures of the text by the names of what is of them: `struct Headlamp {...}; uniform Headlamp left,
// right;`.
std::map<std::string, std::string> structures_in(const std::string& text);

// Sets `structure` and `instance` of a member's name; leaves those of others empty.
void find_structure(guessed_name& of, const std::map<std::string, std::string>& structures);

// The name, or one that says that it is a light's where only its structure does: `lamp.position` for
// `left.position`.
std::string telling_name(const guessed_name& of);

} // namespace yurvo::inline v0_1::program
