// tile_shading: every visible pixel of a tile lit once, gathered by object into blocks; at rates vertex and
// face the vertices or triangles first, and their lit colours spread over the pixels.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <vector>

#include "field_rays.hpp"
#include "light_reach.hpp"
#include "tile_visibility.hpp"
#include "yurvo/geometry/normals.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/frame.hpp"
#include "yurvo/pipeline/interpolation.hpp"

namespace yurvo::pipeline {

// What a thread uses again from tile to tile.
template <class Scalar> struct shading_scratch {
    block<Scalar> points;
    std::vector<wide::pixel_run> waiting;           // the runs in the block
    std::vector<std::vector<wide::pixel_run>> runs; // of each object
    std::vector<std::size_t> objects;               // those that have any
    std::array<wide::attribute_planes, 64> planes;  // by the last digits of the triangle
    std::vector<const ready_light<Scalar>*> lights;
    lane<Scalar> zeros{};
};

template <class Scalar> class scene_shading {
    // What of one object every pixel needs.
    struct prepared_object {
        const staged_object& staged;
        const mesh& shape;
        const named_material& material;
        matrix4 from_eye_of_light;
        bool moved_for_light = false; // lit points are not where the picture's are
        matrix4 to_light_place;       // from a point relative to the eye to the lit one, relative to it too
        surface<Scalar> factors;

        prepared_object(const stage& from, const staged_object& object);
        [[nodiscard]] vec3<double> lit_position(std::uint32_t vertex) const {
            return transform_point(from_eye_of_light, shape.positions[vertex]);
        }
        [[nodiscard]] rgb<double> color(std::uint32_t vertex) const {
            return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[vertex];
        }
        [[nodiscard]] vec3<double> face_normal(const triangle& corners) const;
    };

    // Lit colours of one object's vertices or triangles, seen from the front and (two-sided) from the back.
    struct lit_colors {
        std::vector<outgoing<Scalar>> front, back;
    };

    using corner_values = std::array<std::array<double, 3>, wide::most_attributes>; // attribute by corner

    const stage& from_;
    const shader<Scalar>& with_;
    const projected_scene& vertices_;
    const vec3<Scalar>* normals_;
    const wide::kernels& kernels_;
    finish_settings<Scalar> settings_;
    vec3<Scalar> eye_;
    std::vector<std::vector<ready_light<Scalar>>> lights_;
    std::vector<light_reach> reach_;
    std::vector<prepared_object> objects_;
    std::vector<lit_colors> lit_;
    std::array<vec3<double>, 3> rays_;
    bool skip_unreachable_;
    std::atomic<std::uint64_t> evaluations_ = 0;
    std::atomic<std::uint64_t> pixels_ = 0;

    void run(block<Scalar>& points, const prepared_object& object,
             std::vector<const ready_light<Scalar>*>& lights);
    template <class Put>
    std::vector<outgoing<Scalar>> light_points(const prepared_object& object, std::size_t count, Put&& put);
    lit_colors light_vertices(std::size_t o);
    lit_colors light_faces(std::size_t o);

    [[nodiscard]] triangle_weights weights(std::size_t o, const triangle& corners) const;
    std::size_t corner_attributes(std::size_t o, std::uint32_t t, bool front, corner_values& into) const;
    void set_planes(wide::attribute_planes& planes, std::size_t o, std::int32_t id) const;
    const wide::attribute_planes& planes_of(shading_scratch<Scalar>& mine, std::size_t o,
                                            std::int32_t id) const;
    void put_run(shading_scratch<Scalar>& mine, std::size_t o, const wide::pixel_run& run) const;
    void put_run_one_by_one(block<Scalar>& points, std::size_t o, const wide::pixel_run& run,
                            bool front) const;
    void tint_run(shading_scratch<Scalar>& mine, std::size_t o, const wide::pixel_run& run) const;
    void put_field_run(block<Scalar>& points, std::size_t o, const wide::pixel_run& run, const tile& at,
                       const tile_scratch& seen) const;
    void write(shading_scratch<Scalar>& mine, const prepared_object& object, picture& into) const;
    void shade_runs(shading_scratch<Scalar>& mine, std::size_t o, const tile& at, const tile_scratch& seen,
                    picture& into);
    void gather(const tile& at, const tile_scratch& seen, shading_scratch<Scalar>& mine, picture& into);

  public:
    scene_shading(const stage& from, const shader<Scalar>& with, const projected_scene& vertices,
                  vertex_normals<Scalar>& normals, const wide::kernels& kernels, bool skip_unreachable);

    // At rates vertex and face. `watched(work)` calls work().
    template <class Watched> void light_before_pixels(Watched&& watched) {
        if (from_.rate == rate::fragment) {
            return;
        }
        watched([&] {
            for (std::size_t o = 0; o < objects_.size(); ++o) {
                lit_[o] = from_.rate == rate::vertex ? light_vertices(o) : light_faces(o);
            }
        });
    }

    void shade(const tile& at, const tile_scratch& seen, shading_scratch<Scalar>& mine, picture& into);

    [[nodiscard]] work_done done() const { return {evaluations_, pixels_}; }
};

} // namespace yurvo::pipeline
