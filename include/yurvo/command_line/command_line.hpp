// command_line: the whole tool as one call, so that a program of yours can be it.
#pragma once

#include <memory>

#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What the tool draws with.
struct tool {
    std::shared_ptr<const renderer> checked; ///< what `check` verifies; null: the built-in pipeline
    yurvo::models models;                    ///< models of your own, chosen by --model NAME
};

/// Runs `yurvo COMMAND ...` and gives its exit status: 0 done and all held, 1 a check did not hold or a
/// mistake was found, 2 bad input or bad usage, 3 what it needs is missing on this machine. Results go to
/// standard output, remarks and errors to standard error. Nothing is thrown, and no signal is handled.
int command_line(int argc, const char* const* argv, const tool& with = {});

/// The whole tool with models of your own:
///     return yurvo::command_line(argc, argv, yurvo::models{{"wrapped", wrapped_diffuse{}}});
inline int command_line(int argc, const char* const* argv, const models& mine) {
    return command_line(argc, argv, tool{nullptr, mine});
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
