#include "program/guess_moves.hpp"

#include <algorithm>
#include <cctype>
#include <iterator>

#include "program/guess_names.hpp"
#include "program/quantity_list.hpp"

namespace yurvo::inline v0_1::program {

shader_binding* find_binding(std::vector<shader_binding>& names, const std::string& name) {
    const auto found = std::find_if(names.begin(), names.end(),
                                    [&](const shader_binding& each) { return each.name == name; });
    return found == names.end() ? nullptr : &*found;
}

std::string in_space(const std::string& quantity, const std::string& space) {
    const std::size_t dot = quantity.find_last_of('.');
    if (dot == std::string::npos || !quantity.starts_with("lights")) {
        if (quantity == "object.normal_to_world" || quantity == "object.normal_to_view") {
            return space == "_view" ? "object.normal_to_view" : "object.normal_to_world";
        }
        return quantity;
    }
    std::string property = quantity.substr(dot + 1);
    for (const char* each : {"_view", "_object"}) {
        if (property.ends_with(each)) {
            property.resize(property.size() - std::string_view(each).size());
        }
    }
    return find_light_quantity(property + space) != nullptr ? quantity.substr(0, dot + 1) + property + space
                                                            : quantity;
}

namespace {

// What a name of that type may mean, besides what its name says.
std::vector<std::string> meanings_for(const std::string& type, bool each_light, bool of_light) {
    const std::string lamp = each_light ? "lights[*]." : "lights[0].";
    const auto of_lamp = [&](std::initializer_list<const char*> properties) {
        std::vector<std::string> all;
        for (const char* property : properties) {
            all.push_back(lamp + property);
        }
        return all;
    };
    std::vector<std::string> result;
    const auto add = [&](const std::vector<std::string>& more) {
        result.insert(result.end(), more.begin(), more.end());
    };
    if (type == "mat4") {
        return {"object.to_world",   "object.to_view",     "object.to_clip",    "view.world_to_view",
                "view.view_to_clip", "view.world_to_clip", "object.from_world", "object.normal_to_world"};
    }
    if (type == "mat3") {
        return {"object.normal_to_world", "object.normal_to_view", "object.to_world", "object.to_view"};
    }
    if (type == "sampler2D" || type == "sampler2DArray") {
        return {"material.texture", "material.texture_codes", "material.specular", "1"};
    }
    if (type == "samplerCube") {
        return {"0", "1", "ambient.light"};
    }
    if (type.find("sampler") != std::string::npos) {
        return {"1", "0"};
    }
    if (type == "bool") { // a switch, and never how many lights there are
        return {"1", "0", "material.two_sided"};
    }
    if (type == "int" || type == "uint") {
        if (each_light) {
            return of_lamp({"kind", "falloff", "penumbra"});
        }
        return {"lights.count",      "lights.point.count", "lights.directional.count",
                "lights.spot.count", "material.two_sided", "material.shininess"};
    }
    if (type == "vec3") {
        const std::vector<std::string> light = of_lamp(
            {"position", "to_light", "shines", "axis", "light", "color", "diffuse_light", "specular_light",
             "ambient_light", "coefficients", "diffuse", "specular", "ambient", "half"});
        const std::vector<std::string> other{"material.base",
                                             "ambient.light",
                                             "view.eye",
                                             "material.specular",
                                             "material.ambient",
                                             "material.diffuse",
                                             "material.emission",
                                             "ambient.color",
                                             "= material.base * material.diffuse",
                                             "= material.base * material.ambient",
                                             "object.eye",
                                             "view.axis"};
        add(of_light || each_light ? light : other);
        if (!each_light) {
            add(of_light ? other : light);
        }
        return result;
    }
    if (type == "vec2") {
        for (const char* two : {"cos_inner, ", "cos_outer, ", "inner, ", "outer, "}) {
            const std::string first = two;
            const std::string second = first == "cos_inner, "   ? "cos_outer"
                                       : first == "cos_outer, " ? "cos_inner"
                                       : first == "inner, "     ? "outer"
                                                                : "inner";
            result.push_back(lamp + first + lamp + second);
        }
        result.emplace_back("view.size");
        return result;
    }
    if (type == "vec4") {
        add({"material.base_alpha", "material.base", "ambient.light", "view.eye", "material.specular"});
        add(of_lamp({"place", "position", "shines", "light", "color", "to_light"}));
        for (const char* first : {"cos_inner", "inner", "cos_outer", "outer"}) {
            std::string second = first;
            const bool inner = second.ends_with("inner");
            second.replace(second.size() - 5, 5, inner ? "outer" : "inner");
            result.push_back(lamp + first + ", " + lamp + second + ", 0, 0");
        }
        result.push_back(lamp + "coefficients, 0");
        return result;
    }
    if (type == "float") {
        const std::vector<std::string> light =
            of_lamp({"intensity", "range", "cos_inner", "cos_outer", "inner", "outer", "inner_degrees",
                     "outer_degrees", "exponent", "coefficients[0]", "coefficients[1]", "coefficients[2]"});
        const std::vector<std::string> other{
            "material.shininess",  "material.specular[0]", "ambient.strength", "material.ambient[0]",
            "material.diffuse[0]", "material.alpha",       "ambient.light[0]"};
        add(of_light || each_light ? light : other);
        if (!each_light) {
            add(of_light ? other : light);
        }
    }
    return result;
}

} // namespace

std::string text_of(const shader_binding& binding) {
    const std::string* text =
        binding.means.size() == 1 ? std::get_if<std::string>(&binding.means.front()) : nullptr;
    return text == nullptr ? "" : *text;
}

void take_as(std::vector<shader_binding>& names, const std::string& name, const std::string& means) {
    shader_binding* binding = find_binding(names, name);
    if (binding == nullptr) {
        return;
    }
    binding->means.clear();
    for (std::size_t at = 0; at <= means.size();) {
        const std::size_t comma = std::min(means.find(", ", at), means.size());
        const std::string one = means.substr(at, comma - at);
        if (one.find_first_not_of("0123456789.") == std::string::npos && !one.empty()) {
            binding->means.emplace_back(std::stod(one));
        } else {
            binding->means.emplace_back(one);
        }
        at = comma + 2;
    }
}

// What a name may mean, whatever it says.
std::vector<std::string> meanings_of(const guessed_name& name) {
    std::string lower = name.name;
    std::transform(lower.begin(), lower.end(), lower.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    const auto holds = [&](const char* word) { return lower.find(word) != std::string::npos; };
    const bool of_light = std::any_of(light_words.begin(), light_words.end(), holds);
    std::vector<std::string> all =
        meanings_for(name.type, name.name.find("[*]") != std::string::npos, of_light);
    if (!name.kind.empty()) {
        for (std::string& each : all) {
            for (std::size_t at = each.find("lights[*]"); at != std::string::npos;
                 at = each.find("lights[*]", at + 1)) {
                each.insert(at + std::string_view("lights").size(), "." + name.kind);
            }
        }
    }
    const std::string letter = meaning_of_letter(name.name, name.type);
    if (!letter.empty()) { // first: it is what trying begins with
        std::erase(all, letter);
        all.insert(all.begin(), letter);
    }
    return all;
}

namespace {

std::vector<move> moves_of_name(const guessed_name& named) {
    const std::string& name = named.name;
    std::vector<move> moves;
    for (const std::string& means : meanings_of(named)) {
        for (const char* space : {"", "_view", "_object"}) {
            const std::string there = *space == '\0' ? means : in_space(means, space);
            if (*space != '\0' && there == means) {
                continue;
            }
            moves.push_back({name, "tried: it fits best",
                             [name, there](shader_program& of) { take_as(of.uniforms, name, there); }, ""});
        }
    }
    moves.push_back({name, "tried: as 1 it fits best",
                     [name](shader_program& of) {
                         if (shader_binding* binding = find_binding(of.uniforms, name)) {
                             binding->means = {1.0};
                         }
                     },
                     ""});
    return moves;
}

} // namespace

move_lists all_moves(const guessed_bindings& guessed) {
    move_lists result;
    const auto add = [](std::vector<move>& to, std::vector<move> more) {
        for (move& each : more) {
            for (const char* simpler :
                 {"scale", "kinds", "ambient_rule", "without", "ambient_follows", "rate"}) {
                each.least_gain = each.about == simpler ? 0.3 : each.least_gain;
            }
        }
        to.insert(to.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
    };
    result.spaces = moves_of_space();
    add(result.starts, starting_points(guessed));
    add(result.usual, moves_of_space());
    add(result.usual, moves_of_claim());
    // A light's range is read by laws of which most are formulas.
    const bool ranged = std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(),
                                    [](const guessed_name& each) { return each.means.ends_with("].range"); });
    if (ranged) {
        add(result.usual, formulas_of_falloff(true));
    }
    add(result.unlikely, unlikely_moves_of_claim());
    for (const guessed_name& each : guessed.uniforms) {
        if (each.means.empty()) {
            add(result.open, moves_of_components(each));
            add(result.open, moves_of_name(each));
        } else {
            add(result.usual, moves_alike(each));
            add(result.twins, moves_within_group(each));
            add(result.unlikely, moves_of_name(each));
        }
    }
    add(result.usual, result.open);
    return result;
}

} // namespace yurvo::inline v0_1::program
