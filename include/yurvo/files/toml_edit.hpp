// toml_edit: values changed in a TOML text where they stand: comments, order and all else stay.
#pragma once

#include <array>
#include <string>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The text with a value written anew: `place` is its path, `lights[0].position` or `ambient.strength`;
/// `value` is TOML, `[1.0, 2.0]`. A key that is not there is added to its section, a section that is not
/// there to the text. Throws yurvo::error (with `name` for its file) where the text is no TOML, or the place
/// cannot be: an element of a list that is not there, a key of what is no table.
std::string with_value(const std::string& text, const std::string& name, const std::string& place,
                       const std::string& value);

/// The text without a key, or without an element of a list of sections (`lights[1]`) and the comment above
/// it. As it is where there is none. Throws yurvo::error where the text is no TOML, or the list is written in
/// one value.
std::string without_value(const std::string& text, const std::string& name, const std::string& place);

/// The text with a section appended to a list of sections, behind its last one: `body` is lines of keys.
std::string with_section(const std::string& text, const std::string& name, const std::string& list,
                         const std::string& body);

/// A number as TOML has it: the fewest digits that read back as the same, with a point. Three as an array. A
/// text in quotes, whatever it holds.
std::string toml_number(double value);
/// The numbers as TOML writes a list of them.
std::string toml_numbers(const std::vector<double>& values);
/// The text as TOML writes one, in quotes.
std::string toml_text(const std::string& text);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
