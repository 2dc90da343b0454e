// Stands in the place of the system's libEGL.so.1 (LD_LIBRARY_PATH) and does what YURVO_TEST_DRIVER says at
// the first question that it is asked.
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include <unistd.h>

extern "C" __attribute__((visibility("default"))) void* eglGetPlatformDisplay(unsigned, void*, const long*) {
    const char* const what = std::getenv("YURVO_TEST_DRIVER");
    if (what != nullptr && std::strcmp(what, "crash") == 0) {
        std::signal(SIGSEGV, SIG_DFL);
        std::raise(SIGSEGV);
    }
    if (what != nullptr && std::strcmp(what, "hang") == 0) {
        ::pause();
    }
    if (what != nullptr && std::strcmp(what, "end") == 0) {
        std::exit(0);
    }
    if (what != nullptr && std::strcmp(what, "talk") == 0) {
        std::puts("driver: \x1b[31mred");
        std::fputs("driver: \x1b[31mred\n", stderr);
    }
    return nullptr; // no display
}
