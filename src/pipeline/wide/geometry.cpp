// See geometry.hpp. Plain loops over 16 at a time, which the compiler turns into whichever batches the
// instruction set has; YURVO_KERNELS names the table that this compilation makes.
#include "geometry.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

#if defined(__SSE2__)
#include <emmintrin.h>
#endif

#include "yurvo/numeric/batch.hpp"
#include "yurvo/pipeline/coverage.hpp"
#include "yurvo/pipeline/interpolation.hpp"

namespace yurvo::pipeline::wide {

namespace {

constexpr int lanes = 16;
constexpr auto steps = static_cast<std::int32_t>(steps_per_pixel);

// Some at a time, coordinate by coordinate: what lies x, y, z in memory is taken apart first.
constexpr std::size_t vertices_at_once = 64;
template <class Number> using some = std::array<Number, vertices_at_once>;

void take_apart(const vec3<double>* from, std::size_t count, some<double>& x, some<double>& y,
                some<double>& z) {
    for (std::size_t i = 0; i < count; ++i) {
        x[i] = from[i].x;
        y[i] = from[i].y;
        z[i] = from[i].z;
    }
}

// The arrays are whole, whatever of them is used: loops of one length become batches.
template <class Scalar>
void project_some(const vertex_run<Scalar>& run, std::size_t first, std::size_t count) {
    const std::array<double, 12>& m = run.to_pixels;
    const double near = run.near;
    alignas(64) some<double> x{};
    alignas(64) some<double> y{};
    alignas(64) some<double> z{};
    alignas(64) some<double> nearness;      // NOLINT: written before it is read
    alignas(64) some<std::int32_t> steps_x; // NOLINT
    alignas(64) some<std::int32_t> steps_y; // NOLINT
    take_apart(run.positions + first, count, x, y, z);
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const vec3<double> p = homogeneous_corner(m, {x[i], y[i], z[i]});
        // Both sides of each comparison are finite and w is positive where the first holds.
        const bool whole =
            (p.z >= near) & (std::abs(p.x) <= guard_band * p.z) & (std::abs(p.y) <= guard_band * p.z);
        const double inverse = 1 / (whole ? p.z : 1);
        x[i] = whole ? p.x * inverse : 0;
        y[i] = whole ? p.y * inverse : 0;
        nearness[i] = whole ? inverse : 0;
    }
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        // To the nearest step, halves upwards.
        const auto sx = static_cast<std::int32_t>(std::floor(x[i] * steps_per_pixel + 0.5));
        const auto sy = static_cast<std::int32_t>(std::floor(y[i] * steps_per_pixel + 0.5));
        steps_x[i] = nearness[i] > 0 ? sx : not_projected;
        steps_y[i] = nearness[i] > 0 ? sy : not_projected;
    }
    for (std::size_t i = 0; i < count; ++i) {
        run.seen[first + i] = {x[i], y[i], nearness[i]};
    }
    std::copy_n(steps_x.begin(), count, run.x + first);
    std::copy_n(steps_y.begin(), count, run.y + first);
    if (run.normals == nullptr) {
        return;
    }
    const std::array<double, 9>& n = run.normal_to_world;
    take_apart(run.normals + first, count, x, y, z);
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const vec3<double> moved{n[0] * x[i] + n[1] * y[i] + n[2] * z[i],
                                 n[3] * x[i] + n[4] * y[i] + n[5] * z[i],
                                 n[6] * x[i] + n[7] * y[i] + n[8] * z[i]};
        const double squared = dot(moved, moved);
        const double scale = squared > 0 ? 1 / std::sqrt(squared > 0 ? squared : 1) : 0;
        x[i] = moved.x * scale;
        y[i] = moved.y * scale;
        z[i] = moved.z * scale;
    }
    for (std::size_t i = 0; i < count; ++i) {
        run.world_normals[first + i] = {static_cast<Scalar>(x[i]), static_cast<Scalar>(y[i]),
                                        static_cast<Scalar>(z[i])};
    }
}

template <class Scalar> void project(const vertex_run<Scalar>& run) {
    for (std::size_t first = 0; first < run.count; first += vertices_at_once) {
        project_some(run, first, std::min(vertices_at_once, run.count - first));
    }
}

