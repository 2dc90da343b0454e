// tile_shading's part that comes before any pixel: at rate vertex the vertices that are seen are lit, at rate
// face the triangles.
#include <algorithm>
#include <atomic>
#include <chrono>
#include <memory>
#include <thread>

#include "pipeline/tile_shading.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

// How far a block is. Whoever takes it from the first state to the second lights it; others wait.
constexpr unsigned char unlit = 0;
constexpr unsigned char being_lit = 1;
constexpr unsigned char lit_now = 2;

// Says that a block is lit, even if a model of one's own threw on the way: others wait for it.
class said_when_done {
    std::atomic_ref<unsigned char> progress_;

  public:
    explicit said_when_done(std::atomic_ref<unsigned char> progress) : progress_(progress) {}
    ~said_when_done() { progress_.store(lit_now, std::memory_order_release); }
    said_when_done(const said_when_done&) = delete;
    said_when_done(said_when_done&&) = delete;
    said_when_done& operator=(const said_when_done&) = delete;
    said_when_done& operator=(said_when_done&&) = delete;
};

} // namespace

template <class Scalar> void scene_shading<Scalar>::make_room_before_pixels() {
    lit_.first_color.assign(1, 0);
    lit_.first_block.assign(1, 0);
    bool any_two_colors = false;
    for (const prepared_object& object : objects_) {
        const std::size_t count = object.staged.field != nullptr ? 0
                                  : from_.rate == rate::vertex   ? object.shape.positions.size()
                                                                 : object.shape.triangles.size();
        constexpr std::size_t each = lit_before_pixels<Scalar>::each_block;
        lit_.first_color.push_back(lit_.first_color.back() + count);
        lit_.first_block.push_back(lit_.first_block.back() + (count + each - 1) / each);
        any_two_colors = any_two_colors || two_colors(object);
    }
    for (std::size_t side = 0; side < (any_two_colors && from_.rate == rate::vertex ? 2 : 1); ++side) {
        lit_.colors[side].reserve(lit_.first_color.back());
        lit_.progress[side].assign(lit_.first_block.back(), unlit);
    }
}

// Normals turn round where the material is two-sided; a formula may ask for the facing alone.
template <class Scalar>
void scene_shading<Scalar>::put_vertices(before_pixels_scratch<Scalar>& with, std::size_t o, bool front,
                                         std::size_t first, std::size_t count) const {
    const prepared_object& object = objects_[o];
    wide::normal_run<Scalar> turned;
    turned.normals = object.shape.normals.data() + first;
    turned.count = count;
    turned.to_world = object.normal_to_world;
    turned.turned = with.normals.data();
    if constexpr (std::is_same_v<Scalar, float>) {
        kernels_.vertices.turn(turned);
    } else {
        kernels_.vertices.turn_double(turned);
    }
    const Scalar sign = !front && object.material.look.two_sided ? -1 : 1;
    block<Scalar>& points = *with.points;
    for (std::size_t i = 0; i < count; ++i) {
        const auto vertex = static_cast<std::uint32_t>(first + i);
        points.position.put(i, vec3<Scalar>(object.lit_position(vertex)));
        points.normal.put(i, with.normals[i] * sign);
        points.front[i] = front ? 1 : 0;
        points.base.put(i, object.factors.base * rgb<Scalar>(object.color(vertex)));
    }
}

template <class Scalar>
void scene_shading<Scalar>::put_triangles(before_pixels_scratch<Scalar>& with, std::size_t o,
                                          std::size_t first, std::size_t count) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = *with.points;
    for (std::size_t i = 0; i < count; ++i) {
        const triangle& corners = object.shape.triangles[first + i];
        const auto mean = [&](const auto& a, const auto& b, const auto& c) {
            return (a + b + c) * (1.0 / 3);
        };
        vec3<double> normal = object.face_normal(corners);
        const bool away =
            two_colors(object) && (weights(o, corners).determinant() < 0) == object.staged.mirrored;
        if (away && object.material.look.two_sided) {
            normal = -normal;
        }
        points.front[i] = static_cast<Scalar>(away ? 0 : 1);
        points.position.put(
            i, vec3<Scalar>(mean(object.lit_position(corners[0]), object.lit_position(corners[1]),
                                 object.lit_position(corners[2]))));
        points.normal.put(i, vec3<Scalar>(normal));
        points.base.put(i, object.factors.base *
                               rgb<Scalar>(mean(object.color(corners[0]), object.color(corners[1]),
                                                object.color(corners[2]))));
    }
}

template <class Scalar>
void scene_shading<Scalar>::light_before_pixels(shading_scratch<Scalar>& mine, std::size_t o, bool front,
                                                std::size_t first, std::size_t count) const {
    const auto begin = std::chrono::steady_clock::now();
    before_pixels_scratch<Scalar>& with = mine.before;
    if (with.points == nullptr) {
        with.points = std::make_unique<block<Scalar>>();
        with.points->own_base = true;
        with.points->in_parts = true;
    }
    block<Scalar>& points = *with.points;
    points.count = count;
    if (from_.rate == rate::vertex) {
        put_vertices(with, o, front, first, count);
    } else {
        put_triangles(with, o, first, count);
    }
    run(points, objects_[o], with.lights);
    mine.evaluations += count;
    outgoing<Scalar>* const colors = lit_.colors[front ? 0 : 1].reserve(0) + lit_.first_color[o] + first;
    for (std::size_t i = 0; i < count; ++i) {
        colors[i] = {points.tinted.color(i), points.untinted.color(i)};
    }
    with.nanoseconds +=
        std::chrono::duration_cast<std::chrono::nanoseconds>(std::chrono::steady_clock::now() - begin)
            .count();
}

// The lit colour of a vertex or triangle of an object, lit now with its block if it has not been yet.
template <class Scalar>
const outgoing<Scalar>& scene_shading<Scalar>::lit(shading_scratch<Scalar>& mine, std::size_t o, bool front,
                                                   std::size_t number) const {
    constexpr std::size_t each = lit_before_pixels<Scalar>::each_block;
    const std::size_t side = front ? 0 : 1;
    const std::size_t in_object = number / each;
    std::atomic_ref<unsigned char> progress(lit_.progress[side][lit_.first_block[o] + in_object]);
    if (progress.load(std::memory_order_acquire) != lit_now) {
        unsigned char before = unlit;
        if (progress.compare_exchange_strong(before, being_lit, std::memory_order_acquire)) {
            const said_when_done done(progress);
            const std::size_t first = in_object * each;
            light_before_pixels(mine, o, front, first,
                                std::min(each, lit_.first_color[o + 1] - lit_.first_color[o] - first));
        } else {
            while (progress.load(std::memory_order_acquire) != lit_now) {
                std::this_thread::yield();
            }
        }
    }
    return lit_.colors[side].data()[lit_.first_color[o] + number];
}

template void scene_shading<float>::make_room_before_pixels();
template void scene_shading<double>::make_room_before_pixels();
template const outgoing<float>& scene_shading<float>::lit(shading_scratch<float>&, std::size_t, bool,
                                                          std::size_t) const;
template const outgoing<double>& scene_shading<double>::lit(shading_scratch<double>&, std::size_t, bool,
                                                            std::size_t) const;

} // namespace yurvo::inline v0_1::pipeline
