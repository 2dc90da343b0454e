// Reference scenes about lights: their direction, their distance, their cone, and the side they are on.
#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

const std::vector<rate> every_rate{rate::face, rate::vertex, rate::fragment};

} // namespace

reference_scene moon_crates() {
    reference_scene result;
    result.name = "moon-crates";
    result.shows = "Under the moon every face of a crate has one colour, however the crate is turned and "
                   "moved, at every "
                   "rate.";
    result.scene = dark_harbour("Crates under the moon");
    result.scene.view.eye = {0.5, 3, 7};
    result.scene.view.target = {0, 0.6, 0};
    result.scene.ambient_color = {0.4, 0.5, 0.9};
    result.scene.ambient_strength = 0.08;
    const rgb<double> base{0.62, 0.42, 0.22};
    result.scene.materials.push_back(material_of("crate", base));
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-1, -2, -1.5};
    moon.light.color = {0.6, 0.7, 1.0};
    moon.light.intensity = 0.9;
    result.scene.lights.push_back(moon);
    result.rates = every_rate;
    // 1 / √(1 + 4 + 2.25) is the length by which the moon's direction is divided.
    const vec3<double> to_light = vec3<double>{1, 2, 1.5} / std::sqrt(7.25);
    const rgb<double> ambient = result.scene.ambient_color * result.scene.ambient_strength;

    struct crate {
        const char* name;
        vec3<double> position, size, scale;
        double turned; // degrees about Y
    };
    const crate crates[] = {{"left crate", {-2.2, 0.5, 0.3}, {1, 1, 1}, {1, 1, 1}, 30},
                            {"middle crate", {0, 0.6, -0.4}, {0.8, 0.8, 0.8}, {1.5, 1.5, 1.5}, -20},
                            {"right crate", {2.3, 0.35, 0.5}, {1, 1, 1}, {1.2, 0.7, 0.9}, -55}};
    const pixel_finder pixels(result.scene.view);
    for (const crate& a_crate : crates) {
        object box;
        box.name = a_crate.name;
        box.shape = box_shape{a_crate.size};
        box.placed.position = a_crate.position;
        box.placed.rotation.y = radians(a_crate.turned);
        box.placed.scale = a_crate.scale;
        result.scene.objects.push_back(box);
        const double c = std::cos(radians(a_crate.turned));
        const double s = std::sin(radians(a_crate.turned));
        const vec3<double> half{a_crate.size.x * a_crate.scale.x / 2, a_crate.size.y * a_crate.scale.y / 2,
                                a_crate.size.z * a_crate.scale.z / 2};
        // Turned about Y, +X goes to (c, 0, −s) and +Z to (s, 0, c); the eye sees +Z, +Y, and one of ±X.
        const vec3<double> x_axis{c, 0, -s};
        const vec3<double> z_axis{s, 0, c};
        const vec3<double> to_eye = result.scene.view.eye - a_crate.position;
        const double x_side = dot(to_eye, x_axis) > 0 ? 1 : -1;
        struct face {
            const char* name;
            vec3<double> normal;
            double reach;
        };
        const face faces[] = {
            {"top", {0, 1, 0}, half.y}, {"front", z_axis, half.z}, {"side", x_axis * x_side, half.x}};
        for (const face& side : faces) {
            const pixel_finder::meeting met =
                pixels.on_plane(a_crate.position + side.normal * side.reach, side.normal);
            const double cosine = std::max(0.0, dot(side.normal, to_light));
            const rgb<double> color = base * (ambient + moon.light.color * (moon.light.intensity * cosine));
            for (const rate at : every_rate) {
                // Two directions rounded to float, each turned by at most 2u, and twenty operations.
                result.expectations.push_back(
                    {std::string(side.name) + " of the " + a_crate.name,
                     "base · (ambient + color · intensity · max(n·l, 0)), n·l = " + in_metres(cosine), at,
                     met.x, met.y, color,
                     color * (20 * u) + base * moon.light.color * (moon.light.intensity * 8 * u)});
            }
        }
    }
    result.known = {"every face is one colour: base · (ambient + color · intensity · max(n·l, 0)), n turned "
                    "with its crate",
                    "faces that look away from the moon have base · ambient",
                    "the three rates draw the same picture"};
    derive(result,
           "u = 2^-24. Normal and direction are rounded, each turned by at most 2u radians, and there "
           "are 20 operations: tolerance = 20u · color + 8u · base · light.");
    return result;
}

