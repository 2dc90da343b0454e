#include "program/guess_names.hpp"

#include <algorithm>
#include <cctype>
#include <initializer_list>
#include <set>
#include <string_view>
#include <utility>

namespace yurvo::program {

namespace {

// Without the letter that says what it is: `u_light` is a light.
std::string lowered(std::string text) {
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

struct rule {
    std::vector<std::string_view> any; // words, one of which the name holds
    std::string_view means;
};

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

} // namespace

std::string likely_attribute(const std::string& as_written) {
    std::string name = lowered(as_written);
    const std::string letter =
        one_of(name, {{"p", "position"}, {"n", "normal"}, {"c", "color"}, {"t", "texcoord"}});
    if (!letter.empty()) {
        return letter;
    }
    // "vertex" holds "tex", and says nothing but that it is an attribute; alone it is where the vertex is.
    const std::string_view vertex = "vertex";
    const std::size_t at = name.find(vertex);
    if (at != std::string::npos) {
        name.erase(at, vertex.size());
    }
    const std::string likely = first_of({{{"nor", "nrm"}, "normal"},
                                         {{"uv", "tex", "coord", "st"}, "texcoord"},
                                         {{"col"}, "color"},
                                         {{"pos", "vert", "point"}, "position"}},
                                        name);
    return likely.empty() && at != std::string::npos ? "position" : likely;
}

namespace {

std::string guess_matrix(const std::string& name, bool small) {
    if (name.find("norm") != std::string::npos || small) {
        return name.find("view") != std::string::npos ? "object.normal_to_view" : "object.normal_to_world";
    }
    const std::string letter =
        one_of(name, {{"m", "object.to_world"}, {"v", "view.world_to_view"}, {"p", "view.view_to_clip"}});
    if (!letter.empty()) {
        return letter;
    }
    return first_of({{{"mvp", "modelviewproj", "wvp", "objecttoclip"}, "object.to_clip"},
                     {{"viewproj", "worldtoclip", "projview"}, "view.world_to_clip"},
                     {{"viewtoclip"}, "view.view_to_clip"},
                     {{"toclip"}, "object.to_clip"},
                     {{"objecttoworld"}, "object.to_world"},
                     {{"vp"}, "view.world_to_clip"},
                     {{"modelview", "worldview", "mv"}, "object.to_view"},
                     {{"proj"}, "view.view_to_clip"},
                     {{"model", "object", "toworld", "world"}, "object.to_world"},
                     {{"view", "camera"}, "view.world_to_view"}},
                    name);
}

// A light's own name, and perhaps the space it is in: `lamp`, `lights2`, `lampView`.
std::string guess_light_itself(std::string name, int components) {
    const auto drop = [&](std::string_view word) {
        const std::size_t at = name.find(word);
        if (at != std::string::npos) {
            name.erase(at, word.size());
        }
        return at != std::string::npos;
    };
    bool named = false;
    for (const char* word : light_words) {
        named = drop(word) || named;
    }
    std::erase_if(name, [](unsigned char c) { return std::isdigit(c) != 0; });
    const std::string space = drop("view") || drop("eye") ? "_view" : drop("object") ? "_object" : "";
    drop("world");
    if (!named || !(name.empty() || name == "s")) {
        return "";
    }
    return components == 4 && space.empty() ? "place" : "position" + space;
}

std::string guess_light(const std::string& member, int components, bool whole) {
    if (whole) {
        return first_of({{{"falloff", "atten"}, "falloff"},
                         {{"penumbra", "rim", "edge"}, "penumbra"},
                         {{"kind", "type"}, "kind"}},
                        member);
    }
    if (components > 1) {
        const std::string itself = guess_light_itself(member, components);
        if (!itself.empty()) {
            return itself;
        }
        return first_of({{{"place"}, "place"},
                         {{"pos"}, "position"},
                         {{"ambient"}, "ambient_light"},
                         {{"diffuse"}, "diffuse_light"},
                         {{"specular"}, "specular_light"},
                         {{"tolight"}, "to_light"},
                         {{"dir", "shines", "axis", "aim"}, "shines"},
                         {{"coef", "atten", "falloff"}, "coefficients"},
                         {{"radiance", "irradiance"}, "light"},
                         {{"col", "rgb", "light"}, "color"}},
                        member);
    }
    return first_of({{{"intens", "power", "bright", "strength"}, "intensity"},
                     {{"range", "radius", "reach"}, "range"},
                     {{"cosinner", "innercos"}, "cos_inner"},
                     {{"cosouter", "outercos", "cutoff"}, "cos_outer"},
                     {{"inner"}, "inner"},
                     {{"outer"}, "outer"},
                     {{"exp"}, "exponent"},
                     {{"const"}, "coefficients[0]"},
                     {{"linear"}, "coefficients[1]"},
                     {{"quad"}, "coefficients[2]"}},
                    member);
}

std::string guess_plain(const std::string& name, const std::string& before, int components, bool whole) {
    if (whole) {
        return first_of({{{"shin", "gloss", "exponent", "specpow"}, "material.shininess"},
                         {{"count", "num", "size"}, "lights.count"},
                         {{"side"}, "material.two_sided"}},
                        name);
    }
    const bool of_material = name.find("mat") != std::string::npos ||
                             name.find("factor") != std::string::npos ||
                             (before != name && before.find("mat") != std::string::npos);
    if (components == 1) {
        const std::string short_name =
            one_of(name, {{"n", "material.shininess"}, {"sh", "material.shininess"}});
        if (!short_name.empty()) {
            return short_name;
        }
        return first_of({{{"shin", "gloss", "exponent", "specpow", "tight"}, "material.shininess"},
                         {{"spec", "ks"}, "material.specular[0]"},
                         {{"diff", "kd"}, "material.diffuse[0]"},
                         {{"alpha", "opac"}, "material.alpha"},
                         {{"ambient", "strength"}, "ambient.strength"},
                         {{"outline"}, "shading.outline"}},
                        name);
    }
    if (name.find("ambient") != std::string::npos) {
        return of_material ? "material.ambient" : "ambient.light";
    }
    return first_of({{{"eye", "camera", "viewpos", "campos"}, "view.eye"},
                     {{"radiance"}, "lights[0].light"},
                     {{"spec", "ks"}, "material.specular"},
                     {{"kd"}, "material.base"},
                     {{"ka"}, "ambient.light"},
                     {{"emi", "glow"}, "material.emission"},
                     {{"diff"}, of_material ? "material.diffuse" : "material.base"},
                     {{"base", "albedo", "color", "colour", "tint"},
                      components == 4 ? "material.base_alpha" : "material.base"}},
                    name);
}

bool names_a_light(const std::string& word) {
    return std::any_of(light_words.begin(), light_words.end(),
                       [&](const char* each) { return word.find(each) != std::string::npos; });
}

} // namespace

std::string likely_uniform(const std::string& name, const type_shape& shape) {
    if (shape.texture) {
        return "material.texture";
    }
    const std::size_t dot = name.find_last_of('.');
    const std::string member = lowered(dot == std::string::npos ? name : name.substr(dot + 1));
    const std::string before = lowered(dot == std::string::npos ? name : name.substr(0, dot));
    if (shape.matrix > 0) {
        return guess_matrix(member, shape.matrix == 3);
    }
    const bool ambient = dot == std::string::npos && member.find("ambient") != std::string::npos;
    const bool of_light = (dot != std::string::npos || !shape.whole) && names_a_light(before) && !ambient &&
                          member.find("count") == std::string::npos && !member.starts_with("num");
    if (of_light) {
        const std::string property = guess_light(member, shape.components, shape.whole);
        return property.empty()
                   ? ""
                   : (name.find("[*]") != std::string::npos ? "lights[*]." : "lights[0].") + property;
    }
    return guess_plain(member, before, shape.components, shape.whole);
}

std::string meaning_of_letter(const std::string& name, const std::string& type) {
    const std::string letter = lowered(name);
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

namespace {

// Beside a colour of their own, a light's ambient, diffuse and specular are parts of it.
void tell_parts_from_colors(std::vector<guessed_name>& all) {
    const bool colored = std::any_of(all.begin(), all.end(), [](const guessed_name& each) {
        return each.means.starts_with("lights") && each.means.ends_with(".color");
    });
    for (guessed_name& each : all) {
        for (const char* const part : {".ambient_light", ".diffuse_light", ".specular_light"}) {
            if (colored && each.means.starts_with("lights") && each.means.ends_with(part)) {
                each.means.resize(each.means.size() - std::string_view("_light").size());
            }
        }
    }
}

// The kind that a light's name says: `pointLights[*].color`, `sunColor`.
std::string kind_in(const std::string& name) {
    const std::size_t dot = name.find_last_of('.');
    const std::string word = lowered(dot == std::string::npos ? name : name.substr(0, dot));
    if (word.starts_with("dir")) {
        return "directional";
    }
    return first_of({{{"point", "pts", "bulb", "lantern"}, "point"},
                     {{"spot", "beam", "torch", "search"}, "spot"},
                     {{"directional", "sun", "moon"}, "directional"}},
                    word);
}

// Where names say lights of two kinds or more, each is numbered among its own.
void tell_kinds_apart(std::vector<guessed_name>& all) {
    std::set<std::string> kinds;
    for (const guessed_name& each : all) {
        if (each.means.starts_with("lights[")) {
            kinds.insert(kind_in(each.name));
        }
    }
    if (kinds.size() < 2 || kinds.contains("")) {
        return;
    }
    for (guessed_name& each : all) {
        if (each.means.starts_with("lights[")) {
            each.means.insert(std::string_view("lights").size(), "." + kind_in(each.name));
        } else if (each.means == "lights.count" && !kind_in(each.name).empty()) {
            each.means = "lights." + kind_in(each.name) + ".count";
        }
    }
}

} // namespace

void tell_lights_apart(std::vector<guessed_name>& all) {
    tell_parts_from_colors(all);
    tell_kinds_apart(all);
}

} // namespace yurvo::program
