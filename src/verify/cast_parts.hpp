// cast_parts: what casts rays at a scene: its triangles in a tree, its fields, its lighting. cast.hpp is the
// way in; triangles and fields have a file each.
#pragma once

#include <array>
#include <atomic>
#include <cstddef>
#include <limits>
#include <memory>
#include <vector>

#include "verify/cast.hpp"
#include "verify/cast_geometry.hpp"
#include "verify/plain_lighting.hpp"
#include "verify/triangle_tree.hpp"

namespace yurvo::inline v0_1::verify {

// What is worked out once for each of many places, by whichever thread asks first. Two that ask at once work
// it out twice, alike.
template <class Value> class worked_out_once {
    mutable std::vector<std::atomic<const Value*>> places_;

  public:
    explicit worked_out_once(std::size_t count) : places_(count) {}
    ~worked_out_once() {
        for (const std::atomic<const Value*>& place : places_) {
            delete place.load(std::memory_order_relaxed); // NOLINT: owned here
        }
    }
    worked_out_once(const worked_out_once&) = delete;
    worked_out_once(worked_out_once&&) = delete;
    worked_out_once& operator=(const worked_out_once&) = delete;
    worked_out_once& operator=(worked_out_once&&) = delete;

    template <class WorkOut> const Value& at(std::size_t place, WorkOut&& work_out) const {
        std::atomic<const Value*>& known = places_[place];
        if (const Value* const there = known.load(std::memory_order_acquire)) {
            return *there;
        }
        auto made = std::make_unique<const Value>(work_out());
        const Value* before = nullptr;
        if (known.compare_exchange_strong(before, made.get(), std::memory_order_acq_rel)) {
            return *made.release();
        }
        return *before;
    }
};

struct caster::parts {
    const scene& the_scene;
    tolerance_model allowed;
    plain_lighting lighting;
    std::shared_ptr<const cast_geometry> geometry;
    const std::vector<mesh>& meshes;
    const triangle_tree& tree;
    // At rates vertex and face, what the light comes to at triangles' corners or in their middles: seen from
    // the front, and then from the back.
    worked_out_once<std::array<plain_lit, 3>> lit_corners;
    worked_out_once<plain_lit> lit_middles;
    vec3<double> forward, right, up; // right and up measure half the picture's width and height at distance 1

    parts(const scene& to_cast_at, const tolerance_model& to_allow);

    // A ray's component along the view is 1, so its parameter is the depth. Pixels, fractions included.
    [[nodiscard]] vec3<double> ray(double x, double y) const;
    [[nodiscard]] cast_color cast(double x, double y) const;
    // Finds what is met at all pixels' centres, on all threads.
    void find_all_centres() const;
    // `likely`: a triangle that it may well be.
    [[nodiscard]] cast_geometry::centre find(double x, double y, const vec3<double>& along,
                                             std::uint32_t likely = triangle_hit::none) const;
    [[nodiscard]] std::vector<cast_color> cast_around(double x, double y, double step) const;
    // The subject's own errors on top: its arithmetic's as many times unit roundoff, and what the surface
    // shows at the places around that its snapping may take for this one; doubled, as all tolerances are.
    [[nodiscard]] cast_color widened(cast_color result, double x, double y, bool snapped) const;
    // Where on the picture a point is, in pixels, and its depth; depth ≤ 0 is behind the eye.
    [[nodiscard]] vec3<double> on_picture(const vec3<double>& point) const;
    [[nodiscard]] cast_color nothing() const;
    static cast_color finished(const range3& color, double alpha, std::size_t object);
    [[nodiscard]] vec3<double> to_world(std::size_t o, const vec3<double>& p) const {
        return place_in_world(the_scene.objects[o].placed, geometry->shapes->turns[o], p);
    }
    // Not of length 1.
    [[nodiscard]] vec3<double> normal_to_world(std::size_t o, const vec3<double>& n) const {
        return normal_in_world(the_scene.objects[o].placed, geometry->shapes->turns[o], n);
    }

    // Triangles, in cast_triangles.cpp.
    [[nodiscard]] cast_color color_of(const triangle_hit& hit, const vec3<double>& along) const;
    [[nodiscard]] cast_color color_of(std::size_t triangle, const std::array<double, 3>& weights,
                                      const vec3<double>& along) const;
    // Triangles seen so nearly edge-on that rays pass on both sides of them, though snapped they may cover
    // the place: those with an edge within `step` of it and nothing before them, as deep as snapping may put
    // them.
    void add_slivers(double x, double y, double step, std::vector<cast_color>& colors) const;

    // Fields, in cast_fields.cpp.
    // The nearest field. A triangle in the same place counts as drawn first or last by the objects' order.
    [[nodiscard]] field_hit find_field(const vec3<double>& along) const;
    // The normal by central differences: the field's own gradient is not asked.
    [[nodiscard]] cast_color color_of_field(const field_hit& hit, const vec3<double>& along) const;

  private:
    // A ray in the space of an object: scale, then rotation, then position, undone one by one.
    struct object_ray {
        vec3<double> from, along;
    };
    [[nodiscard]] object_ray to_object(std::size_t o, const vec3<double>& along) const;
    // The depth at which a ray first crosses a field: steps no longer than the distance, then halving.
    [[nodiscard]] double meet_field(std::size_t o, const field& shape, const vec3<double>& along) const;

    // What is seen of a triangle, before it is lit.
    struct triangle_surface {
        std::size_t number; // in the tree
        const world_triangle& found;
        const std::array<double, 3>& weights; // of its corners at the point that is seen
        const mesh& shape;
        const object& placed;
        const material& look;
        vec3<double> face; // its normal in the world, of length 1, towards the side that is lit
        double side = 1;   // −1 where the back of a two-sided material is lit
        bool front = true;

        [[nodiscard]] const triangle& corners() const { return shape.triangles[found.index]; }
        [[nodiscard]] rgb<double> color_at(std::size_t corner) const;
    };
    [[nodiscard]] const named_material& material_of(const world_triangle& found) const;
    [[nodiscard]] vec3<double> normal_at(const triangle_surface& on, std::size_t corner) const;
    [[nodiscard]] plain_lit lit_at_point(const triangle_surface& on, const range3& image) const;
    [[nodiscard]] plain_lit lit_at_middle(const triangle_surface& on) const;
    [[nodiscard]] plain_lit lit_at_corner(const triangle_surface& on, std::size_t corner) const;
    [[nodiscard]] plain_lit lit_at_corners(const triangle_surface& on) const;
};

} // namespace yurvo::inline v0_1::verify
