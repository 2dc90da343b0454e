#version 330 core
in vec3 a_position;
in vec3 a_normal;
uniform mat4 u_model;
uniform mat3 u_normal;
uniform mat4 u_view_projection;
out vec3 v_position;
out vec3 v_normal;

void main() {
    vec4 world = u_model * vec4(a_position, 1.0);
    v_position = world.xyz;
    v_normal = normalize(u_normal * a_normal);
    gl_Position = u_view_projection * world;
}
