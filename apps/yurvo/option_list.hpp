// option_list: a command's options, as commands declare them. What parses them is known to option_list.cpp
// alone.
#pragma once

#include <cstddef>
#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace yurvo::app {

// How an option is shown and what it must be.
struct option_look {
    const char* type = ""; // `FILE`; empty where the words say it
    bool required = false;
    bool show_default = false; // in the help
    std::size_t count = 0;     // of a list: exactly so many; 0: any number
    bool written = false;      // a file that is written at the end: whether it can be is asked first
};

class option_list {
    CLI::App& command_;
    std::vector<const std::string*> written_;

  public:
    explicit option_list(CLI::App& command) : command_(command) {}

    // `name` is `--size`, or `-o,--output`, or without a dash the name of what stands alone.
    void text(const char* name, std::string& into, const std::string& says, const option_look& look = {});
    void texts(const char* name, std::vector<std::string>& into, const std::string& says,
               const option_look& look = {});
    void whole(const char* name, int& into, const std::string& says, const option_look& look = {});
    void whole(const char* name, std::size_t& into, const std::string& says, const option_look& look = {});
    void whole(const char* name, std::optional<std::uint64_t>& into, const std::string& says,
               const option_look& look = {});
    // From `least` to `most`.
    void whole_within(const char* name, int& into, int least, int most, const std::string& says,
                      const option_look& look = {});
    void flag(const char* name, bool& into, const std::string& says);

    // The names of the files that the command will write; empty, or `-`, where none is asked for.
    [[nodiscard]] const std::vector<const std::string*>& written() const { return written_; }

    // What is called when the command is asked for.
    void when_asked(std::function<void()> call);
};

} // namespace yurvo::app
