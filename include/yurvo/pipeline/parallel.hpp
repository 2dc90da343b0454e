// parallel: work spread over threads so that what comes out is the same whatever their number.
#pragma once

#include <algorithm>
#include <cstddef>

#include <oneapi/tbb/blocked_range.h>
#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>

namespace yurvo::pipeline {

// A run of rows, [top, bottom).
struct band {
    int top = 0, bottom = 0;
};

// Calls use(begin, end) for pieces of [0, count) of about `piece`, on any thread, in any order.
template <class Use> void in_pieces(std::size_t count, std::size_t piece, Use&& use) {
    oneapi::tbb::parallel_for(oneapi::tbb::blocked_range<std::size_t>(0, count, piece),
                              [&](const auto& range) { use(range.begin(), range.end()); });
}

// Calls use(band) for bands of `rows` rows that make up a picture.
template <class Use> void in_bands(int height, int rows, Use&& use) {
    const int bands = (height + rows - 1) / rows;
    oneapi::tbb::parallel_for(0, bands, [&](int i) {
        use(band{i * rows, std::min(height, (i + 1) * rows)});
    });
}

// Runs work() with that many threads at most; 0 is as many as the machine has.
template <class Work> void with_threads(int threads, Work&& work) {
    if (threads <= 0) {
        work();
        return;
    }
    // More threads than processors are allowed too; without this TBB says on standard error that it has
    // fewer.
    const oneapi::tbb::global_control allow(oneapi::tbb::global_control::max_allowed_parallelism,
                                            static_cast<std::size_t>(threads));
    oneapi::tbb::task_arena arena(threads);
    arena.execute(work);
}

} // namespace yurvo::pipeline
