// Every file of the corpora once, and what fuzzing has ever found: a test that needs no fuzzer.
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <string>

#include "targets.hpp"

int main(int count, char** arguments) {
    namespace fs = std::filesystem;
    if (count != 2) {
        std::fputs("usage: fuzz_replay FOLDER-OF-CORPORA\n", stderr);
        return 2;
    }
    bool all = true;
    for (const yurvo::fuzzing::target& each : yurvo::fuzzing::targets) {
        const fs::path folder = fs::path(arguments[1]) / each.name;
        std::size_t files = 0;
        if (fs::is_directory(folder)) {
            for (const fs::directory_entry& entry : fs::directory_iterator(folder)) {
                std::fprintf(stderr, "%s\n",
                             entry.path().c_str()); // the last line, where one of them ends this
                std::ifstream file(entry.path(), std::ios::binary);
                const std::string bytes{std::istreambuf_iterator<char>(file), {}};
                each.attacked(bytes);
                ++files;
            }
        }
        std::printf("%-14.*s %4zu files\n", static_cast<int>(each.name.size()), each.name.data(), files);
        all = all && files > 0; // a target without a corpus is not tested
    }
    return all ? 0 : 1;
}
