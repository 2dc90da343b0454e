// tile_shading: every visible pixel of a tile lit once, gathered by object into blocks; at rates vertex and
// face the vertices or triangles that are seen, and their lit colours spread over the pixels.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <span>
#include <vector>

#include "pipeline/field_rays.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/interpolation.hpp"
#include "pipeline/light_reach.hpp"
#include "pipeline/tile_visibility.hpp"
#include "yurvo/geometry/normals.hpp"

namespace yurvo::inline v0_1::pipeline {

// Which slot holds a triangle's planes. Slots are handed out one after the other, and all taken back when
// they may not suffice for another block.
class plane_slots {
    static constexpr std::size_t places = 2048; // four for each slot
    std::array<std::int32_t, places> triangles_{};
    std::array<std::uint16_t, places> slots_{};
    std::uint16_t used_ = 0;

  public:
    static constexpr std::size_t count = 512;

    plane_slots() { clear(); }
    void clear() {
        triangles_.fill(-1);
        used_ = 0;
    }
    [[nodiscard]] bool may_overflow() const { return used_ + block_size > count; }

    // A triangle's slot, and whether it is new to it.
    std::pair<std::uint16_t, bool> of(std::int32_t triangle) {
        // Knuth's multiplicative hashing (1973); then the next free place.
        std::size_t place = (static_cast<std::uint32_t>(triangle) * 2654435761U) >> 21U;
        for (; triangles_[place] != triangle; place = (place + 1) % places) {
            if (triangles_[place] < 0) {
                triangles_[place] = triangle;
                slots_[place] = used_++;
                return {slots_[place], true};
            }
        }
        return {slots_[place], false};
    }
};

// Where pixels go: four floats each, rows of `width` pixels.
struct pixel_target {
    float* values = nullptr;
    std::size_t width = 0;

    [[nodiscard]] float* at(int x, int y) const {
        return values + 4 * (static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x));
    }
};

// The lights of a block, and of all lights whether they are among them.
template <class Scalar> struct reaching_lights {
    std::vector<const ready_light<Scalar>*> lights;
    std::vector<unsigned char> reached;
};

// Lit colours of vertices or triangles, in blocks, which the first tile that shows one of a block lights.
// Seen from the front and, where that makes a difference, from the back.
template <class Scalar> struct lit_before_pixels {
    static constexpr std::size_t each_block = 64;

    std::array<room<outgoing<Scalar>>, 2> colors;       // front and back, object by object
    std::array<std::vector<unsigned char>, 2> progress; // likewise, block by block: see lit()
    std::vector<std::size_t> first_color, first_block;  // of each object
};

// What a thread lights such a block with.
template <class Scalar> struct before_pixels_scratch {
    std::unique_ptr<block<Scalar>> points; // made when it is needed
    std::array<vec3<Scalar>, lit_before_pixels<Scalar>::each_block> normals;
    reaching_lights<Scalar> lights;
    std::int64_t nanoseconds = 0; // spent on it in this frame
};

// Where the points of a block are in the texture, and its colours there.
struct block_texels {
    alignas(64) std::array<std::int32_t, block_room> column, row;
    alignas(64) std::array<float, block_room> across, up;
    lane3<float> color;
};

