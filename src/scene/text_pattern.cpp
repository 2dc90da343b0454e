#include "scene/text_pattern.hpp"

#include <re2/re2.h>

#include "yurvo/numeric/assert.hpp"

namespace yurvo::inline v0_1 {

struct text_pattern::compiled {
    re2::RE2 pattern;

    explicit compiled(const std::string& text) : pattern(text, options()) {}

    static re2::RE2::Options options() {
        re2::RE2::Options made(re2::RE2::Latin1);
        made.set_log_errors(false);
        return made;
    }
};

text_pattern::text_pattern(const std::string& pattern) : made_(std::make_shared<const compiled>(pattern)) {
    YURVO_ASSERT(made_->pattern.ok());
}

text_pattern text_pattern::word(const std::string& text) {
    return text_pattern("\\b" + re2::RE2::QuoteMeta(text) + "\\b");
}

std::optional<text_pattern::match> text_pattern::find(std::string_view text, std::size_t from) const {
    const re2::StringPiece whole(text.data(), text.size());
    std::vector<re2::StringPiece> groups(static_cast<std::size_t>(made_->pattern.NumberOfCapturingGroups()) +
                                         1);
    if (from > text.size() || !made_->pattern.Match(whole, from, text.size(), re2::RE2::UNANCHORED,
                                                    groups.data(), static_cast<int>(groups.size()))) {
        return std::nullopt;
    }
    match found;
    found.at = static_cast<std::size_t>(groups[0].data() - text.data());
    for (const re2::StringPiece& group : groups) {
        found.parts.emplace_back(group.data() == nullptr ? text.data() : group.data(), group.size());
    }
    return found;
}

bool text_pattern::is_in(std::string_view text) const {
    const re2::StringPiece whole(text.data(), text.size());
    return made_->pattern.Match(whole, 0, text.size(), re2::RE2::UNANCHORED, nullptr, 0);
}

std::vector<text_pattern::match> text_pattern::all(std::string_view text) const {
    std::vector<match> found;
    std::size_t from = 0;
    while (std::optional<match> next = find(text, from)) {
        const std::size_t length = next->parts[0].size();
        from = next->at + (length > 0 ? length : 1);
        found.push_back(std::move(*next));
    }
    return found;
}

} // namespace yurvo::inline v0_1
