// reference_building: what the makers of reference scenes share, and the scenes made in files of their own.
#pragma once

#include <cmath>
#include <string>

#include "verify/range.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::verify {

reference_scene moon_crates();
reference_scene lantern_row();
reference_scene behind_the_wall();
reference_scene searchlight();
reference_scene penumbras();
reference_scene plates();
reference_scene lamp_parts();
reference_scene buoys(const std::string& name, model_kind model);
reference_scene bollard();
reference_scene line_up();
reference_scene float_field();
reference_scene painted_hull();
reference_scene many_lanterns();
reference_scene boatyard();
reference_scene moorings();
reference_scene paint_ramp();
reference_scene slipway();
reference_scene foggy_quay();
reference_scene paint_by_formula();

inline named_material material_of(const std::string& name, const rgb<double>& base) {
    named_material result;
    result.name = name;
    result.look.base = base;
    return result;
}

// Lambert's light and nothing else.
inline scene dark_harbour(const std::string& title) {
    scene result;
    result.title = title;
    result.view.background = {0.004, 0.006, 0.012};
    result.shading.model = model_kind::lambert;
    result.ambient_strength = 0;
    return result;
}

// Gives every expectation that has none the words for how its tolerance is derived.
inline void derive(reference_scene& reference, const std::string& because) {
    for (expectation& expected : reference.expectations) {
        if (expected.because.empty()) {
            expected.because = because + "\n";
        }
    }
}

inline std::string in_metres(double value) { return short_number(value, 3); }

// Which pixel shows a place, and where the ray through its centre meets a plane: geometry spelled out, so
// that the pipeline's camera is not asked.
class pixel_finder {
    yurvo::view view_;
    vec3<double> forward_, right_, up_;
    double pixels_; // in a unit of height at distance 1

    static double size(const vec3<double>& v) { return std::hypot(v.x, v.y, v.z); }

  public:
    struct meeting;

  private:
    [[nodiscard]] meeting pixel_of(const vec3<double>& at) const;
    [[nodiscard]] vec3<double> ray_of(const meeting& met) const;

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
        meeting met = pixel_of(at);
        const vec3<double> ray = ray_of(met);
        met.point = view_.eye + ray * (dot(at - view_.eye, normal) / dot(ray, normal));
        return met;
    }

    // A place on the near side of a sphere; the ray must meet it.
    [[nodiscard]] meeting on_sphere(const vec3<double>& at, const vec3<double>& centre, double radius) const {
        meeting met = pixel_of(at);
        const vec3<double> ray = ray_of(met);
        const vec3<double> to = centre - view_.eye;
        const double a = dot(ray, ray);
        const double b = dot(ray, to);
        const double c = dot(to, to) - radius * radius;
        met.point = view_.eye + ray * ((b - std::sqrt(b * b - a * c)) / a);
        return met;
    }
};

inline pixel_finder::meeting pixel_finder::pixel_of(const vec3<double>& at) const {
    const vec3<double> to = at - view_.eye;
    const double depth = dot(to, forward_);
    return {static_cast<int>(std::floor(view_.width / 2.0 + dot(to, right_) / depth * pixels_)),
            static_cast<int>(std::floor(view_.height / 2.0 - dot(to, up_) / depth * pixels_)),
            {}};
}

inline vec3<double> pixel_finder::ray_of(const meeting& met) const {
    return forward_ + right_ * ((met.x + 0.5 - view_.width / 2.0) / pixels_) -
           up_ * ((met.y + 0.5 - view_.height / 2.0) / pixels_);
}

} // namespace yurvo::inline v0_1::verify
