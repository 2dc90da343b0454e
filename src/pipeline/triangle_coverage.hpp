// coverage: which pixel centres a triangle covers.
//
// Corners are snapped to 1/256 pixel. A centre on an edge belongs to the triangle if the edge is a top or a
// left one, so triangles that share an edge leave no gap and cover no pixel twice.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <span>

#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

inline constexpr std::int64_t steps_per_pixel = 256;
// Corners farther out than this many pixels are clipped away first: beyond every picture (16384), and small
// enough that products of two edges fit 64 bits with room to spare.
inline constexpr double guard_band = 65536;

// A corner in steps of 1/256 pixel, y downwards.
struct snapped {
    std::int64_t x = 0, y = 0;
};

// To the nearest step, halves towards greater x and y.
inline snapped snap(double x, double y) {
    return {static_cast<std::int64_t>(std::floor(x * steps_per_pixel + 0.5)),
            static_cast<std::int64_t>(std::floor(y * steps_per_pixel + 0.5))};
}

// Twice the signed area in steps²; positive when the corners run clockwise on screen.
inline std::int64_t doubled_area(const snapped& a, const snapped& b, const snapped& c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

inline std::int64_t floor_divide(std::int64_t a, std::int64_t b) { // b > 0
    const std::int64_t quotient = a / b;
    return quotient - (a % b < 0 ? 1 : 0);
}

// Calls row(y, begin, end) for every row from first_row up to height with the half-open run of pixels the
// triangle covers, from top to bottom. The corners' order does not matter; a triangle without area covers
// nothing.
template <class Row>
void cover(snapped a, snapped b, snapped c, int width, int height, Row&& row, int first_row = 0) {
    const std::int64_t area = doubled_area(a, b, c);
    if (area == 0) {
        return;
    }
    if (area < 0) {
        std::swap(b, c);
    }
    constexpr std::int64_t centre = steps_per_pixel / 2;
    // The first pixel whose centre is at or after a place, and the last whose centre is at or before it.
    const auto first_after = [](std::int64_t place) {
        return floor_divide(place - centre + steps_per_pixel - 1, steps_per_pixel);
    };
    const auto last_before = [](std::int64_t place) { return floor_divide(place - centre, steps_per_pixel); };
    const std::int64_t top = std::max<std::int64_t>(first_row, first_after(std::min({a.y, b.y, c.y})));
    const std::int64_t bottom = std::min<std::int64_t>(height - 1, last_before(std::max({a.y, b.y, c.y})));
    const std::int64_t left = std::max<std::int64_t>(0, first_after(std::min({a.x, b.x, c.x})));
    const std::int64_t right = std::min<std::int64_t>(width - 1, last_before(std::max({a.x, b.x, c.x})));
    if (top > bottom || left > right) {
        return;
    }

    // Inside where dx·(y − ay) − dy·(x − ax) + bias > 0 for all three edges; the bias of a top or left edge
    // lets its own points in.
    struct edge {
        std::int64_t value;  // at the centre of pixel (left, top)
        std::int64_t across; // its change from one pixel to the next
        std::int64_t down;
    };
    const auto make_edge = [&](const snapped& from, const snapped& to) {
        const std::int64_t dx = to.x - from.x;
        const std::int64_t dy = to.y - from.y;
        const bool top_left = dy < 0 || (dy == 0 && dx > 0);
        const std::int64_t x = left * steps_per_pixel + centre;
        const std::int64_t y = top * steps_per_pixel + centre;
        return edge{dx * (y - from.y) - dy * (x - from.x) + (top_left ? 1 : 0), -dy * steps_per_pixel,
                    dx * steps_per_pixel};
    };
    std::array<edge, 3> edges{make_edge(a, b), make_edge(b, c), make_edge(c, a)};
    const std::int64_t last = right - left;
    for (std::int64_t y = top; y <= bottom; ++y) {
        // Each edge cuts the row: solved exactly, so a long run costs no more than a short one.
        std::int64_t begin = 0;
        std::int64_t end = last + 1;
        for (edge& e : edges) {
            if (e.across > 0) { // value + i·across ≥ 1
                if (e.value < 1) {
                    begin = std::max(begin, (-e.value + e.across) / e.across);
                }
            } else if (e.across < 0) {
                end = e.value < 1 ? 0 : std::min(end, (e.value - 1) / -e.across + 1);
            } else if (e.value < 1) {
                end = 0;
            }
            e.value += e.down;
        }
        if (begin < end) {
            row(static_cast<int>(y), static_cast<int>(left + begin), static_cast<int>(left + end));
        }
    }
}

// A corner as the picture sees it: pixels times depth, and depth (see camera::to_pixels).
using homogeneous = vec3<double>;

// The part of a triangle that can be drawn: at most eight corners, in order. Edges that two triangles share
// are cut at the same points, for each cut runs from the side that stays to the side that goes.
class clipped_polygon {
    std::array<homogeneous, 10> corners_;
    std::size_t count_ = 0;

    template <class Inside> void cut(Inside&& distance) {
        std::array<homogeneous, 10> kept;
        std::size_t count = 0;
        for (std::size_t i = 0; i < count_; ++i) {
            const homogeneous& here = corners_[i];
            const homogeneous& next = corners_[(i + 1) % count_];
            const double d_here = distance(here);
            const double d_next = distance(next);
            if (d_here >= 0) {
                kept[count++] = here;
            }
            if (d_here >= 0 && d_next < 0) {
                kept[count++] = here + (next - here) * (d_here / (d_here - d_next));
            } else if (d_here < 0 && d_next >= 0) {
                kept[count++] = next + (here - next) * (d_next / (d_next - d_here));
            }
        }
        corners_ = kept;
        count_ = count;
    }

  public:
    clipped_polygon(const homogeneous& a, const homogeneous& b, const homogeneous& c, double near)
        : corners_{a, b, c}, count_(3) {
        cut([&](const homogeneous& p) { return p.z - near; });
        cut([](const homogeneous& p) { return guard_band * p.z - p.x; });
        cut([](const homogeneous& p) { return guard_band * p.z + p.x; });
        cut([](const homogeneous& p) { return guard_band * p.z - p.y; });
        cut([](const homogeneous& p) { return guard_band * p.z + p.y; });
    }

    [[nodiscard]] std::span<const homogeneous> corners() const { return {corners_.data(), count_}; }
};

// Where a homogeneous corner is in the picture. Written the same way wherever corners are snapped: triangles
// that share one must agree on it to the last bit.
inline snapped snap(const homogeneous& p) {
    const double inverse_depth = 1 / p.z;
    return snap(p.x * inverse_depth, p.y * inverse_depth);
}

// Calls piece(a, b, c) with the snapped triangles that a triangle of homogeneous corners leaves in front of
// `near` and within the guard band.
template <class Piece>
void in_snapped_pieces(const homogeneous& a, const homogeneous& b, const homogeneous& c, double near,
                       Piece&& piece) {
    const clipped_polygon polygon(a, b, c, near);
    const auto corners = polygon.corners();
    for (std::size_t i = 2; i < corners.size(); ++i) {
        piece(snap(corners[0]), snap(corners[i - 1]), snap(corners[i]));
    }
}

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
