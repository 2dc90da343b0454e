// Links between the documents lead somewhere: the file is there, and the heading in it.
#include <algorithm>
#include <cctype>
#include <filesystem>
#include <regex>
#include <set>
#include <sstream>
#include <string>
#include <vector>

#include "yurvo/files/whole_file.hpp"
#include <doctest/doctest.h>

using namespace yurvo;

namespace {

namespace fs = std::filesystem;

std::vector<fs::path> documents() {
    const fs::path root = YURVO_ROOT;
    std::vector<fs::path> found;
    for (const char* const folder :
         {"", "docs", "docs/reference", "docs/tutorial", "src/pipeline/wide", ".github"}) {
        if (fs::is_directory(root / folder)) {
            for (const fs::directory_entry& entry : fs::directory_iterator(root / folder)) {
                if (entry.path().extension() == ".md") {
                    found.push_back(entry.path());
                }
            }
        }
    }
    return found;
}

// As pages name their headings: letters and digits in lower case, a dash for each space.
std::set<std::string> anchors_of(const std::string& text) {
    std::set<std::string> anchors;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        if (!line.starts_with('#')) {
            continue;
        }
        std::string anchor;
        for (const char each : line.substr(line.find_first_not_of("# "))) {
            const auto letter = static_cast<unsigned char>(each);
            if (std::isalnum(letter) != 0 || each == '-' || each == '_' || letter >= 0x80) {
                anchor += static_cast<char>(std::tolower(letter));
            } else if (each == ' ') {
                anchor += '-';
            }
        }
        anchors.insert(anchor);
    }
    return anchors;
}

} // namespace

TEST_CASE("links: every one in the documents leads to a file, and to a heading where it names one") {
    static const std::regex link(R"(\]\(([^)\s]+)\))");
    std::size_t links = 0;
    for (const fs::path& document : documents()) {
        const std::string text = read_whole(document.string());
        for (std::sregex_iterator at(text.begin(), text.end(), link), end; at != end; ++at) {
            const std::string target = (*at)[1];
            CAPTURE(document.string());
            CAPTURE(target);
            if (target.find("://") != std::string::npos) {
                continue;
            }
            ++links;
            const std::size_t hash = target.find('#');
            const fs::path file = hash == 0 ? document : document.parent_path() / target.substr(0, hash);
            CHECK(fs::exists(file));
            if (hash != std::string::npos && fs::is_regular_file(file)) {
                CHECK(anchors_of(read_whole(file.string())).contains(target.substr(hash + 1)));
            }
        }
    }
    CHECK(links > 60);
}