// The first pixel whose centre is at or after a place in steps, and the last at or before it.
constexpr std::int32_t centre = steps / 2;
std::int32_t first_after(std::int32_t place) { return (place + (centre - 1)) >> 8; }
std::int32_t last_before(std::int32_t place) { return (place - centre) >> 8; }

void sort(const triangle_run& run, sorted_triangles& into) {
    alignas(64) std::int32_t xs[3][triangles_at_once] = {}; // NOLINT: plain arrays, for the compiler's loops
    alignas(64) std::int32_t ys[3][triangles_at_once] = {}; // NOLINT
    for (std::size_t t = 0; t < run.count; ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            xs[k][t] = run.x[run.triangles[t][k]];
            ys[k][t] = run.y[run.triangles[t][k]];
        }
    }
    const std::int32_t last_x = run.width - 1;
    const std::int32_t last_y = run.height - 1;
    const double front_sign = run.mirrored ? 1 : -1;
    constexpr auto unseen = static_cast<std::int32_t>(fate::unseen);
    constexpr auto front = static_cast<std::int32_t>(fate::front);
    constexpr auto back = static_cast<std::int32_t>(fate::back);
    constexpr auto to_cut = static_cast<std::int32_t>(fate::cut);
    for (std::size_t t = 0; t < triangles_at_once; ++t) { // those beyond the last are not looked at
        const std::int32_t ax = xs[0][t];
        const std::int32_t ay = ys[0][t];
        const std::int32_t bx = xs[1][t];
        const std::int32_t by = ys[1][t];
        const std::int32_t cx = xs[2][t];
        const std::int32_t cy = ys[2][t];
        const std::int32_t least_x = std::min(ax, std::min(bx, cx));
        const std::int32_t most_x = std::max(ax, std::max(bx, cx));
        const std::int32_t least_y = std::min(ay, std::min(by, cy));
        const std::int32_t most_y = std::max(ay, std::max(by, cy));
        const std::int32_t left = std::max(0, first_after(least_x));
        const std::int32_t right = std::min(last_x, last_before(most_x));
        const std::int32_t top = std::max(0, first_after(least_y));
        const std::int32_t bottom = std::min(last_y, last_before(most_y));
        // Exact: differences have at most 25 bits, products 50, double holds 53.
        const double area = static_cast<double>(bx - ax) * static_cast<double>(cy - ay) -
                            static_cast<double>(by - ay) * static_cast<double>(cx - ax);
        const bool cut = most_x == not_projected;
        const bool empty = (left > right) | (top > bottom) | (area == 0);
        const std::int32_t facing = area * front_sign > 0 ? front : back;
        into.left[t] = left;
        into.top[t] = top;
        into.right[t] = right;
        into.bottom[t] = bottom;
        into.what[t] = cut ? to_cut : (empty ? unseen : facing);
    }
}

// Nearness over the picture: value = at + across · x + down · y from (x0, y0).
struct nearness_plane {
    double x0, y0, at, across, down;
    float least, most;

    [[nodiscard]] double row(int y) const { return at + down * (y + 0.5 - y0); }
};

// Puts what is covered, [begin, end) of a row or where the edges say so, into a tile: the nearest stays, of
// equals the first drawn.
struct row_of_tile {
    float* nearness;
    std::int32_t* seen;
};

template <class Covered>
void put(const row_of_tile& row, int x, const nearness_plane& plane, double in_row, float nearest,
         std::int32_t triangle, const Covered& covered) {
    const double begin = in_row + plane.across * (x + 0.5 - plane.x0);
    float* const nearness = row.nearness;
    std::int32_t* const seen = row.seen;
    for (int l = 0; l < lanes; ++l) {
        const auto unclamped = static_cast<float>(begin + plane.across * l);
        const float here = std::min(std::max(unclamped, plane.least), plane.most);
        const float there = nearness[l];
        const std::int32_t other = seen[l];
        const bool wins =
            covered(l) & (here <= nearest) & ((here > there) | ((here == there) & (triangle < other)));
        nearness[l] = wins ? here : there;
        seen[l] = wins ? triangle : other;
    }
}

