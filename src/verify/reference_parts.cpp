// The reference scene of lights with parts of their own.
#include <algorithm>

#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

const rgb<double> deck_base{0.5, 0.42, 0.34};
constexpr double deck_specular = 0.6;
constexpr double deck_shininess = 8;

named_light lamp_over_deck(const std::string& name, const vec3<double>& position) {
    named_light made;
    made.name = name;
    made.light.position = position;
    return made;
}

named_light spot_over_deck(const std::string& name, const vec3<double>& position) {
    named_light made = lamp_over_deck(name, position);
    made.light.kind = light_kind::spot;
    made.light.shines = {0, -2, 0};
    made.light.intensity = 2;
    made.light.penumbra = penumbra_kind::ramp;
    made.light.inner = radians(24);
    made.light.outer = radians(34);
    return made;
}

std::vector<named_light> lamps() {
    named_light lantern = lamp_over_deck("lantern", {-2.6, 1, 0.4});
    lantern.light.intensity = 1.2;
    lantern.light.ambient = {0.02, 0.05, 0.14};
    lantern.light.diffuse = {1.0, 0.62, 0.3};
    lantern.light.specular = {0.3, 0.6, 1.0};
    named_light bow = spot_over_deck("bow lamp", {-0.4, 2, -0.4}); // its ambient part follows the cone
    bow.light.ambient = {0.3, 0.1, 0.05};
    bow.light.specular = rgb<double>(0.0);
    named_light stern = spot_over_deck("stern lamp", {2.2, 2, 0.2});
    stern.light.ambient = {0.05, 0.25, 0.1};
    stern.light.diffuse = {0.6, 0.8, 1.0};
    stern.light.specular = {1.0, 0.5, 0.2};
    stern.light.follows = ambient_follows::distance;
    named_light glow = lamp_over_deck("glow", {0, 3, -2});
    glow.light.ambient = {0.02, 0.03, 0.06};
    glow.light.diffuse = rgb<double>(0.0);
    glow.light.specular = rgb<double>(0.0);
    glow.light.follows = ambient_follows::nothing;
    // So low that n·l is 0.004: light that must not be taken for light from below.
    named_light moon;
    moon.name = "low moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-1, -0.004 * std::sqrt(1 / (1 - 0.004 * 0.004)), 0};
    moon.light.intensity = 6;
    moon.light.diffuse = {0.7, 0.8, 1.0};
    moon.light.specular = rgb<double>(0.0);
    return {lantern, bow, stern, glow, moon};
}

// What is said of one lamp at a point of the level deck, by scalars: cosines are heights over distances.
struct share {
    rgb<double> color, rounding;
};

// Penumbras are asked for only where they are 1 or 0. `from_eye` is the point's distance from the eye.
share share_of(const light& lamp, const vec3<double>& at, const vec3<double>& eye) {
    if (lamp.kind == light_kind::directional) {
        // The cosine is −y of `shines` over its length; a direction is rounded to u of 1, which is not small
        // beside it.
        const double cosine = -lamp.shines.y / std::hypot(lamp.shines.x, lamp.shines.y, lamp.shines.z);
        const rgb<double> whole = deck_base * lamp.color * lamp.diffuse * lamp.intensity;
        return {whole * cosine, whole * (u * (40 * cosine + 4))};
    }
    const double aside = std::hypot(at.x - lamp.position.x, at.z - lamp.position.z);
    const double height = lamp.position.y;
    const double d = std::hypot(height, aside);
    const double falloff = 1 / (height * height + aside * aside);
    const double angle = std::atan2(aside, height);
    const double penumbra = lamp.kind == light_kind::point || angle < lamp.inner ? 1 : 0;
    const double follows = lamp.follows == ambient_follows::nothing    ? 1
                           : lamp.follows == ambient_follows::distance ? falloff
                                                                       : falloff * penumbra;
    // n·h: the height of l + v over its length.
    const double from_eye = std::hypot(eye.x - at.x, eye.y - at.y, eye.z - at.z);
    const double hx = (lamp.position.x - at.x) / d + (eye.x - at.x) / from_eye;
    const double hy = height / d + eye.y / from_eye;
    const double hz = (lamp.position.z - at.z) / d + (eye.z - at.z) / from_eye;
    const double half = hy / std::hypot(hx, hy, hz);
    const rgb<double> whole = lamp.color * lamp.intensity;
    const rgb<double> ambient = deck_base * whole * lamp.ambient * follows;
    const rgb<double> diffuse = deck_base * whole * lamp.diffuse * (falloff * penumbra * height / d);
    const rgb<double> specular =
        whole * lamp.specular * (falloff * penumbra * deck_specular * std::pow(half, deck_shininess));
    // Point and lamp are each rounded by u × their distance from the eye; light changes with the third power
    // of their distance d. The highlight's angle is off by that over d and 8u, times shininess × tangent.
    const double lamp_from_eye =
        std::hypot(eye.x - lamp.position.x, eye.y - lamp.position.y, eye.z - lamp.position.z);
    const double moved = (from_eye + lamp_from_eye + d) / d;
    const double slope = deck_shininess * std::sqrt(std::max(0.0, 1 - half * half)) / half;
    return {ambient + diffuse + specular,
            (ambient + diffuse + specular) * (u * (40 + 3 * moved)) + specular * (u * slope * (moved + 8))};
}

} // namespace

