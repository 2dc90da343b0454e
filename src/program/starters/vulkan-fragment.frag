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
@facing@    vec3 ambient;
    vec3 diffuse;
    vec3 specular;
    vec3 position = v_position;
    light_up(position, n@give@, ambient, diffuse, specular);
@asked@    vec3 lit = @both:(view.ambient + ambient) * material.ambient@ambient@|diffuse * material.diffuse@ * base;
    vec3 c = lit + specular * material.specular@more@ + material.emission;
    color = vec4(@curve@, material.base.a);
}
