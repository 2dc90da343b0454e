// diagnosis: what was found out about a picture, in words and as data.
#pragma once

#include "session.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::app {

// `what` is the picture, `scene` what it should show.
std::string diagnosis_text(const verify::diagnosis& found, const std::string& what, const std::string& scene);
// The picture, the right one, the mistaken one, and where the picture is off.
picture diagnosis_sheet(const verify::diagnosis& found, const picture& subject, const std::string& file);
// A question of the quiz.
picture quiz_sheet(const session& on, const std::string& scene, std::uint64_t seed);
json diagnosis_data(const verify::diagnosis& found);

} // namespace yurvo::app
