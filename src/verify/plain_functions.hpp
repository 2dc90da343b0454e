// plain_functions: the functions and operators of formulas, each result with the interval in which float
// would leave it.
#pragma once

#include <cstddef>
#include <string_view>

#include "verify/plain_formulas.hpp"

namespace yurvo::inline v0_1::verify {

// Which function a name calls, for call().
std::size_t function_called(std::string_view name);

// `result` is none of the arguments; `width` is that of vec2, vec3 and vec4.
void call(std::size_t which, std::size_t width, plain_operands arguments, plain_value& result);

// Which operation `+`, `<=`, `?`, `negative` and so on are, for operate().
std::size_t operation_of(std::string_view sign);

void operate(std::size_t which, plain_operands of, plain_value& result);

} // namespace yurvo::inline v0_1::verify
