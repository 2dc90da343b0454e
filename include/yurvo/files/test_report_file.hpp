// The results of checks in the XML that servers which run tests read (JUnit's).
#pragma once

#include <string>
#include <vector>

namespace yurvo {

struct test_case {
    std::string suite, name;
    bool passed = true;
    std::string failure; ///< what did not hold; empty where it passed
};

/// Written whole or not at all. Throws yurvo::error.
void write_junit(const std::string& path, const std::vector<test_case>& cases);

} // namespace yurvo
