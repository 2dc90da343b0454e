// Texts with one part changed: the mistakes that tests write.
#pragma once

#include <string>

#include <doctest/doctest.h>

namespace yurvo::testing {

// The text with the first such part replaced; it must be there.
inline std::string replaced(std::string text, const std::string& what, const std::string& with) {
    const std::size_t at = text.find(what);
    REQUIRE(at != std::string::npos);
    return text.replace(at, what.size(), with);
}

} // namespace yurvo::testing
