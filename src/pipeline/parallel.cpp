#include "pipeline/parallel.hpp"

#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#if defined(__SANITIZE_THREAD__)
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>
#endif

namespace yurvo::inline v0_1::pipeline {

#if defined(__SANITIZE_THREAD__)

// The thread sanitizer does not look into TBB's library, and takes what its tasks hand to each other for
// races. Under it pieces run on threads of our own, whose beginnings and ends it knows.
void run_pieces(std::size_t count, const std::function<void(std::size_t)>& piece) {
    static thread_local bool within = false; // a piece's own pieces run where it does
    if (within || count <= 1) {
        for (std::size_t i = 0; i < count; ++i) {
            piece(i);
        }
        return;
    }
    std::atomic<std::size_t> next = 0;
    std::mutex of_fault;
    std::exception_ptr fault;
    const auto work = [&] {
        within = true;
        try {
            for (std::size_t i = next++; i < count; i = next++) {
                piece(i);
            }
        } catch (...) {
            const std::lock_guard hold(of_fault);
            fault = std::current_exception();
        }
        within = false;
    };
    std::thread other(work);
    work();
    other.join();
    if (fault) {
        std::rethrow_exception(fault);
    }
}

#else

void run_pieces(std::size_t count, const std::function<void(std::size_t)>& piece) {
    // Whoever waits for these pieces takes no others meanwhile, which might wait for what it holds.
    oneapi::tbb::this_task_arena::isolate([&] { oneapi::tbb::parallel_for(std::size_t{0}, count, piece); });
}

#endif

void with_threads(int threads, const std::function<void()>& work) {
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

} // namespace yurvo::inline v0_1::pipeline
