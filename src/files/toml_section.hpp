// toml_section: one table of a scene file, read strictly, with the place of every value.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <toml++/toml.h>

#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::files {

using keys = std::vector<std::string_view>;

// Where each value of a file stands, by its path (`objects[1].radius`).
class value_places {
    std::string file_;
    std::map<std::string, source_location, std::less<>> known_;

  public:
    explicit value_places(std::string file) : file_(std::move(file)) {}

    [[nodiscard]] source_location at(const toml::source_region& region) const {
        return {file_, region.begin.line, region.begin.column};
    }
    void remember(const std::string& path, const toml::source_region& region) { known_[path] = at(region); }

    // The place of a path, or of what it stands in.
    [[nodiscard]] source_location find(std::string_view path) const {
        while (true) {
            const auto found = known_.find(path);
            if (found != known_.end()) {
                return found->second;
            }
            const std::size_t cut = path.find_last_of(".[");
            if (cut == std::string_view::npos) {
                return {file_, 1, 1};
            }
            path = path.substr(0, cut);
        }
    }
};

class section {
    const toml::table& table_;
    std::string path_; // `view`, `objects[1]`
    value_places& places_;

    [[nodiscard]] std::string full(std::string_view key) const {
        return path_.empty() ? std::string(key) : path_ + "." + std::string(key);
    }
    [[noreturn]] void wrong_type(std::string_view key, const toml::node& found,
                                 const std::string& right) const;

  public:
    section(const toml::table& table, std::string path, value_places& places);

    [[nodiscard]] const std::string& path() const { return path_; }
    // Where a key's value stands.
    [[nodiscard]] source_location place(std::string_view key) const { return places_.find(full(key)); }
    [[nodiscard]] const toml::table& table() const { return table_; }
    [[noreturn]] void fail(std::string_view key, const std::string& wrong, const std::string& right) const;
    [[noreturn]] void fail_here(const std::string& wrong, const std::string& right) const;

    // Every key must be one of `known`, or it is an error that names the nearest.
    void only(const keys& known) const;
    // Every key must be one of `used`; one that is not is not used by `what`.
    void unused(const keys& used, const std::string& what) const;

    [[nodiscard]] bool has(std::string_view key) const { return table_.contains(key); }
    // The value, whose place is remembered; null where it is left out.
    const toml::node* find(std::string_view key);
    void require(std::string_view key, const std::string& why, const std::string& right) const;

    void read(std::string_view key, double& into);
    void read(std::string_view key, bool& into);
    void read(std::string_view key, std::string& into);
    void read(std::string_view key, vec3<double>& into);
    void read(std::string_view key, rgb<double>& into);
    void read_factor(std::string_view key, rgb<double>& into); // a number or a triple
    void read_scale(std::string_view key, vec3<double>& into); // a number or a triple
    void read_angle(std::string_view key, double& into);       // degrees to radians
    void read_angles(std::string_view key, vec3<double>& into);
    void read(std::string_view key, std::vector<double>& into);
    void read_bands(std::string_view key, std::vector<rgb<double>>& into);
    std::vector<double> numbers(std::string_view key, const toml::node& from, std::size_t count,
                                const std::string& right) const;

    template <class Pair> void read_wholes(std::string_view key, Pair& into, std::int64_t least = 1) {
        using Whole = std::remove_reference_t<decltype(into[0])>;
        if (const toml::node* node = find(key)) {
            const std::array<std::int64_t, 2> pair = whole_pair(key, *node, least);
            into[0] = static_cast<Whole>(pair[0]);
            into[1] = static_cast<Whole>(pair[1]);
        }
    }

    template <class Enum> void read_enum(std::string_view key, Enum& into) {
        std::string word;
        read(key, word);
        if (!has(key)) {
            return;
        }
        const std::optional<Enum> known = from_name<Enum>(word);
        if (!known) {
            fail_word(key, word, all_names<Enum>());
        }
        into = *known;
    }
    [[noreturn]] void fail_word(std::string_view key, const std::string& word, const keys& known) const;

  private:
    [[nodiscard]] std::array<std::int64_t, 2> whole_pair(std::string_view key, const toml::node& from,
                                                         std::int64_t least) const;
};

// A file's text as a table. Throws yurvo::error where it is no TOML; `name` stands in messages.
toml::table parse_toml(const std::string& text, const std::string& name, const value_places& places);

// The keys of two lists.
inline keys together(const keys& a, const keys& b) {
    keys all = a;
    all.insert(all.end(), b.begin(), b.end());
    return all;
}

// `` `a`, `b` or `c` ``
std::string quoted_list(const keys& names);

} // namespace yurvo::inline v0_1::files
