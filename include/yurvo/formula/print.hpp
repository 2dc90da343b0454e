// print: a parsed formula written out again, in a shading language.
#pragma once

#include <cstdint>
#include <functional>
#include <string>

#include "yurvo/formula/expression.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// The language that an expression is written out in.
enum class written_in : std::uint8_t { glsl, hlsl };

/// The formula as one expression; `named(i)` says what the known name of index i is called there. HLSL has no
/// mod that rounds down: `mod_of` is expected there, of two numbers or vectors.
std::string printed(const expression& formula, written_in language,
                    const std::function<std::string(std::uint32_t)>& named);

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
