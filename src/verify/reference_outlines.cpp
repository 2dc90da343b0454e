// The reference scene of every shape's corners: outlines, areas and normals, from the words by which the
// scene file describes each shape, written once more.
#include <algorithm>
#include <array>
#include <vector>

#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double eye_height = 12; // above the slipway, looking straight down
constexpr double field_of_view = 30;

// A corner of a triangle in its object's space, which is the world's but for the place.
struct corner {
    vec3<double> at, normal;
};
using corners = std::array<corner, 3>;

// A shape on the slipway and what is known of it.
struct outlined {
    const char* name;
    rgb<double> paint;
    any_shape shape;
    vec3<double> place;
    std::vector<vec3<double>> corners; // all of them, from the centre
    yurvo::verify::corners one;        // one of its triangles that are seen, with its normals
    double hole = 0;                   // pixels that are seen through it
};

double circle_angle(double i, double around) { return 2 * pi * i / around; }
vec3<double> on_circle(double angle, double radius, double y) {
    return {radius * std::cos(angle), y, radius * std::sin(angle)};
}

outlined hatch() {
    outlined made{"hatch", {0.9, 0.7, 0.5}, plane_shape{{1.4, 1.1}, {3, 2}}, {-3, 0, -1.4}, {}, {}};
    for (const double x : {-0.7, 0.7}) {
        for (const double z : {-0.55, 0.55}) {
            made.corners.push_back({x, 0, z});
        }
    }
    // The first cell runs from −x to a third of the way and from −z to the middle; its diagonal from there.
    const vec3<double> up{0, 1, 0};
    const double third = -0.7 + 1.4 / 3;
    made.one = {corner{{-0.7, 0, -0.55}, up}, {{-0.7, 0, 0}, up}, {{third, 0, 0}, up}};
    return made;
}

outlined crate() {
    outlined made{"crate", {0.8, 0.5, 0.3}, box_shape{{1.2, 0.8, 1.0}}, {-3, 0, 1.4}, {}, {}};
    for (const double x : {-0.6, 0.6}) {
        for (const double y : {-0.4, 0.4}) {
            for (const double z : {-0.5, 0.5}) {
                made.corners.push_back({x, y, z});
            }
        }
    }
    // On top, from the smallest corner to the greatest.
    const vec3<double> up{0, 1, 0};
    made.one = {corner{{-0.6, 0.4, -0.5}, up}, {{0.6, 0.4, 0.5}, up}, {{0.6, 0.4, -0.5}, up}};
    return made;
}

outlined buoy() {
    constexpr double radius = 0.75;
    constexpr int around = 18;
    constexpr int rows = 10;
    outlined made{"buoy", {0.9, 0.3, 0.2}, sphere_shape{radius, {around, rows}}, {3, 0, -1.4}, {}, {}};
    const auto at = [&](int i, int j) {
        const double down = pi * j / rows;
        return on_circle(circle_angle(i, around), radius * std::sin(down), radius * std::cos(down));
    };
    for (int j = 0; j <= rows; ++j) {
        for (int i = 0; i < around; ++i) {
            made.corners.push_back(at(i, j));
        }
    }
    // A sphere's normals are its places. Diagonals run from (column i, row j) to (i + 1, j + 1).
    const auto with_normal = [&](const vec3<double>& place) { return corner{place, place / radius}; };
    made.one = {with_normal(at(7, 2)), with_normal(at(8, 3)), with_normal(at(7, 3))};
    return made;
}

outlined bollard_on_slip() {
    constexpr double radius = 0.6;
    constexpr int around = 11;
    outlined made{"bollard", {0.5, 0.6, 0.8}, cylinder_shape{radius, 1.2, {around, 2}}, {3, 0, 1.4}, {}, {}};
    for (int i = 0; i < around; ++i) {
        for (const double y : {-0.6, 0.6}) {
            made.corners.push_back(on_circle(circle_angle(i, around), radius, y));
        }
    }
    // Of its side the lower of two rows of cells, seen from the middle of the slipway past the upper one.
    const auto at = [&](double i, double y) {
        const double angle = circle_angle(i, around);
        return corner{on_circle(angle, radius, y), on_circle(angle, 1, 0)};
    };
    made.one = {at(5, 0.6), at(6, 0), at(5, 0)};
    return made;
}

