// A guess as a program file says it.
#pragma once

#include <array>
#include <map>
#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// What trying has made of a guess: the claim and the bindings, and for each key of the file how it was
// settled.
struct settled_guess {
    shader_program program;
    std::map<std::string, std::string> how; // by name of a uniform, or `model`, `falloff`, ...
    double off = 0;                   // the share of pixels that are still off, on small scenes; 0: right
    bool alpha_beyond = false;        // that is of colours alone then: alpha is above 1 in places
    std::vector<std::string> omitted; // catalogued mistakes that the claim takes out, by id
};

// The whole file; `stages` are the values of its keys `vertex` and `fragment`.
std::string written_guess(const settled_guess& settled, const std::array<std::string, 2>& stages);
// What a file would say of a claim and its bindings: two that say the same are the same.
std::string written_claim(const shader_program& of);

} // namespace yurvo::inline v0_1::program
