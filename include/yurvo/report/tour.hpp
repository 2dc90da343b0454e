// tour: the demo: pictures of the scenes that come with Yurvo, one of each study, and every check.
#pragma once

#include <cstddef>
#include <functional>
#include <string>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// What a tour made.
struct tour_result {
    std::string text;       ///< a line for each file: its path, and what is to be seen
    std::size_t failed = 0; ///< checks that did not hold
};

/// Writes the tour's pictures and check.json into a folder, which is made where there is none. `tell` gets
/// what is being done; it may be empty. Throws yurvo::error where a file cannot be written.
tour_result take_tour(const std::string& folder, const std::function<void(const std::string&)>& tell);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
