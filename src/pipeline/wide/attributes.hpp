// What triangles hand to their pixels: planes over the picture, and their values at the pixels of a block.
// See vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/wide/coverage.hpp"
#include "yurvo/numeric/rgb.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// What the corners of an object's triangles hand to their pixels, in this order: three numbers (a normal, or
// a lit colour), three more (a vertex colour, or the part of a lit colour that no texture tints), and two
// that say where in the texture, in texels.
inline constexpr std::size_t first_attributes = 3;
inline constexpr std::size_t more_attributes = 3;
inline constexpr std::size_t texel_attributes = 2;
inline constexpr std::size_t most_attributes = first_attributes + more_attributes + texel_attributes;
struct attribute_layout {
    bool normals = false; // or colours, first; normals come with positions
    bool more = false;
    bool textured = false;

    [[nodiscard]] std::size_t texels_at() const { return first_attributes + (more ? more_attributes : 0); }
    [[nodiscard]] std::size_t count() const { return texels_at() + (textured ? texel_attributes : 0); }
    [[nodiscard]] bool extras() const { return more || textured; }
};
inline constexpr std::size_t more_at = first_attributes;

// Attributes over one triangle: each, times inverse_depth, is a plane over the picture. Four planes lie side
// by side, inverse_depth first, so that a point's values are found together.
struct plane_over_pixels {
    double at = 0, across = 0, down = 0; // its value where it is measured from, and its changes
};
struct alignas(64) attribute_planes {
    static constexpr std::size_t abreast = 4;
    struct group {
        std::array<double, abreast> at{}, across{}, down{};
    };

    double x = 0, y = 0; // where the planes are measured from, in pixels
    double least = 0, most = 0;
    bool front = true;
    bool one_by_one = false; // too thin: weights are found pixel by pixel
    bool few_pixels = false; // planes for a square of their own are not worth it
    // Of colours at its corners each component's least magnitude: of the first numbers, where they are
    // colours, and of the second three; but of what no texture tints the greatest, as it is added to another
    // colour.
    std::array<double, first_attributes> least_of_first{};
    std::array<double, more_attributes> size_of_more{};
    std::array<group, most_attributes / abreast + 1> groups{};

    // 0 is inverse_depth, 1 the first attribute.
    [[nodiscard]] plane_over_pixels plane(std::size_t i) const {
        const group& planes = groups[i / abreast];
        return {planes.at[i % abreast], planes.across[i % abreast], planes.down[i % abreast]};
    }
    void set(std::size_t i, const plane_over_pixels& plane) {
        group& planes = groups[i / abreast];
        planes.at[i % abreast] = plane.at;
        planes.across[i % abreast] = plane.across;
        planes.down[i % abreast] = plane.down;
    }
};

// The same for the pixels of one square of 16x16: a value is whole + depth · (at + across · x + down · y),
// inverse_depth the sum in brackets, with x and y from the square's middle in pixels. Nearness, the normal,
// the position; or nearness and colours; or what comes after, without its nearness.
struct alignas(64) square_planes {
    std::array<float, 8> at{}, across{}, down{}, whole{};
};
// Which square a slot's planes are for: its first pixel, y in the upper half, or one of these. The last bit
// is set where floats do not hold enough of them, the one before where they do not of what comes after.
inline constexpr std::int32_t no_square = -8;
inline constexpr std::int32_t always_doubles = -4;
inline constexpr std::int32_t first_in_doubles = 1;
inline constexpr std::int32_t extras_in_doubles = 2;
inline constexpr std::int32_t which_square = ~(first_in_doubles | extras_in_doubles);

// Triangles of one object whose planes are to be set. place() says where they are; then their corners'
// values are filled in, and set() makes the planes.
inline constexpr std::size_t planes_at_once = 16;
struct plane_batch {
    template <class Value> using each = std::array<Value, planes_at_once>;
    template <class Value> using by_corner = std::array<each<Value>, 3>;

    const object_view* object = nullptr;
    std::size_t count = 0;
    each<std::uint32_t> triangles{}; // of the object
    // Set by place(): the corners on the picture, unsnapped.
    alignas(64) by_corner<double> x{}, y{}, inverse_depth{};
    each<bool> front{};
    each<bool> behind{}; // a corner cannot be projected: nothing else of this one is set
    // Set in between.
    attribute_layout layout; // normals are the object's, to be turned to the world ...
    bool two_sided = false;  // ... and negated where the triangle faces away
    std::array<double, 9> normal_to_world{};
    alignas(64) std::array<by_corner<double>, most_attributes> values{};
    each<attribute_planes*> into{};
};

// Pixels of one row that show one triangle, whose planes are in a slot.
struct pixel_run {
    std::int16_t x, y;
    std::int16_t count; // 1 to 16
    std::uint16_t slot;
};

// Squares of `square` pixels, counted from the picture's corner.
inline constexpr int in_square = square - 1; // the bits of a coordinate that say where in its square
static_assert((square & in_square) == 0);
inline std::int32_t square_of(int x, int y) { return (y & ~in_square) << 16 | (x & ~in_square); }
inline std::int32_t square_of(const pixel_run& run) { return square_of(run.x, run.y); }
inline bool same_square(const pixel_run& a, const pixel_run& b) { return square_of(a) == square_of(b); }

