// driver_child: what the child process does: compile, link, draw, answer.
#pragma once

namespace yurvo::inline v0_1::program {

// Serves requests that come through a socket until it closes; never returns.
[[noreturn]] void serve_driver(int socket);

// What a driver's process runs; tests put others here, that do what a driver under attack might.
inline void (*driver_server)(int socket) = serve_driver;

} // namespace yurvo::inline v0_1::program