reference_scene lamp_parts() {
    reference_scene result;
    result.name = "lamp-parts";
    result.shows =
        "Lamps whose ambient, diffuse and specular parts differ: highlights have colours of their own, "
        "and what a lamp spreads around itself follows its cone, its distance, or nothing.";
    scene& deck = result.scene;
    deck.title = "Lamps with parts of their own";
    deck.view.eye = {0, 3.2, 5.2};
    deck.view.target = {0, 0, -0.2};
    deck.view.background = {0.004, 0.006, 0.012};
    deck.ambient_strength = 0;
    named_material planks;
    planks.name = "deck";
    planks.look.base = deck_base;
    planks.look.specular = rgb<double>(deck_specular);
    planks.look.shininess = deck_shininess;
    deck.materials.push_back(planks);
    object quay;
    quay.name = "deck";
    quay.shape = plane_shape{{8, 5}, {16, 10}};
    deck.objects.push_back(quay);
    deck.lights = lamps();
    result.rates = {rate::face, rate::vertex, rate::fragment};

    const pixel_finder pixels(deck.view);
    struct place {
        const char* name;
        vec3<double> at;
    };
    for (const place& spot :
         {place{"at the foot of the lantern", {-2.6, 0, 0.4}}, place{"under the bow lamp", {-0.4, 0, -0.4}},
          place{"under the stern lamp", {2.2, 0, 0.2}},
          place{"between the cones, where the bow lamp's ambient part has ended", {0.75, 0, 0.4}},
          place{"where the lantern's highlight is", {-1.85, 0, 1.65}},
          place{"in the far corner, where little but the glow is left", {3.6, 0, -2.2}}}) {
        const pixel_finder::meeting met = pixels.on_plane(spot.at, {0, 1, 0});
        expectation expected;
        expected.name = spot.name;
        expected.says =
            "the sum over the lamps of color · intensity · (ambient · F + diffuse · falloff · penumbra · "
            "h / d) · base + specular · falloff · penumbra · 0.6 · (n·h)^8";
        expected.x = met.x;
        expected.y = met.y;
        for (const named_light& lamp : deck.lights) {
            const share added = share_of(lamp.light, met.point, deck.view.eye);
            expected.color = expected.color + added.color;
            expected.tolerance = expected.tolerance + added.rounding;
        }
        result.expectations.push_back(expected);
    }
    result.known = {
        "the bow lamp's ambient part ends with its cone, 2·tan 34° = 1.349 m from its foot",
        "the stern lamp's falls off as 1 / d² and goes on beyond its cone",
        "the glow's is 0.02, 0.03, 0.06 of the base colour everywhere",
        "the low moon adds 6 · 0.004 of its diffuse part and the base colour, since n·l is 0.004"};
    derive(
        result,
        "u = 2^-24. For each lamp: lit point and lamp are each rounded by u × their distance from the eye; "
        "relative to their distance d from each other that is multiplied by the third power in the formula; "
        "40 operations; a highlight's angle is off by as much and 8u, times shininess × tan of its angle.");
    return result;
}

} // namespace yurvo::inline v0_1::verify
