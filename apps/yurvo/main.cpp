#include <malloc.h>
#include <unistd.h>

#include <csignal>
#include <cstdlib>
#include <cstring>
#include <exception>
#include <new>

#include "yurvo/command_line/command_line.hpp"

namespace {

// Libraries that ask for memory while they give some back have no way to say that there is none. Nothing is
// lost: files appear whole or not at all.
[[noreturn]] void end_at_once() {
    try {
        if (const std::exception_ptr thrown = std::current_exception()) {
            std::rethrow_exception(thrown);
        }
    } catch (const std::bad_alloc&) {
        const char* const line =
            "yurvo: there is not enough memory for this; a smaller size or fewer cells\n";
        (void)!::write(STDERR_FILENO, line, std::strlen(line));
        ::_exit(2);
    } catch (...) { // a defect, and told as such
    }
    std::abort();
}

} // namespace

int main(int argc, char** argv) {
    std::set_terminate(end_at_once);
    // A pipe that closes early is seen when it is written to.
    std::signal(SIGPIPE, SIG_IGN);
    // Pictures of a megabyte come and go by the hundred: memory that is given back each time must be cleared
    // by the system each time, which takes a twentieth of the whole.
    constexpr int kept = 256 << 20;
    mallopt(M_MMAP_THRESHOLD, kept);
    mallopt(M_TRIM_THRESHOLD, kept);
    return yurvo::command_line(argc, argv);
}
