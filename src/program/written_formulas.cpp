#include "program/written_formulas.hpp"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include "program/source_text.hpp"
#include "program/written_cones.hpp"
#include "program/written_reader.hpp"
#include "program/written_vectors.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

constexpr std::size_t most_of_a_slot = 6;

// Which place what was worked out can take, by what it is of.
std::optional<slot> place_of(const std::string& text) {
    static const std::set<std::string> own{"d",       "(d * d)",      "dot(n, l)", "max(dot(n, l), 0.0)",
                                           "1.0 / d", "1.0 / (d * d)"};
    if (own.contains(text) || has_word(text, "base") || text.find(lamp_place) != std::string::npos ||
        holds_other_vectors(text)) {
        return std::nullopt;
    }
    const bool distance = has_word(text, "d");
    if (has_word(text, "cos_theta")) {
        return distance || has_word(text, "dot") ? std::nullopt : std::optional<slot>(slot::penumbra);
    }
    const bool cosine = text.find("dot(n, l)") != std::string::npos;
    const bool of_eye = has_word(text, "v|h|eye");
    if (text.find("dot(n, h)") != std::string::npos || text.find("dot(r, v)") != std::string::npos) {
        const bool power = has_word(text, "pow|exp|exp2");
        return distance || !power ? std::nullopt : std::optional<slot>(slot::specular);
    }
    if (cosine && distance) {
        return std::nullopt;
    }
    if (of_eye) { // a rough surface's diffuse share follows the eye as well
        const bool rough = cosine && text.find("dot(l, v)") != std::string::npos && !has_word(text, "h|eye");
        return rough ? std::optional<slot>(slot::diffuse) : std::nullopt;
    }
    return cosine     ? std::optional<slot>(slot::diffuse)
           : distance ? std::optional<slot>(slot::falloff)
                      : std::nullopt;
}

bool is_taken(const written_formula& made) {
    formulas::formula_texts texts;
    texts[made.where] = made.text;
    std::vector<formulas::named_number> numbers;
    for (const written_formula::number& each : made.numbers) {
        numbers.push_back({each.name, each.values});
    }
    try {
        const formulas::formula_set parsed = formulas::parse_all(texts, numbers);
        return made.where != slot::penumbra || is_a_cone_of_its_own(*parsed[slot::penumbra], parsed.numbers);
    } catch (const formulas::fault_in_text&) {
        return false;
    }
}

// What is encoded at last by the display's curve, which is the claim's output and no part of a formula.
std::string without_display(const std::string& curve) {
    static const text_pattern display(R"(^pow\((.*), (?:vec3\()?(?:1\.0 / 2\.2|0?\.4545\d*)\)?\)$)");
    const auto found = display.find(curve);
    if (!found || !is_one(curve)) {
        return curve;
    }
    const std::string inner = found->text(1);
    return inner.starts_with('(') && is_one(inner) ? inner.substr(1, inner.size() - 2) : inner;
}

// What the vertex stage hands over that is a place or a direction, by its name there.
std::map<std::string, std::string> passed_by_vertices(const shader_program& of, const stage_texts& texts) {
    std::map<std::string, std::string> passed;
    if (of.rate == rate::vertex) {
        return passed;
    }
    shader_program vertices = of;
    vertices.rate = rate::vertex;
    const text_reader before(vertices, texts.vertex);
    static const text_pattern assigned(R"(\b([A-Za-z_]\w*)\s*=[^=])");
    for (const text_pattern::match& each : assigned.all(texts.vertex)) {
        const std::string name = each.text(1);
        const std::string value = before.at_the_end(name);
        if (is_place_or_direction(value)) {
            passed[name] = value;
        }
    }
    return passed;
}

// `[unroll(8)] for`: what HLSL says of a loop or a branch, and nothing else.
std::string without_attributes(const std::string& text) {
    static const text_pattern attribute(
        R"(\[\s*(?:loop|unroll|branch|flatten|fastopt|allow_uav_condition)\s*(?:\(\s*\w+\s*\))?\s*\])");
    std::string kept = text;
    for (const text_pattern::match& each : attribute.all(text)) {
        std::fill_n(kept.begin() + static_cast<std::ptrdiff_t>(each.at), each.parts[0].size(), ' ');
    }
    return kept;
}

} // namespace

