// Reference scenes about shapes and models: coarse buoys, a bollard between lamps, implicit surfaces, flat
// bands, many lights.
#include <algorithm>

#include "verify/reference_building.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

named_light lamp_at(const std::string& name, const vec3<double>& position, const rgb<double>& color,
                    double intensity) {
    named_light result;
    result.name = name;
    result.light.position = position;
    result.light.color = color;
    result.light.intensity = intensity;
    return result;
}

named_light moon_along(const vec3<double>& shines, double intensity) {
    named_light result;
    result.name = "moon";
    result.light.kind = light_kind::directional;
    result.light.shines = shines;
    result.light.color = {0.6, 0.7, 1.0};
    result.light.intensity = intensity;
    return result;
}

vec3<double> unit(const vec3<double>& v) { return v / std::hypot(v.x, v.y, v.z); }

// base · (ambient + Σ color · intensity · cosine / d²) of point lights, written out.
rgb<double> lit_diffusely(const std::vector<named_light>& lamps, const vec3<double>& p, const vec3<double>& n,
                          const rgb<double>& base, const rgb<double>& ambient) {
    rgb<double> sum = ambient;
    for (const named_light& lamp : lamps) {
        const vec3<double> whole = lamp.light.position - p;
        const double d = std::hypot(whole.x, whole.y, whole.z);
        sum = sum + lamp.light.color * (lamp.light.intensity * std::max(0.0, dot(whole, n) / d) / (d * d));
    }
    return sum * base;
}

} // namespace

reference_scene buoys(const std::string& name, model_kind model) {
    reference_scene result;
    result.name = name;
    result.shows =
        model == model_kind::phong
            ? "On coarse, stretched and turned buoys the highlight of phong is white on red, and smaller."
            : "On coarse, stretched and turned buoys normals are moved by the inverse transpose and "
              "normalised at every pixel; the highlight is white on red.";
    result.scene.title = model == model_kind::phong ? "Coarse buoys, phong" : "Coarse buoys, blinn-phong";
    result.scene.view.eye = {0.4, 1.6, 6.5};
    result.scene.view.target = {0, 0.5, 0};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.shading.model = model;
    result.scene.ambient_color = {0.5, 0.6, 1.0};
    result.scene.ambient_strength = 0.06;
    named_material red;
    red.name = "red paint";
    red.look.base = {0.75, 0.05, 0.03};
    red.look.specular = rgb<double>(0.6);
    red.look.shininess = 24;
    result.scene.materials.push_back(red);
    struct buoy {
        const char* name;
        vec3<double> position, rotation, scale;
        std::uint32_t around, down;
    };
    for (const buoy& a_buoy : {buoy{"left buoy", {-2.2, 0.7, 0.2}, {0, 30, 25}, {0.8, 1.3, 0.6}, 10, 6},
                               buoy{"middle buoy", {0.1, 0.5, 1.1}, {-20, 0, -35}, {1.1, 0.5, 0.9}, 12, 7},
                               buoy{"right buoy", {2.3, 0.8, -0.4}, {15, 70, 0}, {0.7, 1.1, 1.4}, 8, 5}}) {
        object sphere;
        sphere.name = a_buoy.name;
        sphere.shape = sphere_shape{1, {a_buoy.around, a_buoy.down}};
        sphere.placed.position = a_buoy.position;
        sphere.placed.rotation = {radians(a_buoy.rotation.x), radians(a_buoy.rotation.y),
                                  radians(a_buoy.rotation.z)};
        sphere.placed.scale = a_buoy.scale;
        result.scene.objects.push_back(sphere);
    }
    // Lights on one side leave the other with ambient light alone.
    result.scene.lights.push_back(moon_along({-1, -1, 0.1}, 0.8));
    result.scene.lights.push_back(lamp_at("lantern", {3.2, 2.6, 1.6}, {1.0, 0.82, 0.55}, 6));
    result.rates = {rate::face, rate::vertex, rate::fragment};
    // The left buoy's far left, seen from the eye, looks away from both lights.
    const pixel_finder pixels(result.scene.view);
    const vec3<double> dark{-2.72, 0.0, 0.2};
    const pixel_finder::meeting met = pixels.on_plane(dark, unit(result.scene.view.eye - dark));
    const rgb<double> ambient = red.look.base * result.scene.ambient_color * result.scene.ambient_strength;
    for (const rate at : result.rates) {
        result.expectations.push_back({"the left buoy's dark side", "base · ambient: both lights are behind",
                                       at, met.x, met.y, ambient, ambient * (6 * u)});
    }
    result.known = {
        "where both lights are behind the surface: base · ambient, exactly",
        "the highlights are not tinted: specular · color · intensity · falloff, whatever the base",
        "per face every triangle has one colour; per vertex the colours of three corners are mixed"};
    derive(result, "u = 2^-24. base · ambient is three products, each rounded: 6u of it.");
    return result;
}

