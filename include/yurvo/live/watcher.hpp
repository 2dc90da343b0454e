// watcher: one verdict on a shader program or a picture whenever a file that it hangs on is saved.
#pragma once

#include <atomic>
#include <cstddef>
#include <functional>
#include <string>
#include <vector>

#include "yurvo/live/judge.hpp"
#include "yurvo/live/watched_files.hpp"
#include "yurvo/study/verdict.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// Tells when files that a subject is made of were saved.
class watcher {
    subject of_;
    std::vector<std::string> scenes_;
    const models* own_;
    kept_program program_;
    watched_files files_;

  public:
    /// `scenes`: reference scenes or paths; all reference scenes where there are none, of a program.
    watcher(subject of, std::vector<std::string> scenes, const models* own = nullptr);

    /// Whether a file has been saved since the last time that this was asked.
    bool saved();
    /// Which files there are to watch, as far as they could be read: after each verdict.
    void look_anew();
    /// May run in another thread than saved(). `tell` gets progress. Ends early where `cancelled` is set: the
    /// verdict is then of no use.
    study::run_verdict verdict_now(const std::atomic<bool>& cancelled,
                                   const std::function<void(const std::string&)>& tell);
    /// The file that was named: a program's or a picture's.
    [[nodiscard]] const std::string& subject_file() const {
        return of_.program.empty() ? of_.picture : of_.program;
    }
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
