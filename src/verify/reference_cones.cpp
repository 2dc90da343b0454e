// The reference scenes of spots and their penumbras.
#include <algorithm>

#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

reference_scene searchlight() {
    reference_scene result;
    result.name = "searchlight";
    result.shows =
        "On a wall square to the beam the penumbra is a ring: whole within `inner`, half way where "
        "the cosine is, "
        "nothing beyond `outer`.";
    result.scene = dark_harbour("A searchlight on a wall");
    constexpr double distance = 4;
    result.scene.view.eye = {0, 0, 1};
    result.scene.view.target = {0, 0, -distance};
    result.scene.view.background = {};
    const rgb<double> base{0.7, 0.68, 0.64};
    result.scene.materials.push_back(material_of("wall", base));
    object wall;
    wall.name = "wall";
    wall.shape = plane_shape{{9, 9}, {1, 1}};
    wall.placed.position = {0, 0, -distance};
    wall.placed.rotation.x = radians(90); // +Y to +Z
    result.scene.objects.push_back(wall);
    named_light beam;
    beam.name = "searchlight";
    light& lamp = beam.light;
    lamp.kind = light_kind::spot;
    lamp.shines = {0, 0, -3};
    lamp.color = {0.9, 0.95, 1.0};
    lamp.intensity = 14;
    lamp.penumbra = penumbra_kind::smooth;
    lamp.inner = radians(12);
    lamp.outer = radians(22);
    result.scene.lights.push_back(beam);
    result.rates = {rate::fragment};
    const pixel_finder pixels(result.scene.view);
    const double cos_inner = std::cos(lamp.inner);
    const double cos_outer = std::cos(lamp.outer);
    const double middle = std::acos((cos_inner + cos_outer) / 2);
    struct place {
        const char* name;
        double angle;
    };
    for (const place& spot :
         {place{"on the axis", 0}, place{"just within inner", radians(11.8)},
          place{"in the middle of the penumbra", middle}, place{"just within outer", radians(21.5)},
          place{"beyond outer", radians(22.4)}}) {
        const double aside = distance * std::tan(spot.angle);
        // Aslant, so that neither x nor y is nought.
        const pixel_finder::meeting met = pixels.on_plane({0.8 * aside, 0.6 * aside, -distance}, {0, 0, 1});
        const double theta = std::atan2(std::hypot(met.point.x, met.point.y), distance);
        const double t =
            std::min(1.0, std::max(0.0, (std::cos(theta) - cos_outer) / (cos_inner - cos_outer)));
        const double penumbra = t * t * (3 - 2 * t);
        // E · n·l with d = distance / cos θ: intensity · cos³ θ / distance².
        const double whole = lamp.intensity * std::pow(std::cos(theta), 3) / (distance * distance);
        const rgb<double> color = base * lamp.color * (whole * penumbra);
        // Places rounded by u × at most 6 m each, over 4 m, three powers, twenty operations; the penumbra's
        // slope over the angle is at most 3/2 · sin θ / (cos inner − cos outer), the angle known to 8u.
        const double slope = 1.5 * std::sin(theta) / (cos_inner - cos_outer);
        result.expectations.push_back(
            {spot.name, "base · color · intensity · cos³ θ / 4² · t²(3 − 2t), t = " + in_metres(t),
             rate::fragment, met.x, met.y, color,
             color * (u * (20 + 3 * 16.0 / 4)) + base * lamp.color * (whole * slope * 8 * u)});
    }
    result.known = {
        "the penumbra begins at 4·tan 12° = 0.850 m from the axis and ends at 4·tan 22° = 1.616 m",
        "half the light is left where cos θ = (cos 12° + cos 22°) / 2, at 1.277 m",
        "beyond the outer ring exactly 0"};
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; "
           "relative to their distance d from each other that is multiplied by the powers of d in the "
           "formula (3 with the cosine); 20 operations; and the penumbra's slope over the angle, at most "
           "3/2 · sin θ / (cos inner − cos outer), times the 8u by which the angle is known.");
    return result;
}

reference_scene penumbras() {
    reference_scene result;
    result.name = "penumbras";
    result.shows =
        "Four lamps close their cones in four ways: a ramp, its square, a power of the cosine, and "
        "a hard border.";
    result.scene = dark_harbour("Four ways to close a cone");
    constexpr double distance = 2;
    result.scene.view.eye = {0, 0, 3.5};
    result.scene.view.target = {0, 0, 0};
    result.scene.view.background = {};
    const rgb<double> base{0.7, 0.68, 0.64};
    result.scene.materials.push_back(material_of("wall", base));
    object wall;
    wall.name = "wall";
    wall.shape = plane_shape{{8, 4}, {4, 2}};
    wall.placed.rotation.x = radians(90); // +Y to +Z
    result.scene.objects.push_back(wall);
    result.rates = {rate::face, rate::vertex, rate::fragment};
    const pixel_finder pixels(result.scene.view);
    const penumbra_kind kinds[] = {penumbra_kind::ramp, penumbra_kind::squared, penumbra_kind::power,
                                   penumbra_kind::hard};
    for (int i = 0; i < 4; ++i) {
        named_light named;
        named.name = std::string(name_of(kinds[i])) + " lamp";
        light& lamp = named.light;
        lamp.kind = light_kind::spot;
        lamp.position = {-1.65 + 1.1 * i, 0.1, distance};
        lamp.shines = {0, 0, -2};
        lamp.intensity = 3;
        lamp.penumbra = kinds[i];
        lamp.outer = radians(18);
        if (kinds[i] == penumbra_kind::ramp || kinds[i] == penumbra_kind::squared) {
            lamp.inner = radians(4);
        }
        if (kinds[i] == penumbra_kind::power) {
            lamp.exponent = 20;
        }
        result.scene.lights.push_back(named);
        // Half way out to the border, where each penumbra has another value.
        const double aside = distance * std::tan(radians(10));
        const pixel_finder::meeting met =
            pixels.on_plane({lamp.position.x, lamp.position.y + aside, 0}, {0, 0, 1});
        const double theta =
            std::atan2(std::hypot(met.point.x - lamp.position.x, met.point.y - lamp.position.y), distance);
        const double t =
            (std::cos(theta) - std::cos(lamp.outer)) / (std::cos(lamp.inner) - std::cos(lamp.outer));
        const double penumbra = kinds[i] == penumbra_kind::ramp      ? t
                                : kinds[i] == penumbra_kind::squared ? t * t
                                : kinds[i] == penumbra_kind::power ? std::pow(std::cos(theta), lamp.exponent)
                                                                   : 1;
        const double whole = lamp.intensity * std::pow(std::cos(theta), 3) / (distance * distance);
        const rgb<double> color = base * (whole * penumbra);
        result.expectations.push_back(
            {"half way out under the " + named.name,
             "base · intensity · cos³ θ / 2² · penumbra, penumbra = " + in_metres(penumbra), rate::fragment,
             met.x, met.y, color, color * (u * (40 + 3 * 12.0 / 2)) + base * (whole * 40 * 8 * u)});
    }
    result.known = {"10° off the axis the penumbra is t for `ramp`, t² for `squared`, cos(θ)^20 for `power` "
                    "and 1 for `hard`",
                    "beyond 18° each lamp brings exactly 0"};
    derive(result,
           "u = 2^-24. Lit point and lamp are each rounded by u × their distance from the eye, at most "
           "6 m each, over "
           "2 m, three powers; 40 operations; and the penumbra's slope, at most 40 a radian, times the 8u "
           "by which the "
           "angle is known.");
    return result;
}

} // namespace yurvo::inline v0_1::verify
