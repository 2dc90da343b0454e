// guess_trying: what names and types leave open is settled by drawing.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// What trying has made of a guess: the claim and the bindings, and for each key of the file how it was
// settled.
struct settled_guess {
    shader_program program;
    std::map<std::string, std::string> how; // by name of a uniform, or `model`, `falloff`, ...
    double off = 0;                   // the share of pixels that are still off, on small scenes; 0: right
    std::vector<std::string> omitted; // catalogued mistakes that the claim takes out, by id
};

// Draws candidates on small scenes and keeps what fits best. `tell` gets progress. Throws as program_renderer
// does.
settled_guess settle(const shader_program& sources, const guessed_bindings& guessed,
                     const std::function<void(const std::string&)>& tell);

} // namespace yurvo::inline v0_1::program