reference_scene lantern_row() {
    reference_scene result;
    result.name = "lantern-row";
    result.shows =
        "Plates that face a lantern from 1, 2, 3 and 4 metres have 1, 1/4, 1/9 and 1/16 of its light.";
    result.scene = dark_harbour("Plates around a lantern");
    result.scene.view.eye = {0, 1.1, 2.4};
    result.scene.view.target = {0, -0.15, -2};
    result.scene.view.fov = radians(60);
    const rgb<double> base{0.8, 0.8, 0.8};
    result.scene.materials.push_back(material_of("plate", base));
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.position = {0, 0, 0};
    lantern.light.color = {1.0, 0.8, 0.5};
    lantern.light.intensity = 1.2;
    result.scene.lights.push_back(lantern);
    result.rates = every_rate;
    const pixel_finder pixels(result.scene.view);
    constexpr double side = 0.3;
    const double bearings[] = {-42, -14, 12, 32};
    for (int k = 1; k <= 4; ++k) {
        const double angle = radians(bearings[k - 1]);
        const vec3<double> away{std::sin(angle), 0, -std::cos(angle)};
        object plate;
        plate.name = std::to_string(k) + " m plate";
        plate.shape = plane_shape{{side, side}, {1, 1}};
        plate.placed.position = away * static_cast<double>(k);
        plate.placed.rotation = {radians(90), radians(-bearings[k - 1]),
                                 0}; // +Y to +Z, then towards the lantern
        result.scene.objects.push_back(plate);
        const double d = k;
        const pixel_finder::meeting met = pixels.on_plane(plate.placed.position, away);
        // At ρ from the plate's centre the cosine is d / √(d² + ρ²).
        const double rho = length(met.point - plate.placed.position);
        const auto at = [&](double from_centre) {
            const double reach = std::hypot(d, from_centre);
            return base * lantern.light.color * (lantern.light.intensity * d / (reach * reach * reach));
        };
        // Both places are rounded by u × their distance from the eye, at most 7 m and 3 m; the light changes
        // with the third power of d. Twenty operations.
        const double relative = u * (20 + 3 * (10 + d) / d);
        const std::string says =
            "base · color · intensity / d², d = " + std::to_string(k) + ", a little off the centre";
        const double corner = side / 2 * std::sqrt(2);
        const double centroid = side / 6 * std::sqrt(2);
        result.expectations.push_back({"the plate at " + std::to_string(k) + " m", says, rate::fragment,
                                       met.x, met.y, at(rho), at(rho) * relative});
        if (k > 1) {
            const expectation& nearest = result.expectations.front();
            const rgb<double> ratio{at(rho).r / nearest.color.r, at(rho).g / nearest.color.g,
                                    at(rho).b / nearest.color.b};
            expectation against{"the plate at " + std::to_string(k) + " m against that at 1 m",
                                "1 / " + std::to_string(k * k) +
                                    ", but for how far their pixels are off the centre",
                                rate::fragment,
                                met.x,
                                met.y,
                                ratio,
                                ratio * (relative + nearest.tolerance.r / nearest.color.r)};
            against.is_ratio = true;
            against.other_x = nearest.x;
            against.other_y = nearest.y;
            result.expectations.push_back(against);
        }
        result.expectations.push_back({"the plate at " + std::to_string(k) + " m", says + ", at the corners",
                                       rate::vertex, met.x, met.y, at(corner), at(corner) * relative});
        result.expectations.push_back({"the plate at " + std::to_string(k) + " m",
                                       says + ", at the centroids", rate::face, met.x, met.y, at(centroid),
                                       at(centroid) * relative});
    }
    result.known = {
        "per fragment: in the middle of each plate base · color · intensity / d², d = 1, 2, 3, 4: "
        "1, 1/4, 1/9, 1/16",
        "per vertex: one colour for each plate, that of its corners, ρ = 0.15·√2 m from the middle",
        "per face: one colour for each plate, that of its triangles' centroids, ρ = 0.05·√2 m from "
        "the middle"};
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; "
           "relative to their distance d from each other that is multiplied by the powers of d in the "
           "formula (3 with the cosine); 20 operations more: tolerance = color · u · (20 + 3 · (10 m + "
           "d) / d). A ratio adds the other pixel's.");
    return result;
}

