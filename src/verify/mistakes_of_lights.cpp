// The catalogue's mistakes about falloff, cones, terms and lights: each one descriptor, with its texts, where
// it applies and which reference scenes reveal it.
#include "verify/mistake_list.hpp"

namespace yurvo::verify {

using enum mistake;
using facts = scene_facts;

std::vector<mistake_entry> mistakes_of_lights() {
    return {
        {falloff_missing,
         "falloff-missing",
         "The light does not fall off with distance.",
         "Far things are as bright as near ones; a lantern lights the whole quay.",
         "The factor was worked out but not multiplied in, or never worked out.",
         "E = color · intensity · falloff(d) · penumbra(θ)",
         "point and spot lights with a falloff",
         [](const facts& s) {
             return s.lit && s.any_light([&](const named_light& a_light) { return s.has_falloff(a_light); });
         },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "foggy-quay", "lamp-parts",
          "lantern-quay", "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up",
          "many-lanterns", "moorings", "paint-by-formula", "penumbras", "searchlight"}},
        {falloff_after_normalize,
         "falloff-after-normalize",
         "The distance is measured on the normalised vector, and is always 1.",
         "No falloff: the same brightness near and far.",
         "to_light = normalize(to_light) came before d = length(to_light).",
         "d = length(light.position − position) first, then l = (light.position − position) / d",
         "point and spot lights with a falloff",
         [](const facts& s) {
             return s.lit && s.any_light([&](const named_light& a_light) {
                 return s.has_falloff(a_light) || (placed(a_light) && s.asks(formulas::input::d));
             });
         },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "foggy-quay", "lamp-parts",
          "lantern-quay", "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up",
          "many-lanterns", "moorings", "paint-by-formula", "penumbras", "searchlight"}},
        {falloff_not_squared,
         "falloff-not-squared",
         "d stands where d² belongs.",
         "Too dark close to the light, too bright farther away: light reaches much too far.",
         "length() instead of dot(x, x), or a square that was forgotten.",
         "falloff = 1 / dot(to_light, to_light)",
         "falloffs inverse-square, polynomial and windowed",
         [](const facts& s) {
             return s.lit && !s.replaced(formulas::slot::falloff) &&
                    s.any_light([](const named_light& a_light) {
                        return placed(a_light) && (a_light.light.falloff == falloff_kind::inverse_square ||
                                                   a_light.light.falloff == falloff_kind::windowed ||
                                                   (a_light.light.falloff == falloff_kind::polynomial &&
                                                    a_light.light.coefficients[2] > 0));
                    });
         },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "lamp-parts", "lantern-quay",
          "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
          "moorings", "penumbras", "searchlight"}},
        {falloff_on_directional,
         "falloff-on-directional",
         "A directional light is treated as one at the place −shines.",
         "The moon becomes a lamp close to the origin: a bright spot there, darkness away from it.",
         "One code path for all kinds, and the direction stored where positions are.",
         "directional: l = −normalize(shines), falloff 1",
         "directional lights",
         [](const facts& s) { return s.lit && s.any_light(directional); },
         {"boatyard", "buoys", "buoys-phong", "lamp-parts", "line-up", "moon-crates", "moorings",
          "paint-by-formula", "painted-hull", "plates", "slipway"}},
        {cone_angle_in_degrees,
         "cone-angle-in-degrees",
         "Cosines are taken of angles in degrees as if they were radians.",
         "The cone's width has nothing to do with its angle: all lit, or nothing, or somewhere between.",
         "cos(25.0) instead of cos(radians(25.0)).",
         "cos outer = cos(radians(outer))",
         "spot lights",
         [](const facts& s) { return s.lit && s.any_light(spot); },
         {"boatyard", "foggy-quay", "lamp-parts", "paint-by-formula", "penumbras", "searchlight"}},
        {cone_full_angle,
         "cone-full-angle",
         "The half-angles are taken as full ones: the cone is half as wide.",
         "The lit circle is too small.",
         "Half-angle or full angle: the two conventions were mixed.",
         "`inner` and `outer` are measured from the axis: cos outer = cos(outer), not cos(outer / 2)",
         "spot lights",
         [](const facts& s) { return s.lit && s.any_light(spot); },
         {"boatyard", "foggy-quay", "lamp-parts", "paint-by-formula", "penumbras", "searchlight"}},
        {cone_inner_outer_swapped,
         "cone-inner-outer-swapped",
         "The inner and the outer angle are exchanged in the penumbra's formula.",
         "The cone is dark inside and everything outside it is lit.",
         "smoothstep(cos inner, cos outer, cos θ): the greater cosine belongs to the inner angle.",
         "t = clamp((cos θ − cos outer) / (cos inner − cos outer), 0, 1)",
         "spot lights with penumbra ramp, squared or smooth",
         [](const facts& s) {
             return s.lit && !s.replaced(formulas::slot::penumbra) &&
                    s.any_light([](const named_light& a_light) {
                        return spot(a_light) && a_light.light.inner != a_light.light.outer &&
                               a_light.light.penumbra != penumbra_kind::hard &&
                               a_light.light.penumbra != penumbra_kind::power;
                    });
         },
         {"boatyard", "lamp-parts", "penumbras", "searchlight"}},
        {cone_axis_flipped,
         "cone-axis-flipped",
         "The cone opens backwards.",
         "The spot's own circle is dark; what lies behind the lamp is lit.",
         "dot(l, shines) without the sign: l points to the light, `shines` away from it.",
         "cos θ = −dot(l, normalize(shines))",
         "spot lights",
         [](const facts& s) { return s.lit && s.any_light(spot); },
         {"boatyard", "foggy-quay", "lamp-parts", "paint-by-formula", "penumbras", "searchlight"}},
        {cosine_not_clamped,
         "cosine-not-clamped",
         "A negative n·l is kept: diffuse subtracts light.",
         "Sides that face away are darker than the ambient light leaves them, and eat the light of other "
         "lamps.",
         "dot(n, l) without max(…, 0).",
         "diffuse = E · max(dot(n, l), 0) · material.diffuse · base",
         "everywhere but `unlit`, with a light",
         [](const facts& s) { return !s.own && s.lit && !s.replaced(formulas::slot::diffuse); },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "line-up", "moorings", "plates"}},
        {specular_on_unlit_side,
         "specular-on-unlit-side",
         "The highlight has no gate: it shows where the light is behind the surface.",
         "A crescent of light on the side that faces away.",
         "Nothing asks whether n·l > 0.",
         "specular only where dot(n, l) > 0",
         "models with specular",
         [](const facts& s) {
             return s.highlight_of(model_kind::phong) || s.highlight_of(model_kind::blinn_phong);
         },
         {"behind-the-wall", "bollard"}},
        {specular_reflect_flipped,
         "specular-reflect-flipped",
         "r = l − 2(n·l)n: it points into the surface.",
         "No highlight where one belongs.",
         "reflect(l, n) expects the vector that arrives, −l, and was given l.",
         "r = 2·dot(n, l)·n − l, which is reflect(−l, n)",
         "model phong",
         [](const facts& s) {
             return !s.replaced(formulas::slot::r) &&
                    (s.highlight_of(model_kind::phong) || (s.lit && s.asks(formulas::input::r)));
         },
         {"buoys-phong", "line-up", "moorings"}},
        {specular_half_for_reflect,
         "specular-half-for-reflect",
         "n·h stands where r·v belongs.",
         "Highlights are about twice as wide as they should be.",
         "The two models were mixed, and the shininess was kept.",
         "specular = E · material.specular · "
         "max(dot(r, v), 0)^shininess",
         "model phong",
         [](const facts& s) { return s.highlight_of(model_kind::phong); },
         {"buoys-phong", "line-up", "moorings"}},
        {specular_tinted_by_base,
         "specular-tinted-by-base",
         "Specular is multiplied by the base colour.",
         "Highlights have the surface's colour instead of the light's.",
         "(ambient + diffuse + specular) · base: the bracket closes too late.",
         "(ambient + diffuse) · base + specular",
         "models with specular",
         [](const facts& s) { return s.specular; },
         {"bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "line-up", "moorings",
          "paint-by-formula"}},
        {specular_without_falloff,
         "specular-without-falloff",
         "Specular has neither falloff nor penumbra.",
         "Highlights far from the lamp, or outside its cone, are as bright as near ones.",
         "The factor was multiplied into diffuse alone.",
         "specular = E · …, with E = color · intensity · falloff · penumbra",
         "models with specular under point and spot lights",
         [](const facts& s) { return s.specular && s.any_light(placed); },
         {"bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "line-up", "moorings",
          "paint-by-formula"}},
        {specular_times_cosine,
         "specular-times-cosine",
         "Specular is multiplied by n·l.",
         "Highlights fade towards grazing light.",
         "E · max(n·l, 0) was worked out once and used for both terms.",
         "specular = E · material.specular · highlight, without n·l",
         "models with specular",
         [](const facts& s) { return s.specular; },
         {"bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "line-up"}},
        {factor_pi,
         "factor-pi",
         "Diffuse is divided by π.",
         "Diffuse light is about a third as bright as it should be.",
         "A physical convention in one place, and intensities meant for the other in the scene.",
         "diffuse = E · max(n·l, 0) · material.diffuse · base",
         "models with diffuse",
         [](const facts& s) { return s.lit && s.terms; },
         {"boatyard",
          "bollard",
          "buoys",
          "buoys-phong",
          "float-field",
          "foggy-quay",
          "lamp-parts",
          "lantern-quay",
          "lantern-quay-cells",
          "lantern-quay-inverse-square",
          "lantern-row",
          "line-up",
          "many-lanterns",
          "moon-crates",
          "moorings",
          "paint-by-formula",
          "penumbras",
          "plates",
          "searchlight",
          "slipway"}},
        {ambient_missing,
         "ambient-missing",
         "There is no ambient term.",
         "What no light reaches is black.",
         "The uniform was never set, or the term never added.",
         "color = ambient.color · ambient.strength · material.ambient · base + …",
         "models with ambient, ambient light above 0",
         [](const facts& s) {
             return s.terms && (s.of.ambient_strength > 0 || (s.lit && s.any_light(with_ambient)));
         },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "foggy-quay", "lamp-parts",
          "lantern-quay", "lantern-quay-cells", "lantern-quay-inverse-square", "line-up", "many-lanterns",
          "moon-crates", "moorings", "paint-by-formula", "plates"}},
        {ambient_per_light,
         "ambient-per-light",
         "The ambient term is added once for each light.",
         "Shadowed sides are too bright, the more the more lights there are.",
         "The term stands inside the loop over the lights.",
         "Add ambient once, outside the loop",
         "models with ambient; any number of lights but one",
         [](const facts& s) { return s.terms && s.of.ambient_strength > 0 && s.of.lights.size() != 1; },
         {"boatyard", "bollard", "buoys", "buoys-phong", "foggy-quay", "line-up", "many-lanterns", "moorings",
          "paint-by-formula"}},
        {ambient_without_falloff,
         "ambient-without-falloff",
         "A light's ambient part has neither falloff nor penumbra.",
         "A lantern brightens the whole quay a little, also far beyond its reach.",
         "The attenuation was multiplied into the diffuse and the specular part only.",
         "ambient part = color · intensity · part.ambient · falloff(d) · penumbra(θ)",
         "point and spot lights with an ambient part that falls off",
         [](const facts& s) {
             return s.terms && s.lit && s.any_light([&](const named_light& a_light) {
                 const light& lamp = a_light.light;
                 const bool by_angle = lamp.kind == light_kind::spot && lamp.follows == ambient_follows::cone;
                 return with_ambient(a_light) && placed(a_light) &&
                        lamp.follows != ambient_follows::nothing && (by_angle || s.has_falloff(a_light));
             });
         },
         {"foggy-quay", "lamp-parts"}},
        {parts_ignored,
         "parts-ignored",
         "Every light's parts are taken for 0, 1 and 1.",
         "Highlights have the colour of the diffuse light, and the light that lamps spread around them is "
         "gone.",
         "Only the light's colour reaches the shader; its ambient, diffuse and specular colours do not.",
         "diffuse = E · part.diffuse · max(n·l, 0), specular = E · part.specular · highlight",
         "lights with parts of their own",
         [](const facts& s) {
             return s.terms && s.lit && s.any_light([&](const named_light& a_light) {
                 const light& lamp = a_light.light;
                 return with_ambient(a_light) || lamp.diffuse != rgb<double>(1.0) ||
                        (s.specular && lamp.specular != rgb<double>(1.0));
             });
         },
         {"lamp-parts"}},
        {viewer_at_infinity,
         "viewer-at-infinity",
         "v is the view's axis everywhere.",
         "Highlights lie too far from the middle of the picture; in its middle they are right.",
         "v = (0, 0, 1) in view space, which is right only for a viewer infinitely far away.",
         "v = normalize(view.eye − position); in view space normalize(−position)",
         "models with specular; the outline of cel",
         [](const facts& s) { return s.own_eye(); },
         {"bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "line-up", "moorings",
          "painted-hull"}},
        {clamp_per_light,
         "clamp-per-light",
         "E · max(n·l, 0) is clamped to 1 for each light.",
         "Close to a lamp the light is flat, without its bright centre.",
         "saturate() or clamp() around each light's share.",
         "Sum all lights unclamped; clamp once, at the output",
         "models with diffuse; light above 1",
         [](const facts& s) { return s.lit && s.terms; },
         {"bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "lantern-quay", "lantern-quay-cells",
          "lantern-quay-inverse-square", "many-lanterns"}},
        {light_color_ignored,
         "light-color-ignored",
         "Every light is white.",
         "The lantern's warm light is gone.",
         "Only the intensity was uploaded.",
         "E = light.color · light.intensity · …",
         "coloured lights",
         [](const facts& s) {
             return s.lit && s.terms && s.any_light([](const named_light& a_light) {
                 return a_light.light.color != rgb<double>(1.0);
             });
         },
         {"boatyard", "bollard", "buoys", "buoys-phong", "float-field", "foggy-quay", "lantern-quay",
          "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
          "moon-crates", "moorings", "paint-by-formula", "searchlight"}},
        {single_light_only,
         "single-light-only",
         "Only the first light counts.",
         "All lamps but one are out.",
         "The loop ends after one, the count was never set, or a sum is assigned instead of added.",
         "sum += … for every i < count",
         "two lights or more",
         [](const facts& s) { return s.lit && s.of.lights.size() > 1; },
         {"boatyard", "bollard", "buoys", "buoys-phong", "foggy-quay", "lamp-parts", "line-up",
          "many-lanterns", "moorings", "paint-by-formula", "penumbras"}},
    };
}

} // namespace yurvo::verify
