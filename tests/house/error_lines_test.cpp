// Each line that the code can throw is expected by some test: the list of them is read from the code itself.
// That what a test expects is what is really said, the tests themselves hold.
#include <algorithm>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "yurvo/files/whole_file.hpp"
#include <doctest/doctest.h>

using namespace yurvo;

namespace {

namespace fs = std::filesystem;

std::vector<std::string> sources_below(const std::string& folder) {
    std::vector<std::string> paths;
    for (auto at = fs::recursive_directory_iterator(folder); at != fs::end(at); ++at) {
        const std::string name = at->path().filename().string();
        if (at->is_directory() && name == "node_modules") {
            at.disable_recursion_pending();
        } else if (name.ends_with(".cpp") || name.ends_with(".hpp")) {
            paths.push_back(at->path().string());
        }
    }
    std::sort(paths.begin(), paths.end());
    return paths;
}

// The texts in quotes, those that stand side by side as one; escapes as they are written.
std::vector<std::string> literals_in(const std::string& code) {
    std::vector<std::string> texts;
    bool joined = false; // nothing but space since the last
    for (std::size_t at = 0; at < code.size(); ++at) {
        if (code[at] != '"') {
            joined = joined && (code[at] == ' ' || code[at] == '\n');
            continue;
        }
        std::string text;
        for (++at; at < code.size() && code[at] != '"'; ++at) {
            text += code[at];
            if (code[at] == '\\') {
                text += code[++at];
            }
        }
        if (joined && !texts.empty()) {
            texts.back() += text;
        } else {
            texts.push_back(text);
        }
        joined = true;
    }
    return texts;
}

// What can be recognised of a text: its parts between what is filled in.
std::vector<std::string> parts_of(const std::string& text) {
    std::vector<std::string> parts;
    std::string part;
    const auto end = [&] {
        const std::size_t first = part.find_first_not_of(" ;:,");
        const std::size_t last = part.find_last_not_of(" ;:,");
        if (first != std::string::npos && last - first + 1 >= 7) {
            parts.push_back(part.substr(first, last - first + 1));
        }
        part.clear();
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool filled = text.compare(i, 2, "{}") == 0;
        if (filled || text[i] == '`') {
            end();
            i += filled ? 1 : 0;
        } else {
            part += text[i];
        }
    }
    end();
    return parts;
}

// What no test can bring about here, and why.
const std::map<std::string, const char*> unreachable{
    {"a build with Debian's glslang-dev and libspirv-cross-c-shared-dev", "only in a build without them"},
    {"a whole build of it", "only where the build has lost a file"},
    {"one that does", "only where the build has lost a file"},
    {"a smaller picture, or less in the shader", "only where a driver has no memory for a picture"},
    {"a picture that fits in memory", "only where there is no memory for a PNG's rows"},
    {"a folder with room", "tests/faults brings it about; standard error is then on the same full disk"},
    {"a moment, or what this line says", "only for as long as the first verdict is awaited"},
    {"the scene needs more than 4 GiB", "would take 4 GiB to write"},
    {"`kinds`, `lights` and the laws that it takes",
     "each reference scene of some kind suits every claim so far"},
    {"kinds = [\\\"directional\\\"], \\\"point\\\" or \\\"spot\\\", and what such a light has: to_light, "
     "position",
     "a second net under what `kinds` already refuses"},
};

} // namespace

TEST_CASE("error lines: each that the code can throw is expected by a test") {
    const std::string root = std::string(YURVO_ROOT) + "/";
    std::string expected;
    for (const auto& entry : fs::directory_iterator(root + "tests/files/broken")) { // `# expects: ...`
        const std::string text = read_whole(entry.path().string());
        expected += text.substr(0, text.find('\n')) + "\n";
    }
    for (const std::string& path : sources_below(root + "tests")) {
        if (path.find("/house/") == std::string::npos) {
            for (const std::string& text : literals_in(read_whole(path))) {
                expected += text + "\n";
            }
        }
    }
    std::size_t lines = 0;
    for (const char* const folder : {"src", "apps"}) {
        for (const std::string& path : sources_below(root + folder)) {
            const std::string code = read_whole(path);
            for (std::size_t at = code.find("throw "); at != std::string::npos;
                 at = code.find("throw ", at + 1)) {
                const std::string statement = code.substr(at, code.find(";\n", at) - at);
                if (statement.starts_with("throw std::")) {
                    continue; // told to nobody: something of ours catches it
                }
                const std::vector<std::string> texts = literals_in(statement);
                bool held = false;
                bool any = false;
                for (const std::string& text : texts) {
                    held = held || unreachable.contains(text);
                    for (const std::string& part : parts_of(text)) {
                        any = true;
                        held = held || expected.find(part) != std::string::npos;
                    }
                }
                lines += any ? 1 : 0;
                CHECK_MESSAGE((held || !any), path.substr(root.size()) << ": " << statement);
            }
        }
    }
    CHECK(lines > 180); // else they were not found
}
