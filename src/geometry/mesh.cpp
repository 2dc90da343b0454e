#include "yurvo/geometry/mesh.hpp"

#include <algorithm>
#include <utility>

namespace yurvo::inline v0_1 {

namespace {

constexpr std::uint32_t unset = 0xFFFFFFFFU;

mesh part_of(const mesh& whole, std::uint32_t material) {
    mesh part;
    part.texcoords = whole.texcoords;
    std::vector<std::uint32_t> moved_to(whole.positions.size(), unset);
    for (std::size_t t = 0; t < whole.triangles.size(); ++t) {
        if (whole.materials[t] != material) {
            continue;
        }
        triangle corners = whole.triangles[t];
        for (std::uint32_t& corner : corners) {
            std::uint32_t& moved = moved_to[corner];
            if (moved == unset) {
                moved = static_cast<std::uint32_t>(part.positions.size());
                part.positions.push_back(whole.positions[corner]);
                part.normals.push_back(whole.normals[corner]);
                if (!whole.colors.empty()) {
                    part.colors.push_back(whole.colors[corner]);
                }
            }
            corner = moved;
        }
        part.triangles.push_back(corners);
        if (!whole.texcoords.empty()) {
            part.texcoord_triangles.push_back(whole.texcoord_corners(t));
        }
    }
    return part;
}

} // namespace

std::vector<mesh_part> split_by_material(mesh whole) {
    std::vector<mesh_part> parts;
    if (whole.materials.empty()) {
        parts.push_back({mesh::no_material, std::move(whole)});
        return parts;
    }
    std::vector<std::uint32_t> seen;
    for (const std::uint32_t material : whole.materials) {
        if (std::find(seen.begin(), seen.end(), material) == seen.end()) {
            seen.push_back(material);
        }
    }
    for (const std::uint32_t material : seen) {
        parts.push_back({material, part_of(whole, material)});
    }
    return parts;
}

} // namespace yurvo::inline v0_1