// What a thread uses again from tile to tile.
template <class Scalar> struct shading_scratch {
    block<Scalar> points;
    std::array<wide::pixel_run, block_size> runs_in_block;
    std::span<const wide::pixel_run> waiting;                       // those of them that are
    room<wide::seen_run> runs;                                      // of the tile
    wide::square_pieces pieces;                                     // of a square ...
    std::array<wide::shown_piece, wide::no_piece + 1> shown_pieces; // ... triangle by triangle
    std::array<wide::shown_triangle, wide::most_pieces> shown_triangles;
    std::size_t shown_count = 0;
    std::vector<std::uint8_t> last_piece = // of a slot's triangle
        std::vector<std::uint8_t>(plane_slots::count, wide::no_piece);
    std::vector<std::vector<wide::seen_run>> by_object; // where there are several
    std::vector<std::size_t> objects;                   // those that have any
    std::uint64_t evaluations = 0;                      // of the tile
    plane_slots slots;
    std::vector<wide::attribute_planes> planes;        // of the slots that have been in use
    std::vector<wide::square_planes> in_square;        // likewise
    std::vector<wide::square_planes> extras_in_square; // likewise, where they are needed
    std::vector<std::array<float, 3>> flat;            // the colours of whole triangles, likewise
    std::unique_ptr<block_texels> texels;              // likewise
    before_pixels_scratch<Scalar> before;
    std::vector<std::int32_t> square = std::vector<std::int32_t>(plane_slots::count);
    std::vector<std::uint32_t> triangles =
        std::vector<std::uint32_t>(plane_slots::count); // whose they are, of the object
    std::array<std::uint16_t, block_size> fresh_slots;
    std::span<const std::uint16_t> to_set; // those of them whose planes are yet to be set
    wide::plane_batch batch;
    bool any_one_by_one = false; // of the slots in use
    reaching_lights<Scalar> lights;
};

