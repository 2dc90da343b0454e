#version 450
// The fragment stage: the interpolated colour, unclamped, and the texture.
@blocks@
layout(set = 1, binding = 1) uniform sampler2D u_texture;
layout(location = 0) in vec3 v_lit;
layout(location = 1) in vec3 v_shine;
layout(location = 2) in vec2 v_texcoord;
layout(location = 0) out vec4 color;

void main() {
    vec3 texel = texture(u_texture, v_texcoord).rgb;
    color = vec4(v_lit * texel + v_shine, material.base.a);
}