void put_run(const tile_view& tile, int y, int begin, int end, const nearness_plane& plane,
             std::int32_t triangle) {
    const double in_row = plane.row(y);
    const std::ptrdiff_t row = static_cast<std::ptrdiff_t>(y - tile.top) * tile.pitch;
    for (int group = (begin - tile.left) / lanes * lanes; group < end - tile.left; group += lanes) {
        const int from = begin - tile.left - group;
        const int to = end - tile.left - group;
        put({tile.nearness + row + group, tile.seen + row + group}, tile.left + group, plane, in_row,
            tile.nearest, triangle,
            [&](int l) { return static_cast<bool>(static_cast<int>(l >= from) & static_cast<int>(l < to)); });
    }
}

// All of a triangle that lies in a tile, each row solved.
void cover_rows(const tile_view& tile, const snapped& a, const snapped& b, const snapped& c,
                const nearness_plane& plane, std::int32_t triangle) {
    // Rows are solved from the tile's left border on: the tile's corner becomes the origin.
    const std::int64_t x = static_cast<std::int64_t>(tile.left) * steps_per_pixel;
    cover(
        {a.x - x, a.y}, {b.x - x, b.y}, {c.x - x, c.y}, tile.width, tile.top + tile.height,
        [&](int y, int begin, int end) {
            put_run(tile, y, tile.left + begin, tile.left + end, plane, triangle);
        },
        tile.top);
}

// A triangle with a corner that cannot be projected: cut first, covered piece by piece.
void cover_cut(const tile_view& tile, const object_view& object, const triangle& corners, std::int32_t id) {
    const vec3<double> a = homogeneous_corner(object.to_pixels, object.positions[corners[0]]);
    const vec3<double> b = homogeneous_corner(object.to_pixels, object.positions[corners[1]]);
    const vec3<double> c = homogeneous_corner(object.to_pixels, object.positions[corners[2]]);
    depth_plane plane;
    if (!plane.set(a, b, c, tile.near)) {
        return;
    }
    const nearness_plane here{0, 0, plane.origin, plane.across, plane.down, plane.least, plane.most};
    // Near is held pixel by pixel. Cutting only keeps what is behind the eye from being projected.
    in_snapped_pieces(
        a, b, c, tile.near * (1 - 0x1p-10),
        [&](const snapped& p, const snapped& q, const snapped& r) { cover_rows(tile, p, q, r, here, id); });
}

struct step_corners {
    std::array<std::int32_t, 3> x, y;
};
struct pixel_box {
    int left, top, right, bottom;
};

// Every pixel of a box asked on which side of the edges it lies; Number holds their products exactly.
template <class Number>
void cover_box(const tile_view& tile, step_corners at, const pixel_box& box, const nearness_plane& plane,
               std::int32_t id) {
    const auto side = [&](std::size_t k) {
        return (Number(at.x[1]) - Number(at.x[0])) * (Number(at.y[k]) - Number(at.y[0])) -
               (Number(at.y[1]) - Number(at.y[0])) * (Number(at.x[k]) - Number(at.x[0]));
    };
    if (side(2) < 0) {
        std::swap(at.x[1], at.x[2]);
        std::swap(at.y[1], at.y[2]);
    }
    // Inside where dx·(y − ay) − dy·(x − ax) + bias > 0 for all three edges; the bias of a top or left edge
    // lets its own points in.
    struct edge {
        Number value, across, down;
    };
    const int group = (box.left - tile.left) / lanes * lanes;
    const auto px = Number((tile.left + group) * steps + centre);
    const auto py = Number(box.top * steps + centre);
    const auto make_edge = [&](std::size_t from, std::size_t to) {
        const Number dx = Number(at.x[to]) - Number(at.x[from]);
        const Number dy = Number(at.y[to]) - Number(at.y[from]);
        const bool top_left = dy < 0 || (dy == 0 && dx > 0);
        return edge{dx * (py - Number(at.y[from])) - dy * (px - Number(at.x[from])) +
                        Number(top_left ? 1 : 0),
                    -dy * Number(steps), dx * Number(steps)};
    };
    edge ab = make_edge(0, 1);
    edge bc = make_edge(1, 2);
    edge ca = make_edge(2, 0);
    // Products once a triangle; then only sums.
    alignas(64) std::array<Number, lanes> ab_lane; // NOLINT: written at once
    alignas(64) std::array<Number, lanes> bc_lane; // NOLINT
    alignas(64) std::array<Number, lanes> ca_lane; // NOLINT
    for (std::size_t l = 0; l < lanes; ++l) {
        ab_lane[l] = ab.across * static_cast<Number>(l);
        bc_lane[l] = bc.across * static_cast<Number>(l);
        ca_lane[l] = ca.across * static_cast<Number>(l);
    }
    std::ptrdiff_t row = static_cast<std::ptrdiff_t>(box.top - tile.top) * tile.pitch;
    for (int y = box.top; y <= box.bottom; ++y) {
        const double in_row = plane.row(y);
        int on = 0;
        for (int x = group; x <= box.right - tile.left; x += lanes) {
            const Number a = ab.value + ab.across * Number(on);
            const Number b = bc.value + bc.across * Number(on);
            const Number c = ca.value + ca.across * Number(on);
            put({tile.nearness + row + x, tile.seen + row + x}, tile.left + x, plane, in_row, tile.nearest,
                id, [&](int l) {
                    const auto i = static_cast<std::size_t>(l);
                    return std::min(a + ab_lane[i], std::min(b + bc_lane[i], c + ca_lane[i])) > 0;
                });
            on += lanes;
        }
        ab.value += ab.down;
        bc.value += bc.down;
        ca.value += ca.down;
        row += tile.pitch;
    }
}

