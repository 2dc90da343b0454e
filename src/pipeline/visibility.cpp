#include "yurvo/pipeline/visibility.hpp"

#include <algorithm>
#include <cmath>

#include <Eigen/LU>

#include "yurvo/pipeline/interpolation.hpp"
#include "yurvo/pipeline/parallel.hpp"

namespace yurvo::pipeline {

projected project_vertices(const stage& from) {
    projected made;
    made.first_triangle.push_back(0);
    for (const staged_object& object : from.objects) {
        // The eye is taken off the translation before any point is moved, so that what is near keeps its
        // digits.
        matrix4 from_eye = object.to_world;
        from_eye(0, 3) -= from.seen_from.eye.x;
        from_eye(1, 3) -= from.seen_from.eye.y;
        from_eye(2, 3) -= from.seen_from.eye.z;
        const std::vector<vec3<double>>& positions = object.shape->positions;
        std::vector<homogeneous>& corners = made.corners.emplace_back(positions.size());
        in_pieces(positions.size(), 4096, [&](std::size_t begin, std::size_t end) {
            for (std::size_t i = begin; i < end; ++i) {
                corners[i] = from.seen_from.to_pixels(transform_point(from_eye, positions[i]));
            }
        });
        const std::size_t count = object.field ? 1 : object.shape->triangles.size();
        made.first_triangle.push_back(made.first_triangle.back() + static_cast<std::uint32_t>(count));
    }
    return made;
}

namespace {

// True where no part of a triangle can be in a band of the picture.
bool outside(const homogeneous& a, const homogeneous& b, const homogeneous& c, const camera& seen_from,
             const band& rows) {
    const auto all = [&](auto&& beyond) { return beyond(a) && beyond(b) && beyond(c); };
    const double width = seen_from.width;
    // A pixel's width of room for what snapping moves.
    return all([&](const homogeneous& p) { return p.z < seen_from.near; }) ||
           all([&](const homogeneous& p) { return p.z > seen_from.far; }) ||
           all([&](const homogeneous& p) { return p.x < -p.z; }) ||
           all([&](const homogeneous& p) { return p.x > (width + 1) * p.z; }) ||
           all([&](const homogeneous& p) { return p.y < (rows.top - 1) * p.z; }) ||
           all([&](const homogeneous& p) { return p.y > (rows.bottom + 1) * p.z; });
}

// The pixels that a field can be seen at: those around its box.
struct pixel_box {
    int left = 0, top = 0, right = 0, bottom = 0; // half-open
};

pixel_box pixels_around(const staged_object& object, const camera& seen_from) {
    const bounds box = bounds_of(*object.field);
    const pixel_box whole{0, 0, seen_from.width, seen_from.height};
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

} // namespace

field_rays::field_rays(const staged_object& object, const camera& seen_from_)
    : of(*object.field),
      seen_from(seen_from_),
      to_object(object.to_world.inverse()),
      from(transform_point(to_object, seen_from.eye)) {}

vec3<double> field_rays::along(double x, double y) const {
    return transform_direction(to_object.topLeftCorner<3, 3>(), seen_from.ray(x, y));
}

std::optional<double> field_rays::meet(double x, double y) const {
    return march(of, from, along(x, y), seen_from.near, seen_from.far);
}

namespace {

// What is seen in a band of rows; no other band touches its pixels.
class band_painter {
    const stage& from_;
    const projected& vertices_;
    visibility& found_;
    band rows_;
    float nearest_;
    double cut_at_;

    [[nodiscard]] std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(found_.width) +
               static_cast<std::size_t>(x);
    }

    void put(std::size_t at, float nearness, std::uint32_t id) {
        if (nearness > found_.nearness[at] && nearness <= nearest_) {
            found_.nearness[at] = nearness;
            found_.triangles[at] = id;
        }
    }

    void paint_field(std::size_t o) {
        const field_rays rays(from_.objects[o], from_.seen_from);
        const pixel_box box = pixels_around(from_.objects[o], from_.seen_from);
        for (int y = std::max(box.top, rows_.top); y < std::min(box.bottom, rows_.bottom); ++y) {
            for (int x = box.left; x < box.right; ++x) {
                if (const std::optional<double> depth = rays.meet(x + 0.5, y + 0.5)) {
                    put(index(x, y), static_cast<float>(1 / *depth), vertices_.first_triangle[o]);
                }
            }
        }
    }

    void paint_mesh(std::size_t o) {
        const mesh& shape = *from_.objects[o].shape;
        const std::vector<homogeneous>& corners = vertices_.corners[o];
        for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
            const triangle& corner = shape.triangles[t];
            const homogeneous& a = corners[corner[0]];
            const homogeneous& b = corners[corner[1]];
            const homogeneous& c = corners[corner[2]];
            depth_plane plane;
            if (outside(a, b, c, from_.seen_from, rows_) || !plane.set(a, b, c, from_.seen_from.near)) {
                continue;
            }
            const std::uint32_t id = vertices_.first_triangle[o] + static_cast<std::uint32_t>(t);
            cover_clipped(
                a, b, c, cut_at_, found_.width, rows_.bottom,
                [&](int y, int begin, int end) {
                    for (int x = begin; x < end; ++x) {
                        put(index(x, y), plane.at(x + 0.5, y + 0.5), id);
                    }
                },
                rows_.top);
        }
    }

  public:
    band_painter(const stage& from, const projected& vertices, visibility& found, const band& rows)
        : from_(from),
          vertices_(vertices),
          found_(found),
          rows_(rows),
          // Near and far are held pixel by pixel: farther than far loses against an empty pixel, and nearer
          // than near is left out. Cutting the triangle only keeps what is behind the eye from being
          // projected.
          nearest_(static_cast<float>(1 / from.seen_from.near)),
          cut_at_(from.seen_from.near * (1 - 0x1p-10)) {}

    void paint() {
        for (std::size_t o = 0; o < from_.objects.size(); ++o) {
            from_.objects[o].field ? paint_field(o) : paint_mesh(o);
        }
    }
};

} // namespace

visibility find_visible(const stage& from, const projected& vertices) {
    visibility found;
    found.width = from.seen_from.width;
    found.height = from.seen_from.height;
    const auto pixels = static_cast<std::size_t>(found.width) * static_cast<std::size_t>(found.height);
    found.nearness.assign(pixels, std::nextafter(static_cast<float>(1 / from.seen_from.far), 0.0F));
    found.triangles.assign(pixels, visibility::nothing);
    // Every band looks at every triangle: a few tall ones, then, unless each triangle is many pixels.
    const std::uint32_t triangles = vertices.first_triangle.back();
    const int bands = triangles > 100'000 ? 2 * oneapi::tbb::this_task_arena::max_concurrency() : 32;
    in_bands(found.height, std::max(1, (found.height + bands - 1) / bands),
             [&](const band& rows) { band_painter(from, vertices, found, rows).paint(); });
    return found;
}

} // namespace yurvo::pipeline
