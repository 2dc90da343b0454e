#include "yurvo/files/toml_edit.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <optional>
#include <set>
#include <utility>

#include <toml++/toml.h>

#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1 {

namespace {

// A step of a path: a key, or an index.
struct path_step {
    std::string key;
    std::optional<std::size_t> index;
};

// `materials.deck.base[0]`; a key with other letters than TOML's bare ones stands in quotes.
std::vector<path_step> steps_of(const std::string& place, const std::string& name) {
    std::vector<path_step> steps;
    const auto wrong = [&]() -> error {
        return {
            {name, 0, 0}, "`" + place + "` is no place in it", "keys with points between, `lights[0].color`"};
    };
    for (std::size_t at = 0; at < place.size();) {
        if (place[at] == '[') {
            const std::size_t close = place.find(']', at);
            if (close == std::string::npos || close == at + 1 || close - at > 7 ||
                place.find_first_not_of("0123456789", at + 1) != close) {
                throw wrong();
            }
            steps.push_back({"", std::stoul(place.substr(at + 1, close - at - 1))});
            at = close + 1;
        } else if (place[at] == '"') {
            const std::size_t close = place.find('"', at + 1);
            if (close == std::string::npos) {
                throw wrong();
            }
            steps.push_back({place.substr(at + 1, close - at - 1), std::nullopt});
            at = close + 1;
        } else {
            const std::size_t end = std::min(place.find_first_of(".[", at), place.size());
            steps.push_back({place.substr(at, end - at), std::nullopt});
            at = end;
        }
        if (at < place.size() && place[at] == '.') {
            ++at;
        }
    }
    if (steps.empty() || steps.front().index) {
        throw wrong();
    }
    return steps;
}

std::string written_key(const std::string& key) {
    const bool bare = !key.empty() && std::all_of(key.begin(), key.end(), [](unsigned char c) {
        return std::isalnum(c) != 0 || c == '_' || c == '-';
    });
    return bare ? key : toml_text(key);
}

class edited_text {
    std::string text_;
    const std::string& name_;
    toml::table root_;
    std::vector<std::size_t> lines_; // where each begins

    // Columns count characters, not bytes.
    [[nodiscard]] std::size_t offset(const toml::source_position& at) const {
        std::size_t here = lines_[at.line - 1];
        for (std::uint32_t column = 1; column < at.column && here < text_.size(); ++column) {
            ++here;
            while (here < text_.size() && (static_cast<unsigned char>(text_[here]) & 0xC0U) == 0x80U) {
                ++here;
            }
        }
        return here;
    }
    [[nodiscard]] std::size_t end_of_line(std::size_t at) const {
        const std::size_t end = text_.find('\n', at);
        return end == std::string::npos ? text_.size() : end + 1;
    }

    // Where the sections begin, lines from 1.
    static void find_headers(const toml::node& node, std::set<std::size_t>& lines) {
        if (const toml::table* table = node.as_table()) {
            if (!table->is_inline() && node.source().begin.line > 0) {
                lines.insert(node.source().begin.line);
            }
            for (auto&& [key, value] : *table) {
                find_headers(value, lines);
            }
        } else if (const toml::array* list = node.as_array()) {
            for (const toml::node& each : *list) {
                if (each.is_table()) {
                    find_headers(each, lines);
                }
            }
        }
    }
    [[nodiscard]] std::set<std::size_t> headers() const {
        std::set<std::size_t> lines;
        for (auto&& [key, value] : root_) {
            find_headers(value, lines);
        }
        return lines;
    }

    // A section that has a header of its own: not one that only its subsections name.
    [[nodiscard]] bool has_header(const toml::table& table) const {
        if (&table == &root_) {
            return false;
        }
        const std::size_t line = table.source().begin.line;
        return std::none_of(table.begin(), table.end(), [&](auto&& entry) {
            return entry.second.is_table() && !entry.second.as_table()->is_inline() &&
                   entry.second.source().begin.line == line;
        });
    }

