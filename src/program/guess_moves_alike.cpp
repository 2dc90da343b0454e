// What a name could be taken for instead: the same light's other quantities, a factor beside its product.
#include <algorithm>

#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_words.hpp"
#include "program/quantity_list.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// A meaning taken apart: `lights[*].` and `position`; of what is no light's, all of it is the key.
struct meaning_parts {
    bool of_light;
    std::string key, before;
};
meaning_parts said_by(const guessed_name& name) {
    const bool of_light = name.means.starts_with("lights") && name.means != "lights.count";
    const std::size_t dot = name.means.find_last_of('.');
    const std::string key = of_light ? name.means.substr(dot + 1) : name.means;
    return {of_light, key, of_light ? name.means.substr(0, dot + 1) : ""};
}

} // namespace

std::string taken_out_by(const std::string& said, const std::string& other) {
    if (said == "shines" && other == "axis") { // it is made unit before the shader has it
        return "shines-not-normalized";
    }
    const bool degrees =
        (said == "inner_degrees" && other == "inner") || (said == "outer_degrees" && other == "outer");
    return degrees ? "cone-angle-in-degrees" : "";
}

std::vector<move> moves_alike(const guessed_name& name) {
    const auto [of_light, key, before] = said_by(name);
    std::vector<move> moves;
    const auto try_as = [&](const std::string& means) {
        moves.push_back({name.name, "tried: it fits best",
                         [name = name.name, means](shader_program& of) { take_as(of.uniforms, name, means); },
                         ""});
    };
    if (of_light && name.type == "vec4") { // its fourth number may be another one's
        for (const char* place : {"position", "position_view"}) {
            for (const char* fourth : {"range", "intensity"}) {
                try_as(before + place + ", " + before + fourth);
            }
        }
        for (const char* fourth : {"intensity", "range"}) {
            try_as(before + "color, " + before + fourth);
        }
    }
    if (name.means == "ambient.light" &&
        names_a_light(lowered(name.name))) { // its own, and the scene has none
        moves.push_back({name.name, "tried: it fits best",
                         [name = name.name](shader_program& of) {
                             take_as(of.uniforms, name, "lights[0].ambient_light");
                             of.without.emplace_back("ambient");
                         },
                         ""});
    }
    if (name.means == "ambient.light") {
        try_as("= ambient.light * material.base");
        if (name.type == "vec4") {
            try_as("ambient.color, ambient.strength");
        }
    }
    if (key == "ambient_light" || key == "ambient") {
        try_as("ambient.light");
    }
    if (key == "specular_light" || key == "specular") {
        try_as("= " + before + "light * material.specular");
    }
    if (key == "diffuse_light" || key == "diffuse") {
        try_as("= " + before + "light * material.base");
    }
    if (name.means == "material.specular[0]" || name.means == "material.diffuse[0]") {
        try_as("1");
    }
    if (name.type == "float" && name.means == "ambient.strength") {
        try_as("material.ambient[0]");
    }
    return moves;
}

std::vector<move> moves_within_group(const guessed_name& name) {
    static const std::vector<std::vector<std::string>> groups{
        {"shines", "to_light", "axis", "place", "position"},
        {"color", "light", "diffuse_light", "diffuse"},
        {"specular", "specular_light", "light"},
        {"ambient", "ambient_light"},
        {"cos_inner", "inner", "inner_degrees"},
        {"cos_outer", "outer", "outer_degrees"},
        {"material.base", "material.diffuse", "= material.base * material.diffuse", "material.base_alpha"},
        {"material.ambient", "= material.base * material.ambient", "ambient.light", "material.base"},
        {"ambient.light", "ambient.color", "material.ambient"},
        {"material.specular", "material.specular[0]"},
        {"ambient.strength", "ambient.light[0]", "material.specular[0]", "material.ambient[0]"},
        {"view.eye", "object.eye", "view.axis"},
        {"object.to_world", "object.to_view", "object.to_clip"},
        {"object.normal_to_world", "object.normal_to_view", "object.to_world", "object.to_view"},
        {"view.world_to_clip", "view.view_to_clip", "object.to_clip"},
        {"lights.count", "lights.point.count", "lights.directional.count", "lights.spot.count"},
        {"material.texture", "material.texture_codes"}};
    const meaning_parts said = said_by(name);
    std::vector<move> moves;
    for (const std::vector<std::string>& group : groups) {
        if (std::find(group.begin(), group.end(), said.key) == group.end()) {
            continue;
        }
        for (const std::string& other : group) {
            const bool of_spot = said.before.starts_with("lights.spot[");
            if (other == said.key || (other == "to_light" && of_spot) ||
                (said.of_light && find_light_quantity(other) == nullptr) ||
                (!said.of_light && other.find('.') == std::string::npos)) {
                continue;
            }
            const std::string means = said.before + other;
            moves.push_back({name.name, "tried: it fits best",
                             [name = name.name, means](shader_program& of) {
                                 const shader_binding* is = find_binding(of.uniforms, name);
                                 const std::string now = is == nullptr ? "" : text_of(*is);
                                 take_as(of.uniforms, name,
                                         now.ends_with("_view") ? in_space(means, "_view") : means);
                             },
                             taken_out_by(said.key, other)});
        }
    }
    // The axis the other way round, from where the cone is lit towards the light.
    if (said.of_light && name.type == "vec3" &&
        (said.key == "shines" || said.key == "axis" || said.key == "to_light")) {
        for (const char* const axis : {"axis", "axis_view"}) {
            moves.push_back({name.name, "tried: it fits best",
                             [name = name.name, means = "= -" + said.before + axis](shader_program& of) {
                                 take_as(of.uniforms, name, means);
                             },
                             "cone-axis-flipped"});
        }
    }
    return moves;
}

std::vector<move> moves_to_more_kinds(const guessed_name& name, const std::string& means) {
    std::string wider;
    const std::size_t place = means.find("].position");
    if (name.type == "vec4" && place != std::string::npos) { // its fourth number may be 0 for a direction
        wider = means;
        wider.replace(place, std::string_view("].position").size(), "].place");
    }
    // A limit that no cone has may stand for no cone.
    static const std::vector<std::pair<std::string, std::string>> no_cone{
        {"lights[*].outer_degrees", "180.0"},
        {"lights[*].cos_outer", "-1.0"},
        {"lights[*].outer", "3.14159265"}};
    for (const auto& [limit, none] : no_cone) {
        if (name.type == "float" && means == limit) {
            wider = "= lights[*].kind == 2.0 ? " + limit + " : " + none;
        }
    }
    if (wider.empty()) {
        return {};
    }
    return {{name.name, "tried: it is right for more kinds of lights so",
             [name = name.name, wider](shader_program& of) { take_as(of.uniforms, name, wider); }, ""}};
}

} // namespace yurvo::inline v0_1::program
