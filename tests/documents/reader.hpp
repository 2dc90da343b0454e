// A reader of the documents: a folder of one's own, with the tool, and a tool of one's own, on the path.
#pragma once

#include <algorithm>
#include <cctype>
#include <filesystem>
#include <string>
#include <vector>

#include "documents/page.hpp"
#include "support/run.hpp"

namespace yurvo::testing {

class reader {
    temporary_folder folder_, programs_;

  public:
    reader() {
        std::filesystem::create_symlink(YURVO_TOOL, programs_ / "yurvo");
        std::filesystem::create_symlink(YURVO_OWN_MODEL, programs_ / "mine");
    }
    [[nodiscard]] std::string path_of(const std::string& name) const { return folder_ / name; }
    [[nodiscard]] outcome run_here(const std::string& command) const {
        return run("cd " + folder_.path() + " && export PATH=" + programs_.path() + ":$PATH && { " + command +
                   "\n}");
    }
    /// What a command prints, as a terminal would show it.
    [[nodiscard]] std::vector<std::string> type(const std::string& command) const {
        return lines_of(run_here("{ " + command + "\n} 2>&1").out);
    }
};

inline std::string without_spaces(std::string text) {
    text.erase(std::remove_if(text.begin(), text.end(), [](unsigned char c) { return std::isspace(c) != 0; }),
               text.end());
    return text;
}

} // namespace yurvo::testing
