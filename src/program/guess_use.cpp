// What a shader's text does with a name, beside what the name says.
#include <algorithm>
#include <array>
#include <cctype>
#include <initializer_list>

#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_words.hpp"
#include "program/written_names.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// A power's exponent is the name, or one of its components (the first group).
text_pattern exponent_of(const std::string& name, const char* behind) {
    return text_pattern(R"(\bpow\s*\([^;]*,\s*(?:max\s*\(\s*)?[\w.\[\]]*\b)" + last_name(name) + behind);
}
constexpr const char* component = R"(\s*(?:\[[^\]]*\]\s*)?\.\s*([xyzwrgba])\b)";
constexpr const char* alone = R"(\s*[,)])";
constexpr const char* before_name = R"([\w.\[\]]*\b)"; // what a member is one of: `lamps[i].`

// `color.rgb * color.a`: three numbers and how strong they are.
bool multiplied_by_its_fourth(const std::string& text, const std::string& name) {
    const std::string three = name + R"(\s*(\[[^\]]*\]\s*)?\.\s*(rgb|xyz)\b)";
    const std::string fourth = name + R"(\s*(\[[^\]]*\]\s*)?\.\s*[aw]\b)";
    return text_pattern("\\b" + three + R"(\s*\*\s*)" + before_name + fourth + "|\\b" + fourth +
                        R"(\s*\*\s*)" + before_name + three)
        .is_in(text);
}

// `place.w == 0.0`, `place.xyz - p * place.w`: whether the fourth number says that it is a place.
bool fourth_says_a_place(const std::string& text, const std::string& name) {
    const std::string fourth = name + R"(\s*(\[[^\]]*\]\s*)?\.\s*[aw]\b)";
    const bool another_kind = text_pattern("\\b" + fourth + R"(\s*[<>=!]+\s*(1\.[1-9]|[2-9]))").is_in(text);
    return !another_kind &&
           text_pattern("\\b" + fourth + R"(\s*[<>=!]+\s*[01]|-\s*[\w.]+\s*\*\s*)" + before_name + fourth)
               .is_in(text);
}

// `d / place.w`: whether it is how far the light reaches; `place.xyz / place.w` is a place all the same.
bool divides_by_its_fourth(const std::string& text, const std::string& name) {
    const std::string index = R"(\s*(?:\[[^\]]*\]\s*)?\.\s*)";
    const std::string by_fourth = R"(\s*/\s*)" + std::string(before_name) + name + index + R"([aw]\b)";
    return text_pattern(by_fourth).is_in(text) &&
           !text_pattern("\\b" + name + index + "(?:xyz|rgb)" + by_fourth).is_in(text);
}

// What the fourth number beside a direction is, where a cosine is taken of it or compared with it; else
// empty.
std::string border_in_fourth(const std::string& text, const std::string& name) {
    const std::string fourth = before_name + name + R"(\s*(\[[^\]]*\]\s*)?\.\s*[aw]\b)";
    const auto has = [&](const std::string& pattern) { return text_pattern(pattern).is_in(text); };
    return has(R"(\bcos\s*\(\s*radians\s*\(\s*)" + fourth) ? "outer_degrees"
           : has(R"(\bcos\s*\(\s*)" + fourth)              ? "outer"
           : has(R"([\w)]\s*[<>]=?\s*)" + fourth)          ? "cos_outer"
                                                           : "";
}

// What makes 0 to 1 of a cosine between those of two angles: `(c - cone.y) * cone.x`, `c * scale + offset`.
std::string cone_scale(const std::string& lamp) {
    return "= 1.0 / (" + lamp + "cos_inner - " + lamp + "cos_outer)";
}
std::string cone_offset(const std::string& lamp) {
    return "= -" + lamp + "cos_outer / (" + lamp + "cos_inner - " + lamp + "cos_outer)";
}

// Whether a text reads nothing of a vector but its first three numbers, together.
bool reads_three_alone(const std::string& text, const std::string& name) {
    const std::size_t declared =
        text_pattern(R"(\b(?:vec|float|half)4\s+)" + name + R"(\s*(?:\[[^\]]*\])?\s*;)").all(text).size();
    const std::size_t together = text_pattern("\\b" + name + R"(\s*\.\s*(?:rgb|xyz)\b)").all(text).size();
    return together > 0 && together + declared == text_pattern::word(name).all(text).size();
}

