#include "program/bindings.hpp"

#include <algorithm>
#include <map>

#include "program/source_text.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// The names by which one active uniform may be called.
std::vector<std::string> aliases_of(const active_uniform& active, const std::vector<active_block>& blocks,
                                    const std::map<std::string, std::string>& instances,
                                    const std::map<std::string, int>& bare_counts) {
    std::vector<std::string> result{active.name};
    if (active.name.starts_with("binding_")) { // of SPIR-V without names, of one stage or the other
        result.push_back("binding " + active.name.substr(9));
    }
    const std::size_t dot = active.name.find('.');
    const std::string first = active.name.substr(0, dot);
    const std::string rest = dot == std::string::npos ? "" : active.name.substr(dot + 1);
    if (active.block >= 0) {
        const std::string& block = blocks[static_cast<std::size_t>(active.block)].name;
        const std::string member = first == block && dot != std::string::npos ? rest : active.name;
        const std::size_t index = block.find('['); // of an array of blocks
        if (index == std::string::npos) {
            result.push_back(member);
        }
        result.push_back(block + "." + member);
        if (rest.starts_with("_data[")) { // HLSL's StructuredBuffer: its elements have no name of their own
            result.push_back(first + rest.substr(std::string_view("_data").size()));
        }
        if (block.starts_with("binding_")) {
            result.push_back("binding " + block.substr(9) + "." + member);
        }
        const auto instance = instances.find(block.substr(0, index));
        if (instance != instances.end() && !instance->second.empty()) {
            result.push_back(instance->second + (index == std::string::npos ? "" : block.substr(index)) +
                             "." + member);
        }
        return result;
    }
    for (const auto& [block, instance] :
         instances) { // push constants are a structure by their instance's name
        if (!rest.empty() && instance == first) {
            result.push_back(block + "." + rest);
            const auto count = bare_counts.find(rest);
            if (count != bare_counts.end() && count->second == 1) {
                result.push_back(rest);
            }
        }
    }
    return result;
}

// Whether a key names an element, and what its [*] stands for: `lamps[*].position` and `lamps[2].position`.
bool matches(const std::string& key, const std::string& name, int& each) {
    each = 0;
    if (key == name) {
        return true;
    }
    const std::size_t star = key.find("[*]");
    if (star == std::string::npos) {
        // An array of numbers may be named as a whole.
        if (name.starts_with(key + "[") && name.ends_with("]") &&
            name.find_first_not_of("0123456789", key.size() + 1) == name.size() - 1) {
            each = std::stoi(name.substr(key.size() + 1));
            return true;
        }
        return false;
    }
    if (!name.starts_with(key.substr(0, star) + "[")) {
        return false;
    }
    const std::size_t close = name.find(']', star);
    if (close == std::string::npos || name.substr(close + 1) != key.substr(star + 3)) {
        return false;
    }
    const std::string digits = name.substr(star + 1, close - star - 1);
    if (digits.empty() || digits.find_first_not_of("0123456789") != std::string::npos) {
        return false;
    }
    each = std::stoi(digits);
    return true;
}

// Whether another element of an array means something of a light.
bool is_bound_of_lights(const std::string& element, const std::vector<bound_uniform>& bound) {
    const auto of_light = [](const meaning& means) {
        const std::vector<const quantity*> all = quantities_of(means);
        return std::any_of(all.begin(), all.end(), [](const quantity* each) { return each->of == "lights"; });
    };
    return std::any_of(bound.begin(), bound.end(), [&](const bound_uniform& each) {
        return of_all_elements(each.active.name) == of_all_elements(element) &&
               std::any_of(each.means.begin(), each.means.end(), of_light);
    });
}

// Where a key asks for the elements of what is none.
void refuse_elements_of_no_array(const std::vector<std::string>& aliases,
                                 const std::vector<shader_binding>& keys) {
    for (const shader_binding& key : keys) {
        const std::size_t star = key.name.find("[*]");
        if (star == std::string::npos) {
            continue;
        }
        const std::string one = key.name.substr(0, star);
        const std::string whole = one + key.name.substr(star + 3);
        if (std::find(aliases.begin(), aliases.end(), whole) != aliases.end()) {
            throw error(key.where, "`" + one + "` is no array", "`" + whole + "`, without [*]");
        }
    }
}

