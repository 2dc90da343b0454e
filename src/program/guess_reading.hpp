// guess_reading: a guess on the way to what a shader means.
#pragma once

#include <cstddef>
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/guess_subject.hpp"

namespace yurvo::inline v0_1::program {

// A guess on the way, the better the smaller `off`.
struct reading {
    shader_program program;
    std::map<std::string, std::string> how;
    std::vector<std::pair<std::string, std::string>> omitted; // what a line is about, and the mistake
    double off = guess_subject::never;

    // What is said of one thing anew takes back what was said of it; `without` is a list.
    void say(const std::string& about, const std::string& says, const std::string& omits);
};

inline constexpr std::size_t kept_readings = 3;
// Keeps the best few, no two of which are the same in their pictures.
void keep(std::vector<reading>& best, reading made);

// All names as they are for lights of more kinds.
reading for_more_kinds(const reading& of, const guessed_bindings& guessed);

// What was taken for another model or number, to come nearer to what is wrong, is what it was at first;
// and so are, if asked for, cones and what names say.
reading taken_back(const reading& from, const reading& first, const guessed_bindings& guessed, bool names);

// Of what its own text alone makes right by several formulas: without one of them, each. A mistake of the
// catalogue may stand there.
std::vector<reading> without_each_formula(const reading& right);

} // namespace yurvo::inline v0_1::program