reference_scene bollard() {
    reference_scene result;
    result.name = "bollard";
    result.shows =
        "Two lamps on opposite sides, a wide highlight and ambient light add up to more than one: sums are "
        "not clamped on the way.";
    result.scene.title = "A bollard between two lamps";
    result.scene.view.eye = {0, 2.4, 3.2};
    result.scene.view.target = {0, 0.4, 0};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.ambient_color = {0.6, 0.7, 1.0};
    result.scene.ambient_strength = 0.15;
    named_material iron;
    iron.name = "iron";
    iron.look.base = {0.8, 0.78, 0.75};
    iron.look.specular = {0.5, 0.4, 0.3};
    iron.look.shininess = 2;
    iron.look.ambient = {1.0, 0.9, 0.8};
    iron.look.diffuse = {0.9, 1.0, 0.8};
    result.scene.materials.push_back(iron);
    object post;
    post.name = "bollard";
    post.shape = cylinder_shape{0.8, 1.2, {20, 2}};
    result.scene.objects.push_back(post);
    result.scene.lights.push_back(lamp_at("left lamp", {-2, 1.6, 0.3}, {1.0, 0.7, 0.4}, 7));
    result.scene.lights.push_back(lamp_at("right lamp", {2, 1.6, 0.3}, {0.5, 0.8, 1.0}, 7));
    result.rates = {rate::face, rate::vertex, rate::fragment};
    // On the level cap, h = 0.6, the normal is +Y and everything can be written out.
    const pixel_finder pixels(result.scene.view);
    const double top = 0.6;
    const vec3<double> n{0, 1, 0};
    for (const vec3<double>& place :
         {vec3<double>{0, top, 0}, vec3<double>{-0.4, top, 0.1}, vec3<double>{0.3, top, 0.3}}) {
        const pixel_finder::meeting met = pixels.on_plane(place, n);
        const vec3<double> v = unit(result.scene.view.eye - met.point);
        rgb<double> diffuse;
        rgb<double> specular;
        for (const named_light& lamp : result.scene.lights) {
            const vec3<double> whole = lamp.light.position - met.point;
            const double d = std::hypot(whole.x, whole.y, whole.z);
            const rgb<double> arriving = lamp.light.color * (lamp.light.intensity / (d * d));
            diffuse = diffuse + arriving * (whole.y / d);
            specular = specular + arriving * std::pow(unit(whole / d + v).y, iron.look.shininess);
        }
        const rgb<double> ambient =
            result.scene.ambient_color * result.scene.ambient_strength * iron.look.ambient;
        const rgb<double> color =
            (ambient + diffuse * iron.look.diffuse) * iron.look.base + specular * iron.look.specular;
        // Places are rounded by u × 5 m and 3 m over at least 1.7 m, with four powers of their distance in
        // the highlight's square as well; forty operations.
        result.expectations.push_back(
            {"on the cap at (" + in_metres(place.x) + ", " + in_metres(place.z) + ")",
             "both lamps' diffuse and specular with n = +Y, shininess 2, and ambient", rate::fragment, met.x,
             met.y, color, color * (u * (40 + 6 * 10 / 1.7))});
    }
    result.known = {"on the level cap n is +Y: base · (ambient + Σ E · (n·l)) + specular · Σ E · (n·h)²",
                    "there it is above 1, and stays so"};
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; relative to "
           "their distance d from each other that is multiplied by the powers of d in the formula (4, and 2 "
           "in the highlight's square); 40 operations: tolerance = color · u · (40 + 6 · 10 m / 1.7 m).");
    return result;
}

