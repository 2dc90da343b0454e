#include "verify/cast_geometry.hpp"

#include <algorithm>
#include <cmath>
#include <deque>

#include "verify/plain_shapes.hpp"

namespace yurvo::inline v0_1::verify {

turn_by_angles::turn_by_angles(const vec3<double>& angles)
    : cosines_{std::cos(angles.x), std::cos(angles.y), std::cos(angles.z)},
      sines_{std::sin(angles.x), std::sin(angles.y), std::sin(angles.z)} {}

vec3<double> place_in_world(const placement& placed, const turn_by_angles& turn, const vec3<double>& p) {
    return placed.position + turn.of({p.x * placed.scale.x, p.y * placed.scale.y, p.z * placed.scale.z});
}

vec3<double> normal_in_world(const placement& placed, const turn_by_angles& turn, const vec3<double>& n) {
    return turn.of({n.x / placed.scale.x, n.y / placed.scale.y, n.z / placed.scale.z});
}

namespace {

std::vector<mesh> all_meshes(const std::vector<object>& objects) {
    std::vector<mesh> meshes;
    meshes.reserve(objects.size());
    for (const object& object : objects) {
        meshes.push_back(plain_mesh(object));
    }
    return meshes;
}

std::vector<turn_by_angles> all_turns(const std::vector<object>& objects) {
    std::vector<turn_by_angles> turns;
    turns.reserve(objects.size());
    for (const object& object : objects) {
        turns.emplace_back(object.placed.rotation);
    }
    return turns;
}

std::vector<world_triangle> all_triangles(const std::vector<object>& objects, const std::vector<mesh>& meshes,
                                          const std::vector<turn_by_angles>& turns) {
    std::vector<world_triangle> triangles;
    for (std::size_t o = 0; o < meshes.size(); ++o) {
        for (std::size_t t = 0; t < meshes[o].triangles.size(); ++t) {
            const triangle& corners = meshes[o].triangles[t];
            const auto corner = [&](std::size_t k) {
                return place_in_world(objects[o].placed, turns[o], meshes[o].positions[corners[k]]);
            };
            triangles.push_back({{corner(0), corner(1), corner(2)},
                                 static_cast<std::uint32_t>(o),
                                 static_cast<std::uint32_t>(t)});
        }
    }
    return triangles;
}

} // namespace

cast_geometry::cast_geometry(const scene& of)
    : objects(of.objects),
      seen_from(of.view),
      meshes(all_meshes(objects)),
      turns(all_turns(objects)),
      tree(all_triangles(objects, meshes, turns)) {}

std::shared_ptr<const cast_geometry> geometry_of(const scene& the_scene) {
    constexpr std::size_t most_kept = 9; // three sizes of each of three scenes that are checked at once
    constexpr std::size_t most_triangles = 50'000;
    static std::mutex one_at_a_time;
    static std::deque<std::shared_ptr<const cast_geometry>> kept; // the last asked for first
    {
        const std::lock_guard lock(one_at_a_time);
        const auto same = std::find_if(kept.begin(), kept.end(), [&](const auto& each) {
            return each->seen_from == the_scene.view && each->objects == the_scene.objects;
        });
        if (same != kept.end()) {
            std::rotate(kept.begin(), same, same + 1);
            return kept.front();
        }
    }
    auto made = std::make_shared<const cast_geometry>(the_scene);
    if (made->tree.size() <= most_triangles) {
        const std::lock_guard lock(one_at_a_time);
        kept.push_front(made);
        kept.resize(std::min(kept.size(), most_kept));
    }
    return made;
}

} // namespace yurvo::inline v0_1::verify
