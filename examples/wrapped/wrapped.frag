#version 330 core
struct lamp {
    vec4 place; // w is 0 for a directional light, whose direction it then is
    vec3 light;
};
uniform lamp u_lamps[8];
uniform int u_count;
uniform vec3 u_ambient;
uniform vec3 u_base;
uniform float u_wrap;
in vec3 v_position;
in vec3 v_normal;
out vec4 color;

void main() {
    vec3 n = normalize(v_normal);
    vec3 sum = u_ambient;
    for (int i = 0; i < u_count; ++i) {
        vec3 to_light = u_lamps[i].place.xyz - v_position * u_lamps[i].place.w;
        float falloff = u_lamps[i].place.w == 0.0 ? 1.0 : 1.0 / dot(to_light, to_light);
        float cosine = (dot(n, normalize(to_light)) + u_wrap) / (1.0 + u_wrap);
        sum += u_lamps[i].light * falloff * max(cosine, 0.0);
    }
    color = vec4(u_base * sum, 1.0);
}
