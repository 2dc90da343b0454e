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
@facing@    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    vec3 position = v_position;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    vec3 lit = @both:(u_ambient + ambient) * u_ambient_factor@ambient@|diffuse * u_diffuse_factor@ * base;
    vec3 c = lit + specular * u_specular_factor@more@ + u_emission;
    @color@ = vec4(@curve@, u_base.a);
}
