// background: work that is begun anew whenever what it is about has changed.
#pragma once

#include <atomic>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>
#include <utility>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// One piece of work at a time in a thread of its own. A new one cancels what runs: that gets to know by
/// `cancelled`, and its result is dropped.
template <class Result> class background {
  public:
    /// May report results as they come; what it returns is the last.
    using work =
        std::function<Result(const std::atomic<bool>& cancelled, const std::function<void(Result)>& so_far)>;

  private:
    std::mutex mutex_;
    std::condition_variable wakes_;
    std::optional<work> waiting_;
    std::optional<Result> result_;
    std::atomic<bool> cancelled_{false};
    bool running_ = false, ends_ = false;
    std::thread thread_;

    void put(Result result) {
        const std::lock_guard hold(mutex_);
        if (!cancelled_) {
            result_ = std::move(result);
        }
    }
    void run() {
        std::unique_lock hold(mutex_);
        while (true) {
            wakes_.wait(hold, [&] { return ends_ || waiting_; });
            if (ends_) {
                return;
            }
            const work now = std::move(*waiting_);
            waiting_.reset();
            running_ = true;
            cancelled_ = false;
            hold.unlock();
            Result result = now(cancelled_, [&](Result so_far) { put(std::move(so_far)); });
            put(std::move(result));
            hold.lock();
            running_ = false;
            wakes_.notify_all();
        }
    }

  public:
    background() : thread_([this] { run(); }) {}
    background(const background&) = delete;
    background& operator=(const background&) = delete;
    background(background&&) = delete;
    background& operator=(background&&) = delete;
    ~background() {
        {
            const std::lock_guard hold(mutex_);
            ends_ = true;
            cancelled_ = true;
        }
        wakes_.notify_all();
        thread_.join();
    }

    /// The work must not throw.
    void start(work next) {
        {
            const std::lock_guard hold(mutex_);
            cancelled_ = true;
            waiting_ = std::move(next);
            result_.reset();
        }
        wakes_.notify_all();
    }
    /// What is worked on is of no use any more, and nothing takes its place.
    void cancel() {
        const std::lock_guard hold(mutex_);
        cancelled_ = true;
        waiting_.reset();
        result_.reset();
    }
    /// A result that was not taken yet.
    std::optional<Result> take() {
        const std::lock_guard hold(mutex_);
        return std::exchange(result_, std::nullopt);
    }
    /// Whether there is work that has not ended.
    [[nodiscard]] bool busy() {
        const std::lock_guard hold(mutex_);
        return running_ || waiting_;
    }
    /// Waits until there is none.
    void wait() {
        std::unique_lock hold(mutex_);
        wakes_.wait(hold, [&] { return !running_ && !waiting_; });
    }
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
