// command_line: the whole tool as one call, so that a program of yours can be it.
#pragma once

#include "yurvo/verify/check.hpp"

namespace yurvo {

// What the tool draws with. Left empty: the built-in pipeline.
struct tool {
    verify::subject draw; // what `check` verifies
};

// Runs `yurvo COMMAND ...` and gives its exit status: 0 done and all held, 1 a check did not hold or a
// mistake was found, 2 bad input or bad usage, 3 what it needs is missing on this machine. Results go to
// standard output, remarks and errors to standard error. Nothing is thrown.
int command_line(int argc, const char* const* argv, const tool& with = {});

} // namespace yurvo
