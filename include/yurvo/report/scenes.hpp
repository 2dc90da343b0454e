// scenes: what is known of the scenes that come with Yurvo.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/named_scene.hpp"
#include "yurvo/verify/reference.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// What a reference scene shows and what is known of it; `whole` with the mistakes that it reveals by name,
/// and every expectation.
std::string reference_text(const verify::reference_scene& reference, bool whole);
/// The scene at each rate, and what is known of it in numbers; `reference` may be null.
picture scene_sheet(const study::named_scene& named, const verify::reference_scene* reference);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
