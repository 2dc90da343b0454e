// The expressions of a shader's text: see written_reader.hpp.
#include <algorithm>

#include "program/shader_words.hpp"
#include "program/written_reader.hpp"
#include "program/written_vectors.hpp"
#include "scene/text_pattern.hpp"
#include "yurvo/formula/function_list.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr int deepest_call = 6;
constexpr std::size_t most_calls = 300;

} // namespace

std::string text_reader::read(std::size_t begin, std::size_t end) {
    if (nested_ >= deepest_nesting) {
        return "?deep";
    }
    ++nested_;
    std::string made = read_words(begin, end);
    --nested_;
    return made;
}

std::string text_reader::read_words(std::size_t begin, std::size_t end) {
    std::string made;
    std::string before; // the piece that a member would be of
    for (std::size_t i = begin; i < end; ++i) {
        const std::string& word = words_[i];
        std::string piece = word;
        if (is_name(word) && i + 1 < end && words_[i + 1] == "(") {
            const std::size_t close = std::min(closed_at(words_, i + 1), end);
            piece = call(word, i + 2, close);
            note(piece);
            i = close;
        } else if (word == "(") {
            const std::size_t close = std::min(closed_at(words_, i), end);
            piece = read(i + 1, close);
            note(piece);
            piece = in_brackets(piece);
            i = close;
        } else if (is_name(word)) {
            piece = value_of(word);
        } else if (word == "." && i + 1 < end) {
            const std::string& member = words_[++i];
            if (!((member == "xyz" || member == "rgb") &&
                  is_place_or_direction(before))) { // which have no fourth
                made += "." + member;
            }
            continue;
        }
        before = piece;
        if (made.ends_with('/')) { // what light is divided by may be its falloff
            note(simplified("1.0 / " + piece));
        }
        const bool sign = made == "-" || made.ends_with("(-") || made.ends_with("? -");
        made += (made.empty() || sign ? "" : " ") + piece;
        if (made.size() > longest_text) {
            return "?long";
        }
    }
    return simplified(transformed(made));
}

std::vector<std::string> text_reader::arguments(std::size_t begin, std::size_t end) {
    std::vector<std::string> all;
    while (begin < end) {
        const std::size_t stop = separator_at(words_, begin, end, ",");
        all.push_back(read(begin, stop));
        begin = stop + 1;
    }
    return all;
}

std::string text_reader::call(const std::string& name, std::size_t begin, std::size_t end) {
    const std::vector<std::string> given = arguments(begin, end);
    const auto with_all = [&](const std::string& function) {
        std::string made = function + "(";
        for (std::size_t i = 0; i < given.size(); ++i) {
            made += (i == 0 ? "" : ", ") + given[i];
        }
        return made + ")";
    };
    const auto own = functions_.find(name);
    if (own != functions_.end()) {
        return in_brackets(called(own->second, given));
    }
    const std::string first = given.empty() ? "" : given[0];
    if (name == "dot" && given.size() == 2) {
        return dot_of(first, given[1]).value_or(with_all(name));
    }
    if (name == "length" && given.size() == 1) {
        return length_of(first).value_or(with_all(name));
    }
    if (name == "distance" && given.size() == 2) {
        const bool of_lamp = first == lamp_place || given[1] == lamp_place;
        return of_lamp ? "d" : length_of(first + " - " + given[1]).value_or(with_all(name));
    }
    if (name == "normalize" && (first == to_light || first == from_light)) {
        return first == to_light ? "l" : "(-l)";
    }
    static const std::map<std::string, std::string> other{
        {"lerp", "mix"}, {"rsqrt", "inversesqrt"}, {"frac", "fract"}, {"float3", "vec3"}, {"half3", "vec3"}};
    if (name == "saturate") {
        return "clamp(" + first + ", 0.0, 1.0)";
    }
    if (name == "vec4" || name == "float4" || name == "half4") {
        return given.size() == 2 ? in_brackets(first) : "?" + name;
    }
    if (name == "float" || name == "half" ||
        (name == "vec3" && given.size() == 1 && is_place_or_direction(first))) {
        return in_brackets(first);
    }
    static const std::set<std::string> of_matrices{"mat3",     "mat4",    "float3x3",
                                                   "float4x4", "inverse", "transpose"};
    if (is_matrix(first) && given.size() == 1 && of_matrices.contains(name)) {
        return in_brackets(first);
    }
    if (name == "mul" && given.size() == 2 && (is_matrix(first) || is_matrix(given[1]))) {
        return in_brackets(is_matrix(first) ? transformed(first + " * " + in_brackets(given[1]))
                                            : transformed(given[1] + " * " + in_brackets(first)));
    }
    const auto renamed = other.find(name);
    const std::string as = renamed == other.end() ? name : renamed->second;
    const bool known =
        as == "vec3" || std::any_of(formulas::function_list.begin(), formulas::function_list.end(),
                                    [&](const auto& each) { return each.name == as; });
    return known ? with_all(as) : "?" + name;
}

std::string text_reader::called(const written_function& what, const std::vector<std::string>& given) {
    if (calls_within_ >= deepest_call || ++calls_ > most_calls || given.size() != what.takes.size()) {
        return "?call";
    }
    const std::map<std::string, std::string> outside = known_;
    const std::set<std::string> vectors = vectors_;
    std::vector<std::pair<std::string, std::string>> returned;
    std::vector<std::string> conditions;
    returned.swap(returned_);
    conditions.swap(conditions_);
    const std::size_t ended_before = ended_.size();
    for (std::size_t i = 0; i < given.size(); ++i) {
        known_[what.takes[i]] = given[i];
    }
    ++calls_within_;
    read_statements(what.begin, what.end);
    --calls_within_;
    std::string made = "?nothing";
    for (std::size_t i = returned_.size(); i-- > 0;) { // the last holds where none before it did
        made =
            returned_[i].first.empty() || i + 1 == returned_.size()
                ? returned_[i].second
                : returned_[i].first + " ? " + in_brackets(returned_[i].second) + " : " + in_brackets(made);
    }
    returned_ = std::move(returned);
    conditions_ = std::move(conditions);
    ended_.resize(ended_before);
    known_ = outside;
    vectors_ = vectors;
    return made;
}

// A name with its members.
std::string text_reader::value_of(const std::string& word) {
    static const text_pattern swizzle(R"(^((?:\w|\[\*\])+(?:\.(?:\w|\[\*\])+)*?)\.(rgb|xyz)$)");
    const auto cut = swizzle.find(word);
    std::string name = cut ? cut->text(1) : word;
    const std::string first = name.substr(0, name.find_first_of(".["));
    const auto local = known_.find(name);
    if (local != known_.end()) {
        return in_brackets(local->second);
    }
    if (name == "true" || name == "false") {
        return name;
    }
    if (known_.contains(first) && name == word && first != name && vectors_.contains(first)) {
        return in_brackets(known_[first]) + name.substr(first.size());
    }
    return names_.of(name);
}

} // namespace yurvo::inline v0_1::program
