#include "yurvo/picture/pixel_allocator.hpp"

#if defined(__linux__)
#include <sys/mman.h>
#endif

namespace yurvo::inline v0_1 {

namespace {

constexpr std::size_t line = 64;
constexpr std::size_t large_page = std::size_t{2} << 20U; // of x86-64, and of ARM with pages of 4 KiB
constexpr std::size_t large_picture = 2 * large_page;     // from here on a page more is little

std::align_val_t alignment_of(std::size_t bytes) {
    return std::align_val_t(bytes >= large_picture ? large_page : line);
}

} // namespace

void* allocate_pixels(std::size_t bytes) {
    void* const result = ::operator new(bytes, alignment_of(bytes));
#if defined(__linux__) && defined(MADV_HUGEPAGE)
    if (bytes >= large_picture) {
        // A hint: where it is refused, pages are small.
        static_cast<void>(madvise(result, bytes, MADV_HUGEPAGE));
    }
#endif
    return result;
}

void free_pixels(void* pixels, std::size_t bytes) noexcept { ::operator delete(pixels, alignment_of(bytes)); }

} // namespace yurvo::inline v0_1