// Where no part of a triangle's box of pixels can be nearer than what is there already.
bool hidden(const cover_request& asked, const tile_view& tile, int left, int top, int right, int bottom,
            float most) {
    const int pitch = tile.pitch / 8;
    for (int y = (top - tile.top) / 8; y <= (bottom - tile.top) / 8; ++y) {
        for (int x = (left - tile.left) / 8; x <= (right - tile.left) / 8; ++x) {
            if (!(most < asked.coarse[y * pitch + x])) {
                return false;
            }
        }
    }
    return true;
}

void cover_one(const cover_request& asked, const tile_view& tile, const object_view& object,
               std::int32_t id) {
    const triangle& corners = object.triangles[id - object.first];
    const std::uint32_t ia = corners[0];
    const std::uint32_t ib = corners[1];
    const std::uint32_t ic = corners[2];
    const std::int32_t ax = object.x[ia];
    const std::int32_t ay = object.y[ia];
    const std::int32_t bx = object.x[ib];
    const std::int32_t by = object.y[ib];
    const std::int32_t cx = object.x[ic];
    const std::int32_t cy = object.y[ic];
    if (ax == not_projected || bx == not_projected || cx == not_projected) {
        cover_cut(tile, object, corners, id);
        return;
    }
    const int left = std::max(tile.left, first_after(std::min(ax, std::min(bx, cx))));
    const int right = std::min(tile.left + tile.width - 1, last_before(std::max(ax, std::max(bx, cx))));
    const int top = std::max(tile.top, first_after(std::min(ay, std::min(by, cy))));
    const int bottom = std::min(tile.top + tile.height - 1, last_before(std::max(ay, std::max(by, cy))));
    if (left > right || top > bottom) {
        return;
    }
    const seen_vertex& a = object.seen[ia];
    const double most = std::max(a.nearness, std::max(object.seen[ib].nearness, object.seen[ic].nearness));
    if (asked.coarse != nullptr && hidden(asked, tile, left, top, right, bottom, static_cast<float>(most))) {
        return;
    }
    const seen_vertex& b = object.seen[ib];
    const seen_vertex& c = object.seen[ic];
    const double least = std::min(a.nearness, std::min(b.nearness, c.nearness));
    const double ux = b.x - a.x;
    const double uy = b.y - a.y;
    const double vx = c.x - a.x;
    const double vy = c.y - a.y;
    const double one = 1 / (ux * vy - uy * vx);
    const double un = b.nearness - a.nearness;
    const double vn = c.nearness - a.nearness;
    const nearness_plane plane{a.x,
                               a.y,
                               a.nearness,
                               (un * vy - vn * uy) * one,
                               (vn * ux - un * vx) * one,
                               static_cast<float>(least),
                               static_cast<float>(most)};
    if (!(std::abs(plane.across) < std::numeric_limits<double>::infinity()) ||
        !(std::abs(plane.down) < std::numeric_limits<double>::infinity())) {
        return; // edge-on but for the snap
    }
    const std::int32_t wide = std::max(ax, std::max(bx, cx)) - std::min(ax, std::min(bx, cx));
    const std::int32_t high = std::max(ay, std::max(by, cy)) - std::min(ay, std::min(by, cy));
    const step_corners corner{{ax, bx, cx}, {ay, by, cy}};
    const pixel_box box{left, top, right, bottom};
    // Up to 64 pixels every product fits 31 bits, 16 pixels beyond the box included; double holds all others,
    // of 2 · 25 bits and two more, exactly.
    constexpr std::int32_t small = 64 * steps;
    if (wide > small || high > small) {
        cover_box<double>(tile, corner, box, plane, id);
    } else {
        cover_box<std::int32_t>(tile, corner, box, plane, id);
    }
}