template <class Scalar> class scene_shading {
    // What of one object every pixel needs.
    struct prepared_object {
        const staged_object& staged;
        const mesh& shape;
        const named_material& material;
        matrix4 from_eye_of_light;
        bool moved_for_light = false; // lit points are not where the picture's are
        matrix4 to_light_place;       // from a point relative to the eye to the lit one, relative to it too
        std::array<double, 9> normal_to_world{};
        surface<Scalar> factors;

        prepared_object(const stage& from, const staged_object& object);
        [[nodiscard]] vec3<double> lit_position(std::uint32_t vertex) const {
            return transform_point(from_eye_of_light, shape.positions[vertex]);
        }
        [[nodiscard]] rgb<double> color(std::uint32_t vertex) const {
            return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[vertex];
        }
        [[nodiscard]] vec3<double> face_normal(const triangle& corners) const;
    };

    using corner_values = std::array<std::array<double, 3>, wide::most_attributes>; // attribute by corner

    const stage& from_;
    const shader<Scalar>& with_;
    const projected_scene& vertices_;
    lit_before_pixels<Scalar>& lit_;
    wide::kernels kernels_;
    finish_settings<Scalar> settings_;
    vec3<Scalar> eye_;
    std::vector<std::vector<ready_light<Scalar>>> lights_;
    std::vector<std::vector<const ready_light<Scalar>*>>
        with_ambient_; // of each set, those with an ambient part
    std::vector<light_reach> reach_;
    std::vector<prepared_object> objects_;
    std::array<vec3<double>, 3> rays_;
    bool skip_unreachable_;
    std::atomic<std::uint64_t> evaluations_ = 0;
    std::atomic<std::uint64_t> pixels_ = 0;
    mutable std::array<std::atomic<std::uint64_t>, formulas::slot_count> not_finite_{};

    void run(block<Scalar>& points, const prepared_object& object, reaching_lights<Scalar>& scratch) const;
    void make_room_before_pixels();
    void put_vertices(before_pixels_scratch<Scalar>& with, std::size_t o, bool front, std::size_t first,
                      std::size_t count) const;
    void put_triangles(before_pixels_scratch<Scalar>& with, std::size_t o, std::size_t first,
                       std::size_t count) const;
    void light_before_pixels(shading_scratch<Scalar>& mine, std::size_t o, bool front, std::size_t first,
                             std::size_t count) const;
    const outgoing<Scalar>& lit(shading_scratch<Scalar>& mine, std::size_t o, bool front,
                                std::size_t number) const;

    [[nodiscard]] triangle_weights weights(std::size_t o, const triangle& corners) const;
    [[nodiscard]] wide::attribute_layout layout_of(const prepared_object& object) const {
        const bool textured = object.material.image != nullptr;
        const bool per_fragment = from_.rate == rate::fragment;
        return {per_fragment, per_fragment ? !object.shape.colors.empty() : textured, textured};
    }
    template <class Put>
    void corner_attributes(shading_scratch<Scalar>& mine, std::size_t o, std::uint32_t t, bool front,
                           Put&& put) const;
    void corner_attributes_one_by_one(shading_scratch<Scalar>& mine, std::size_t o, std::uint32_t t,
                                      bool front, corner_values& into) const;
    void set_planes_of_whole(shading_scratch<Scalar>& mine, wide::attribute_planes& planes, std::size_t o,
                             std::uint32_t t) const;
    void set_flat(shading_scratch<Scalar>& mine, std::size_t o) const;
    [[nodiscard]] wide::texel_places texels_of(shading_scratch<Scalar>& mine,
                                               const prepared_object& object) const;
    void set_planes(shading_scratch<Scalar>& mine, std::size_t o) const;
    void put_points(shading_scratch<Scalar>& mine, std::size_t o) const;
    bool put_square(shading_scratch<float>& mine, std::size_t o, int x, int y,
                    const pixel_target& into) const;
    void put_flat(shading_scratch<Scalar>& mine) const;
    static void put_front(shading_scratch<Scalar>& mine);
    static void put_front_of_square(shading_scratch<Scalar>& mine);
    void put_run_one_by_one(shading_scratch<Scalar>& mine, std::size_t o, const wide::pixel_run& run,
                            std::size_t at) const;
    void move_for_light(block<Scalar>& points, const prepared_object& object) const;
    void tint(shading_scratch<Scalar>& mine, const prepared_object& object) const;
    void put_field_points(shading_scratch<Scalar>& mine, std::size_t o, const wide::tile_view& seen) const;
    void write(shading_scratch<Scalar>& mine, const prepared_object& object, const pixel_target& into) const;
    void light_block(shading_scratch<Scalar>& mine, const prepared_object& object) const;
    // Whether triangles have one colour each, and nothing is spread over them.
    [[nodiscard]] bool flat(const prepared_object& object) const {
        return from_.rate == rate::face && !object.material.image;
    }
    // Whether a vertex has another colour seen from the back.
    [[nodiscard]] bool two_colors(const prepared_object& object) const {
        return object.material.look.two_sided || with_.asks_for_front;
    }
    void shade_waiting(shading_scratch<Scalar>& mine, std::size_t o, const pixel_target& into);
    std::size_t gather(shading_scratch<Scalar>& mine, std::size_t o,
                       std::span<const wide::seen_run> runs) const;
    void shade_runs(shading_scratch<Scalar>& mine, std::size_t o, std::span<const wide::seen_run> runs,
                    const wide::tile_view& seen, const pixel_target& into);
    void show_pieces(shading_scratch<Scalar>& mine, std::size_t o) const;
    bool shade_square(shading_scratch<Scalar>& mine, std::size_t o, int x, int y,
                      const pixel_target& into) const;
    wide::found_runs shade_squares(shading_scratch<Scalar>& mine, const wide::tile_view& seen,
                                   wide::seen_run* runs, const pixel_target& into) const;
    void shade_all_runs(shading_scratch<Scalar>& mine, std::span<const wide::seen_run> runs,
                        const wide::found_runs& found, const wide::tile_view& view, const pixel_target& into);
    std::uint64_t fill_background(std::span<wide::seen_run>& runs, const pixel_target& into) const;

  public:
    scene_shading(const stage& from, const shader<Scalar>& with, const projected_scene& vertices,
                  lit_before_pixels<Scalar>& lit, const wide::kernels& kernels, bool skip_unreachable);

    void shade(const tile& at, tile_scratch& seen, shading_scratch<Scalar>& mine, const pixel_target& into);

    [[nodiscard]] draw_statistics done() const {
        draw_statistics result{evaluations_, pixels_};
        for (std::size_t i = 0; i < not_finite_.size(); ++i) {
            result.not_finite[i] = not_finite_[i];
        }
        return result;
    }
};

} // namespace yurvo::inline v0_1::pipeline
