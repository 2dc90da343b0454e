// show: what a picture of normals, cosines, depths or overflow says, in words.
#pragma once

#include <string>

#include "yurvo/study/show.hpp"

namespace yurvo::report {

/// One line without its end.
std::string show_text(const study::shown& found);

} // namespace yurvo::report
