@version@
// The vertex stage: the model, evaluated at every vertex; its colours are interpolated.
@in@ vec3 a_position;
@in@ vec3 a_normal;
@in@ vec2 a_texcoord;
uniform mat4 u_object_to_world;
uniform mat3 u_normal_to_world; // the inverse transpose: normals do not move like points
uniform mat4 u_world_to_clip;
@uniforms@
@out@ vec3 v_lit;   // what the base colour tints, and the texture
@out@ vec3 v_shine; // what it does not
@out@ vec2 v_texcoord;

@lighting@
void main() {
    vec4 world = u_object_to_world * vec4(a_position, 1.0);
    vec3 position = world.xyz;
    vec3 n = normalize(u_normal_to_world * a_normal);
    vec3 base = u_base.rgb;
    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    v_lit = @both:(u_ambient + ambient) * u_ambient_factor@ambient@|diffuse * u_diffuse_factor@ * base;
    v_shine = specular * u_specular_factor@more@ + u_emission;
@curve_at_vertex@    v_texcoord = a_texcoord;
    gl_Position = u_world_to_clip * world;
}
