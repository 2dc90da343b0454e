// What an attribute's name says that the vertices have.
#include <string_view>

#include "program/guess_names.hpp"
#include "program/guess_words.hpp"

namespace yurvo::inline v0_1::program {

bool names_a_skeleton(const std::string& name) {
    return !first_of({{{"bone", "joint", "skin", "palette"}, "x"}}, lowered(name)).empty();
}

namespace {

// The same at every vertex: of several bones, which stay where they are, the first alone; an object's place
// among many.
std::string likely_of_all_vertices(const std::string& name, const type_shape& shape) {
    if (shape.columns > 0) {
        return name.find("nor") != std::string::npos ? "object.normal_to_world" : "object.to_world";
    }
    const bool weight = name.find("weight") != std::string::npos;
    if (name.find("inst") != std::string::npos && name.find("col") != std::string::npos) {
        return shape.components == 4 ? "material.base_alpha" : "material.base";
    }
    if (shape.whole || (!weight && (names_a_skeleton(name) || name.find("indices") != std::string::npos))) {
        return "0";
    }
    std::string weights = "1";
    for (int i = 1; i < shape.components; ++i) {
        weights += ", 0";
    }
    return weight ? weights : "";
}

} // namespace

std::string likely_attribute(const std::string& as_written, const type_shape& shape) {
    std::string name = lowered(as_written);
    std::string same = likely_of_all_vertices(name, shape);
    if (!same.empty()) {
        return same;
    }
    std::string letter = one_of(
        name, {{"p", "position"}, {"n", "normal"}, {"c", "color"}, {"t", "texcoord"}, {"st", "texcoord"}});
    if (!letter.empty()) {
        return letter;
    }
    // "vertex" holds "tex", and says nothing but that it is an attribute; alone it is where the vertex is.
    const std::string_view vertex = "vertex";
    const std::size_t at = name.find(vertex);
    if (at != std::string::npos) {
        name.erase(at, vertex.size());
    }
    const std::string likely = first_of({{{"bitan", "binor"}, "bitangent"},
                                         {{"tangent", "tang"}, "tangent"},
                                         {{"nor", "nrm"}, "normal"},
                                         {{"uv", "tex", "coord"}, "texcoord"},
                                         {{"col"}, "color"},
                                         {{"pos", "vert", "point"}, "position"}},
                                        name);
    return likely.empty() && at != std::string::npos ? "position" : likely;
}

} // namespace yurvo::inline v0_1::program
