#include "program/written_reader.hpp"

#include <algorithm>
#include <utility>

#include "program/guess_moves.hpp"
#include "program/shader_words.hpp"
#include "program/written_vectors.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr std::size_t most_noted = 3000;

bool is_type(const std::string& word) {
    static const text_pattern type("^(?:float|half|double|(?:vec|float|half)[34])$");
    return type.is_in(word);
}
// Of how far away a light is, and of nothing that has a direction.
bool is_of_distance(const std::string& text) {
    static const text_pattern unknown(R"(\?\w)");
    return has_word(text, "d") && !has_word(text, "n|l|v|h|r|position|eye|axis|AXIS|cos_theta") &&
           text.find(lamp_place) == std::string::npos && !unknown.is_in(text);
}
bool is_vector_type(const std::string& word) { return word.ends_with('3') || word.ends_with('4'); }

// A sum of light times the base colour is a colour still.
std::string without_paint(const std::string& value) {
    static const text_pattern painted(
        R"(\bbase \* (\?[A-Za-z_]\w*(?:\.(?:rgb|xyz))?)|(\?[A-Za-z_]\w*(?:\.(?:rgb|xyz))?) \* base\b)");
    std::string made;
    std::size_t from = 0;
    for (const text_pattern::match& each : painted.all(value)) {
        made += value.substr(from, each.at - from) + each.text(1) + each.text(2);
        from = each.at + each.parts[0].size();
    }
    return made + value.substr(from);
}

std::string with_c(const std::string& curve, const std::string& in_its_place) {
    static const text_pattern c(R"(\bc\b)");
    std::string made;
    std::size_t from = 0;
    for (const text_pattern::match& each : c.all(curve)) {
        made += curve.substr(from, each.at - from) + in_its_place;
        from = each.at + 1;
    }
    return made + curve.substr(from);
}

} // namespace

text_reader::text_reader(const shader_program& of, const std::string& text,
                         std::map<std::string, std::string> passed)
    : words_(shader_words(text)), names_(of, text, std::move(passed)), functions_(written_functions(words_)) {
    const auto main = functions_.find(of.rate == rate::vertex ? of.vertex.entry : of.fragment.entry);
    if (main != functions_.end()) {
        read_statements(main->second.begin, main->second.end);
    }
}

std::string text_reader::at_the_end(const std::string& last) const {
    const auto whole = known_.find(last);
    const auto member = members_.find(last);
    return whole != known_.end() ? whole->second : member != members_.end() ? member->second : "";
}

// Statements one after another; what stands under a condition is that, or what was before.
void text_reader::read_statements(std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end;) {
        i = read_statement(i, end);
    }
}

std::size_t text_reader::read_statement(std::size_t i, std::size_t end) {
    if (nested_ >= deepest_nesting) {
        return end;
    }
    ++nested_;
    const std::size_t behind = read_one(i, end);
    --nested_;
    return behind;
}

std::size_t text_reader::read_one(std::size_t i, std::size_t end) {
    const std::string& first = words_[i];
    if (first == "{") {
        const std::size_t close = std::min(closed_at(words_, i), end);
        read_statements(i + 1, close);
        return close + 1;
    }
    if ((first == "if" || first == "for" || first == "while") && i + 1 < end && words_[i + 1] == "(") {
        const std::size_t close = std::min(closed_at(words_, i + 1), end - 1);
        const std::string condition = first == "if" ? read(i + 2, close) : "";
        const std::size_t ended_before = ended_.size();
        std::size_t behind = under(condition, close + 1, end);
        if (first != "if") {
            ended_.resize(ended_before);
        }
        if (first == "if" && behind < end && words_[behind] == "else") {
            behind = under("!(" + condition + ")", behind + 1, end);
        }
        return behind;
    }
    if (first == "switch" && i + 1 < end && words_[i + 1] == "(") { // every case as if it were the one
        return read_statement(std::min(closed_at(words_, i + 1) + 1, end), end);
    }
    if (first == "case" || first == "default") {
        return std::min(separator_at(words_, i, end, ":") + 1, end);
    }
    const std::size_t stop = separator_at(words_, i, end, ";");
    if ((first == "return" || first == "continue") && is_of_distance(all_conditions())) {
        ended_.push_back(all_conditions());
    }
    if (first == "return") {
        returned_.emplace_back(all_conditions(), read(i + 1, stop));
    } else {
        read_assignments(i, stop);
    }
    return stop + 1;
}

std::size_t text_reader::under(const std::string& condition, std::size_t i, std::size_t end) {
    if (!condition.empty()) {
        conditions_.push_back(condition);
    }
    const std::size_t behind = i < end ? read_statement(i, end) : end;
    if (!condition.empty()) {
        conditions_.pop_back();
    }
    return behind;
}

std::string text_reader::all_conditions() const {
    std::string all;
    for (const std::string& each : conditions_) {
        all += (all.empty() ? "" : " && ") + in_brackets(each);
    }
    return all;
}

// `float a = ..., b = ...;`, `sum += ...;`
void text_reader::read_assignments(std::size_t begin, std::size_t end) {
    bool vector = false;
    bool declares = false;
    while (begin < end && (words_[begin] == "const" || is_type(words_[begin]))) {
        declares = declares || is_type(words_[begin]);
        vector = vector || is_vector_type(words_[begin]);
        ++begin;
    }
    while (begin < end) {
        const std::size_t stop = separator_at(words_, begin, end, ",");
        if (begin + 2 <= stop && is_name(words_[begin])) {
            assign(begin, stop, declares, vector);
        }
        begin = stop + 1;
    }
}

