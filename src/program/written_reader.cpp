#include "program/written_reader.hpp"

#include <algorithm>
#include <string_view>

#include "program/shader_words.hpp"
#include "scene/text_pattern.hpp"
#include "yurvo/formula/function_list.hpp"

namespace yurvo::inline v0_1::program {

bool has_word(const std::string& text, const char* names) { // `n|l`: one of them
    return text_pattern(std::string(R"((?:^|[^\w.]))") + "(?:" + names + R"()(?:$|\W))").is_in(text);
}

namespace {

constexpr std::size_t longest_text = 600; // what is longer is the whole lighting, and no part of it
constexpr int deepest_call = 6;
constexpr std::size_t most_calls = 300;
constexpr int deepest_nesting = 100; // of brackets and blocks
constexpr std::size_t most_noted = 3000;

const char* const to_light = "(l * d)";
const char* const from_light = "(-l * d)";

// A name, a number, a call or what stands in brackets already.
bool is_one(const std::string& text) {
    static const text_pattern begins(R"(^[\w.?]*)");
    const std::size_t open = begins.find(text)->parts[0].size();
    int depth = 0;
    for (std::size_t i = open; i < text.size(); ++i) {
        depth += text[i] == '(' ? 1 : text[i] == ')' ? -1 : 0;
        if (depth == 0) {
            return i + 1 == text.size();
        }
    }
    return open == text.size();
}

std::string in_brackets(const std::string& text) { return is_one(text) ? text : "(" + text + ")"; }

bool is_type(const std::string& word) {
    static const text_pattern type("^(?:float|half|double|(?:vec|float|half)[34])$");
    return type.is_in(word);
}
bool is_vector_type(const std::string& word) { return word.ends_with('3') || word.ends_with('4'); }

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

// Directions and places, and nothing that is a colour.
bool is_of_places(const std::string& text) {
    static const text_pattern word(R"(\??[A-Za-z_]\w*)");
    static const std::set<std::string_view> places{"n", "l",        "v",   "h",         "r",
                                                   "d", "position", "eye", "normalize", "reflect"};
    const std::vector<text_pattern::match> words = word.all(text);
    return std::all_of(words.begin(), words.end(),
                       [&](const text_pattern::match& each) { return places.contains(each.parts[0]); });
}

// Of the vectors between a point and a light.
std::string simplified(const std::string& made) {
    static const std::map<std::string, std::string> simpler{
        {std::string(lamp_place) + " - position", to_light},
        {std::string(lamp_place) + " - (position - eye)", to_light},
        {std::string("position - ") + lamp_place, from_light},
        {std::string("(position - eye) - ") + lamp_place, from_light},
        {std::string("-") + from_light, to_light},
        {std::string("-") + to_light, from_light},
        {std::string(to_light) + " / d", "l"},
        {std::string(from_light) + " / d", "(-l)"},
        {"-(-l)", "l"},
        {"-l", "(-l)"},
        {"d * d", "(d * d)"}};
    const auto found = simpler.find(made);
    return found == simpler.end() ? made : found->second;
}

std::string normalized(const std::string& of) {
    if (of == to_light || of == "l") {
        return "l";
    }
    if (of == from_light || of == "-l" || of == "(-l)") {
        return "(-l)";
    }
    if (of == "eye - position" || of == "(eye - position)" || of == "v") {
        return "v";
    }
    if (of == "l + v" || of == "v + l" || of == "h") {
        return "h";
    }
    return of == "n" || of == "r" ? of : "normalize(" + of + ")";
}

} // namespace

text_reader::text_reader(const shader_program& of, const std::string& text)
    : words_(shader_words(text)), names_(of, text) {
    find_functions();
    const auto main = functions_.find(of.fragment.entry);
    if (main != functions_.end()) {
        read_statements(main->second.begin, main->second.end);
    }
}

void text_reader::find_functions() {
    for (std::size_t i = 0; i + 2 < words_.size(); ++i) {
        if (!is_name(words_[i]) || !is_name(words_[i + 1]) || words_[i + 2] != "(" || words_[i] == "return") {
            continue;
        }
        const std::size_t close = closed_at(words_, i + 2);
        std::size_t open = close + 1;
        while (open < words_.size() && words_[open] != "{" && words_[open] != ";") {
            ++open; // a semantic
        }
        if (open >= words_.size() || words_[open] != "{") {
            continue;
        }
        written_function made;
        for (std::size_t w = i + 3; w <= close; ++w) {
            if ((words_[w] == "," || words_[w] == ")") && is_name(words_[w - 1])) {
                made.takes.push_back(words_[w - 1]);
            }
        }
        made.begin = open + 1;
        made.end = end_of_block(open);
        functions_[words_[i + 1]] = made;
        i = made.end;
    }
}

std::size_t text_reader::end_of_block(std::size_t open) const {
    int depth = 0;
    for (std::size_t i = open; i < words_.size(); ++i) {
        depth += words_[i] == "{" ? 1 : words_[i] == "}" ? -1 : 0;
        if (depth == 0) {
            return i;
        }
    }
    return words_.size();
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
        const std::size_t close = std::min(end_of_block(i), end);
        read_statements(i + 1, close);
        return close + 1;
    }
    if ((first == "if" || first == "for" || first == "while") && i + 1 < end && words_[i + 1] == "(") {
        const std::size_t close = std::min(closed_at(words_, i + 1), end - 1);
        const std::string condition = first == "if" ? read(i + 2, close) : "";
        std::size_t behind = under(condition, close + 1, end);
        if (first == "if" && behind < end && words_[behind] == "else") {
            behind = under("!(" + condition + ")", behind + 1, end);
        }
        return behind;
    }
    std::size_t stop = i;
    for (int depth = 0; stop < end && (words_[stop] != ";" || depth > 0); ++stop) {
        depth += words_[stop] == "(" ? 1 : words_[stop] == ")" ? -1 : 0;
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
        std::size_t stop = begin;
        for (int depth = 0; stop < end && (words_[stop] != "," || depth > 0); ++stop) {
            depth += words_[stop] == "(" ? 1 : words_[stop] == ")" ? -1 : 0;
        }
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

void text_reader::note(const std::string& value) {
    if (scalars.size() < most_noted &&
        (value.find('?') == std::string::npos || value.find(" ? ") != std::string::npos)) {
        scalars.push_back(value);
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
    const bool of_color = of.size() == 1 && (hidden.contains(*of.begin()) || *of.begin() == name);
    if (!of_color) { // a light's, or several
        curves_.erase(name);
        return;
    }
    const auto before = curves_.find(*of.begin()); // what became of that already
    if (before != curves_.end()) {
        made = with_c(made, in_brackets(before->second));
    }
    if (made != "c" && made.size() <= longest_text) {
        curves_[name] = made;
        curves.push_back(made);
    }
}

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
            made += "." + words_[++i];
            continue;
        }
        const bool sign = made == "-" || made.ends_with("(-") || made.ends_with("? -");
        made += (made.empty() || sign ? "" : " ") + piece;
        if (made.size() > longest_text) {
            return "?long";
        }
    }
    return simplified(made);
}