    // Behind the last of a table's own keys, or behind its header: where another line goes.
    [[nodiscard]] std::size_t end_of_keys(const toml::table& table) const {
        std::optional<std::size_t> last;
        for (auto&& [key, value] : table) {
            const bool section =
                (value.is_table() && !value.as_table()->is_inline()) ||
                (value.is_array() && value.source().begin.line > 0 && is_list_of_sections(value));
            if (!section) {
                last = std::max(last.value_or(0), end_of_line(offset(value.source().end)));
            }
        }
        if (last) {
            return *last;
        }
        return &table == &root_ ? 0 : end_of_line(lines_[table.source().begin.line - 1]);
    }
    static bool is_list_of_sections(const toml::node& node) {
        const toml::array* list = node.as_array();
        return list != nullptr && !list->empty() && list->front().is_table() &&
               !list->front().as_table()->is_inline();
    }

    [[nodiscard]] error no_such(const std::string& place, const std::string& right) const {
        return {{name_, 0, 0}, "there is no `" + place + "` in it", right};
    }

    void insert(std::size_t at, std::string what) {
        if (at > 0 && at == text_.size() && text_.back() != '\n') {
            what.insert(0, "\n");
        }
        text_.insert(at, what);
    }

  public:
    edited_text(std::string text, const std::string& name) : text_(std::move(text)), name_(name) {
        try {
            root_ = toml::parse(std::string_view(text_), std::string_view(name_));
        } catch (const toml::parse_error& wrong) {
            throw error({name_, wrong.source().begin.line, wrong.source().begin.column},
                        "this is no TOML: " + std::string(wrong.description()), "TOML 1.0");
        }
        lines_.push_back(0);
        for (std::size_t at = text_.find('\n'); at != std::string::npos; at = text_.find('\n', at + 1)) {
            lines_.push_back(at + 1);
        }
        lines_.push_back(text_.size());
    }

    [[nodiscard]] const std::string& text() const { return text_; }

    void set(const std::string& place, const std::string& value) {
        const std::vector<path_step> steps = steps_of(place, name_);
        const toml::node* node = &root_;
        for (std::size_t i = 0; i < steps.size(); ++i) {
            const path_step& step = steps[i];
            if (step.index) {
                const toml::array* list = node->as_array();
                if (list == nullptr || *step.index >= list->size()) {
                    throw no_such(place, "an element that is there");
                }
                node = list->get(*step.index);
                continue;
            }
            const toml::table* table = node->as_table();
            if (table == nullptr) {
                throw no_such(place, "a key of a section");
            }
            const toml::node* next = table->get(step.key);
            if (next == nullptr) {
                add(*table, steps, i, value, place);
                return;
            }
            node = next;
        }
        if ((node->is_table() && !node->as_table()->is_inline()) || is_list_of_sections(*node)) {
            throw error({name_, node->source().begin.line, node->source().begin.column},
                        "`" + place + "` is a section", "the place of a value");
        }
        const std::size_t begin = offset(node->source().begin);
        text_.replace(begin, offset(node->source().end) - begin, value);
    }

    // The keys from `from` on are not there yet.
    void add(const toml::table& table, const std::vector<path_step>& steps, std::size_t from,
             const std::string& value, const std::string& place) {
        if (std::any_of(steps.begin() + static_cast<std::ptrdiff_t>(from), steps.end(),
                        [](const path_step& each) { return each.index.has_value(); })) {
            throw no_such(place, "an element that is there");
        }
        if (table.is_inline()) {
            std::string keys;
            for (std::size_t i = from; i < steps.size(); ++i) {
                keys += (i > from ? "." : "") + written_key(steps[i].key);
            }
            const std::size_t close = offset(table.source().end) - 1;
            text_.insert(close, (table.empty() ? " " : ", ") + keys + " = " + value + " ");
            return;
        }
        if (from + 1 == steps.size() && (&table == &root_ || has_header(table))) {
            insert(end_of_keys(table), written_key(steps[from].key) + " = " + value + "\n");
            return;
        }
        std::string header;
        for (std::size_t i = 0; i + 1 < steps.size(); ++i) {
            if (steps[i].index) { // a section in an element of a list: by keys with points there
                insert(end_of_keys(table), written_key(steps[from].key) + "." +
                                               written_key(steps.back().key) + " = " + value + "\n");
                return;
            }
            header += (i > 0 ? "." : "") + written_key(steps[i].key);
        }
        insert(text_.size(), "\n[" + header + "]\n" + written_key(steps.back().key) + " = " + value + "\n");
    }

