#include "pipeline/parallel.hpp"

#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#if defined(__SANITIZE_THREAD__)
#include <sanitizer/tsan_interface.h>
#endif

namespace yurvo::pipeline {

namespace {

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

} // namespace

void run_pieces(std::size_t count, const std::function<void(std::size_t)>& piece) {
    known_order order;
    oneapi::tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) { order.piece([&] { piece(i); }); });
    order.all_done();
}

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

} // namespace yurvo::pipeline
