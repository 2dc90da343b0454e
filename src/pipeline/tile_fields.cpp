// tile_shading's part about implicit surfaces.
#include "pipeline/tile_shading.hpp"

namespace yurvo::inline v0_1::pipeline {

// The ray is met again from the depth that was kept, so that the point has all its digits.
template <class Scalar>
void scene_shading<Scalar>::put_field_run(block<Scalar>& points, std::size_t o, const wide::seen_run& run,
                                          const wide::tile_view& seen) const {
    const prepared_object& object = objects_[o];
    const field_rays rays(object.staged, from_.seen_from);
    for (int l = 0; l < run.count; ++l) {
        const int x = run.x + l;
        const vec3<double> along = rays.along(x + 0.5, run.y + 0.5);
        const double inverse_depth = seen.inverse_depth[seen.place(x, run.y)];
        const double depth = polish(rays.of, rays.from, along, 1 / inverse_depth);
        const vec3<double> met = rays.from + along * depth;
        const vec3<double> gradient = evaluate(rays.of, met).gradient;
        vec3<double> normal = normalize(transform_direction(object.staged.normal_to_world, gradient));
        if (object.material.look.two_sided && dot(gradient, along) > 0) {
            normal = -normal;
        }
        const std::size_t i = points.count + static_cast<std::size_t>(l);
        points.front[i] = static_cast<Scalar>(dot(gradient, along) > 0 ? 0 : 1);
        points.position.put(i, vec3<Scalar>(transform_point(object.from_eye_of_light, met)));
        points.normal.put(i, vec3<Scalar>(normal));
    }
}

template void scene_shading<float>::put_field_run(block<float>&, std::size_t, const wide::seen_run&,
                                                  const wide::tile_view&) const;
template void scene_shading<double>::put_field_run(block<double>&, std::size_t, const wide::seen_run&,
                                                   const wide::tile_view&) const;

} // namespace yurvo::inline v0_1::pipeline