// What a name would most likely mean, for messages.
std::string likely_quantity(const std::string& name) {
    std::string word =
        name.substr(name.find_last_of('.') == std::string::npos ? 0 : name.find_last_of('.') + 1);
    word = word.substr(0, word.find('['));
    for (const char* prefix : {"u_", "m_", "g_"}) {
        word = word.starts_with(prefix) ? word.substr(2) : word;
    }
    for (const std::string_view text : scene_quantities()) {
        if (text.substr(text.find('.') + 1) == word) {
            return std::string(text);
        }
    }
    for (const std::string_view text : light_properties()) {
        if (text == word) {
            return "lights[*]." + std::string(text);
        }
    }
    return "";
}

} // namespace

meaning parse_meaning(const std::string& text, const source_location& where) {
    const std::size_t first = text.find_first_not_of(" \t");
    if (first != std::string::npos && text[first] == '=') {
        return parse_binding_expression(text.substr(text[first + 1] == ' ' ? first + 2 : first + 1), where);
    }
    return parse_quantity(text, where);
}

std::vector<const quantity*> quantities_of(const meaning& means) {
    std::vector<const quantity*> result;
    if (const quantity* one = std::get_if<quantity>(&means)) {
        result.push_back(one);
    } else if (const binding_expression* several = std::get_if<binding_expression>(&means)) {
        for (const quantity& each : several->quantities) {
            result.push_back(&each);
        }
    }
    return result;
}

std::vector<meaning> meanings_of_binding(const shader_binding& key) {
    std::vector<meaning> all;
    for (const auto& means : key.means) {
        if (const double* number = std::get_if<double>(&means)) {
            all.emplace_back(*number);
        } else {
            all.push_back(parse_meaning(std::get<std::string>(means), key.where));
        }
    }
    return all;
}

const std::string* attribute_word(const shader_binding& key) {
    const std::string* const word =
        key.means.size() == 1 ? std::get_if<std::string>(&key.means.front()) : nullptr;
    const auto& known = vertex_attributes;
    return word != nullptr && std::find(known.begin(), known.end(), *word) != known.end() ? word : nullptr;
}

namespace {

// What differs from vertex to vertex is an attribute, what is the same at each one is handed over as a
// uniform is.
void bind_attributes(const shader_program& the_program, const translated_program& translated,
                     const linked_program& linked, bindings& result) {
    std::vector<bool> used_attributes(the_program.attributes.size(), false);
    std::vector<std::string_view> known;
    for (const shader_binding& binding : the_program.attributes) {
        known.push_back(binding.name);
    }
    for (const active_attribute& active : linked.attributes) {
        const auto semantic = translated.attribute_names.find(active.name);
        const std::string& name =
            semantic == translated.attribute_names.end() ? active.name : semantic->second;
        const auto found = std::find_if(the_program.attributes.begin(), the_program.attributes.end(),
                                        [&](const shader_binding& binding) { return binding.name == name; });
        if (found == the_program.attributes.end()) {
            const std::string_view meant = nearest(name, known);
            throw error({the_program.file, 0, 0},
                        "the shader reads the attribute `" + name + "`, which [attributes] leaves out",
                        meant.empty() ? name + " = \"position\", \"normal\", \"texcoord\" or \"color\""
                                      : "the nearest that it has is `" + std::string(meant) + "`");
        }
        used_attributes[static_cast<std::size_t>(found - the_program.attributes.begin())] = true;
        const type_shape shape = shape_of(active.type);
        const std::string* const means = attribute_word(*found);
        const bool numbers = !shape.name.empty() && !shape.texture && shape.bytes == sizeof(float);
        if (!numbers || (means != nullptr && (shape.whole || shape.columns > 0))) {
            throw error(found->where,
                        "the attribute `" + name + "` is of a type that cannot be " +
                            (means != nullptr ? "\"" + *means + "\"" : "bound"),
                        means != nullptr ? "float, or a vector of floats"
                                         : "float, int, bool, and vectors and matrices of them");
        }
        if (means != nullptr) {
            result.attributes.push_back({active, *means});
        } else {
            active_uniform same;
            same.name = name;
            same.type = active.type;
            same.location = active.location;
            result.uniforms.push_back({same, meanings_of_binding(*found), 0, found->where, true});
        }
    }
    for (std::size_t i = 0; i < the_program.attributes.size(); ++i) {
        const shader_binding& binding = the_program.attributes[i];
        if (used_attributes[i]) {
            continue;
        }
        if (!declares(the_program, binding.name)) {
            std::vector<std::string_view> names;
            for (const active_attribute& active : linked.attributes) {
                names.push_back(active.name);
            }
            throw error(binding.where, "no source declares the attribute `" + binding.name + "`",
                        instead_of(binding.name, names, "a name that the vertex stage declares"));
        }
        result.remarks.push_back("the attribute `" + binding.name + "` is declared and not used");
    }
}

} // namespace

