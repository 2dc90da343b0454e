// text_pattern: patterns in other people's text, however long it is: matched in linear time, and on no stack
// that grows with the text.
#pragma once

#include <cstddef>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

// In RE2's syntax, which has no references back. Bytes are characters.
class text_pattern {
    struct compiled;
    std::shared_ptr<const compiled> made_;

  public:
    // Of the text that was searched: the whole match, then the pattern's groups; an unused one is empty.
    struct match {
        std::vector<std::string_view> parts;
        std::size_t at = 0; // where the whole match begins
        [[nodiscard]] std::string text(std::size_t group) const { return std::string(parts[group]); }
        // Where a group that was used begins.
        [[nodiscard]] std::size_t place(std::size_t group) const {
            return at + static_cast<std::size_t>(parts[group].data() - parts[0].data());
        }
    };

    explicit text_pattern(const std::string& pattern);
    // A word that stands by itself, whatever characters it has.
    static text_pattern word(const std::string& text);

    // The first match at `from` or behind it.
    [[nodiscard]] std::optional<match> find(std::string_view text, std::size_t from = 0) const;
    [[nodiscard]] bool is_in(std::string_view text) const;
    // All that do not overlap, from left to right.
    [[nodiscard]] std::vector<match> all(std::string_view text) const;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
