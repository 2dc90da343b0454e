// Scenes for claims to which the reference scenes, fitted, do not show every mistake.
#include "verify/reference_building.hpp"
#include "yurvo/verify/coverage.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

texture painted_boards() {
    texture result;
    result.width = 5;
    result.height = 4;
    result.texels.clear();
    for (int row = 0; row < 4; ++row) {
        for (int column = 0; column < 5; ++column) {
            result.texels.push_back({0.15F + 0.17F * static_cast<float>(column),
                                     0.2F + 0.2F * static_cast<float>(row),
                                     0.9F - 0.1F * static_cast<float>(column + row)});
        }
    }
    return result;
}

named_light lamp_on_quay(const std::string& name, const vec3<double>& at, const rgb<double>& color,
                         double intensity) {
    named_light made;
    made.name = name;
    made.light.position = at;
    made.light.color = color;
    made.light.intensity = intensity;
    made.light.ambient = {0.06, 0.04, 0.05};
    made.light.diffuse = {0.9, 0.7, 0.8};
    made.light.specular = {0.6, 0.9, 0.75};
    made.light.follows = ambient_follows::cone;
    return made;
}

object thing(const std::string& name, std::size_t material, const any_shape& shape, const placement& placed) {
    object made;
    made.name = name;
    made.material = material;
    made.shape = shape;
    made.placed = placed;
    return made;
}

// Turned, stretched and coarse things close to the lamps and to the eye; every factor of its own.
scene night_market(bool two_lamps) {
    scene of;
    of.title = "A market on the quay at night";
    of.view.eye = {1.4, 1.1, 3.4};
    of.view.target = {0.2, 0.35, -0.2};
    of.view.up = {0.1, 1, 0};
    of.view.fov = radians(52);
    of.view.background = {0.02, 0.03, 0.05};
    of.shading.model = model_kind::blinn_phong;
    of.shading.rate = rate::fragment;
    of.ambient_color = {0.8, 0.9, 1.0};
    of.ambient_strength = 0.12;
    named_material boards = material_of("boards", {0.9, 0.8, 0.7});
    boards.look.specular = {0.35, 0.3, 0.25};
    boards.look.shininess = 12;
    boards.look.ambient = {0.7, 0.9, 0.8};
    boards.look.diffuse = {0.8, 0.9, 0.7};
    boards.texture_file = "boards.png";
    boards.image = std::make_shared<const texture>(painted_boards());
    named_material glazed = material_of("glazed", {0.25, 0.45, 0.6});
    glazed.look.specular = {0.8, 0.7, 0.6};
    glazed.look.shininess = 20;
    glazed.look.emission = {0.02, 0.01, 0.03};
    glazed.look.alpha = 0.8;
    glazed.look.two_sided = true;
    named_material rope = material_of("rope", {0.7, 0.5, 0.3});
    rope.look.specular = rgb<double>(0.5);
    rope.look.shininess = 8;
    rope.look.alpha = 0.6;
    of.materials = {boards, glazed, rope};
    of.objects.push_back(thing("deck", 0, plane_shape{{7, 7}, {1, 1}}, {}));
    of.objects.push_back(
        thing("buoy", 1, sphere_shape{0.5, {10, 6}},
              {{-0.7, 0.55, 0.4}, {radians(20), radians(35), radians(25)}, {1.5, 0.8, 0.6}}));
    of.objects.push_back(
        thing("coil", 2, torus_shape{0.42, 0.16, {12, 7}},
              {{0.75, 0.4, 0.5}, {radians(55), radians(-20), radians(10)}, {1.2, 1.5, 0.7}}));
    of.objects.push_back(thing("crate", 0, box_shape{{0.7, 0.6, 0.5}},
                               {{1.5, 0.35, -0.7}, {radians(8), radians(30), 0}, {1.3, 1, 0.8}}));
    object sail = thing("sail", 1, plane_shape{{1.4, 1.6}, {1, 1}},
                        {{-1.6, 0.9, -0.9}, {radians(75), radians(20), radians(15)}, {1, 1, 1}});
    of.objects.push_back(sail);
    object beacon = thing("beacon", 2, cone_shape{0.35, 0.9, {7, 1}},
                          {{0.1, 0.45, -1.1}, {radians(12), 0, radians(-15)}, {1.4, 1, 0.8}});
    of.objects.push_back(beacon);
    of.lights.push_back(lamp_on_quay("lantern", {0.3, 1.5, 0.9}, {1.0, 0.8, 0.5}, 1.6));
    if (two_lamps) {
        named_light spot = lamp_on_quay("searchlight", {-1.8, 2.2, 2.2}, {0.6, 0.8, 1.0}, 9);
        spot.light.kind = light_kind::spot;
        spot.light.shines = {1.7, -1.9, -2.3};
        spot.light.inner = radians(12);
        spot.light.outer = radians(30);
        of.lights.push_back(spot);
        named_light moon = lamp_on_quay("moon", {}, {0.7, 0.8, 1.0}, 0.5);
        moon.light.kind = light_kind::directional;
        moon.light.shines = {-0.9, -1.6, -1.2};
        of.lights.push_back(moon);
        of.lights.push_back(lamp_on_quay("stall", {-1.2, 0.9, 0.9}, {0.9, 0.5, 0.6}, 0.8));
    }
    return of;
}