void cover_all(const cover_request& asked, const tile_view& tile) {
    std::size_t object = 0;
    for (std::size_t i = 0; i < asked.count; ++i) {
        const auto id = static_cast<std::int32_t>(asked.triangles[i]);
        object = object_of(id, asked.objects, asked.object_count, object);
        cover_one(asked, tile, asked.objects[object], id);
    }
}

void coarsen(const tile_view& tile, float* coarse) {
    const int pitch = tile.pitch / 8;
    for (int y = 0; y < tile.height; y += 8) {
        for (int x = 0; x < tile.pitch; x += 8) {
            float least[8]; // NOLINT
            for (int l = 0; l < 8; ++l) {
                least[l] = tile.nearness[static_cast<std::ptrdiff_t>(y) * tile.pitch + x + l];
            }
            for (int row = 1; row < 8 && y + row < tile.height; ++row) {
                for (int l = 0; l < 8; ++l) {
                    least[l] = std::min(
                        least[l], tile.nearness[static_cast<std::ptrdiff_t>(y + row) * tile.pitch + x + l]);
                }
            }
            float all = least[0];
            for (int l = 1; l < 8; ++l) {
                all = std::min(all, least[l]);
            }
            coarse[y / 8 * pitch + x / 8] = all;
        }
    }
}

// Eight lanes at a time, a batch of doubles; how many times is known only when it runs, or the compiler would
// take sixteen lanes apart one by one.
constexpr std::size_t half = 8;

// into[l] = (value + across · l) · depth[l]
template <class Scalar>
inline void spread_plane(double value, double across, std::size_t halves, const double* __restrict depth,
                         Scalar* __restrict into) {
    const double* __restrict number = lane_number.data();
    for (std::size_t h = 0; h < halves; ++h) {
        for (std::size_t l = 0; l < half; ++l) {
            into[l] = static_cast<Scalar>((value + across * number[l]) * depth[l]);
        }
        into += half;
        depth += half;
        number += half;
    }
}

inline void depth_of_lanes(const attribute_planes& planes, double nearness, std::size_t halves,
                           double* __restrict depth) {
    const double* __restrict number = lane_number.data();
    const double across = planes.nearness[1];
    const double least = planes.least;
    const double most = planes.most;
    for (std::size_t h = 0; h < halves; ++h) {
        for (std::size_t l = 0; l < half; ++l) {
            depth[l] = 1 / std::min(std::max(nearness + across * number[l], least), most);
        }
        depth += half;
        number += half;
    }
}

template <class Scalar> void spread(const attribute_lanes<Scalar>& asked) {
    const attribute_planes& planes = *asked.planes;
    const double dx = asked.run.x + 0.5 - planes.x;
    const double dy = asked.run.y + 0.5 - planes.y;
    const double nearness = planes.nearness[0] + planes.nearness[1] * dx + planes.nearness[2] * dy;
    const std::size_t halves = asked.run.count > static_cast<int>(half) ? 2 : 1;
    alignas(64) std::array<double, 2 * half> depth; // NOLINT: written at once
    depth_of_lanes(planes, nearness, halves, depth.data());
    for (std::size_t a = 0; a < asked.attributes; ++a) {
        const std::array<double, 3>& plane = planes.attribute[a];
        spread_plane(plane[0] + plane[1] * dx + plane[2] * dy, plane[1], halves, depth.data(), asked.into[a]);
    }
    if (asked.rays != nullptr) {
        const auto& [corner, across, down] = *asked.rays;
        const vec3<double> ray = corner + across * (asked.run.x + 0.5) + down * (asked.run.y + 0.5);
        spread_plane(ray.x, across.x, halves, depth.data(), asked.position[0]);
        spread_plane(ray.y, across.y, halves, depth.data(), asked.position[1]);
        spread_plane(ray.z, across.z, halves, depth.data(), asked.position[2]);
    }
}

