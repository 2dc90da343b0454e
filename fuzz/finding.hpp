// finding: what a promise that does not hold comes to.
#pragma once

#include <cstdio>
#include <cstdlib>
#include <string>
#include <string_view>

#include "yurvo/scene/error.hpp"

namespace yurvo::fuzzing {

inline void promise(bool holds, const char* what, const std::string& with = "") {
    if (!holds) {
        std::fprintf(stderr, "finding: %s\n%s\n", what, with.c_str());
        std::abort();
    }
}

// Not whole or nothing, as the house writes files: a fuzzer writes thousands a second.
inline void put_file(const std::string& path, std::string_view bytes) {
    std::FILE* const file = std::fopen(path.c_str(), "wb");
    promise(file != nullptr, "no file can be written");
    std::fwrite(bytes.data(), 1, bytes.size(), file);
    std::fclose(file);
}

// Whether it went well; what is refused is one line with a remedy, in characters that a terminal may get.
template <class Read> bool read_or_refused(Read&& read) {
    try {
        read();
        return true;
    } catch (const error& refused) {
        const std::string line = refused.what();
        for (const char each : line) {
            promise(static_cast<unsigned char>(each) >= 0x20 && each != 0x7F,
                    "a control character in a message", line);
        }
        promise(line.find("; ") != std::string::npos, "a message without a remedy", line);
        return false;
    }
}

} // namespace yurvo::fuzzing
