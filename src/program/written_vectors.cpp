#include "program/written_vectors.hpp"

#include <algorithm>
#include <cstdint>
#include <map>
#include <set>
#include <string_view>
#include <vector>

#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

enum class vector_kind : std::uint8_t { none, n, l, axis, v, h, r, mirrored_eye };

// By what it is made of.
vector_kind kind_of(const std::string& text) {
    if (!is_of_places(text)) {
        return vector_kind::none;
    }
    const bool normal = has_word(text, "n");
    const bool to_light = has_word(text, "l");
    const bool light = to_light || has_word(text, light_axis);
    const bool eye = has_word(text, "v|eye|position");
    if (has_word(text, "r") || (normal && light && !eye)) {
        return vector_kind::r;
    }
    if (normal) {
        return eye ? vector_kind::mirrored_eye : vector_kind::n;
    }
    if (has_word(text, "h") || (light && eye)) {
        return vector_kind::h;
    }
    return to_light ? vector_kind::l : light ? vector_kind::axis : eye ? vector_kind::v : vector_kind::none;
}

} // namespace

bool has_word(const std::string& text, const char* names) {
    return text_pattern(std::string(R"((?:^|[^\w.]))") + "(?:" + names + R"()(?:$|\W))").is_in(text);
}

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

// Directions and places, and nothing that is a colour.
bool is_of_places(const std::string& text) {
    static const text_pattern word(R"(\??[A-Za-z_]\w*)");
    static const std::set<std::string_view> places{
        "n",         "l",       "v",   "h",      "r",        "d",    "position",    "eye",
        "normalize", "reflect", "dot", "length", "distance", "sqrt", "inversesqrt", light_axis};
    const std::vector<text_pattern::match> words = word.all(text);
    return std::all_of(words.begin(), words.end(),
                       [&](const text_pattern::match& each) { return places.contains(each.parts[0]); });
}

bool is_place_or_direction(const std::string& text) {
    static const text_pattern number(R"(^\(?(?:dot|length|distance|sqrt|inversesqrt)\()");
    return text == lamp_place ||
           (is_of_places(text) && has_word(text, "n|l|v|h|r|position|eye|AXIS") && !number.is_in(text));
}

bool is_matrix(const std::string& text) { return text == matrix_to_world || text == matrix_to_view; }

std::string transformed(const std::string& text) {
    static const text_pattern behind_matrices(R"(^((?:TO_(?:WORLD|VIEW) \* )+)(.*)$)");
    const auto found = behind_matrices.find(text);
    if (!found || !is_one(found->text(2))) {
        return text;
    }
    const std::string& behind = found->text(2);
    const bool to_view = found->text(1).find(matrix_to_view) != std::string::npos;
    return !to_view               ? behind
           : is_matrix(behind)    ? matrix_to_view
           : behind == "position" ? "(position - eye)"
                                  : behind;
}

// Of the vectors between a point and a light.
std::string simplified(const std::string& made) {
    static const std::map<std::string, std::string> simpler{
        {std::string(lamp_place) + " - position", to_light},
        {std::string(lamp_place) + " - (position - eye)", to_light},
        {"-(position - eye)", "(eye - position)"},
        {std::string(lamp_place) + " + (eye - position)", to_light},
        {std::string("position - ") + lamp_place, from_light},
        {std::string("(position - eye) - ") + lamp_place, from_light},
        {std::string("-") + from_light, to_light},
        {std::string("-") + to_light, from_light},
        {std::string(to_light) + " / d", "l"},
        {std::string(from_light) + " / d", "(-l)"},
        {"-(-l)", "l"},
        {"-l", "(-l)"},
        {std::string("-") + light_axis, std::string("(-") + light_axis + ")"},
        {std::string("-(-") + light_axis + ")", light_axis},
        {"d * d", "(d * d)"}};
    const auto found = simpler.find(made);
    return found == simpler.end() ? made : found->second;
}

std::optional<std::string> dot_of(const std::string& a, const std::string& b) {
    using enum vector_kind;
    struct product {
        vector_kind one, other;
        const char* text;
    };
    for (const product& each :
         {product{n, l, "dot(n, l)"}, product{n, h, "dot(n, h)"}, product{r, v, "dot(r, v)"},
          product{mirrored_eye, l, "dot(r, v)"}, product{n, v, "dot(n, v)"}, product{l, v, "dot(l, v)"},
          product{l, h, "dot(v, h)"}, product{v, h, "dot(v, h)"}, product{l, l, "(d * d)"},
          product{l, axis, "cos_theta"}, product{n, axis, "dot(n, l)"}, product{axis, v, "dot(l, v)"},
          product{axis, h, "dot(v, h)"}}) {
        const vector_kind first = kind_of(a);
        const vector_kind second = kind_of(b);
        if ((first == each.one && second == each.other) || (first == each.other && second == each.one)) {
            return each.text;
        }
    }
    return std::nullopt;
}

std::optional<std::string> length_of(const std::string& vector) {
    const vector_kind kind = kind_of(vector);
    return kind == vector_kind::l   ? std::optional<std::string>("d")
           : kind == vector_kind::v ? std::optional<std::string>("length(eye - position)")
                                    : std::nullopt;
}

bool holds_other_vectors(const std::string& formula) {
    static const text_pattern known(R"(dot\((?:n, l|n, h|r, v|n, v|l, v|v, h)\)|length\(eye - position\))");
    std::string rest;
    std::size_t from = 0;
    for (const text_pattern::match& each : known.all(formula)) {
        rest += formula.substr(from, each.at - from) + "1";
        from = each.at + each.parts[0].size();
    }
    return has_word(rest + formula.substr(from), "n|l|v|h|r|position|eye|axis|AXIS");
}

} // namespace yurvo::inline v0_1::program
