// tile_shading's part that is done once for a frame.
#include "pipeline/tile_shading.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

matrix4 from_eye(matrix4 matrix, const vec3<double>& eye) {
    matrix(0, 3) -= eye.x;
    matrix(1, 3) -= eye.y;
    matrix(2, 3) -= eye.z;
    return matrix;
}

} // namespace

template <class Scalar>
scene_shading<Scalar>::prepared_object::prepared_object(const stage& from, const staged_object& object)
    : staged(object),
      shape(*object.shape),
      material(from.materials[object.material]),
      from_eye_of_light(from_eye(object.to_world_of_light, from.seen_from.eye)),
      moved_for_light(object.to_world_of_light != object.to_world) {
    if (moved_for_light) {
        to_light_place = from_eye_of_light * inverse(from_eye(object.to_world, from.seen_from.eye));
    }
    const yurvo::material& look = material.look;
    normal_to_world = rows_of(object.normal_to_world);
    factors.base = rgb<Scalar>(look.base);
    factors.ambient = rgb<Scalar>(look.ambient);
    factors.diffuse = rgb<Scalar>(look.diffuse);
    factors.specular = rgb<Scalar>(look.specular);
    factors.shininess = static_cast<Scalar>(look.shininess);
    factors.emission = rgb<Scalar>(look.emission);
}

// The geometric normal; a mirror's turn is fixed.
template <class Scalar>
vec3<double> scene_shading<Scalar>::prepared_object::face_normal(const triangle& corners) const {
    const auto at = [&](std::size_t i) {
        return transform_point(staged.to_world, shape.positions[corners[i]]);
    };
    const vec3<double> normal = triangle_normal(at(0), at(1), at(2));
    return staged.mirrored ? -normal : normal;
}

template <class Scalar>
scene_shading<Scalar>::scene_shading(const stage& from, const shader<Scalar>& with,
                                     const projected_scene& vertices, lit_before_pixels<Scalar>& lit,
                                     const wide::kernels& kernels, bool skip_unreachable)
    : from_(from),
      with_(with),
      vertices_(vertices),
      lit_(lit),
      kernels_(kernels),
      skip_unreachable_(skip_unreachable) {
    settings_.ambient_light = rgb<Scalar>(from.ambient_light);
    settings_.rule = from.rule;
    settings_.terms = from.terms;
    const vec3<double>& eye = from.seen_from.eye;
    eye_ = vec3<Scalar>(from.lit_eye - eye);
    for (const std::vector<light>& set : from.lights) {
        auto& ready = lights_.emplace_back();
        for (const light& light : set) {
            ready.push_back(with.prepare(light, eye));
        }
        reach_.emplace_back(set, eye);
        auto& ambient = with_ambient_.emplace_back();
        for (std::size_t i = 0; i < set.size(); ++i) {
            if (has_ambient(set[i])) {
                ambient.push_back(&ready[i]);
            }
        }
    }
    for (const staged_object& object : from.objects) {
        objects_.emplace_back(from, object);
    }
    if (from.rate != rate::fragment) {
        make_room_before_pixels();
    }
    rays_[0] = from.seen_from.ray(0, 0);
    rays_[1] = from.seen_from.ray(1, 0) - rays_[0];
    rays_[2] = from.seen_from.ray(0, 1) - rays_[0];
}

template <class Scalar>
triangle_weights scene_shading<Scalar>::weights(std::size_t o, const triangle& corners) const {
    const wide::object_view& view = vertices_.objects[o];
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(view.to_pixels, view.positions[corners[k]]);
    };
    return {corner(0), corner(1), corner(2)};
}

template triangle_weights scene_shading<float>::weights(std::size_t, const triangle&) const;
template triangle_weights scene_shading<double>::weights(std::size_t, const triangle&) const;
template scene_shading<float>::prepared_object::prepared_object(const stage&, const staged_object&);
template vec3<double> scene_shading<float>::prepared_object::face_normal(const triangle&) const;
template scene_shading<float>::scene_shading(const stage&, const shader<float>&, const projected_scene&,
                                             lit_before_pixels<float>&, const wide::kernels&, bool);
template scene_shading<double>::prepared_object::prepared_object(const stage&, const staged_object&);
template vec3<double> scene_shading<double>::prepared_object::face_normal(const triangle&) const;
template scene_shading<double>::scene_shading(const stage&, const shader<double>&, const projected_scene&,
                                              lit_before_pixels<double>&, const wide::kernels&, bool);

} // namespace yurvo::inline v0_1::pipeline
