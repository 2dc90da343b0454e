// disturbance: numbers of a program's that are given other values than they mean, to see whether they change
// a picture.
#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "program/bindings.hpp"

namespace yurvo::inline v0_1::program {

// Some components of a uniform, of all elements of an array.
struct disturbed_numbers {
    std::string name; // `lamps[*].cone`
    std::size_t first = 0, last = 0;
    std::string letters; // `.xy`; empty: all of them
};

// What can be disturbed: plain numbers that mean quantities of a scene's, and tangents. No matrices, whole
// numbers and textures.
std::vector<disturbed_numbers> numbers_to_disturb(const bindings& bound);

// Greater than what is positive, or less: where light ends at a reach, only what is less may show.
enum class disturbed_way : bool { up, down };

// Gives the numbers other values, if they are these.
void disturb(const disturbed_numbers& which, disturbed_way way, const bound_uniform& uniform,
             std::vector<float>& numbers);
// The same of an attribute's numbers, `width` for each corner.
void disturb(const disturbed_numbers& which, disturbed_way way, const std::string& attribute,
             std::size_t width, std::vector<float>& numbers);

} // namespace yurvo::inline v0_1::program
