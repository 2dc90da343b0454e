// tile_visibility: vertices projected once, triangles sorted into tiles, and what is seen in one tile.
#pragma once

#include <algorithm>
#include <array>
#include <bit>
#include <memory>
#include <vector>

#include <oneapi/tbb/enumerable_thread_specific.h>

#include "pipeline/parallel.hpp"
#include "pipeline/stage.hpp"
#include "pipeline/wide/kernels.hpp"

namespace yurvo::inline v0_1::pipeline {

// An array that only grows, and holds nothing in particular until it is written.
template <class Value> class room {
    std::unique_ptr<Value[]> values_; // NOLINT: a vector would write it all first
    std::size_t size_ = 0;

  public:
    Value* reserve(std::size_t size) {
        if (size > size_) {
            values_.reset();
            values_ = std::make_unique_for_overwrite<Value[]>(size); // NOLINT
            size_ = size;
        }
        return values_.get();
    }
    [[nodiscard]] const Value* data() const { return values_.get(); }
};

struct tile {
    int left = 0, top = 0, width = 0, height = 0;
    std::size_t index = 0;
};

struct tile_grid {
    int shift; // the size is 2 to this power
    int size, width, height, across, down;

    tile_grid(const view& eye_view, int size_)
        : shift(std::countr_zero(static_cast<unsigned>(size_))),
          size(size_),
          width(eye_view.width),
          height(eye_view.height),
          across((eye_view.width + size_ - 1) / size_),
          down((eye_view.height + size_ - 1) / size_) {}

    [[nodiscard]] std::size_t count() const {
        return static_cast<std::size_t>(across) * static_cast<std::size_t>(down);
    }
    [[nodiscard]] tile at(std::size_t index) const {
        const int x = static_cast<int>(index) % across * size;
        const int y = static_cast<int>(index) / across * size;
        return {x, y, std::min(size, width - x), std::min(size, height - y), index};
    }
};

template <class Use> void in_tiles(const tile_grid& grid, Use&& use) {
    for_each_of(grid.count(), [&](std::size_t i) { use(grid.at(i)); });
}

// What of each tile one thread met: triangles that face the eye or have to be cut, and clusters with
// triangles that face away. In which order they are covered makes no difference: of equally near ones the
// first in the scene's order stays.
struct tile_bins {
    struct cluster {
        wide::back_cluster of;
        std::size_t object;
    };
    std::vector<std::vector<std::uint32_t>> front;
    std::vector<cluster> clusters;
    std::vector<std::vector<std::uint32_t>> back; // which of the clusters
};

struct projected_scene {
    room<wide::steps> at;
    room<float> inverse_depth;
    std::vector<wide::object_view> objects;
    std::vector<std::size_t> first_vertex;
    oneapi::tbb::enumerable_thread_specific<tile_bins> bins;
    // Of the object at hand, where it has clusters: those whose triangles are sorted one by one, and the
    // blocks of vertices that these have.
    std::vector<unsigned char> sorted_clusters;
    std::vector<unsigned char> needed_blocks;
};

// Of a cell's pixels one number each: a cache line.
template <class Number> struct alignas(64) cell_of : std::array<Number, wide::cell_pixels> {};

struct tile_scratch {
    std::vector<cell_of<float>> inverse_depth;
    std::vector<cell_of<std::int32_t>> triangles;
    std::vector<float> coarse;

