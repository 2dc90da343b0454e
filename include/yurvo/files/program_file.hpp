// The program file: TOML that says what the names of a user's shader mean, and what is claimed of it.
#pragma once

#include <string>

#include "yurvo/scene/shader_program.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

class models;

/// With the sources it names, which lie beside it; `own`, where it is given, holds the C++ models that it may
/// claim. Throws yurvo::error at the first thing wrong.
shader_program read_program(const std::string& path, const models* own = nullptr);

/// One stage from its source, with what that includes. Throws yurvo::error.
shader_stage read_stage(const std::string& path, shading_language language);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
