#include "pipeline/light_reach.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace yurvo::inline v0_1::pipeline {

namespace {

// The kernel's distance is rounded in a difference, three squares, their sum and a root: less than 8 units of
// 2^−24 in all. This is a hundred times as much.
constexpr double room_for_rounding = 1 + 0x1p-14;
// Radians: a direction in float is off by less than 2^−22.
constexpr double room_for_directions = 1e-4;

} // namespace

light_reach::light_reach(const std::vector<light>& lights, const vec3<double>& origin) {
    for (std::size_t i = 0; i < lights.size(); ++i) {
        const light& lamp = lights[i];
        const vec3<double> position = lamp.position - origin;
        sources_.push_back({lamp.kind == light_kind::directional ? -normalize(lamp.shines) : position,
                            lamp.kind == light_kind::directional});
        const bool placed = lamp.kind != light_kind::directional;
        const bool ranged = placed && descriptor_of(lamp.falloff).ends;
        const double reach = lamp.range * room_for_rounding;
        x_.push_back(placed ? static_cast<float>(position.x) : 0);
        y_.push_back(placed ? static_cast<float>(position.y) : 0);
        z_.push_back(placed ? static_cast<float>(position.z) : 0);
        squared_.push_back(ranged ? static_cast<float>(reach * reach)
                                  : std::numeric_limits<float>::infinity());
        limited_ = limited_ || ranged;
        if (lamp.kind == light_kind::spot && lamp.outer < pi / 2) {
            cones_.push_back(
                {i, position, normalize(lamp.shines), std::cos(lamp.outer), std::sin(lamp.outer)});
            limited_ = true;
        }
    }
}

void light_reach::find(const wide::box& points, std::vector<unsigned char>& reached) const {
    const std::size_t count = x_.size();
    reached.resize(count);
    const auto apart = [](float at, float low, float high) {
        return std::max(std::max(low - at, at - high), 0.0F);
    };
    for (std::size_t i = 0; i < count; ++i) {
        const float dx = apart(x_[i], points.low[0], points.high[0]);
        const float dy = apart(y_[i], points.low[1], points.high[1]);
        const float dz = apart(z_[i], points.low[2], points.high[2]);
        reached[i] = static_cast<unsigned char>(!(dx * dx + dy * dy + dz * dz > squared_[i]));
    }
    if (cones_.empty()) {
        return;
    }
    const vec3<double> low{points.low[0], points.low[1], points.low[2]};
    const vec3<double> high{points.high[0], points.high[1], points.high[2]};
    const vec3<double> middle = (low + high) * 0.5;
    const double radius = length(high - low) * 0.5;
    for (const cone& reach : cones_) {
        const vec3<double> to = middle - reach.tip;
        const double along = dot(to, reach.axis);
        const double squared = dot(to, to);
        const double aside = std::sqrt(std::max(0.0, squared - along * along));
        // How far the middle lies outside the cone's surface, which is less than how far it is from the cone.
        const double outside = aside * reach.cosine - along * reach.sine;
        if (outside > radius * (1 + room_for_directions) + room_for_directions * std::sqrt(squared)) {
            reached[reach.light] = 0;
        }
    }
}

void light_reach::leave_out_behind(const wide::box& points, const wide::box& normals,
                                   std::vector<unsigned char>& reached) const {
    for (std::size_t i = 0; i < sources_.size(); ++i) {
        if (reached[i] == 0) {
            continue;
        }
        const source& reach = sources_[i];
        const std::array<double, 3> at{reach.place.x, reach.place.y, reach.place.z};
        // The greatest n·(the way to the light) over both boxes, component by component.
        double greatest = 0;
        double normal_length = 0;
        double light_length = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const double low = reach.directional ? at[k] : at[k] - static_cast<double>(points.high[k]);
            const double high = reach.directional ? at[k] : at[k] - static_cast<double>(points.low[k]);
            const double n_low = normals.low[k];
            const double n_high = normals.high[k];
            greatest += std::max(std::max(n_low * low, n_low * high), std::max(n_high * low, n_high * high));
            normal_length += std::max(std::abs(n_low), std::abs(n_high));
            light_length += std::max(std::abs(low), std::abs(high));
        }
        // No point is nearer than its normal and the way to the light have in common.
        const bool as_far = reach.directional ||
                            (-greatest >= nearest_behind * normal_length && light_length <= farthest_behind);
        reached[i] = static_cast<unsigned char>(
            !(as_far && greatest < -room_for_directions * normal_length * light_length));
    }
}

} // namespace yurvo::inline v0_1::pipeline
