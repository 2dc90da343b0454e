#include "yurvo/pipeline/instruction_set.hpp"

#include <algorithm>
#include <cstdlib>
#include <string>

#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::pipeline {

bool runs(instruction_set wanted) {
    switch (wanted) {
    case instruction_set::baseline:
        return true;
#if defined(YURVO_WIDE_KERNELS)
    // Unlike a look at the processor alone, these ask what the operating system saves, too.
    case instruction_set::avx2:
        return __builtin_cpu_supports("avx2") != 0 && __builtin_cpu_supports("fma") != 0;
    case instruction_set::avx512:
        return __builtin_cpu_supports("avx512f") != 0 && __builtin_cpu_supports("avx512dq") != 0 &&
               __builtin_cpu_supports("avx512bw") != 0 && __builtin_cpu_supports("avx512cd") != 0 &&
               __builtin_cpu_supports("avx512vl") != 0 && __builtin_cpu_supports("fma") != 0;
#endif
    default:
        return false;
    }
}

namespace {

instruction_set choose() {
    const char* from_environment = std::getenv("YURVO_ISA"); // NOLINT: nothing here changes the environment
    if (from_environment != nullptr && *from_environment != '\0') {
        const auto* const found =
            std::find(instruction_set_names.begin(), instruction_set_names.end(), from_environment);
        const auto named = static_cast<instruction_set>(found - instruction_set_names.begin());
        if (found == instruction_set_names.end() || !runs(named)) {
            throw error({"YURVO_ISA"},
                        std::string(from_environment) +
                            (found == instruction_set_names.end()
                                 ? " is no instruction set Yurvo has kernels for"
                                 : " does not run on this machine or in this build"),
                        "use baseline, avx2 or avx512, or leave YURVO_ISA unset");
        }
        return named;
    }
    return runs(instruction_set::avx512) ? instruction_set::avx512
           : runs(instruction_set::avx2) ? instruction_set::avx2
                                         : instruction_set::baseline;
}

} // namespace

instruction_set chosen_instruction_set() {
    static const instruction_set chosen = choose();
    return chosen;
}

} // namespace yurvo::inline v0_1::pipeline
