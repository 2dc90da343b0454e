// The reference scenes of geometry and of pictures: every shape, turned and stretched; implicit surfaces of
// every kind; the codes of a ramp.
#include <algorithm>
#include <array>

#include "verify/reference_building.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// The curve of IEC 61966-2-1 with constants of its own, from a code to what it stands for.
double value_of_code(double code) {
    const double share = code / 255;
    return share > 0.04045 ? std::pow((share + 0.055) / 1.055, 12.0 / 5.0) : share / 12.92;
}
// And back: the code whose value is nearest on the encoded scale.
double code_for(double linear) {
    const double kept = std::clamp(linear, 0.0, 1.0);
    const double share = kept > 0.0031308 ? 1.055 * std::pow(kept, 5.0 / 12.0) - 0.055 : 12.92 * kept;
    return std::floor(255 * share + 0.5);
}

named_light moon_over_yard(const vec3<double>& shines, double intensity) {
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = shines;
    moon.light.intensity = intensity;
    return moon;
}

named_light lantern_in_yard(const vec3<double>& at, double intensity) {
    named_light lantern;
    lantern.name = "lantern";
    lantern.light.position = at;
    lantern.light.color = {1.0, 0.82, 0.55};
    lantern.light.intensity = intensity;
    return lantern;
}

// Texels of which no two are alike in any direction, so that every way to lay them shows.
texture scrubbed_boards() {
    texture result;
    result.width = 6;
    result.height = 4;
    result.texels.clear();
    for (int row = 0; row < 4; ++row) {
        for (int column = 0; column < 6; ++column) {
            const auto texel = [&](int code) { return static_cast<float>(srgb_decoded(code / 255.0)); };
            result.texels.push_back(
                {texel(90 + 28 * column), texel(80 + 40 * row), texel(60 + 15 * column + 20 * row)});
        }
    }
    return result;
}

} // namespace

reference_scene boatyard() {
    reference_scene result;
    result.name = "boatyard";
    result.shows = "Every shape, turned and unevenly stretched, with boards painted on it: with smooth, flat "
                   "and shared normals.";
    scene& yard = result.scene;
    yard.title = "Every shape, turned and stretched";
    yard.view.eye = {0.4, 0.3, 11};
    yard.view.target = {0.1, -0.1, 0};
    yard.view.up = {0.15, 1, 0.1};
    yard.view.fov = radians(36);
    yard.view.background = {0.004, 0.006, 0.012};
    yard.shading.model = model_kind::lambert;
    yard.ambient_strength = 0.03;
    named_material boards = material_of("boards", {0.9, 0.85, 0.8});
    boards.texture_file = "boards.png";
    boards.image = std::make_shared<const texture>(scrubbed_boards());
    boards.look.two_sided = true;
    yard.materials.push_back(boards);
    const std::array<any_shape, 6> shapes{plane_shape{{1.1, 0.8}, {2, 3}}, box_shape{{0.9, 0.7, 0.5}},
                                          sphere_shape{0.55, {9, 6}},      cylinder_shape{0.42, 1.0, {7, 2}},
                                          cone_shape{0.55, 1.1, {8, 2}},   torus_shape{0.45, 0.2, {10, 7}}};
    const std::array<const char*, 6> called{"hatch", "crate", "buoy", "bollard", "beacon", "fender"};
    const std::array<normals_kind, 3> normals{normals_kind::smooth, normals_kind::flat, normals_kind::shared};
    for (std::size_t row = 0; row < normals.size(); ++row) {
        for (std::size_t i = 0; i < shapes.size(); ++i) {
            object each;
            each.name = std::string(called[i]) + ", " + std::string(name_of(normals[row]));
            each.shape = shapes[i];
            each.normals = normals[row];
            const auto turn = static_cast<double>(row);
            const auto place = static_cast<double>(i);
            each.placed.position = {1.45 * (place - 2.5), 1.7 * (1 - turn), 0.15 * place - 0.3};
            // The last row is seen from below.
            each.placed.rotation = {radians(row == 2 ? -65 : 35 + 25 * turn),
                                    radians(-30 + 20 * place - 15 * turn), radians(12 * place - 20)};
            each.placed.scale = {1.0 + 0.1 * turn, 1.15 - 0.1 * turn, 0.9 + 0.05 * place};
            yard.objects.push_back(each);
        }
    }
    yard.lights.push_back(moon_over_yard({-1, -1.4, -1.6}, 0.8));
    yard.lights.push_back(lantern_in_yard({-1.2, 1.5, 4.5}, 9));
    named_light torch = lantern_in_yard({0.6, 1.1, -3}, 14); // held beside the eye
    torch.name = "torch";
    torch.light.kind = light_kind::spot;
    torch.light.shines = {-0.2, -0.3, -1.5};
    torch.light.inner = radians(6);
    torch.light.outer = radians(16);
    torch.space = light_space::view;
    yard.lights.push_back(torch);
    result.rates = {rate::face, rate::vertex, rate::fragment};
    result.known = {"every pixel by the second method, whose shapes, normals and texture are its own"};
    return result;
}