    [[nodiscard]] wide::tile_view view_of(const tile& at) {
        wide::tile_view view;
        view.left = at.left;
        view.top = at.top;
        view.width = at.width;
        view.height = at.height;
        constexpr int cells = wide::square / wide::cell;
        view.cells_across = (at.width + wide::square - 1) / wide::square * cells;
        view.cells_down = (at.height + wide::square - 1) / wide::square * cells;
        const std::size_t count = view.pixels() / wide::cell_pixels;
        inverse_depth.resize(std::max(inverse_depth.size(), count));
        triangles.resize(std::max(triangles.size(), count));
        view.inverse_depth = inverse_depth.front().data();
        view.seen = triangles.front().data();
        return view;
    }
};

void find_visible(const stage& from, const projected_scene& vertices, const wide::kernels& kernels,
                  const tile& at, tile_scratch& into);

// Row by row.
std::array<double, 9> rows_of(const matrix3& matrix);

// Objects laid out one after the other, before any vertex is looked at.
void lay_out(const stage& from, projected_scene& into);
// The vertices [begin, end) of object o.
void project_run(const stage& from, const wide::kernels& kernels, projected_scene& into, std::size_t o,
                 std::size_t begin, std::size_t end);
// The clusters [begin, end) of object o: those that face away are put off, into the calling thread's bins;
// those beside the picture are left out.
void sort_cluster_run(const tile_grid& grid, const stage& from, const wide::kernels& kernels,
                      projected_scene& into, std::size_t o, std::size_t begin, std::size_t end);
// The triangles [begin, end) of object o, of clusters that are not put off, into the calling thread's bins.
// Begin is the first of a cluster where there are any.
void sort_run(const tile_grid& grid, const stage& from, const wide::kernels& kernels, projected_scene& into,
              std::size_t o, std::size_t begin, std::size_t end);

// `watch()` gives something that lives while a piece of the work is done.
template <class Watch>
void project_all(const stage& from, const tile_grid& grid, const wide::kernels& kernels,
                 projected_scene& into, Watch&& watch) {
    lay_out(from, into);
    for (tile_bins& bins : into.bins) {
        for (auto& list : bins.front) {
            list.clear();
        }
        for (auto& list : bins.back) {
            list.clear();
        }
        bins.clusters.clear();
    }
    // Small objects each as a whole, several to a piece of work: there may be thousands.
    const std::size_t objects = from.objects.size();
    constexpr std::size_t pieces_of_objects = 32;
    in_pieces(objects, objects / pieces_of_objects + 1, [&](std::size_t begin, std::size_t end) {
        [[maybe_unused]] const auto watched = watch();
        for (std::size_t o = begin; o < end; ++o) {
            const staged_object& object = from.objects[o];
            if (object.clusters == nullptr) {
                project_run(from, kernels, into, o, 0, object.shape->positions.size());
                sort_run(grid, from, kernels, into, o, 0, object.field ? 0 : object.shape->triangles.size());
            }
        }
    });
    constexpr std::size_t piece = 4096;
    for (std::size_t o = 0; o < objects; ++o) {
        const staged_object& object = from.objects[o];
        const std::size_t vertices = object.shape->positions.size();
        const std::size_t triangles = object.field ? 0 : object.shape->triangles.size();
        if (object.clusters == nullptr) {
            continue;
        }
        constexpr std::size_t each_cluster = mesh_clusters::triangles_each;
        constexpr std::size_t each_block = mesh_clusters::vertices_each_block;
        const std::size_t clusters = object.clusters->list.size();
        const std::size_t blocks = (vertices + each_block - 1) / each_block;
        into.sorted_clusters.assign(clusters, 0);
        into.needed_blocks.assign(blocks, 0);
        in_pieces(clusters, piece / each_cluster, [&](std::size_t begin, std::size_t end) {
            [[maybe_unused]] const auto watched = watch();
            sort_cluster_run(grid, from, kernels, into, o, begin, end);
        });
        in_pieces(blocks, piece / each_block, [&](std::size_t begin, std::size_t end) {
            [[maybe_unused]] const auto watched = watch();
            for (std::size_t block = begin; block < end; ++block) {
                if (into.needed_blocks[block] != 0) {
                    project_run(from, kernels, into, o, block * each_block,
                                std::min(vertices, (block + 1) * each_block));
                }
            }
        });
        in_pieces(clusters, piece / each_cluster, [&](std::size_t begin, std::size_t end) {
            [[maybe_unused]] const auto watched = watch();
            sort_run(grid, from, kernels, into, o, begin * each_cluster,
                     std::min(triangles, end * each_cluster));
        });
    }
}

} // namespace yurvo::inline v0_1::pipeline
