#include "files/flattened_mesh.hpp"

#include <utility>

namespace yurvo::inline v0_1::files {

flattened_mesh flatten(const mesh& shape) {
    flattened_mesh flat;
    const bool textured = !shape.texcoords.empty();
    constexpr std::uint32_t unset = mesh::no_material;
    std::vector<std::uint32_t> own(shape.positions.size(),
                                   unset); // the texture coordinate of each vertex
    std::vector<std::vector<std::pair<std::uint32_t, std::uint32_t>>> others(shape.positions.size());
    const auto push = [&](std::uint32_t vertex, std::uint32_t at) {
        const auto add = [](std::vector<float>& to, double x, double y, double z) {
            to.insert(to.end(), {static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)});
        };
        const vec3<double>& p = shape.positions[vertex];
        const vec3<double>& n = shape.normals[vertex];
        add(flat.positions, p.x, p.y, p.z);
        add(flat.normals, n.x, n.y, n.z);
        if (!shape.colors.empty()) {
            const rgb<double>& c = shape.colors[vertex];
            add(flat.colors, c.r, c.g, c.b);
        }
        if (textured) {
            flat.texcoords.push_back(static_cast<float>(shape.texcoords[at].u));
            flat.texcoords.push_back(static_cast<float>(1 - shape.texcoords[at].v));
        }
        return static_cast<std::uint32_t>(flat.positions.size() / 3 - 1);
    };
    // The vertices first, in their order, each with the coordinate it is first used with.
    for (std::size_t t = 0; textured && t < shape.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            std::uint32_t& first = own[shape.triangles[t][k]];
            first = first == unset ? shape.texcoord_corners(t)[k] : first;
        }
    }
    for (std::uint32_t vertex = 0; vertex < shape.positions.size(); ++vertex) {
        push(vertex, own[vertex] == unset ? 0 : own[vertex]);
    }
    for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t vertex = shape.triangles[t][k];
            std::uint32_t index = vertex;
            if (textured && shape.texcoord_corners(t)[k] != own[vertex]) {
                const std::uint32_t at = shape.texcoord_corners(t)[k];
                index = unset;
                for (const auto& [other_at, other] : others[vertex]) {
                    index = other_at == at ? other : index;
                }
                if (index == unset) {
                    index = push(vertex, at);
                    others[vertex].emplace_back(at, index);
                }
            }
            flat.indices.push_back(index);
        }
    }
    return flat;
}

} // namespace yurvo::inline v0_1::files
