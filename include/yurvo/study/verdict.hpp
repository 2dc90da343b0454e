// verdict: what a run of checks says of a subject, in a line.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "yurvo/study/check_run.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A verdict in one word.
enum class finding : std::uint8_t { right, mistake, unknown, broken };

/// What `check` says of the subject, in a line.
struct run_verdict {
    finding what = finding::unknown; ///< in one word
    std::string line;   ///< `right: all 9 checks held`; `normal-flipped: 3 of 9 checks did not hold`
    std::string advice; ///< the mistake's fix, or what would be right; may be empty
    std::vector<std::string> ids;       ///< of the mistakes that explain all that failed
    std::size_t passed = 0, failed = 0; ///< how many checks held, and how many did not
    bool undecided = false;             ///< neither right nor wrong can be said

    /// As `check` ends: 0 right, 1 not, 2 what cannot be read, 3 what is missing on this machine.
    int status = 1;
};

/// What is right, wrong or left open in a run; with coverage, where all reference scenes were asked.
run_verdict verdict_of(const check_run& run, const verify::coverage* covered);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
