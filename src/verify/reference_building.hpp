// reference_building: what the makers of reference scenes share, and the scenes made in files of their own.
#pragma once

#include <cmath>
#include <string>

#include "range.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::verify {

inline constexpr double u = unit_roundoff;

reference_scene moon_crates();
reference_scene lantern_row();
reference_scene behind_the_wall();
reference_scene searchlight();

inline std::string in_metres(double value) { return short_number(value, 3); }

// Which pixel shows a place, and where the ray through its centre meets a plane: geometry spelled out, so
// that the pipeline's camera is not asked.
class pixel_finder {
    yurvo::view view_;
    vec3<double> forward_, right_, up_;
    double pixels_; // in a unit of height at distance 1

    static double size(const vec3<double>& v) { return std::hypot(v.x, v.y, v.z); }

  public:
    struct meeting {
        int x = 0, y = 0;   // the pixel whose centre is nearest to the place asked for
        vec3<double> point; // where the ray through that centre meets the plane
    };

    explicit pixel_finder(const yurvo::view& view)
        : view_(view), pixels_(view.height / (2 * std::tan(view.fov / 2))) {
        const vec3<double> ahead = view.target - view.eye;
        forward_ = ahead / size(ahead);
        const vec3<double> side = cross(forward_, view.up);
        right_ = side / size(side);
        up_ = cross(right_, forward_);
    }

    // A place on a plane through it with that normal.
    [[nodiscard]] meeting on_plane(const vec3<double>& at, const vec3<double>& normal) const {
        const vec3<double> to = at - view_.eye;
        const double depth = dot(to, forward_);
        meeting met{static_cast<int>(std::floor(view_.width / 2.0 + dot(to, right_) / depth * pixels_)),
                    static_cast<int>(std::floor(view_.height / 2.0 - dot(to, up_) / depth * pixels_)),
                    {}};
        const vec3<double> ray = forward_ + right_ * ((met.x + 0.5 - view_.width / 2.0) / pixels_) -
                                 up_ * ((met.y + 0.5 - view_.height / 2.0) / pixels_);
        met.point = view_.eye + ray * (dot(to, normal) / dot(ray, normal));
        return met;
    }
};

} // namespace yurvo::verify
