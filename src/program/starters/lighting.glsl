@laws@// All lamps at a point in world space with unit normal n: what each brings, by its terms.
void light_up(vec3 position, vec3 n@given@, out vec3 ambient, out vec3 diffuse, out vec3 specular) {
    vec3 v = normalize(@eye@ - position);
    ambient = vec3(0.0, 0.0, 0.0);
    diffuse = vec3(0.0, 0.0, 0.0);
    specular = vec3(0.0, 0.0, 0.0);
@once@    for (int i = 0; i < @most@; ++i) {
        if (i >= @count@) break;
        Lamp lamp = @lamps@[i];
        vec3 l;
        float falloff = 1.0;
        float penumbra = 1.0;
@unset@        if (lamp.kind == 0) {
            l = -normalize(lamp.shines);
        } else {
            vec3 to_light = lamp.position - position;
            @distance@ = length(to_light); // measured before it is normalised
            l = to_light / d;
@by_law@        }
@anew@        vec3 light = lamp.color * (lamp.intensity * falloff * penumbra);
@cosine@        ambient += lamp.color * lamp.intensity * lamp.ambient@follows@;
        @diffuse@
        @highlight@
    }
}
