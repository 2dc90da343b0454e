// manual: the commands as files for others to read: a manual page, completions for shells, a page of the
// documents. All are made from the options as commands declare them.
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace CLI {
class App;
}

namespace yurvo::app {

struct option_words {
    std::string names; // `-o,--output`, or without a dash the name of what stands alone
    std::string takes; // `FILE`; empty for a flag
    std::string says;
    bool required = false, list = false;
};
struct command_words {
    std::string name, text, example;
    std::vector<option_words> options; // what stands alone first
};

std::vector<command_words> words_of(const CLI::App& root);

// Each with its file's name: yurvo.1, yurvo.bash, _yurvo (zsh), yurvo.fish, commands.md.
std::vector<std::pair<std::string, std::string>> manual_files(const std::vector<command_words>& commands);

} // namespace yurvo::app
