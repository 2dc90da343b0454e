// driver_child: what the child process does: compile, link, draw, answer.
#pragma once

namespace yurvo::program {

// Serves requests that come through a socket until it closes; never returns.
[[noreturn]] void serve_driver(int socket);

// Whole messages through a socket. False where the other side is gone.
bool send_message(int socket, const void* bytes, unsigned long size);
bool receive_message(int socket, void* into, unsigned long size);

} // namespace yurvo::program
