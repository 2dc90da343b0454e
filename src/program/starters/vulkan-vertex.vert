#version 450
// The vertex stage: the model, evaluated at every vertex; its colours are interpolated.
layout(location = 0) in vec3 a_position;
layout(location = 1) in vec3 a_normal;
layout(location = 2) in vec2 a_texcoord;
layout(push_constant) uniform Object {
    mat4 to_world;
    mat4 normal_to_world; // the inverse transpose: normals do not move like points
} object;
@blocks@
layout(location = 0) out vec3 v_lit;   // what the base colour tints, and the texture
layout(location = 1) out vec3 v_shine; // what it does not
layout(location = 2) out vec2 v_texcoord;

@lighting@
void main() {
    vec4 world = object.to_world * vec4(a_position, 1.0);
    vec3 position = world.xyz;
    vec3 n = normalize(mat3(object.normal_to_world) * a_normal);
    vec3 base = material.base.rgb;
    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    v_lit = @both:(view.ambient + ambient) * material.ambient@ambient@|diffuse * material.diffuse@ * base;
    v_shine = specular * material.specular@more@ + material.emission;
@curve_at_vertex@    v_texcoord = a_texcoord;
    gl_Position = view.world_to_clip * world;
}
