// guess_moves: the ways in which a guess can be changed, each of which is tried by drawing.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

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

// Binds a name of the program's. `means` may be several, one after another, for the numbers of one vector:
// `lights[0].position, lights[0].range`.
void bind(std::vector<shader_binding>& names, const std::string& name, const std::string& means);

// What a name of that type may mean, whatever it says.
std::vector<std::string> meanings_of(const guessed_name& name);

// What is claimed besides names: models, laws, kinds, outputs; and formulas, and what a claim leaves out.
std::vector<move> moves_of_claim();
std::vector<move> unlikely_moves_of_claim();

// Moves by how likely they are.
struct move_lists {
    std::vector<move> starts;   // whole readings to begin from: a space and a sign for every light at once
    std::vector<move> usual;    // what is asked of any program, and of names that could be taken for others
    std::vector<move> unlikely; // formulas, what a claim leaves out, names that mean what they do not say
};
move_lists all_moves(const guessed_bindings& guessed);

} // namespace yurvo::inline v0_1::program
