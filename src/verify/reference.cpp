#include "yurvo/verify/reference.hpp"

#include <cmath>
#include <memory>

#include "verify/reference_building.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

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
    reference_scene result;
    result.name = name;
    result.scene.title = cells == 1 ? "A lantern over the quay" : "A lantern over a quay of many cells";
    result.scene.view.eye = {0, 3, 6};
    result.scene.view.target = {0, 0, 0};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.shading.model = model_kind::lambert;
    result.scene.ambient_color = {0.5, 0.6, 1.0};
    result.scene.ambient_strength = 0.05;
    named_material deck;
    deck.name = "deck";
    deck.look.base = {0.45, 0.33, 0.22};
    result.scene.materials.push_back(deck);
    object quay;
    quay.name = "quay";
    quay.shape = plane_shape{{side, side}, {cells, cells}};
    result.scene.objects.push_back(quay);
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.position = {0, height, 0};
    lantern.light.color = {1.0, 0.82, 0.55};
    lantern.light.intensity = 1.5;
    result.scene.lights.push_back(lantern);
    result.rates = {rate::face, rate::vertex, rate::fragment};

    const lantern_over_quay known{height, lantern.light.intensity, lantern.light.color, deck.look.base,
                                  result.scene.ambient_color * result.scene.ambient_strength};
    const pixel_finder pixels(result.scene.view);
    const double from_eye = length(result.scene.view.eye) + side;
    for (const double distance : {0.0, 1.0, 2.0}) {
        const pixel_finder::meeting met = pixels.on_plane({distance, 0, 0}, {0, 1, 0});
        const double rho = std::hypot(met.point.x, met.point.z);
        result.expectations.push_back(
            {distance == 0 ? "at the foot of the lantern" : in_metres(distance) + " m from its foot",
             "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), h = 1, ρ = " + in_metres(rho),
             rate::fragment, met.x, met.y, known.at(rho), known.rounding(rho, from_eye)});
    }
    if (cells == 1) {
        result.shows =
            "Per vertex a big quad lit from close by stays evenly dark; per fragment it is bright below "
            "the lantern.";
        // All four corners are as far from the lantern, so what is interpolated is one colour.
        const double corner = std::hypot(side / 2, side / 2);
        for (const vec3<double>& at :
             {vec3<double>{0, 0, 0}, vec3<double>{2, 0, 1}, vec3<double>{-1.5, 0, 2}}) {
            const pixel_finder::meeting met = pixels.on_plane(at, {0, 1, 0});
            result.expectations.push_back(
                {"the corners' colour at (" + in_metres(at.x) + ", " + in_metres(at.z) + ")",
                 "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), ρ = √18", rate::vertex, met.x,
                 met.y, known.at(corner), known.rounding(corner, from_eye)});
        }
        // Per face: the light at the centroid, 2 m along one axis and 1 m along the other from a corner's
        // foot.
        const double centroid = std::hypot(1, 1);
        for (const double x : {1.0, -1.0}) {
            const pixel_finder::meeting met = pixels.on_plane({x, 0, -x}, {0, 1, 0});
            result.expectations.push_back(
                {x > 0 ? "the right triangle's colour" : "the left triangle's colour",
                 "base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)), ρ = √2", rate::face, met.x,
                 met.y, known.at(centroid), known.rounding(centroid, from_eye)});
        }
        result.known = {
            "per fragment: base · (ambient + color · intensity · h / (h² + ρ²)^(3/2)) at ρ metres from the "
            "lantern's foot, h = 1 m",
            "per vertex: the same everywhere, with ρ = √18 m, the corners' distance",
            "per face: the same everywhere, with ρ = √2 m, both centroids' distance"};
    } else {
        result.shows = "With small cells the colour per vertex comes near the colour per fragment.";
        const pixel_finder::meeting met = pixels.on_plane({0, 0, 0}, {0, 1, 0});
        const double rho = std::hypot(met.point.x, met.point.z);
        // Interpolating linearly over a right triangle of side s misses by at most s² / 4 times the greatest
        // second derivative, which here is 3 · intensity / h⁴, right below the lantern.
        const double cell = side / cells;
        const double missed = cell * cell / 4 * 3 * known.intensity / std::pow(height, 4);
        result.expectations.push_back(
            {"at the foot of the lantern",
             "the colour per fragment, less at most base · color · s² / 4 · 3 · intensity / h⁴", rate::vertex,
             met.x, met.y, known.at(rho), known.base * known.color * missed + known.rounding(rho, from_eye)});
        result.known = {
            "per fragment: the same picture as lantern-quay-inverse-square",
            "per vertex: the colour per fragment to within base · color · s² / 4 · 3 · intensity / h⁴, s the "
            "cell's side"};
    }
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; relative to "
           "their distance d from each other that is multiplied by the powers of d in the formula (3 with "
           "the cosine); 20 operations more: tolerance = color · u · (20 + 3 · (2 · from eye + d) / d). Per "
           "vertex with many cells, also what interpolating misses: s² / 4 · 3 · intensity / h⁴.");
    return result;
}

// Four planks of 16 x 4 texels, as codes; no two alike.
constexpr rgb<double> plank_codes[] = {{172, 124, 78}, {96, 70, 46}, {188, 150, 104}, {120, 84, 52}};

