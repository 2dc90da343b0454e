// one_number: a number of the scenes with which pictures that are wrong would be right, all of them with the
// same.
#pragma once

#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// A wrong picture and the scene that it shows.
struct wrong_picture {
    scene of;      ///< drawn by the subject
    picture found; ///< by the subject
};

/// A number that alone would explain a picture.
struct needed_number {
    std::string quantity; ///< `material.shininess`, as program files call it
    double value = 0;     ///< that it would have to be
};

/// Every number that alone would make all of these pictures right, the same in each: found by fitting, the
/// likeliest first. Empty where none does.
std::vector<needed_number> one_number_away(const std::vector<wrong_picture>& pictures, pixel_format held,
                                           const tolerance_model& allowed);

/// The numbers that come nearest to making them right, each alone, whether they do or not: every number that
/// is noticed there, the best first.
std::vector<needed_number> nearest_numbers(const std::vector<wrong_picture>& pictures, pixel_format held,
                                           const tolerance_model& allowed);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
