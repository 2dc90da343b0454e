// guess_moves: the ways in which a guess can be changed, each of which is tried by drawing.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::program {

// One way to change a guess: what it is about, what it says, and how it is done.
struct move {
    std::string about; // a uniform's name, or `model`, `falloff`, ...
    std::string says;
    std::function<void(shader_program&)> make;
    std::string omits;        // a catalogued mistake that the claim then takes out; empty for none
    double least_gain = 0.02; // of what is off: what makes the scenes simpler has to help much
};

// The quantity that a binding means, where it means one alone; else empty.
std::string text_of(const shader_binding& binding);

// What a name of that type may mean, whatever it says.
std::vector<std::string> meanings_of(const guessed_name& name);

// Every move at hand: what is asked of the whole program, of names that are open, and of names that could be
// taken for one another.
std::vector<move> all_moves(const guessed_bindings& guessed);

} // namespace yurvo::program
