#include "program/bindings.hpp"

#include <algorithm>
#include <map>

namespace yurvo::program {

namespace {

// The types' numbers in OpenGL.
const std::map<std::uint32_t, type_shape> shapes{
    {0x1406, {1, 0, false, false, "float"}}, {0x8B50, {2, 0, false, false, "vec2"}},
    {0x8B51, {3, 0, false, false, "vec3"}},  {0x8B52, {4, 0, false, false, "vec4"}},
    {0x8B5A, {4, 2, false, false, "mat2"}},  {0x8B5B, {9, 3, false, false, "mat3"}},
    {0x8B5C, {16, 4, false, false, "mat4"}}, {0x1404, {1, 0, true, false, "int"}},
    {0x8B53, {2, 0, true, false, "ivec2"}},  {0x8B54, {3, 0, true, false, "ivec3"}},
    {0x8B55, {4, 0, true, false, "ivec4"}},  {0x8B56, {1, 0, true, false, "bool"}},
    {0x8B57, {2, 0, true, false, "bvec2"}},  {0x8B58, {3, 0, true, false, "bvec3"}},
    {0x8B59, {4, 0, true, false, "bvec4"}},  {0x1405, {1, 0, true, false, "uint"}},
    {0x8DC6, {2, 0, true, false, "uvec2"}},  {0x8DC7, {3, 0, true, false, "uvec3"}},
    {0x8DC8, {4, 0, true, false, "uvec4"}},  {0x8B5E, {0, 0, false, true, "sampler2D"}}};

// The names by which one active uniform may be called.
std::vector<std::string> aliases_of(const active_uniform& active, const std::vector<active_block>& blocks,
                                    const std::map<std::string, std::string>& instances,
                                    const std::map<std::string, int>& bare_counts) {
    std::vector<std::string> made{active.name};
    const std::size_t dot = active.name.find('.');
    const std::string first = active.name.substr(0, dot);
    const std::string rest = dot == std::string::npos ? "" : active.name.substr(dot + 1);
    if (active.block >= 0) {
        const std::string& block = blocks[static_cast<std::size_t>(active.block)].name;
        const std::string member = first == block && dot != std::string::npos ? rest : active.name;
        made.push_back(member);
        made.push_back(block + "." + member);
        const auto instance = instances.find(block);
        if (instance != instances.end() && !instance->second.empty()) {
            made.push_back(instance->second + "." + member);
        }
        return made;
    }
    for (const auto& [block, instance] :
         instances) { // push constants are a structure by their instance's name
        if (!rest.empty() && instance == first) {
            made.push_back(block + "." + rest);
            const auto count = bare_counts.find(rest);
            if (count != bare_counts.end() && count->second == 1) {
                made.push_back(rest);
            }
        }
    }
    return made;
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

// What a name would most likely mean, for messages.
std::string likely_quantity(const std::string& name) {
    std::string word =
        name.substr(name.find_last_of('.') == std::string::npos ? 0 : name.find_last_of('.') + 1);
    word = word.substr(0, word.find('['));
    for (const char* prefix : {"u_", "m_", "g_"}) {
        word = word.starts_with(prefix) ? word.substr(2) : word;
    }
    for (const std::string_view one : scene_quantities()) {
        if (one.substr(one.find('.') + 1) == word) {
            return std::string(one);
        }
    }
    for (const std::string_view one : light_properties()) {
        if (one == word) {
            return "lights[*]." + std::string(one);
        }
    }
    return "";
}

} // namespace

type_shape shape_of(std::uint32_t type) {
    const auto found = shapes.find(type);
    return found == shapes.end() ? type_shape{} : found->second;
}

bindings bind(const shader_program& given, const translated_program& translated,
              const linked_program& linked) {
    bindings made;
    std::vector<bool> used_attributes(given.attributes.size(), false);
    std::vector<std::string_view> known;
    for (const shader_binding& one : given.attributes) {
        known.push_back(one.name);
    }
    for (const active_attribute& active : linked.attributes) {
        const auto semantic = translated.attribute_names.find(active.name);
        const std::string& name =
            semantic == translated.attribute_names.end() ? active.name : semantic->second;
        const auto found = std::find_if(given.attributes.begin(), given.attributes.end(),
                                        [&](const shader_binding& one) { return one.name == name; });
        if (found == given.attributes.end()) {
            const std::string_view meant = nearest(name, known);
            throw error({given.file, 0, 0},
                        "the shader reads the attribute `" + name + "`, which [attributes] leaves out",
                        meant.empty() ? name + " = \"position\", \"normal\", \"texcoord\" or \"color\""
                                      : "the nearest that it has is `" + std::string(meant) + "`");
        }
        used_attributes[static_cast<std::size_t>(found - given.attributes.begin())] = true;
        made.attributes.push_back({active, std::get<std::string>(found->means.front())});
    }
    for (std::size_t i = 0; i < given.attributes.size(); ++i) {
        const shader_binding& one = given.attributes[i];
        if (used_attributes[i]) {
            continue;
        }
        if (!declares(given, one.name)) {
            std::vector<std::string_view> names;
            for (const active_attribute& active : linked.attributes) {
                names.push_back(active.name);
            }
            throw error(one.where, "no source declares the attribute `" + one.name + "`",
                        instead_of(one.name, names, "a name that the vertex stage declares"));
        }
        made.remarks.push_back("the attribute `" + one.name + "` is declared and not used");
    }

    const std::map<std::string, std::string> instances = block_instances(given);
    std::map<std::string, int> bare_counts;
    for (const active_uniform& active : linked.uniforms) {
        const std::size_t dot = active.name.find('.');
        if (dot != std::string::npos) {
            ++bare_counts[active.name.substr(dot + 1)];
        }
    }
    std::vector<bool> used(given.uniforms.size(), false);
    std::vector<std::string_view> keys;
    for (const shader_binding& one : given.uniforms) {
        keys.push_back(one.name);
    }
    for (const active_uniform& active : linked.uniforms) {
        const std::vector<std::string> aliases = aliases_of(active, linked.blocks, instances, bare_counts);
        const type_shape shape = shape_of(active.type);
        if (shape.name.empty()) {
            throw error({given.file, 0, 0},
                        "the uniform `" + active.name + "` is of a type that cannot be bound",
                        "float, int, bool, vectors and square matrices of them, and sampler2D");
        }
        bool bound = false;
        for (std::size_t i = 0; i < given.uniforms.size() && !bound; ++i) {
            const shader_binding& key = given.uniforms[i];
            for (const std::string& alias : aliases) {
                int each = 0;
                if (!matches(key.name, alias, each)) {
                    continue;
                }
                bound_uniform one{active, {}, each, key.where};
                for (const auto& means : key.means) {
                    if (const double* number = std::get_if<double>(&means)) {
                        one.means.emplace_back(*number);
                    } else {
                        one.means.emplace_back(parse_quantity(std::get<std::string>(means), key.where));
                    }
                }
                used[i] = true;
                bound = true;
                made.uniforms.push_back(std::move(one));
                break;
            }
        }
        if (!bound) {
            std::string right;
            const std::string likely = likely_quantity(active.name);
            const std::string_view meant = nearest(active.name, keys);
            if (!meant.empty()) {
                right = "the nearest that it has is `" + std::string(meant) + "`";
            } else {
                right = "\"" + active.name + "\" = \"" + (likely.empty() ? "QUANTITY" : likely) + "\"";
            }
            throw error({given.file, 0, 0},
                        "the shader reads the uniform `" + active.name + "`, which [uniforms] leaves out",
                        right);
        }
    }
    for (std::size_t i = 0; i < given.uniforms.size(); ++i) {
        const shader_binding& one = given.uniforms[i];
        for (const auto& means : one.means) { // a wrong quantity is told even where the name is not used
            if (const std::string* text = std::get_if<std::string>(&means)) {
                parse_quantity(*text, one.where);
            }
        }
        if (used[i]) {
            continue;
        }
        if (!declares(given, one.name)) {
            std::vector<std::string_view> names;
            for (const active_uniform& active : linked.uniforms) {
                names.push_back(active.name);
            }
            throw error(one.where, "no source declares the uniform `" + one.name + "`",
                        instead_of(one.name, names, "a name that a stage declares"));
        }
        made.remarks.push_back("the uniform `" + one.name + "` is declared and not used");
    }
    return made;
}

std::vector<float> numbers_for(const bound_uniform& one, const quantity_context& in, bool transposed) {
    const type_shape shape = shape_of(one.active.type);
    std::vector<double> numbers;
    quantity_kind kind = quantity_kind::number;
    int matrix_rows = 0;
    std::string what;
    for (const auto& means : one.means) {
        if (const double* number = std::get_if<double>(&means)) {
            numbers.push_back(*number);
            what = "the literal";
            continue;
        }
        const quantity& asked = std::get<quantity>(means);
        const value_of_quantity value = evaluate(asked, one.each, in, one.where);
        kind = value.kind;
        matrix_rows = value.kind == quantity_kind::matrix ? value.rows : 0;
        what = "`" + asked.text + "`";
        numbers.insert(numbers.end(), value.numbers.begin(), value.numbers.end());
    }
    // An element of an array of plain numbers takes its own of a list: thresholds, bands.
    const auto wanted = static_cast<std::size_t>(shape.components);
    const auto mismatch = [&]() -> error {
        return {one.where,
                "`" + one.active.name + "` is a " + shape.name + ", and " + what + " has " +
                    std::to_string(numbers.size()) + (numbers.size() == 1 ? " number" : " numbers"),
                "a quantity of that size"};
    };
    if (matrix_rows > 0 || shape.matrix > 0) {
        if (matrix_rows == 0 && numbers.size() == wanted) {
            matrix_rows = shape.matrix;
        }
        if (matrix_rows == 0 || shape.matrix == 0 || matrix_rows > shape.matrix) {
            throw mismatch();
        }
        std::vector<float> made(wanted, 0.0F);
        const auto size = static_cast<std::size_t>(shape.matrix);
        const auto rows = static_cast<std::size_t>(matrix_rows);
        for (std::size_t column = 0; column < size; ++column) {
            for (std::size_t row = 0; row < size; ++row) {
                const double value = column < rows && row < rows ? numbers[rows * column + row]
                                     : column == row             ? 1.0
                                                                 : 0.0;
                made[transposed ? size * row + column : size * column + row] = static_cast<float>(value);
            }
        }
        return made;
    }
    const bool list = one.means.size() == 1 && std::holds_alternative<quantity>(one.means.front()) &&
                      std::get<quantity>(one.means.front()).of == "shading" && numbers.size() > wanted;
    if (list) {
        const std::size_t first = wanted * static_cast<std::size_t>(one.each);
        numbers = first + wanted <= numbers.size()
                      ? std::vector<double>(numbers.begin() + static_cast<std::ptrdiff_t>(first),
                                            numbers.begin() + static_cast<std::ptrdiff_t>(first + wanted))
                      : std::vector<double>(wanted, 0.0);
    }
    if (numbers.size() == 1) {
        numbers.resize(wanted, numbers.front());
    } else if (numbers.size() == 3 && wanted == 4) {
        numbers.push_back(kind == quantity_kind::direction ? 0.0 : 1.0);
    }
    if (numbers.size() != wanted) {
        throw mismatch();
    }
    return {numbers.begin(), numbers.end()};
}

} // namespace yurvo::program
