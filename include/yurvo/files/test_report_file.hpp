// The results of checks in the XML that servers which run tests read (JUnit's).
#pragma once

#include <string>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// One test for a server that runs tests.
struct test_case {
    std::string suite, name; ///< the suite it belongs to, and its own name
    bool passed = true;      ///< whether it held
    std::string failure;     ///< what did not hold; empty where it passed
};

/// Written whole or not at all. Throws yurvo::error.
void write_junit(const std::string& path, const std::vector<test_case>& cases);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