reference_scene moorings() {
    reference_scene result;
    result.name = "moorings";
    result.shows =
        "Implicit surfaces of every kind, turned and unevenly stretched, with their exact normals.";
    scene& at_sea = result.scene;
    at_sea.title = "Implicit surfaces of every kind";
    at_sea.view.eye = {0.3, 0.9, 7};
    at_sea.view.target = {0, 0, 0};
    at_sea.view.fov = radians(40);
    at_sea.view.background = {0.004, 0.006, 0.012};
    at_sea.shading.model = model_kind::phong;
    at_sea.ambient_strength = 0.03;
    named_material cork = material_of("cork", {0.8, 0.55, 0.3});
    cork.look.specular = rgb<double>(0.4);
    cork.look.shininess = 12;
    at_sea.materials.push_back(cork);
    field_part crate{field_kind::rounded_box};
    crate.size = {0.9, 0.7, 0.6};
    crate.rounding = 0.12;
    field_part ring{field_kind::torus};
    ring.radius = 0.5;
    ring.tube = 0.18;
    field_part post{field_kind::capsule};
    post.radius = 0.25;
    post.height = 0.7;
    field_part ball{field_kind::sphere};
    ball.radius = 0.45;
    field_part knob = ball;
    knob.position = {0.4, 0.1, 0.1};
    knob.radius = 0.3;
    const std::array<field, 5> fields{field{crate.kind, {crate}, 0.25}, field{ring.kind, {ring}, 0.25},
                                      field{post.kind, {post}, 0.25}, field{ball.kind, {ball}, 0.25},
                                      field{field_kind::smooth_union, {post, knob, crate}, 0.2}};
    for (std::size_t i = 0; i < fields.size(); ++i) {
        object each;
        each.name = std::string(name_of(fields[i].kind));
        each.shape = field_shape{fields[i]};
        const auto place = static_cast<double>(i);
        each.placed.position = {1.2 * (place - 2), 0.35 * std::cos(2 * place), 0.1 * place};
        each.placed.rotation = {radians(25 + 15 * place), radians(-40 + 25 * place), radians(10 * place)};
        each.placed.scale = {1.1, 0.9, 1.0 + 0.05 * place};
        at_sea.objects.push_back(each);
    }
    at_sea.lights.push_back(moon_over_yard({-1, -1.2, -1.5}, 0.7));
    at_sea.lights.push_back(lantern_in_yard({1.5, 1.6, 3}, 5));
    result.rates = {rate::fragment};
    result.known = {"every pixel by the second method, whose distances are its own and whose normals are "
                    "differences of them"};
    return result;
}

