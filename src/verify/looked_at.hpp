// looked_at: how many pixels of a picture a check or a diagnosis goes through: fewer where our own tests run
// under the thread sanitizer, which makes each take fifty times as long, and looks at how pixels are gone
// through, not at how many.
#pragma once

#include <cstddef>

namespace yurvo::inline v0_1::verify {

#if defined(YURVO_FEWER_PIXELS)
constexpr std::size_t looked_at(std::size_t usual) { return usual / 6; }
inline constexpr int small_width = 160;
inline constexpr int small_height = 100;
#else
constexpr std::size_t looked_at(std::size_t usual) { return usual; }
// In this size a scene is drawn to be held against the second method.
inline constexpr int small_width = 320;
inline constexpr int small_height = 200;
#endif

} // namespace yurvo::inline v0_1::verify
