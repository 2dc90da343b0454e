// guess_words: the words in a name, and what the first that is known says.
#pragma once

#include <initializer_list>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace yurvo::inline v0_1::program {

// Without the letter that says what it is, in small letters: `u_light` and `uLight` are `light`.
std::string lowered(std::string text);

// What the whole name says; empty where it is none of them.
std::string one_of(const std::string& name,
                   std::initializer_list<std::pair<std::string_view, std::string_view>> names);

struct rule {
    std::vector<std::string_view> any; // words, one of which the name holds
    std::string_view means;
};

// What the first rule says of which the name holds a word; empty where it holds none.
std::string first_of(const std::vector<rule>& rules, const std::string& name);

} // namespace yurvo::inline v0_1::program
