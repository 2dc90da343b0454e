@version@
// The fragment stage: the interpolated colour, unclamped, and the texture.
uniform vec4 u_base;
uniform sampler2D u_texture;
@vary@ vec3 v_lit;
@vary@ vec3 v_shine;
@vary@ vec2 v_texcoord;
@target@

void main() {
    vec3 texel = @texture@(u_texture, v_texcoord).rgb;
    @color@ = vec4(v_lit * texel + v_shine, u_base.a);
}
