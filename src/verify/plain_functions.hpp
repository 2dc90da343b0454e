// plain_functions: the functions and operators of formulas, each result with the interval in which float
// would leave it.
#pragma once

#include <cstddef>
#include <span>
#include <string>
#include <string_view>

#include "verify/plain_formulas.hpp"

namespace yurvo::inline v0_1::verify {

// Which function a name calls, for called().
std::size_t function_called(std::string_view name);

plain_value called(const std::string& name, std::size_t which, std::span<const plain_value> arguments);

// Which operation `+`, `<=`, `?`, `negative` and so on are, for operated().
std::size_t operation_of(std::string_view sign);

plain_value operated(std::size_t which, std::span<const plain_value> of);

} // namespace yurvo::inline v0_1::verify
