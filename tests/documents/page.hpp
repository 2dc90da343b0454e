// A document as what stands in it: fenced blocks with their language and words, and the pictures between
// them.
#pragma once

#include <algorithm>
#include <regex>
#include <sstream>
#include <string>
#include <utility>
#include <vector>

#include "support/sampling.hpp"

namespace yurvo::testing {

struct fenced_block {
    std::string language;           ///< the first word behind the fence; empty where there is none
    std::vector<std::string> words; ///< the others
    std::string text;               ///< with the newline of its last line
    std::size_t line = 0;           ///< of the fence, from 1
    std::size_t begin = 0, end = 0; ///< where the text stands in the document, bytes
};

inline std::vector<fenced_block> blocks_of(const std::string& document) {
    std::vector<fenced_block> found;
    bool inside = false;
    std::size_t at = 0;
    for (std::size_t line = 1; at < document.size(); ++line) {
        const std::size_t end = std::min(document.find('\n', at), document.size());
        const std::string text = document.substr(at, end - at);
        const std::size_t next = std::min(end + 1, document.size());
        if (text.starts_with("```")) {
            if (!inside) {
                std::istringstream words(text.substr(3));
                fenced_block block{.language = {}, .words = {}, .text = {}, .line = line, .begin = next};
                words >> block.language;
                for (std::string word; words >> word;) {
                    block.words.push_back(word);
                }
                found.push_back(block);
            } else {
                found.back().end = at;
                found.back().text = document.substr(found.back().begin, at - found.back().begin);
            }
            inside = !inside;
        }
        at = next;
    }
    return found;
}

inline std::vector<std::string> lines_of(const std::string& text) {
    std::vector<std::string> lines;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        lines.push_back(line);
    }
    return lines;
}

/// A block's text put into the document in the place of the old one.
inline std::string with_block(const std::string& document, const fenced_block& block,
                              const std::string& text) {
    return document.substr(0, block.begin) + text + document.substr(block.end);
}

/// A line without what the machine decides: an instruction set rounds in its own way, within the tolerance of
/// which a part is used; a driver has a name and a coarseness of its own.
inline std::string as_anywhere(const std::string& line) {
    static const std::vector<std::pair<std::regex, std::string>> decided{
        {std::regex(R"([0-9]+ % of (a tolerance used|it))"), "N % of $1"},
        {std::regex(R"(drawn by .*)"), "drawn by a driver"},
        {std::regex(R"(allow for [0-9.]+ times)"), "allow for N times"},
        {std::regex(R"(up to [0-9.]+ pixel)"), "up to N pixel"},
        {std::regex(R"(second method: [-+0-9.e]+,)"), "second method: N,"}};
    std::string result = line;
    for (const auto& [what, instead] : decided) {
        result = std::regex_replace(result, what, instead);
    }
    if (!patient) { // fewer pixels are looked at: see looked_at.hpp
        static const std::regex number(R"([0-9][0-9,.]*[0-9]|[0-9])");
        result = std::regex_replace(result, number, "N");
    }
    return result;
}

/// Whether text is what is expected, where a line "..." stands for any number of lines.
inline bool agrees(const std::vector<std::string>& text, const std::vector<std::string>& expected,
                   std::size_t i = 0, std::size_t e = 0) {
    for (; e < expected.size(); ++i, ++e) {
        if (expected[e] == "...") {
            for (std::size_t from = i; from <= text.size(); ++from) {
                if (agrees(text, expected, from, e + 1)) {
                    return true;
                }
            }
            return false;
        }
        if (i >= text.size() || as_anywhere(text[i]) != as_anywhere(expected[e])) {
            return false;
        }
    }
    return i == text.size();
}

/// One command of a console block and the output that is expected of it.
struct shown_command {
    std::string command;
    std::vector<std::string> output;
};

inline std::vector<shown_command> commands_of(const std::string& console) {
    std::vector<shown_command> found;
    for (const std::string& line : lines_of(console)) {
        if (line.starts_with("$ ")) {
            found.push_back({line.substr(2), {}});
        } else if (!found.empty()) {
            found.back().output.push_back(line);
        }
    }
    return found;
}

} // namespace yurvo::testing
