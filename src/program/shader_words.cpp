#include "program/shader_words.hpp"

#include <cctype>
#include <set>

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

std::map<std::string, written_function> written_functions(const std::vector<std::string>& words) {
    std::map<std::string, written_function> functions;
    for (std::size_t i = 0; i + 2 < words.size(); ++i) {
        if (!is_name(words[i]) || !is_name(words[i + 1]) || words[i + 2] != "(" || words[i] == "return") {
            continue;
        }
        const std::size_t close = closed_at(words, i + 2);
        std::size_t open = close + 1;
        while (open < words.size() && words[open] != "{" && words[open] != ";") {
            ++open; // a semantic
        }
        if (open >= words.size() || words[open] != "{") {
            continue;
        }
        written_function made;
        for (std::size_t w = i + 3; w <= close; ++w) {
            if ((words[w] == "," || words[w] == ")") && is_name(words[w - 1])) {
                made.takes.push_back(words[w - 1]);
            }
        }
        made.begin = open + 1;
        made.end = closed_at(words, open);
        functions[words[i + 1]] = made;
        i = made.end;
    }
    return functions;
}

std::string text_reached_from(const std::string& text, const std::string& function) {
    const std::vector<std::string> words = shader_words(text);
    const std::map<std::string, written_function> functions = written_functions(words);
    if (!functions.contains(function)) {
        return text;
    }
    std::string reached;
    std::set<std::string> known{function};
    std::vector<std::string> waiting{function};
    while (!waiting.empty()) {
        const written_function& body = functions.at(waiting.back());
        waiting.pop_back();
        for (std::size_t i = body.begin; i < body.end; ++i) {
            reached += words[i] + " ";
            if (functions.contains(words[i]) && known.insert(words[i]).second) {
                waiting.push_back(words[i]);
            }
        }
    }
    return reached;
}

} // namespace yurvo::inline v0_1::program