std::vector<std::string> text_reader::arguments(std::size_t begin, std::size_t end) {
    std::vector<std::string> all;
    while (begin < end) {
        std::size_t stop = begin;
        for (int depth = 0; stop < end && (words_[stop] != "," || depth > 0); ++stop) {
            depth += words_[stop] == "(" ? 1 : words_[stop] == ")" ? -1 : 0;
        }
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
        return called(own->second, given);
    }
    const std::string first = given.empty() ? "" : given[0];
    const bool of_light = first == to_light || first == from_light;
    if (name == "length" && of_light) {
        return "d";
    }
    if (name == "distance" && given.size() == 2 && (first == lamp_place || given[1] == lamp_place)) {
        return "d";
    }
    if (name == "dot" && given.size() == 2 && of_light && given[1] == first) {
        return "(d * d)";
    }
    if (name == "normalize") {
        return normalized(first);
    }
    if (name == "reflect" && given.size() == 2 && (first == "(-l)" || first == "-l") && given[1] == "n") {
        return "r";
    }
    static const std::map<std::string, std::string> other{
        {"lerp", "mix"}, {"rsqrt", "inversesqrt"}, {"frac", "fract"}, {"float3", "vec3"}, {"half3", "vec3"}};
    if (name == "saturate") {
        return "clamp(" + first + ", 0.0, 1.0)";
    }
    if (name == "vec4" || name == "float4" || name == "half4") {
        return given.size() == 2 ? in_brackets(first) : "?" + name;
    }
    if (name == "float" || name == "half") {
        return in_brackets(first);
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
