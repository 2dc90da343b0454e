#include "verify/triangle_tree.hpp"

#include <algorithm>
#include <cmath>

#include "pipeline/uninitialized.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Deeper, boxes are cut into halves, so that what waits on a walk's way down stays short.
constexpr std::size_t deepest_cut = 64;

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
        build(0, static_cast<std::uint32_t>(triangles_.size()), 0);
    }
}

namespace {

struct box {
    static constexpr double infinity = std::numeric_limits<double>::infinity();
    vec3<double> low{infinity, infinity, infinity}, high{-infinity, -infinity, -infinity};

    void hold(const vec3<double>& point) {
        low = lower(low, point);
        high = upper(high, point);
    }
    void hold(const box& other) {
        low = lower(low, other.low);
        high = upper(high, other.high);
    }
    // Half of it; 0 of an empty box.
    [[nodiscard]] double area() const {
        const vec3<double> size = high - low;
        return size.x < 0 ? 0 : size.x * size.y + size.y * size.z + size.z * size.x;
    }
};

} // namespace

// Where a box is best cut: the shares are weighed by how likely a ray is to pass through them (Wald 2007,
// with the middles of triangles in a few bins).
std::uint32_t triangle_tree::cut(std::uint32_t first, std::uint32_t count, int axis, bool weighed) {
    constexpr std::size_t bins = 12;
    const auto middle = [&](std::uint32_t i) {
        const auto& corners = triangles_[i].corners;
        return component(corners[0], axis) + component(corners[1], axis) + component(corners[2], axis);
    };
    const auto begin = order_.begin() + first;
    const auto end = begin + count;
    const auto [least, most] = std::minmax_element(
        begin, end, [&](std::uint32_t a, std::uint32_t b) { return middle(a) < middle(b); });
    const double from = middle(*least);
    const double to = middle(*most);
    const auto bin_of = [&](std::uint32_t i) {
        return std::min(bins - 1, static_cast<std::size_t>((middle(i) - from) / (to - from) * bins));
    };
    if (weighed && from < to) {
        std::array<box, bins> boxes;
        std::array<std::uint32_t, bins> counts{};
        std::for_each(begin, end, [&](std::uint32_t i) {
            const std::size_t bin = bin_of(i);
            ++counts[bin];
            for (const vec3<double>& corner : triangles_[i].corners) {
                boxes[bin].hold(corner);
            }
        });
        std::array<double, bins> cost_below{}; // of what lies in the bins before
        box below;
        std::uint32_t count_below = 0;
        for (std::size_t bin = 0; bin + 1 < bins; ++bin) {
            below.hold(boxes[bin]);
            count_below += counts[bin];
            cost_below[bin + 1] = below.area() * count_below;
        }
        box above;
        std::uint32_t count_above = 0;
        double best = std::numeric_limits<double>::infinity();
        std::size_t best_bin = 0;
        for (std::size_t bin = bins - 1; bin > 0; --bin) {
            above.hold(boxes[bin]);
            count_above += counts[bin];
            const double cost = cost_below[bin] + above.area() * count_above;
            if (count_above > 0 && count_above < count && cost < best) {
                best = cost;
                best_bin = bin;
            }
        }
        return static_cast<std::uint32_t>(
            std::partition(begin, end, [&](std::uint32_t i) { return bin_of(i) < best_bin; }) - begin);
    }
    const std::uint32_t half = count / 2;
    std::nth_element(begin, begin + half, end,
                     [&](std::uint32_t a, std::uint32_t b) { return middle(a) < middle(b); });
    return half;
}

void triangle_tree::build(std::uint32_t first, std::uint32_t count, std::size_t depth) {
    const std::size_t here = nodes_.size();
    box bounds;
    for (std::uint32_t i = first; i < first + count; ++i) {
        for (const vec3<double>& corner : triangles_[order_[i]].corners) {
            bounds.hold(corner);
        }
    }
    nodes_.push_back({bounds.low, bounds.high, first, count, 0, 0});
    if (count <= 4) {
        return;
    }
    const vec3<double> extent = bounds.high - bounds.low;
    const int axis = extent.x >= extent.y && extent.x >= extent.z ? 0 : extent.y >= extent.z ? 1 : 2;
    const std::uint32_t share = cut(first, count, axis, depth < deepest_cut);
    nodes_[here].count = 0;
    nodes_[here].axis = axis;
    build(first, share, depth + 1);
    nodes_[here].right = static_cast<std::uint32_t>(nodes_.size());
    build(first + share, count - share, depth + 1);
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
        double enter = -std::numeric_limits<double>::infinity();
        double leave = std::numeric_limits<double>::infinity();
        for (std::size_t axis = 0; axis < 3; ++axis) {
            if (directions[axis] == 0) {
                if (starts[axis] < low[axis] || starts[axis] > high[axis]) {
                    return true;
                }
                continue;
            }
            const double to_low = (low[axis] - starts[axis]) * inverses[axis];
            const double to_high = (high[axis] - starts[axis]) * inverses[axis];
            enter = std::max(enter, std::min(to_low, to_high));
            leave = std::min(leave, std::max(to_low, to_high));
        }
        // Room for rounding: a flat box must not lose its triangle.
        enter = std::max(nearest, enter - 1e-9 * std::abs(enter));
        leave = std::min(farthest, leave + 1e-9 * std::abs(leave));
        return enter > leave;
    };
    pipeline::uninitialized<std::array<std::uint32_t, 128>>
        waiting; // to clear it takes longer than most walks
    waiting[0] = 0;
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
    const double inverse = 1 / determinant;
    return {dot(edge2, q) * inverse, triangle, dot(t, p) * inverse, dot(along, q) * inverse};
}

namespace {

bool within(const triangle_hit& hit, double nearest, double farthest) {
    return hit.second >= 0 && hit.third >= 0 && hit.second + hit.third <= 1 && hit.distance >= nearest &&
           hit.distance <= farthest;
}

} // namespace

triangle_hit triangle_tree::find(const vec3<double>& from, const vec3<double>& along, double nearest,
                                 double farthest, std::uint32_t likely) const {
    triangle_hit best;
    double reach = farthest;
    if (likely < size()) {
        const triangle_hit hit = meet_plane(likely, from, along);
        // A little beyond it, so that it is found again among those in the same place.
        reach = within(hit, nearest, farthest) ? std::min(farthest, hit.distance * (1 + 1e-8)) : farthest;
    }
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
