
struct Between {
    float4 clip : SV_Position;
    float3 lit : TEXCOORD0;   // what the base colour tints, and the texture
    float3 shine : TEXCOORD1; // what it does not
    float2 texcoord : TEXCOORD2;
};

// The vertex stage: the model, evaluated at every vertex; its colours are interpolated.
Between vertex_main(VertexIn input) {
    Between output;
    float4 world = mul(object_to_world, float4(input.position, 1.0));
    float3 position = world.xyz;
    float3 n = normalize(mul((float3x3)normal_to_world, input.normal));
    float3 tinted = base.rgb;
    float3 ambient;
    float3 diffuse;
    float3 specular;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    output.lit = @both:(ambient_light + ambient) * ambient_factor@ambient@|diffuse * diffuse_factor@ * tinted;
    output.shine = specular * specular_factor@more@ + emission;
@curve_at_vertex@    output.texcoord = input.texcoord;
    output.clip = mul(world_to_clip, world);
    return output;
}

// The fragment stage: the interpolated colour, unclamped, and the texture.
float4 fragment_main(Between input) : SV_Target0 {
    float3 texel = planks.Sample(planks_sampler, input.texcoord).rgb;
    return float4(input.lit * texel + input.shine, base.a);
}