#if defined(XSIMD_NO_SUPPORTED_ARCHITECTURE)
using real = float;
#else
using real = xsimd::batch<float, YURVO_BATCH>;
#endif

// Lanes from anywhere in memory.
real load_from(const float* from) {
    if constexpr (lanes_of<real> == 1) {
        return *from;
    } else {
        return real::load_unaligned(from);
    }
}

box bounds(const float* x, const float* y, const float* z, std::size_t count) {
    constexpr std::size_t step = lanes_of<real>;
    box made;
    const std::array<const float*, 3> of{x, y, z};
    for (std::size_t k = 0; k < 3; ++k) {
        real least(of[k][0]);
        real most = least;
        std::size_t i = 0;
        for (; i + step <= count; i += step) {
            const real here = load_from(of[k] + i);
            least = min(least, here);
            most = max(most, here);
        }
        alignas(64) std::array<float, step> lows;  // NOLINT: written at once
        alignas(64) std::array<float, step> highs; // NOLINT
        store_lanes(lows.data(), least);
        store_lanes(highs.data(), most);
        made.low[k] = *std::min_element(lows.begin(), lows.end());
        made.high[k] = *std::max_element(highs.begin(), highs.end());
        for (; i < count; ++i) {
            made.low[k] = std::min(made.low[k], of[k][i]);
            made.high[k] = std::max(made.high[k], of[k][i]);
        }
    }
    return made;
}

// Infinities may meet zeros on the way when lights are beyond all measure; a picture holds no NaN.
void write(const color_lanes& a, const color_lanes& b, float alpha, std::size_t count, float* rgba) {
    std::size_t i = 0;
#if defined(__SSE2__)
    const __m128 alphas = _mm_set1_ps(alpha);
    const auto part = [&](std::size_t k) {
        const __m128 sum = _mm_add_ps(_mm_loadu_ps(a[k] + i), _mm_loadu_ps(b[k] + i));
        return _mm_and_ps(sum, _mm_cmpord_ps(sum, sum));
    };
    for (; i + 4 <= count; i += 4) {
        const __m128 r = part(0);
        const __m128 g = part(1);
        const __m128 blue = part(2);
        const __m128 rg_low = _mm_unpacklo_ps(r, g);
        const __m128 rg_high = _mm_unpackhi_ps(r, g);
        const __m128 ba_low = _mm_unpacklo_ps(blue, alphas);
        const __m128 ba_high = _mm_unpackhi_ps(blue, alphas);
        _mm_storeu_ps(rgba + 4 * i, _mm_movelh_ps(rg_low, ba_low));
        _mm_storeu_ps(rgba + 4 * i + 4, _mm_movehl_ps(ba_low, rg_low));
        _mm_storeu_ps(rgba + 4 * i + 8, _mm_movelh_ps(rg_high, ba_high));
        _mm_storeu_ps(rgba + 4 * i + 12, _mm_movehl_ps(ba_high, rg_high));
    }
#endif
    for (; i < count; ++i) {
        for (std::size_t k = 0; k < 3; ++k) {
            const float sum = a[k][i] + b[k][i];
            rgba[4 * i + k] = sum == sum ? sum : 0.0F;
        }
        rgba[4 * i + 3] = alpha;
    }
}

} // namespace

const kernels& YURVO_KERNELS() {
    static constexpr kernels made{project<float>, project<double>, sort,   cover_all, coarsen,
                                  spread<float>,  spread<double>,  bounds, write};
    return made;
}

} // namespace yurvo::pipeline::wide