// Where in a texture points are: between which texels, counted from the left and from the bottom, and how far
// on the way to the next ones.
struct texel_places {
    std::int32_t* column = nullptr; // of any number: the texture is repeated
    std::int32_t* row = nullptr;
    float* across = nullptr;
    float* up = nullptr;
    int width = 1, height = 1; // of the texture
};

// All points of a block, in the order of the runs.
template <class Scalar> struct spread_request { // NOLINT
    const attribute_planes* planes = nullptr;   // slot by slot
    square_planes* in_square = nullptr;         // likewise; null where they do not serve
    square_planes* extras_in_square = nullptr;  // likewise, where there are any
    std::int32_t* square = nullptr;             // likewise: which they are for
    const pixel_run* runs = nullptr;
    std::size_t run_count = 0;
    std::size_t points = 0;
    attribute_layout layout;
    std::array<Scalar*, 3> first; // 16 more than there are points may be written
    std::array<Scalar*, 3> more;
    texel_places texels;
    // Positions relative to the eye, with normals: the ray through pixel (0, 0)'s corner and its changes.
    const std::array<vec3<double>, 3>* rays = nullptr;
    std::array<Scalar*, 3> position;
};

// A square that shows one object, triangle by triangle: the pixels of each, cell by cell.
struct shown_piece {
    std::uint16_t pixels;
    std::uint8_t cell, more; // as in a cell_piece
    std::uint8_t next;       // of the triangle's pieces
};
inline constexpr std::uint8_t no_piece = 255;
static_assert(most_pieces < no_piece);
struct shown_triangle {
    std::uint16_t slot;
    std::uint8_t first; // of its pieces
};
// What all its pixels are handed.
struct square_request {              // NOLINT: as above
    const attribute_planes* planes;  // slot by slot
    square_planes* in_square;        // likewise
    square_planes* extras_in_square; // likewise, where there are any
    std::int32_t* square;            // likewise: which they are for
    const shown_triangle* triangles;
    std::size_t triangle_count;
    const shown_piece* pieces;
    int x, y;                                // the square's first pixel
    const std::array<vec3<double>, 3>* rays; // as above
    attribute_layout layout;
    std::array<float*, 6> into; // the first, positions: 256 each, cell by cell
    std::array<float*, 3> more; // likewise
    texel_places texels;        // likewise
    const float* rgba;          // where its pixels will be written, and how many floats lie
    std::size_t pitch;          // from one row to the next
};

// A square whose triangles have one colour each, by slot.
struct flat_request {
    const shown_triangle* triangles;
    std::size_t triangle_count;
    const shown_piece* pieces;
    const std::array<float, 3>* colors;
    std::array<float*, 3> into; // 256 each, cell by cell
};

// Colours between texels at points, each times `factor` and, where there are such, times a number of the
// point's own, and another one added.
struct sample_request {
    const rgb<float>* texels = nullptr; // the top row first
    texel_places at;
    std::size_t count = 0; // of the points
    std::array<float, 3> factor{1, 1, 1};
    std::array<const float*, 3> times{}, plus{};
    std::array<float*, 3> into{}; // 16 more may be written; may be `times`
};

// Red, green and blue, lane by lane.
using color_lanes = std::array<const float*, 3>;

// Where pixels go: so many rows of so many, and how many floats lie from one row to the next.
struct pixel_rows {
    float* rgba = nullptr;
    std::size_t count = 0;
    std::size_t rows = 1;
    std::size_t pitch = 0;
};

struct box {
    std::array<float, 3> low{}, high{};
};

struct attribute_kernels {
    void (*place)(plane_batch&);
    void (*set)(plane_batch&);
    void (*spread)(const spread_request<float>&);
    void (*spread_double)(const spread_request<double>&);
    void (*spread_square)(const square_request&);
    void (*flat_square)(const flat_request&);
    void (*sample)(const sample_request&);
    box (*bounds)(const float* x, const float* y, const float* z, std::size_t count);
    // Rows of `count` pixels: alpha put to each colour, NaN written as 0.
    void (*write)(const color_lanes& lit, const pixel_rows& to, float alpha);
    // The same of the pixels of a square, cell by cell.
    void (*write_square)(const color_lanes& lit, float* rgba, std::size_t pitch, float alpha);
    void (*fill)(const std::array<float, 4>& color, float* rgba, std::size_t count);
};

// Thinner than this many pixels, a triangle's planes are not carried on to a centre that only the snap to
// 1/256 pixel has brought into it: the weights could then be off by more than a quarter.
inline constexpr double thin = 1.0 / 64;
// A triangle of fewer pixels than these goes in doubles: making its square's planes takes longer than its
// pixels.
inline constexpr double few = 8;
// Such a centre lies on the plane carried on a little; bounds keep it before the eye.
inline constexpr double beyond_least = 0.5;
inline constexpr double beyond_most = 2;

} // namespace yurvo::inline v0_1::pipeline::wide
