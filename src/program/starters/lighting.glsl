// What one lamp brings to a point, and what the surface makes of it: the equations, in the order of the terms.
float falloff_at(Lamp lamp, float d) {
@falloffs@}

float penumbra_at(Lamp lamp, vec3 l) {
    // l points to the lamp, shines away from it: hence the sign. shines may have any length.
    float c = -dot(l, normalize(lamp.shines));
@penumbras@}

// All lamps at a point in world space with unit normal n: diffuse light in `diffuse`, highlights in `specular`.
void light_up(vec3 position, vec3 n, out vec3 diffuse, out vec3 specular) {
    vec3 v = normalize(@eye@ - position);
    diffuse = vec3(0.0);
    specular = vec3(0.0);
    for (int i = 0; i < @most@; ++i) {
        if (i >= @count@) break;
        Lamp lamp = @lamps@[i];
        vec3 l;
        float factor = 1.0;
        if (lamp.kind == 0) {
            l = -normalize(lamp.shines);
        } else {
            vec3 to_light = lamp.position - position;
            float d = length(to_light); // measured before it is normalised
            l = to_light / d;
            factor = falloff_at(lamp, d);
            if (lamp.kind == 2) factor *= penumbra_at(lamp, l);
        }
        vec3 light = lamp.color * (lamp.intensity * factor);
        float cosine = dot(n, l);
        @diffuse@
        @highlight@
    }
}
