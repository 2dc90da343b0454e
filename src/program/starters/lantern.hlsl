// Both stages in one file. Matrices multiply from the left: mul(M, v).
struct Lamp { // a float3 fills up to the next 16 bytes; the number after it takes its last 4
    float3 position;
    int kind;    // 0 directional, 1 point, 2 spot
    float3 shines; // the direction in which light travels
    int falloff; // @falloff_numbers@
    float3 color;
    int penumbra; // @penumbra_numbers@
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
@falloffs@}

float penumbra_at(Lamp lamp, float3 l) {
    // l points to the lamp, shines away from it: hence the sign. shines may have any length.
    float c = -dot(l, normalize(lamp.shines));
@penumbras@}

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
