// watched_files: which of some files have changed since one last looked.
#pragma once

#include <chrono>
#include <cstdint>
#include <map>
#include <string>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// Looks at files by their size, time and number on disk. A file that is being written is waited for: it
/// counts as changed once it has been the same for a moment. One that was written just before it was looked
/// at is told of twice, since its time may be too coarse to show that it was written again.
class watched_files {
    struct stamp {
        bool there = false;
        std::uint64_t device = 0, number = 0, bytes = 0;
        std::int64_t changed = 0; // nanoseconds
        friend bool operator==(const stamp&, const stamp&) = default;
    };
    using clock = std::chrono::steady_clock;
    struct entry {
        stamp told;                           // as it was when it was last told of
        stamp seen;                           // as it was last seen
        clock::time_point began, quiet_since; // of the change that is not told yet
        clock::time_point again = clock::time_point::max();
    };
    std::map<std::string, entry> files_;
    std::chrono::milliseconds settles_;

    static stamp stamp_of(const std::string& path);

  public:
    /// `settles`: how long a file stays the same before it counts.
    explicit watched_files(std::chrono::milliseconds settles = std::chrono::milliseconds(20))
        : settles_(settles) {}

    /// These from now on. Those that are new count as they are; of the others what was not told yet still is.
    void watch(const std::vector<std::string>& paths);
    /// Those that are others than when they were last told of, in order; each change once. One that changes
    /// all the time is told of at most once in the time in which others settle, ten times over.
    std::vector<std::string> changed();
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
