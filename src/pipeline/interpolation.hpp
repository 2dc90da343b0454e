// interpolation: perspective-correct weights of a triangle's corners at any pixel centre.
//
// The weights come from the whole triangle in homogeneous coordinates (Olano and Greer 1997), before snapping
// and clipping: neither changes an attribute.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "pipeline/triangle_coverage.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

class triangle_weights {
    // Row i dotted with (x, y, 1) is corner i's weight times the sum of all three.
    std::array<vec3<double>, 3> rows_;
    double determinant_ = 0;

    static double at(const vec3<double>& row, double x, double y) { return row.x * x + row.y * y + row.z; }

  public:
    triangle_weights() = default;
    triangle_weights(const homogeneous& a, const homogeneous& b, const homogeneous& c)
        : rows_{cross(b, c), cross(c, a), cross(a, b)}, determinant_(dot(a, rows_[0])) {}

    // Negative when the corners run counter-clockwise on screen (y is down), which is the front.
    [[nodiscard]] double determinant() const { return determinant_; }

    // The weights of the three corners at a place in pixels; their sum is 1.
    [[nodiscard]] std::array<double, 3> at(double x, double y) const {
        std::array<double, 3> weights{at(rows_[0], x, y), at(rows_[1], x, y), at(rows_[2], x, y)};
        const double sum = weights[0] + weights[1] + weights[2];
        for (double& weight : weights) {
            weight /= sum;
        }
        // Snapping can cover a centre up to 1/256 pixel outside. Beyond the border the plane of the triangle
        // goes on, which is what its neighbour continues; but a sliver thinner than the snap would be left
        // far behind, so there the weights are brought back into it.
        constexpr double most = 0.5;
        const bool behind_the_eye = (sum > 0) != (determinant_ > 0);
        const bool astray =
            behind_the_eye || !(weights[0] >= -most && weights[1] >= -most && weights[2] >= -most);
        if (astray) {
            bring_back(weights, x, y);
        }
        return weights;
    }

  private:
    void bring_back(std::array<double, 3>& weights, double x, double y) const {
        double sum = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            weights[i] = std::max(0.0, at(rows_[i], x, y) * (determinant_ < 0 ? -1.0 : 1.0));
            sum += weights[i];
        }
        for (double& weight : weights) {
            weight = sum > 0 ? weight / sum : 1.0 / 3;
        }
    }
};

// 1 / depth over the picture: affine in x and y, greater is nearer.
struct depth_plane {
    double across = 0, down = 0, origin = 0;
    float least = 0, most = 0; // of the triangle itself: a centre just outside is not farther than its border

    // False where the triangle is seen edge-on, and covers nothing.
    bool set(const homogeneous& a, const homogeneous& b, const homogeneous& c, double near) {
        const vec3<double> normals = cross(b, c) + cross(c, a) + cross(a, b);
        const double determinant = dot(a, cross(b, c));
        across = normals.x / determinant;
        down = normals.y / determinant;
        origin = normals.z / determinant;
        const double nearest = std::min({a.z, b.z, c.z});
        const double farthest = std::max({a.z, b.z, c.z});
        least = static_cast<float>(1 / farthest);
        most = nearest >= near ? static_cast<float>(1 / nearest) : std::numeric_limits<float>::infinity();
        return std::isfinite(across) && std::isfinite(down) && std::isfinite(origin);
    }

    [[nodiscard]] float at(double x, double y) const {
        return std::clamp(static_cast<float>(across * x + (down * y + origin)), least, most);
    }
};

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
