#include "program/shader_words.hpp"

#include <cctype>

#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// An index may hold brackets of its own.
std::size_t behind_index(const std::string& text, std::size_t open) {
    int depth = 0;
    for (std::size_t i = open; i < text.size(); ++i) {
        depth += text[i] == '[' ? 1 : text[i] == ']' ? -1 : 0;
        if (depth == 0) {
            return i + 1;
        }
    }
    return text.size();
}

bool of_name(char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_'; }

} // namespace

bool is_name(const std::string& word) {
    return !word.empty() && of_name(word[0]) && std::isdigit(static_cast<unsigned char>(word[0])) == 0;
}

std::size_t closed_at(const std::vector<std::string>& words, std::size_t open) {
    const std::string& opening = words[open];
    const char* const closing = opening == "{" ? "}" : ")";
    int depth = 0;
    for (std::size_t i = open; i < words.size(); ++i) {
        depth += words[i] == opening ? 1 : words[i] == closing ? -1 : 0;
        if (depth == 0) {
            return i;
        }
    }
    return words.size();
}

std::size_t separator_at(const std::vector<std::string>& words, std::size_t begin, std::size_t end,
                         const char* separator) {
    int depth = 0;
    for (std::size_t i = begin; i < end; ++i) {
        if (depth == 0 && words[i] == separator) {
            return i;
        }
        depth += words[i] == "(" ? 1 : words[i] == ")" ? -1 : 0;
    }
    return end;
}

std::vector<std::string> shader_words(const std::string& text) {
    static const text_pattern word(
        R"(^(?:#(?:[^\n\\]|\\\n?)*|([A-Za-z_]\w*)|((?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][+-]?[0-9]+)?)[fFhHuU]?|[-+*/]=|[<>=!]=|&&|\|\||[^\s\w]))");
    std::vector<std::string> words;
    for (std::size_t at = 0; at < text.size();) {
        if (std::isspace(static_cast<unsigned char>(text[at])) != 0) {
            ++at;
            continue;
        }
        const auto found = word.find(std::string_view(text).substr(at));
        if (!found) {
            ++at;
            continue;
        }
        const std::string here = found->text(0);
        at += here.size();
        const bool member = !words.empty() && words.back().ends_with('.') && words.back().size() > 1;
        if (here[0] == '#') {
            continue;
        }
        if (member && is_name(here)) {
            words.back() += here;
        } else if (here == "." && !words.empty() && (is_name(words.back()) || words.back() == ")")) {
            if (words.back() == ")") { // of what a bracket gives: read alone
                words.push_back(".");
            } else {
                words.back() += ".";
            }
        } else if (here == "[" && !words.empty() && is_name(words.back())) {
            at = behind_index(text, at - 1);
            words.back() += "[*]";
        } else {
            words.push_back(found->parts[2].empty() ? here : found->text(2));
        }
    }
    return words;
}

} // namespace yurvo::inline v0_1::program
