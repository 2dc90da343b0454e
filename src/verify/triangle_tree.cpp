#include "verify/triangle_tree.hpp"

#include <algorithm>
#include <cmath>

namespace yurvo::inline v0_1::verify {

namespace {

double component(const vec3<double>& v, int axis) { return axis == 0 ? v.x : axis == 1 ? v.y : v.z; }

vec3<double> lower(const vec3<double>& a, const vec3<double>& b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::min(a.z, b.z)};
}
vec3<double> upper(const vec3<double>& a, const vec3<double>& b) {
    return {std::max(a.x, b.x), std::max(a.y, b.y), std::max(a.z, b.z)};
}

} // namespace

triangle_tree::triangle_tree(std::vector<world_triangle> triangles) : triangles_(std::move(triangles)) {
    order_.resize(triangles_.size());
    for (std::size_t i = 0; i < order_.size(); ++i) {
        order_[i] = static_cast<std::uint32_t>(i);
    }
    if (!triangles_.empty()) {
        nodes_.reserve(2 * triangles_.size());
        build(0, static_cast<std::uint32_t>(triangles_.size()));
    }
}

void triangle_tree::build(std::uint32_t first, std::uint32_t count) {
    constexpr double infinity = std::numeric_limits<double>::infinity();
    const std::size_t here = nodes_.size();
    node result{{infinity, infinity, infinity}, {-infinity, -infinity, -infinity}, first, count, 0, 0};
    for (std::uint32_t i = first; i < first + count; ++i) {
        for (const vec3<double>& corner : triangles_[order_[i]].corners) {
            result.low = lower(result.low, corner);
            result.high = upper(result.high, corner);
        }
    }
    nodes_.push_back(result);
    if (count <= 4) {
        return;
    }
    const vec3<double> extent = result.high - result.low;
    const int axis = extent.x >= extent.y && extent.x >= extent.z ? 0 : extent.y >= extent.z ? 1 : 2;
    const std::uint32_t half = count / 2;
    const auto middle = [&](std::uint32_t i) {
        const auto& corners = triangles_[i].corners;
        return component(corners[0], axis) + component(corners[1], axis) + component(corners[2], axis);
    };
    const auto begin = order_.begin() + first;
    std::nth_element(begin, begin + half, begin + count,
                     [&](std::uint32_t a, std::uint32_t b) { return middle(a) < middle(b); });
    nodes_[here].count = 0;
    nodes_[here].axis = axis;
    build(first, half);
    nodes_[here].right = static_cast<std::uint32_t>(nodes_.size());
    build(first + half, count - half);
}

template <class Leaf>
void triangle_tree::walk(const vec3<double>& from, const vec3<double>& along, double nearest,
                         const double& farthest, Leaf&& leaf) const {
    if (nodes_.empty()) {
        return;
    }
    const std::array<double, 3> directions{along.x, along.y, along.z};
    const std::array<double, 3> inverses{1 / along.x, 1 / along.y, 1 / along.z};
    const std::array<double, 3> starts{from.x, from.y, from.z};
    const auto misses = [&](const node& box) {
        const std::array<double, 3> low{box.low.x, box.low.y, box.low.z};
        const std::array<double, 3> high{box.high.x, box.high.y, box.high.z};
        double enter = nearest;
        double leave = farthest;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            if (directions[axis] == 0) {
                if (starts[axis] < low[axis] || starts[axis] > high[axis]) {
                    return true;
                }
                continue;
            }
            const double to_low = (low[axis] - starts[axis]) * inverses[axis];
            const double to_high = (high[axis] - starts[axis]) * inverses[axis];
            const double a = std::min(to_low, to_high);
            const double b = std::max(to_low, to_high);
            // Room for rounding: a flat box must not lose its triangle.
            enter = std::max(enter, a - 1e-9 * std::abs(a));
            leave = std::min(leave, b + 1e-9 * std::abs(b));
        }
        return enter > leave;
    };
    std::array<std::uint32_t, 128> waiting{};
    std::size_t depth = 1;
    while (depth > 0) {
        const std::uint32_t at = waiting[--depth];
        const node& here = nodes_[at];
        if (misses(here)) {
            continue;
        }
        if (here.count > 0) {
            for (std::uint32_t i = here.first; i < here.first + here.count; ++i) {
                leaf(order_[i]);
            }
        } else {
            // The nearer one first: what it shows may hide the other.
            const bool higher_first = directions[static_cast<std::size_t>(here.axis)] < 0;
            waiting[depth++] = higher_first ? at + 1 : here.right;
            waiting[depth++] = higher_first ? here.right : at + 1;
        }
    }
}

// Möller and Trumbore 1997, from both sides.
triangle_hit triangle_tree::meet_plane(std::uint32_t triangle, const vec3<double>& from,
                                       const vec3<double>& along) const {
    const auto& corners = triangles_[triangle].corners;
    const vec3<double> edge1 = corners[1] - corners[0];
    const vec3<double> edge2 = corners[2] - corners[0];
    const vec3<double> p = cross(along, edge2);
    const double determinant = dot(edge1, p);
    if (determinant == 0) {
        return {};
    }
    const vec3<double> t = from - corners[0];
    const vec3<double> q = cross(t, edge1);
    return {dot(edge2, q) / determinant, triangle, dot(t, p) / determinant, dot(along, q) / determinant};
}

namespace {

bool within(const triangle_hit& hit, double nearest, double farthest) {
    return hit.second >= 0 && hit.third >= 0 && hit.second + hit.third <= 1 && hit.distance >= nearest &&
           hit.distance <= farthest;
}

} // namespace

triangle_hit triangle_tree::find(const vec3<double>& from, const vec3<double>& along, double nearest,
                                 double farthest) const {
    triangle_hit best;
    double reach = farthest;
    walk(from, along, nearest, reach, [&](std::uint32_t i) {
        const triangle_hit hit = meet_plane(i, from, along);
        if (!within(hit, nearest, farthest)) {
            return;
        }
        // Surfaces that lie in one another are told apart by their order.
        const double tie = std::isfinite(best.distance) ? 1e-9 * best.distance : 0;
        if (hit.distance < best.distance - tie ||
            (hit.distance <= best.distance + tie && i < best.triangle)) {
            best = hit;
            reach = std::min(farthest, hit.distance * (1 + 1e-9));
        }
    });
    return best;
}

std::vector<triangle_hit> triangle_tree::find_all(const vec3<double>& from, const vec3<double>& along,
                                                  double nearest, double farthest) const {
    std::vector<triangle_hit> hits;
    walk(from, along, nearest, farthest, [&](std::uint32_t i) {
        const triangle_hit hit = meet_plane(i, from, along);
        if (within(hit, nearest, farthest)) {
            hits.push_back(hit);
        }
    });
    return hits;
}

} // namespace yurvo::inline v0_1::verify
