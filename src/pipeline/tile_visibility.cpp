#include "pipeline/tile_visibility.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>

#include "pipeline/field_rays.hpp"
#include "pipeline/triangle_coverage.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/visibility.hpp"

namespace yurvo::inline v0_1::pipeline {

void lay_out(const stage& from, projected_scene& into) {
    into.objects.resize(from.objects.size());
    into.first_vertex.assign(1, 0);
    for (const staged_object& object : from.objects) {
        into.first_vertex.push_back(into.first_vertex.back() + object.shape->positions.size());
    }
    wide::steps* const at = into.at.reserve(into.first_vertex.back());
    float* const inverse_depth = into.inverse_depth.reserve(into.first_vertex.back());
    std::int32_t first = 0;
    for (std::size_t o = 0; o < from.objects.size(); ++o) {
        const staged_object& object = from.objects[o];
        wide::object_view& view = into.objects[o];
        view.first = first;
        first += object.field ? 1 : static_cast<std::int32_t>(object.shape->triangles.size());
        view.end = first;
        view.triangles = object.shape->triangles.data();
        view.positions = object.shape->positions.data();
        view.at = at + into.first_vertex[o];
        view.inverse_depth = inverse_depth + into.first_vertex[o];
        view.mirrored = object.mirrored;
        // Near is held pixel by pixel; a triangle is only cut where a corner could not be projected well.
        view.near = from.seen_from.near * (1 - 0x1p-10);
        const pixel_matrix to_pixels = object_to_pixels(object.to_world, from.seen_from);
        std::copy(to_pixels.begin(), to_pixels.end(), view.to_pixels.begin());
    }
}

std::array<double, 9> rows_of(const matrix3& matrix) {
    std::array<double, 9> rows{};
    for (std::size_t r = 0; r < 3; ++r) {
        for (std::size_t c = 0; c < 3; ++c) {
            rows[3 * r + c] = matrix(r, c);
        }
    }
    return rows;
}

void project_run(const stage& from, const wide::kernels& kernels, projected_scene& into, std::size_t o,
                 std::size_t begin, std::size_t end) {
    const staged_object& object = from.objects[o];
    const std::size_t at = into.first_vertex[o] + begin;
    wide::vertex_run run;
    run.positions = object.shape->positions.data() + begin;
    run.count = end - begin;
    run.to_pixels = into.objects[o].to_pixels;
    run.near = into.objects[o].near;
    run.at = into.at.reserve(0) + at;
    run.inverse_depth = into.inverse_depth.reserve(0) + at;
    kernels.vertices.project(run);
}

namespace {

using wide::pixel_box;

// The pixels around what is left of a triangle that had to be cut.
pixel_box box_of_cut(const wide::object_view& object, const triangle& corners, double near,
                     const tile_grid& grid) {
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(object.to_pixels, object.positions[corners[k]]);
    };
    const clipped_polygon polygon(corner(0), corner(1), corner(2), near * (1 - 0x1p-10));
    double low_x = grid.width;
    double low_y = grid.height;
    double high_x = -1;
    double high_y = -1;
    for (const homogeneous& p : polygon.corners()) {
        low_x = std::min(low_x, p.x / p.z);
        low_y = std::min(low_y, p.y / p.z);
        high_x = std::max(high_x, p.x / p.z);
        high_y = std::max(high_y, p.y / p.z);
    }
    const auto within = [](double value, int most) {
        return static_cast<int>(std::clamp(value, -1.0, 1.0 * most));
    };
    return {std::max(0, within(std::floor(low_x) - 1, grid.width)),
            std::max(0, within(std::floor(low_y) - 1, grid.height)),
            std::min(grid.width - 1, within(std::ceil(high_x) + 1, grid.width)),
            std::min(grid.height - 1, within(std::ceil(high_y) + 1, grid.height))};
}

} // namespace