outlined beacon() {
    constexpr double radius = 0.8;
    constexpr double height = 1.0;
    constexpr int around = 9;
    outlined made{"beacon", {0.4, 0.8, 0.5}, cone_shape{radius, height, {around, 1}}, {0, 0, -2.2}, {}, {}};
    made.corners.push_back({0, height / 2, 0});
    for (int i = 0; i < around; ++i) {
        made.corners.push_back(on_circle(circle_angle(i, around), radius, -height / 2));
    }
    // Its side falls by the height over the radius, so its normal rises by the radius over the height; at the
    // tip each slice has the normal of its middle.
    const auto normal = [&](double i) {
        const double size = std::hypot(height, radius);
        return on_circle(circle_angle(i, around), height / size, radius / size);
    };
    const auto foot = [&](double i) {
        return corner{on_circle(circle_angle(i, around), radius, -height / 2), normal(i)};
    };
    made.one = {corner{{0, height / 2, 0}, normal(1.5)}, foot(2), foot(1)};
    return made;
}

outlined fender() {
    constexpr double radius = 0.8;
    constexpr double tube = 0.3;
    constexpr int around = 14;
    constexpr int around_tube = 9;
    outlined made{"fender", {0.7, 0.7, 0.3}, torus_shape{radius, tube, {around, around_tube}}, {0, 0, 0}, {},
                  {}};
    const auto at = [&](int i, int j) {
        const double angle = circle_angle(i, around);
        const double up = circle_angle(j, around_tube); // from the outside towards +Y
        return corner{on_circle(angle, radius + tube * std::cos(up), tube * std::sin(up)),
                      on_circle(angle, std::cos(up), std::sin(up))};
    };
    // It lies on the view's axis: each ring of its corners is a polygon about the middle of the picture, and
    // the smallest is the hole's.
    const double pixels = 800 / (2 * std::tan(radians(field_of_view) / 2));
    double smallest = 1e9;
    for (int j = 0; j < around_tube; ++j) {
        const double up = circle_angle(j, around_tube);
        smallest = std::min(smallest, (radius + tube * std::cos(up)) / (eye_height - tube * std::sin(up)));
        for (int i = 0; i < around; ++i) {
            made.corners.push_back(at(i, j).at);
        }
    }
    made.hole = around / 2.0 * std::sin(2 * pi / around) * std::pow(smallest * pixels, 2);
    made.one = {at(2, 2), at(3, 3), at(2, 3)};
    return made;
}

struct pixel_point {
    double x = 0, y = 0;
};

// The picture's outline of a convex shape, or of a ring: the convex hull of its corners, by Andrew's monotone
// chain (1979), in order around it.
std::vector<pixel_point> outline(std::vector<pixel_point> all) {
    std::sort(all.begin(), all.end(), [](const pixel_point& a, const pixel_point& b) {
        return a.x < b.x || (a.x == b.x && a.y < b.y);
    });
    std::vector<pixel_point> hull;
    const auto turn = [](const pixel_point& a, const pixel_point& b, const pixel_point& c) {
        return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
    };
    for (int side = 0; side < 2; ++side) {
        const std::size_t first = hull.size();
        for (const pixel_point& next : all) {
            while (hull.size() >= first + 2 && turn(hull[hull.size() - 2], hull.back(), next) <= 1e-9) {
                hull.pop_back();
            }
            hull.push_back(next);
        }
        hull.pop_back(); // the other side begins with it
        std::reverse(all.begin(), all.end());
    }
    return hull;
}

