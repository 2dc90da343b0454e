// driver_prison: what the process in which a driver runs shaders may no longer do. A shader is somebody's
// file, and the driver that compiles it a large program that was not written against attackers: neither reads
// files of its own choice, writes any, reaches the network or starts a program.
#pragma once

#include <cstdint>

namespace yurvo::inline v0_1::program {

// What holds, of what the kernel offers; a kernel without one of them leaves the others.
enum class confinement : std::uint8_t {
    limits = 1,  // no core file, no file of any size, at most so much memory
    files = 2,   // Landlock: reads below the system's directories and the driver's own, writes to no file
    network = 4, // a network of its own, in which there is nothing
    calls = 8,   // seccomp: no call of the kernel beyond what drawing needs; no file is opened any more
};

// Closes every file but `socket`, whose number may change, and standard input, output and error, which become
// the null device. Returns the socket's number.
int close_all_but(int socket);

// What is done before the driver is there, while the process has one thread. Returns bits of `confinement`.
std::uint8_t confine_before_driver();

// What is done once the driver has drawn its first picture, before it sees a shader of somebody's: for all
// its threads, and for good. Returns the bit `calls`, or 0.
std::uint8_t confine_before_shader();

} // namespace yurvo::inline v0_1::program
