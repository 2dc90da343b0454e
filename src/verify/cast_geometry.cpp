#include "verify/cast_geometry.hpp"

#include <algorithm>
#include <cmath>
#include <deque>

#include "verify/plain_shapes.hpp"

namespace yurvo::inline v0_1::verify {

turn_by_angles::turn_by_angles(const vec3<double>& angles)
    : cosines_{std::cos(angles.x), std::cos(angles.y), std::cos(angles.z)},
      sines_{std::sin(angles.x), std::sin(angles.y), std::sin(angles.z)} {}

vec3<double> unit_or_zero(const vec3<double>& v) {
    const double size = std::hypot(v.x, v.y, v.z);
    return size > 0 ? v / size : vec3<double>{};
}

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

std::vector<std::vector<vec3<double>>> all_normals(const std::vector<object>& objects,
                                                   const std::vector<mesh>& meshes,
                                                   const std::vector<turn_by_angles>& turns) {
    std::vector<std::vector<vec3<double>>> normals(meshes.size());
    for (std::size_t o = 0; o < meshes.size(); ++o) {
        normals[o].reserve(meshes[o].normals.size());
        for (const vec3<double>& normal : meshes[o].normals) {
            normals[o].push_back(unit_or_zero(normal_in_world(objects[o].placed, turns[o], normal)));
        }
    }
    return normals;
}

std::vector<vec3<double>> all_faces(const triangle_tree& tree) {
    std::vector<vec3<double>> faces;
    faces.reserve(tree.size());
    for (std::uint32_t t = 0; t < tree.size(); ++t) {
        const auto& corners = tree.triangle(t).corners;
        const vec3<double> face = cross(corners[1] - corners[0], corners[2] - corners[0]);
        faces.push_back(face * (1 / std::hypot(face.x, face.y, face.z)));
    }
    return faces;
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

cast_shapes::cast_shapes(const std::vector<object>& of)
    : objects(of),
      meshes(all_meshes(objects)),
      turns(all_turns(objects)),
      normals(all_normals(objects, meshes, turns)),
      tree(all_triangles(objects, meshes, turns)),
      faces(all_faces(tree)) {}

namespace {

// The last few that were asked for.
template <class Value> class last_few {
    std::size_t most_;
    std::mutex one_at_a_time_;
    std::deque<std::shared_ptr<const Value>> kept_; // the last asked for first

  public:
    explicit last_few(std::size_t most) : most_(most) {}

    // None where none is the same.
    template <class Same> std::shared_ptr<const Value> find(Same&& is_same) {
        const std::lock_guard lock(one_at_a_time_);
        const auto same =
            std::find_if(kept_.begin(), kept_.end(), [&](const auto& each) { return is_same(*each); });
        if (same == kept_.end()) {
            return nullptr;
        }
        std::rotate(kept_.begin(), same, same + 1);
        return kept_.front();
    }
    void keep(std::shared_ptr<const Value> made) {
        const std::lock_guard lock(one_at_a_time_);
        kept_.push_front(std::move(made));
        kept_.resize(std::min(kept_.size(), most_));
    }
};

constexpr std::size_t most_triangles = 50'000; // of what is kept
constexpr std::size_t scenes_at_once = 3;      // that are checked

std::shared_ptr<const cast_shapes> shapes_of(const std::vector<object>& objects) {
    static last_few<cast_shapes> kept(2 * scenes_at_once); // one with more or less in it, too
    if (auto known = kept.find([&](const cast_shapes& each) { return each.objects == objects; })) {
        return known;
    }
    auto made = std::make_shared<const cast_shapes>(objects);
    if (made->tree.size() <= most_triangles) {
        kept.keep(made);
    }
    return made;
}

} // namespace

std::shared_ptr<const cast_geometry> geometry_of(const scene& the_scene) {
    static last_few<cast_geometry> kept(3 * scenes_at_once); // three sizes of each
    const std::shared_ptr<const cast_shapes> shapes = shapes_of(the_scene.objects);
    if (auto known = kept.find([&](const cast_geometry& each) {
            return each.shapes == shapes && each.seen_from == the_scene.view;
        })) {
        return known;
    }
    auto made = std::make_shared<const cast_geometry>(shapes, the_scene.view);
    if (shapes->tree.size() <= most_triangles) {
        kept.keep(made);
    }
    return made;
}

} // namespace yurvo::inline v0_1::verify
