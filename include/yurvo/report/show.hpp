// show: what a picture of normals, cosines, depths or overflow says, in words.
#pragma once

#include <string>

#include "yurvo/study/show.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// One line without its end.
std::string show_text(const study::shown& found);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
