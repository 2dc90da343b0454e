#include "yurvo/report/markers.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "pipeline/visibility.hpp"
#include "report/canvas.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

// A place in the picture with its inverse_depth.
struct placed {
    double x = 0, y = 0, inverse_depth = 0;
};

struct waiting_line {
    placed a, b;
    rgb<float> color;
    double thickness = 1;
};

class marker_painter {
    const picture& drawn_;
    const std::vector<float>& inverse_depth_;
    camera seen_from_;
    picture made_;
    std::vector<waiting_line> lines_;

    [[nodiscard]] bool inside(double x, double y) const {
        return x >= 0 && y >= 0 && x < drawn_.width && y < drawn_.height;
    }

    // A thousandth nearer than what is there counts as before it: markers lie on surfaces, too.
    [[nodiscard]] bool visible(int x, int y, double inverse_depth) const {
        const std::size_t at = static_cast<std::size_t>(y) * static_cast<std::size_t>(drawn_.width) +
                               static_cast<std::size_t>(x);
        return inverse_depth * 1.001 >= static_cast<double>(inverse_depth_[at]);
    }

    void blend(int x, int y, const rgb<float>& color, double share) {
        const rgb<float> under = made_.color(x, y);
        const auto s = static_cast<float>(share);
        made_.set(x, y, under * (1 - s) + color * s, made_.alpha(x, y));
    }

  public:
    marker_painter(const scene& the_scene, const picture& drawn, const std::vector<float>& inverse_depth)
        : drawn_(drawn),
          inverse_depth_(inverse_depth),
          seen_from_(make_camera(the_scene.view)),
          made_(drawn) {
        for (float& value : made_.values) {
            value = std::clamp(value, 0.0F, 1.0F);
        }
    }

    [[nodiscard]] const camera& seen_from() const { return seen_from_; }
    [[nodiscard]] picture& made() { return made_; }

    // False behind the eye.
    [[nodiscard]] bool place(const vec3<double>& at, placed& into) const {
        const vec3<double> p = seen_from_.to_pixels(at - seen_from_.eye);
        if (p.z < seen_from_.near) {
            return false;
        }
        into = {p.x / p.z, p.y / p.z, 1 / p.z};
        return true;
    }
    [[nodiscard]] bool in_view(const placed& p) const { return inside(p.x, p.y); }
    [[nodiscard]] bool seen(const placed& p) const {
        return in_view(p) && visible(static_cast<int>(p.x), static_cast<int>(p.y), p.inverse_depth);
    }

    // A line in the world, to be drawn when all are known: first their dark edges, so that they show on any
    // ground, then the lines themselves; each pixel where nothing is nearer.
    void line(const vec3<double>& from, const vec3<double>& to, const rgb<float>& color, double thickness) {
        // What is behind the eye is cut off.
        const auto depth = [&](const vec3<double>& p) {
            return -dot(p - seen_from_.eye, seen_from_.axes.backward);
        };
        vec3<double> ends[2] = {from, to};
        const double depths[2] = {depth(from), depth(to)};
        for (int i = 0; i < 2; ++i) {
            if (depths[i] < seen_from_.near) {
                if (depths[1 - i] <= seen_from_.near) {
                    return;
                }
                const double t = (seen_from_.near - depths[i]) / (depths[1 - i] - depths[i]);
                ends[i] = ends[i] + (ends[1 - i] - ends[i]) * (t * (1 + 1e-9) + 1e-12);
            }
        }
        placed a;
        placed b;
        if (place(ends[0], a) && place(ends[1], b)) {
            lines_.push_back({a, b, color, thickness});
        }
    }

    void draw_lines() {
        for (const waiting_line& each : lines_) {
            stroke(each.a, each.b, {0.01F, 0.012F, 0.02F}, each.thickness + 2.5, 0.6);
        }
        for (const waiting_line& each : lines_) {
            stroke(each.a, each.b, each.color, each.thickness, 1);
        }
    }

