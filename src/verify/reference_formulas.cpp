// The reference scenes of formulas of one's own.
#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using formulas::slot;

named_light lamp_in_fog(const std::string& name, const vec3<double>& position, double intensity) {
    named_light made;
    made.name = name;
    made.light.position = position;
    made.light.color = {1.0, 0.82, 0.55};
    made.light.intensity = intensity;
    return made;
}

object buoy_at(const vec3<double>& position, double radius) {
    object made;
    made.shape = sphere_shape{radius, {24, 12}};
    made.placed.position = position;
    return made;
}

constexpr double wrap = 0.4;
constexpr double thickness = 0.35; // of the fog, for each metre
const rgb<double> sky{0.05, 0.08, 0.16};
const rgb<double> ground{0.02, 0.015, 0.01};
const rgb<double> glow{0.06, 0.09, 0.16};

} // namespace

reference_scene foggy_quay() {
    reference_scene result;
    result.name = "foggy-quay";
    result.shows =
        "Formulas in the places of falloff, penumbra, ambient, diffuse and specular, and more on top: "
        "a lantern in the fog, sky above and ground below.";
    scene& quay = result.scene;
    quay.title = "A lantern in the fog";
    quay.view.eye = {0.4, 2.2, 6};
    quay.view.target = {0, 0.3, 0};
    quay.view.background = {0.03, 0.04, 0.06};
    quay.shading.model = model_kind::blinn_phong;
    quay.ambient_strength = 1;
    quay.formulas[slot::falloff] = "exp(-thickness * d) / (1.0 + d * d) * step(d, range)";
    quay.formulas[slot::penumbra] = "pow(clamp((cos_theta - cos_outer) / (cos_inner - cos_outer), 0.0, 1.0), "
                                    "exponent)";
    quay.formulas[slot::diffuse] = "max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)";
    quay.formulas[slot::specular] = "(shininess + 8.0) / (8.0 * pi) * pow(max(dot(n, h), 0.0), shininess) * "
                                    "max(dot(n, l), 0.0)";
    quay.formulas[slot::ambient] = "mix(ground, sky, 0.5 + 0.5 * n.y)";
    quay.formulas[slot::more] = "glow * pow(1.0 - clamp(dot(n, v), 0.0, 1.0), 3.0)";
    const auto number = [](const rgb<double>& c) { return std::vector<double>{c.r, c.g, c.b}; };
    quay.numbers = {{"glow", number(glow)},
                    {"ground", number(ground)},
                    {"sky", number(sky)},
                    {"thickness", {thickness}},
                    {"wrap", {wrap}}};
    named_material deck = material_of("deck", {0.5, 0.42, 0.34});
    deck.look.specular = rgb<double>(0.3);
    deck.look.shininess = 10;
    quay.materials.push_back(deck);
    object planks;
    planks.name = "quay";
    planks.shape = plane_shape{{8, 6}, {6, 6}};
    quay.objects.push_back(planks);
    quay.objects.push_back(buoy_at({-0.9, 0.6, 0.6}, 0.6));
    quay.objects.push_back(buoy_at({1.3, 0.45, 1.1}, 0.45));
    quay.objects.back().placed.scale = {1.2, 0.9, 1};
    quay.lights.push_back(lamp_in_fog("lantern", {-2.2, 1.4, 0.2}, 6));
    quay.lights.back().light.range = 7;
    named_light spot = lamp_in_fog("searchlight", {1.6, 2.6, 2.6}, 14);
    spot.light.kind = light_kind::spot;
    spot.light.shines = {-0.6, -2.6, -2};
    spot.light.color = {0.7, 0.85, 1.0};
    spot.light.range = 9;
    spot.light.inner = radians(10);
    spot.light.outer = radians(24);
    spot.light.exponent = 1.5;
    spot.light.ambient = {0.02, 0.02, 0.03};
    quay.lights.push_back(spot);
    result.rates = {rate::face, rate::vertex, rate::fragment};
    const pixel_finder pixels(quay.view);
    // On the deck outside the searchlight's cone: n = (0, 1, 0), and every number is a height over a
    // distance.
    for (const vec3<double>& place :
         {vec3<double>{-2.6, 0, 1.2}, vec3<double>{-3.2, 0, -0.6}, vec3<double>{-3.0, 0, -2.2}}) {
        const vec3<double> at = pixels.on_plane(place, {0, 1, 0}).point;
        const auto met = pixels.on_plane(place, {0, 1, 0});
        const light& lantern = quay.lights[0].light;
        const vec3<double> to_light = lantern.position - at;
        const double d = std::hypot(to_light.x, to_light.y, to_light.z);
        const double falloff = std::exp(-thickness * d) / (1 + d * d);
        const double cosine = to_light.y / d;
        const vec3<double> to_eye = quay.view.eye - at;
        const double from_eye = std::hypot(to_eye.x, to_eye.y, to_eye.z);
        const double hx = to_light.x / d + to_eye.x / from_eye;
        const double hy = to_light.y / d + to_eye.y / from_eye;
        const double hz = to_light.z / d + to_eye.z / from_eye;
        const double half = hy / std::hypot(hx, hy, hz);
        const rgb<double> arriving = lantern.color * (lantern.intensity * falloff);
        const rgb<double> ambient = deck.look.base * sky;
        const rgb<double> diffuse = deck.look.base * arriving * ((cosine + wrap) / (1 + wrap));
        const double shine = 18 / (8 * pi) * std::pow(half, 10) * cosine;
        const rgb<double> specular = arriving * deck.look.specular * shine;
        const rgb<double> rim = glow * std::pow(1 - to_eye.y / from_eye, 3);
        const rgb<double> color = ambient + diffuse + specular + rim;
        // Light as in the other scenes: both ends are rounded, which changes it with the third power of d
        // and, in the fog, by thickness × d more; the highlight's angle counts shininess × tangent.
        const double lamp_from_eye =
            std::hypot(lantern.position.x - quay.view.eye.x, lantern.position.y - quay.view.eye.y,
                       lantern.position.z - quay.view.eye.z);
        const double moved = (from_eye + lamp_from_eye + d) / d;
        const double tangent = std::sqrt(1 - half * half) / half;
        const rgb<double> tolerance =
            diffuse * (u * (40 + (4 + thickness * d) * moved)) +
            specular * (u * (80 + (5 + thickness * d) * moved + 10 * tangent * (moved + 16))) +
            ambient * (u * 16) + rim * (u * 100) + glow * (u * 8);
        result.expectations.push_back(
            {"on the deck, " + in_metres(d) + " m from the lantern",
             "base · sky + E · (base · (n·l + wrap) / (1 + wrap) + specular · 18 / 8π · "
             "(n·h)¹⁰ · n·l) + glow · (1 − n·v)³, E = color · intensity · "
             "exp(−thickness · d) / (1 + d²)",
             rate::fragment, met.x, met.y, color, tolerance});
    }
    result.known = {
        "on the deck every cosine is a height over a distance; the formulas are worked out with them, "
        "written again in C++"};
    derive(result, "u = 2^-24. Point and lamp are each rounded by u × their distance from the eye, which the "
                   "light's powers of d and the fog multiply; a highlight counts shininess × tangent; each "
                   "formula's operations once each.");
    return result;
}

