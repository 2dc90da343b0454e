// parallel: work spread over threads so that what comes out is the same whatever their number.
#pragma once

#include <algorithm>
#include <cstddef>
#include <functional>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

// Calls piece(i) for each i in [0, count), on any thread, in any order. What a piece throws is thrown here.
void run_pieces(std::size_t count, const std::function<void(std::size_t)>& piece);

// Runs work() with that many threads at most; 0 is as many as the machine has.
void with_threads(int threads, const std::function<void()>& work);

// Calls use(i) for each i in [0, count), on any thread, in any order.
template <class Index, class Use> void for_each_of(Index count, Use&& use) {
    run_pieces(static_cast<std::size_t>(count), [&](std::size_t i) { use(static_cast<Index>(i)); });
}

// A run of rows, [top, bottom).
struct band {
    int top = 0, bottom = 0;
};

// Calls use(begin, end) for pieces of [0, count) of `piece`, the last one smaller.
template <class Use> void in_pieces(std::size_t count, std::size_t piece, Use&& use) {
    run_pieces((count + piece - 1) / piece,
               [&](std::size_t i) { use(i * piece, std::min(count, (i + 1) * piece)); });
}

// Calls use(band) for bands of `rows` rows that make up a picture.
template <class Use> void in_bands(int height, int rows, Use&& use) {
    const int bands = (height + rows - 1) / rows;
    for_each_of(bands, [&](int i) { use(band{i * rows, std::min(height, (i + 1) * rows)}); });
}

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
