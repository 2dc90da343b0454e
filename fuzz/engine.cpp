// libFuzzer's entry: attacks the target that YURVO_FUZZ names.
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <string_view>

#include "targets.hpp"

namespace {

yurvo::fuzzing::attack chosen = nullptr;

} // namespace

extern "C" int LLVMFuzzerInitialize(int* /*count*/, char*** /*arguments*/) {
    const char* const name = std::getenv("YURVO_FUZZ");
    for (const yurvo::fuzzing::target& each : yurvo::fuzzing::targets) {
        if (name != nullptr && each.name == name) {
            chosen = each.attacked;
        }
    }
    if (chosen == nullptr) {
        std::fputs("YURVO_FUZZ must name one of:", stderr);
        for (const yurvo::fuzzing::target& each : yurvo::fuzzing::targets) {
            std::fprintf(stderr, " %.*s", static_cast<int>(each.name.size()), each.name.data());
        }
        std::fputs("\n", stderr);
        std::exit(2);
    }
    return 0;
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    chosen({reinterpret_cast<const char*>(bytes), size});
    return 0;
}
