// Transforms: from the object to the world, of points and of normals; from the world to the view and the
// picture.
#pragma once

#include <array>
#include <cstddef>

#include "yurvo/geometry/placement.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A square matrix of Size rows, stored column by column.
template <std::size_t Size> struct matrix {
    std::array<double, Size * Size> values{}; ///< row by row

    /// The number at a place.
    [[nodiscard]] double operator()(std::size_t row, std::size_t column) const {
        return values[Size * column + row];
    }
    /// The number at a place, to be changed.
    [[nodiscard]] double& operator()(std::size_t row, std::size_t column) {
        return values[Size * column + row];
    }

    /// Ones on the diagonal, zeros elsewhere.
    [[nodiscard]] static matrix identity() {
        matrix result;
        for (std::size_t i = 0; i < Size; ++i) {
            result(i, i) = 1;
        }
        return result;
    }

    friend bool operator==(const matrix&, const matrix&) = default;
};
/// A linear map.
using matrix3 = matrix<3>;
/// An affine or projective map of homogeneous coordinates.
using matrix4 = matrix<4>;

/// The map that does b, then a.
matrix3 operator*(const matrix3& a, const matrix3& b);
/// The map that does b, then a.
matrix4 operator*(const matrix4& a, const matrix4& b);
/// Rows and columns exchanged.
matrix3 transposed(const matrix3& linear);
/// Of a matrix that is not singular.
matrix4 inverse(const matrix4& affine);
/// By how much it changes volumes; below 0 where it mirrors.
double determinant(const matrix3& linear);

/// The upper left 3×3.
matrix3 linear_part(const matrix4& affine);
/// The same transform without a translation.
matrix4 as_matrix4(const matrix3& linear);
/// A turn about +Y by an angle in radians.
matrix3 turn_about_y(double angle);

/// Scaled, rotated about X, then Y, then Z, then moved.
matrix4 object_to_world(const placement& placed);

/// The inverse transpose of the upper left 3×3, which keeps normals square to their surface. The matrix must
/// not be singular.
matrix3 normal_matrix(const matrix4& object_to_world);

/// True where the matrix turns an object inside out, as a mirror does.
bool mirrors(const matrix4& object_to_world);

/// With w = 1, divided by the resulting w.
vec3<double> transform_point(const matrix4& matrix, const vec3<double>& point);
/// Without any translation.
vec3<double> transform_direction(const matrix3& matrix, const vec3<double>& direction);

/// The view's axes: right-handed, looking along −backward. eye ≠ target, up not along the view.
struct view_axes {
    vec3<double> right, up, backward; ///< unit, square to each other
};
/// The axes of an eye that looks at a target; up must not lie along the view.
view_axes look_at(const vec3<double>& eye, const vec3<double>& target, const vec3<double>& up);

/// The camera as the pipeline and others need it: axes, and what a unit of height at distance 1 measures.
struct camera {
    vec3<double> eye;             ///< in world space, metres
    view_axes axes;               ///< the directions
    double tangent = 1;           ///< of half the vertical field of view
    double near = 0.1, far = 100; ///< metres along the view, 0 < near < far
    int width = 1, height = 1;    ///< pixels

    /// A point relative to the eye, in pixels times depth: (x·w, y·w, w), w the distance along the view.
    /// Dividing by w gives pixels from the picture's top left corner.
    [[nodiscard]] vec3<double> to_pixels(const vec3<double>& from_eye) const;

    /// The direction from the eye through a place in the picture, in pixels; its component along the view
    /// is 1.
    [[nodiscard]] vec3<double> ray(double x, double y) const;

    /// From view space (right, up, backward) to world space.
    [[nodiscard]] vec3<double> direction_to_world(const vec3<double>& in_view) const;
    /// The point in world space, metres.
    [[nodiscard]] vec3<double> point_to_world(const vec3<double>& in_view) const;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
