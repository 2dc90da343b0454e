// guess_hints: what a shader's text gives away about its claim.
#pragma once

#include <string>
#include <vector>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

struct stage_texts;

// Where the lighting is worked out, as far as the text says: the stage that names a light.
rate likely_rate(const shader_program& sources, const guessed_bindings& guessed);

// Bands that are written into the text: the model is cel then, and they are constants.
void take_bands(shader_program& of, const std::string& text);
// How it writes colour, by the numbers of the curves.
void take_output(shader_program& of, const std::string& text);
// What the source writes out is evidence: curves, where a stage turns its clip space, numbers with names.
void take_hints(shader_program& of, const std::string& text);
// A highlight whose factor keeps its light the same for any exponent, `(s + 8) / (8 * PI)`; a base colour
// over pi.
void take_normalised(shader_program& of, const std::string& text);
// What the stage that lights does with numbers whose names tell that they are the shader's own: fog, an
// exposure. Gives the places of the formulas that it has taken.
std::vector<std::string> take_told(shader_program& of, const stage_texts& texts);

// What an attribute whose name says nothing is by what the vertex stage does with it: a place is multiplied
// with w = 1.
std::string attribute_by_use(const shader_program& sources, const guessed_bindings& guessed,
                             const guessed_name& name);

// Whether the vertex stage makes vectors unit, as far as its text says.
bool makes_unit_at_vertices(const shader_program& sources);

} // namespace yurvo::inline v0_1::program
