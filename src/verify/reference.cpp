#include "yurvo/verify/reference.hpp"

#include <cmath>

#include "reference_building.hpp"

namespace yurvo::verify {

namespace {

// A lantern above the middle of a level quay: height, intensity and colour.
struct lantern_over_quay {
    double height, intensity;
    rgb<double> color, base, ambient;

    // base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)): the cosine h / d times 1 / d².
    [[nodiscard]] rgb<double> at(double distance) const {
        const double d = std::hypot(height, distance);
        return base * (ambient + color * (intensity * height / (d * d * d)));
    }

    // The lit point and the lantern are each rounded, by unit roundoff × their distance from the eye; the
    // light changes with the third power of their distance. Twenty operations follow.
    [[nodiscard]] rgb<double> rounding(double distance, double from_eye) const {
        const double d = std::hypot(height, distance);
        const double relative = u * (20 + 3 * (2 * from_eye + d) / d);
        return at(distance) * relative;
    }
};

reference_scene lantern_quay(const std::string& name, std::uint32_t cells) {
    constexpr double side = 6;
    constexpr double height = 1;
    reference_scene made;
    made.name = name;
    made.scene.title = cells == 1 ? "A lantern over the quay" : "A lantern over a quay of many cells";
    made.scene.view.eye = {0, 3, 6};
    made.scene.view.target = {0, 0, 0};
    made.scene.view.background = {0.004, 0.006, 0.012};
    made.scene.shading.model = model_kind::lambert;
    made.scene.ambient_color = {0.5, 0.6, 1.0};
    made.scene.ambient_strength = 0.05;
    named_material deck;
    deck.name = "deck";
    deck.look.base = {0.45, 0.33, 0.22};
    made.scene.materials.push_back(deck);
    object quay;
    quay.name = "quay";
    quay.shape = plane_shape{{side, side}, {cells, cells}};
    made.scene.objects.push_back(quay);
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.position = {0, height, 0};
    lantern.light.color = {1.0, 0.82, 0.55};
    lantern.light.intensity = 1.5;
    made.scene.lights.push_back(lantern);
    made.rates = {rate::face, rate::vertex, rate::fragment};

    const lantern_over_quay known{height, lantern.light.intensity, lantern.light.color, deck.look.base,
                                  made.scene.ambient_color * made.scene.ambient_strength};
    const pixel_finder pixels(made.scene.view);
    const double from_eye = length(made.scene.view.eye) + side;
    for (const double distance : {0.0, 1.0, 2.0}) {
        const pixel_finder::meeting met = pixels.on_plane({distance, 0, 0}, {0, 1, 0});
        const double rho = std::hypot(met.point.x, met.point.z);
        made.expectations.push_back(
            {distance == 0 ? "at the foot of the lantern" : in_metres(distance) + " m from its foot",
             "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), h = 1, ρ = " + in_metres(rho),
             rate::fragment, met.x, met.y, known.at(rho), known.rounding(rho, from_eye)});
    }
    if (cells == 1) {
        made.shows =
            "Per vertex a big quad lit from close by stays evenly dark; per fragment it is bright below "
            "the lantern.";
        // All four corners are as far from the lantern, so what is interpolated is one colour.
        const double corner = std::hypot(side / 2, side / 2);
        for (const vec3<double>& at :
             {vec3<double>{0, 0, 0}, vec3<double>{2, 0, 1}, vec3<double>{-1.5, 0, 2}}) {
            const pixel_finder::meeting met = pixels.on_plane(at, {0, 1, 0});
            made.expectations.push_back(
                {"the corners' colour at (" + in_metres(at.x) + ", " + in_metres(at.z) + ")",
                 "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), ρ = √18", rate::vertex, met.x,
                 met.y, known.at(corner), known.rounding(corner, from_eye)});
        }
        // Per face: the light at the centroid, 2 m along one axis and 1 m along the other from a corner's
        // foot.
        const double centroid = std::hypot(1, 1);
        for (const double x : {1.0, -1.0}) {
            const pixel_finder::meeting met = pixels.on_plane({x, 0, -x}, {0, 1, 0});
            made.expectations.push_back({x > 0 ? "the right triangle's colour" : "the left triangle's colour",
                                         "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), ρ = √2",
                                         rate::face, met.x, met.y, known.at(centroid),
                                         known.rounding(centroid, from_eye)});
        }
        made.known = {
            "per fragment: base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)) at ρ metres from the "
            "lantern's foot, h = 1 m",
            "per vertex: the same everywhere, with ρ = √18 m, the corners' distance",
            "per face: the same everywhere, with ρ = √2 m, both centroids' distance"};
    } else {
        made.shows = "With small cells the colour per vertex comes near the colour per fragment.";
        const pixel_finder::meeting met = pixels.on_plane({0, 0, 0}, {0, 1, 0});
        const double rho = std::hypot(met.point.x, met.point.z);
        // Interpolating linearly over a right triangle of side s misses by at most s² / 4 times the greatest
        // second derivative, which here is 3 · intensity / h⁴, right below the lantern.
        const double cell = side / cells;
        const double missed = cell * cell / 4 * 3 * known.intensity / std::pow(height, 4);
        made.expectations.push_back(
            {"at the foot of the lantern",
             "the colour per fragment, less at most base · color · s² / 4 · 3 · intensity / h⁴", rate::vertex,
             met.x, met.y, known.at(rho), known.base * known.color * missed + known.rounding(rho, from_eye)});
        made.known = {
            "per fragment: the same picture as lantern-quay",
            "per vertex: the colour per fragment to within base · color · s² / 4 · 3 · intensity / h⁴, s the "
            "cell's side"};
    }
    return made;
}

} // namespace

const std::vector<reference_scene>& reference_scenes() {
    static const std::vector<reference_scene> scenes{lantern_quay("lantern-quay", 1),
                                                     lantern_quay("lantern-quay-cells", 24),
                                                     moon_crates(),
                                                     lantern_row(),
                                                     behind_the_wall(),
                                                     searchlight()};
    return scenes;
}

const reference_scene* find_reference(std::string_view name) {
    for (const reference_scene& reference : reference_scenes()) {
        if (reference.name == name) {
            return &reference;
        }
    }
    return nullptr;
}

} // namespace yurvo::verify
