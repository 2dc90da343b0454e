#include "program/guess_ambient.hpp"

#include <algorithm>
#include <cctype>
#include <cstdlib>

#include "program/guess_constants.hpp"
#include "program/guess_moves.hpp"
#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Where the bracket closes that is open at a place.
std::size_t bracket_end(const std::string& text, std::size_t from) {
    int depth = 1;
    while (from < text.size() && depth > 0) {
        depth += text[from] == '(' ? 1 : text[from] == ')' ? -1 : 0;
        ++from;
    }
    return from;
}

// Whether a product of a name, or of a sum that it stands in, and a light's colour stands in a text:
// `ambientStrength * lamp`, `(ambientStrength + cosine) * lamp`; of many lights `lamps[i].color` or
// `each.color`.
bool has_share_of_light(const std::string& text, const std::string& share_name,
                        const std::string& light_name) {
    const std::string share = R"(\b)" + share_name + R"(\b)";
    const std::size_t of_many = light_name.find("[*]");
    std::string color = R"(\b)" + light_name;
    if (of_many != std::string::npos) {
        const std::string member = light_name.substr(of_many + 3);
        color = R"(\b)" + light_name.substr(0, of_many) + R"(\s*\[[^\]]*\])" + member;
        color += member.empty() ? "" : R"(|\b\w+)" + member;
    }
    color = "(?:" + color + R"()\b)";
    const text_pattern opened(color + R"((?:\s*\.\s*\w+)?\s*\*\s*\()");
    for (const text_pattern::match& each : opened.all(text)) { // a product of it among what is added up
        const std::size_t begin = each.at + each.parts[0].size();
        if (text_pattern(share).is_in(text.substr(begin, bracket_end(text, begin) - begin))) {
            return true;
        }
    }
    const std::string sum = R"(\((?:[^;=()]*\+)?\s*)" + share + R"(\s*(?:\+[^;=]*)?\)\s*)";
    return text_pattern(share + R"(\s*\*\s*)" + color).is_in(text) ||
           text_pattern(color + R"(\s*\*\s*)" + share).is_in(text) ||
           text_pattern(sum + R"(\*\s*)" + color).is_in(text) ||
           text_pattern(color + R"(\s*\*\s*)" + sum).is_in(text);
}

} // namespace

std::optional<double> written_ambient_part(const shader_program& of, const std::string& text) {
    static const text_pattern product(
        R"(\w*[aA]mbient\w*\s*=\s*([0-9]*\.?[0-9]+|\w+)f?\s*\*\s*(\w+)\s*(?:\*\s*\w+\s*)?;)");
    for (const text_pattern::match& found : product.all(text)) {
        const std::string factor = found.text(1);
        const std::string light = found.text(2);
        const bool of_light =
            std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
                const std::string means = text_of(each);
                return each.name == light && means.starts_with("lights") &&
                       (means.ends_with(".light") || means.ends_with(".color"));
            });
        if (!of_light) {
            continue;
        }
        if (std::isdigit(static_cast<unsigned char>(factor.front())) != 0 || factor.front() == '.') {
            return std::atof(factor.c_str());
        }
        for (const written_constant& each : constants_in(text)) {
            if (each.name == factor && each.numbers.size() == 1) {
                return each.numbers.front();
            }
        }
    }
    return std::nullopt;
}

std::optional<double> written_ambient_light(const shader_program& of, const std::string& text) {
    static const text_pattern named(
        R"(\w*[aA]mbient\w*\s*=\s*(?:(?:vec|float)3\s*\(\s*)?([0-9]*\.[0-9]+)f?\s*\)?\s*\*\s*[\w.]+\s*(?:\*\s*\w+\s*)?;)");
    if (const auto found = named.find(text)) {
        return std::atof(found->text(1).c_str());
    }
    static const text_pattern grey(R"((?:vec|float)3\s*\(\s*([0-9]*\.[0-9]+)f?\s*\)\s*\*\s*([\w.]*\w))");
    for (const text_pattern::match& found : grey.all(text)) {
        const bool of_base =
            std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
                return text_of(each).starts_with("material.base") &&
                       (each.name == found.text(2) || each.name + ".rgb" == found.text(2) ||
                        last_name(each.name) == last_name(found.text(2)));
            });
        if (of_base) {
            return std::atof(found.text(1).c_str());
        }
    }
    return std::nullopt;
}

void take_shares_of_whole_light(shader_program& of, const std::string& text) {
    for (shader_binding& share : of.uniforms) {
        const std::string means = text_of(share);
        const std::size_t times = means.find(".intensity * ");
        if (!means.starts_with("= lights") || times == std::string::npos || !means.ends_with(".ambient.x")) {
            continue;
        }
        const std::string lamp = means.substr(2, times - 2);
        for (const shader_binding& light : of.uniforms) {
            const std::string between =
                R"(\s*(?:\*\s*[\w.\[\]]+\s*)*\*\s*(?:\w+\s*(?:\[[^\]]*\])?\s*\.\s*)?)";
            const std::string first = "\\b" + last_name(share.name) + "\\b";
            const std::string other = "\\b" + last_name(light.name) + "\\b";
            if (text_of(light) == lamp + ".light" && (text_pattern(first + between + other).is_in(text) ||
                                                      text_pattern(other + between + first).is_in(text))) {
                share.means = {lamp + ".ambient[0]"};
                break;
            }
        }
    }
}

bool take_ambient_share(shader_program& of, const std::string& text) {
    constexpr double share_of_many = 0.15;
    for (shader_binding& strength : of.uniforms) {
        const std::string of_ambient = text_of(strength);
        const bool three = of_ambient == "ambient.light" || of_ambient == "ambient.color";
        if (of_ambient != "ambient.strength" && !three) {
            continue;
        }
        for (const shader_binding& light : of.uniforms) {
            const std::string means = text_of(light);
            const std::string lamp = means.substr(0, means.find('.') + 1);
            const bool many = lamp == "lights[*].";
            if (!((many && !three) || lamp == "lights[0].") ||
                (means != lamp + "light" && means != lamp + "color") ||
                !has_share_of_light(text, strength.name, light.name)) {
                continue;
            }
            if (many) {
                strength.means = {share_of_many};
                of.constants.push_back(
                    {lamp + "ambient", {share_of_many, share_of_many, share_of_many}, {of.file, 0, 0}});
            } else {
                strength.means = {lamp + (three ? "ambient" : "ambient[0]")};
            }
            return true;
        }
    }
    return false;
}

} // namespace yurvo::inline v0_1::program
