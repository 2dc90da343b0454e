// diagnosis: what was found out about a picture, in words and as data.
#pragma once

#include "session.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::app {

// `what` is the picture, `scene` what it should show.
std::string diagnosis_text(const verify::diagnosis& found, const std::string& what, const std::string& scene);
json diagnosis_data(const verify::diagnosis& found);

} // namespace yurvo::app