namespace {

// Functions that encode a colour as sRGB give what they are given: the claim's output does that.
std::string without_display_functions(std::string text) {
    static const text_pattern function(
        R"(\b(?:vec3|float3|half3|float)\s+\w+\s*\(\s*(?:(?:in|const|highp|mediump|lowp)\s+)*(?:vec3|float3|half3|float)\s+(\w+)\s*\)\s*\{)");
    static const text_pattern encodes(R"(\b1\.055f?\s*\)?\s*\*|\*\s*(?:(?:vec3|float3)\s*\(\s*)?1\.055\b)");
    std::vector<text_pattern::match> all = function.all(text);
    std::reverse(all.begin(), all.end()); // what comes before keeps its place
    for (const text_pattern::match& each : all) {
        const std::size_t begin = each.at + each.parts[0].size();
        std::size_t end = begin;
        for (int open = 1; end < text.size() && open > 0; ++end) {
            open += text[end] == '{' ? 1 : text[end] == '}' ? -1 : 0;
        }
        if (encodes.is_in(text.substr(begin, end - begin))) {
            text.replace(begin, end - begin, " return " + each.text(1) + "; }");
        }
    }
    return text;
}

} // namespace

stage_texts::stage_texts(const shader_program& of)
    : vertex(without_attributes(without_comments(of.vertex.source))),
      fragment(without_attributes(without_comments(of.fragment.source))) {}

std::vector<written_formula> written_formulas(const shader_program& of, const stage_texts& texts) {
    if (of.rate == rate::face) {
        return {};
    }
    const std::string& text = texts.lit_at(of.rate);
    text_reader read(of, of.output == output_kind::srgb ? without_display_functions(text) : text,
                     passed_by_vertices(of, texts));
    std::vector<written_formula> all;
    const auto add = [&](slot where, const std::string& formula, bool whole = false) {
        const bool known = std::any_of(all.begin(), all.end(), [&](const written_formula& other) {
            return other.where == where && other.text == formula;
        });
        written_formula made{where, formula, {}, whole};
        for (const written_formula::number& each : read.numbers()) {
            if (has_word(formula, each.name.c_str())) {
                made.numbers.push_back(each);
            }
        }
        const bool told = std::any_of(made.numbers.begin(), made.numbers.end(),
                                      [](const written_formula::number& each) { return each.told; });
        // What is diffuse and specular in one could take any mistake for a formula: only what says by its
        // numbers that it is no model of ours.
        const bool taken = (!whole || told) && is_taken(made);
        if (!known && taken) {
            all.push_back(std::move(made));
        }
        return taken;
    };
    for (const std::string& each : read.scalars) {
        if (const std::optional<slot> where = place_of(each)) {
            add(*where, each);
        }
    }
    for (const std::string& each : read.shares) {
        if (has_word(each, "base") && has_word(each, "v|h|r") && !holds_other_vectors(each)) {
            add(slot::specular, each, true);
        }
    }
    for (const std::string& each : read.added) {
        if (!add(slot::more, each)) {
            add(slot::more, "vec3(" + each + ")"); // a number, added to each of the three
        }
    }
    for (const std::string& each : read.curves) {
        const std::string curve = of.output == output_kind::gamma ? without_display(each) : each;
        if (curve != "c" && !holds_other_vectors(curve)) {
            add(slot::color, curve);
        }
    }
    // The whole of it rather than a part.
    std::stable_sort(all.begin(), all.end(), [](const written_formula& a, const written_formula& b) {
        return a.text.size() > b.text.size();
    });
    std::map<slot, std::size_t> taken;
    std::erase_if(all, [&](const written_formula& each) { return ++taken[each.where] > most_of_a_slot; });
    return all;
}

} // namespace yurvo::inline v0_1::program
