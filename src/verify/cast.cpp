#include "verify/cast.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "pipeline/parallel.hpp"
#include "verify/cast_parts.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

namespace {} // namespace

caster::parts::parts(const scene& to_cast_at, const tolerance_model& to_allow)
    : the_scene(to_cast_at),
      allowed(to_allow),
      lighting(the_scene, allowed.angle),
      geometry(geometry_of(the_scene)),
      meshes(geometry->shapes->meshes),
      tree(geometry->shapes->tree),
      lit_corners(the_scene.shading.rate == rate::vertex ? 2 * std::size_t{tree.size()} : 0),
      lit_middles(the_scene.shading.rate == rate::face ? 2 * std::size_t{tree.size()} : 0) {
    const view& view = the_scene.view;
    const vec3<double> ahead = view.target - view.eye;
    forward = ahead / std::hypot(ahead.x, ahead.y, ahead.z);
    const vec3<double> side = cross(forward, view.up);
    right = side / std::hypot(side.x, side.y, side.z);
    up = cross(right, forward);
    const double half_height = std::tan(view.fov / 2);
    right = right * (half_height * view.width / view.height);
    up = up * half_height;
}

vec3<double> caster::parts::on_picture(const vec3<double>& point) const {
    const view& view = the_scene.view;
    const vec3<double> to = point - view.eye;
    const double depth = dot(to, forward);
    return {(dot(to, right) / dot(right, right) / depth + 1) * view.width / 2,
            (1 - dot(to, up) / dot(up, up) / depth) * view.height / 2, depth};
}

namespace {

// By how much a linear value changes over two codes of the sRGB curve (IEC 61966-2-1); beyond 1, which codes
// do not tell apart, in proportion.
double two_codes_at(double linear) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    const double slope =
        kept <= 0.0031308 ? 12.92 : 1.055 / 2.4 * std::pow(kept, 1 / 2.4 - 1); // of the codes
    return 2.0 / 255 / slope * std::max(1.0, linear);
}

} // namespace

cast_color caster::parts::widened(cast_color result, double x, double y, bool snapped) const {
    if (allowed.precision == 1 && allowed.snap == 0 && allowed.texel == 0) {
        return result;
    }
    const texture* const image =
        result.object < 0
            ? nullptr
            : the_scene.materials[the_scene.objects[static_cast<std::size_t>(result.object)].material]
                  .image.get();
    // A power of 2.4 changes by 2.4 times as much.
    const double texels = image == nullptr ? 0 : image->of_codes ? 2 * 2.4 : 2;
    const rgb<double> of_texel = result.color * (texels * allowed.texel);
    // Whatever the precision needs, no more than two codes are hidden by it: what a step of the model's
    // allows is no matter of precision, and stays.
    const auto kept = [&](double tolerance, double linear) {
        return std::max(tolerance, std::min(tolerance * allowed.precision, two_codes_at(linear)));
    };
    result.tolerance = {kept(result.tolerance.r, result.color.r), kept(result.tolerance.g, result.color.g),
                        kept(result.tolerance.b, result.color.b)};
    if (!snapped) {
        result.tolerance = result.tolerance + of_texel;
        return result;
    }
    rgb<double> most;
    for (const auto& [dx, dy] :
         {std::array{allowed.snap, 0.0}, {-allowed.snap, 0.0}, {0.0, allowed.snap}, {0.0, -allowed.snap}}) {
        const cast_color near = cast(x + dx, y + dy);
        if (near.object == result.object) {
            most =
                max(most, {std::abs(near.color.r - result.color.r), std::abs(near.color.g - result.color.g),
                           std::abs(near.color.b - result.color.b)});
        }
    }
    result.tolerance = result.tolerance + 2.0 * most + of_texel;
    return result;
}

vec3<double> caster::parts::ray(double x, double y) const {
    return forward + right * (2 * x / the_scene.view.width - 1) + up * (1 - 2 * y / the_scene.view.height);
}

cast_color caster::parts::nothing() const {
    return {the_scene.view.background, rgb<double>(2 * u) * the_scene.view.background,
            the_scene.view.background_alpha, -1};
}

