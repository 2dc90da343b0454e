#include "program/guess_constants.hpp"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <initializer_list>

#include "program/guess_light_names.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_words.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

std::vector<written_constant> constants_in(const std::string& text) {
    static const text_pattern number(
        R"(((?:const\s+)?(?:(?:highp|mediump|lowp)\s+)?\bfloat|#\s*define)\s+(\w+)\s*=?\s*([0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?)f?\s*(?:;|\n))");
    static const text_pattern triple(
        R"((const\s+(?:\w+\s+)?)?\b(?:vec3|float3)\s+(\w+)\s*=\s*(?:normalize\s*\(\s*)?(?:vec3|float3)\s*\(\s*([-+0-9.eE]+)(?:\s*,\s*([-+0-9.eE]+)\s*,\s*([-+0-9.eE]+))?\s*\))");
    std::vector<written_constant> result;
    const auto number_in = [](const text_pattern::match& found, std::size_t group) {
        return std::atof(found.text(group).c_str());
    };
    // A variable is a constant where it is given a value once, and one that is not there to be added to.
    const auto is_added_to = [&](const std::string& name, const std::vector<double>& numbers) {
        return std::all_of(numbers.begin(), numbers.end(), [](double each) { return each == 0; }) ||
               text_pattern("\\b" + name + R"(\s*[-+*/]?=[^=])").all(text).size() > 1;
    };
    for (const text_pattern::match& found : triple.all(text)) {
        std::vector<double> numbers(3, number_in(found, 3));
        if (!found.text(4).empty()) {
            numbers = {numbers[0], number_in(found, 4), number_in(found, 5)};
        }
        if (!found.text(1).empty() || !is_added_to(found.text(2), numbers)) {
            result.push_back({found.text(2), numbers, false});
        }
    }
    // `const vec3 PLACES[2] = vec3[2](vec3(0.0, 2.0, 0.0), vec3(1.0));`
    static const text_pattern list(
        R"(const\s+(?:\w+\s+)?(?:vec3|float3)\s+(\w+)\s*\[[^\]]*\]\s*=\s*([^;]*);)");
    static const text_pattern element(
        R"((?:vec3|float3)?\s*[({]\s*([-+0-9.eE]+)f?\s*,\s*([-+0-9.eE]+)f?\s*,\s*([-+0-9.eE]+)f?\s*[)}])");
    for (const text_pattern::match& found : list.all(text)) {
        written_constant each{found.text(1), {}, true};
        const std::string elements = found.text(2);
        for (const text_pattern::match& one : element.all(elements)) {
            each.numbers.insert(each.numbers.end(),
                                {number_in(one, 1), number_in(one, 2), number_in(one, 3)});
        }
        if (!each.numbers.empty()) {
            result.push_back(std::move(each));
        }
    }
    for (const text_pattern::match& found : number.all(text)) {
        const std::string declared = found.text(1);
        const bool variable = !declared.starts_with("const") && !declared.starts_with('#');
        const std::vector<double> numbers{number_in(found, 3)};
        if (!variable || !is_added_to(found.text(2), numbers)) {
            result.push_back({found.text(2), numbers, false});
        }
    }
    return result;
}

