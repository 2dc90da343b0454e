// Loaded before the tool (LD_PRELOAD): operator new has no memory at the N-th request, YURVO_TEST_FAIL_AT, or
// from it on (YURVO_TEST_FAIL_FROM). At the end the number of requests goes into the file
// YURVO_TEST_REQUESTS.
#include <atomic>
#include <cstddef>
#include <cstdio>
#include <cstdlib>
#include <new>

#include <dlfcn.h>

namespace {

long number_in(const char* name) {
    const char* const text = std::getenv(name);
    return text == nullptr ? 0 : std::atol(text);
}

std::atomic<long> requests{0};
std::atomic<bool> counting{false};
const long fail_at = number_in("YURVO_TEST_FAIL_AT");
const long fail_from = number_in("YURVO_TEST_FAIL_FROM");

void* take(std::size_t size, std::size_t alignment) {
    const long now = counting ? ++requests : -1;
    if (now > 0 && (now == fail_at || (fail_from > 0 && now >= fail_from && now < fail_from + 50))) {
        throw std::bad_alloc();
    }
    void* taken = nullptr;
    if (::posix_memalign(&taken, alignment < sizeof(void*) ? sizeof(void*) : alignment,
                         size == 0 ? 1 : size) != 0) {
        throw std::bad_alloc();
    }
    return taken;
}

struct teller {
    ~teller() {
        if (const char* const file = std::getenv("YURVO_TEST_REQUESTS")) {
            if (std::FILE* const to = std::fopen(file, "w")) {
                std::fprintf(to, "%ld\n", requests.load());
                std::fclose(to);
            }
        }
    }
} const tells;

using main_function = int (*)(int, char**, char**);
main_function real_main = nullptr;

int counted_main(int count, char** arguments, char** environment) {
    counting = true;
    const int status = real_main(count, arguments, environment);
    counting = false;
    return status;
}

} // namespace

// The C library's, which calls main(). NOLINTNEXTLINE(bugprone-reserved-identifier)
extern "C" __attribute__((visibility("default"))) int __libc_start_main(main_function main, int count,
                                                                        char** arguments, void (*init)(),
                                                                        void (*fini)(), void (*linker)(),
                                                                        void* stack_end) {
    real_main = main;
    using start = int (*)(main_function, int, char**, void (*)(), void (*)(), void (*)(), void*);
    const auto next = reinterpret_cast<start>(::dlsym(RTLD_NEXT, "__libc_start_main"));
    return next(counted_main, count, arguments, init, fini, linker, stack_end);
}

void* operator new(std::size_t size) { return take(size, alignof(std::max_align_t)); }
void* operator new[](std::size_t size) { return take(size, alignof(std::max_align_t)); }
void* operator new(std::size_t size, std::align_val_t alignment) {
    return take(size, static_cast<std::size_t>(alignment));
}
void* operator new[](std::size_t size, std::align_val_t alignment) {
    return take(size, static_cast<std::size_t>(alignment));
}
void operator delete(void* given) noexcept { std::free(given); }
void operator delete[](void* given) noexcept { std::free(given); }
void operator delete(void* given, std::size_t) noexcept { std::free(given); }
void operator delete[](void* given, std::size_t) noexcept { std::free(given); }
void operator delete(void* given, std::align_val_t) noexcept { std::free(given); }
void operator delete[](void* given, std::align_val_t) noexcept { std::free(given); }
void operator delete(void* given, std::size_t, std::align_val_t) noexcept { std::free(given); }
void operator delete[](void* given, std::size_t, std::align_val_t) noexcept { std::free(given); }