// `1.0 + k * d * d`: the coefficient of the distance or of its square beside a constant of 1; empty for what
// is no such thing.
std::string coefficient_beside_one(const std::string& text, const std::string& name) {
    const auto found = text_pattern(std::string(R"(\b1(?:\.0*)?f?\s*\+\s*)") + before_name + name +
                                    R"(\s*\*\s*(\w+)(\s*\*\s*\w+)?)")
                           .find(text);
    if (!found) {
        return "";
    }
    const bool squared =
        !found->text(2).empty() || text_pattern("\\b" + found->text(1) + R"(\s*=\s*dot\s*\()").is_in(text);
    return squared ? "coefficients[2]" : "coefficients[1]";
}

// The components of a vector of two to four that are a cone's scale, and its cosine or offset; empty where it
// is used otherwise.
std::string cone_by_components(const std::string& text, const std::string& name, std::size_t width,
                               const std::string& lamp) {
    const std::string of = before_name + name + component;
    const auto after = text_pattern(R"(-\s*)" + of + R"(\s*\)\s*\*\s*)" + of).find(text);
    const auto added = text_pattern(R"(\*\s*)" + of + R"(\s*\+\s*)" + of).find(text);
    if (!after && !added) {
        return "";
    }
    const auto place = [&](std::size_t group) {
        return places.find(as_place((after ? *after : *added).parts[group].front()));
    };
    std::array<std::string, 4> means{"0", "0", "0", "0"};
    if (after) {
        means[place(1)] = lamp + "cos_outer";
        means[place(2)] = cone_scale(lamp);
    } else {
        means[place(1)] = cone_scale(lamp);
        means[place(2)] = cone_offset(lamp);
    }
    std::string list = means[0];
    for (std::size_t i = 1; i < width; ++i) {
        list += ", " + means[i];
    }
    return list;
}

} // namespace

bool used_as_color(const std::string& text, const std::string& name) {
    const std::string here = before_name + name + R"(\b)";
    const std::string three = R"((\s*\[[^\]]*\])?(\s*\.\s*(rgb|xyz))?)";
    return !text_pattern(R"(\b(normalize|length|distance|reflect|dot|cross)\s*\([^();]*)" + here + "|" +
                         here + three + R"(\s*-|-\s*)" + here)
                .is_in(text) &&
           text_pattern(R"(\*\s*)" + here + "|" + here + three + R"(\s*[*/])").is_in(text);
}

namespace {

// What of a light a name is by what is done with it, where nothing else says so: a place is told by
// differences, a direction by what is made unit or multiplied as a vector is, a reach by what it divides.
std::string property_by_use(const std::string& text, const std::string& name, const std::string& type) {
    const std::string here = before_name + name + R"(\b)";
    const std::string three = R"((?:\s*\[[^\]]*\])?(?:\s*\.\s*(?:rgb|xyz))?)";
    const auto has = [&](const std::string& pattern) { return text_pattern(pattern).is_in(text); };
    if (type == "float") {
        return has(R"(/\s*)" + here) ? "range" : "";
    }
    if (has(here + three + R"(\s*-\s*[A-Za-z])") || has(R"([\w\])]\s*-\s*)" + here)) {
        return "position";
    }
    if (has(R"(\b(?:normalize\s*\(|dot\s*\([^(),]*,|dot\s*\()\s*-\s*)" + here)) {
        return "shines";
    }
    if (has(R"(\b(?:normalize\s*\(|dot\s*\([^(),]*,|dot\s*\()\s*)" + here)) {
        return "to_light";
    }
    return used_as_color(text, name) ? "light" : "";
}

// Where a round goes on below one component of a vector of whole numbers, that is how many lights there are.
std::string count_by_component(const std::string& text, const std::string& name, std::size_t width) {
    const auto found =
        text_pattern(R"(\w\s*<\s*(?:\w+\s*\(\s*)?)" + (before_name + name) + component + R"(\s*\)?\s*;)")
            .find(text);
    if (!found) {
        return "";
    }
    const std::size_t place = places.find(as_place(found->parts[1].front()));
    std::string list;
    for (std::size_t i = 0; i < width; ++i) {
        list += (i == 0 ? "" : ", ") + std::string(i == place ? "lights.count" : "1");
    }
    return list;
}

} // namespace

