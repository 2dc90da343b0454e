
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
    float3 diffuse;
    float3 specular;
    light_up(world.xyz, normalize(mul((float3x3)normal_to_world, input.normal)), diffuse, specular);
    output.lit = (ambient_light * ambient_factor + diffuse * diffuse_factor) * base.rgb;
    output.shine = specular * specular_factor + emission;
    output.texcoord = input.texcoord;
    output.clip = mul(world_to_clip, world);
    return output;
}

// The fragment stage: the interpolated colour, unclamped, and the texture.
float4 fragment_main(Between input) : SV_Target0 {
    float3 texel = planks.Sample(planks_sampler, input.texcoord).rgb;
    return float4(input.lit * texel + input.shine, base.a);
}