namespace {

tile_bins& bins_of_thread(const tile_grid& grid, projected_scene& into) {
    tile_bins& bins = into.bins.local();
    if (bins.front.size() < grid.count()) {
        bins.front.resize(grid.count());
        bins.back.resize(grid.count());
    }
    return bins;
}

void put(const tile_grid& grid, const pixel_box& box, std::vector<std::vector<std::uint32_t>>& lists,
         std::uint32_t number) {
    for (int y = box.top >> grid.shift; y <= box.bottom >> grid.shift; ++y) {
        for (int x = box.left >> grid.shift; x <= box.right >> grid.shift; ++x) {
            lists[static_cast<std::size_t>(y) * static_cast<std::size_t>(grid.across) +
                  static_cast<std::size_t>(x)]
                .push_back(number);
        }
    }
}

void put_back(const tile_grid& grid, const wide::back_cluster& cluster, std::size_t o, tile_bins& bins) {
    put(grid, cluster.box, bins.back, static_cast<std::uint32_t>(bins.clusters.size()));
    bins.clusters.push_back({cluster, o});
}

// Several threads may say so of one block; none asks before all are done.
void say_needed(unsigned char& block) { std::atomic_ref(block).store(1, std::memory_order_relaxed); }

void say_needed(const mesh& shape, const triangle_cluster& cluster, std::size_t triangle, std::size_t count,
                std::vector<unsigned char>& blocks) {
    if (cluster.block_count <= cluster.blocks.size()) {
        for (std::size_t i = 0; i < cluster.block_count; ++i) {
            say_needed(blocks[cluster.blocks[i]]);
        }
        return;
    }
    for (std::size_t t = triangle; t < triangle + count; ++t) {
        for (const std::uint32_t corner : shape.triangles[t]) {
            say_needed(blocks[corner / mesh_clusters::vertices_each_block]);
        }
    }
}

} // namespace

void sort_cluster_run(const tile_grid& grid, const stage& from, const wide::kernels& kernels,
                      projected_scene& into, std::size_t o, std::size_t begin, std::size_t end) {
    tile_bins& bins = bins_of_thread(grid, into);
    const staged_object& object = from.objects[o];
    const wide::object_view& view = into.objects[o];
    wide::cluster_run run;
    run.to_pixels = view.to_pixels;
    run.near = view.near;
    run.eye = transform_point(inverse(object.to_world), from.seen_from.eye);
    run.width = grid.width;
    run.height = grid.height;
    uninitialized<wide::sorted_clusters> sorted;
    for (std::size_t first = begin; first < end; first += wide::triangles_at_once) {
        run.clusters = object.clusters->list.data() + first;
        run.count = std::min(wide::triangles_at_once, end - first);
        kernels.vertices.sort_clusters(run, sorted);
        for (std::size_t i = 0; i < run.count; ++i) {
            const std::size_t triangle = (first + i) * mesh_clusters::triangles_each;
            const std::size_t count =
                std::min(mesh_clusters::triangles_each, object.shape->triangles.size() - triangle);
            if (sorted.what[i] == wide::fate::front) {
                into.sorted_clusters[first + i] = 1;
                say_needed(*object.shape, run.clusters[i], triangle, count, into.needed_blocks);
            } else if (sorted.what[i] == wide::fate::back) {
                put_back(grid,
                         {view.first + static_cast<std::int32_t>(triangle),
                          static_cast<std::int32_t>(count),
                          {sorted.left[i], sorted.top[i], sorted.right[i], sorted.bottom[i]},
                          sorted.inverse_depth[i],
                          true},
                         o, bins);
            }
        }
    }
}

