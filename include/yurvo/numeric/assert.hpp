// YURVO_ASSERT: preconditions, asserted in a function's first lines: on in debug and sanitizer builds.
#pragma once

#include <cassert>

/// A caller's duty. What is given from outside is checked where it comes in, and is an error instead.
#define YURVO_ASSERT(condition) assert(condition)
