struct Lamp {
    int kind;    // 0 directional, 1 point, 2 spot
    int falloff; // @falloff_numbers@
    int penumbra; // @penumbra_numbers@
    vec3 position;
    vec3 shines; // the direction in which light travels
    vec3 color;
    float intensity;
    vec3 coefficients;
    float range;
    float cos_inner;
    float cos_outer;
    float exponent;
    vec3 ambient; // its parts: its share of each term
    vec3 diffuse;
    vec3 specular;
@more_of_lamp@};
uniform Lamp u_lamps[@most@];
uniform int u_lamp_count;
uniform vec3 u_eye;
uniform vec3 u_ambient;
uniform vec4 u_base; // alpha is never lit
uniform vec3 u_ambient_factor;
uniform vec3 u_diffuse_factor;
uniform vec3 u_specular_factor;
uniform vec3 u_emission;
uniform float u_shininess;
@more_uniforms@