void sort_run(const tile_grid& grid, const stage& from, const wide::kernels& kernels, projected_scene& into,
              std::size_t o, std::size_t begin, std::size_t end) {
    tile_bins& bins = bins_of_thread(grid, into);
    const wide::object_view& object = into.objects[o];
    const bool clustered = from.objects[o].clusters != nullptr;
    static_assert(wide::triangles_at_once == mesh_clusters::triangles_each);
    uninitialized<wide::sorted_triangles> sorted;
    for (std::size_t at = begin; at < end; at += wide::triangles_at_once) {
        if (clustered && into.sorted_clusters[at / mesh_clusters::triangles_each] == 0) {
            continue;
        }
        wide::triangle_run run;
        run.triangles = object.triangles + at;
        run.count = std::min(wide::triangles_at_once, end - at);
        run.at = object.at;
        run.inverse_depth = object.inverse_depth;
        run.width = grid.width;
        run.height = grid.height;
        run.mirrored = object.mirrored;
        kernels.vertices.sort(run, sorted);
        const auto first = static_cast<std::uint32_t>(object.first) + static_cast<std::uint32_t>(at);
        if (sorted.any_back) {
            put_back(grid,
                     {static_cast<std::int32_t>(first), static_cast<std::int32_t>(run.count), sorted.back,
                      sorted.back_inverse_depth},
                     o, bins);
        }
        for (std::size_t i = 0; sorted.any_shown && i < run.count; ++i) {
            const auto what = static_cast<wide::fate>(sorted.what[i]);
            const std::uint32_t id = first + static_cast<std::uint32_t>(i);
            if (what == wide::fate::front) {
                put(grid, {sorted.left[i], sorted.top[i], sorted.right[i], sorted.bottom[i]}, bins.front, id);
            } else if (what == wide::fate::cut) {
                const pixel_box box = box_of_cut(object, object.triangles[at + i], from.seen_from.near, grid);
                if (box.left <= box.right && box.top <= box.bottom) {
                    put(grid, box, bins.front, id);
                }
            }
        }
    }
}

namespace {

// The pixels that a field can be seen at: those around its box.
pixel_box pixels_around(const staged_object& object, const camera& seen_from) {
    const bounds box = bounds_of(*object.field);
    const pixel_box whole{0, 0, seen_from.width - 1, seen_from.height - 1};
    double low_x = seen_from.width;
    double low_y = seen_from.height;
    double high_x = 0;
    double high_y = 0;
    for (unsigned corner = 0; corner < 8; ++corner) {
        const vec3<double> at{(corner & 1U) != 0 ? box.high.x : box.low.x,
                              (corner & 2U) != 0 ? box.high.y : box.low.y,
                              (corner & 4U) != 0 ? box.high.z : box.low.z};
        const homogeneous p = seen_from.to_pixels(transform_point(object.to_world, at) - seen_from.eye);
        if (p.z < seen_from.near) {
            return whole;
        }
        low_x = std::min(low_x, p.x / p.z);
        low_y = std::min(low_y, p.y / p.z);
        high_x = std::max(high_x, p.x / p.z);
        high_y = std::max(high_y, p.y / p.z);
    }
    const auto within = [](double value, int most) {
        return static_cast<int>(std::clamp(value, 0.0, 1.0 * most));
    };
    return {within(std::floor(low_x) - 1, whole.right), within(std::floor(low_y) - 1, whole.bottom),
            within(std::ceil(high_x) + 1, whole.right), within(std::ceil(high_y) + 1, whole.bottom)};
}

void cover_field(const stage& from, const wide::field_kernels& kernels, std::size_t o, std::int32_t id,
                 const wide::tile_view& into) {
    const field_rays rays(from.objects[o], from.seen_from);
    const pixel_box box = pixels_around(from.objects[o], from.seen_from);
    const bounds around = bounds_of(rays.of);
    const field_lanes::surface surface(rays.of);
    uninitialized<field_lanes::bundle> bundle;
    bundle.from = rays.from;
    bundle.farthest = from.seen_from.far;
    const auto cover_pixel = [&](int x, int y, double depth) {
        const auto here = static_cast<float>(1 / depth);
        const std::ptrdiff_t at = into.place(x, y);
        if (here <= into.nearest &&
            (here > into.inverse_depth[at] || (here == into.inverse_depth[at] && id < into.seen[at]))) {
            into.inverse_depth[at] = here;
            into.seen[at] = id;
        }
    };
    // The rays of a few pixels go most of the way together. Counted from the picture's corner, so that tiles
    // make no difference.
    constexpr int together = 8;
    static_assert(std::size_t{together} * std::size_t{together} <= field_lanes::most);
    const int top = std::max(box.top, into.top);
    const int left = std::max(box.left, into.left);
    const int bottom = std::min(box.bottom, into.top + into.height - 1);
    const int right = std::min(box.right, into.left + into.width - 1);
    const auto cover_block = [&](int block_x, int block_y) {
        const double nearest = rays.nearest_of(block_x, block_y, together);
        if (nearest > from.seen_from.far) {
            return;
        }
        const auto each_pixel = [&](auto&& use) {
            for (int y = std::max(top, block_y); y <= std::min(bottom, block_y + together - 1); ++y) {
                for (int x = std::max(left, block_x); x <= std::min(right, block_x + together - 1); ++x) {
                    use(x, y);
                }
            }
        };
        bundle.count = 0;
        each_pixel([&](int x, int y) { rays.put(x, y, bundle); });
        std::fill_n(bundle.nearest.begin(), bundle.count, std::max(nearest, from.seen_from.near));
        kernels.march(surface, around, bundle);
        std::size_t lane = 0;
        each_pixel([&](int x, int y) {
            const double depth = bundle.met[lane++];
            if (depth < field_lanes::unmet) {
                cover_pixel(x, y, depth);
            }
        });
    };
    for (int block_y = top - top % together; block_y <= bottom; block_y += together) {
        for (int block_x = left - left % together; block_x <= right; block_x += together) {
            cover_block(block_x, block_y);
        }
    }
}

} // namespace

