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
    float3 ambient; // its parts: its share of each term
    float inner;
    float3 diffuse;
    float outer;
    float3 specular;
};
cbuffer Lamps {
    Lamp lamps[@most@];
    int lamp_count;
};
cbuffer View {
    float4x4 world_to_clip;
    float3 eye;
    float3 ambient_light;
    float3 axis; // towards the viewer
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

@more_uniforms@@lighting@