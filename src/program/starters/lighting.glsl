// What one lamp brings to a point, and what the surface makes of it: the equations, in the order of the terms.
float falloff_at(Lamp lamp, float d) {
    if (lamp.falloff == 1) return 1.0 / (d * d);
    if (lamp.falloff == 2) {
        return 1.0 / (lamp.coefficients.x + lamp.coefficients.y * d + lamp.coefficients.z * d * d);
    }
    if (lamp.falloff == 3) return max(0.0, 1.0 - d / lamp.range);
    if (lamp.falloff == 4) {
        float q = d / lamp.range;
        return clamp(1.0 - q * q * q * q, 0.0, 1.0) / (d * d);
    }
    return 1.0;
}

float penumbra_at(Lamp lamp, vec3 l) {
    // l points to the lamp, shines away from it: hence the sign. shines may have any length.
    float c = -dot(l, normalize(lamp.shines));
    bool hard = lamp.penumbra == 0 || (lamp.penumbra != 4 && lamp.cos_inner == lamp.cos_outer);
    if (hard) return c >= lamp.cos_outer ? 1.0 : 0.0;
    if (lamp.penumbra == 4) return c >= lamp.cos_outer ? pow(max(c, 0.0), lamp.exponent) : 0.0;
    float t = clamp((c - lamp.cos_outer) / (lamp.cos_inner - lamp.cos_outer), 0.0, 1.0);
    if (lamp.penumbra == 1) return t;
    if (lamp.penumbra == 2) return t * t;
    return t * t * (3.0 - 2.0 * t);
}

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
