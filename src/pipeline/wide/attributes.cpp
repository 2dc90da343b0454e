// See attributes.hpp. Plain loops, which the compiler turns into whichever batches the instruction set has.
#include "pipeline/wide/attributes.hpp"

#include <algorithm>
#include <cmath>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/bounds.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/operations.hpp"
#include "pipeline/wide/pixel_writing.hpp"
#include "pipeline/wide/sampling.hpp"
#include "pipeline/wide/square_planes.hpp"
#include "pipeline/wide/square_spreading.hpp"
#include "pipeline/wide/turned_normal.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

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
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double>& at = object.positions[corners[k]];
            batch.x[k][l] = at.x;
            batch.y[k][l] = at.y;
            batch.inverse_depth[k][l] = at.z;
        }
    }
    alignas(64) uninitialized<plane_batch::each<double>> astray;
    std::fill(astray.begin(), astray.end(), 0.0);
    for (std::size_t k = 0; k < 3; ++k) {
        plane_batch::each<double>& x = batch.x[k];
        plane_batch::each<double>& y = batch.y[k];
        plane_batch::each<double>& inverse_depth = batch.inverse_depth[k];
        for (std::size_t l = 0; l < lanes; ++l) {
            const vec3<double> p = homogeneous_corner(object.to_pixels, {x[l], y[l], inverse_depth[l]});
            const vec3<double> at = on_picture(p);
            astray[l] = can_be_projected(p, object.near) ? astray[l] : 1;
            x[l] = at.x;
            y[l] = at.y;
            inverse_depth[l] = at.z;
        }
    }
    for (std::size_t l = 0; l < lanes; ++l) {
        const double area = (batch.x[1][l] - batch.x[0][l]) * (batch.y[2][l] - batch.y[0][l]) -
                            (batch.y[1][l] - batch.y[0][l]) * (batch.x[2][l] - batch.x[0][l]);
        batch.front[l] = (area < 0) != object.mirrored;
        batch.behind[l] = astray[l] > 0;
    }
}

