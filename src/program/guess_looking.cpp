#include "program/guess_looking.hpp"

#include <algorithm>

#include "program/guess_moves.hpp"
#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

std::string without_components(const std::string& name) {
    const std::size_t dot = name.find_last_of('.');
    const bool components =
        dot != std::string::npos && name.find_first_not_of("xyzw", dot + 1) == std::string::npos;
    return components ? name.substr(0, dot) : name;
}

// Whether a name is where the eye is, beside a cube of nothing: what a mirror shows may be all that it is
// for. A switch or a strength of 0 is no such thing, since it would hide a highlight.
bool sees_nothing_in_a_mirror(const std::string& name, const shader_program& reading,
                              const std::string& text) {
    const auto is_cube_of_nothing = [&](const shader_binding& each) {
        const double* const number = std::get_if<double>(&each.means.front());
        return each.means.size() == 1 && number != nullptr && *number == 0 &&
               text_pattern(R"(\b(?:samplerCube|textureCube|TextureCube(?:\s*<[^>]*>)?)\s+)" +
                            last_name(each.name) + R"(\b)")
                   .is_in(text);
    };
    return std::any_of(reading.uniforms.begin(), reading.uniforms.end(), is_cube_of_nothing) &&
           std::any_of(reading.uniforms.begin(), reading.uniforms.end(), [&](const shader_binding& each) {
               return each.name == name && text_of(each).ends_with(".eye");
           });
}

// Behind a map that changes no normal a tangent has nothing to change either.
bool is_a_tangent(const std::string& name, const shader_program& reading) {
    return std::any_of(reading.attributes.begin(), reading.attributes.end(), [&](const shader_binding& each) {
        const std::string means = text_of(each);
        return each.name == name && (means == "tangent" || means == "bitangent");
    });
}

} // namespace

std::vector<std::string> names_in_use(const std::vector<std::string>& names, const shader_program& sources) {
    const std::string& vertex = sources.vertex.source;
    const std::string& fragment = sources.fragment.source;
    const std::string text = without_comments(vertex == fragment ? vertex : vertex + "\n" + fragment);
    std::vector<std::string> used;
    for (const std::string& each : names) {
        const std::string name = without_components(each);
        const bool known = std::find(used.begin(), used.end(), name) != used.end();
        if (sees_nothing_in_a_mirror(name, sources, text) || is_a_tangent(name, sources)) {
            continue;
        }
        if (!known && text_pattern::word(last_name(name)).all(text).size() > 1) { // declared, and more
            used.push_back(name);
        }
    }
    return used;
}

shader_program as_meant_at_first(shader_program reading, const shader_program& first,
                                 const std::vector<std::string>& names) {
    reading.kinds.reset();
    reading.penumbras = first.penumbras;
    for (const std::string& name : names) {
        const auto same = [&](const shader_binding& each) { return last_name(each.name) == last_name(name); };
        const auto at_first = std::find_if(first.uniforms.begin(), first.uniforms.end(), same);
        const auto now = std::find_if(reading.uniforms.begin(), reading.uniforms.end(), same);
        if (at_first != first.uniforms.end() && now != reading.uniforms.end()) {
            now->means = at_first->means;
        }
    }
    return reading;
}

} // namespace yurvo::inline v0_1::program
