// parallel: work spread over threads so that what comes out is the same whatever their number.
#pragma once

#include <algorithm>
#include <cstddef>

#include <oneapi/tbb/blocked_range.h>
#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#if defined(__SANITIZE_THREAD__)
#include <sanitizer/tsan_interface.h>
#endif

namespace yurvo::pipeline {

// Tells the thread sanitizer, which does not look into TBB's library, that pieces of work begin after what
// was done before them and end before what is done after them. Otherwise nothing.
class known_order {
#if defined(__SANITIZE_THREAD__)
    char place_ = 0;

  public:
    known_order() { __tsan_release(&place_); }
    template <class Work> void piece(Work&& work) {
        __tsan_acquire(&place_);
        work();
        __tsan_release(&place_);
    }
    void all_done() { __tsan_acquire(&place_); }
#else
  public:
    template <class Work> void piece(Work&& work) { work(); }
    void all_done() {}
#endif
};

// Calls use(i) for each i in [0, count), on any thread, in any order.
template <class Index, class Use> void for_each_of(Index count, Use&& use) {
    known_order order;
    oneapi::tbb::parallel_for(Index{0}, count, [&](Index i) { order.piece([&] { use(i); }); });
    order.all_done();
}

// A run of rows, [top, bottom).
struct band {
    int top = 0, bottom = 0;
};

// Calls use(begin, end) for pieces of [0, count) of about `piece`, on any thread, in any order.
template <class Use> void in_pieces(std::size_t count, std::size_t piece, Use&& use) {
    known_order order;
    oneapi::tbb::parallel_for(
        oneapi::tbb::blocked_range<std::size_t>(0, count, piece),
        [&](const auto& range) { order.piece([&] { use(range.begin(), range.end()); }); });
    order.all_done();
}

// Calls use(band) for bands of `rows` rows that make up a picture.
template <class Use> void in_bands(int height, int rows, Use&& use) {
    const int bands = (height + rows - 1) / rows;
    for_each_of(bands, [&](int i) { use(band{i * rows, std::min(height, (i + 1) * rows)}); });
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