    void stroke(const placed& a, const placed& b, const rgb<float>& color, double thickness,
                double strength) {
        const double reach = thickness / 2 + 1;
        const double dx = b.x - a.x;
        const double dy = b.y - a.y;
        const double squared = dx * dx + dy * dy;
        const auto bound = [](double value, int most) {
            return static_cast<int>(std::clamp(value, 0.0, 1.0 * most));
        };
        const int top = bound(std::min(a.y, b.y) - reach, drawn_.height);
        const int bottom = bound(std::max(a.y, b.y) + reach + 1, drawn_.height);
        for (int y = top; y < bottom; ++y) {
            // The run of the row that may be near the line.
            double low = std::min(a.x, b.x);
            double high = std::max(a.x, b.x);
            if (std::abs(dy) > 1e-9) {
                const double t0 = std::clamp((y + 0.5 - reach - a.y) / dy, 0.0, 1.0);
                const double t1 = std::clamp((y + 0.5 + reach - a.y) / dy, 0.0, 1.0);
                low = std::min(a.x + t0 * dx, a.x + t1 * dx);
                high = std::max(a.x + t0 * dx, a.x + t1 * dx);
            }
            for (int x = bound(low - reach, drawn_.width); x < bound(high + reach + 1, drawn_.width); ++x) {
                const double px = x + 0.5 - a.x;
                const double py = y + 0.5 - a.y;
                const double t = squared > 0 ? std::clamp((px * dx + py * dy) / squared, 0.0, 1.0) : 0;
                const double off = std::hypot(px - t * dx, py - t * dy);
                const double share = std::clamp(thickness / 2 + 0.5 - off, 0.0, 1.0) * strength;
                if (share > 0 && visible(x, y, a.inverse_depth + t * (b.inverse_depth - a.inverse_depth))) {
                    blend(x, y, color, share);
                }
            }
        }
    }
};

// A light's own hue, bright enough for a line.
rgb<float> line_color(const light& lamp) {
    const double greatest = std::max({lamp.color.r, lamp.color.g, lamp.color.b, 1e-9});
    return rgb<float>(lamp.color * (0.85 / greatest) + rgb<double>(0.12));
}

struct frame_of_line {
    vec3<double> along, side, above;
};
frame_of_line frame_along(const vec3<double>& direction) {
    const vec3<double> along = normalize(direction);
    const vec3<double> helper = std::abs(along.y) < 0.9 ? vec3<double>{0, 1, 0} : vec3<double>{1, 0, 0};
    const vec3<double> side = normalize(cross(along, helper));
    return {along, side, cross(side, along)};
}

struct label {
    placed at;
    std::string words;
    rgb<float> color;
};

// One light's marker: what it is drawn with, and where its name may stand, the best place first.
class light_marker {
    marker_painter& paint_;
    light lamp_; // in the world
    rgb<float> color_;
    frame_of_line axes_;
    vec3<double> target_; // the view's
    double reach_;        // from the eye to it
    double thickness_;
    static constexpr int parts = 24;

    [[nodiscard]] bool directional() const { return lamp_.kind == light_kind::directional; }
    // A directional light has no place: its arrow ends at the view's target.
    [[nodiscard]] vec3<double> anchor() const {
        return directional() ? target_ - axes_.along * (0.3 * reach_) : lamp_.position;
    }

    void draw_arrow() {
        const double head = 0.05 * reach_;
        paint_.line(anchor(), target_, color_, 1.6 * thickness_);
        for (const vec3<double>& out : {axes_.side, -axes_.side, axes_.above, -axes_.above}) {
            paint_.line(target_, target_ - axes_.along * head + out * (0.45 * head), color_,
                        1.6 * thickness_);
        }
    }

    // A ring of about four hundredths of the picture's height, whatever its distance.
    void draw_ring() {
        placed at;
        if (!paint_.place(anchor(), at)) {
            return;
        }
        const camera& seen_from = paint_.seen_from();
        const double size = 0.018 * 2 * seen_from.tangent / at.inverse_depth;
        const auto on_ring = [&](int j) {
            const double angle = 2 * pi * j / parts;
            return anchor() +
                   (seen_from.axes.right * std::cos(angle) + seen_from.axes.up * std::sin(angle)) * size;
        };
        for (int k = 0; k < parts; ++k) {
            paint_.line(on_ring(k), on_ring(k + 1), color_, thickness_);
        }
    }

    // On the cone's end, `out` across its axis.
    [[nodiscard]] vec3<double> on_cone(const vec3<double>& out) const {
        const double angle = std::min(lamp_.outer, radians(85));
        return anchor() + (axes_.along * std::cos(angle) + out * std::sin(angle)) * (0.28 * reach_);
    }

