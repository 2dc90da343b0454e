// base64: bytes as text (RFC 4648, section 4).
#pragma once

#include <string>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The bytes as text, without line breaks.
std::string base64(std::string_view bytes);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
