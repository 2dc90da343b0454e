#include "yurvo/geometry/normals.hpp"

#include <bit>
#include <cmath>
#include <limits>
#include <unordered_map>

namespace yurvo::inline v0_1 {

namespace {

struct position_hash {
    std::size_t operator()(const vec3<double>& p) const {
        std::uint64_t hash = 0;
        for (const double coordinate : {p.x, p.y, p.z}) {
            // + 0.0 makes −0 and 0, which compare equal, hash alike.
            hash = (hash ^ std::bit_cast<std::uint64_t>(coordinate + 0.0)) * 0x9E3779B97F4A7C15ULL;
            hash ^= hash >> 29;
        }
        return static_cast<std::size_t>(hash);
    }
};

double angle_between(const vec3<double>& a, const vec3<double>& b) {
    return std::atan2(length(cross(a, b)), dot(a, b));
}

} // namespace

vec3<double> triangle_normal(const vec3<double>& a, const vec3<double>& b, const vec3<double>& c) {
    return normalize(cross(b - a, c - a));
}

mesh with_flat_normals(const mesh& the_mesh) {
    mesh flat;
    flat.positions.reserve(the_mesh.triangles.size() * 3);
    flat.normals.reserve(the_mesh.triangles.size() * 3);
    flat.triangles.reserve(the_mesh.triangles.size());
    flat.texcoords = the_mesh.texcoords;
    flat.materials = the_mesh.materials;
    for (std::size_t t = 0; t < the_mesh.triangles.size(); ++t) {
        const triangle& corners = the_mesh.triangles[t];
        const vec3<double> normal = triangle_normal(
            the_mesh.positions[corners[0]], the_mesh.positions[corners[1]], the_mesh.positions[corners[2]]);
        const auto first = static_cast<std::uint32_t>(flat.positions.size());
        for (const std::uint32_t corner : corners) {
            flat.positions.push_back(the_mesh.positions[corner]);
            flat.normals.push_back(normal);
            if (!the_mesh.colors.empty()) {
                flat.colors.push_back(the_mesh.colors[corner]);
            }
        }
        flat.triangles.push_back({first, first + 1, first + 2});
        if (!the_mesh.texcoords.empty()) {
            flat.texcoord_triangles.push_back(the_mesh.texcoord_corners(t));
        }
    }
    return flat;
}

mesh with_shared_normals(const mesh& the_mesh) {
    constexpr auto unset = std::numeric_limits<std::uint32_t>::max();
    mesh shared;
    shared.texcoords = the_mesh.texcoords;
    shared.materials = the_mesh.materials;
    std::vector<std::uint32_t> merged_to(the_mesh.positions.size(), unset);
    std::unordered_map<vec3<double>, std::uint32_t, position_hash> merged;
    merged.reserve(the_mesh.positions.size());
    const auto merge = [&](std::uint32_t old) {
        if (merged_to[old] == unset) {
            const auto next = static_cast<std::uint32_t>(shared.positions.size());
            const auto [place, is_new] = merged.try_emplace(the_mesh.positions[old], next);
            if (is_new) {
                shared.positions.push_back(the_mesh.positions[old]);
                if (!the_mesh.colors.empty()) {
                    shared.colors.push_back(the_mesh.colors[old]);
                }
            }
            merged_to[old] = place->second;
        }
        return merged_to[old];
    };
    shared.triangles.reserve(the_mesh.triangles.size());
    for (std::size_t t = 0; t < the_mesh.triangles.size(); ++t) {
        const triangle& corners = the_mesh.triangles[t];
        const std::uint32_t a = merge(corners[0]);
        const std::uint32_t b = merge(corners[1]);
        const std::uint32_t c = merge(corners[2]);
        shared.triangles.push_back({a, b, c});
        if (!the_mesh.texcoords.empty()) {
            shared.texcoord_triangles.push_back(the_mesh.texcoord_corners(t));
        }
    }
    shared.normals.resize(shared.positions.size());
    for (const triangle& corners : shared.triangles) {
        const auto at = [&](std::size_t i) { return shared.positions[corners[i % 3]]; };
        const vec3<double> normal = triangle_normal(at(0), at(1), at(2));
        for (std::size_t i = 0; i < 3; ++i) {
            const double angle = angle_between(at(i + 1) - at(i), at(i + 2) - at(i));
            vec3<double>& sum = shared.normals[corners[i]];
            sum = sum + normal * angle;
        }
    }
    for (vec3<double>& normal : shared.normals) {
        normal = normalize(normal);
    }
    return shared;
}

} // namespace yurvo::inline v0_1
