// field: an implicit surface, given by the signed distance to it; negative inside.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The simple fields, and the smooth union of several.
enum class field_kind : std::uint8_t { sphere, rounded_box, torus, capsule, smooth_union };

/// One simple field, centred on its position. Sizes in metres, > 0.
struct field_part {
    field_kind kind = field_kind::sphere; ///< not smooth_union
    vec3<double> position;                ///< of its middle, metres
    double radius = 1;                    ///< sphere; capsule; torus: to the tube's centre
    vec3<double> size{1, 1, 1};           ///< rounded box: outside to outside
    double rounding = 0.1;                ///< rounded box: of its edges; at most half the smallest side
    double tube = 0.25;                   ///< torus
    double height = 1;                    ///< capsule: along Y, from centre to centre of its ends

    friend bool operator==(const field_part&, const field_part&) = default;
};

/// A simple field, or several in one.
struct field {
    field_kind kind = field_kind::sphere; ///< smooth_union, or the kind of the only part
    std::vector<field_part> parts;        ///< at least one
    double blend = 0.25;                  ///< metres within which parts run into one another, > 0

    friend bool operator==(const field&, const field&) = default;
};

/// The distance at a point and its gradient, which on the surface is the unit normal.
struct field_value {
    double distance = 0;   ///< in metres, below 0 inside
    vec3<double> gradient; ///< towards larger distances; of length 1 where the distance is exact
};
/// The distance to the surface from a place, and which way it grows; in the field's own space, metres.
field_value evaluate(const field& the_field, const vec3<double>& at);

/// A box around the surface.
struct bounds {
    vec3<double> low, high; ///< the corners, metres
};
/// A box that the surface lies in.
bounds bounds_of(const field& the_field);

/// Where from + t · along first meets the surface, t from `nearest` to `farthest`; along may have any length
/// but zero. The ray is marched by the distance (Hart 1996), and the meeting polished by Newton's method.
std::optional<double> march(const field& the_field, const vec3<double>& from, const vec3<double>& along,
                            double nearest, double farthest);

/// How far, from `nearest` on, no ray meets the surface whose direction is at most `spread` from `along`:
/// some t, not the greatest. Beyond `farthest` where none of them meets it at all. Rests on no distance
/// growing faster than the way.
double march_together(const field& the_field, const vec3<double>& from, const vec3<double>& along,
                      double spread, double nearest, double farthest);

/// A place near the surface moved onto it, along the ray.
double polish(const field& the_field, const vec3<double>& from, const vec3<double>& along, double t);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