reference_scene line_up() {
    reference_scene result;
    result.name = "line-up";
    result.shows = "One bollard under each model, at each rate: what a model leaves out, and what it adds.";
    result.scene.title = "One bollard under each model";
    result.scene.view.eye = {0.6, 1.7, 3.4};
    result.scene.view.target = {0, 0, 0};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.ambient_strength = 0.08;
    named_material iron;
    iron.name = "iron";
    iron.look.base = {0.5, 0.55, 0.6};
    iron.look.specular = rgb<double>(0.7);
    iron.look.shininess = 18;
    iron.look.emission = {0.01, 0.02, 0.03};
    result.scene.materials.push_back(iron);
    object post;
    post.name = "bollard";
    post.shape = cylinder_shape{0.7, 1.1, {24, 3}};
    post.placed.rotation.z = radians(8);
    result.scene.objects.push_back(post);
    object ring;
    ring.name = "rope";
    ring.shape = torus_shape{0.75, 0.12, {28, 10}};
    ring.placed.position = {0, -0.2, 0};
    result.scene.objects.push_back(ring);
    result.scene.lights.push_back(moon_along({-1, -2, -1}, 0.5));
    result.scene.lights.push_back(lamp_at("lantern", {-1.6, 1.2, 1.8}, {1.0, 0.82, 0.55}, 2.5));
    result.models = {model_kind::unlit, model_kind::lambert, model_kind::phong, model_kind::blinn_phong,
                     model_kind::cel};
    result.rates = {rate::face, rate::vertex, rate::fragment};
    const pixel_finder pixels(result.scene.view);
    const pixel_finder::meeting met = pixels.on_plane({0, 0.3, 0.65}, {0, 0, 1});
    for (const rate at : result.rates) {
        expectation flat{"the bollard, unlit",    "base", at, met.x, met.y, iron.look.base,
                         iron.look.base * (2 * u)};
        flat.model = model_kind::unlit;
        result.expectations.push_back(flat);
    }
    result.known = {"unlit: base, everywhere", "lambert: phong and blinn-phong without their highlights",
                    "cel: bands of base, per fragment only"};
    derive(result, "u = 2^-24. One number, rounded: 2u of it.");
    return result;
}

reference_scene float_field() {
    reference_scene result;
    result.name = "float-field";
    result.shows = "An implicit buoy has its exact normal at every pixel; beside it, its mesh.";
    result.scene.title = "An implicit buoy beside its mesh";
    result.scene.view.eye = {0, 0.8, 6};
    result.scene.view.target = {0, -0.3, 0};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.shading.model = model_kind::lambert;
    result.scene.ambient_strength = 0.05;
    named_material cork;
    cork.name = "cork";
    cork.look.base = {0.8, 0.55, 0.3};
    result.scene.materials.push_back(cork);
    const vec3<double> centre{-1.15, 0, 0};
    object exact;
    exact.name = "implicit buoy";
    exact.shape = field_shape{};
    exact.placed.position = centre;
    result.scene.objects.push_back(exact);
    object faceted;
    faceted.name = "mesh buoy";
    faceted.shape = sphere_shape{1, {24, 12}};
    faceted.placed.position = {1.15, 0, 0};
    result.scene.objects.push_back(faceted);
    object hull;
    hull.name = "rounded hull";
    field_part keel;
    keel.kind = field_kind::capsule;
    keel.position = {-0.25, 0, 0};
    keel.radius = 0.25;
    keel.height = 0.8;
    field_part cabin;
    cabin.position = {0.3, 0.1, 0};
    cabin.radius = 0.4;
    hull.shape = field_shape{field{field_kind::smooth_union, {keel, cabin}, 0.2}};
    hull.placed.position = {0, -1.15, 0.8};
    hull.placed.rotation = {0, radians(25), radians(80)};
    result.scene.objects.push_back(hull);
    const named_light lantern = lamp_at("lantern", {0.4, 1.8, 2.2}, {1.0, 0.82, 0.55}, 4);
    result.scene.lights.push_back(lantern);
    result.rates = {rate::fragment};
    const pixel_finder pixels(result.scene.view);
    for (const vec3<double>& towards :
         {vec3<double>{0.2, 0.4, 1}, vec3<double>{0.6, 0.1, 0.7}, vec3<double>{-0.2, 0.7, 0.6}}) {
        const pixel_finder::meeting met = pixels.on_sphere(centre + unit(towards), centre, 1);
        const vec3<double> n = met.point - centre;
        const rgb<double> color = lit_diffusely({lantern}, met.point, n, cork.look.base,
                                                rgb<double>(result.scene.ambient_strength));
        // Places are rounded by u × 6 m and 4 m over at least 1.5 m, three powers and the cosine's slope;
        // thirty operations.
        result.expectations.push_back(
            {"the implicit buoy towards (" + in_metres(towards.x) + ", " + in_metres(towards.y) + ", " +
                 in_metres(towards.z) + ")",
             "where the ray meets the sphere n is the radius: base · (ambient + E · n·l)", rate::fragment,
             met.x, met.y, color, color * (u * (30 + 4 * 12 / 1.5)) + cork.look.base * (8 * u)});
    }
    result.known = {
        "on the implicit buoy the normal is the radius to where the ray meets it: closed form at every pixel",
        "on the mesh it is interpolated between vertices, over flat triangles"};
    derive(
        result,
        "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; relative to "
        "their distance d from each other that is multiplied by the powers of d in the formula (3) and with "
        "the cosine's slope; 30 operations: tolerance = color · u · (30 + 4 · 12 m / 1.5 m) + 8u · base.");
    return result;
}

