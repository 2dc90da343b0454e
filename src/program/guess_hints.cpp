#include "program/guess_hints.hpp"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <regex>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/source_text.hpp"

namespace yurvo::program {

using formulas::slot;

namespace {

// A number or three as the source writes them: `const vec3 MOON = normalize(vec3(0.3, 0.8, 0.4));`.
struct written_constant {
    std::string name;
    std::vector<double> numbers;
};
std::vector<written_constant> constants_in(const std::string& text) {
    static const std::regex number(
        R"((?:const\s+(?:\w+\s+)?float|#\s*define)\s+(\w+)\s*=?\s*([0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?)f?\s*(?:;|\n))");
    static const std::regex triple(
        R"(const\s+(?:\w+\s+)?(?:vec3|float3)\s+(\w+)\s*=\s*(?:normalize\s*\(\s*)?(?:vec3|float3)\s*\(\s*([-+0-9.eE]+)\s*,\s*([-+0-9.eE]+)\s*,\s*([-+0-9.eE]+)\s*\))");
    std::vector<written_constant> result;
    for (std::sregex_iterator at(text.begin(), text.end(), triple), end; at != end; ++at) {
        result.push_back({(*at)[1],
                          {std::atof((*at)[2].str().c_str()), std::atof((*at)[3].str().c_str()),
                           std::atof((*at)[4].str().c_str())}});
    }
    for (std::sregex_iterator at(text.begin(), text.end(), number), end; at != end; ++at) {
        result.push_back({(*at)[1], {std::atof((*at)[2].str().c_str())}});
    }
    return result;
}

} // namespace

rate likely_rate(const shader_program& sources, const guessed_bindings& guessed) {
    const std::string fragment = without_comments(sources.fragment.source);
    for (const guessed_name& each : guessed.uniforms) {
        if (!each.means.starts_with("lights")) {
            continue;
        }
        const std::string first = each.name.substr(0, each.name.find_first_of("[."));
        if (std::regex_search(fragment, std::regex("\\b" + first + "\\b")) ||
            sources.language == shading_language::hlsl || sources.language == shading_language::spirv) {
            return rate::fragment;
        }
    }
    static const std::regex lights(R"(\bnormalize\s*\(|\bdot\s*\(|\breflect\s*\()");
    return std::regex_search(fragment, lights) ? rate::fragment : rate::vertex;
}

void take_hints(shader_program& of, const std::string& text) {
    const auto has = [&](const char* pattern) { return std::regex_search(text, std::regex(pattern)); };
    const auto any_means = [&](const char* part) {
        return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
            return text_of(each).find(part) != std::string::npos;
        });
    };
    if (has(R"(0?\.0031308|1\.055)")) {
        of.output = output_kind::srgb;
    } else if (has(R"(1\.0\s*/\s*2\.2|0?\.4545)")) {
        of.output = output_kind::gamma;
    }
    if (has(R"((\w+)\s*/\s*\(\s*\1\s*\+\s*(vec3\s*\(\s*|float3\s*\(\s*)?1)") ||
        has(R"((\w+)\s*/\s*\(\s*(vec3\s*\(\s*|float3\s*\(\s*)?1(\.0?)?\s*\)?\s*\+\s*\1)")) {
        of.formulas[slot::color] = "c / (c + 1.0)";
    }
    if (has(R"(gl_Position\.y\s*=\s*-|gl_Position\.y\s*\*=\s*-)")) {
        of.clip = clip_space::vulkan;
    } else if (has(R"(gl_Position\.z\s*=)")) {
        of.clip = clip_space::d3d;
    }
    const bool normals = std::any_of(of.attributes.begin(), of.attributes.end(),
                                     [](const shader_binding& each) { return text_of(each) == "normal"; });
    if (!normals && has(R"(\bdFdx\b|\bddx\b)")) {
        of.normals = normals_claim::face;
    }
    if (!any_means(".intensity")) { // a light's colour is all of its light then
        for (shader_binding& each : of.uniforms) {
            const std::string means = text_of(each);
            if (means.starts_with("lights") && means.ends_with(".color")) {
                each.means = {means.substr(0, means.size() - 5) + "light"};
            }
        }
    }
    const auto constant = [&](const char* quantity, std::vector<double> numbers) {
        of.constants.push_back({quantity, std::move(numbers), {of.file, 0, 0}});
    };
    for (const written_constant& each : constants_in(text)) {
        std::string name = each.name;
        std::transform(name.begin(), name.end(), name.begin(),
                       [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        const auto names = [&](std::initializer_list<const char*> words) {
            return std::any_of(words.begin(), words.end(),
                               [&](const char* word) { return name.find(word) != std::string::npos; });
        };
        const bool three = each.numbers.size() == 3;
        if (names({"shin", "gloss", "tight", "power", "exponent"}) && !three && !any_means("shininess")) {
            constant("material.shininess", each.numbers);
        } else if (names({"ambient"}) && !any_means("ambient.")) {
            constant("ambient.light", each.numbers);
        } else if (names({"specular", "spec_", "ks"}) && !any_means("material.specular")) {
            constant("material.specular", each.numbers);
        } else if (three && !any_means("lights") &&
                   names({"dir", "to_", "tolight", "moon", "sun", "light", "lamp"})) {
            if (names({"color", "colour", "col", "rgb", "intens"})) {
                constant("lights[0].color", each.numbers);
                constant("lights[0].intensity", {1});
            } else if (names({"pos"})) {
                constant("lights[0].position", each.numbers);
                of.kinds = std::vector{light_kind::point};
            } else {
                constant("lights[0].to_light", each.numbers);
                of.kinds = std::vector{light_kind::directional};
            }
            of.lights = std::array<int, 2>{1, 1};
        }
    }
}

} // namespace yurvo::program
