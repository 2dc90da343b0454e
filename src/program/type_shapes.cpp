// The types that a name may be of, by the numbers that OpenGL has for them, and names of elements.
#include <algorithm>
#include <map>

#include "program/bindings.hpp"
#include "program/sampler_types.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// The types' numbers in OpenGL.
const std::map<std::uint32_t, type_shape> shapes{{0x1406, {1, 0, 0, false, false, "float"}},
                                                 {0x8B50, {2, 0, 0, false, false, "vec2"}},
                                                 {type_of_color, {3, 0, 0, false, false, "vec3"}},
                                                 {type_of_color_and_alpha, {4, 0, 0, false, false, "vec4"}},
                                                 {0x8B5A, {4, 2, 2, false, false, "mat2"}},
                                                 {0x8B5B, {9, 3, 3, false, false, "mat3"}},
                                                 {0x8B5C, {16, 4, 4, false, false, "mat4"}},
                                                 {0x8B65, {6, 2, 3, false, false, "mat2x3"}},
                                                 {0x8B66, {8, 2, 4, false, false, "mat2x4"}},
                                                 {0x8B67, {6, 3, 2, false, false, "mat3x2"}},
                                                 {0x8B68, {12, 3, 4, false, false, "mat3x4"}},
                                                 {0x8B69, {8, 4, 2, false, false, "mat4x2"}},
                                                 {0x8B6A, {12, 4, 3, false, false, "mat4x3"}},
                                                 {0x1404, {1, 0, 0, true, false, "int"}},
                                                 {0x8B53, {2, 0, 0, true, false, "ivec2"}},
                                                 {0x8B54, {3, 0, 0, true, false, "ivec3"}},
                                                 {0x8B55, {4, 0, 0, true, false, "ivec4"}},
                                                 {0x8B56, {1, 0, 0, true, false, "bool"}},
                                                 {0x8B57, {2, 0, 0, true, false, "bvec2"}},
                                                 {0x8B58, {3, 0, 0, true, false, "bvec3"}},
                                                 {0x8B59, {4, 0, 0, true, false, "bvec4"}},
                                                 {0x1405, {1, 0, 0, true, false, "uint"}},
                                                 {0x8DC6, {2, 0, 0, true, false, "uvec2"}},
                                                 {0x8DC7, {3, 0, 0, true, false, "uvec3"}},
                                                 {0x8DC8, {4, 0, 0, true, false, "uvec4"}},
                                                 {0x140A, {1, 0, 0, false, false, "double", 8}},
                                                 {0x8FFC, {2, 0, 0, false, false, "dvec2", 8}},
                                                 {0x8FFD, {3, 0, 0, false, false, "dvec3", 8}},
                                                 {0x8FFE, {4, 0, 0, false, false, "dvec4", 8}},
                                                 {0x8F46, {4, 2, 2, false, false, "dmat2", 8}},
                                                 {0x8F47, {9, 3, 3, false, false, "dmat3", 8}},
                                                 {0x8F48, {16, 4, 4, false, false, "dmat4", 8}},
                                                 {0x8F49, {6, 2, 3, false, false, "dmat2x3", 8}},
                                                 {0x8F4A, {8, 2, 4, false, false, "dmat2x4", 8}},
                                                 {0x8F4B, {6, 3, 2, false, false, "dmat3x2", 8}},
                                                 {0x8F4C, {12, 3, 4, false, false, "dmat3x4", 8}},
                                                 {0x8F4D, {8, 4, 2, false, false, "dmat4x2", 8}},
                                                 {0x8F4E, {12, 4, 3, false, false, "dmat4x3", 8}}};

} // namespace

type_shape shape_of(std::uint32_t type) {
    if (const sampler_type* sampler = find_sampler_type(type)) {
        type_shape result;
        result.whole = sampler->holds == texel_kind::wholes || sampler->holds == texel_kind::naturals;
        result.texture = true;
        result.name = sampler->name;
        return result;
    }
    const auto found = shapes.find(type);
    return found == shapes.end() ? type_shape{} : found->second;
}

std::string of_all_elements(const std::string& name) {
    std::string result;
    for (std::size_t i = 0; i < name.size(); ++i) {
        if (name[i] != '[') {
            result += name[i];
            continue;
        }
        result += "[*]";
        i = std::min(name.find(']', i), name.size() - 1);
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
