@version@
// The vertex stage: points and normals to world space, nothing else.
@in@ vec3 a_position;
@in@ vec3 a_normal;
@in@ vec2 a_texcoord;
uniform mat4 u_object_to_world;
uniform mat3 u_normal_to_world; // the inverse transpose: normals do not move like points
uniform mat4 u_world_to_clip;
@out@ vec3 v_position;
@out@ vec3 v_normal;
@out@ vec2 v_texcoord;

void main() {
    vec4 world = u_object_to_world * vec4(a_position, 1.0);
    v_position = world.xyz;
    v_normal = normalize(u_normal_to_world * a_normal);
    v_texcoord = a_texcoord;
    gl_Position = u_world_to_clip * world;
}
