#include "yurvo/report/markers.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "pipeline/visibility.hpp"
#include "report/canvas.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::report {

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
    marker_painter(const scene& of, const picture& drawn, const std::vector<float>& inverse_depth)
        : drawn_(drawn), inverse_depth_(inverse_depth), seen_from_(make_camera(of.view)), made_(drawn) {
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
        for (const waiting_line& one : lines_) {
            stroke(one.a, one.b, {0.01F, 0.012F, 0.02F}, one.thickness + 2.5, 0.6);
        }
        for (const waiting_line& one : lines_) {
            stroke(one.a, one.b, one.color, one.thickness, 1);
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
rgb<float> line_color(const light& given) {
    const double greatest = std::max({given.color.r, given.color.g, given.color.b, 1e-9});
    return rgb<float>(given.color * (0.85 / greatest) + rgb<double>(0.12));
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

} // namespace

marked draw_markers(const scene& of, const picture& drawn, const std::vector<float>& inverse_depth) {
    YURVO_ASSERT(inverse_depth.size() == drawn.pixels());
    marker_painter paint(of, drawn, inverse_depth);
    const camera& seen_from = paint.seen_from();
    const double reach = length(of.view.eye - of.view.target);
    const double thickness = std::max(1.5, drawn.height / 400.0);
    marked result;
    std::vector<label> labels;
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        const light given = light_in_world(of.lights[i], seen_from);
        const std::string name = label_of(of.lights[i], i);
        const rgb<float> color = line_color(given);
        const bool directional = given.kind == light_kind::directional;
        const frame_of_line axes = frame_along(given.shines);
        // A directional light has no place: its arrow ends at the view's target.
        const vec3<double> tip = of.view.target;
        const vec3<double> anchor = directional ? tip - axes.along * (0.3 * reach) : given.position;
        placed at;
        const bool in_front = paint.place(anchor, at);
        if (directional) {
            const double head = 0.05 * reach;
            paint.line(anchor, tip, color, 1.6 * thickness);
            for (const vec3<double>& out : {axes.side, -axes.side, axes.above, -axes.above}) {
                paint.line(tip, tip - axes.along * head + out * (0.45 * head), color, 1.6 * thickness);
            }
        } else {
            // A ring of about four hundredths of the picture's height, whatever its distance.
            const double size = in_front ? 0.018 * 2 * seen_from.tangent / at.inverse_depth : 0;
            constexpr int parts = 24;
            for (int k = 0; k < parts && in_front; ++k) {
                const auto on_ring = [&](int j) {
                    const double angle = 2 * pi * j / parts;
                    return anchor +
                           (seen_from.axes.right * std::cos(angle) + seen_from.axes.up * std::sin(angle)) *
                               size;
                };
                paint.line(on_ring(k), on_ring(k + 1), color, thickness);
            }
            if (given.kind == light_kind::spot) {
                const double angle = std::min(given.outer, radians(85));
                const double slant = 0.28 * reach;
                const auto on_cone = [&](int j) {
                    const double turn = 2 * pi * j / parts;
                    return anchor +
                           (axes.along * std::cos(angle) +
                            (axes.side * std::cos(turn) + axes.above * std::sin(turn)) * std::sin(angle)) *
                               slant;
                };
                for (int k = 0; k < parts; ++k) {
                    paint.line(on_cone(k), on_cone(k + 1), color, thickness);
                    if (k % 6 == 0) {
                        paint.line(anchor, on_cone(k), color, thickness);
                    }
                }
            }
        }
        // The name stands where the light is, or by the first part of its marker that can be seen.
        std::vector<vec3<double>> anchors{anchor};
        if (directional) {
            anchors.push_back((anchor + tip) * 0.5);
        } else if (given.kind == light_kind::spot) {
            const double angle = std::min(given.outer, radians(85));
            for (const vec3<double>& out : {axes.above, axes.side, -axes.side, -axes.above}) {
                anchors.push_back(anchor +
                                  (axes.along * std::cos(angle) + out * std::sin(angle)) * (0.28 * reach));
            }
        }
        bool any_in_view = false;
        bool named = false;
        for (const vec3<double>& candidate : anchors) {
            placed there;
            if (named || !paint.place(candidate, there) || !paint.in_view(there)) {
                continue;
            }
            any_in_view = true;
            if (paint.seen(there)) {
                labels.push_back({there, name, color});
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
    const double size = std::max(11.0, drawn.height / 50.0);
    std::vector<std::array<double, 4>> taken;
    for (const label& one : labels) {
        const double width = on.width_of(one.words, size, weight::semibold);
        const double x =
            std::clamp(one.at.x + 0.026 * drawn.height, 6.0, std::max(6.0, drawn.width - width - 12));
        double y = std::clamp(one.at.y + size / 3, size + 6, drawn.height - 8.0);
        // Names that would lie on one another go below.
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
        on.text(x, y, one.words, size, weight::semibold,
                {shown(one.color.r), shown(one.color.g), shown(one.color.b)}, width + 4);
    }
    result.drawn = on.finished();
    for (std::size_t i = 3; i < drawn.values.size(); i += 4) {
        result.drawn.values[i] = drawn.values[i];
    }
    return result;
}

marked draw_markers(const scene& of, const picture& drawn) {
    return draw_markers(of, drawn, pipeline::find_visible(pipeline::make_stage(of)).inverse_depth);
}

} // namespace yurvo::report
