// instruction_set: for which processors kernels are compiled, and which of them this one runs.
#pragma once

#include <array>
#include <cstdint>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

/// What kernels are compiled for, narrowest first.
enum class instruction_set : std::uint8_t { baseline, avx2, avx512 };

/// As YURVO_ISA names them.
inline constexpr std::array<std::string_view, 3> instruction_set_names{"baseline", "avx2", "avx512"};

/// The widest that the processor has, the operating system saves and this build was made for; a narrower one
/// where the environment variable YURVO_ISA names it. Throws yurvo::error where that names none, or one that
/// cannot run here.
instruction_set chosen_instruction_set();

/// True where this machine and this build can run it.
bool runs(instruction_set wanted);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
