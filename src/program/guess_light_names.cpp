#include "program/guess_light_names.hpp"

#include <algorithm>
#include <cctype>
#include <string_view>

#include "program/guess_names.hpp"
#include "program/guess_words.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// A light's own name, and perhaps the space it is in: `lamp`, `lights2`, `lampView`.
std::string guess_light_itself(std::string name, int components) {
    const auto drop = [&](std::string_view word) {
        const std::size_t at = name.find(word);
        if (at != std::string::npos) {
            name.erase(at, word.size());
        }
        return at != std::string::npos;
    };
    const bool far = name.find("sun") != std::string::npos || name.find("moon") != std::string::npos;
    bool named = false;
    for (const char* word : light_words) {
        named = drop(word) || named;
    }
    std::erase_if(name, [](unsigned char c) { return std::isdigit(c) != 0; });
    const std::string space = drop("view") || drop("eye")     ? "_view"
                              : drop("object") || drop("obj") ? "_object"
                                                              : "";
    drop("world");
    if (!named || !(name.empty() || name == "s")) {
        return "";
    }
    if (components == 3 && space.empty() && far) {
        return "to_light";
    }
    return components == 4 && space.empty() ? "place" : "position" + space;
}

} // namespace

std::string guess_light(const std::string& member, int components, bool whole) {
    if (whole) {
        if (member == "on") {
            return "1";
        }
        return first_of({{{"falloff", "atten"}, "falloff"},
                         {{"penumbra", "rim", "edge"}, "penumbra"},
                         {{"kind", "type"}, "kind"},
                         {{"enabled", "active", "ison"}, "1"}},
                        member);
    }
    if (components > 1) {
        std::string itself = guess_light_itself(member, components);
        if (!itself.empty()) {
            return itself;
        }
        std::string letters = one_of(member, {{"la", "ambient_light"},
                                              {"ld", "diffuse_light"},
                                              {"ls", "specular_light"},
                                              {"ia", "ambient_light"},
                                              {"id", "diffuse_light"},
                                              {"is", "specular_light"},
                                              {"p", "position"},
                                              {"d", "shines"},
                                              {"c", "color"},
                                              {"k", "coefficients"}});
        if (!letters.empty()) {
            return letters;
        }
        if (components == 2) {
            return first_of({{{"cone", "angle", "cut", "cos", "spot"}, "cos_inner, cos_outer"}}, member);
        }
        // `coneDirection` is where the cone points.
        const bool points = !first_of({{{"dir", "axis", "aim"}, "x"}}, member).empty();
        return first_of(
            {{{"place"}, components == 4 ? "place" : "position"},
             {{points ? "cosines" : "cone", "cutoff", "angles", "cosines"}, "cos_inner, cos_outer, 0, 0"},
             {{"pos", "location", "origin", "where"}, "position"},
             {{"amb"}, "ambient_light"},
             {{"dif"}, "diffuse_light"},
             {{"spec", "spc"}, "specular_light"},
             {{"tolight", "vec", "reverse", "inverse", "negdir", "invdir"}, "to_light"},
             {{"dir", "shines", "axis", "aim"}, "shines"},
             {{"coef", "att", "falloff"}, "coefficients"},
             {{"radiance", "irradiance", "strength", "intens", "power", "bright"}, "light"},
             {{"col", "rgb", "tint", "hue", "light", "glow"}, "color"}},
            member);
    }
    std::string letter = one_of(member, {{"i", "intensity"},
                                         {"r", "range"},
                                         {"rad", "range"},
                                         {"cut", "cos_outer"},
                                         {"spot", "exponent"},
                                         {"kc", "coefficients[0]"},
                                         {"kl", "coefficients[1]"},
                                         {"kq", "coefficients[2]"}});
    if (!letter.empty()) {
        return letter;
    }
    static const text_pattern numbered("^(k|a|c|att|atten|attenuation|falloff)[012]$");
    if (numbered.is_in(member)) {
        return std::string("coefficients[") + member.back() + "]";
    }
    if (member.find("cos") != std::string::npos) {
        return first_of({{{"inn", "pen", "hot", "full", "soft"}, "cos_inner"}, {{"cos"}, "cos_outer"}},
                        member);
    }
    if (member.find("deg") != std::string::npos) {
        return member.find("in") != std::string::npos ? "inner_degrees" : "outer_degrees";
    }
    return first_of(
        {{{"ambient"}, "ambient_intensity"}, // of its own: see likely_uniform()
         {{"exp", "spotpow", "conepow", "focus"}, "exponent"},
         {{"intens", "power", "bright", "strength", "lum"}, "intensity"},
         {{"range", "radius", "reach", "maxdist", "distance", "falloffend", "fadeend", "attenuationend"},
          "range"},
         {{"cutoff"}, "cos_outer"},
         {{"inner", "hotspot", "penumbra"}, "inner"},
         {{"outer", "cone", "angle"}, "outer"},
         {{"const"}, "coefficients[0]"},
         {{"lin"}, "coefficients[1]"},
         {{"quad"}, "coefficients[2]"}},
        member);
}

std::string fourth_of_light(const std::string& word) {
    return first_of({{{"range", "radius", "reach"}, "range"},
                     {{"intens", "power", "bright", "strength"}, "intensity"},
                     {{"type", "kind"}, "kind"},
                     {{"innercos", "cosinner"}, "cos_inner"},
                     {{"outercos", "cosouter", "cut"}, "cos_outer"},
                     {{"inner"}, "inner"},
                     {{"outer"}, "outer"},
                     {{"exp"}, "exponent"}},
                    word);
}

} // namespace yurvo::inline v0_1::program
