// Which pixels of a tile each triangle covers, and the nearest kept. See vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/wide/vertices.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// One object as the tiles need it.
struct object_view {
    std::int32_t first = 0, end = 0; // its triangles, counted over all objects
    const triangle* triangles = nullptr;
    const steps* at = nullptr;            // only of what was projected ...
    const float* inverse_depth = nullptr; // ... to sort triangles
    const vec3<double>* positions = nullptr;
    std::array<double, 12> to_pixels{};
    double near = 0; // nearer corners cannot be projected
    bool mirrored = false;
};

// How wide and high the squares are in which a tile's runs are found: what is shaded together lies together.
inline constexpr int square = 16;
inline constexpr std::size_t square_pixels = std::size_t{square} * square;
// And the cells in which its pixels lie: a triangle of some pixels has them in fewer cells than rows.
inline constexpr int cell = 4;
inline constexpr int cell_pixels = cell * cell;
inline constexpr int in_cell = cell - 1; // the bits of a coordinate that say where in its cell

// A part of the picture while it is found out what is seen there. Its pixels lie cell by cell, row by row in
// each; squares are whole, also where they reach beyond the tile: nothing is ever seen there.
struct tile_view {
    int left = 0, top = 0, width = 0, height = 0;
    int cells_across = 0, cells_down = 0; // multiples of four
    float* inverse_depth = nullptr;
    std::int32_t* seen = nullptr; // triangles, −1 where nothing is
    float nearest = 0;            // 1 / near
    double near = 0;
    const float* coarse = nullptr; // the least inverse_depth of each 8×8 pixels, row by row

    // Where the picture's pixel (x, y) lies.
    [[nodiscard]] std::ptrdiff_t place(int x, int y) const {
        const int across = x - left;
        const int down = y - top;
        return static_cast<std::ptrdiff_t>(down / cell * cells_across + across / cell) * cell_pixels +
               static_cast<std::ptrdiff_t>((down & in_cell) * cell + (across & in_cell));
    }
    [[nodiscard]] int coarse_across() const { return cells_across / 2; }
    [[nodiscard]] std::size_t pixels() const {
        return static_cast<std::size_t>(cells_across) * static_cast<std::size_t>(cells_down) * cell_pixels;
    }
};

struct cover_request {
    const std::uint32_t* triangles = nullptr;
    std::size_t count = 0;
    const object_view* objects = nullptr;
    std::size_t object_count = 0;
};

// Triangles of one object that follow one another, of which those that face away are to be covered: as long
// as all of them may be hidden, they are asked about together.
struct back_cluster {
    std::int32_t first = 0; // counted over all objects
    std::int32_t count = 0; // at most triangles_at_once
    pixel_box box;
    float inverse_depth = 0; // of the nearest corner
    bool put_off = false;    // none of its triangles was sorted: all of them are meant, however they face
};

// Pixels of one row that show one triangle.
struct seen_run {
    std::int16_t x, y;
    std::int16_t count;    // 1 to 16
    std::int32_t triangle; // −1: nothing is seen
};

struct found_runs {
    std::size_t count = 0;
    std::int32_t least = INT32_MAX, most = -1; // of the triangles that are seen
    bool any_nothing = false;                  // some pixels show none
};

// Pixels of one cell that show one triangle: a bit for each.
struct cell_piece {
    std::int32_t triangle;
    std::uint16_t pixels;
    std::uint8_t cell; // of the square, row by row
    std::uint8_t more; // cells after it that show the triangle alone, as it does itself then
};
inline constexpr std::size_t cells_abreast = square / cell;
inline constexpr std::size_t cells_in_square = cells_abreast * cells_abreast;
inline constexpr std::size_t most_pieces = cells_in_square * cell_pixels / 2; // two pixels each
struct square_pieces {
    std::size_t count = 0;
    std::int32_t least = 0, most = 0;                                        // of the triangles
    std::array<cell_piece, most_pieces + cells_abreast * cell_pixels> all{}; // a row of cells too many
};

struct coverage_kernels {
    // Nothing is seen yet; `background` is how near what is seen has to be at least.
    void (*clear)(const tile_view&, float background);
    void (*cover)(const cover_request&, const tile_view&);
    // What lies behind what the coarse inverse_depth says is there is left out.
    void (*cover_backs)(const back_cluster&, const object_view&, const tile_view&);
    // How near something has to be at least, or nothing of it is seen in the tile.
    float (*farthest)(const tile_view&);
    // The same of each 8×8 pixels.
    void (*coarsen)(const tile_view&, float* coarse);
    // The runs of the square whose first pixel is (x, y), put after those found so far: there is room for one
    // a pixel.
    void (*split)(const tile_view&, int x, int y, seen_run* runs, found_runs& found);
    // A square that the tile holds whole, in pieces; false where a pixel shows nothing, or where they were
    // too many.
    bool (*take_apart)(const tile_view&, int x, int y, square_pieces& into);
};

// The object that a triangle belongs to, `guess` if it does.
inline std::size_t object_of(std::int32_t triangle, const object_view* objects, std::size_t count,
                             std::size_t guess) {
    if (triangle >= objects[guess].first && triangle < objects[guess].end) {
        return guess;
    }
    std::size_t low = 0;
    std::size_t high = count;
    while (high - low > 1) {
        const std::size_t middle = (low + high) / 2;
        (objects[middle].first <= triangle ? low : high) = middle;
    }
    return low;
}

} // namespace yurvo::inline v0_1::pipeline::wide