    // The lines of a section with the comment right above it, from its header to the next one's comment.
    [[nodiscard]] std::pair<std::size_t, std::size_t> lines_of_section(std::size_t header) const {
        const std::set<std::size_t> all = headers();
        const auto next = all.upper_bound(header);
        const auto with_comment = [&](std::size_t line) {
            while (line > 1) {
                const std::string above = text_.substr(lines_[line - 2], lines_[line - 1] - lines_[line - 2]);
                const std::size_t first = above.find_first_not_of(" \t");
                if (first == std::string::npos || above[first] != '#') {
                    break;
                }
                --line;
            }
            return line;
        };
        const std::size_t end = next == all.end() ? lines_.size() : with_comment(*next);
        return {lines_[with_comment(header) - 1], lines_[end - 1]};
    }

    void remove(const std::string& place) {
        const std::vector<path_step> steps = steps_of(place, name_);
        const toml::node* node = &root_;
        for (const path_step& step : steps) {
            const toml::node* next = nullptr;
            if (step.index) {
                const toml::array* list = node->as_array();
                next = list == nullptr ? nullptr : list->get(*step.index);
            } else {
                const toml::table* table = node->as_table();
                next = table == nullptr ? nullptr : table->get(step.key);
            }
            if (next == nullptr) {
                return;
            }
            node = next;
        }
        if (node->is_table() && !node->as_table()->is_inline()) {
            const auto [begin, end] = lines_of_section(node->source().begin.line);
            text_.erase(begin, end - begin);
            return;
        }
        if (steps.back().index || node->is_table() || is_list_of_sections(*node)) {
            throw error({name_, node->source().begin.line, node->source().begin.column},
                        "`" + place + "` stands in one value with others", "sections of their own");
        }
        const std::size_t begin = lines_[node->source().begin.line - 1];
        text_.erase(begin, end_of_line(offset(node->source().end)) - begin);
    }

    void append(const std::string& list, const std::string& body) {
        const std::string section = "[[" + list + "]]\n" + body;
        const toml::node* node = root_.get(list);
        if (node == nullptr) {
            insert(text_.size(), (text_.empty() ? "" : "\n") + section);
            return;
        }
        if (!is_list_of_sections(*node)) {
            throw error({name_, node->source().begin.line, node->source().begin.column},
                        "`" + list + "` is written in one value",
                        "sections that begin with [[" + list + "]]");
        }
        // Behind the last one and what belongs to it.
        const toml::array& all = *node->as_array();
        std::size_t end = lines_of_section(all.back().source().begin.line).second;
        while (end > 1 && text_[end - 1] == '\n' && text_[end - 2] == '\n') {
            --end; // the empty lines before what follows stay there
        }
        insert(end, (end > 0 ? "\n" : "") + section);
    }
};

} // namespace

std::string with_value(const std::string& text, const std::string& name, const std::string& place,
                       const std::string& value) {
    edited_text made(text, name);
    made.set(place, value);
    return made.text();
}

std::string without_value(const std::string& text, const std::string& name, const std::string& place) {
    edited_text made(text, name);
    made.remove(place);
    return made.text();
}

std::string with_section(const std::string& text, const std::string& name, const std::string& list,
                         const std::string& body) {
    edited_text made(text, name);
    made.append(list, body);
    return made.text();
}

std::string toml_number(double value) {
    std::array<char, 32> digits{};
    const auto [end, failed] = std::to_chars(digits.data(), digits.data() + digits.size(), value);
    std::string text(digits.data(), failed == std::errc{} ? end : digits.data());
    if (text.find_first_of(".einf") == std::string::npos) {
        text += ".0";
    }
    return text;
}

std::string toml_numbers(const std::vector<double>& values) {
    std::string text = "[";
    for (const double value : values) {
        text += (text.size() > 1 ? ", " : "") + toml_number(value);
    }
    return text + "]";
}

std::string toml_text(const std::string& text) {
    std::string result = "\"";
    for (const char c : text) {
        const auto code = static_cast<unsigned char>(c);
        if (c == '"' || c == '\\') {
            result += {'\\', c};
        } else if (code < 0x20 || code == 0x7F) {
            constexpr const char* hex = "0123456789ABCDEF";
            result += std::string("\\u00") + hex[code >> 4U] + hex[code & 0xFU];
        } else {
            result += c;
        }
    }
    return result + "\"";
}

} // namespace yurvo::inline v0_1
