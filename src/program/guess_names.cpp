#include "program/guess_names.hpp"

#include <algorithm>
#include <cctype>
#include <initializer_list>
#include <iterator>
#include <optional>
#include <set>
#include <string_view>
#include <utility>

#include "program/guess_light_names.hpp"
#include "program/guess_words.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

// Without the letter that says what it is: `u_light` and `uLight` are lights.
std::string lowered(std::string text) {
    if (text.size() > 1 && std::string_view("uavg").find(text[0]) != std::string_view::npos &&
        std::isupper(static_cast<unsigned char>(text[1])) != 0) {
        text.erase(0, 1);
    }
    for (const char* prefix : {"u_", "a_", "in_"}) {
        if (text.starts_with(prefix)) {
            text.erase(0, std::string_view(prefix).size());
            break;
        }
    }
    for (char& c : text) {
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    std::erase(text, '_');
    return text;
}

std::string one_of(const std::string& name,
                   std::initializer_list<std::pair<std::string_view, std::string_view>> names) {
    for (const auto& [each, means] : names) {
        if (name == each) {
            return std::string(means);
        }
    }
    return "";
}

std::string first_of(const std::vector<rule>& rules, const std::string& name) {
    for (const rule& each_rule : rules) {
        for (const std::string_view word : each_rule.any) {
            if (name.find(word) != std::string::npos) {
                return std::string(each_rule.means);
            }
        }
    }
    return "";
}

namespace {

bool says_ambient(std::string name) {
    const std::string_view other = "lambert"; // holds it, and says something else
    const std::size_t at = name.find(other);
    if (at != std::string::npos) {
        name.erase(at, other.size());
    }
    return name.find("amb") != std::string::npos;
}

std::string guess_plain(const std::string& name, const std::string& before, int components, bool whole) {
    if (whole) {
        return first_of(
            {{{"shin", "gloss", "exponent", "specpow"}, "material.shininess"},
             {{"count", "num", "size", "npoint", "nspot", "nlight", "nlamp", "ndir", "nsun"}, "lights.count"},
             {{"side"}, "material.two_sided"}},
            name);
    }
    const bool of_material = name.find("mat") != std::string::npos ||
                             name.find("factor") != std::string::npos ||
                             (before != name && before.find("mat") != std::string::npos);
    if (components == 1) {
        std::string short_name = one_of(name, {{"n", "material.shininess"},
                                               {"sh", "material.shininess"},
                                               {"kc", "lights[0].coefficients[0]"},
                                               {"kl", "lights[0].coefficients[1]"},
                                               {"kq", "lights[0].coefficients[2]"},
                                               {"kconst", "lights[0].coefficients[0]"},
                                               {"klin", "lights[0].coefficients[1]"},
                                               {"kquad", "lights[0].coefficients[2]"},
                                               {"constant", "lights[0].coefficients[0]"},
                                               {"linear", "lights[0].coefficients[1]"},
                                               {"quadratic", "lights[0].coefficients[2]"}});
        if (!short_name.empty()) {
            return short_name;
        }
        // Nothing moves, nothing is cut out of a surface, and no map is bumpy.
        std::string still = first_of({{{"bump", "normalscale", "normalstrength", "normalintens", "reflectiv",
                                        "envmapint", "environmentint"},
                                       "1"},
                                      {{"heightscale", "parallax", "displace", "alphacut", "alphatest",
                                        "alphathresh", "alpharef", "alphaclip", "cutoffalpha"},
                                       "0"}},
                                     name);
        if (!still.empty() || name == "time" || name.ends_with("time")) {
            return still.empty() ? "0" : still;
        }
        if (name.find("inner") != std::string::npos || name.find("outer") != std::string::npos ||
            name.find("limit") != std::string::npos || name.find("cutoff") != std::string::npos) {
            const bool of_inner = name.find("inner") != std::string::npos;
            const bool angle =
                name.find("cos") == std::string::npos &&
                (name.find("ang") != std::string::npos || name.find("cone") != std::string::npos);
            return std::string("lights[0].") + (angle ? "" : "cos_") + (of_inner ? "inner" : "outer");
        }
        if (name == "ao" || name.find("occlusion") != std::string::npos) {
            return "1"; // no scene has any
        }
        if (name.find("att") != std::string::npos || name.find("falloff") != std::string::npos) {
            return first_of({{{"const"}, "lights[0].coefficients[0]"},
                             {{"lin"}, "lights[0].coefficients[1]"},
                             {{"quad"}, "lights[0].coefficients[2]"}},
                            name);
        }
        return first_of({{{"shin", "gloss", "exponent", "specpow", "specularpow", "tight", "hardness"},
                          "material.shininess"},
                         {{"spec", "ks"}, "material.specular[0]"},
                         {{"diff", "kd"}, "material.diffuse[0]"},
                         {{"alpha", "opac"}, "material.alpha"},
                         {{"outline"}, "shading.outline"},
                         {{"power"}, "material.shininess"},
                         {{"ambient", "strength"}, "ambient.strength"}},
                        name);
    }
    if (components == 2) { // a texture lies as it is
        std::string still =
            first_of({{{"tiling", "uvscale", "texscale", "texturescale", "repeat", "normalscale"}, "1"},
                      {{"uvoffset", "texoffset", "textureoffset", "scroll"}, "0"}},
                     name);
        if (!still.empty()) {
            return still;
        }
        return first_of({{{"size", "resol", "viewport", "screen"}, "view.size"}}, name);
    }
    const auto holds = [&](std::string_view word) { return name.find(word) != std::string::npos; };
    if ((holds("eye") || holds("cam")) && (holds("obj") || holds("local"))) {
        return "object.eye";
    }
    if (name.starts_with("rim") || name.starts_with("fog") || holds("fresnel")) {
        return ""; // a number of its own, by what the text does with it: written_names.cpp
    }
    std::string of_term = one_of(name, {{"la", "ambient.light"},
                                        {"ia", "ambient.light"},
                                        {"ld", "lights[0].diffuse_light"},
                                        {"ls", "lights[0].specular_light"}});
    if (!of_term.empty()) {
        return of_term;
    }
    if (components == 4 && (name.ends_with("mapst") || name.ends_with("texst") ||
                            name.ends_with("texturest") || name.find("tilingoffset") != std::string::npos)) {
        return "1, 1, 0, 0"; // a texture lies as it is
    }
    if (components == 3 && (name.find("offset") != std::string::npos || name.starts_with("wind"))) {
        return "0"; // nothing moves
    }
    if (name == "spe" || name == "f0") {
        return "material.specular";
    }
    if (components == 3 &&
        (name.find("atten") != std::string::npos || name.find("coeff") != std::string::npos)) {
        return "lights[0].coefficients";
    }
    if (name.find("prod") != std::string::npos) { // a light's factor times a surface's
        return first_of({{{"amb"}, "= ambient.light * material.base * material.ambient"},
                         {{"dif"}, "= lights[0].light * material.base * material.diffuse"},
                         {{"spec"}, "= lights[0].light * material.specular"}},
                        name);
    }
    if (says_ambient(name)) {
        return of_material ? "material.ambient" : "ambient.light";
    }
    return first_of({{{"outline"}, "shading.outline_color"},
                     {{"eye", "cam", "viewpos", "viewworldpos"}, "view.eye"},
                     {{"radiance"}, "lights[0].light"},
                     {{"sky", "global"}, "ambient.light"},
                     {{"spec", "spc", "ks", "shine", "highlight"}, "material.specular"},
                     {{"kd"}, components == 4 ? "material.base_alpha" : "material.base"},
                     {{"ka"}, "ambient.light"},
                     {{"emi", "glow", "ke"}, "material.emission"},
                     {{"diff", "dif"},
                      of_material       ? "material.diffuse"
                      : components == 4 ? "material.base_alpha"
                                        : "material.base"},
                     {{"base", "albedo", "color", "colour", "tint", "paint"},
                      components == 4 ? "material.base_alpha" : "material.base"}},
                    name);
}

} // namespace

std::size_t lamp_of_studio(const std::string& word) {
    for (const std::string_view lamp : {"key", "fill", "back", "rim"}) {
        const std::string behind = word.starts_with(lamp) ? word.substr(lamp.size()) : "";
        const bool placed = behind.starts_with("pos") || behind.starts_with("dir");
        if (placed || (lamp != "rim" && (behind.starts_with("col") || behind.starts_with("int")))) {
            return lamp.size();
        }
    }
    return 0;
}

bool names_a_light(const std::string& word) {
    // `dirColor` and `dirDirection` are of one that is far away.
    const bool far_away =
        word.starts_with("dir") && (word.substr(3).starts_with("col") || word.substr(3).starts_with("dir") ||
                                    word.substr(3).starts_with("int"));
    if (far_away || lamp_of_studio(word) > 0) {
        return true;
    }
    const bool by_letter = word.starts_with("lpos") || word.starts_with("lcol") || word.starts_with("ldir") ||
                           word.starts_with("directional");
    return by_letter || std::any_of(light_words.begin(), light_words.end(), [&](const char* each) {
               const std::size_t at = word.find(each);
               return at != std::string::npos && !word.substr(0, at).ends_with("high"); // a highlight is none
           });
}

namespace {

// Three numbers and a fourth where a name speaks of both: `positionRange`, `specular_shininess`.
std::string likely_pair(const std::string& name, bool of_light, const std::string& lamp) {
    for (std::size_t at = name.size() - 1; at > 0;
         --at) { // `lightColorIntensity` is a colour and an intensity
        const bool word = (std::isupper(static_cast<unsigned char>(name[at])) != 0 &&
                           std::isupper(static_cast<unsigned char>(name[at - 1])) == 0) ||
                          name[at] == '_';
        if (!word) {
            continue;
        }
        std::string first = lowered(name.substr(0, at));
        if (first.ends_with("cos")) { // of `directionCosOuter` the fourth is a cosine
            continue;
        }
        first = first.size() > 5 && first.ends_with("and") ? first.substr(0, first.size() - 3) : first;
        const std::string second = lowered(name.substr(at));
        const std::string fourth = of_light ? fourth_of_light(second)
                                   : second.find("alpha") != std::string::npos
                                       ? "" // of a base colour, which has a name of its own
                                   : second == "count" ? "lights.count"
                                                       : guess_plain(second, second, 1, false);
        const std::string three =
            of_light ? guess_light(first, 3, false) : guess_plain(first, first, 3, false);
        if (three.empty() || fourth.empty()) {
            continue;
        }
        if (of_light) {
            return lamp + three + ", " + lamp + fourth;
        }
        if (fourth == "material.shininess" || fourth == "material.specular[0]" || fourth == "lights.count") {
            return three + ", " + fourth;
        }
        if (fourth == "ambient.strength" && three == "ambient.light") {
            return "ambient.color, ambient.strength";
        }
    }
    return "";
}

// `directionalColor`, `dirLightColor`: of a light that is far away, what comes after that.
std::string without_kind(const std::string& member) {
    if (const std::size_t lamp = lamp_of_studio(member); lamp > 0) {
        return member.substr(lamp);
    }
    for (const std::string_view kind : {"dircol", "dirdir", "dirint"}) {
        if (member.starts_with(kind)) {
            return member.substr(3);
        }
    }
    for (const std::string_view kind : {"directional", "dirlight"}) {
        if (member.starts_with(kind) && member.size() > kind.size()) {
            return (kind == "dirlight" ? "light" : "") + member.substr(kind.size());
        }
    }
    return member;
}

// What cel shading is given: `thresholds[*]`, `bands[*]`.
std::string likely_list(const std::string& member, const type_shape& shape) {
    return shape.whole || shape.columns > 0 || shape.components == 4
               ? ""
               : first_of({{{"thresh", "step", "stop"}, "shading.thresholds"},
                           {{"band", "level", "tone", "ramp", "shade"}, "shading.bands"}},
                          member);
}

} // namespace

std::string likely_uniform(const std::string& name, const type_shape& shape) {
    if (shape.texture && (shape.whole || shape.name.ends_with("Shadow"))) {
        return "1";
    }
    if (shape.texture && shape.name != "sampler2D" && shape.name != "sampler2DArray") {
        return first_of({{{"irradiance", "diffuse", "ambient"}, "ambient.light"},
                         {{"env", "sky", "reflect", "radiance", "cube"}, "0"}},
                        lowered(name) + lowered(shape.name));
    }
    if (shape.texture) { // what people keep in a map of its own, beside a surface's colours
        const std::string map =
            first_of({{{"spec", "spc"}, "material.specular"},
                      {{"emis", "emit", "glow"}, "material.emission"},
                      {{"normal", "nrm", "bump"}, "0.5, 0.5, 1"}, // that changes no normal
                      {{"height", "displace", "parallax"}, "0"},
                      {{"occlusion", "shadow", "aomap", "aotex"}, "1"}},
                     lowered(name));
        return map.empty() ? "material.texture" : map;
    }
    const std::size_t dot = name.find_last_of('.');
    std::string member = lowered(dot == std::string::npos ? name : name.substr(dot + 1));
    member = member.substr(0, member.find("[*]"));
    const std::string before = lowered(dot == std::string::npos ? name : name.substr(0, dot));
    if (shape.name == "bool" && dot == std::string::npos && member.find("side") == std::string::npos) {
        return first_of({{{"use", "has", "enable", "with", "show", "blinn"}, "1"}}, member);
    }
    if (shape.whole && name.find("[*]") == std::string::npos &&
        (member.starts_with("use") || member.starts_with("has") || member.starts_with("enable"))) {
        return "1"; // a switch; blocks of HLSL have no other
    }
    if (shape.columns > 0) {
        return likely_matrix(member, shape);
    }
    // An array of structures is nearly always one of lights, whatever it is called.
    const bool of_light_itself = names_a_light(before) || name.find("[*].") != std::string::npos;
    const bool array = name.ends_with("[*]");
    const bool ambient = !of_light_itself || dot == std::string::npos ? says_ambient(member) : false;
    // And of vectors or numbers that are what a light has.
    const bool listed =
        array && likely_list(member, shape).empty() &&
        (member == "rad" ||
         !first_of({{{"pos", "point", "dir", "col", "intens", "range", "radius", "reach"}, "x"}}, member)
              .empty());
    const bool of_light = (dot != std::string::npos || !shape.whole) &&
                          (of_light_itself || ((names_a_light(member) || listed) && !shape.whole)) &&
                          !ambient && member.find("count") == std::string::npos && !member.starts_with("num");
    const std::string lamp = name.find("[*]") != std::string::npos ? "lights[*]." : "lights[0].";
    if (array && !of_light) {
        std::string list = likely_list(member, shape);
        if (!list.empty()) {
            return list;
        }
    }
    if (shape.components == 4 && !shape.whole) {
        std::string pair =
            likely_pair(dot == std::string::npos ? name : name.substr(dot + 1), of_light, lamp);
        if (!pair.empty()) {
            return pair;
        }
    }
    if (of_light && shape.whole && member.starts_with("is")) { // `isSpot`
        const std::string number =
            first_of({{{"dir", "sun"}, "0.0"}, {{"point"}, "1.0"}, {{"spot", "cone"}, "2.0"}}, member);
        if (!number.empty()) {
            return "= " + lamp + "kind == " + number + " ? 1.0 : 0.0";
        }
    }
    if (of_light) {
        const std::string property = guess_light(without_kind(member), shape.components, shape.whole);
        if (shape.components == 1 && !shape.whole &&
            !first_of({{{"shin", "gloss", "specpow", "specularpow"}, "x"}}, member).empty()) {
            return "material.shininess";
        }
        if (property.empty()) {
            return "";
        }
        if (property == "ambient_intensity") {
            return "= " + lamp + "intensity * " + lamp + "ambient.x";
        }
        std::string means;
        for (std::size_t at = 0; at <= property.size();) { // each of several is that light's
            const std::size_t comma = std::min(property.find(", ", at), property.size());
            const std::string one = property.substr(at, comma - at);
            means += (means.empty() ? "" : ", ") + (one == "0" || one == "1" ? one : lamp + one);
            at = comma + 2;
        }
        return means;
    }
    return guess_plain(member, before, shape.components, shape.whole);
}

std::string meaning_of_letter(const std::string& name, const std::string& type) {
    std::string letter = lowered(name);
    if (type == "vec3") {
        return one_of(letter, {{"l", "lights[0].to_light"},
                               {"c", "lights[0].light"},
                               {"a", "ambient.light"},
                               {"b", "material.base"},
                               {"s", "material.specular"},
                               {"e", "view.eye"}});
    }
    return type == "float" ? one_of(letter, {{"i", "lights[0].intensity"}, {"r", "lights[0].range"}}) : "";
}

} // namespace yurvo::inline v0_1::program
