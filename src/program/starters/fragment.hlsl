
struct Between {
    float4 clip : SV_Position;
    float3 position : TEXCOORD0;
    float3 normal : TEXCOORD1;
    float2 texcoord : TEXCOORD2;
};

// The vertex stage: points and normals to world space, nothing else.
Between vertex_main(VertexIn input) {
    Between output;
    float4 world = mul(object_to_world, float4(input.position, 1.0));
    output.position = world.xyz;
    output.normal = normalize(mul((float3x3)normal_to_world, input.normal));
    output.texcoord = input.texcoord;
    output.clip = mul(world_to_clip, world);
    return output;
}

// The fragment stage: the model, evaluated at every pixel.
float4 fragment_main(Between input@facing_input@) : SV_Target0 {
    float3 n = normalize(input.normal); // between vertices it is shorter than 1
    float3 tinted = base.rgb * planks.Sample(planks_sampler, input.texcoord).rgb;
    float3 position = input.position;
@facing@    float3 ambient;
    float3 diffuse;
    float3 specular;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    float3 lit = @both:(ambient_light + ambient) * ambient_factor@ambient@|diffuse * diffuse_factor@ * tinted;
    float3 c = lit + specular * specular_factor@more@ + emission;
    return float4(@curve@, base.a);
}
