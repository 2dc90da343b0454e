// Loaded before the tool (LD_PRELOAD): a file system that takes its time, two thousandths of a second for
// every call, and that reads and writes a little at a time, as such may.
#include <algorithm>
#include <cstdarg>
#include <cstddef>

#include <dlfcn.h>
#include <fcntl.h>
#include <unistd.h>

namespace {

template <class Function> Function* next(const char* name) {
    return reinterpret_cast<Function*>(::dlsym(RTLD_NEXT, name)); // NOLINT: that is what dlsym() gives
}

constexpr std::size_t at_once = 1000; // bytes
void wait() { ::usleep(2000); }

} // namespace

extern "C" {

ssize_t read(int from, void* into, std::size_t size) {
    static const auto real = next<ssize_t(int, void*, std::size_t)>("read");
    wait();
    return real(from, into, std::min(size, at_once));
}

ssize_t write(int to, const void* bytes, std::size_t size) {
    static const auto real = next<ssize_t(int, const void*, std::size_t)>("write");
    wait();
    return real(to, bytes, std::min(size, at_once));
}

int rename(const char* from, const char* to) {
    static const auto real = next<int(const char*, const char*)>("rename");
    wait();
    return real(from, to);
}

int open(const char* path, int flags, ...) {
    static const auto real = next<int(const char*, int, ...)>("open");
    std::va_list rest;
    va_start(rest, flags);
    const int mode = (flags & (O_CREAT | O_TMPFILE)) != 0 ? va_arg(rest, int) : 0;
    va_end(rest);
    wait();
    return real(path, flags, mode);
}
}