reference_scene paint_ramp() {
    constexpr int steps = 40;
    reference_scene result;
    result.name = "paint-ramp";
    result.shows = "A ramp from black to more than white, and a texture of the same codes: the sRGB curve, "
                   "both ways.";
    scene& wall = result.scene;
    wall.title = "A ramp of paint, and its codes";
    wall.view.eye = {0, 0, 4};
    wall.view.target = {0, 0, 0};
    wall.view.fov = radians(40);
    wall.view.background = {0.004, 0.006, 0.012};
    wall.shading.model = model_kind::unlit;
    const pixel_finder pixels(wall.view);
    const auto plate = [&](const std::string& name, double x, double y, double width) {
        object made;
        made.name = name;
        made.shape = plane_shape{{width, 0.6}, {1, 1}};
        made.placed.position = {x, y, 0};
        made.placed.rotation.x = radians(90); // it faces the eye
        made.material = wall.materials.size() - 1;
        wall.objects.push_back(made);
    };
    const double width = 4.0 / steps;
    const auto place = [&](int i) { return width * (i - (steps - 1) / 2.0); };
    const auto expect = [&](const std::string& name, const std::string& says, double x, double y,
                            const rgb<double>& color) {
        const pixel_finder::meeting met = pixels.on_plane({x, y, 0}, {0, 0, 1});
        result.expectations.push_back({name, says, rate::fragment, met.x, met.y, color, color * (8 * u)});
        expectation code{name + ", as a code",
                         "round(255 · sRGB(" + says + "))",
                         rate::fragment,
                         met.x,
                         met.y,
                         {code_for(color.r), code_for(color.g), code_for(color.b)},
                         rgb<double>(0.0)};
        code.is_code = true;
        result.expectations.push_back(code);
    };
    for (int i = 0; i < steps; ++i) {
        // Denser where the curve is steepest; the last are above 1.
        const double share = static_cast<double>(i) / (steps - 3);
        const double value = share * share;
        const rgb<double> base{value, value * 0.6, value * 0.25};
        wall.materials.push_back(material_of((i < 10 ? "paint 0" : "paint ") + std::to_string(i), base));
        plate("step " + std::to_string(i), place(i), 0.5, width);
        expect("step " + std::to_string(i), "base", place(i), 0.5, base);
    }
    named_material printed = material_of("printed ramp", rgb<double>(1.0));
    printed.texture_file = "ramp.png";
    texture ramp;
    ramp.width = steps;
    ramp.height = 1;
    ramp.texels.clear();
    for (int i = 0; i < steps; ++i) {
        const auto texel = [](int code) { return static_cast<float>(srgb_decoded(code / 255.0)); };
        ramp.texels.push_back({texel(6 * i), texel(255 - 5 * i), texel(3 * i)});
    }
    printed.image = std::make_shared<const texture>(ramp);
    wall.materials.push_back(printed);
    plate("printed", 0, -0.5, width * steps);
    for (int i = 0; i < steps; ++i) {
        // At a texel's middle it alone is seen; a pixel's centre is beside it, between two.
        const pixel_finder::meeting met = pixels.on_plane({place(i), -0.5, 0}, {0, 0, 1});
        const double at = met.point.x / width + steps / 2.0 - 0.5;
        const auto mixed = [&](double first, double step) {
            const double below = std::floor(at);
            const auto texel = [&](double index) {
                return value_of_code(first + step * (index < 0        ? index + steps
                                                     : index >= steps ? index - steps
                                                                      : index));
            };
            return texel(below) * (below + 1 - at) + texel(below + 1) * (at - below);
        };
        const rgb<double> color{mixed(0, 6), mixed(255, -5), mixed(0, 3)};
        // The place between two texels is rounded: its error, in texels, times their difference.
        const rgb<double> beside{std::abs(mixed(6, 6) - mixed(-6, 6)),
                                 std::abs(mixed(250, -5) - mixed(260, -5)),
                                 std::abs(mixed(3, 3) - mixed(-3, 3))};
        result.expectations.push_back({"printed step " + std::to_string(i), "decoded(code), two texels mixed",
                                       rate::fragment, met.x, met.y, color,
                                       color * (12 * u) + beside * (steps * 16 * u)});
    }
    derive(result, "u = 2^-24. Without light a colour is rounded twice or so; a code is exact. Between two "
                   "texels the place is rounded by u, 40 texels' worth of it, times their difference.");
    result.rates = {rate::fragment};
    result.known = {
        "base and decoded(code), as linear values and as codes, the curve's constants written out "
        "again"};
    return result;
}

} // namespace yurvo::inline v0_1::verify
