// visible_text: what comes from files, fit for a terminal or a page: titles, names, a driver's words.
#pragma once

#include <string>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The same text in which nothing acts on what shows it: control characters (C0 but for line ends and tabs,
/// DEL, C1) and those that change the direction of writing (Unicode's bidirectional controls) are written out
/// as `\u001b`, which JSON reads as the same; bytes that are not UTF-8 as `\xff`.
std::string visible_text(std::string_view text);

/// ... on one line: line ends and tabs are written out too, `\n`.
std::string on_one_line(std::string_view text);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