reference_scene as_reference(const std::string& name, const scene& of) {
    reference_scene made;
    made.name = name;
    made.shows = "what the reference scenes, fitted, do not show";
    made.scene = of;
    made.rates = {rate::fragment};
    return made;
}

// A plank that is lit from just below its plane, with the eye just above on the other side: h is up.
scene plank_against_the_light(light_kind kind) {
    scene plank;
    plank.title = "A plank against the light";
    plank.view.eye = {-3, 0.7, 0.3};
    plank.view.target = {0, 0, 0};
    plank.view.fov = radians(40);
    plank.shading.model = model_kind::blinn_phong;
    plank.ambient_strength = 0.1;
    named_material boards = material_of("boards", {0.7, 0.6, 0.5});
    boards.look.specular = rgb<double>(0.6);
    boards.look.shininess = 10;
    plank.materials = {boards};
    plank.objects.push_back(thing("plank", 0, plane_shape{{4, 3}, {4, 3}}, {}));
    named_light lamp = lamp_on_quay("lamp", {3, -0.35, -0.2}, {1.0, 0.9, 0.7}, 9);
    lamp.light.kind = kind;
    lamp.light.shines = {-3, 0.35, 0.2};
    lamp.light.inner = radians(20);
    lamp.light.outer = radians(40);
    if (kind == light_kind::directional) {
        lamp.light.intensity = 1;
    }
    plank.lights.push_back(lamp);
    return plank;
}

// Without the deck, which hides what is seen from below.
scene things_in_the_air(const vec3<double>& eye) {
    scene of = night_market(false);
    of.objects.erase(of.objects.begin());
    of.view.target = {0, 0.5, 0};
    of.view.eye = eye;
    of.view.up = {0, 1, 0};
    return of;
}

} // namespace

const std::vector<reference_scene>& coverage_scenes() {
    static const std::vector<reference_scene> all = [] {
        std::vector<reference_scene> made;
        made.push_back(as_reference("night-market", night_market(true)));
        made.push_back(as_reference("night-market-one-lamp", night_market(false)));
        // The same under one kind of light: fitted, it keeps its cone, its direction, its place.
        for (const light_kind kind : {light_kind::spot, light_kind::directional}) {
            scene of = night_market(false);
            light& lamp = of.lights[0].light;
            lamp.kind = kind;
            lamp.position = {1.9, 2.4, 2.2};
            lamp.shines = {-1.7, -2.2, -2.6};
            lamp.intensity = kind == light_kind::spot ? 14 : 0.9;
            lamp.inner = radians(13);
            lamp.outer = radians(27);
            made.push_back(as_reference("night-market-" + std::string(name_of(kind)), of));
        }
        // Coarse things close to a wide lens, and a bent one under a moon alone.
        scene close = night_market(true);
        close.view.fov = radians(105);
        close.view.eye = {0.4, 0.75, 1.5};
        close.view.target = {-0.1, 0.35, 0.2};
        close.objects[1].shape = sphere_shape{0.6, {5, 4}};
        close.objects.push_back(
            thing("float", 1, sphere_shape{0.5, {4, 3}}, {{0.55, 0.55, 0.95}, {}, {1, 1, 1}}));
        made.push_back(as_reference("night-market-close", close));
        for (const light_kind kind : {light_kind::point, light_kind::spot, light_kind::directional}) {
            const scene plank = plank_against_the_light(kind);
            made.push_back(as_reference("plank-against-the-light-" + std::string(name_of(kind)), plank));
            // Brighter than 1 by its colour alone, and by being near.
            scene bright = night_market(false);
            bright.lights[0].light.kind = kind;
            bright.lights[0].light.position = {0.2, 0.75, 1.1};
            bright.lights[0].light.shines = {0.1, -0.7, -0.4};
            bright.lights[0].light.color = {5, 4, 3};
            bright.lights[0].light.intensity = 1;
            bright.lights[0].light.inner = radians(30);
            bright.lights[0].light.outer = radians(60);
            made.push_back(as_reference("night-market-bright-" + std::string(name_of(kind)), bright));
        }
        // From all around and from below: whatever way a light shines that a shader has written into it, some
        // eye looks against it.
        int number = 0;
        for (const double height : {-2.6, 0.4, 3.0}) {
            for (int i = 0; i < 6; ++i) {
                const double angle = pi / 3 * i;
                made.push_back(
                    as_reference("night-market-around-" + std::to_string(++number),
                                 things_in_the_air({3.2 * std::cos(angle), height, 3.2 * std::sin(angle)})));
            }
        }
        return made;
    }();
    return all;
}

