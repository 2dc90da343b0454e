#include "files/toml_section.hpp"

#include <algorithm>

namespace yurvo::inline v0_1::files {

namespace {

// Keys and words of a file in messages: one line, and not endless.
std::string shown(std::string_view text) {
    constexpr std::size_t most = 60;
    std::string shown_text;
    for (const char c : text.substr(0, most)) {
        shown_text += static_cast<unsigned char>(c) < 0x20 || c == 0x7F ? '?' : c;
    }
    if (text.size() > most) {
        // Not in the middle of a UTF-8 sequence.
        while (!shown_text.empty() &&
               (static_cast<unsigned char>(text[shown_text.size()]) & 0xC0U) == 0x80U) {
            shown_text.pop_back();
        }
        shown_text += "...";
    }
    return "`" + shown_text + "`";
}

std::string type_name(const toml::node& node) {
    switch (node.type()) {
    case toml::node_type::table:
        return "a table";
    case toml::node_type::array:
        return "a list";
    case toml::node_type::string:
        return "text";
    case toml::node_type::integer:
        return "a whole number";
    case toml::node_type::floating_point:
        return "a number";
    case toml::node_type::boolean:
        return "true or false";
    default:
        return "a date or time";
    }
}

} // namespace

std::string quoted_list(const keys& names) {
    std::vector<std::string> quoted;
    quoted.reserve(names.size());
    for (const std::string_view name : names) {
        quoted.push_back("`" + std::string(name) + "`");
    }
    return listed({quoted.begin(), quoted.end()});
}

section::section(const toml::table& table, std::string path, value_places& places)
    : table_(table), path_(std::move(path)), places_(places) {
    if (!path_.empty()) {
        places_.remember(path_, table_.source());
    }
}

void section::fail(std::string_view key, const std::string& wrong, const std::string& right) const {
    const toml::node* node = table_.get(key);
    throw error(places_.at(node != nullptr ? node->source() : table_.source()), wrong, right);
}

void section::fail_here(const std::string& wrong, const std::string& right) const {
    throw error(path_.empty() ? places_.find("") : places_.at(table_.source()), wrong, right);
}

void section::wrong_type(std::string_view key, const toml::node& found, const std::string& right) const {
    throw error(places_.at(found.source()), shown(key) + " is " + type_name(found), right);
}

void section::fail_word(std::string_view key, const std::string& word, const keys& known) const {
    const std::string_view meant = nearest(word, known);
    fail(key, shown(key) + " is " + shown(word),
         quoted_list(known) + (meant.empty() ? std::string() : "; nearest: `" + std::string(meant) + "`"));
}

void section::only(const keys& known) const {
    for (const auto& [key, value] : table_) {
        if (std::find(known.begin(), known.end(), key.str()) != known.end()) {
            continue;
        }
        if (const std::string_view now = renamed(key.str(), known); !now.empty()) {
            throw error(places_.at(key.source()), shown(key.str()) + " has another name now",
                        "write `" + std::string(now) + "`");
        }
        const std::string_view meant = nearest(key.str(), known);
        const std::string where = path_.empty() ? std::string("the file") : "`" + path_ + "`";
        throw error(places_.at(key.source()), "unknown key " + shown(key.str()) + " in " + where,
                    meant.empty() ? "one of " + quoted_list(known)
                                  : "the nearest known key is `" + std::string(meant) + "`");
    }
}

void section::unused(const keys& used, const std::string& what) const {
    for (const auto& [key, value] : table_) {
        if (std::find(used.begin(), used.end(), key.str()) == used.end()) {
            throw error(places_.at(key.source()), shown(key.str()) + " is not used by " + what,
                        "leave it out, or use one of " + quoted_list(used));
        }
    }
}

const toml::node* section::find(std::string_view key) {
    const toml::node* node = table_.get(key);
    if (node != nullptr) {
        places_.remember(full(key), node->source());
    }
    return node;
}

void section::require(std::string_view key, const std::string& why, const std::string& right) const {
    if (!has(key)) {
        fail_here("`" + std::string(key) + "` is missing" + (why.empty() ? "" : " " + why), right);
    }
}

void section::read(std::string_view key, double& into) {
    if (const toml::node* node = find(key)) {
        const std::optional<double> value = node->is_number() ? node->value<double>() : std::nullopt;
        if (!value) {
            wrong_type(key, *node, "a number");
        }
        into = *value;
    }
}

void section::read(std::string_view key, bool& into) {
    if (const toml::node* node = find(key)) {
        if (!node->is_boolean()) {
            wrong_type(key, *node, "true or false");
        }
        into = node->as_boolean()->get();
    }
}

void section::read(std::string_view key, std::string& into) {
    if (const toml::node* node = find(key)) {
        if (!node->is_string()) {
            wrong_type(key, *node, "text in quotes");
        }
        into = node->as_string()->get();
    }
}

std::vector<double> section::numbers(std::string_view key, const toml::node& from, std::size_t count,
                                     const std::string& right) const {
    const toml::array* list = from.as_array();
    if (list == nullptr) {
        wrong_type(key, from, right);
    }
    std::vector<double> values;
    for (const toml::node& item : *list) {
        const std::optional<double> value = item.is_number() ? item.value<double>() : std::nullopt;
        if (!value) {
            throw error(places_.at(item.source()), shown(key) + " holds " + type_name(item), right);
        }
        values.push_back(*value);
    }
    if (count != 0 && values.size() != count) {
        throw error(places_.at(from.source()),
                    shown(key) + " has " + std::to_string(values.size()) + " numbers", right);
    }
    return values;
}

void section::read(std::string_view key, vec3<double>& into) {
    if (const toml::node* node = find(key)) {
        const std::vector<double> v = numbers(key, *node, 3, "three numbers, [x, y, z]");
        into = {v[0], v[1], v[2]};
    }
}

void section::read(std::string_view key, rgb<double>& into) {
    if (const toml::node* node = find(key)) {
        const std::vector<double> v = numbers(key, *node, 3, "three numbers, [red, green, blue]");
        into = {v[0], v[1], v[2]};
    }
}

void section::read_factor(std::string_view key, rgb<double>& into) {
    const toml::node* node = find(key);
    if (node == nullptr) {
        return;
    }
    if (node->is_number()) {
        into = rgb<double>(node->value<double>().value_or(0));
        return;
    }
    const std::vector<double> v = numbers(key, *node, 3, "a number, or three: [red, green, blue]");
    into = {v[0], v[1], v[2]};
}

void section::read_scale(std::string_view key, vec3<double>& into) {
    const toml::node* node = find(key);
    if (node == nullptr) {
        return;
    }
    if (node->is_number()) {
        const double all = node->value<double>().value_or(1);
        into = {all, all, all};
        return;
    }
    const std::vector<double> v = numbers(key, *node, 3, "a number, or three: [x, y, z]");
    into = {v[0], v[1], v[2]};
}

void section::read_angle(std::string_view key, double& into) {
    double in_degrees = degrees(into);
    read(key, in_degrees);
    if (has(key)) {
        into = radians(in_degrees);
    }
}

void section::read_angles(std::string_view key, vec3<double>& into) {
    vec3<double> in_degrees;
    read(key, in_degrees);
    if (has(key)) {
        into = {radians(in_degrees.x), radians(in_degrees.y), radians(in_degrees.z)};
    }
}

void section::read(std::string_view key, std::vector<double>& into) {
    if (const toml::node* node = find(key)) {
        into = numbers(key, *node, 0, "a list of numbers");
    }
}

void section::read_bands(std::string_view key, std::vector<rgb<double>>& into) {
    const toml::node* node = find(key);
    if (node == nullptr) {
        return;
    }
    const std::string right = "a list of numbers or [red, green, blue] triples";
    const toml::array* list = node->as_array();
    if (list == nullptr) {
        wrong_type(key, *node, right);
    }
    into.clear();
    for (const toml::node& item : *list) {
        if (item.is_number()) {
            into.emplace_back(item.value<double>().value_or(0));
        } else {
            const std::vector<double> v = numbers(key, item, 3, right);
            into.emplace_back(v[0], v[1], v[2]);
        }
    }
}

std::array<std::int64_t, 2> section::whole_pair(std::string_view key, const toml::node& from,
                                                std::int64_t least) const {
    const std::string right = "two whole numbers, such as [8, 4]";
    constexpr std::int64_t most = 1'000'000'000;
    std::array<std::int64_t, 2> pair{};
    const toml::array* list = from.as_array();
    if (list == nullptr) {
        wrong_type(key, from, right);
    }
    if (list->size() != 2) {
        throw error(places_.at(from.source()),
                    shown(key) + " has " + std::to_string(list->size()) + " values", right);
    }
    for (std::size_t i = 0; i < 2; ++i) {
        const toml::node& item = *list->get(i);
        const std::optional<std::int64_t> value = item.value_exact<std::int64_t>();
        if (!value) {
            throw error(places_.at(item.source()), shown(key) + " holds " + type_name(item), right);
        }
        if (*value < least || *value > most) {
            throw error(places_.at(item.source()), shown(key) + " holds " + std::to_string(*value),
                        "whole numbers, " + std::to_string(least) + " or more");
        }
        pair[i] = *value;
    }
    return pair;
}

toml::table parse_toml(const std::string& text, const std::string& name, const value_places& places) {
    try {
        return toml::parse(text, name);
    } catch (const toml::parse_error& failed) {
        std::string why(failed.description());
        for (char& c : why) {
            c = static_cast<unsigned char>(c) < 0x20 ? ' ' : c;
        }
        throw error(places.at(failed.source()), "this is not TOML: " + why, "valid TOML in UTF-8");
    }
}

} // namespace yurvo::inline v0_1::files
