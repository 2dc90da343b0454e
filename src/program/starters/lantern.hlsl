// Both stages in one file. Matrices multiply from the left: mul(M, v).
struct Lamp { // a float3 fills up to the next 16 bytes; the number after it takes its last 4
    float3 position;
    int kind;    // 0 directional, 1 point, 2 spot
    float3 shines; // the direction in which light travels
    int falloff; // 0 none, 1 inverse square, 2 polynomial, 3 linear, 4 windowed
    float3 color;
    int penumbra;     // 0 hard, 1 ramp, 2 squared, 3 smooth, 4 power
    float3 coefficients;
    float intensity;
    float range;
    float cos_inner;
    float cos_outer;
    float exponent;
};
cbuffer Lamps {
    Lamp lamps[@most@];
    int lamp_count;
};
cbuffer View {
    float4x4 world_to_clip;
    float3 eye;
    float3 ambient_light;
};
cbuffer Object {
    float4x4 object_to_world;
    float4x4 normal_to_world; // the inverse transpose: normals do not move like points
};
cbuffer Material {
    float4 base; // alpha is never lit
    float3 ambient_factor;
    float3 diffuse_factor;
    float3 specular_factor;
    float3 emission;
    float shininess;
};
Texture2D planks;
SamplerState planks_sampler;

struct VertexIn {
    float3 position : POSITION;
    float3 normal : NORMAL;
    float2 texcoord : TEXCOORD0;
};

// What one lamp brings to a point: the equations.
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

float penumbra_at(Lamp lamp, float3 l) {
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

void light_up(float3 position, float3 n, out float3 diffuse, out float3 specular) {
    float3 v = normalize(eye - position);
    diffuse = float3(0.0, 0.0, 0.0);
    specular = float3(0.0, 0.0, 0.0);
    for (int i = 0; i < lamp_count; ++i) {
        Lamp lamp = lamps[i];
        float3 l;
        float factor = 1.0;
        if (lamp.kind == 0) {
            l = -normalize(lamp.shines);
        } else {
            float3 to_light = lamp.position - position;
            float d = length(to_light); // measured before it is normalised
            l = to_light / d;
            factor = falloff_at(lamp, d);
            if (lamp.kind == 2) factor *= penumbra_at(lamp, l);
        }
        float3 light = lamp.color * (lamp.intensity * factor);
        float cosine = dot(n, l);
        diffuse += light * max(cosine, 0.0);
        if (cosine > 0.0) { // no highlight on the side that faces away
            specular += light * pow(max(dot(n, normalize(l + v)), 0.0), shininess);
        }
    }
}
