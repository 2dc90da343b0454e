// program_stopped: what a shader did to the process that ran it.
#pragma once

#include "yurvo/scene/error.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The driver's process took too long, ran out of memory or ended. What was being drawn has no picture; other
/// scenes can still be drawn.
class program_stopped : public error {
  public:
    using error::error; ///< As an error of its place.
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
