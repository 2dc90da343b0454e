// pixel_allocator: where pixels lie in memory.
#pragma once

#include <cstddef>
#include <limits>
#include <new>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Begins where a cache line does, so that lines can be written whole. Of a large picture the system is asked
/// for large pages where it has them: a picture is written down columns of tiles, and would need another
/// page's address for each of its rows. Throws std::bad_alloc.
void* allocate_pixels(std::size_t bytes);
/// Gives back what allocate_pixels() gave.
void free_pixels(void* pixels, std::size_t bytes) noexcept;

/// For the standard containers.
template <class Value> struct pixel_allocator {
    using value_type = Value; ///< as allocators call it

    pixel_allocator() = default;
    /// From one for other values.
    template <class Other>
    pixel_allocator(const pixel_allocator<Other>&) noexcept {} // NOLINT: as others convert

    /// Memory for so many values, not initialised.
    [[nodiscard]] Value* allocate(std::size_t count) {
        if (count > std::numeric_limits<std::size_t>::max() / sizeof(Value)) {
            throw std::bad_array_new_length();
        }
        return static_cast<Value*>(allocate_pixels(count * sizeof(Value)));
    }
    /// Holds nothing in particular until it is written: who makes a picture writes all of it, and on several
    /// threads that takes half as long as to fill it with zeros before. (What is given a value is made as
    /// usual.)
    template <class Other> void construct(Other* place) noexcept { ::new (static_cast<void*>(place)) Other; }
    /// Gives it back.
    void deallocate(Value* pixels, std::size_t count) noexcept { free_pixels(pixels, count * sizeof(Value)); }

    /// All are alike.
    template <class Other> bool operator==(const pixel_allocator<Other>&) const { return true; }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
