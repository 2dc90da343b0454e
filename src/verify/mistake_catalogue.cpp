#include <algorithm>

#include "yurvo/verify/mistakes.hpp"

namespace yurvo::verify {

namespace {

using enum mistake;

const std::vector<mistake_entry> catalogue{
    {normal_not_renormalized, "normal-not-renormalized",
     "The interpolated normal is used at whatever length it has.",
     "Coarse meshes look darker in the middle of each triangle than at its corners, and highlights break up "
     "into small dull spots.",
     "The vertex stage hands on unit normals; between them the blend is a chord, shorter than the arc, and "
     "nobody makes it unit length again.",
     "n = normalize(interpolated normal), first thing at each fragment", "rate fragment; meshes"},
    {normal_as_point, "normal-as-point",
     "The normal is moved by the object's matrix with w = 1, so that the translation is added to it.",
     "Objects away from the origin are lit as if they faced where they stand; near the origin all looks "
     "well.",
     "The same vec4(…, 1) and the same matrix as for the position were used.",
     "n = normalize(mat3(inverse transpose of object.to_world) · normal); a direction has w = 0",
     "rates vertex and fragment"},
    {normal_without_inverse_transpose, "normal-without-inverse-transpose",
     "The normal is moved by the object's matrix itself.",
     "Unevenly scaled objects have their light slide towards the stretched side; evenly scaled ones look "
     "well.",
     "mat3(object.to_world) is right for rotations, and stays in the code when a scale comes.",
     "n = normalize(mat3(transpose(inverse(object.to_world))) · normal)", "rates vertex and fragment"},
    {normal_in_object_space, "normal-in-object-space", "The normal is not moved at all.",
     "Turn the object and its lit side turns with it, as if painted on.",
     "The attribute goes straight to the fragment stage.", "n = normalize(object.normal_to_world · normal)",
     "rates vertex and fragment"},
    {normal_in_view_space, "normal-in-view-space",
     "The normal is moved to view space, and meets vectors in world space.",
     "The lit side follows the camera when it walks around.",
     "The normal matrix was made from view · object, the light's position was left in world space.",
     "Keep all in one space: object.normal_to_world with world positions, or object.normal_to_view with "
     "positions in view space",
     "rates vertex and fragment"},
    {normal_shared_corners, "normal-shared-corners",
     "Vertices at one place share one normal, as if every edge were smooth.",
     "A crate is shaded like a pillow: light runs over its edges, and no face is evenly lit.",
     "A box has 8 corners, so 8 vertices were made; it needs 24.",
     "One vertex for each face that meets at a hard corner, each with its own face's normal",
     "rates vertex and fragment; meshes with hard edges"},
    {normal_flipped, "normal-flipped", "The normal points inwards.",
     "What should be lit is dark, and the far side's light shines on the near one.",
     "Triangles wound the other way round, a cross product with its factors exchanged, or a mirrored matrix.",
     "n = −n, or cross(b − a, c − a) for counter-clockwise corners a, b, c", "everywhere but `unlit`"},
    {light_direction_flipped, "light-direction-flipped",
     "The vector to the light is negated in diffuse and specular.",
     "The sides that face away from the light are lit.",
     "position − light.position instead of light.position − position; or `shines` used where −shines "
     "belongs.",
     "l = normalize(light.position − position); directional: l = −normalize(shines)",
     "everywhere but `unlit`, with a light"},
    {to_light_not_normalized, "to-light-not-normalized",
     "Diffuse and specular use the whole vector to a point or spot light.",
     "Light gets brighter with distance, or falls off too slowly; highlights are far too wide.",
     "The vector was measured for the falloff and normalised nowhere.",
     "l = (light.position − position) / d, d = length(light.position − position)", "point and spot lights"},
    {to_light_normalized_per_vertex, "to-light-normalized-per-vertex",
     "The unit vector to the light is worked out at the vertices, interpolated, and not made unit again.",
     "Large triangles with a light nearby are too dark between their corners.",
     "The vector was moved to the vertex stage to save work.",
     "Interpolate the position; at each fragment l = normalize(light.position − position)",
     "rate fragment; meshes under point and spot lights"},
    {shines_not_normalized, "shines-not-normalized",
     "The cone's cosine and a directional light's vector use `shines` at its given length.",
     "A spot's cone is too wide or too narrow, a directional light too bright or too dark, by how long the "
     "vector happens to be.",
     "The direction in the file was unit length when it was tested.",
     "cos θ = −dot(l, normalize(shines)); directional: l = −normalize(shines)",
     "directional and spot lights whose `shines` is not unit length"},
    {half_not_normalized, "half-not-normalized", "h = (l + v) / 2.",
     "Highlights are too small and too dull, the more the flatter the light falls in.",
     "The half vector was taken for an average.", "h = normalize(l + v)", "model blinn-phong"},
    {eye_vector_flipped, "eye-vector-flipped", "The vector to the eye is negated.",
     "No highlight where one belongs; often one on the far side, along the border.",
     "position − eye instead of eye − position.", "v = normalize(eye − position)",
     "models with specular; the outline of cel"},
    {specular_eye_at_origin, "specular-eye-at-origin", "The eye is taken to be at the world's origin.",
     "Highlights sit in the wrong place and stay there when the eye walks.",
     "normalize(−position) is right in view space, and was used with positions in world space.",
     "v = normalize(view.eye − position) in world space; normalize(−position) only in view space",
     "models with specular; the outline of cel"},
    {position_in_object_space, "position-in-object-space",
     "Vectors to light and eye start from the untransformed position.",
     "Every object is lit as if it stood at the origin.",
     "The attribute itself was handed on to the fragment stage.",
     "position = (object.to_world · vec4(attribute, 1)).xyz", "point and spot lights, and highlights"},
    {matrix_transposed, "matrix-transposed",
     "For lighting, points and normals are moved by the transpose of the object's matrix.",
     "A turned object is lit as if it were turned the other way round.",
     "Rows and columns: the matrix was uploaded row by row and read column by column, or multiplied from the "
     "wrong side.",
     "world = object.to_world · point, with the matrix stored column by column (or transposed when uploaded)",
     "turned objects"},
    {falloff_missing, "falloff-missing", "The light does not fall off with distance.",
     "Far things are as bright as near ones; a lantern lights the whole quay.",
     "The factor was worked out but not multiplied in, or never worked out.",
     "E = color · intensity · falloff(d) · penumbra(θ)", "point and spot lights with a falloff"},
    {falloff_after_normalize, "falloff-after-normalize",
     "The distance is measured on the normalised vector, and is always 1.",
     "No falloff: the same brightness near and far.",
     "to_light = normalize(to_light) came before d = length(to_light).",
     "d = length(light.position − position) first, then l = (light.position − position) / d",
     "point and spot lights with a falloff"},
    {falloff_not_squared, "falloff-not-squared", "d stands where d² belongs.",
     "Too dark close to the light, too bright farther away: light reaches much too far.",
     "length() instead of dot(x, x), or a square that was forgotten.",
     "falloff = 1 / dot(to_light, to_light)", "falloffs inverse-square, polynomial and windowed"},
    {falloff_on_directional, "falloff-on-directional",
     "A directional light is treated as one at the place −shines.",
     "The moon becomes a lamp close to the origin: a bright spot there, darkness away from it.",
     "One code path for all kinds, and the direction stored where positions are.",
     "directional: l = −normalize(shines), falloff 1", "directional lights"},
    {cone_angle_in_degrees, "cone-angle-in-degrees",
     "Cosines are taken of angles in degrees as if they were radians.",
     "The cone's width has nothing to do with its angle: all lit, or nothing, or somewhere between.",
     "cos(25.0) instead of cos(radians(25.0)).", "cos outer = cos(radians(outer))", "spot lights"},
    {cone_full_angle, "cone-full-angle", "The half-angles are taken as full ones: the cone is half as wide.",
     "The lit circle is too small.", "Half-angle or full angle: the two conventions were mixed.",
     "`inner` and `outer` are measured from the axis: cos outer = cos(outer), not cos(outer / 2)",
     "spot lights"},
    {cone_inner_outer_swapped, "cone-inner-outer-swapped",
     "The inner and the outer angle are exchanged in the penumbra's formula.",
     "The cone is dark inside and everything outside it is lit.",
     "smoothstep(cos inner, cos outer, cos θ): the greater cosine belongs to the inner angle.",
     "t = clamp((cos θ − cos outer) / (cos inner − cos outer), 0, 1)",
     "spot lights with penumbra ramp, squared or smooth"},
    {cone_axis_flipped, "cone-axis-flipped", "The cone opens backwards.",
     "The spot's own circle is dark; what lies behind the lamp is lit.",
     "dot(l, shines) without the sign: l points to the light, `shines` away from it.",
     "cos θ = −dot(l, normalize(shines))", "spot lights"},
    {cosine_not_clamped, "cosine-not-clamped", "A negative n·l is kept: diffuse subtracts light.",
     "Sides that face away are darker than the ambient light leaves them, and eat the light of other lamps.",
     "dot(n, l) without max(…, 0).", "diffuse = E · max(dot(n, l), 0) · material.diffuse · base",
     "everywhere but `unlit`, with a light"},
    {specular_on_unlit_side, "specular-on-unlit-side",
     "The highlight has no gate: it shows where the light is behind the surface.",
     "A crescent of light on the side that faces away.", "Nothing asks whether n·l > 0.",
     "specular only where dot(n, l) > 0", "models with specular"},
    {specular_reflect_flipped, "specular-reflect-flipped", "r = l − 2(n·l)n: it points into the surface.",
     "No highlight where one belongs.", "reflect(l, n) expects the vector that arrives, −l, and was given l.",
     "r = 2·dot(n, l)·n − l, which is reflect(−l, n)", "model phong"},
    {specular_half_for_reflect, "specular-half-for-reflect", "n·h stands where r·v belongs.",
     "Highlights are about twice as wide as they should be.",
     "The two models were mixed, and the shininess was kept.",
     "specular = E · material.specular · "
     "max(dot(r, v), 0)^shininess",
     "model phong"},
    {specular_tinted_by_base, "specular-tinted-by-base", "Specular is multiplied by the base colour.",
     "Highlights have the surface's colour instead of the light's.",
     "(ambient + diffuse + specular) · base: the bracket closes too late.",
     "(ambient + diffuse) · base + specular", "models with specular"},
    {specular_without_falloff, "specular-without-falloff", "Specular has neither falloff nor penumbra.",
     "Highlights far from the lamp, or outside its cone, are as bright as near ones.",
     "The factor was multiplied into diffuse alone.",
     "specular = E · …, with E = color · intensity · falloff · penumbra",
     "models with specular under point and spot lights"},
    {specular_times_cosine, "specular-times-cosine", "Specular is multiplied by n·l.",
     "Highlights fade towards grazing light.", "E · max(n·l, 0) was worked out once and used for both terms.",
     "specular = E · material.specular · highlight, without n·l", "models with specular"},
    {factor_pi, "factor-pi", "Diffuse is divided by π.",
     "Diffuse light is about a third as bright as it should be.",
     "A physical convention in one place, and intensities meant for the other in the scene.",
     "diffuse = E · max(n·l, 0) · material.diffuse · base", "models with diffuse"},
    {ambient_missing, "ambient-missing", "There is no ambient term.", "What no light reaches is black.",
     "The uniform was never set, or the term never added.",
     "color = ambient.color · ambient.strength · material.ambient · base + …",
     "models with ambient, ambient light above 0"},
    {ambient_per_light, "ambient-per-light", "The ambient term is added once for each light.",
     "Shadowed sides are too bright, the more the more lights there are.",
     "The term stands inside the loop over the lights.", "Add ambient once, outside the loop",
     "models with ambient; any number of lights but one"},
    {clamp_per_light, "clamp-per-light", "E · max(n·l, 0) is clamped to 1 for each light.",
     "Close to a lamp the light is flat, without its bright centre.",
     "saturate() or clamp() around each light's share.",
     "Sum all lights unclamped; clamp once, at the output", "models with diffuse; light above 1"},
    {light_color_ignored, "light-color-ignored", "Every light is white.", "The lantern's warm light is gone.",
     "Only the intensity was uploaded.", "E = light.color · light.intensity · …", "coloured lights"},
    {single_light_only, "single-light-only", "Only the first light counts.", "All lamps but one are out.",
     "The loop ends after one, the count was never set, or a sum is assigned instead of added.",
     "sum += … for every i < count", "two lights or more"},
    {rate_vertex_for_fragment, "rate-vertex-for-fragment",
     "The model is evaluated at the vertices and the colour interpolated.",
     "Highlights follow the triangles; a lamp over the middle of a big one lights nothing.",
     "The formula is in the vertex stage.", "Interpolate position and normal; light at each fragment",
     "rate fragment, without fields or cel"},
    {rate_face_for_fragment, "rate-face-for-fragment", "The model is evaluated once for each triangle.",
     "Facets, each of one colour.", "Flat interpolation, or a normal from the triangle's corners.",
     "Interpolate position and normal; light at each fragment", "rate fragment, without fields or cel"},
    {interpolation_affine, "interpolation-affine",
     "Attributes are interpolated on the screen, without the division by depth.",
     "Textures and light swim and bend on triangles that reach into the distance.",
     "Weights on the screen were used as they are.", "a = (Σ wᵢ·aᵢ/zᵢ) / (Σ wᵢ/zᵢ)",
     "meshes seen at a slant"},
    {light_moves_with_object, "light-moves-with-object", "Lights are moved by each object's matrix.",
     "Each object has its own lamp that goes where it goes.",
     "The light's position was multiplied by the same matrix as the vertices.",
     "Positions of lights are in world space already; at most the view's matrix moves them",
     "placed objects, with a light"},
    {light_moves_with_eye, "light-moves-with-eye",
     "Lights given in world space are taken to be in view space.", "The light walks with the camera.",
     "Positions went to a shader that works in view space without having been moved there.",
     "light in view space = view.world_to_view · light in world space", "lights given in world space"},
    {encode_missing, "encode-missing", "The sRGB curve is left out.",
     "The picture is too dark, most of all its half tones; shadows are black.",
     "Linear values were written as codes.", "code = round(255 · sRGB(clamp(c, 0, 1)))",
     "every picture of codes"},
    {encode_twice, "encode-twice", "The sRGB curve is applied twice.", "The picture is pale and flat.",
     "The shader encodes, and so does the framebuffer or the file writer.",
     "Encode once: in the shader or in the target, not in both", "every picture of codes"},
    {texture_not_decoded, "texture-not-decoded", "Texels are used as if they were linear.",
     "Textures look pale, and too bright.", "The texture was not marked as sRGB.",
     "linear = decode(texel), or a texture format that decodes", "textured materials"},
    {output_wraps, "output-wraps", "Codes are taken modulo 256 where they should be clamped.",
     "The brightest places turn dark, in odd colours.", "A float was cast to a byte without a clamp.",
     "code = round(255 · clamp(c, 0, 1))", "colours above 1"},
    {alpha_lit, "alpha-lit", "Alpha is multiplied by the light.", "Dark sides turn transparent.",
     "The light multiplies all four components.", "vec4(light · base.rgb, base.a)",
     "models with light, rate and picture any; alpha is compared too"},
    {channels_swapped, "channels-swapped", "Red and blue are exchanged.", "Warm light is cold.",
     "BGR in memory, RGB in the file.", "Write the components in the order r, g, b", "coloured pictures"},
    {picture_upside_down, "picture-upside-down", "The rows are reversed.", "Upside down.",
     "Row 0 is the lowest one where the picture came from, and the highest in the file.",
     "Write row height − 1 − y", "every picture"},
    {depth_test_missing, "depth-test-missing", "The last drawn wins.",
     "Things behind are drawn over things in front; far sides show through.",
     "The depth test is off, or there is no depth buffer.", "Turn the depth test on: the nearest wins",
     "surfaces that cover others"},
    {depth_test_reversed, "depth-test-reversed", "The farthest wins.",
     "One looks into objects from behind: far sides cover near ones.",
     "Greater for less, or a depth that grows the other way.", "The least depth wins",
     "surfaces that cover others"},
    {block_padding_missed, "block-padding-missed",
     "Lights are written as packed {vec3 position; vec3 color} and read as std140.",
     "The first light stands right, its colour is the next numbers in memory; every light after it is wrong.",
     "A vec3 in a uniform block begins at a multiple of 16 bytes; in memory it takes 12.",
     "Pad each vec3 to 16 bytes: alignas(16)", "everywhere but `unlit`, with a light"},
};

} // namespace

const std::vector<mistake_entry>& all_mistakes() { return catalogue; }

const mistake_entry& entry_of(mistake which) { return catalogue[static_cast<std::size_t>(which)]; }

const mistake_entry* find_mistake(std::string_view id) {
    const auto found = std::find_if(catalogue.begin(), catalogue.end(),
                                    [&](const mistake_entry& one) { return one.id == id; });
    return found == catalogue.end() ? nullptr : &*found;
}

bool is_of_output(mistake which) {
    return is_of_codes(which) || which == channels_swapped || which == picture_upside_down;
}

bool is_of_codes(mistake which) {
    return which == encode_missing || which == encode_twice || which == output_wraps;
}

bool applies(mistake which, const scene& to) {
    const model_kind model = to.shading.model;
    const bool lit = model != model_kind::unlit && !to.lights.empty();
    const bool terms = model != model_kind::unlit && model != model_kind::cel;
    const bool specular = terms && model != model_kind::lambert && !to.lights.empty();
    const bool looks_at_eye = specular || model == model_kind::cel;
    const bool fragment = to.shading.rate == rate::fragment;
    const auto light = [&](auto&& is) {
        return std::any_of(to.lights.begin(), to.lights.end(),
                           [&](const named_light& one) { return is(one); });
    };
    const auto material = [&](auto&& is) {
        return std::any_of(to.materials.begin(), to.materials.end(), is);
    };
    const auto object = [&](auto&& is) { return std::any_of(to.objects.begin(), to.objects.end(), is); };
    const auto is_field = [](const yurvo::object& one) {
        return std::holds_alternative<field_shape>(one.shape);
    };
    const bool meshes = object([&](const yurvo::object& one) { return !is_field(one); });
    const bool fields = object(is_field);
    const auto placed = [](const named_light& one) { return one.light.kind != light_kind::directional; };
    const auto spot = [](const named_light& one) { return one.light.kind == light_kind::spot; };
    const auto directional = [](const named_light& one) { return one.light.kind == light_kind::directional; };
    switch (which) {
    case normal_not_renormalized:
        return lit && fragment && meshes;
    case normal_as_point:
    case normal_without_inverse_transpose:
    case normal_in_object_space:
    case normal_in_view_space:
        return (lit || model == model_kind::cel) && to.shading.rate != rate::face;
    case normal_shared_corners:
        return (lit || model == model_kind::cel) && to.shading.rate != rate::face && meshes;
    case normal_flipped:
        return lit || model == model_kind::cel;
    case light_direction_flipped:
    case cosine_not_clamped:
    case block_padding_missed:
    case light_moves_with_object:
        return lit;
    case light_moves_with_eye:
        return lit && light([](const named_light& one) { return one.space == light_space::world; });
    case to_light_not_normalized:
        return lit && light(placed);
    case to_light_normalized_per_vertex:
        return lit && fragment && meshes && light(placed);
    case shines_not_normalized:
        return lit && light([&](const named_light& one) {
                   return one.light.kind != light_kind::point &&
                          std::abs(dot(one.light.shines, one.light.shines) - 1) > 1e-9;
               });
    case half_not_normalized:
        return specular && model == model_kind::blinn_phong;
    case eye_vector_flipped:
    case specular_eye_at_origin:
        return looks_at_eye;
    case position_in_object_space:
        return looks_at_eye || (lit && light(placed));
    case matrix_transposed:
        return lit || model == model_kind::cel;
    case falloff_missing:
    case falloff_after_normalize:
        return lit && light([&](const named_light& one) {
                   return placed(one) && one.light.falloff != falloff_kind::none;
               });
    case falloff_not_squared:
        return lit && light([&](const named_light& one) {
                   return placed(one) &&
                          (one.light.falloff == falloff_kind::inverse_square ||
                           one.light.falloff == falloff_kind::windowed ||
                           (one.light.falloff == falloff_kind::polynomial && one.light.coefficients[2] > 0));
               });
    case falloff_on_directional:
        return lit && light(directional);
    case cone_angle_in_degrees:
    case cone_full_angle:
    case cone_axis_flipped:
        return lit && light(spot);
    case cone_inner_outer_swapped:
        return lit && light([&](const named_light& one) {
                   return spot(one) && one.light.inner != one.light.outer &&
                          one.light.penumbra != penumbra_kind::hard &&
                          one.light.penumbra != penumbra_kind::power;
               });
    case specular_on_unlit_side:
    case specular_tinted_by_base:
    case specular_times_cosine:
        return specular;
    case specular_reflect_flipped:
    case specular_half_for_reflect:
        return specular && model == model_kind::phong;
    case specular_without_falloff:
        return specular && light(placed);
    case factor_pi:
    case clamp_per_light:
        return lit && terms;
    case ambient_missing:
        return terms && to.ambient_strength > 0;
    case ambient_per_light:
        return terms && to.ambient_strength > 0 && to.lights.size() != 1;
    case light_color_ignored:
        return lit && terms &&
               light([](const named_light& one) { return one.light.color != rgb<double>(1.0); });
    case single_light_only:
        return lit && to.lights.size() > 1;
    case rate_vertex_for_fragment:
    case rate_face_for_fragment:
        return fragment && !fields && meshes && model != model_kind::cel && model != model_kind::unlit;
    case interpolation_affine:
        return meshes && (to.shading.rate != rate::face ||
                          material([](const named_material& one) { return one.image != nullptr; }));
    case texture_not_decoded:
        return material([](const named_material& one) { return one.image != nullptr; });
    case alpha_lit:
        return terms;
    case encode_missing:
    case encode_twice:
    case output_wraps:
    case channels_swapped:
    case picture_upside_down:
        return true;
    case depth_test_missing:
    case depth_test_reversed:
        return !to.objects.empty();
    }
    return false;
}

} // namespace yurvo::verify