texture planks() {
    texture result;
    result.width = 16;
    result.height = 16;
    result.texels.clear();
    for (int row = 0; row < 16; ++row) {
        const rgb<double>& codes = plank_codes[row / 4];
        const auto decoded = [](double code) { return static_cast<float>(srgb_decoded(code / 255)); };
        result.texels.insert(result.texels.end(), 16, {decoded(codes.r), decoded(codes.g), decoded(codes.b)});
    }
    return result;
}

// The quay once more: seen at a grazing angle, with planks for a texture, half transparent, under a lantern
// whose light falls off by a polynomial.
reference_scene lantern_quay_planks() {
    reference_scene result = lantern_quay("lantern-quay", 1);
    scene& quay = result.scene;
    quay.title = "A lantern over the planks of the quay";
    quay.view.eye = {0.3, 0.7, 2.6}; // over the quay, which goes on behind the eye
    quay.view.target = {0, 0.1, -1};
    named_material& deck = quay.materials[0];
    deck.look.base = {1.0, 0.9, 0.8};
    deck.look.alpha = 0.5;
    deck.texture_file = "planks.png";
    deck.image = std::make_shared<const texture>(planks());
    light& lantern = quay.lights[0].light;
    lantern.falloff = falloff_kind::polynomial;
    lantern.coefficients = {1.0, 0.1, 0.2};
    lantern.intensity = 2;
    result.shows =
        "One big quad lit from close by, seen at a grazing angle: per vertex the pool of light is lost; the "
        "texture is decoded and looked up per fragment at every rate, and alpha is never lit.";
    result.expectations.clear();
    const pixel_finder pixels(quay.view);
    const rgb<double> ambient = quay.ambient_color * quay.ambient_strength;
    const auto lit = [&](const rgb<double>& plank, double rho) {
        const double d = std::hypot(1.0, rho);
        const double falloff = 1 / (1.0 + 0.1 * d + 0.2 * d * d);
        return deck.look.base * plank * (ambient + lantern.color * (lantern.intensity * falloff / d));
    };
    for (int row = 0; row < 3; ++row) {
        // In the middle of a plank all texels that are mixed are alike.
        const vec3<double> place{0.4 - 0.3 * row, 0, -2.25 + 1.5 * row};
        const pixel_finder::meeting met = pixels.on_plane(place, {0, 1, 0});
        const rgb<double>& codes = plank_codes[row];
        const rgb<double> plank{srgb_decoded(codes.r / 255), srgb_decoded(codes.g / 255),
                                srgb_decoded(codes.b / 255)};
        const double rho = std::hypot(met.point.x, met.point.z);
        const std::string where = " plank " + std::to_string(row + 1);
        // As for the lantern without texture, which is eight operations more: polynomials change with less
        // than the third power.
        const auto tolerance = [&](const rgb<double>& color, double from_foot) {
            const double d = std::hypot(1.0, from_foot);
            return color * (u * (28 + 3 * (2 * 8 + d) / d));
        };
        const rgb<double> color = lit(plank, rho);
        result.expectations.push_back(
            {"on" + where,
             "base · texel · (ambient + color · intensity · (h / d) / (k0 + k1·d + k2·d²)), "
             "d² = 1 + ρ², ρ = " +
                 in_metres(rho),
             rate::fragment, met.x, met.y, color, tolerance(color, rho)});
        const double corner = std::hypot(3, 3);
        const rgb<double> at_corner = lit(plank, corner);
        result.expectations.push_back(
            {"the corners' light on" + where,
             "base · texel · (ambient + color · intensity · (h / d) / (k0 + k1·d + k2·d²)), ρ = √18",
             rate::vertex, met.x, met.y, at_corner, tolerance(at_corner, corner)});
        const double centroid = std::hypot(1, 1);
        const rgb<double> at_centroid = lit(plank, centroid);
        result.expectations.push_back(
            {"the centroids' light on" + where,
             "base · texel · (ambient + color · intensity · (h / d) / (k0 + k1·d + k2·d²)), ρ = √2",
             rate::face, met.x, met.y, at_centroid, tolerance(at_centroid, centroid)});
    }
    result.known = {
        "per fragment: base · texel · (ambient + color · intensity · (h / d) / (1 + 0.1·d + 0.2·d²)), "
        "d² = 1 + ρ², at ρ metres from the lantern's foot",
        "per vertex: the light at ρ = √18 m everywhere, times the texture; per face at ρ = √2 m",
        "alpha is 0.5 on the quay, whatever the light"};
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; relative to "
           "their distance d from each other that is multiplied by the powers of d in the formula (at most "
           "3); 28 operations with the texture: tolerance = color · u · (28 + 3 · (2 · 8 m + d) / d).");
    return result;
}

} // namespace

const std::vector<reference_scene>& reference_scenes() {
    static const std::vector<reference_scene> scenes{lantern_quay_planks(),
                                                     lantern_quay("lantern-quay-inverse-square", 1),
                                                     lantern_quay("lantern-quay-cells", 24),
                                                     moon_crates(),
                                                     buoys("buoys", model_kind::blinn_phong),
                                                     buoys("buoys-phong", model_kind::phong),
                                                     bollard(),
                                                     searchlight(),
                                                     penumbras(),
                                                     plates(),
                                                     lamp_parts(),
                                                     lantern_row(),
                                                     behind_the_wall(),
                                                     line_up(),
                                                     float_field(),
                                                     painted_hull(),
                                                     many_lanterns(),
                                                     boatyard(),
                                                     moorings(),
                                                     paint_ramp(),
                                                     slipway(),
                                                     foggy_quay(),
                                                     paint_by_formula()};
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

} // namespace yurvo::inline v0_1::verify
