#include "yurvo/live/watched_files.hpp"

#include <sys/stat.h>

#include <set>

namespace yurvo::inline v0_1::live {

namespace {

constexpr std::chrono::milliseconds coarse{100}; // a file system's clock may stand still for so long

// Whether a file was written so little before now that it may be written again with the same time.
bool looked_too_soon(std::int64_t changed) {
    const std::chrono::nanoseconds now = std::chrono::system_clock::now().time_since_epoch();
    return now - std::chrono::nanoseconds(changed) < coarse;
}

} // namespace

watched_files::stamp watched_files::stamp_of(const std::string& path) {
    struct stat at {};
    if (::stat(path.c_str(), &at) != 0) {
        return {};
    }
    return {true, at.st_dev, at.st_ino, static_cast<std::uint64_t>(at.st_size),
            static_cast<std::int64_t>(at.st_mtim.tv_sec) * 1'000'000'000 + at.st_mtim.tv_nsec};
}

void watched_files::watch(const std::vector<std::string>& paths) {
    const std::set<std::string> wanted(paths.begin(), paths.end());
    std::erase_if(files_, [&](const auto& each) { return wanted.count(each.first) == 0; });
    const auto now = std::chrono::steady_clock::now();
    for (const std::string& path : wanted) {
        if (files_.count(path) == 0) {
            const stamp is = stamp_of(path);
            files_[path] = {is, is, now, now,
                            looked_too_soon(is.changed) ? now + coarse : clock::time_point::max()};
        }
    }
}

std::vector<std::string> watched_files::changed() {
    std::vector<std::string> result;
    const auto now = clock::now();
    for (auto& [path, known] : files_) {
        const stamp is = stamp_of(path);
        if (is == known.told) {
            known.seen = is;
            if (now >= known.again) {
                known.again = clock::time_point::max();
                result.push_back(path);
            }
            continue;
        }
        if (known.seen == known.told) { // the first sight of this change
            known.began = now;
        }
        if (!(is == known.seen) || known.seen == known.told) {
            known.quiet_since = now;
        }
        known.seen = is;
        if (now - known.quiet_since >= settles_ || now - known.began >= 10 * settles_) {
            known.told = is;
            known.again = looked_too_soon(is.changed) ? now + coarse : clock::time_point::max();
            result.push_back(path);
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::live
