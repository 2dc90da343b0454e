// See attributes.hpp. Plain loops, which the compiler turns into whichever batches the instruction set has.
#include "attributes.hpp"

#include <algorithm>
#include <cmath>

#if defined(__SSE2__)
#include <immintrin.h>
#endif

#include "lanes.hpp"
#include "turned_normal.hpp"
#include "yurvo/numeric/batch.hpp"

namespace yurvo::pipeline::wide {

namespace {

// Eight lanes at a time, a batch of doubles; how many times is known only when it runs, or the compiler would
// take sixteen lanes apart one by one.
constexpr std::size_t half = 8;
std::size_t whole_halves(std::size_t count) { return (count + half - 1) / half * half; }

void place(plane_batch& batch) {
    const object_view& object = *batch.object;
    const std::size_t lanes = whole_halves(batch.count);
    for (std::size_t l = 0; l < lanes; ++l) {
        // Those beyond the last are the last once more.
        const triangle& corners = object.triangles[batch.triangles[lesser(l, batch.count - 1)]];
        batch.behind[l] = false;
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double>& at = object.positions[corners[k]];
            batch.behind[l] = batch.behind[l] || object.at[corners[k]].x == not_projected;
            batch.x[k][l] = at.x;
            batch.y[k][l] = at.y;
            batch.nearness[k][l] = at.z;
        }
    }
    for (std::size_t k = 0; k < 3; ++k) {
        plane_batch::each<double>& x = batch.x[k];
        plane_batch::each<double>& y = batch.y[k];
        plane_batch::each<double>& nearness = batch.nearness[k];
        for (std::size_t l = 0; l < lanes; ++l) {
            const vec3<double> p = homogeneous_corner(object.to_pixels, {x[l], y[l], nearness[l]});
            const double inverse = 1 / p.z;
            x[l] = p.x * inverse;
            y[l] = p.y * inverse;
            nearness[l] = inverse;
        }
    }
    for (std::size_t l = 0; l < lanes; ++l) {
        const double area = (batch.x[1][l] - batch.x[0][l]) * (batch.y[2][l] - batch.y[0][l]) -
                            (batch.y[1][l] - batch.y[0][l]) * (batch.x[2][l] - batch.x[0][l]);
        batch.front[l] = (area < 0) != object.mirrored;
    }
}

void turn_normals(plane_batch& batch, std::size_t lanes) {
    alignas(64) plane_batch::each<double> sign; // NOLINT: written before it is read
    for (std::size_t l = 0; l < lanes; ++l) {
        sign[l] = batch.two_sided && !batch.front[l] ? -1 : 1;
    }
    for (std::size_t k = 0; k < 3; ++k) {
        plane_batch::each<double>& x = batch.values[0][k];
        plane_batch::each<double>& y = batch.values[1][k];
        plane_batch::each<double>& z = batch.values[2][k];
        for (std::size_t l = 0; l < lanes; ++l) {
            const vec3<double> unit = turned_normal(batch.normal_to_world, {x[l], y[l], z[l]}) * sign[l];
            x[l] = unit.x;
            y[l] = unit.y;
            z[l] = unit.z;
        }
    }
}

void set(plane_batch& batch) {
    const std::size_t lanes = whole_halves(batch.count);
    if (batch.normals) {
        turn_normals(batch, lanes);
    }
    // Nearness, then the attributes.
    alignas(64) std::array<plane_batch::by_corner<double>, most_attributes + 1> made; // NOLINT: see below
    alignas(64) plane_batch::each<double> least;    // NOLINT: written before they are read
    alignas(64) plane_batch::each<double> most;     // NOLINT
    alignas(64) plane_batch::each<double> thinness; // NOLINT
    const auto& x = batch.x;
    const auto& y = batch.y;
    const auto& n = batch.nearness;
    // The screen's weights of b and c are planes that are 1 there and 0 at the other corners.
    alignas(64) std::array<plane_batch::each<double>, 2> of_b; // NOLINT
    alignas(64) std::array<plane_batch::each<double>, 2> of_c; // NOLINT
    for (std::size_t l = 0; l < lanes; ++l) {
        const double ux = x[1][l] - x[0][l];
        const double uy = y[1][l] - y[0][l];
        const double vx = x[2][l] - x[0][l];
        const double vy = y[2][l] - y[0][l];
        const double area = ux * vy - uy * vx;
        const double longest = greater(
            ux * ux + uy * uy, greater(vx * vx + vy * vy, (ux - vx) * (ux - vx) + (uy - vy) * (uy - vy)));
        thinness[l] = area * area - thin * thin * longest;
        const double one = 1 / area;
        of_b[0][l] = vy * one;
        of_b[1][l] = -vx * one;
        of_c[0][l] = -uy * one;
        of_c[1][l] = ux * one;
        least[l] = beyond_least * lesser(n[0][l], lesser(n[1][l], n[2][l]));
        most[l] = beyond_most * greater(n[0][l], greater(n[1][l], n[2][l]));
    }
    for (std::size_t a = 0; a <= batch.attributes; ++a) {
        plane_batch::by_corner<double>& into = made[a];
        for (std::size_t l = 0; l < lanes; ++l) {
            const auto at = [&](std::size_t k) {
                return a == 0 ? n[k][l] : batch.values[a - 1][k][l] * n[k][l];
            };
            const double at_a = at(0);
            const double to_b = at(1) - at_a;
            const double to_c = at(2) - at_a;
            into[0][l] = at_a;
            into[1][l] = to_b * of_b[0][l] + to_c * of_c[0][l];
            into[2][l] = to_b * of_b[1][l] + to_c * of_c[1][l];
        }
    }
    for (std::size_t l = 0; l < batch.count; ++l) {
        attribute_planes& planes = *batch.into[l];
        planes.x = x[0][l];
        planes.y = y[0][l];
        planes.least = least[l];
        planes.most = most[l];
        for (std::size_t a = 0; a <= batch.attributes; ++a) {
            planes.set(a, {made[a][0][l], made[a][1][l], made[a][2][l]});
        }
        planes.front = batch.front[l];
        planes.one_by_one = !(thinness[l] > 0);
    }
}

// Both ways to spread work every number out in the same order: a point's digits are its own, whatever is
// worked out together with it.
// 1 / each, to the last bit but one: eight at a time the processor divides for as long as all else here
// takes.
inline void invert(double* numbers, std::size_t count) {
#if defined(__AVX512F__)
    const __m512d one = _mm512_set1_pd(1);
    for (std::size_t i = 0; i < count; i += half) {
        const __m512d number = _mm512_load_pd(numbers + i);
        __m512d guess = _mm512_rcp14_pd(number); // 14 bits, doubled twice by steps of Newton
        for (int step = 0; step < 2; ++step) {
            guess = _mm512_fmadd_pd(guess, _mm512_fnmadd_pd(number, guess, one), guess);
        }
        _mm512_store_pd(numbers + i, guess);
    }
#else
    for (std::size_t i = 0; i < count; ++i) {
        numbers[i] = 1 / numbers[i];
    }
#endif
}

template <std::size_t Lanes> using lane_values = std::array<double, Lanes>;

// into[l] = (at + across · x[l] + below) · depth[l]
template <std::size_t Lanes, class Scalar>
inline void spread_plane(double at, double across, double below, const lane_values<Lanes>& x,
                         const lane_values<Lanes>& depth, Scalar* __restrict into) {
    for (std::size_t l = 0; l < Lanes; ++l) {
        into[l] = static_cast<Scalar>((at + across * x[l] + below) * depth[l]);
    }
}

// One triangle's planes over the pixels of a run, whose points are from `first` on.
template <std::size_t Lanes, class Scalar>
inline void spread_run(const spread_request<Scalar>& asked, const pixel_run& run, std::size_t first) {
    alignas(64) lane_values<Lanes> x;     // NOLINT: written before they are read
    alignas(64) lane_values<Lanes> dx;    // NOLINT
    alignas(64) lane_values<Lanes> depth; // NOLINT
    const attribute_planes& planes = asked.planes[run.slot];
    const double begin = run.x + 0.5;
    const double y = run.y + 0.5;
    const double dy = y - planes.y;
    const double from = planes.x;
    const plane_over_pixels nearness = planes.plane(0);
    const double below = nearness.down * dy;
    const double least = planes.least;
    const double most = planes.most;
    for (std::size_t l = 0; l < Lanes; ++l) {
        x[l] = lane_number[l] + begin;
        dx[l] = x[l] - from;
        const double here = nearness.at + nearness.across * dx[l] + below;
        depth[l] = lesser(greater(here, least), most);
    }
    invert(depth.data(), Lanes);
    for (std::size_t a = 0; a < asked.attributes; ++a) {
        const plane_over_pixels plane = planes.plane(a + 1);
        spread_plane<Lanes>(plane.at, plane.across, plane.down * dy, dx, depth, asked.into[a] + first);
    }
    if (asked.rays != nullptr) {
        const auto& [corner, right, down] = *asked.rays;
        spread_plane<Lanes>(corner.x, right.x, down.x * y, x, depth, asked.position[0] + first);
        spread_plane<Lanes>(corner.y, right.y, down.y * y, x, depth, asked.position[1] + first);
        spread_plane<Lanes>(corner.z, right.z, down.z * y, x, depth, asked.position[2] + first);
    }
}

template <class Scalar> void spread_runs(const spread_request<Scalar>& asked) {
    std::size_t first = 0;
    for (std::size_t r = 0; r < asked.run_count; ++r) {
        const pixel_run& run = asked.runs[r];
        if (run.count <= static_cast<int>(half)) {
            spread_run<half>(asked, run, first);
        } else {
            spread_run<2 * half>(asked, run, first);
        }
        first += static_cast<std::size_t>(run.count);
    }
}

// Short runs: every point looks its own triangle's planes up, and four of them give their values together.
constexpr std::size_t abreast = attribute_planes::abreast;
constexpr std::size_t point_room = 320; // a block's points, and a whole run more
struct looked_up {
    alignas(64) std::array<double, point_room> x, y, depth;
    alignas(64) std::array<std::array<double, abreast>, point_room> values;
};

// The values of one group of four; points' places and clamped nearness as well, where it is the first.
template <bool First, class Scalar>
void look_up(const spread_request<Scalar>& asked, std::size_t group, looked_up& into) {
    std::size_t i = 0;
    for (std::size_t r = 0; r < asked.run_count; ++r) {
        const pixel_run run = asked.runs[r];
        const attribute_planes& planes = asked.planes[run.slot];
        const attribute_planes::group& of = planes.groups[group];
        const double y = run.y + 0.5;
        const double dy = y - planes.y;
        for (int l = 0; l < run.count; ++l, ++i) {
            const double x = run.x + l + 0.5;
            const double dx = x - planes.x;
            for (std::size_t j = 0; j < abreast; ++j) {
                into.values[i][j] = of.at[j] + of.across[j] * dx + of.down[j] * dy;
            }
            if constexpr (First) {
                into.x[i] = x;
                into.y[i] = y;
                into.depth[i] =
                    lesser(greater(into.values[i][0], planes.least), planes.most); // to be inverted
            }
        }
    }
}

template <class Scalar> void spread_points(const spread_request<Scalar>& asked) {
    looked_up points; // NOLINT: written before it is read
    std::array<double, point_room>& depth = points.depth;
    const std::size_t whole = whole_halves(asked.points);
    std::fill(depth.begin() + static_cast<std::ptrdiff_t>(asked.points),
              depth.begin() + static_cast<std::ptrdiff_t>(whole), 1.0);
    for (std::size_t group = 0; group * abreast <= asked.attributes; ++group) {
        if (group == 0) {
            look_up<true>(asked, group, points);
            invert(depth.data(), whole);
        } else {
            look_up<false>(asked, group, points);
        }
        for (std::size_t j = group == 0 ? 1 : 0; j < abreast && group * abreast + j <= asked.attributes;
             ++j) {
            Scalar* __restrict const into = asked.into[group * abreast + j - 1];
            for (std::size_t i = 0; i < whole; ++i) {
                into[i] = static_cast<Scalar>(points.values[i][j] * depth[i]);
            }
        }
    }
    if (asked.rays != nullptr) {
        const auto& [corner, right, down] = *asked.rays;
        const auto put = [&](double from, double across, double below, Scalar* __restrict into) {
            for (std::size_t i = 0; i < whole; ++i) {
                into[i] = static_cast<Scalar>((from + across * points.x[i] + below * points.y[i]) * depth[i]);
            }
        };
        put(corner.x, right.x, down.x, asked.position[0]);
        put(corner.y, right.y, down.y, asked.position[1]);
        put(corner.z, right.z, down.z, asked.position[2]);
    }
}

template <class Scalar> void spread(const spread_request<Scalar>& asked) {
    constexpr std::size_t long_enough = 4;
    if (asked.points >= long_enough * asked.run_count) {
        spread_runs(asked);
    } else {
        spread_points(asked);
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

// The least and the greatest of count numbers; the last batch overlaps others.
void enclose(const float* of, std::size_t count, float& low, float& high) {
    constexpr std::size_t step = lanes_of<real>;
    if (count < step) {
        low = *std::min_element(of, of + count);
        high = *std::max_element(of, of + count);
        return;
    }
    real least = load_from(of + count - step);
    real most = least;
    for (std::size_t i = 0; i + step <= count; i += step) {
        const real here = load_from(of + i);
        least = min(least, here);
        most = max(most, here);
    }
    alignas(64) std::array<float, step> lows;  // NOLINT: written at once
    alignas(64) std::array<float, step> highs; // NOLINT
    store_lanes(lows.data(), least);
    store_lanes(highs.data(), most);
    for (std::size_t width = step / 2; width > 0; width /= 2) {
        for (std::size_t l = 0; l < width; ++l) {
            lows[l] = lesser(lows[l], lows[l + width]);
            highs[l] = greater(highs[l], highs[l + width]);
        }
    }
    low = lows[0];
    high = highs[0];
}

box bounds(const float* x, const float* y, const float* z, std::size_t count) {
    box made;
    enclose(x, count, made.low[0], made.high[0]);
    enclose(y, count, made.low[1], made.high[1]);
    enclose(z, count, made.low[2], made.high[2]);
    return made;
}

// Infinities may meet zeros on the way when lights are beyond all measure; a picture holds no NaN.
void write(const color_lanes& a, const color_lanes& b, float alpha, std::size_t count, float* rgba) {
    std::size_t i = 0;
#if defined(__AVX512F__)
    const __m512 all_alphas = _mm512_set1_ps(alpha);
    const auto whole_part = [&](std::size_t k) {
        const __m512 sum = _mm512_add_ps(_mm512_loadu_ps(a[k] + i), _mm512_loadu_ps(b[k] + i));
        return _mm512_maskz_mov_ps(_mm512_cmp_ps_mask(sum, sum, _CMP_ORD_Q), sum);
    };
    for (; i + 16 <= count; i += 16) {
        const __m512 r = whole_part(0);
        const __m512 g = whole_part(1);
        const __m512 blue = whole_part(2);
        const __m512d rg_low = _mm512_castps_pd(_mm512_unpacklo_ps(r, g));
        const __m512d rg_high = _mm512_castps_pd(_mm512_unpackhi_ps(r, g));
        const __m512d ba_low = _mm512_castps_pd(_mm512_unpacklo_ps(blue, all_alphas));
        const __m512d ba_high = _mm512_castps_pd(_mm512_unpackhi_ps(blue, all_alphas));
        // Each holds every fourth pixel.
        const __m512d p0 = _mm512_unpacklo_pd(rg_low, ba_low);
        const __m512d p1 = _mm512_unpackhi_pd(rg_low, ba_low);
        const __m512d p2 = _mm512_unpacklo_pd(rg_high, ba_high);
        const __m512d p3 = _mm512_unpackhi_pd(rg_high, ba_high);
        const __m512d p01_low = _mm512_shuffle_f64x2(p0, p1, 0x44);
        const __m512d p01_high = _mm512_shuffle_f64x2(p0, p1, 0xEE);
        const __m512d p23_low = _mm512_shuffle_f64x2(p2, p3, 0x44);
        const __m512d p23_high = _mm512_shuffle_f64x2(p2, p3, 0xEE);
        auto* const to = reinterpret_cast<double*>(rgba + 4 * i); // NOLINT
        _mm512_storeu_pd(to, _mm512_shuffle_f64x2(p01_low, p23_low, 0x88));
        _mm512_storeu_pd(to + 8, _mm512_shuffle_f64x2(p01_low, p23_low, 0xDD));
        _mm512_storeu_pd(to + 16, _mm512_shuffle_f64x2(p01_high, p23_high, 0x88));
        _mm512_storeu_pd(to + 24, _mm512_shuffle_f64x2(p01_high, p23_high, 0xDD));
    }
#endif
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

const attribute_kernels& YURVO_KERNELS() {
    static constexpr attribute_kernels made{place, set, spread<float>, spread<double>, bounds, write};
    return made;
}

} // namespace yurvo::pipeline::wide