reference_scene painted_hull() {
    reference_scene result;
    result.name = "painted-hull";
    result.shows =
        "Flat bands of one base colour by how much light falls on the surface, and a line where it "
        "turns away.";
    result.scene.title = "A hull in flat bands";
    result.scene.view.eye = {0.5, 1.2, 5};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.shading.model = model_kind::cel;
    result.scene.shading.cel.thresholds = {0.15, 0.45, 0.8};
    result.scene.shading.cel.bands = {
        rgb<double>(0.1), rgb<double>(0.35), {0.6, 0.65, 0.7}, rgb<double>(1.0)};
    result.scene.shading.cel.outline = 0.25;
    result.scene.shading.cel.outline_color = {0.02, 0.03, 0.06};
    named_material paint;
    paint.name = "hull paint";
    paint.look.base = {0.2, 0.45, 0.7};
    result.scene.materials.push_back(paint);
    const vec3<double> centre{-1.0, 0.2, 0};
    object bow;
    bow.name = "bow";
    bow.shape = field_shape{};
    bow.placed.position = centre;
    result.scene.objects.push_back(bow);
    object hull;
    hull.name = "hull";
    hull.shape = sphere_shape{1, {40, 20}};
    hull.placed.position = {1.3, -0.2, -0.3};
    hull.placed.scale = {1.3, 0.7, 0.8};
    hull.placed.rotation.y = radians(20);
    result.scene.objects.push_back(hull);
    result.scene.lights.push_back(moon_along({-1, -1.5, -1.2}, 1.1));
    const vec3<double> to_moon = unit({1, 1.5, 1.2});
    result.rates = {rate::fragment};
    const pixel_finder pixels(result.scene.view);
    // In the middle of each band, away from its borders; and on the line.
    for (const auto& [share, band] : {std::pair{0.05, 0}, {0.28, 1}, {0.55, 2}, {0.97, 3}}) {
        const double cosine = share / 1.1;
        // The radius that makes this angle with the moon's direction, turned towards the eye.
        const vec3<double> to_eye = unit(result.scene.view.eye - centre);
        const vec3<double> aside = unit(to_eye - to_moon * dot(to_eye, to_moon));
        const vec3<double> radius = to_moon * cosine + aside * std::sqrt(1 - cosine * cosine);
        const pixel_finder::meeting met = pixels.on_sphere(centre + radius, centre, 1);
        const rgb<double> color =
            paint.look.base * result.scene.shading.cel.bands[static_cast<std::size_t>(band)];
        result.expectations.push_back({"band " + std::to_string(band + 1),
                                       "base · band, for g = intensity · n·l = " + in_metres(share),
                                       rate::fragment, met.x, met.y, color, color * (3 * u)});
    }
    const vec3<double> to_eye = unit(result.scene.view.eye - centre);
    const vec3<double> sideways = unit(vec3<double>{-to_eye.z, 0, to_eye.x});
    const double grazing = 0.34; // n·v is about 0.15 where the ray meets it
    const pixel_finder::meeting met =
        pixels.on_sphere(centre + sideways * std::sqrt(1 - grazing * grazing) + to_eye * grazing, centre, 1);
    result.expectations.push_back({"on the line", "outline_color, where n·v < outline", rate::fragment, met.x,
                                   met.y, result.scene.shading.cel.outline_color,
                                   result.scene.shading.cel.outline_color * u});
    result.known = {
        "four colours, base · band, the outline's and the background's: nothing in between",
        "the band is the number of thresholds that are ≤ g = clamp(Σ max(n·l, 0) · intensity, 0, 1)",
        "light colour, ambient, specular and emission play no part"};
    derive(result,
           "u = 2^-24. One product of two rounded numbers: 3u of it. The gradient lies away from every "
           "threshold.");
    return result;
}