bindings bind(const shader_program& the_program, const translated_program& translated,
              const linked_program& linked) {
    bindings result;
    if (linked.older_version != 0) {
        result.remarks.emplace_back("the driver has no GLSL 4.60: compiled as 4.50");
    }
    bind_attributes(the_program, translated, linked, result);
    shader_program as_text = the_program; // SPIR-V is none
    if (the_program.language == shading_language::spirv) {
        as_text.vertex.source = translated.sources.vertex;
        as_text.fragment.source = translated.sources.fragment;
    }
    // What only the translated sources name is copied there with the structure that it is part of.
    driver_sources written;
    written.vertex = as_text.vertex.source;
    written.fragment = as_text.fragment.source;
    const auto is_read = [&](const std::string& name) {
        return reads(translated.sources, name) && reads(written, name);
    };
    const std::map<std::string, std::string> instances = block_instances(as_text);
    std::map<std::string, int> bare_counts;
    for (const active_uniform& active : linked.uniforms) {
        const std::size_t dot = active.name.find('.');
        if (dot != std::string::npos) {
            ++bare_counts[active.name.substr(dot + 1)];
        }
    }
    std::vector<bool> used(the_program.uniforms.size(), false);
    std::vector<std::string_view> keys;
    for (const shader_binding& binding : the_program.uniforms) {
        keys.push_back(binding.name);
    }
    for (const active_uniform& active : linked.uniforms) {
        const std::vector<std::string> aliases = aliases_of(active, linked.blocks, instances, bare_counts);
        const type_shape shape = shape_of(active.type);
        if (shape.name.empty()) {
            throw error({the_program.file, 0, 0},
                        "the uniform `" + active.name + "` is of a type that cannot be bound",
                        "float, double, int, bool, vectors and matrices of them, and samplers of textures "
                        "that are not "
                        "multisampled");
        }
        bool bound = false;
        for (std::size_t i = 0; i < the_program.uniforms.size() && !bound; ++i) {
            const shader_binding& key = the_program.uniforms[i];
            for (const std::string& alias : aliases) {
                int each = 0;
                if (!matches(key.name, alias, each)) {
                    continue;
                }
                used[i] = true;
                bound = true;
                result.uniforms.push_back({active, meanings_of_binding(key), each, key.where});
                break;
            }
        }
        // An array without a size is as long as what is bound of it; but of lights as many as are claimed.
        const bool beyond = active.beyond_first != 0 && !is_bound_of_lights(active.name, result.uniforms);
        if (!bound && active.block >= 0 && (beyond || !is_read(active.name))) {
            continue; // or padding
        }
        if (!bound) {
            refuse_elements_of_no_array(aliases, the_program.uniforms);
            std::string right;
            const std::string likely = likely_quantity(active.name);
            const std::string_view meant = nearest(active.name, keys);
            if (!meant.empty()) {
                right = "the nearest that it has is `" + std::string(meant) + "`";
            } else {
                right = "\"" + active.name + "\" = \"" + (likely.empty() ? "QUANTITY" : likely) + "\"";
            }
            throw error({the_program.file, 0, 0},
                        "the shader reads the uniform `" + active.name + "`, which [uniforms] leaves out",
                        right);
        }
    }
    for (std::size_t i = 0; i < the_program.uniforms.size(); ++i) {
        const shader_binding& binding = the_program.uniforms[i];
        for (const auto& means : binding.means) { // a wrong quantity is told even where the name is not used
            if (const std::string* text = std::get_if<std::string>(&means)) {
                (void)parse_meaning(*text, binding.where);
            }
        }
        if (used[i]) {
            continue;
        }
        if (!declares(the_program, binding.name)) {
            std::vector<std::string_view> names;
            for (const active_uniform& active : linked.uniforms) {
                names.push_back(active.name);
            }
            throw error(binding.where, "no source declares the uniform `" + binding.name + "`",
                        instead_of(binding.name, names, "a name that a stage declares"));
        }
        result.remarks.push_back("the uniform `" + binding.name + "` is declared and not used");
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
