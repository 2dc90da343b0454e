struct Lamp {
    int kind;    // 0 directional, 1 point, 2 spot
    int falloff; // 0 none, 1 inverse square, 2 polynomial, 3 linear, 4 windowed
    int penumbra;     // 0 hard, 1 ramp, 2 squared, 3 smooth, 4 power
    vec3 position;
    vec3 shines; // the direction in which light travels
    vec3 color;
    float intensity;
    vec3 coefficients;
    float range;
    float cos_inner;
    float cos_outer;
    float exponent;
};
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
