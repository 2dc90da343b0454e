// Runs a command as a user would, and keeps what it said.
#pragma once

#include <cstdio>
#include <string>

#include <sys/wait.h>

#include "support/temporary_folder.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::testing {

struct outcome {
    int status = -1;
    std::string out, err;

    [[nodiscard]] bool one_line_of_error() const { return !err.empty() && err.find('\n') == err.size() - 1; }
};

inline bool has(const std::string& text, const std::string& part) {
    return text.find(part) != std::string::npos;
}

inline outcome run(const std::string& command) {
    const temporary_folder folder;
    const std::string with_streams =
        "{ " + command + "\n} >" + (folder / "out") + " 2>" + (folder / "err") + " </dev/null";
    const int status = std::system(with_streams.c_str()); // NOLINT: the shell is what users have
    return {WIFEXITED(status) ? WEXITSTATUS(status) : 128, read_whole(folder / "out"),
            read_whole(folder / "err")};
}

} // namespace yurvo::testing
