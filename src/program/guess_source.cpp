// What the text of a shader says before it is compiled: its language, and which numbers it takes out of
// vectors.
#include <algorithm>
#include <array>
#include <cstdlib>
#include <set>
#include <string_view>

#include "program/guess_moves.hpp"
#include "program/guess_words.hpp"
#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1 {

shading_language likely_language(const std::string& vertex, const std::string& fragment) {
    const std::string text = program::without_comments(vertex) + "\n" + program::without_comments(fragment);
    const auto has = [&](const char* pattern) { return text_pattern(pattern).is_in(text); };
    if (!has(R"(\bgl_(Position|FragColor|FragData)\b)") &&
        has(R"(\bcbuffer\b|\b(?i:SV_Position|SV_Target)|\bfloat[234](x[234])?\b)")) {
        return shading_language::hlsl;
    }
    if (has(R"(#\s*version\s+(\d+\s+es|100)\b)")) {
        return shading_language::glsl_es;
    }
    if (!has(R"(#\s*version\b)") && has(R"(\bprecision\s+(highp|mediump|lowp)\b)")) {
        return shading_language::glsl_es;
    }
    return has(R"(\bpush_constant\b|\bset\s*=\s*\d|\bgl_(VertexIndex|InstanceIndex)\b)")
               ? shading_language::glsl_vulkan
               : shading_language::glsl;
}

namespace program {

namespace {

constexpr std::array<std::string_view, 7> words_for_numbers{"param", "prop", "setting", "data",
                                                            "info",  "misc", "pack"};

} // namespace

char as_place(char letter) { return places[std::string_view("xyzwrgba").find(letter) % places.size()]; }

bool is_only_declared(const std::string& text, const std::string& name) {
    const std::string last = last_name(name);
    return !text_pattern(R"((?:[^\w\s]|\breturn)\s*)" + last + R"(\b)").is_in(text);
}

std::string last_name(const std::string& name) {
    std::string last = name.substr(name.find_last_of('.') + 1); // npos + 1 is 0
    return last.substr(0, last.find('['));
}

std::string components_alone(const std::string& text, const std::string& name) {
    const std::string last = last_name(name);
    const std::size_t named = text_pattern("\\b" + last + "\\b").all(text).size();
    const std::size_t declared =
        text_pattern(R"(\b(vec|float|half)[234]\s+)" + last + "\\b").all(text).size();
    const std::vector<text_pattern::match> alone =
        text_pattern("\\b" + last + R"(\s*(\[[^\]]*\]\s*)?\.\s*([xyzwrgba])\b)").all(text);
    if (alone.empty() || alone.size() + declared < named) {
        return "";
    }
    std::set<char> found;
    for (const text_pattern::match& each : alone) {
        found.insert(as_place(each.parts[2].front()));
    }
    std::string letters;
    for (const char letter : places) {
        letters += found.contains(letter) ? std::string(1, letter) : "";
    }
    return letters;
}

bool says_only_numbers(const std::string& name) {
    const std::string lower = lowered(last_name(name));
    return std::any_of(words_for_numbers.begin(), words_for_numbers.end(),
                       [&](std::string_view word) { return lower.find(word) != std::string::npos; });
}

std::set<std::string> matrices_of_rows(const shader_program& of, const std::string& text) {
    std::set<std::string> found;
    if (of.language != shading_language::hlsl) {
        return found;
    }
    // Vertices have theirs by semantics, in a structure of names of their own.
    static const text_pattern semantic(R"(\bfloat\dx\d\s+(\w+)\s*:\s*(\w+))");
    for (const text_pattern::match& each : semantic.all(text)) {
        const text_pattern behind(R"(\bmul\s*\([^;]*,\s*(?:\w+\.)*)" + each.text(1) + R"(\s*\))");
        if (behind.is_in(text)) {
            found.insert(each.text(2));
        }
    }
    for (const shader_binding& each : of.uniforms) {
        const text_pattern behind(R"(\bmul\s*\([^;]*,\s*(?:\(\s*float\d(?:x\d)?\s*\)\s*)?(?:\w+\.)*)" +
                                  last_name(each.name) + R"(\s*\))");
        if (behind.is_in(text)) {
            found.insert(each.name);
        }
    }
    return found;
}

shader_program with_rows(shader_program of, const std::set<std::string>& matrices) {
    const auto turn = [&](shader_binding& each) {
        const std::string means = text_of(each);
        if (matrices.contains(each.name) && !means.empty() && !means.ends_with(".transposed")) {
            each.means = {means + ".transposed"};
        }
    };
    std::for_each(of.uniforms.begin(), of.uniforms.end(), turn);
    std::for_each(of.attributes.begin(), of.attributes.end(), turn);
    return of;
}

std::vector<double> numbers_in(const std::string& text) {
    static const text_pattern number(R"(\b[0-9]+\.?[0-9]*|\.[0-9]+)");
    std::vector<double> numbers;
    for (const text_pattern::match& found : number.all(text)) {
        numbers.push_back(std::atof(found.text(0).c_str()));
    }
    return numbers;
}

std::vector<move> moves_of_components(const guessed_name& name) {
    std::vector<move> moves;
    guessed_name number = name;
    number.type = "float";
    for (const char letter : name.alone) {
        const std::size_t place = places.find(letter);
        for (const std::string& means : meanings_of(number)) {
            moves.push_back({name.name, "tried: its components fit best so",
                             [name = name.name, place, means](shader_program& of) {
                                 for (shader_binding& each : of.uniforms) {
                                     if (each.name == name && place < each.means.size()) {
                                         each.means[place] = means;
                                     }
                                 }
                             },
                             ""});
        }
    }
    return moves;
}

} // namespace program

} // namespace yurvo::inline v0_1
