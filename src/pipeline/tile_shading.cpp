#include "pipeline/tile_shading.hpp"
#include "pipeline/uninitialized.hpp"

#include <algorithm>
#include <cmath>
#include <tuple>
#include <utility>

namespace yurvo::inline v0_1::pipeline {

namespace {

template <class Scalar> void clear_slots(shading_scratch<Scalar>& mine) {
    mine.slots.clear();
    mine.any_one_by_one = false;
}

// The slots of one object's triangles, those that are new noted.
template <class Scalar> class slot_numbers {
    shading_scratch<Scalar>& mine_;
    std::int32_t first_;     // of the object
    std::int32_t last_ = -1; // the triangle asked for before, which is the same more often than not
    std::uint16_t slot_ = 0;
    std::size_t fresh_ = 0;

    // A small picture never comes to all of them.
    void make_room() {
        if (slot_ >= mine_.planes.size()) {
            const std::size_t more =
                std::min(std::max(2 * std::size_t{slot_}, std::size_t{64}), plane_slots::count);
            mine_.planes.resize(more);
            mine_.in_square.resize(more);
        }
    }

  public:
    slot_numbers(shading_scratch<Scalar>& mine, std::int32_t first) : mine_(mine), first_(first) {
        if (mine.slots.may_overflow()) {
            clear_slots(mine);
        }
    }

    std::uint16_t of(std::int32_t triangle) {
        if (triangle != last_) {
            bool fresh = false;
            std::tie(slot_, fresh) = mine_.slots.of(triangle);
            last_ = triangle;
            if (fresh) {
                make_room();
                mine_.triangles[slot_] = static_cast<std::uint32_t>(triangle - first_);
                mine_.fresh_slots[fresh_++] = slot_;
            }
        }
        return slot_;
    }
    [[nodiscard]] std::span<const std::uint16_t> fresh() const { return {mine_.fresh_slots.data(), fresh_}; }
};

// Where a square's pixels will be written is fetched meanwhile: into the second cache, as the first is full
// of what they are made of.
void fetch_square(const pixel_target& into, int x, int y, int width, int height) {
    constexpr int line = 4; // pixels
    for (int row = 0; row < height; ++row) {
        for (int column = 0; column < width; column += line) {
            __builtin_prefetch(into.at(x + column, y + row), 0, 2);
        }
    }
}

} // namespace

template <class Scalar>
void scene_shading<Scalar>::run(block<Scalar>& points, const prepared_object& object,
                                reaching_lights<Scalar>& scratch) const {
    auto& [lights, reached] = scratch;
    const std::size_t set = object.staged.lights;
    lights.clear();
    bool all = true;
    if constexpr (std::is_same_v<Scalar, float>) {
        const light_reach& reach = reach_[set];
        const bool by_reach = skip_unreachable_ && with_.dark_adds_nothing && reach.limited();
        // To ask has its cost too: with only one light it is not worth it.
        const bool by_side = skip_unreachable_ && with_.behind_adds_nothing && lights_[set].size() > 1;
        if (by_reach || by_side) {
            const wide::box places = kernels_.attributes.bounds(
                points.position.x.data(), points.position.y.data(), points.position.z.data(), points.count);
            all = false;
            reached.assign(lights_[set].size(), 1);
            if (by_reach) {
                reach.find(places, reached);
            }
            if (by_side) {
                reach.leave_out_behind(places,
                                       kernels_.attributes.bounds(points.normal.x.data(),
                                                                  points.normal.y.data(),
                                                                  points.normal.z.data(), points.count),
                                       reached);
            }
        }
    }
    for (std::size_t i = 0; i < lights_[set].size(); ++i) {
        if (all || reached[i] != 0) {
            lights.push_back(&lights_[set][i]);
        }
    }
    with_.shade({points, object.factors, lights, settings_, eye_, with_.model, with_ambient_[set],
                 vec3<Scalar>(from_.seen_from.eye), vec3<Scalar>(from_.seen_from.axes.backward)});
    for (std::size_t i = 0; with_.may_fail && i < points.not_finite.size(); ++i) {
        if (points.not_finite[i] != 0) {
            not_finite_[i].fetch_add(std::exchange(points.not_finite[i], 0U), std::memory_order_relaxed);
        }
    }
}

template <class Scalar>
void scene_shading<Scalar>::write(shading_scratch<Scalar>& mine, const prepared_object& object,
                                  const pixel_target& into) const {
    const auto alpha = static_cast<float>(object.material.look.alpha);
    const block<Scalar>& points = mine.points;
    static_assert(block_size == wide::square_pixels);
    uninitialized<lane3<float>> narrow;
    wide::color_lanes lit{};
    if constexpr (std::is_same_v<Scalar, float>) {
        lit = {points.lit.x.data(), points.lit.y.data(), points.lit.z.data()};
    } else {
        for (std::size_t i = 0; i < points.count; ++i) {
            narrow.put(i, rgb<float>(points.lit.color(i)));
        }
        lit = {narrow.x.data(), narrow.y.data(), narrow.z.data()};
    }
    const auto write_rows = [&](const wide::pixel_run& first, std::size_t at, std::size_t count,
                                std::size_t rows) {
        kernels_.attributes.write({lit[0] + at, lit[1] + at, lit[2] + at},
                                  {into.at(first.x, first.y), count, rows, 4 * into.width}, alpha);
    };
    // As many pixels as a square has, all of one square: row by row they are the whole of it.
    if (points.count == block_size && wide::same_square(mine.waiting.front(), mine.waiting.back())) {
        write_rows(mine.waiting.front(), 0, wide::square, wide::square);
        return;
    }
    std::size_t at = 0;
    for (std::size_t r = 0; r < mine.waiting.size();) {
        // Runs that follow one another in a row are written in one go.
        const wide::pixel_run& first = mine.waiting[r];
        auto count = static_cast<std::size_t>(first.count);
        for (++r; r < mine.waiting.size() && mine.waiting[r].y == first.y &&
                  mine.waiting[r].x == first.x + static_cast<int>(count);
             ++r) {
            count += static_cast<std::size_t>(mine.waiting[r].count);
        }
        write_rows(first, at, count, 1);
        at += count;
    }
}

// The points of the block, whose runs are waiting.
template <class Scalar>
void scene_shading<Scalar>::shade_waiting(shading_scratch<Scalar>& mine, std::size_t o,
                                          const pixel_target& into) {
    const prepared_object& object = objects_[o];
    const bool field = object.staged.field != nullptr;
    if (!field) {
        put_points(mine, o);
    }
    if (with_.asks_for_front && !field && from_.rate == rate::fragment) {
        put_front(mine);
    }
    if (from_.rate == rate::fragment || field) {
        light_block(mine, object);
    }
    write(mine, object, into);
}

template <class Scalar>
void scene_shading<Scalar>::light_block(shading_scratch<Scalar>& mine, const prepared_object& object) const {
    run(mine.points, object, mine.lights);
    mine.evaluations += mine.points.count;
}

// A square's pieces, triangle by triangle.
template <class Scalar>
void scene_shading<Scalar>::show_pieces(shading_scratch<Scalar>& mine, std::size_t o) const {
    slot_numbers slots(mine, vertices_.objects[o].first);
    std::size_t count = 0;
    for (std::size_t i = 0; i < mine.pieces.count; ++i) {
        const wide::cell_piece& piece = mine.pieces.all[i];
        const std::uint16_t slot = slots.of(piece.triangle);
        std::uint8_t& last = mine.last_piece[slot];
        const auto number = static_cast<std::uint8_t>(i);
        // Without a choice, which could not be foreseen: what follows none is not read.
        mine.shown_triangles[count] = {slot, number};
        count += last == wide::no_piece ? 1 : 0;
        mine.shown_pieces[last].next = number;
        mine.shown_pieces[i] = {piece.pixels, piece.cell, piece.more, wide::no_piece};
        last = number;
    }
    for (std::size_t i = 0; i < count; ++i) {
        mine.last_piece[mine.shown_triangles[i].slot] = wide::no_piece;
    }
    mine.shown_count = count;
    mine.to_set = slots.fresh();
}

// A square that shows one object and nothing else, of which the pieces are known; false, and nothing done,
// where it has to go by runs.
template <class Scalar>
bool scene_shading<Scalar>::shade_square(shading_scratch<Scalar>& mine, std::size_t o, int x, int y,
                                         const pixel_target& into) const {
    if constexpr (std::is_same_v<Scalar, float>) {
        show_pieces(mine, o);
        if (!put_square(mine, o, x, y, into)) {
            return false;
        }
        const prepared_object& object = objects_[o];
        const block<Scalar>& points = mine.points;
        if (from_.rate == rate::fragment) {
            if (with_.asks_for_front) {
                put_front_of_square(mine);
            }
            light_block(mine, object);
        }
        kernels_.attributes.write_square({points.lit.x.data(), points.lit.y.data(), points.lit.z.data()},
                                         into.at(x, y), 4 * into.width,
                                         static_cast<float>(object.material.look.alpha));
        return true;
    }
    return false;
}

// Puts as many runs of triangles into the block as it holds: how many.
template <class Scalar>
std::size_t scene_shading<Scalar>::gather(shading_scratch<Scalar>& mine, std::size_t o,
                                          std::span<const wide::seen_run> runs) const {
    slot_numbers slots(mine, vertices_.objects[o].first);
    std::size_t points = 0;
    std::size_t count = 0;
    for (; count < runs.size(); ++count) {
        const wide::seen_run& run = runs[count];
        const std::size_t more = points + static_cast<std::size_t>(run.count);
        if (more > block_size) {
            break;
        }
        points = more;
        mine.runs_in_block[count] = {run.x, run.y, run.count, slots.of(run.triangle)};
    }
    mine.points.count = points;
    mine.waiting = {mine.runs_in_block.data(), count};
    mine.to_set = slots.fresh();
    return count;
}

template <class Scalar>
void scene_shading<Scalar>::shade_runs(shading_scratch<Scalar>& mine, std::size_t o,
                                       std::span<const wide::seen_run> runs, const wide::tile_view& seen,
                                       const pixel_target& into) {
    const prepared_object& object = objects_[o];
    const bool field = object.staged.field != nullptr;
    block<Scalar>& points = mine.points;
    points.own_base = !field && layout_of(object).extras();
    points.between_vertices = !field;
    while (!runs.empty()) {
        std::size_t taken = 0;
        if (field) {
            points.count = 0;
            for (; taken < runs.size() &&
                   points.count + static_cast<std::size_t>(runs[taken].count) <= block_size;
                 ++taken) {
                const wide::seen_run& run = runs[taken];
                points.count += static_cast<std::size_t>(run.count);
                mine.runs_in_block[taken] = {run.x, run.y, run.count, 0};
            }
            mine.waiting = {mine.runs_in_block.data(), taken};
            put_field_points(mine, o, seen);
        } else {
            taken = gather(mine, o, runs);
        }
        shade_waiting(mine, o, into);
        runs = runs.subspan(taken);
    }
}

// What shows nothing gets the background, and leaves the runs: how many pixels.
template <class Scalar>
std::uint64_t scene_shading<Scalar>::fill_background(std::span<wide::seen_run>& runs,
                                                     const pixel_target& into) const {
    const rgb<float> color(from_.view.background);
    const std::array<float, 4> background{color.r, color.g, color.b,
                                          static_cast<float>(from_.view.background_alpha)};
    std::uint64_t filled = 0;
    const auto shown = std::remove_if(runs.begin(), runs.end(), [&](const wide::seen_run& run) {
        if (run.triangle >= 0) {
            return false;
        }
        kernels_.attributes.fill(background, into.at(run.x, run.y), static_cast<std::size_t>(run.count));
        filled += static_cast<std::uint64_t>(run.count);
        return true;
    });
    runs = runs.first(static_cast<std::size_t>(shown - runs.begin()));
    return filled;
}

template <class Scalar>
void scene_shading<Scalar>::shade(const tile& at, tile_scratch& seen, shading_scratch<Scalar>& mine,
                                  const pixel_target& into) {
    clear_slots(mine); // of another scene, it may be
    wide::seen_run* const buffer =
        mine.runs.reserve(static_cast<std::size_t>(at.width) * static_cast<std::size_t>(at.height));
    const wide::tile_view view = seen.view_of(at);
    const wide::found_runs found = shade_squares(mine, view, buffer, into);
    std::span<wide::seen_run> runs(buffer, found.count);
    auto pixels = static_cast<std::uint64_t>(at.width) * static_cast<std::uint64_t>(at.height);
    if (found.any_nothing) {
        pixels -= fill_background(runs, into);
    }
    shade_all_runs(mine, runs, found, view, into);
    pixels_.fetch_add(pixels, std::memory_order_relaxed);
    evaluations_.fetch_add(std::exchange(mine.evaluations, 0), std::memory_order_relaxed);
}

// The squares of a tile that show one object only; the runs of the others.
template <class Scalar>
wide::found_runs scene_shading<Scalar>::shade_squares(shading_scratch<Scalar>& mine,
                                                      const wide::tile_view& seen, wide::seen_run* runs,
                                                      const pixel_target& into) const {
    wide::found_runs found;
    const std::vector<wide::object_view>& objects = vertices_.objects;
    std::size_t object = 0;
    const auto shaded = [&](int x, int y) {
        if (x + wide::square > seen.left + seen.width || y + wide::square > seen.top + seen.height) {
            return false;
        }
        if (!kernels_.coverage.take_apart(seen, x, y, mine.pieces)) {
            return false;
        }
        object = wide::object_of(mine.pieces.most, objects.data(), objects.size(), object);
        return mine.pieces.least >= objects[object].first && objects_[object].staged.field == nullptr &&
               shade_square(mine, object, x, y, into);
    };
    for (int y = seen.top; y < seen.top + seen.height; y += wide::square) {
        for (int x = seen.left; x < seen.left + seen.width; x += wide::square) {
            if (!shaded(x, y)) {
                fetch_square(into, x, y, std::min(wide::square, seen.left + seen.width - x),
                             std::min(wide::square, seen.top + seen.height - y));
                kernels_.coverage.split(seen, x, y, runs, found);
            }
        }
    }
    return found;
}

// By object, where there are several.
template <class Scalar>
void scene_shading<Scalar>::shade_all_runs(shading_scratch<Scalar>& mine,
                                           std::span<const wide::seen_run> runs,
                                           const wide::found_runs& found, const wide::tile_view& view,
                                           const pixel_target& into) {
    if (runs.empty()) {
        return;
    }
    const std::vector<wide::object_view>& objects = vertices_.objects;
    std::size_t object = wide::object_of(found.most, objects.data(), objects.size(), 0);
    if (found.least >= objects[object].first) {
        shade_runs(mine, object, runs, view, into);
        return;
    }
    mine.by_object.resize(std::max(mine.by_object.size(), objects.size()));
    for (const std::size_t o : mine.objects) {
        mine.by_object[o].clear();
    }
    mine.objects.clear();
    for (const wide::seen_run& run : runs) {
        object = wide::object_of(run.triangle, objects.data(), objects.size(), object);
        if (mine.by_object[object].empty()) {
            mine.objects.push_back(object);
        }
        mine.by_object[object].push_back(run);
    }
    for (const std::size_t o : mine.objects) {
        shade_runs(mine, o, mine.by_object[o], view, into);
    }
}

template class scene_shading<float>;
template class scene_shading<double>;

} // namespace yurvo::inline v0_1::pipeline
