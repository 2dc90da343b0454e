// judge: how much of a tolerance a colour uses, as floats or in codes.
#pragma once

#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::inline v0_1::verify {

struct verdict {
    double used = 0;      // of the tolerance, by the worst component
    double tolerance = 0; // of that component
};

// NaN uses all the tolerance there is, and more.
verdict judge(const rgb<double>& found, const rgb<double>& expected, const rgb<double>& tolerance);

// A linear colour as a code of that format, not rounded.
double code_at(double linear, pixel_format held);

// Linear colours compared as the format holds them. In codes a linear tolerance goes as far as the curve
// says, and one code for rounding to a whole one (a right one needs half).
verdict judge_as(pixel_format held, const rgb<double>& found, const rgb<double>& expected,
                 const rgb<double>& tolerance);

std::vector<double> components(const rgb<double>& color);
std::vector<double> components(const rgb<double>& color, double alpha);

bool same_size(const scene& the_scene, const picture& found);
// What is said of a picture that has not the view's size.
check_result wrong_size(const scene& the_scene, const picture& found);

} // namespace yurvo::inline v0_1::verify
