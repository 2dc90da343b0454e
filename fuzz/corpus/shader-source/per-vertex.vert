#version 330
// The vertex stage: the model, evaluated at every vertex; its colours are interpolated.
in vec3 a_position;
in vec3 a_normal;
in vec2 a_texcoord;
uniform mat4 u_object_to_world;
uniform mat3 u_normal_to_world; // the inverse transpose: normals do not move like points
uniform mat4 u_world_to_clip;
struct Lamp {
    int kind;    // 0 directional, 1 point, 2 spot
    int falloff; // 0 none, 1 inverse-square, 2 polynomial, 3 linear, 4 windowed
    int penumbra; // 0 hard, 1 ramp, 2 squared, 3 smooth, 4 power
    vec3 position;
    vec3 shines; // the direction in which light travels
    vec3 color;
    float intensity;
    vec3 coefficients;
    float range;
    float cos_inner;
    float cos_outer;
    float exponent;
    vec3 ambient; // its parts: its share of each term
    vec3 diffuse;
    vec3 specular;
};
uniform Lamp u_lamps[16];
uniform int u_lamp_count;
uniform vec3 u_eye;
uniform vec3 u_ambient;
uniform vec4 u_base; // alpha is never lit
uniform vec3 u_ambient_factor;
uniform vec3 u_diffuse_factor;
uniform vec3 u_specular_factor;
uniform vec3 u_emission;
uniform float u_shininess;
out vec3 v_lit;   // what the base colour tints, and the texture
out vec3 v_shine; // what it does not
out vec2 v_texcoord;

// What one lamp brings to a point: the equations.
float falloff_at(Lamp lamp, float d) {
    if (lamp.falloff == 1) return 1.0 / (d * d);
    if (lamp.falloff == 2) return 1.0 / (lamp.coefficients.x + lamp.coefficients.y * d + lamp.coefficients.z * d * d);
    if (lamp.falloff == 3) return max(0.0, 1.0 - d / lamp.range);
    if (lamp.falloff == 4) return clamp(1.0 - (d / lamp.range) * (d / lamp.range) * (d / lamp.range) * (d / lamp.range), 0.0, 1.0) / (d * d);
    return 1.0;
}

float penumbra_at(Lamp lamp, vec3 l) {
    // l points to the lamp, shines away from it: hence the sign. shines may have any length.
    float c = -dot(l, normalize(lamp.shines));
    if (lamp.penumbra == 4) return c >= lamp.cos_outer ? pow(max(c, 0.0), lamp.exponent) : 0.0;
    if (lamp.penumbra == 0 || lamp.cos_inner == lamp.cos_outer) return c >= lamp.cos_outer ? 1.0 : 0.0;
    float t = clamp((c - lamp.cos_outer) / (lamp.cos_inner - lamp.cos_outer), 0.0, 1.0);
    if (lamp.penumbra == 1) return t;
    if (lamp.penumbra == 2) return t * t;
    return t * t * (3.0 - 2.0 * t);
}

// All lamps at a point in world space with unit normal n: what each brings, by its terms.
void light_up(vec3 position, vec3 n, out vec3 ambient, out vec3 diffuse, out vec3 specular) {
    vec3 v = normalize(u_eye - position);
    ambient = vec3(0.0, 0.0, 0.0);
    diffuse = vec3(0.0, 0.0, 0.0);
    specular = vec3(0.0, 0.0, 0.0);
    for (int i = 0; i < 16; ++i) {
        if (i >= u_lamp_count) break;
        Lamp lamp = u_lamps[i];
        vec3 l;
        float falloff = 1.0;
        float penumbra = 1.0;
        if (lamp.kind == 0) {
            l = -normalize(lamp.shines);
        } else {
            vec3 to_light = lamp.position - position;
            float d = length(to_light); // measured before it is normalised
            l = to_light / d;
            falloff = falloff_at(lamp, d);
            if (lamp.kind == 2) penumbra = penumbra_at(lamp, l);
        }
        vec3 light = lamp.color * (lamp.intensity * falloff * penumbra);
        float cosine = dot(n, l);
        ambient += lamp.color * lamp.intensity * lamp.ambient * falloff * penumbra;
        diffuse += light * lamp.diffuse * max(cosine, 0.0);
        if (cosine > 0.0) { // no highlight on the side that faces away
            specular += light * lamp.specular * pow(max(dot(n, normalize(l + v)), 0.0), u_shininess);
        }
    }
}

void main() {
    vec4 world = u_object_to_world * vec4(a_position, 1.0);
    vec3 position = world.xyz;
    vec3 n = normalize(u_normal_to_world * a_normal);
    vec3 base = u_base.rgb;
    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    light_up(position, n, ambient, diffuse, specular);
    v_lit = ((u_ambient + ambient) * u_ambient_factor + diffuse * u_diffuse_factor) * base;
    v_shine = specular * u_specular_factor + u_emission;
    v_texcoord = a_texcoord;
    gl_Position = u_world_to_clip * world;
}
