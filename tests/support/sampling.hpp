// How much of a long test is gone through: all of it, or a part where a sanitizer makes each round many times
// slower. What a sanitizer looks for is in how something is done, which a part of a long list goes through as
// well as the whole.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <cstdlib>

namespace yurvo::testing {

#if defined(__SANITIZE_THREAD__)
inline constexpr std::size_t one_in = 40;
#elif defined(__SANITIZE_ADDRESS__)
inline constexpr std::size_t one_in = 20;
#else
inline constexpr std::size_t one_in = 1;
#endif
/// Whether lists are gone through to the end: what is counted over all of one only holds then.
inline constexpr bool whole = one_in == 1;

/// Whether what is tried many times over, as a guess tries claims, is tried again where one test has gone the
/// same way: a guess takes minutes under the thread sanitizer.
inline constexpr bool patient = one_in < 40;

/// The scenes that a check of all is asked for, as words of a command: none, which is all, or some with
/// lights of each kind.
inline constexpr const char* scenes_asked = whole ? "" : " lantern-quay-inverse-square buoys-phong penumbras";

/// How many of so many rounds.
constexpr std::size_t rounds(std::size_t usual) { return std::max(usual / one_in, std::size_t{1}); }

/// How many random scenes: YURVO_RANDOM_SCENES asks for more than are usual.
inline std::uint64_t random_scene_count(std::size_t usual) {
    const char* const asked = std::getenv("YURVO_RANDOM_SCENES");
    return asked != nullptr ? std::strtoull(asked, nullptr, 10) : rounds(usual);
}

/// Says of what a list holds, one after another, whether it is asked: the first, and then one in so many.
class part_of_list {
  public:
    bool asks_next() { return next_++ % one_in == 0; }

  private:
    std::size_t next_ = 0;
};

} // namespace yurvo::testing