cast_color caster::parts::finished(const range3& color, double alpha, std::size_t o) {
    // Twice the bound on rounding: what is right stays below half its tolerance.
    const auto tolerance = [](const range& of_range) {
        return 2 * (of_range.tolerance() + 2 * u * of_range.magnitude());
    };
    return {{color.r.value, color.g.value, color.b.value},
            {tolerance(color.r), tolerance(color.g), tolerance(color.b)},
            alpha,
            static_cast<std::ptrdiff_t>(o)};
}

cast_geometry::centre caster::parts::find(double x, double y, const vec3<double>& along,
                                          std::uint32_t likely) const {
    const std::vector<cast_geometry::centre>& centres = geometry->centres;
    const view& view = the_scene.view;
    if (geometry->centres_known.load(std::memory_order_acquire) && x == std::floor(x) + 0.5 &&
        y == std::floor(y) + 0.5 && x > 0 && y > 0 && x < view.width && y < view.height) {
        return centres[static_cast<std::size_t>(y) * static_cast<std::size_t>(view.width) +
                       static_cast<std::size_t>(x)];
    }
    return {tree.find(view.eye, along, view.near, view.far, likely), find_field(along)};
}

void caster::parts::find_all_centres() const {
    // What is kept of a large picture would take more memory than casting its rays again takes time.
    constexpr std::int64_t most_pixels = 100'000;
    if (std::int64_t{the_scene.view.width} * the_scene.view.height > most_pixels) {
        return;
    }
    std::call_once(geometry->all_centres_asked, [&] {
        const view& view = the_scene.view;
        const auto width = static_cast<std::size_t>(view.width);
        std::vector<cast_geometry::centre> found(width * static_cast<std::size_t>(view.height));
        pipeline::for_each_of(view.height, [&](int y) {
            std::uint32_t before = triangle_hit::none; // met by the pixel to the left
            for (int x = 0; x < view.width; ++x) {
                cast_geometry::centre& met =
                    found[static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x)];
                met = find(x + 0.5, y + 0.5, ray(x + 0.5, y + 0.5), before);
                before = met.triangle.triangle;
            }
        });
        geometry->centres = std::move(found);
        geometry->centres_known.store(true, std::memory_order_release);
    });
}

cast_color caster::parts::cast(double x, double y) const {
    const vec3<double> along = ray(x, y);
    const auto [hit, implicit] = find(x, y, along);
    if (implicit.depth < hit.distance) {
        return color_of_field(implicit, along);
    }
    return std::isfinite(hit.distance) ? color_of(hit, along) : nothing();
}

std::vector<cast_color> caster::parts::cast_around(double x, double y, double step) const {
    const vec3<double> centre = ray(x, y);
    std::vector<std::uint32_t> wanted;
    std::vector<cast_color> colors;
    bool empty = false;
    for (int i = 0; i < 9; ++i) {
        const int column = i % 3 - 1;
        const int row = i / 3 - 1;
        const vec3<double> along = ray(x + column * step, y + row * step);
        const triangle_hit nearest =
            tree.find(the_scene.view.eye, along, the_scene.view.near, the_scene.view.far);
        const field_hit implicit = find_field(along);
        const double depth = std::min(nearest.distance, implicit.depth);
        if (!std::isfinite(depth)) {
            empty = true;
            continue;
        }
        // Nearness, 1 / depth, is rounded to float once for each surface: closer than that they are tied.
        const double room = 2 * u * depth;
        if (implicit.depth <= depth + room) {
            colors.push_back(color_of_field(implicit, along));
            // Snapping moves triangles' edges, not fields: beside an edge a field shows as it is at the
            // centre.
            const field& shape = std::get<field_shape>(the_scene.objects[implicit.object].shape).field;
            const double at_centre = meet_field(implicit.object, shape, centre);
            if (std::isfinite(at_centre)) {
                colors.push_back(color_of_field({implicit.object, at_centre}, centre));
            }
        }
        for (const triangle_hit& hit : tree.find_all(the_scene.view.eye, along, depth - room, depth + room)) {
            if (std::find(wanted.begin(), wanted.end(), hit.triangle) == wanted.end()) {
                wanted.push_back(hit.triangle);
                colors.push_back(color_of(tree.meet_plane(hit.triangle, the_scene.view.eye, centre), centre));
            }
        }
    }
    if (empty) {
        colors.push_back(nothing());
    }
    add_slivers(x, y, step, colors);
    return colors;
}