void text_reader::assign(std::size_t at, std::size_t end, bool declares, bool vector) {
    static const text_pattern outputs(R"(\.(?:rgb|xyz)$|^gl_Frag)");
    const std::string& word = words_[at];
    const std::string& how = words_[at + 1];
    const std::string name = word.substr(0, word.find('.'));
    const bool whole = word == name || outputs.is_in(word);
    if (!whole && how == "=") {
        const std::string value = read(at + 2, end);
        const auto before = members_.find(last_name(word));
        members_[last_name(word)] = before == members_.end() || before->second == value ? value : "";
    }
    if (!(how == "=" || how == "*=" || how == "+=" || how == "-=" || how == "/=") || !whole) {
        return;
    }
    if (declares ? vector : !known_.contains(name) || vectors_.contains(name)) {
        vectors_.insert(name);
    } else {
        vectors_.erase(name);
    }
    const std::string before = known_.contains(name) ? known_[name] : "?" + name;
    std::string value = read(at + 2, end);
    if (vectors_.contains(name)) {
        note_curve(name, how, at + 2, end);
        if (how == "=" || how == "+=") {
            note_added(value, how == "+=");
            for (const std::string& each : summands_of(value)) {
                if (const std::optional<std::string> distances = distances_in(each)) {
                    note(*distances);
                }
            }
        }
        if (const std::optional<std::string> share = share_of_light(value)) {
            shares.push_back(*share);
        }
    }
    if (how == "*=") {
        note(value);
    }
    if (how != "=") {
        value = simplified(in_brackets(before) + " " + how[0] + " " + in_brackets(value));
    }
    if (!conditions_.empty() && known_.contains(name)) {
        value = all_conditions() + " ? " + in_brackets(value) + " : " + in_brackets(before);
    }
    known_[name] = value.size() > longest_text ? "?" + name : value;
    note(known_[name]);
}

// What light falls off by, the distance and the angle each for itself, and with where it ends: `if (d >
// range) continue;`, `if (d < range) { ... }`.
void text_reader::note(const std::string& value) {
    note_text(value);
    if (const auto both = distance_and_angle(value)) {
        note(both->first);
        note_text(both->second);
    }
    if (scalars.size() >= most_noted || !is_of_distance(value)) {
        return;
    }
    for (const std::string& each : ended_) {
        note_text(in_brackets(each) + " ? 0.0 : " + in_brackets(value));
    }
    const std::string within = all_conditions();
    if (is_of_distance(within) && !value.starts_with(within + " ? ")) {
        note_text(in_brackets(within) + " ? " + in_brackets(value) + " : 0.0");
    }
}

void text_reader::note_text(const std::string& value) {
    if (scalars.size() < most_noted && value.size() <= longest_part &&
        (value.find('?') == std::string::npos || value.find(" ? ") != std::string::npos)) {
        scalars.push_back(value);
    }
}

void text_reader::note_added(const std::string& value, bool to_a_sum) {
    const std::vector<std::string> summands = summands_of(value);
    if (!to_a_sum && summands.size() == 1) { // what becomes of it is not said here
        return;
    }
    for (const std::string& each : summands) {
        if (each.size() <= longest_part && is_of_the_eye_alone(each) && added.size() < most_noted) {
            added.push_back(each);
        }
    }
}

// What an assignment makes of one colour, whatever that is.
void text_reader::note_curve(const std::string& name, const std::string& how, std::size_t begin,
                             std::size_t end) {
    std::map<std::string, std::string> hidden;
    for (const std::string& each : vectors_) {
        const auto found = known_.find(each);
        if (found != known_.end() && !is_of_places(found->second)) {
            hidden.insert(*found);
        }
    }
    for (const auto& each : hidden) {
        known_[each.first] = "?" + each.first;
    }
    std::string value = read(begin, end);
    for (const auto& each : hidden) {
        known_[each.first] = each.second;
    }
    if (how != "=") {
        value = "?" + name + " " + how[0] + " " + in_brackets(value);
    }
    value = without_paint(value);
    static const text_pattern unknown(R"(\?([A-Za-z_]\w*)(?:\.(?:rgb|xyz))?)");
    std::set<std::string> of;
    std::string made;
    std::size_t from = 0;
    for (const text_pattern::match& each : unknown.all(value)) {
        of.insert(each.text(1));
        made += value.substr(from, each.at - from) + "c";
        from = each.at + each.parts[0].size();
    }
    made += value.substr(from);
    if (made.starts_with('(') && is_one(made)) {
        made = made.substr(1, made.size() - 2);
    }
    // What is added and knows of no light is no curve.
    const std::vector<std::string> summands = summands_of(made);
    if (std::all_of(summands.begin(), summands.end(),
                    [](const std::string& each) { return each == "c" || is_of_the_eye_alone(each); })) {
        made = "c";
    }
    const bool of_color = of.size() == 1 && (hidden.contains(*of.begin()) || *of.begin() == name);
    if (!of_color || has_word(made, "base")) { // a light's, or several
        curves_.erase(name);
        return;
    }
    const auto before = curves_.find(*of.begin()); // what became of that already
    if (made == "c" && before != curves_.end()) {
        curves_[name] = before->second;
        return;
    }
    if (before != curves_.end()) {
        made = with_c(made, in_brackets(before->second));
    }
    if (made != "c" && made.size() <= longest_part) {
        curves_[name] = made;
        curves.push_back(made);
    }
}

} // namespace yurvo::inline v0_1::program