reference_scene behind_the_wall() {
    reference_scene result;
    result.name = "behind-the-wall";
    result.shows = "A lamp below the surface gives it exactly nothing: no diffuse light, and no highlight.";
    result.scene = dark_harbour("A lamp under the quay");
    result.scene.view.eye = {0, 2.5, 5};
    result.scene.view.background = {};
    result.scene.shading.model = model_kind::blinn_phong;
    named_material stone = material_of("stone", {0.5, 0.5, 0.5});
    stone.look.specular = rgb<double>(1.0);
    stone.look.shininess = 4;
    result.scene.materials.push_back(stone);
    object quay;
    quay.name = "quay";
    quay.shape = plane_shape{{8, 8}, {4, 4}};
    result.scene.objects.push_back(quay);
    named_light lamp;
    lamp.name = "lamp below";
    lamp.light.position = {0.5, -0.5, 0.5};
    lamp.light.intensity = 50;
    result.scene.lights.push_back(lamp);
    result.rates = every_rate;
    const pixel_finder pixels(result.scene.view);
    for (const rate at : every_rate) {
        for (const double x : {-1.5, 0.5, 2.0}) {
            const pixel_finder::meeting met = pixels.on_plane({x, 0, 0.5}, {0, 1, 0});
            result.expectations.push_back(
                {"above the lamp, x = " + in_metres(x), "n·l < 0: exactly 0", at, met.x, met.y, {}, {}});
        }
    }
    result.known = {
        "every pixel is exactly 0: diffuse has max(n·l, 0), specular only n·l > 0, and there is no "
        "ambient light"};
    derive(result, "Exactly 0: no tolerance.");
    return result;
}

reference_scene plates() {
    reference_scene result;
    result.name = "plates";
    result.shows =
        "Which pixels a plate covers when its edges run through their centres, which of two plates "
        "in one place is "
        "seen, and what is seen from behind.";
    result.scene = dark_harbour("Plates before the moon");
    // A pixel is 5 mm at 4 m: 2 · 0.5 · 4 m / 800.
    result.scene.view.eye = {0, 0, 4};
    result.scene.view.target = {0, 0, 0};
    result.scene.view.fov = radians(53.13010235415598); // 2 · atan(0.5)
    result.scene.view.background = {0.01, 0.02, 0.03};
    result.scene.ambient_strength = 0.1;
    named_material brass = material_of("brass", {0.8, 0.6, 0.3});
    named_material slate = material_of("slate", {0.2, 0.3, 0.4});
    named_material sail = material_of("sail", {0.7, 0.7, 0.6});
    sail.look.two_sided = true;
    result.scene.materials = {brass, sail, slate};
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {0, 0, -1};
    moon.light.intensity = 0.75;
    result.scene.lights.push_back(moon);
    const auto plate = [&](const char* name, std::size_t material, double x, double turned) {
        object item;
        item.name = name;
        item.material = material;
        item.shape = plane_shape{{1, 1}, {1, 1}};
        // Half a pixel aside: its edges run through centres.
        item.placed.position = {x + 0.0025, 0.0025, 0};
        item.placed.rotation.x = radians(turned); // 90: +Y towards the eye
        result.scene.objects.push_back(item);
    };
    plate("brass plate", 0, 0, 90);
    plate("slate plate", 2, 0, 90);
    plate("slate from behind", 2, -1.3, -90);
    plate("sail from behind", 1, 1.3, -90);
    result.rates = every_rate;
    // Left and right edge of the first at 540.5 and 740.5, top and bottom at 299.5 and 499.5.
    const auto lit = [&](const rgb<double>& base, double cosine) { return base * (0.1 + 0.75 * cosine); };
    for (const rate at : every_rate) {
        const auto expect = [&](const char* name, const char* says, int x, int y, const rgb<double>& color) {
            result.expectations.push_back({name, says, at, x, y, color, color * (10 * u)});
        };
        const rgb<double> front = lit(brass.look.base, 1);
        const rgb<double>& nothing = result.scene.view.background;
        expect("on the left edge", "a centre on a left edge belongs to the plate", 540, 400, front);
        expect("on the right edge", "a centre on a right edge does not", 740, 400, nothing);
        expect("on the top edge", "a centre on a top edge belongs to the plate", 640, 299, front);
        expect("on the bottom edge", "a centre on a bottom edge does not", 640, 499, nothing);
        expect("in the middle", "of two plates in one place the first drawn is seen", 640, 400, front);
        expect("slate from behind", "its normal faces away: ambient light alone", 380, 400,
               lit(slate.look.base, 0));
        expect("sail from behind", "two-sided: its normal is negated, and it is lit", 900, 400,
               lit(sail.look.base, 1));
    }
    result.known = {
        "the brass plate covers columns 540 to 739 and rows 299 to 498: top and left edges are in, "
        "others out",
        "the slate plate in the same place is never seen", "from behind only what is two-sided is lit"};
    derive(result, "u = 2^-24. Ten roundings: base, light, their products and sums.");
    return result;
}

} // namespace yurvo::inline v0_1::verify