reference_scene many_lanterns() {
    reference_scene result;
    result.name = "many-lanterns";
    result.shows =
        "Sixty-four lanterns over the quay: each adds its own light, those out of reach exactly nothing.";
    result.scene.title = "Sixty-four lanterns";
    result.scene.view.eye = {0, 7, 8};
    result.scene.view.background = {0.004, 0.006, 0.012};
    result.scene.shading.model = model_kind::lambert;
    result.scene.ambient_strength = 0.02;
    named_material stone;
    stone.name = "stone";
    stone.look.base = {0.6, 0.6, 0.6};
    result.scene.materials.push_back(stone);
    object quay;
    quay.name = "quay";
    quay.shape = plane_shape{{9, 9}, {6, 6}};
    result.scene.objects.push_back(quay);
    for (int i = 0; i < 64; ++i) {
        const int row = i / 8;
        const double x = -3.5 + i % 8;
        const double z = -3.5 + row;
        named_light lantern =
            lamp_at("", {x, 0.4 + 0.05 * (i % 5), z}, {1.0, 0.6 + 0.05 * (i % 8), 0.3 + 0.08 * row}, 0.25);
        lantern.light.falloff = i % 2 == 0 ? falloff_kind::windowed : falloff_kind::linear;
        lantern.light.range = 1.6;
        result.scene.lights.push_back(lantern);
    }
    result.rates = {rate::face, rate::vertex, rate::fragment};
    const pixel_finder pixels(result.scene.view);
    for (const vec3<double>& place :
         {vec3<double>{0, 0, 0}, vec3<double>{-2.3, 0, 1.4}, vec3<double>{3.1, 0, -2.2}}) {
        const pixel_finder::meeting met = pixels.on_plane(place, {0, 1, 0});
        rgb<double> sum(result.scene.ambient_strength);
        for (const named_light& lamp : result.scene.lights) {
            const vec3<double> whole = lamp.light.position - met.point;
            const double d = std::hypot(whole.x, whole.y, whole.z);
            const double left = std::max(0.0, 1 - d / lamp.light.range);
            const double window = std::max(0.0, 1 - std::pow(d / lamp.light.range, 4));
            const double falloff = lamp.light.falloff == falloff_kind::linear ? left : window / (d * d);
            sum = sum + lamp.light.color * (lamp.light.intensity * falloff * whole.y / d);
        }
        // Places are rounded by u × 11 m each over at least 0.4 m, three powers and the window's slope; the
        // lanterns within reach are fewer than twenty.
        result.expectations.push_back(
            {"the quay at (" + in_metres(place.x) + ", " + in_metres(place.z) + ")",
             "base · (ambient + Σ color · intensity · falloff(d) · n·l) over 64 lanterns", rate::fragment,
             met.x, met.y, sum * stone.look.base, sum * stone.look.base * (u * (60 + 6 * 22 / 0.4))});
    }
    result.known = {"each pixel is the sum over the lanterns within 1.6 m of it",
                    "a lantern farther away adds exactly 0"};
    derive(result,
           "u = 2^-24. Lit point and light are each rounded by u × their distance from the eye; "
           "relative to their distance d from each other that is multiplied by the powers of d in the "
           "formula (3) and with the window's slope; fewer than twenty lanterns are near: tolerance = "
           "color · u · (60 + 6 · 22 m / 0.4 m).");
    return result;
}

} // namespace yurvo::inline v0_1::verify
