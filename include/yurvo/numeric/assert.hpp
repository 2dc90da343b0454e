// YURVO_ASSERT: preconditions, asserted in a function's first lines: on in debug and sanitizer builds.
#pragma once

#include <cassert>

/// A caller's duty. What is given from outside is checked where it comes in, and is an error instead. Where
/// it is off the condition is compiled all the same, and not evaluated.
#if defined(NDEBUG)
#define YURVO_ASSERT(condition) static_cast<void>(sizeof((condition) ? 1 : 0))
#else
#define YURVO_ASSERT(condition) assert(condition)
#endif