const reference_scene& scene_of_many_lights() {
    static const reference_scene made = [] {
        scene of = night_market(false);
        of.lights.clear();
        // By turns, so that of whatever is kept of them each kind has a part.
        for (int i = 0; i < 3; ++i) {
            const std::string number = std::to_string(i + 1);
            const double aside = i - 1;
            named_light moon = lamp_on_quay("moon-" + number, {}, {0.9, 0.8 - 0.2 * i, 0.5 + 0.2 * i}, 0.2);
            moon.light.kind = light_kind::directional;
            moon.light.shines = {-0.9 * aside, -1.6, -1.2 + 0.7 * i};
            of.lights.push_back(moon);
            named_light spot = lamp_on_quay("searchlight-" + number, {2.2 * aside, 2.3, 2.0 - 0.4 * i},
                                            {0.5 + 0.2 * i, 0.8, 1.0 - 0.3 * i}, 5);
            spot.light.kind = light_kind::spot;
            spot.light.shines = vec3<double>{0.3 * aside, 0.3, 0.1} - spot.light.position;
            spot.light.inner = radians(14 + 2 * i);
            spot.light.outer = radians(28 + 3 * i);
            of.lights.push_back(spot);
            of.lights.push_back(lamp_on_quay("lantern-" + number, {0.3 + 1.3 * aside, 1.3 - 0.2 * i, 0.9},
                                             {1.0 - 0.3 * i, 0.8, 0.4 + 0.3 * i}, 0.7));
        }
        return as_reference("night-market-many-lamps", of);
    }();
    return made;
}

std::vector<reference_scene> scenes_against_lights(const std::vector<named_light>& lights) {
    // The plank's plane passes the light by as little as the eye, which is on its other side: a highlight of
    // any exponent is as far from its middle as the sum.
    constexpr double light_below = radians(3);
    constexpr double eye_above = radians(5);
    constexpr double side = 0.3;
    std::vector<reference_scene> made;
    for (std::size_t i = 0; i < lights.size(); ++i) {
        const light& lamp = lights[i].light;
        if (lights[i].space == light_space::view) {
            continue;
        }
        const double away = lamp.range > 0 ? std::min(2.5, lamp.range / 2) : 2.5;
        const vec3<double> shines =
            lamp.kind == light_kind::point ? normalize(vec3<double>{0.3, -1, 0.2}) : normalize(lamp.shines);
        const vec3<double> target =
            lamp.kind == light_kind::directional ? vec3<double>{} : lamp.position + shines * away;
        const vec3<double> across = std::abs(shines.x) < 0.7 ? vec3<double>{1, 0, 0} : vec3<double>{0, 0, 1};
        const vec3<double> normal =
            normalize(cross(across, shines)) * std::cos(light_below) + shines * std::sin(light_below);
        const vec3<double> along =
            normalize(shines - normal * dot(shines, normal)); // in the plane, away from the light
        scene of = plank_against_the_light(light_kind::point);
        of.view.target = target;
        of.view.eye = target + (along * std::cos(eye_above) + normal * std::sin(eye_above)) * 4.0;
        of.view.up = normal;
        of.view.fov = 2 * std::atan(side / 4);
        of.objects[0].shape = plane_shape{{side, side}, {4, 3}};
        of.objects[0].placed = {target, {std::asin(normal.z), 0, std::atan2(-normal.x, normal.y)}, {1, 1, 1}};
        made.push_back(as_reference("plank-against-light-" + std::to_string(i + 1), of));
    }
    return made;
}

} // namespace yurvo::inline v0_1::verify
