#include "pipeline/frame.hpp"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstddef>
#include <cstdlib>
#include <utility>
#include <vector>

#include <oneapi/tbb/enumerable_thread_specific.h>
#if defined(__SSE__)
#include <xmmintrin.h>
#endif

#include "pipeline/parallel.hpp"
#include "pipeline/tile_shading.hpp"
#include "pipeline/tile_visibility.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

// Numbers below the least normal one are taken for 0 while this lives: they are too small to be seen, and
// cost a hundred times as much.
class subnormals_flushed {
#if defined(__SSE__)
    unsigned before_ = _mm_getcsr();

  public:
    subnormals_flushed() { _mm_setcsr(before_ | 0x8040U); }
    ~subnormals_flushed() { _mm_setcsr(before_); }
#else
  public:
    subnormals_flushed() = default;
    ~subnormals_flushed() {} // NOLINT: so that the guard counts as used
#endif
    subnormals_flushed(const subnormals_flushed&) = delete;
    subnormals_flushed(subnormals_flushed&&) = delete;
    subnormals_flushed& operator=(const subnormals_flushed&) = delete;
    subnormals_flushed& operator=(subnormals_flushed&&) = delete;
};

// Large tiles have fewer triangles in common; small ones spread a small picture over all threads.
tile_grid grid_for(const view& eye_view, int wanted) {
    constexpr int large = 128;
    constexpr int small = 64;
    constexpr std::size_t enough_for_all_threads = 64;
    if (wanted > 0) {
        return {eye_view, wanted};
    }
    const tile_grid grid(eye_view, large);
    return grid.count() >= enough_for_all_threads ? grid : tile_grid(eye_view, small);
}

using clock = std::chrono::steady_clock;

// Adds the time that it lives to a sum.
class timed {
    std::atomic<std::int64_t>& sum_;
    clock::time_point begin_ = clock::now();

  public:
    explicit timed(std::atomic<std::int64_t>& sum) : sum_(sum) {}
    ~timed() { sum_ += std::chrono::duration_cast<std::chrono::nanoseconds>(clock::now() - begin_).count(); }
    timed(const timed&) = delete;
    timed(timed&&) = delete;
    timed& operator=(const timed&) = delete;
    timed& operator=(timed&&) = delete;
};

} // namespace

struct frame::parts {
    frame_settings settings;
    picture image;
    draw_statistics statistics;
    projected_scene vertices;
    lit_before_pixels<float> lit;
    lit_before_pixels<double> lit_in_double;
    oneapi::tbb::enumerable_thread_specific<tile_scratch> visibility_scratch;
    oneapi::tbb::enumerable_thread_specific<shading_scratch<float>> shading;
    oneapi::tbb::enumerable_thread_specific<shading_scratch<double>> shading_in_double;

    explicit parts(const frame_settings& wanted) : settings(wanted) {}

    template <class Scalar> auto& lit_of() {
        if constexpr (std::is_same_v<Scalar, float>) {
            return lit;
        } else {
            return lit_in_double;
        }
    }
    template <class Scalar> auto& shading_of() {
        if constexpr (std::is_same_v<Scalar, float>) {
            return shading;
        } else {
            return shading_in_double;
        }
    }

    void begin(const stage& from) {
        const auto width = static_cast<std::size_t>(from.view.width);
        const auto height = static_cast<std::size_t>(from.view.height);
        if (image.width != from.view.width || image.height != from.view.height) {
            image = picture(); // the old one goes before the new one comes
            image.width = from.view.width;
            image.height = from.view.height;
            image.values.resize(4 * width * height);
        }
    }

    template <class Scalar> void draw(const stage& from, const shader<Scalar>& with) {
        begin(from);
        std::atomic<std::int64_t> vertex_time = 0;
        std::atomic<std::int64_t> visibility_time = 0;
        std::atomic<std::int64_t> shading_time = 0;
        const wide::kernels kernels = wide::kernels_for(chosen_instruction_set());
        const tile_grid grid = grid_for(from.view, settings.tile);

        const auto time_vertices = [&] { return timed(vertex_time); };
        project_all(from, grid, kernels, vertices, time_vertices);
        scene_shading<Scalar> shading_now(from, with, vertices, lit_of<Scalar>(), kernels,
                                          settings.skip_unreachable);
        auto& scratches = shading_of<Scalar>();
        const pixel_target into{image.values.data(), static_cast<std::size_t>(image.width)};
        in_tiles(grid, [&](const tile& at) {
            tile_scratch& seen = visibility_scratch.local();
            {
                const timed watch(visibility_time);
                find_visible(from, vertices, kernels, at, seen);
            }
            const timed watch(shading_time);
            const subnormals_flushed flush;
            shading_now.shade(at, seen, scratches.local(), into);
        });
        for (shading_scratch<Scalar>& scratch : scratches) {
            const std::int64_t before_pixels = std::exchange(scratch.before.nanoseconds, 0);
            vertex_time += before_pixels;
            shading_time -= before_pixels;
        }
        constexpr double nanosecond = 1e-9;
        statistics = shading_now.done();
        statistics.vertex_seconds = static_cast<double>(vertex_time) * nanosecond;
        statistics.visibility_seconds = static_cast<double>(visibility_time) * nanosecond;
        statistics.shading_seconds = static_cast<double>(shading_time) * nanosecond;
    }
};

frame::frame(const frame_settings& settings) : parts_(std::make_unique<parts>(settings)) {}
frame::~frame() = default;
frame::frame(frame&&) noexcept = default;
frame& frame::operator=(frame&&) noexcept = default;

picture& frame::draw(const stage& from, const shader<float>& with) {
    parts_->draw(from, with);
    return parts_->image;
}
picture& frame::draw(const stage& from, const shader<double>& with) {
    parts_->draw(from, with);
    return parts_->image;
}

picture frame::take() {
    picture taken = std::move(parts_->image);
    parts_->image = picture();
    return taken;
}

visibility frame::see(const stage& from) {
    const wide::kernels kernels = wide::kernels_for(chosen_instruction_set());
    const tile_grid grid = grid_for(from.view, parts_->settings.tile);
    project_all(from, grid, kernels, parts_->vertices, [] { return 0; });
    visibility found;
    found.width = from.view.width;
    found.height = from.view.height;
    const auto pixels = static_cast<std::size_t>(found.width) * static_cast<std::size_t>(found.height);
    found.inverse_depth.resize(pixels);
    found.triangles.resize(pixels);
    in_tiles(grid, [&](const tile& at) {
        tile_scratch& seen = parts_->visibility_scratch.local();
        find_visible(from, parts_->vertices, kernels, at, seen);
        const wide::tile_view view = seen.view_of(at);
        for (int y = 0; y < at.height; ++y) {
            const auto to = static_cast<std::size_t>(at.top + y) * static_cast<std::size_t>(found.width) +
                            static_cast<std::size_t>(at.left);
            for (int x = 0; x < at.width; ++x) {
                const std::ptrdiff_t place = view.place(at.left + x, at.top + y);
                found.inverse_depth[to + static_cast<std::size_t>(x)] = view.inverse_depth[place];
                found.triangles[to + static_cast<std::size_t>(x)] =
                    static_cast<std::uint32_t>(view.seen[place]);
            }
        }
    });
    return found;
}

const draw_statistics& frame::statistics() const { return parts_->statistics; }

} // namespace yurvo::inline v0_1::pipeline
