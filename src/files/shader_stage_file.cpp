// A stage of a shader program from its source, with what that includes.
#include <algorithm>
#include <sstream>
#include <string_view>
#include <utility>

#include "scene/text_pattern.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::inline v0_1 {

namespace {

constexpr std::size_t largest_source = std::size_t{4} << 20U;

// Without the mark by which some editors say that a text is UTF-8, which no compiler of shaders knows.
std::string without_mark(std::string text) {
    constexpr std::string_view mark = "\xEF\xBB\xBF";
    return text.starts_with(mark) ? text.substr(mark.size()) : std::move(text);
}

// A source with what it includes: `#include "file"`, beside the file that says so.
class including {
    static constexpr std::size_t deepest = 32;
    shader_stage& stage_;
    std::size_t size_ = 0;
    bool includes_ = false;

    void add(std::uint32_t file, const std::string& text, std::size_t depth) {
        static const text_pattern include(R"re(^\s*#\s*include\s*["<]([^">]+)[">])re");
        static const text_pattern once(R"(^\s*#\s*pragma\s+once\b)");
        std::istringstream lines(text);
        std::uint32_t number = 0;
        for (std::string line; std::getline(lines, line);) {
            ++number;
            const std::string path = stage_.files[file];
            if (const auto found = include.find(line)) {
                includes_ = true;
                add_file(found->text(1), {path, number, found->place(1) + 1}, depth + 1);
                continue;
            }
            size_ += line.size() + 1;
            if (size_ > largest_source) {
                throw error({path, number, 1}, "with what it includes the source is over 4 MB",
                            "a smaller one");
            }
            stage_.source += (once.is_in(line) ? "" : line) + "\n";
            stage_.lines.push_back({file, number});
        }
    }

    void add_file(const std::string& name, const source_location& where, std::size_t depth) {
        if (depth > deepest) {
            throw error(where, "`" + name + "` is included over and over",
                        "a file that does not include itself");
        }
        const std::string path = beside(where.file, name);
        std::string text;
        try {
            text = without_mark(read_whole(path, largest_source));
        } catch (const error& failed) {
            throw error(where, "`" + name + "` " + failed.wrong(), "a file beside the one that includes it");
        }
        const bool known = std::find(stage_.files.begin(), stage_.files.end(), path) != stage_.files.end();
        if (known && text.find("#pragma once") != std::string::npos) {
            return;
        }
        stage_.files.push_back(path);
        add(static_cast<std::uint32_t>(stage_.files.size() - 1), text, depth);
    }

  public:
    explicit including(shader_stage& stage) : stage_(stage) {
        const std::string text = std::move(stage.source);
        stage.source.clear();
        stage.files = {stage.file};
        add(0, text, 0);
        if (!includes_) {
            stage.source = text;
            stage.files.clear();
            stage.lines.clear();
        }
    }
};

} // namespace

shader_stage read_stage(const std::string& path, shading_language language) {
    shader_stage stage;
    stage.file = path;
    stage.source = read_whole(path, largest_source);
    if (language != shading_language::spirv) {
        stage.source = without_mark(std::move(stage.source));
        including add_includes(stage);
    }
    return stage;
}

} // namespace yurvo::inline v0_1