reference_scene paint_by_formula() {
    reference_scene result;
    result.name = "paint-by-formula";
    result.shows =
        "The other places of formulas: the vectors given anew, a tone curve, a side that is seen from "
        "behind; and functions of every kind.";
    scene& of = result.scene;
    of.title = "Painted by formulas";
    of.view.eye = {0.5, 1.6, 6};
    of.view.target = {0, 0.2, 0};
    of.view.background = {0.01, 0.015, 0.03};
    of.shading.model = model_kind::phong;
    of.ambient_strength = 0.08;
    of.formulas[slot::l] = "normalize(l + vec3(0.0, lift, 0.0))";
    of.formulas[slot::v] = "normalize(mix(v, axis, 0.5))";
    of.formulas[slot::h] = "normalize(l + 0.8 * v)";
    of.formulas[slot::r] = "reflect(-l, n)";
    of.formulas[slot::falloff] = "inversesqrt(coefficients.x + coefficients.y * d + coefficients.z * d * d)";
    of.formulas[slot::penumbra] = "smoothstep(cos_outer, cos_inner, cos_theta)";
    of.formulas[slot::diffuse] = "floor(max(dot(n, l), 0.0) * steps + 0.5) / steps * "
                                 "(front ? vec3(1.0) : vec3(0.25, 0.4, 0.7))";
    of.formulas[slot::specular] = "0.5 * pow(max(dot(r, v), 0.0), shininess) + "
                                  "0.5 * light_color * pow(max(dot(n, h), 0.0), 2.0 * shininess)";
    of.formulas[slot::ambient] = "0.6 + 0.4 * sin(stripes * position.y) * abs(cos(stripes * position.x))";
    of.formulas[slot::more] = "0.05 * base * fract(2.0 * position.z) * max(sign(n.x - 0.3), 0.0) + "
                              "0.02 * clamp(cross(n, axis), 0.0, 1.0) * exp2(-distance(position, eye)) * "
                              "length(position.xz)";
    of.formulas[slot::color] = "sqrt(min(c, vec3(4.0))) * (vec3(1.0) - 0.1 * step(vec3(0.5), c))";
    of.numbers = {{"lift", {0.15}}, {"steps", {5}}, {"stripes", {3}}};
    named_material paint = material_of("paint", {0.6, 0.35, 0.25});
    paint.look.specular = rgb<double>(0.5);
    paint.look.shininess = 14;
    of.materials.push_back(paint);
    of.objects.push_back(buoy_at({-1.4, 0.5, 0}, 0.8));
    of.objects.push_back(buoy_at({0.7, 0.3, 0.6}, 0.6));
    of.objects.back().normals = normals_kind::flat;
    object sail; // seen from behind
    sail.shape = plane_shape{{1.2, 1.6}, {2, 2}};
    sail.placed.position = {2.1, 0.6, -0.4};
    sail.placed.rotation = {radians(-80), radians(-20), 0};
    of.objects.push_back(sail);
    object deck;
    deck.shape = plane_shape{{7, 4}, {4, 3}};
    deck.placed.position = {0, -0.4, 0};
    of.objects.push_back(deck);
    named_light lantern = lamp_in_fog("lantern", {-0.4, 1.8, 2}, 0.7);
    lantern.light.coefficients = {0.5, 0.3, 0.6};
    of.lights.push_back(lantern);
    named_light spot = lamp_in_fog("searchlight", {2.4, 2.2, 2.4}, 1.1);
    spot.light.kind = light_kind::spot;
    spot.light.shines = {-1, -2, -2.2};
    spot.light.coefficients = {1, 0, 0.4};
    spot.light.color = {0.6, 0.8, 1.0};
    spot.light.inner = radians(12);
    spot.light.outer = radians(26);
    of.lights.push_back(spot);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-1, -1, 0.6};
    moon.light.intensity = 0.12;
    of.lights.push_back(moon);
    result.rates = {rate::vertex, rate::fragment};
    result.known = {
        "every pixel by the second method, which reads and evaluates the formulas by code of its own"};
    return result;
}

} // namespace yurvo::inline v0_1::verify