    void draw_cone() {
        const auto at = [&](int j) {
            const double turn = 2 * pi * j / parts;
            return on_cone(axes_.side * std::cos(turn) + axes_.above * std::sin(turn));
        };
        for (int k = 0; k < parts; ++k) {
            paint_.line(at(k), at(k + 1), color_, thickness_);
            if (k % 6 == 0) {
                paint_.line(anchor(), at(k), color_, thickness_);
            }
        }
    }

  public:
    light_marker(marker_painter& paint, const light& lamp, const view& view, double thickness)
        : paint_(paint),
          lamp_(lamp),
          color_(line_color(lamp)),
          axes_(frame_along(lamp.shines)),
          target_(view.target),
          reach_(length(view.eye - view.target)),
          thickness_(thickness) {}

    [[nodiscard]] const rgb<float>& color() const { return color_; }

    void draw() {
        if (directional()) {
            draw_arrow();
            return;
        }
        draw_ring();
        if (lamp_.kind == light_kind::spot) {
            draw_cone();
        }
    }

    // The name stands where the light is, or by the first part of its marker that can be seen.
    [[nodiscard]] std::vector<vec3<double>> places_for_name() const {
        std::vector<vec3<double>> places{anchor()};
        if (directional()) {
            places.push_back((anchor() + target_) * 0.5);
        } else if (lamp_.kind == light_kind::spot) {
            for (const vec3<double>& out : {axes_.above, axes_.side, -axes_.side, -axes_.above}) {
                places.push_back(on_cone(out));
            }
        }
        return places;
    }
};

// Names side by side or one below the other: those that would lie on one another go below.
void write_labels(canvas& on, const std::vector<label>& labels, int picture_width, int picture_height) {
    const double size = std::max(11.0, picture_height / 50.0);
    std::vector<std::array<double, 4>> taken;
    for (const label& each_label : labels) {
        const double width = on.width_of(each_label.words, size, weight::semibold);
        const double x = std::clamp(each_label.at.x + 0.026 * picture_height, 6.0,
                                    std::max(6.0, picture_width - width - 12));
        double y = std::clamp(each_label.at.y + size / 3, size + 6, picture_height - 8.0);
        for (bool moved = true; moved;) {
            moved = false;
            for (const auto& box : taken) {
                if (x < box[2] && x + width > box[0] && y - size < box[3] && y > box[1]) {
                    y = box[3] + size + 4;
                    moved = true;
                }
            }
        }
        taken.push_back({x - 5, y - size, x + width + 5, y + 5});
        on.box(x - 5, y - size, width + 10, size + 6, {0.03, 0.04, 0.06}, 4);
        const auto shown = [](float c) { return srgb_encoded(std::clamp(c, 0.0F, 1.0F)); };
        on.text(x, y, each_label.words, size, weight::semibold,
                {shown(each_label.color.r), shown(each_label.color.g), shown(each_label.color.b)}, width + 4);
    }
}

} // namespace

marked draw_markers(const scene& the_scene, const picture& drawn, const std::vector<float>& inverse_depth) {
    YURVO_ASSERT(inverse_depth.size() == drawn.pixels());
    marker_painter paint(the_scene, drawn, inverse_depth);
    const double thickness = std::max(1.5, drawn.height / 400.0);
    marked result;
    std::vector<label> labels;
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        light_marker marker(paint, light_in_world(the_scene.lights[i], paint.seen_from()), the_scene.view,
                            thickness);
        marker.draw();
        const std::string name = label_of(the_scene.lights[i], i);
        bool any_in_view = false;
        bool named = false;
        for (const vec3<double>& candidate : marker.places_for_name()) {
            placed there;
            if (named || !paint.place(candidate, there) || !paint.in_view(there)) {
                continue;
            }
            any_in_view = true;
            if (paint.seen(there)) {
                labels.push_back({there, name, marker.color()});
                named = true;
            }
        }
        if (!named) {
            (any_in_view ? result.hidden : result.out_of_view).push_back(name);
        }
    }
    paint.draw_lines();
    canvas on(drawn.width, drawn.height);
    on.fill(paint.made());
    write_labels(on, labels, drawn.width, drawn.height);
    result.drawn = on.finished();
    for (std::size_t i = 3; i < drawn.values.size(); i += 4) {
        result.drawn.values[i] = drawn.values[i];
    }
    return result;
}

marked draw_markers(const scene& the_scene, const picture& drawn) {
    return draw_markers(the_scene, drawn,
                        pipeline::find_visible(pipeline::make_stage(the_scene)).inverse_depth);
}

} // namespace yurvo::inline v0_1::report
