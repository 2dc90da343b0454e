#version 450
// The fragment stage: the model, evaluated at every pixel.
@blocks@
layout(set = 1, binding = 1) uniform sampler2D u_texture;
layout(location = 0) in vec3 v_position;
layout(location = 1) in vec3 v_normal;
layout(location = 2) in vec2 v_texcoord;
layout(location = 0) out vec4 color;

@lighting@
void main() {
    vec3 n = normalize(v_normal); // between vertices it is shorter than 1
    vec3 base = material.base.rgb * texture(u_texture, v_texcoord).rgb;
    vec3 diffuse;
    vec3 specular;
    light_up(v_position, n, diffuse, specular);
    vec3 lit = @both:view.ambient * material.ambient|diffuse * material.diffuse@ * base;
    color = vec4(lit + specular * material.specular + material.emission, material.base.a);
}