caster::caster(const scene& the_scene, const tolerance_model& allowed)
    : parts_(std::make_unique<const parts>(the_scene, allowed)) {}
caster::~caster() = default;
caster::caster(caster&&) noexcept = default;
caster& caster::operator=(caster&&) noexcept = default;

void caster::find_all_centres() const { parts_->find_all_centres(); }

cast_color caster::at(double x, double y) const { return parts_->widened(parts_->cast(x, y), x, y, true); }
cast_color caster::at_without_snap(double x, double y) const {
    return parts_->widened(parts_->cast(x, y), x, y, false);
}

std::optional<vec3<double>> caster::place(double x, double y) const {
    const vec3<double> along = parts_->ray(x, y);
    const view& view = parts_->the_scene.view;
    const double depth = std::min(parts_->tree.find(view.eye, along, view.near, view.far).distance,
                                  parts_->find_field(along).depth);
    return std::isfinite(depth) ? std::optional(view.eye + along * depth) : std::nullopt;
}

vec3<double> caster::to_world(std::size_t object, const vec3<double>& point) const {
    return parts_->to_world(object, point);
}

std::optional<vec3<double>> caster::in_picture(const vec3<double>& point) const {
    const vec3<double> seen_at = parts_->on_picture(point);
    return seen_at.z > 0 ? std::optional(seen_at) : std::nullopt;
}

std::vector<std::string> caster::derivation(double x, double y) const {
    const auto text = [](double value) { return short_number(value, 3); };
    const cast_color cast = at(x, y);
    std::vector<std::string> lines{"u = 2^-24 = " + text(u) +
                                   " is half the distance from 1 to the next float."};
    const std::optional<vec3<double>> met = place(x, y);
    if (!met) {
        lines.push_back("Nothing is seen there: the background, rounded once: 2u of it.");
        return lines;
    }
    const vec3<double> from_eye = *met - parts_->the_scene.view.eye;
    const double far = std::hypot(from_eye.x, from_eye.y, from_eye.z);
    lines.push_back("The point seen is " + text(far) +
                    " m from the eye; measured from there and rounded it is off by u · " + text(far) +
                    " m = " + text(u * far) + " m.");
    for (std::string& line : parts_->lighting.derivation(*met)) {
        lines.push_back(std::move(line));
    }
    lines.push_back(
        "Each formula is evaluated at both ends of these intervals; normals are turned by 2u and what "
        "interpolating them rounds; a highlight's exponent multiplies what is left of its angle; every "
        "further operation adds u of the terms' sum.");
    lines.push_back("In all, doubled so that a right picture stays below half: " + text(cast.tolerance.r) +
                    ", " + text(cast.tolerance.g) + ", " + text(cast.tolerance.b) + " of " +
                    text(cast.color.r) + ", " + text(cast.color.g) + ", " + text(cast.color.b) + ".");
    return lines;
}

bool caster::near_border(double x, double y, double step) const {
    const vec3<double> centre = parts_->ray(x, y);
    const view& view = parts_->the_scene.view;
    const auto met = [&](const vec3<double>& along) {
        const triangle_hit hit = parts_->tree.find(view.eye, along, view.near, view.far);
        const auto field = parts_->find_field(along);
        if (field.depth < hit.distance) {
            return -2 - static_cast<std::int64_t>(field.object); // no triangle's, and not that of nothing
        }
        return std::isfinite(hit.distance) ? static_cast<std::int64_t>(hit.triangle) : std::int64_t{-1};
    };
    const std::int64_t middle = met(centre);
    for (int i = 0; i < 9; ++i) {
        const int column = i % 3 - 1;
        const int row = i / 3 - 1;
        if (met(parts_->ray(x + column * step, y + row * step)) != middle) {
            return true;
        }
    }
    return false;
}

std::vector<cast_color> caster::around(double x, double y, double step) const {
    std::vector<cast_color> result = parts_->cast_around(x, y, step);
    for (cast_color& color : result) {
        color = parts_->widened(color, x, y, true);
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
