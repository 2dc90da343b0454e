// tile_shading's part about implicit surfaces.
#include "pipeline/tile_shading.hpp"
#include "pipeline/uninitialized.hpp"

namespace yurvo::inline v0_1::pipeline {

// The points of the block, whose runs are waiting. Rays are met again from the depths that were kept, so that
// the points have all their digits.
template <class Scalar>
void scene_shading<Scalar>::put_field_points(shading_scratch<Scalar>& mine, std::size_t o,
                                             const wide::tile_view& seen) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const field_rays rays(object.staged, from_.seen_from);
    const field_lanes::surface surface(rays.of);
    uninitialized<field_lanes::bundle> bundle;
    uninitialized<field_lanes::values> there;
    bundle.from = rays.from;
    bundle.count = 0;
    std::size_t first = 0; // of the bundle's points
    const auto put_all = [&] {
        kernels_.fields.polish(surface, bundle, there);
        for (std::size_t l = 0; l < bundle.count; ++l) {
            const vec3<double> along{bundle.along.x[l], bundle.along.y[l], bundle.along.z[l]};
            const vec3<double> gradient{there.gradient.x[l], there.gradient.y[l], there.gradient.z[l]};
            const vec3<double> met = rays.from + along * bundle.met[l];
            vec3<double> normal = normalize(transform_direction(object.staged.normal_to_world, gradient));
            const bool back = dot(gradient, along) > 0;
            if (object.material.look.two_sided && back) {
                normal = -normal;
            }
            const std::size_t i = first + l;
            points.front[i] = static_cast<Scalar>(back ? 0 : 1);
            points.position.put(i, vec3<Scalar>(transform_point(object.from_eye_of_light, met)));
            points.normal.put(i, vec3<Scalar>(normal));
        }
        first += bundle.count;
        bundle.count = 0;
    };
    for (const wide::pixel_run& run : mine.waiting) {
        for (int x = run.x; x < run.x + run.count; ++x) {
            bundle.met[bundle.count] = 1.0 / seen.inverse_depth[seen.place(x, run.y)];
            rays.put(x, run.y, bundle);
            if (bundle.count == field_lanes::most) {
                put_all();
            }
        }
    }
    put_all();
}

template void scene_shading<float>::put_field_points(shading_scratch<float>&, std::size_t,
                                                     const wide::tile_view&) const;
template void scene_shading<double>::put_field_points(shading_scratch<double>&, std::size_t,
                                                      const wide::tile_view&) const;

} // namespace yurvo::inline v0_1::pipeline
