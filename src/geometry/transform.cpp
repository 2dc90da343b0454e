#include "yurvo/geometry/transform.hpp"
#include "yurvo/numeric/assert.hpp"

#include <Eigen/Geometry>
#include <Eigen/LU>

namespace yurvo::inline v0_1 {

namespace {

Eigen::Vector3d eigen(const vec3<double>& v) { return {v.x, v.y, v.z}; }
vec3<double> plain(const Eigen::Vector3d& v) { return {v.x(), v.y(), v.z()}; }

Eigen::Matrix3d eigen(const matrix3& m) { return Eigen::Map<const Eigen::Matrix3d>(m.values.data()); }
Eigen::Matrix4d eigen(const matrix4& m) { return Eigen::Map<const Eigen::Matrix4d>(m.values.data()); }
matrix3 plain(const Eigen::Matrix3d& m) {
    matrix3 result;
    Eigen::Map<Eigen::Matrix3d>(result.values.data()) = m;
    return result;
}
matrix4 plain(const Eigen::Matrix4d& m) {
    matrix4 result;
    Eigen::Map<Eigen::Matrix4d>(result.values.data()) = m;
    return result;
}

} // namespace

matrix3 operator*(const matrix3& a, const matrix3& b) { return plain(Eigen::Matrix3d(eigen(a) * eigen(b))); }
matrix4 operator*(const matrix4& a, const matrix4& b) { return plain(Eigen::Matrix4d(eigen(a) * eigen(b))); }
matrix3 transposed(const matrix3& linear) { return plain(Eigen::Matrix3d(eigen(linear).transpose())); }
matrix4 inverse(const matrix4& transform) { return plain(Eigen::Matrix4d(eigen(transform).inverse())); }
double determinant(const matrix3& linear) { return eigen(linear).determinant(); }
matrix3 linear_part(const matrix4& transform) {
    return plain(Eigen::Matrix3d(eigen(transform).topLeftCorner<3, 3>()));
}
matrix4 as_matrix4(const matrix3& linear) {
    Eigen::Matrix4d result = Eigen::Matrix4d::Identity();
    result.topLeftCorner<3, 3>() = eigen(linear);
    return plain(result);
}
matrix3 turn_about_y(double angle) {
    return plain(Eigen::Matrix3d(Eigen::AngleAxisd(angle, Eigen::Vector3d::UnitY()).toRotationMatrix()));
}

matrix4 object_to_world(const placement& placed) {
    using Eigen::AngleAxisd;
    using Eigen::Vector3d;
    Eigen::Affine3d transform = Eigen::Affine3d::Identity();
    transform.translate(eigen(placed.position));
    transform.rotate(AngleAxisd(placed.rotation.z, Vector3d::UnitZ()));
    transform.rotate(AngleAxisd(placed.rotation.y, Vector3d::UnitY()));
    transform.rotate(AngleAxisd(placed.rotation.x, Vector3d::UnitX()));
    transform.scale(eigen(placed.scale));
    return plain(Eigen::Matrix4d(transform.matrix()));
}

matrix3 normal_matrix(const matrix4& object_to_world) {
    const Eigen::Matrix3d linear = eigen(object_to_world).topLeftCorner<3, 3>();
    return plain(Eigen::Matrix3d(linear.inverse().transpose()));
}

bool mirrors(const matrix4& object_to_world) { return determinant(linear_part(object_to_world)) < 0; }

vec3<double> transform_point(const matrix4& matrix, const vec3<double>& point) {
    const Eigen::Map<const Eigen::Matrix4d> m(matrix.values.data());
    return plain(Eigen::Vector3d(m.topLeftCorner<3, 3>() * eigen(point) + m.topRightCorner<3, 1>()));
}

vec3<double> transform_direction(const matrix3& matrix, const vec3<double>& direction) {
    return plain(Eigen::Vector3d(Eigen::Map<const Eigen::Matrix3d>(matrix.values.data()) * eigen(direction)));
}

view_axes look_at(const vec3<double>& eye, const vec3<double>& target, const vec3<double>& up) {
    YURVO_ASSERT(length(eye - target) > 0);
    const vec3<double> backward = normalize(eye - target);
    const vec3<double> right = normalize(cross(normalize(up), backward));
    return {right, cross(backward, right), backward};
}

vec3<double> camera::to_pixels(const vec3<double>& from_eye) const {
    const double w = -dot(from_eye, axes.backward);
    const double pixels = 0.5 * height / tangent;
    return {dot(from_eye, axes.right) * pixels + 0.5 * width * w,
            -dot(from_eye, axes.up) * pixels + 0.5 * height * w, w};
}

vec3<double> camera::ray(double x, double y) const {
    const double metres = 2 * tangent / height;
    return axes.right * ((x - 0.5 * width) * metres) - axes.up * ((y - 0.5 * height) * metres) -
           axes.backward;
}

vec3<double> camera::direction_to_world(const vec3<double>& in_view) const {
    return axes.right * in_view.x + axes.up * in_view.y + axes.backward * in_view.z;
}

vec3<double> camera::point_to_world(const vec3<double>& in_view) const {
    return eye + direction_to_world(in_view);
}

} // namespace yurvo::inline v0_1