std::string means_by_use(const std::string& text, const guessed_name& name) {
    shader_binding called;
    called.name = name.name;
    if (name.means.empty() && names_a_number(called)) {
        return "";
    }
    const std::string last = last_name(name.name);
    const bool array = name.name.ends_with("[*]"); // of lights, nearly always
    if (name.means.empty() && (name.type == "vec3" || (name.type == "float" && array)) &&
        (array || names_a_light(lowered(last)))) {
        const std::string property = property_by_use(text, last, name.type);
        return property.empty() ? "" : (array ? "lights[*]." : "lights[0].") + property;
    }
    if (name.means.empty() && meaning_of_letter(name.name, name.type) == "lights[0].to_light" &&
        text_pattern(R"(\()" + last + R"(\s*-\s*\w)").is_in(text)) { // `normalize(L - P)`
        return "lights[0].position";
    }
    const std::string& means = name.means;
    const std::string lamp = name.name.find("[*]") != std::string::npos ? "lights[*]." : "lights[0].";
    const bool of_light = means.find("lights[") != std::string::npos;
    const auto ends = [&](const char* property) { return of_light && means.ends_with(property); };
    if (means.empty() && (name.type == "ivec2" || name.type == "ivec3" || name.type == "ivec4" ||
                          name.type == "uvec2" || name.type == "uvec3" || name.type == "uvec4")) {
        return count_by_component(text, last, static_cast<std::size_t>(name.type.back() - '0'));
    }
    if (name.type == "float") {
        const bool open = means.empty() || means == "material.specular[0]" || // `specExp`, `alpha`
                          means == "material.alpha";
        const std::string word = lowered(last);
        if (open && exponent_of(name.name, alone).is_in(text)) {
            return "material.shininess";
        }
        for (const char* const border :
             {"inner", "outer"}) { // an angle that a cosine is taken of, in degrees or not
            const std::string cosine = std::string("cos_") + border;
            if (!ends(cosine.c_str()) && !ends((std::string(".") + border).c_str())) {
                continue;
            }
            std::string angle = means.substr(0, means.find_last_of('.') + 1) + border;
            if (text_pattern(std::string(R"(\bradians\s*\(\s*(?:clamp\s*\(\s*)?)") + before_name + last +
                             "\\b")
                    .is_in(text)) {
                return angle + "_degrees";
            }
            if (text_pattern(std::string(R"(\bcos\s*\(\s*)") + before_name + last + "\\b").is_in(text)) {
                return angle;
            }
            static const text_pattern in_degrees(R"(\bdegrees\s*\(\s*acos\s*\()"); // what it is compared with
            if (in_degrees.is_in(text)) {
                return angle + "_degrees";
            }
        }
        const auto says = [&](std::initializer_list<const char*> parts) {
            return std::any_of(parts.begin(), parts.end(),
                               [&](const char* part) { return word.find(part) != std::string::npos; });
        };
        if (means.empty() &&
            (name.name.find("[*]") != std::string::npos || names_a_light(lowered(name.name)))) {
            const std::string which = coefficient_beside_one(text, last);
            if (!which.empty()) {
                return lamp + which;
            }
        }
        const bool inverse = says({"inv", "rcp", "reciprocal", "oneover"});
        if (ends(".range") && !means.starts_with('=') &&
            (inverse || says({"sq", "range2", "radius2"}))) { // `invRange`, `radiusSq`
            const std::string range = says({"sq", "range2", "radius2"}) ? means + " * " + means : means;
            return !inverse ? "= " + range : "= 1.0 / " + (range == means ? range : "(" + range + ")");
        }
        const bool of_cone = name.name.find("[*]") != std::string::npos ||
                             word.find("angle") != std::string::npos ||
                             word.find("cone") != std::string::npos || word.find("spot") != std::string::npos;
        if (of_cone && (says({"scale"}) || (inverse && says({"cone", "angle", "spot", "penumbra"})))) {
            return cone_scale(lamp);
        }
        if (of_cone && says({"offset", "bias"})) {
            return cone_offset(lamp);
        }
    }
    if (name.type == "vec4") {
        if (means == "material.base_alpha" && reads_three_alone(text, last)) {
            return "material.base";
        }
        if (means.empty() || means == "material.specular") {
            const auto found = exponent_of(name.name, component).find(text);
            if (found && as_place(found->parts[1].front()) == 'w') {
                return "material.specular, material.shininess";
            }
        }
        if ((ends(".color") || ends(".light")) && multiplied_by_its_fourth(text, last)) {
            return lamp + "color, " + lamp + "intensity";
        }
        if (means == "ambient.light" && multiplied_by_its_fourth(text, last)) {
            return "ambient.color, ambient.strength";
        }
        if (ends(".position") && fourth_says_a_place(text, last)) {
            return lamp + "place";
        }
        if ((ends(".position") || ends(".place")) && divides_by_its_fourth(text, last)) {
            return means.substr(0, means.find_last_of('.') + 1) + "position, " +
                   means.substr(0, means.find_last_of('.') + 1) + "range";
        }
        if (ends(".shines") || ends(".axis")) { // and a cone's border
            const std::string border = border_in_fourth(text, last);
            return border.empty() ? means : means + ", " + lamp + border;
        }
    }
    if ((ends(".position") || ends(".place") || ends(".to_light")) &&
        used_as_color(text, last)) { // `sunLight`, `lamps[*].light`
        return lamp + "color";
    }
    if ((name.type == "vec2" || name.type == "vec4") && means.find("cos_inner") != std::string::npos) {
        const std::string scaled = cone_by_components(text, last, name.type == "vec2" ? 2 : 4, lamp);
        return scaled.empty() ? means : scaled;
    }
    return means;
}

