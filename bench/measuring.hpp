// measuring: medians of frames drawn in turn.
#pragma once

#include <algorithm>
#include <chrono>
#include <functional>
#include <vector>

namespace yurvo::bench {

inline double milliseconds_of(const std::function<void()>& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
}

inline double median(std::vector<double> of) {
    std::sort(of.begin(), of.end());
    return of[of.size() / 2];
}

// Runs every work once to warm up, then in turn, `frames` times each: what disturbs the machine disturbs all.
inline std::vector<double> medians_in_turn(const std::vector<std::function<void()>>& works, int frames) {
    std::vector<std::vector<double>> times(works.size());
    for (int frame = -1; frame < frames; ++frame) {
        for (std::size_t i = 0; i < works.size(); ++i) {
            const double taken = milliseconds_of(works[i]);
            if (frame >= 0) {
                times[i].push_back(taken);
            }
        }
    }
    std::vector<double> medians;
    for (const std::vector<double>& of : times) {
        medians.push_back(median(of));
    }
    return medians;
}

} // namespace yurvo::bench
