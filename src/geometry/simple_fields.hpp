// simple_fields: the distance to each simple field and its gradient, written once for one place and for many
// at a time: without branches, so that a loop over places becomes batches.
#pragma once

#include <cmath>

#include "yurvo/geometry/field.hpp"
#include "yurvo/numeric/functions.hpp"

namespace yurvo::inline v0_1 {

// Places are measured from the field's middle.
struct simple_sphere {
    static double distance(const field_part& part, const vec3<double>& p) { return length(p) - part.radius; }
    static vec3<double> gradient(const field_part& /*part*/, const vec3<double>& p) { return normalize(p); }
};

class simple_rounded_box {
    // How far each coordinate is beyond the box that the rounding is put around.
    static vec3<double> beyond(const field_part& part, const vec3<double>& p) {
        const double r = part.rounding;
        return {std::abs(p.x) - part.size.x * 0.5 + r, std::abs(p.y) - part.size.y * 0.5 + r,
                std::abs(p.z) - part.size.z * 0.5 + r};
    }
    static vec3<double> outside(const vec3<double>& q) {
        return {max(q.x, 0.0), max(q.y, 0.0), max(q.z, 0.0)};
    }

  public:
    static double distance(const field_part& part, const vec3<double>& p) {
        const vec3<double> q = beyond(part, p);
        const double most = max(max(q.x, q.y), q.z);
        const double from_box = length(outside(q));
        return (most <= 0 ? most : from_box) - part.rounding;
    }
    static vec3<double> gradient(const field_part& part, const vec3<double>& p) {
        const vec3<double> q = beyond(part, p);
        const double most = max(max(q.x, q.y), q.z);
        // Inside it goes to the nearest side.
        const double to_x = q.x == most ? 1 : 0;
        const double to_y = q.y == most ? 1 - to_x : 0;
        const vec3<double> away = outside(q);
        const vec3<double> unit = normalize(vec3<double>{most > 0 ? away.x : to_x, most > 0 ? away.y : to_y,
                                                         most > 0 ? away.z : 1 - to_x - to_y});
        return {std::copysign(unit.x, p.x), std::copysign(unit.y, p.y), std::copysign(unit.z, p.z)};
    }
};

class simple_torus {
    // Metres: no square of them overflows, and std::hypot takes ten times as long.
    static double long_side(double x, double y) { return std::sqrt(x * x + y * y); }

  public:
    static double distance(const field_part& part, const vec3<double>& p) {
        return long_side(long_side(p.x, p.z) - part.radius, p.y) - part.tube;
    }
    static vec3<double> gradient(const field_part& part, const vec3<double>& p) {
        const double around = long_side(p.x, p.z);
        const double out = around - part.radius;
        const double d = long_side(out, p.y);
        // On the axis every way out is as good; on the tube's centre line there is none.
        const double x = around > 0 ? p.x / around : 1;
        const double z = around > 0 ? p.z / around : 0;
        return {d > 0 ? x * out / d : x, d > 0 ? p.y / d : 0, d > 0 ? z * out / d : z};
    }
};

class simple_capsule {
    static vec3<double> from_line(const field_part& part, const vec3<double>& p) {
        const double half = part.height / 2;
        return {p.x, p.y - max(min(p.y, half), -half), p.z};
    }

  public:
    static double distance(const field_part& part, const vec3<double>& p) {
        return length(from_line(part, p)) - part.radius;
    }
    static vec3<double> gradient(const field_part& part, const vec3<double>& p) {
        return normalize(from_line(part, p));
    }
};

// Calls use(field) with the simple field of a kind.
template <class Use> auto with_simple_field(field_kind kind, Use&& use) {
    switch (kind) {
    case field_kind::rounded_box:
        return use(simple_rounded_box());
    case field_kind::torus:
        return use(simple_torus());
    case field_kind::capsule:
        return use(simple_capsule());
    case field_kind::sphere:
    case field_kind::smooth_union:
        break;
    }
    return use(simple_sphere());
}

// The smaller of two distances, rounded where they are closer than `blend`: min(a, b) − blend · h² / 4 with
// h = max(1 − |a − b| / blend, 0). Each distance's share in the change is its weight in the gradient.
inline double closeness(double a, double b, double blend) { return max(1 - std::abs(a - b) / blend, 0.0); }
inline double blended(double a, double b, double blend) {
    const double h = closeness(a, b, blend);
    return min(a, b) - blend * h * h / 4;
}
inline field_value blended(const field_value& a, const field_value& b, double blend) {
    const double h = closeness(a.distance, b.distance, blend);
    const double share_of_a = a.distance < b.distance ? 1 - h / 2 : h / 2;
    return {blended(a.distance, b.distance, blend), a.gradient * share_of_a + b.gradient * (1 - share_of_a)};
}

} // namespace yurvo::inline v0_1