namespace {

// What a lamp's numbers are by what is done with them: the borders of a cone between which something rises,
// the coefficients of a distance and of its square.
void take_numbers_of_lamp(const std::string& text, const std::string& name, const std::string& lamp,
                          std::vector<std::string>& means) {
    const std::string of = before_name + name + component;
    const std::string angle = R"(cos\s*\(\s*)" + of + R"(\s*\))";
    struct use {
        std::string pattern;
        std::vector<const char*> properties; // of the components in the order in which they stand there
    };
    const std::string between = R"(\s*,\s*)";
    const std::string times = R"(\s*\*\s*\w+\s*\+\s*)";
    for (const use& each : std::initializer_list<use>{
             {R"(\bsmoothstep\s*\(\s*)" + of + between + of, {"cos_outer", "cos_inner"}},
             {R"(\bsmoothstep\s*\(\s*)" + angle + between + angle, {"outer", "inner"}},
             {R"(/\s*\(\s*)" + of + R"(\s*-\s*)" + of, {"cos_inner", "cos_outer"}},
             {of + R"(\s*\+\s*)" + of + times + of + R"(\s*\*)",
              {"coefficients[0]", "coefficients[1]", "coefficients[2]"}}}) {
        const auto found = text_pattern(each.pattern).find(text);
        for (std::size_t i = 0; found && i < each.properties.size(); ++i) {
            const std::size_t place = places.find(as_place(found->parts[i + 1].front()));
            if (place < means.size()) {
                means[place] = lamp + each.properties[i];
            }
        }
    }
}

} // namespace

std::string means_by_components(const std::string& text, const guessed_name& name) {
    const std::size_t width = name.type.back() == '2' ? 2 : name.type.back() == '3' ? 3 : 4;
    std::vector<std::string> means(width, "1");
    if (const auto found = exponent_of(name.name, component).find(text)) {
        const std::size_t place = places.find(as_place(found->parts[1].front()));
        if (place < width) {
            means[place] = "material.shininess";
        }
    }
    const bool listed = name.name.find("[*]") != std::string::npos;
    take_numbers_of_lamp(text, last_name(name.name), listed ? "lights[*]." : "lights[0].", means);
    std::string list;
    for (const std::string& each : means) {
        list += (list.empty() ? "" : ", ") + each;
    }
    return list;
}

} // namespace yurvo::inline v0_1::program
