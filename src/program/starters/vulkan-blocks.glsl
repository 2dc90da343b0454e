struct Lamp { // std140: a vec3 begins at a multiple of 16 bytes; the numbers after it fill its last 4
    vec3 position;
    int kind;    // 0 directional, 1 point, 2 spot
    vec3 shines; // the direction in which light travels
    int falloff; // @falloff_numbers@
    vec3 color;
    int penumbra; // @penumbra_numbers@
    vec3 coefficients;
    float intensity;
    float range;
    float cos_inner;
    float cos_outer;
    float exponent;
    vec3 ambient; // its parts: its share of each term
    float inner;
    vec3 diffuse;
    float outer;
    vec3 specular;
};
layout(set = 0, binding = 0) uniform Lamps {
    Lamp lamps[@most@];
    int count;
} lighting;
layout(set = 0, binding = 1) uniform View {
    mat4 world_to_clip;
    vec3 eye;
    vec3 ambient;
    vec3 axis; // towards the viewer
} view;
layout(set = 1, binding = 0) uniform Material {
    vec4 base; // alpha is never lit
    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    vec3 emission;
    float shininess;
} material;
@more_uniforms@