void find_visible(const stage& from, const projected_scene& vertices, const wide::kernels& kernels,
                  const tile& at, tile_scratch& into) {
    wide::tile_view view = into.view_of(at);
    // Farther than far loses against an empty pixel.
    kernels.coverage.clear(view, std::nextafter(static_cast<float>(1 / from.seen_from.far), 0.0F));
    view.nearest = static_cast<float>(1 / from.seen_from.near);
    view.near = from.seen_from.near;
    wide::cover_request request;
    request.objects = vertices.objects.data();
    request.object_count = vertices.objects.size();
    for (const tile_bins& bins : vertices.bins) {
        if (at.index < bins.front.size() && !bins.front[at.index].empty()) {
            request.triangles = bins.front[at.index].data();
            request.count = bins.front[at.index].size();
            kernels.coverage.cover(request, view);
        }
    }
    for (std::size_t o = 0; o < from.objects.size(); ++o) {
        if (from.objects[o].field) {
            cover_field(from, kernels.fields, o, vertices.objects[o].first, view);
        }
    }
    // Those that face away lie behind others, mostly: where all of the tile is nearer, or all of a
    // neighbourhood, nothing more is asked of them.
    bool any = false;
    for (const tile_bins& bins : vertices.bins) {
        any = any || (at.index < bins.back.size() && !bins.back[at.index].empty());
    }
    if (!any) {
        return;
    }
    const float farthest = kernels.coverage.farthest(view);
    for (const tile_bins& bins : vertices.bins) {
        if (at.index < bins.back.size()) {
            for (const std::uint32_t number : bins.back[at.index]) {
                const tile_bins::cluster& cluster = bins.clusters[number];
                if (cluster.of.inverse_depth < farthest) {
                    continue;
                }
                if (view.coarse == nullptr) {
                    into.coarse.resize(view.pixels() / 64);
                    kernels.coverage.coarsen(view, into.coarse.data());
                    view.coarse = into.coarse.data();
                }
                kernels.coverage.cover_backs(cluster.of, vertices.objects[cluster.object], view);
            }
        }
    }
}

} // namespace yurvo::inline v0_1::pipeline
