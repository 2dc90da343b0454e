@version@
// The fragment stage: the model, evaluated at every pixel.
@uniforms@
uniform sampler2D u_texture;
@vary@ vec3 v_position;
@vary@ vec3 v_normal;
@vary@ vec2 v_texcoord;
@target@

@lighting@
void main() {
    vec3 n = normalize(v_normal); // between vertices it is shorter than 1
    vec3 base = u_base.rgb * @texture@(u_texture, v_texcoord).rgb;
    vec3 diffuse;
    vec3 specular;
    light_up(v_position, n, diffuse, specular);
    vec3 lit = @both:u_ambient * u_ambient_factor|diffuse * u_diffuse_factor@ * base;
    @color@ = vec4(lit + specular * u_specular_factor + u_emission, u_base.a);
}
