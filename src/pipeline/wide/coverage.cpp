// See coverage.hpp. Triangles are made ready many at a time; then those of a few pixels are covered sixteen
// at a time, pixel by pixel of their boxes, and the others one by one, a batch of pixels of a row at a time.
#include "pipeline/wide/coverage.hpp"

#include <algorithm>
#include <bit>
#include <limits>

#include "pipeline/interpolation.hpp"
#include "pipeline/triangle_coverage.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/batches.hpp"
#include "pipeline/wide/cells.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/ready_triangles.hpp"
#include "pipeline/wide/tile_reading.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

namespace {

// A triangle of up to as many steps either way is covered together with others.
constexpr std::int32_t tiny = 4 * pixel;
constexpr std::int32_t large = 4096 * pixel; // see cover_large()

// Bit l is set where numbers[l] > 0.
std::uint32_t positive(const std::int32_t* numbers) {
    return bits_where([&](std::size_t l) { return load_lanes<whole>(numbers + l) > whole(0); });
}

// All of a triangle that lies in a tile, each row solved.
void cover_rows(const tile_view& tile, const snapped& a, const snapped& b, const snapped& c,
                const inverse_depth_plane& plane, std::int32_t triangle) {
    // Rows are solved from the tile's left border on: the tile's corner becomes the origin.
    const std::int64_t x = static_cast<std::int64_t>(tile.left) * steps_per_pixel;
    cells_of_rows cells(tile, plane, triangle);
    pipeline::cover(
        {a.x - x, a.y}, {b.x - x, b.y}, {c.x - x, c.y}, tile.width, tile.top + tile.height,
        [&](int y, int begin, int end) { cells.put(y, tile.left + begin, tile.left + end); }, tile.top);
    cells.cover();
}

// A triangle with a corner that cannot be projected: cut first, covered piece by piece.
void cover_cut(const tile_view& tile, const object_view& object, std::int32_t id) {
    const triangle& corners = object.triangles[id - object.first];
    const vec3<double> a = homogeneous_corner(object.to_pixels, object.positions[corners[0]]);
    const vec3<double> b = homogeneous_corner(object.to_pixels, object.positions[corners[1]]);
    const vec3<double> c = homogeneous_corner(object.to_pixels, object.positions[corners[2]]);
    depth_plane plane;
    if (!plane.set(a, b, c, tile.near)) {
        return;
    }
    const inverse_depth_plane here{0, 0, plane.origin, plane.across, plane.down, plane.least, plane.most};
    // Near is held pixel by pixel. Cutting only keeps what is behind the eye from being projected.
    in_snapped_pieces(
        a, b, c, tile.near * (1 - 0x1p-10),
        [&](const snapped& p, const snapped& q, const snapped& r) { cover_rows(tile, p, q, r, here, id); });
}

// Where no part of a box of pixels in the tile can be nearer than what is there already.
bool hidden(const tile_view& tile, const pixel_box& box, float most) {
    const int across = tile.coarse_across();
    for (int y = (box.top - tile.top) / 8; y <= (box.bottom - tile.top) / 8; ++y) {
        for (int x = (box.left - tile.left) / 8; x <= (box.right - tile.left) / 8; ++x) {
            if (!(most < tile.coarse[y * across + x])) {
                return false;
            }
        }
    }
    return true;
}

// One triangle: inside where value + across · columns + down · rows > 0 for all three edges, from its box's
// first pixel on. Columns of as many pixels as a batch has, row by row.
struct triangle_edges {
    std::array<std::int32_t, 3> value, across, down;
};

// Whether an edge has all of a cell outside, and all that follows it in its row: of a thin triangle a cell
// may have no pixel though others after it do.
inline bool left_behind(const cell_numbers& values, std::int32_t across) {
    bool outside = across <= 0;
    for (const whole& value : values) {
        outside = outside && all_of(value <= whole(0));
    }
    return outside;
}

// Copies, most of them: what is stored must not be taken for what is read, cell after cell.
void cover_box(const tile_view tile, const pixel_box box, const triangle_edges edges,
               const inverse_depth_plane plane, std::int32_t id) {
    // The first cell begins up to three pixels before the box. What lies beside the box lies outside an edge.
    const int before = (box.left - tile.left) & in_cell;
    const int above = (box.top - tile.top) & in_cell;
    const int left = box.left - before;
    uninitialized<std::array<cell_numbers, 3>> begin;
    const cell_numbers columns = numbers_in_cell(columns_in_cell.data());
    const cell_numbers rows = numbers_in_cell(rows_in_cell.data());
    for (std::size_t k = 0; k < 3; ++k) {
        const std::int32_t value = edges.value[k] - edges.across[k] * before - edges.down[k] * above;
        for (std::size_t p = 0; p < parts; ++p) {
            begin[k][p] = whole(value) + whole(edges.across[k]) * columns[p] + whole(edges.down[k]) * rows[p];
        }
    }
    const auto step = [&](cell_numbers& values, std::int32_t by) {
        for (whole& value : values) {
            value += whole(by * cell);
        }
    };
    const column_reals first_centres = centres_from(left);
    std::ptrdiff_t first = tile.place(left, box.top - above);
    for (int y = box.top - above; y <= box.bottom; y += cell) {
        const cell_reals in_row = in_rows(plane, y);
        cell_numbers a = begin[0];
        cell_numbers b = begin[1];
        cell_numbers c = begin[2];
        std::ptrdiff_t place = first;
        column_reals centres = first_centres;
        bool inside_before = false;
        for (int x = left; x <= box.right; x += cell) {
            bool any = false;
            for (std::size_t p = 0; p < parts; ++p) {
                const auto inside = least_of(a[p], least_of(b[p], c[p])) > whole(0);
                if (any_of(inside)) {
                    any = true;
                    keep_nearest(tile, place, p, in_row, along_columns(plane, centres), plane, id, inside);
                }
            }
            if (any) {
                inside_before = true;
            } else if (inside_before && (left_behind(a, edges.across[0]) || left_behind(b, edges.across[1]) ||
                                         left_behind(c, edges.across[2]))) {
                break;
            }
            step(a, edges.across[0]);
            step(b, edges.across[1]);
            step(c, edges.across[2]);
            to_next_cell(centres);
            place += cell_pixels;
        }
        step(begin[0], edges.down[0]);
        step(begin[1], edges.down[1]);
        step(begin[2], edges.down[2]);
        first += static_cast<std::ptrdiff_t>(tile.cells_across) * cell_pixels;
    }
}

// One of up to 4096 pixels. An edge's values at all centres are alike modulo 256, so a 256th of each, rounded
// up, is positive where the value is. Within a tile of at most 256 pixels, three around the box, it changes
// by less than (262 + 262) · 2^20 < 2^30: what is farther from 0 than that at its corner keeps its sign.
void cover_large(const tile_view& tile, const ready_triangles& ready, std::size_t t, const pixel_box& box,
                 std::int32_t id) {
    uninitialized<triangle_edges> edges;
    for (std::size_t k = 0; k < 3; ++k) {
        const std::size_t next = (k + 1) % 3;
        const std::int32_t dx = ready.x[next][t] - ready.x[k][t];
        const std::int32_t dy = ready.y[next][t] - ready.y[k][t];
        const std::int64_t top_left = dy < 0 || (dy == 0 && dx > 0) ? 1 : 0;
        const std::int64_t value = std::int64_t{dx} * (box.top * pixel + centre_in_steps - ready.y[k][t]) -
                                   std::int64_t{dy} * (box.left * pixel + centre_in_steps - ready.x[k][t]) +
                                   top_left;
        constexpr std::int64_t far = std::int64_t{1} << 30;
        edges.value[k] =
            static_cast<std::int32_t>(std::clamp(floor_divide(value + pixel - 1, pixel), -far, far));
        edges.across[k] = -dy;
        edges.down[k] = dx;
    }
    cover_box(tile, box, edges, ready.plane(t), id);
}

// Sixteen triangles of a few pixels each, from `from` on: one pixel of each one's box at a time.
void cover_tiny(const tile_view& tile, const ready_triangles& ready, std::size_t from,
                const std::uint32_t* ids) {
    alignas(64) uninitialized<lane_numbers> columns;
    alignas(64) uninitialized<lane_numbers> rows;
    std::int32_t most_columns = 0;
    std::int32_t most_rows = 0;
    for (std::size_t l = 0; l < lanes; ++l) {
        const std::size_t t = from + l;
        const std::int32_t kept = ready.extent[t] <= tiny ? -1 : 0; // all bits, or none
        columns[l] = (ready.right[t] - ready.left[t] + 1) & kept;
        rows[l] = (ready.bottom[t] - ready.top[t] + 1) & kept;
        most_columns = greater(most_columns, columns[l]);
        most_rows = greater(most_rows, rows[l]);
    }
    alignas(64) uninitialized<std::array<lane_numbers, 3>> edge;
    alignas(64) uninitialized<std::array<double, lanes>> in_row;
    alignas(64) uninitialized<std::array<float, lanes>> here;
    alignas(64) uninitialized<lane_numbers> inside;
    for (std::int32_t row = 0; row < most_rows; ++row) {
        for (std::size_t l = 0; l < lanes; ++l) {
            const std::size_t t = from + l;
            for (std::size_t k = 0; k < 3; ++k) {
                edge[k][l] = ready.edge[k][t] + ready.edge_down[k][t] * row;
            }
            in_row[l] = ready.at[t] + ready.down[t] * (ready.top[t] + row + 0.5 - ready.y0[t]);
        }
        for (std::int32_t column = 0; column < most_columns; ++column) {
            for (std::size_t l = 0; l < lanes; ++l) {
                const std::int32_t within = lesser(columns[l] - column, rows[l] - row);
                inside[l] = lesser(lesser(edge[0][l], edge[1][l]), lesser(edge[2][l], within));
                edge[0][l] += ready.edge_across[0][from + l];
                edge[1][l] += ready.edge_across[1][from + l];
                edge[2][l] += ready.edge_across[2][from + l];
            }
            std::uint32_t covered = positive(inside.data());
            if (covered == 0) {
                continue;
            }
            for (std::size_t l = 0; l < lanes; ++l) {
                const std::size_t t = from + l;
                const auto unclamped = static_cast<float>(
                    in_row[l] + ready.across[t] * (ready.left[t] + column + 0.5 - ready.x0[t]));
                here[l] = lesser(greater(unclamped, ready.least[t]), ready.most[t]);
            }
            for (; covered != 0; covered &= covered - 1) {
                const auto l = static_cast<std::size_t>(std::countr_zero(covered));
                const std::size_t t = from + l;
                const auto id = static_cast<std::int32_t>(ids[t]);
                const std::ptrdiff_t place = tile.place(ready.left[t] + column, ready.top[t] + row);
                const float there = tile.inverse_depth[place];
                if (here[l] <= tile.nearest &&
                    (here[l] > there || (here[l] == there && id < tile.seen[place]))) {
                    tile.inverse_depth[place] = here[l];
                    tile.seen[place] = id;
                }
            }
        }
    }
}

void cover_ready(const tile_view& tile, const object_view& object, const ready_triangles& ready,
                 const std::uint32_t* ids, std::size_t count) {
    for (std::size_t from = 0; from < count; from += lanes) {
        bool any_tiny = false;
        for (std::size_t t = from; t < std::min(count, from + lanes); ++t) {
            if (ready.empty(t)) {
                continue;
            }
            const auto id = static_cast<std::int32_t>(ids[t]);
            const pixel_box box{ready.left[t], ready.top[t], ready.right[t], ready.bottom[t]};
            if (ready.what[t] == static_cast<std::int32_t>(fate::cut)) {
                cover_cut(tile, object, id);
            } else if (ready.extent[t] <= tiny) {
                any_tiny = true;
            } else if (ready.extent[t] <= small) {
                const auto value = [&](const by_corner<std::int32_t>& each) {
                    return std::array<std::int32_t, 3>{each[0][t], each[1][t], each[2][t]};
                };
                cover_box(tile, box, {value(ready.edge), value(ready.edge_across), value(ready.edge_down)},
                          ready.plane(t), id);
            } else if (ready.extent[t] <= large) {
                cover_large(tile, ready, t, box, id);
            } else {
                const auto corner = [&](std::size_t k) { return snapped{ready.x[k][t], ready.y[k][t]}; };
                cover_rows(tile, corner(0), corner(1), corner(2), ready.plane(t), id);
            }
        }
        if (any_tiny) {
            cover_tiny(tile, ready, from, ids);
        }
    }
}

void cover_all(const cover_request& request, const tile_view& tile) {
    uninitialized<ready_triangles> ready;
    std::size_t object = 0;
    for (std::size_t begin = 0; begin < request.count;) {
        object = object_of(static_cast<std::int32_t>(request.triangles[begin]), request.objects,
                           request.object_count, object);
        const object_view& the_view = request.objects[object];
        std::size_t end = begin + 1;
        while (end < request.count && end - begin < at_once &&
               static_cast<std::int32_t>(request.triangles[end]) >= the_view.first &&
               static_cast<std::int32_t>(request.triangles[end]) < the_view.end) {
            ++end;
        }
        make_ready(the_view, tile, request.triangles + begin, end - begin, ready);
        // The last, repeated to fill a batch, is not drawn again.
        for (std::size_t t = end - begin; t % lanes != 0; ++t) {
            ready.right[t] = ready.left[t] - 1;
        }
        cover_ready(tile, the_view, ready, request.triangles + begin, end - begin);
        begin = end;
    }
}

void cover_backs(const back_cluster& cluster, const object_view& object, const tile_view& tile) {
    const pixel_box here{std::max(cluster.box.left, tile.left), std::max(cluster.box.top, tile.top),
                         std::min(cluster.box.right, tile.left + tile.width - 1),
                         std::min(cluster.box.bottom, tile.top + tile.height - 1)};
    if (hidden(tile, here, cluster.inverse_depth)) {
        return;
    }
    uninitialized<some<std::uint32_t>> ids;
    for (std::size_t t = 0; t < at_once; ++t) {
        ids[t] = static_cast<std::uint32_t>(cluster.first) + static_cast<std::uint32_t>(t);
    }
    const auto count = static_cast<std::size_t>(cluster.count);
    uninitialized<ready_triangles> ready;
    make_ready(object, tile, ids.data(), count, ready);
    for (std::size_t t = 0; t < (count + lanes - 1) / lanes * lanes; ++t) {
        const bool counts =
            t < count && !ready.empty(t) &&
            (cluster.put_off || ready.what[t] == static_cast<std::int32_t>(fate::back)) &&
            !hidden(tile, {ready.left[t], ready.top[t], ready.right[t], ready.bottom[t]}, ready.most[t]);
        ready.right[t] = counts ? ready.right[t] : ready.left[t] - 1;
    }
    cover_ready(tile, object, ready, ids.data(), count);
}

void clear(const tile_view& tile, float background) {
    std::fill_n(tile.inverse_depth, tile.pixels(), background);
    std::fill_n(tile.seen, tile.pixels(), -1);
    // Beyond the tile something nearer than all else is there already.
    const int right = tile.left + tile.cells_across * cell;
    const int bottom = tile.top + tile.cells_down * cell;
    for (int y = tile.top; y < bottom; ++y) {
        for (int x = y < tile.top + tile.height ? tile.left + tile.width : tile.left; x < right; ++x) {
            tile.inverse_depth[tile.place(x, y)] = std::numeric_limits<float>::infinity();
        }
    }
}

} // namespace

const coverage_kernels& YURVO_KERNELS() {
    static constexpr coverage_kernels result{clear,   cover_all, cover_backs, farthest,
                                             coarsen, split,     take_apart};
    return result;
}

} // namespace yurvo::inline v0_1::pipeline::wide
