// shader_words: a shader's text word by word, for who reads single statements of it.
#pragma once

#include <cstddef>
#include <map>
#include <string>
#include <vector>

namespace yurvo::inline v0_1::program {

// Names with their members and indices are one word (`lamps[*].color.rgb`), whatever the index; numbers are
// without what says their type; `*=` and its like are one word. Lines for the preprocessor are left out.
std::vector<std::string> shader_words(const std::string& text);

bool is_name(const std::string& word);
// Where the bracket that opens there, ( or {, is closed; the end where it is not.
std::size_t closed_at(const std::vector<std::string>& words, std::size_t open);
// Where a separator stands that no ( holds; `end` where none does.
std::size_t separator_at(const std::vector<std::string>& words, std::size_t begin, std::size_t end,
                         const char* separator);

struct written_function {
    std::vector<std::string> takes; // its parameters' names
    std::size_t begin = 0, end = 0; // its body's words
};
// By their names; of several with one name the last.
std::map<std::string, written_function> written_functions(const std::vector<std::string>& words);
// The bodies of a function and of all that it calls, word by word; the whole text where there is no such
// function.
std::string text_reached_from(const std::string& text, const std::string& function);

} // namespace yurvo::inline v0_1::program