namespace {

// Whether a name holds one of some words, whatever its letters' case.
bool says(const std::string& name, std::initializer_list<const char*> words) {
    std::string lower = name;
    std::transform(lower.begin(), lower.end(), lower.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return std::any_of(words.begin(), words.end(),
                       [&](const char* word) { return lower.find(word) != std::string::npos; });
}

// The lights of one name: their places, directions or colours.
void take_lights(shader_program& of, const std::string& text, const written_constant& each) {
    const std::size_t count = each.numbers.size() / 3;
    const auto constants = [&](const char* property) {
        for (std::size_t i = 0; i < count; ++i) {
            const auto first = each.numbers.begin() + static_cast<std::ptrdiff_t>(3 * i);
            of.constants.push_back(
                {"lights[" + std::to_string(i) + "]." + property, {first, first + 3}, {of.file, 0, 0}});
        }
    };
    if (says(each.name, {"col", "rgb", "intens", "tint"}) || used_as_color(text, each.name)) {
        constants("light");
    } else if (says(each.name, {"pos", "place", "origin"})) {
        constants("position");
        of.kinds = std::vector{light_kind::point};
    } else {
        constants("to_light");
        of.kinds = std::vector{light_kind::directional};
    }
    of.lights = std::array<int, 2>{static_cast<int>(count), static_cast<int>(count)};
}

// Members of a structure with how many numbers each has; empty where one is of another type.
std::vector<std::pair<std::string, std::size_t>> members_of(const std::string& text,
                                                            const std::string& structure) {
    const auto found = text_pattern("\\bstruct\\s+" + structure + R"(\s*\{([^{}]*)\})").find(text);
    static const text_pattern line(R"(([^;]+);)");
    static const text_pattern declared(
        R"(^\s*(?:(?:highp|mediump|lowp)\s+)?(float|half|vec3|float3|half3)\s+([\w\s,]+)$)");
    static const text_pattern word(R"(\w+)");
    std::vector<std::pair<std::string, std::size_t>> members;
    const std::string inside = found ? found->text(1) : "";
    for (const text_pattern::match& each : line.all(inside)) {
        const std::string of_line = each.text(1);
        const auto names = declared.find(of_line);
        if (!names) {
            return {};
        }
        const std::string list = names->text(2);
        for (const text_pattern::match& name : word.all(list)) {
            members.emplace_back(name.text(0), names->text(1).ends_with('3') ? 3 : 1);
        }
    }
    return members;
}

// The numbers of an initializer in their order; empty where it works anything out.
std::vector<double> numbers_of_initializer(std::string text) {
    static const text_pattern splat(
        R"(\b(?:vec3|float3|half3)\s*\(\s*([-+]?[0-9.]+(?:[eE][-+]?[0-9]+)?)f?\s*\))");
    static const text_pattern word(R"(\b[A-Za-z_]\w*(?:\s*\[[^\]]*\])?)");
    static const text_pattern works_out(R"([0-9.f)]\s*[-+*/])");
    static const text_pattern number(R"([-+]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][-+]?[0-9]+)?)");
    while (const auto found = splat.find(text)) {
        const std::string one = found->text(1);
        text.replace(found->at, found->parts[0].size(),
                     std::string(one).append(", ").append(one) + ", " + one);
    }
    while (const auto found = word.find(text)) { // types, and normalize() of a direction
        text.erase(found->at, found->parts[0].size());
    }
    std::vector<double> numbers;
    for (const text_pattern::match& each : number.all(text)) {
        numbers.push_back(std::atof(each.text(0).c_str()));
    }
    return works_out.is_in(text) ? std::vector<double>{} : numbers;
}

// `const Lantern LANTERNS[2] = Lantern[2](Lantern(vec3(0.0, 2.0, 0.0), vec3(1.0)), ...)`: lights with all
// that they have.
void take_lists_of_structures(shader_program& of, const std::string& text) {
    static const text_pattern list(R"(\bconst\s+(\w+)\s+\w+\s*\[[^\]]*\]\s*=\s*([^;]*);)");
    for (const text_pattern::match& each : list.all(text)) {
        const auto members = members_of(text, each.text(1));
        const std::vector<double> numbers = numbers_of_initializer(each.text(2));
        std::size_t width = 0;
        std::vector<std::string> properties;
        for (const auto& [name, count] : members) {
            width += count;
            properties.push_back(guess_light(lowered(name), static_cast<int>(count), false));
        }
        const auto has = [&](const char* property) {
            return std::find(properties.begin(), properties.end(), property) != properties.end();
        };
        if (width == 0 || numbers.size() % width != 0 ||
            !(has("position") || has("shines") || has("to_light"))) {
            continue;
        }
        const auto count = static_cast<int>(numbers.size() / width);
        auto from = numbers.begin();
        for (int i = 0; i < count; ++i) {
            for (std::size_t m = 0; m < members.size(); ++m) {
                const auto end = from + static_cast<std::ptrdiff_t>(members[m].second);
                std::string property = properties[m];
                if (property == "color" && !has("intensity")) {
                    property = "light";
                }
                if (!property.empty()) {
                    of.constants.push_back(
                        {"lights[" + std::to_string(i) + "]." + property, {from, end}, {of.file, 0, 0}});
                }
                from = end;
            }
        }
        of.lights = std::array<int, 2>{count, count};
        of.kinds = std::vector{!has("position")                   ? light_kind::directional
                               : has("shines") || has("to_light") ? light_kind::spot
                                                                  : light_kind::point};
        return;
    }
}

// What three numbers are whose name says a term, of a lamp or of a surface: `Ld`, `matDiffuse`, `Ks`.
std::string factor_of_term(const std::string& name) {
    std::string word = lowered(name);
    for (const char* letters : {"la", "ld", "ls", "ka", "kd", "ks"}) {
        if (word == letters) {
            word = std::string(word.front() == 'l' ? "light" : "mat") + word.back();
        }
    }
    const bool of_light = names_a_light(word);
    if (!of_light && word.find("mat") == std::string::npos) {
        return "";
    }
    return says(word, {"diff"}) || word.ends_with("td")
               ? of_light ? "lights[0].diffuse_light" : "material.diffuse"
           : says(word, {"spec"}) || word.ends_with("ts")
               ? of_light ? "lights[0].specular_light" : "material.specular"
           : says(word, {"amb"}) || word.ends_with("ta") ? of_light ? "ambient.light" : "material.ambient"
                                                         : "";
}

} // namespace

void take_constants(shader_program& of, const std::string& text,
                    const std::function<bool(const char*)>& any_means, const found_before& before) {
    const auto constant = [&](const char* quantity, const std::vector<double>& numbers) {
        const bool grey = numbers.size() == 3 && numbers[0] == numbers[1] && numbers[0] == numbers[2];
        of.constants.push_back({quantity, grey ? std::vector{numbers[0]} : numbers, {of.file, 0, 0}});
    };
    if (!any_means("lights")) {
        take_lists_of_structures(of, text);
    }
    for (const written_constant& each : constants_in(text)) {
        const bool three = each.numbers.size() == 3;
        const auto names = [&](std::initializer_list<const char*> words) {
            return !each.list && says(each.name, words);
        };
        const std::string factor = three && !each.list ? factor_of_term(each.name) : "";
        if (!factor.empty() && !any_means(factor.substr(factor.find('.')).c_str())) {
            constant(factor.c_str(), each.numbers);
            if (factor == "material.diffuse" &&
                !any_means("material.base")) { // what it is a factor of is white
                constant("material.base", {1});
            }
        } else if (names({"shin", "gloss", "tight", "power", "exponent", "specexp"}) && !three &&
                   !before.exponent && !any_means("shininess")) {
            constant("material.shininess", each.numbers);
        } else if (names({"ambient"})) {
            if (!before.ambient_part && !any_means("ambient.")) {
                constant("ambient.light", each.numbers);
            }
        } else if (names({"specular", "spec_", "ks", "shine"})) {
            if (!before.specular_factor && !any_means("material.specular")) {
                constant("material.specular", each.numbers);
            }
        } else if (!any_means("lights") && (each.list || (three && names({"dir", "to_", "tolight", "moon",
                                                                          "sun", "light", "lamp"})))) {
            take_lights(of, text, each);
        }
    }
}

} // namespace yurvo::inline v0_1::program