class slipway_builder {
    reference_scene& made_;
    pixel_finder pixels_;
    double scale_; // pixels a metre at a metre

    [[nodiscard]] pixel_point in_picture(const vec3<double>& at) const {
        const double depth = eye_height - at.y;
        return {640 + at.x / depth * scale_, 400 + at.z / depth * scale_};
    }

    // How many pixels show it, and that its outline is where it is.
    void expect_outline(const outlined& item) {
        std::vector<pixel_point> all;
        for (const vec3<double>& each : item.corners) {
            all.push_back(in_picture(item.place + each));
        }
        const std::vector<pixel_point> hull = outline(all);
        double area = 0;
        double length = 0;
        pixel_point middle;
        for (std::size_t i = 0; i < hull.size(); ++i) {
            const pixel_point& a = hull[i];
            const pixel_point& b = hull[(i + 1) % hull.size()];
            area += (a.x * b.y - b.x * a.y) / 2;
            length += std::hypot(b.x - a.x, b.y - a.y);
            middle = {middle.x + a.x / static_cast<double>(hull.size()),
                      middle.y + a.y / static_cast<double>(hull.size())};
        }
        expectation seen;
        seen.name = "how many pixels show the " + std::string(item.name);
        seen.says = item.hole > 0 ? "the area within the outline of its corners, less the hole's"
                                  : "the area within the outline of its corners";
        seen.model = model_kind::unlit;
        seen.area_of = item.paint;
        seen.color = rgb<double>(area - item.hole);
        // A pixel that the outline crosses counts whole or not at all: half a pixel off at the most, and an
        // edge of length L crosses at most √2 · L + 1 of them; at a corner it is a whole one.
        const double hole_length = item.hole > 0 ? 2 * std::sqrt(pi * item.hole) * 1.02 : 0;
        const auto edges = static_cast<double>(hull.size());
        seen.tolerance = rgb<double>((length + hole_length) * std::sqrt(0.5) + 2 * edges);
        seen.because =
            "A pixel that the outline crosses counts whole or not at all, which is half a pixel off at "
            "the most; an edge of L pixels crosses at most √2 · L + 1: tolerance = L / √2, and two for "
            "each corner.\n";
        made_.expectations.push_back(seen);
        for (const std::size_t edge : {std::size_t{0}, hull.size() / 2}) {
            const pixel_point& a = hull[edge];
            const pixel_point& b = hull[(edge + 1) % hull.size()];
            const pixel_point on{(a.x + b.x) / 2, (a.y + b.y) / 2};
            const double away = std::hypot(on.x - middle.x, on.y - middle.y);
            for (const double step : {-2.5, 2.5}) {
                expectation beside;
                beside.name = std::string(step < 0 ? "inside" : "outside") + " the " + item.name +
                              "'s outline, " + (edge == 0 ? "on the left" : "on the right");
                beside.says = "its edges are where its corners are";
                beside.model = model_kind::unlit;
                beside.x = static_cast<int>(on.x + (on.x - middle.x) / away * step);
                beside.y = static_cast<int>(on.y + (on.y - middle.y) / away * step);
                beside.color = step < 0 ? item.paint : made_.scene.view.background;
                beside.tolerance = beside.color * (4 * u);
                beside.because = "A colour as it is written, rounded to a float: tolerance = color · 4 u.\n";
                made_.expectations.push_back(beside);
            }
        }
    }

