#version 450
// The vertex stage: points and normals to world space, nothing else.
layout(location = 0) in vec3 a_position;
layout(location = 1) in vec3 a_normal;
layout(location = 2) in vec2 a_texcoord;
layout(push_constant) uniform Object {
    mat4 to_world;
    mat4 normal_to_world; // the inverse transpose: normals do not move like points
} object;
@blocks@
layout(location = 0) out vec3 v_position;
layout(location = 1) out vec3 v_normal;
layout(location = 2) out vec2 v_texcoord;

void main() {
    vec4 world = object.to_world * vec4(a_position, 1.0);
    v_position = world.xyz;
    v_normal = normalize(mat3(object.normal_to_world) * a_normal);
    v_texcoord = a_texcoord;
    gl_Position = view.world_to_clip * world;
}