void turn_normals(plane_batch& batch, std::size_t lanes) {
    alignas(64) uninitialized<plane_batch::each<double>> sign;
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
    if (batch.layout.normals) {
        turn_normals(batch, lanes);
    }
    const std::size_t attributes = batch.layout.count();
    // Nearness, then the attributes.
    alignas(64) uninitialized<std::array<plane_batch::by_corner<double>, most_attributes + 1>> result;
    alignas(64) uninitialized<plane_batch::each<double>> least;
    alignas(64) uninitialized<plane_batch::each<double>> most;
    alignas(64) uninitialized<plane_batch::each<double>> thinness;
    alignas(64) uninitialized<plane_batch::each<double>> size;
    const auto& x = batch.x;
    const auto& y = batch.y;
    const auto& n = batch.inverse_depth;
    // The screen's weights of b and c are planes that are 1 there and 0 at the other corners.
    alignas(64) uninitialized<std::array<plane_batch::each<double>, 2>> of_b;
    alignas(64) uninitialized<std::array<plane_batch::each<double>, 2>> of_c;
    for (std::size_t l = 0; l < lanes; ++l) {
        const double ux = x[1][l] - x[0][l];
        const double uy = y[1][l] - y[0][l];
        const double vx = x[2][l] - x[0][l];
        const double vy = y[2][l] - y[0][l];
        const double area = ux * vy - uy * vx;
        const double longest = greater(
            ux * ux + uy * uy, greater(vx * vx + vy * vy, (ux - vx) * (ux - vx) + (uy - vy) * (uy - vy)));
        size[l] = std::abs(area);
        thinness[l] = area * area - thin * thin * longest;
        const double value = 1 / area;
        of_b[0][l] = vy * value;
        of_b[1][l] = -vx * value;
        of_c[0][l] = -uy * value;
        of_c[1][l] = ux * value;
        least[l] = beyond_least * lesser(n[0][l], lesser(n[1][l], n[2][l]));
        most[l] = beyond_most * greater(n[0][l], greater(n[1][l], n[2][l]));
    }
    for (std::size_t a = 0; a <= attributes; ++a) {
        plane_batch::by_corner<double>& into = result[a];
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
    const auto least_of = [&](std::size_t attribute, std::size_t l) {
        const plane_batch::by_corner<double>& at = batch.values[attribute];
        return lesser(std::abs(at[0][l]), lesser(std::abs(at[1][l]), std::abs(at[2][l])));
    };
    const auto most_of = [&](std::size_t attribute, std::size_t l) {
        const plane_batch::by_corner<double>& at = batch.values[attribute];
        return greater(std::abs(at[0][l]), greater(std::abs(at[1][l]), std::abs(at[2][l])));
    };
    for (std::size_t l = 0; l < batch.count; ++l) {
        attribute_planes& planes = *batch.into[l];
        planes.x = x[0][l];
        planes.y = y[0][l];
        planes.least = least[l];
        planes.most = most[l];
        for (std::size_t a = 0; a <= attributes; ++a) {
            planes.set(a, {result[a][0][l], result[a][1][l], result[a][2][l]});
        }
        for (std::size_t a = attributes + 1; batch.layout.extras() && a <= most_attributes; ++a) {
            planes.set(a, {}); // looked at with the others
        }
        for (std::size_t k = 0; !batch.layout.normals && k < first_attributes; ++k) {
            planes.least_of_first[k] = least_of(k, l);
        }
        for (std::size_t k = 0; batch.layout.more && k < more_attributes; ++k) {
            planes.size_of_more[k] =
                batch.layout.normals ? least_of(more_at + k, l) : most_of(more_at + k, l);
        }
        planes.front = batch.front[l];
        planes.one_by_one = !(thinness[l] > 0);
        planes.few_pixels = size[l] < 2 * few;
    }
}

constexpr std::size_t step = lanes_of<wide_real>;

// Both ways to spread work every number out in the same order: a point's digits are its own, whatever is
// worked out together with it.

// One triangle's planes over the pixels of a run, whose points are from `first` on: so many batches of them.
template <std::size_t Batches, bool Normals, class Scalar>
[[gnu::always_inline]] inline void spread_run(const spread_request<Scalar>& wanted, const pixel_run& run,
                                              std::size_t first) {
    uninitialized<std::array<wide_real, Batches>> x;
    uninitialized<std::array<wide_real, Batches>> dx;
    uninitialized<std::array<wide_real, Batches>> depth;
    const attribute_planes& planes = wanted.planes[run.slot];
    const double y = run.y + 0.5;
    const double dy = y - planes.y;
    const wide_real begin(run.x + 0.5);
    const wide_real from(planes.x);
    const auto in_row = [](const plane_over_pixels& plane, double below) {
        return wide_real(multiply_add(plane.down, below, plane.at));
    };
    const plane_over_pixels inverse_depth = planes.plane(0);
    const wide_real here = in_row(inverse_depth, dy);
    for (std::size_t i = 0; i < Batches; ++i) {
        x[i] = load_lanes<wide_real>(lane_number.data() + i * step) + begin;
        dx[i] = x[i] - from;
        const wide_real unclamped = multiply_add(wide_real(inverse_depth.across), dx[i], here);
        depth[i] = inverse(min(max(unclamped, wide_real(planes.least)), wide_real(planes.most)));
    }
    const auto put_plane = [&](const plane_over_pixels& plane, const std::array<wide_real, Batches>& across,
                               double below, Scalar* into) {
        const wide_real there = in_row(plane, below);
        for (std::size_t i = 0; i < Batches; ++i) {
            put(multiply_add(wide_real(plane.across), across[i], there) * depth[i], into + i * step);
        }
    };
    for (std::size_t a = 0; a < first_attributes; ++a) { // of known length: unrolled
        put_plane(planes.plane(a + 1), dx, dy, wanted.first[a] + first);
    }
    if constexpr (Normals) {
        const auto& [corner, right, down] = *wanted.rays;
        put_plane({corner.x, right.x, down.x}, x, y, wanted.position[0] + first);
        put_plane({corner.y, right.y, down.y}, x, y, wanted.position[1] + first);
        put_plane({corner.z, right.z, down.z}, x, y, wanted.position[2] + first);
    }
}

// One run in doubles, as long as it is.
template <bool Normals, class Scalar>
[[gnu::always_inline]] inline void spread_whole_run(const spread_request<Scalar>& request,
                                                    const pixel_run& run, std::size_t first) {
    if (run.count <= static_cast<int>(half)) {
        spread_run<half / step, Normals>(request, run, first);
    } else {
        spread_run<2 * half / step, Normals>(request, run, first);
    }
}

template <bool Normals, class Scalar> void spread_runs(const spread_request<Scalar>& request) {
    std::size_t first = 0;
    for (std::size_t r = 0; r < request.run_count; ++r) {
        const pixel_run& run = request.runs[r];
        spread_whole_run<Normals>(request, run, first);
        first += static_cast<std::size_t>(run.count);
    }
}

// Short runs: every point looks its own triangle's planes up, and four of them give their values together:
// inverse_depth and the first numbers.
constexpr std::size_t abreast = attribute_planes::abreast;
static_assert(abreast == 1 + first_attributes);
constexpr std::size_t point_room = 320; // a block's points, and a whole run more
struct looked_up {
    alignas(64) std::array<double, point_room> x, y, depth;
    alignas(64) std::array<std::array<double, abreast>, point_room> values;
};

// The values, the points' places and their clamped inverse_depth.
template <class Scalar> void look_up(const spread_request<Scalar>& request, looked_up& into) {
    std::size_t i = 0;
    for (std::size_t r = 0; r < request.run_count; ++r) {
        const pixel_run run = request.runs[r];
        const attribute_planes& planes = request.planes[run.slot];
        const attribute_planes::group& value = planes.groups[0];
        const double y = run.y + 0.5;
        const double dy = y - planes.y;
        for (int l = 0; l < run.count; ++l, ++i) {
            const double x = run.x + l + 0.5;
            const double dx = x - planes.x;
            for (std::size_t j = 0; j < abreast; ++j) {
                into.values[i][j] =
                    multiply_add(value.across[j], dx, multiply_add(value.down[j], dy, value.at[j]));
            }
            into.x[i] = x;
            into.y[i] = y;
            into.depth[i] = lesser(greater(into.values[i][0], planes.least), planes.most); // to be inverted
        }
    }
}

template <class Scalar> void spread_points(const spread_request<Scalar>& request) {
    uninitialized<looked_up> points;
    std::array<double, point_room>& depth = points.depth;
    const std::size_t whole = whole_halves(request.points);
    for (std::size_t i = request.points; i < whole;
         ++i) { // what fills a batch up is worked on, and goes nowhere
        depth[i] = 1;
        points.x[i] = points.y[i] = 0;
        points.values[i] = {};
    }
    look_up(request, points);
    for (std::size_t i = 0; i < whole; i += step) {
        store_lanes(depth.data() + i, inverse(load_lanes<wide_real>(depth.data() + i)));
    }
    for (std::size_t a = 0; a < first_attributes; ++a) {
        Scalar* __restrict const into = request.first[a];
        for (std::size_t i = 0; i < whole; ++i) {
            into[i] = static_cast<Scalar>(points.values[i][a + 1] * depth[i]);
        }
    }
    if (request.layout.normals) {
        const auto& [corner, right, down] = *request.rays;
        const auto put_ray = [&](double from, double across, double below, Scalar* __restrict into) {
            for (std::size_t i = 0; i < whole; ++i) {
                into[i] = static_cast<Scalar>(
                    multiply_add(across, points.x[i], multiply_add(below, points.y[i], from)) * depth[i]);
            }
        };
        put_ray(corner.x, right.x, down.x, request.position[0]);
        put_ray(corner.y, right.y, down.y, request.position[1]);
        put_ray(corner.z, right.z, down.z, request.position[2]);
    }
}

// Square by square: first the planes that are new there, one after the other, which leaves the processor
// several to work on. False where no triangle has such planes: then nothing has been done.
template <bool Normals> bool spread_squares(const spread_request<float>& request) {
    std::int32_t rays_of = no_square;
    square_rays rays;
    const auto prepare = [&](const pixel_run& run, std::int32_t here, std::int32_t& of_slot) {
        if (here != rays_of) {
            rays_of = here;
            rays = square_rays(*request.rays, run.x, run.y);
        }
        of_slot = set_all_of_square<Normals>(request, run.slot, rays, here);
    };
    const pixel_run* const end = request.runs + request.run_count;
    bool any = false;
    for (const pixel_run* run = request.runs; run < end; ++run) {
        std::int32_t& of_slot = request.square[run->slot];
        if (of_slot != always_doubles) {
            any = true;
            const std::int32_t here = square_of(*run);
            if ((of_slot & which_square) != here) {
                prepare(*run, here, of_slot);
            }
        }
    }
    if (!any) {
        return false;
    }
    std::size_t first = 0;
    for (const pixel_run* each = request.runs; each < end; ++each) {
        const pixel_run run = *each;
        const std::int32_t here = square_of(run);
        std::int32_t& of_slot = request.square[run.slot];
        if (of_slot != always_doubles &&
            (of_slot & which_square) != here) { // the block holds parts of two squares
            prepare(run, here, of_slot);
        }
        if ((of_slot & ~extras_in_doubles) == here) {
            spread_over_square<Normals>(request, run, first);
        } else {
            spread_whole_run<Normals>(request, run, first);
        }
        if (request.layout.extras()) {
            if ((of_slot & ~first_in_doubles) == here) {
                spread_extras_over_square(request, run, first);
            } else {
                spread_extras_of_run(request, run, first);
            }
        }
        first += static_cast<std::size_t>(run.count);
    }
    return true;
}

template <bool Normals, class Scalar> void spread_all(const spread_request<Scalar>& request) {
    if constexpr (std::is_same_v<Scalar, float>) {
        if (request.in_square != nullptr && spread_squares<Normals>(request)) {
            return;
        }
    }
    constexpr std::size_t long_enough = 2;
    if (request.points >= long_enough * request.run_count) {
        spread_runs<Normals>(request);
    } else {
        spread_points(request);
    }
    if (request.layout.extras()) {
        spread_extras(request);
    }
}

template <class Scalar> void spread(const spread_request<Scalar>& request) {
    (request.layout.normals ? spread_all<true, Scalar> : spread_all<false, Scalar>)(request);
}

} // namespace

const attribute_kernels& YURVO_KERNELS() {
    static constexpr attribute_kernels result{place,         set,          spread<float>, spread<double>,
                                              spread_square, flat_square,  sample,        bounds,
                                              write,         write_square, fill};
    return result;
}

} // namespace yurvo::inline v0_1::pipeline::wide