    // The light at the middle of one triangle: by the interpolated normal, and by the triangle's own.
    void expect_normals(const outlined& item) {
        std::array<vec3<double>, 3> at;
        for (std::size_t k = 0; k < 3; ++k) {
            at[k] = item.place + item.one[k].at;
        }
        const vec3<double> across = cross(at[1] - at[0], at[2] - at[0]);
        const double doubled = std::hypot(across.x, across.y, across.z);
        const bool outwards = dot(across, item.one[0].normal) > 0;
        const vec3<double> facing = across / (outwards ? doubled : -doubled);
        const auto met = pixels_.on_plane((at[0] + at[1] + at[2]) / 3.0, facing);
        vec3<double> normal;
        double farthest = 0; // between two corners' normals
        for (std::size_t k = 0; k < 3; ++k) {
            // A corner's weight is the area of the triangle that the point makes with the other two.
            const vec3<double> part = cross(at[(k + 1) % 3] - met.point, at[(k + 2) % 3] - met.point);
            normal = normal + dot(part, across) / (doubled * doubled) * item.one[k].normal;
            const vec3<double> apart = item.one[k].normal - item.one[(k + 1) % 3].normal;
            farthest = std::max(farthest, std::hypot(apart.x, apart.y, apart.z));
        }
        normal = normal / std::hypot(normal.x, normal.y, normal.z);
        const light& moon = made_.scene.lights[0].light;
        const double travels = std::hypot(moon.shines.x, moon.shines.y, moon.shines.z);
        // The weights are off by the rounding of places, u × 12 m, over the triangle's height.
        const double height = std::sqrt(doubled) / 2;
        const double tolerance = moon.intensity * u * (24 + farthest * 4 * eye_height / height);
        for (const auto& [rate, n, what] :
             {std::tuple{rate::fragment, normal, "the normals of its corners, interpolated"},
              std::tuple{rate::face, facing, "the triangle's own normal"}}) {
            const double cosine =
                -(n.x * moon.shines.x + n.y * moon.shines.y + n.z * moon.shines.z) / travels;
            expectation lit;
            lit.name = "the moon on the " + std::string(item.name);
            lit.says = std::string("base · intensity · n·l by ") + what;
            lit.model = model_kind::lambert;
            lit.rate = rate;
            lit.x = met.x;
            lit.y = met.y;
            lit.color = item.paint * (moon.intensity * std::max(cosine, 0.0));
            lit.tolerance = item.paint * tolerance;
            lit.because =
                "u = 2^-24. The corners' weights are off by the rounding of places, u × 12 m, over the "
                "triangle's height, which turns the normal as far as the corners' differ; 24 operations: "
                "tolerance = base · intensity · u · (24 + difference · 4 · 12 m / height).\n";
            made_.expectations.push_back(lit);
        }
    }

  public:
    explicit slipway_builder(reference_scene& made)
        : made_(made), pixels_(made.scene.view), scale_(800 / (2 * std::tan(radians(field_of_view) / 2))) {}

    void add(const outlined& item) {
        object made;
        made.name = item.name;
        made.material = made_.scene.materials.size();
        made.shape = item.shape;
        made.placed.position = item.place;
        made_.scene.objects.push_back(made);
        made_.scene.materials.push_back(material_of(item.name, item.paint));
        expect_outline(item);
        expect_normals(item);
    }
};

} // namespace

reference_scene slipway() {
    reference_scene result;
    result.name = "slipway";
    result.shows =
        "Every shape from above: how many pixels its outline holds, where it ends, and how the moon "
        "lights one of its triangles.";
    result.scene = dark_harbour("Shapes on the slipway, from above");
    view& view = result.scene.view;
    view.eye = {0, eye_height, 0};
    view.target = {0, 0, 0};
    view.up = {0, 0, -1};
    view.fov = radians(field_of_view);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {0.7, -1.5, 0.4};
    moon.light.intensity = 0.8;
    result.scene.lights.push_back(moon);
    result.rates = {rate::face, rate::fragment};
    result.models = {model_kind::unlit, model_kind::lambert};
    slipway_builder slip(result);
    for (const outlined& item : {beacon(), bollard_on_slip(), buoy(), crate(), fender(), hatch()}) {
        slip.add(item);
    }
    result.known = {
        "each outline is that of the shape's corners, which its description gives: its area in pixels, "
        "and its border to 2.5 pixels",
        "on one triangle of each shape n·l, by its own normal and by its corners'"};
    return result;
}

} // namespace yurvo::inline v0_1::verify
