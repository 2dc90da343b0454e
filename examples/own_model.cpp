// Your own model: one formula for float, double and batches, at any rate. It says what one light does at one
// point; ambient, base, the material's factors and emission are added for it.
#include <cstdio>

#include <yurvo/yurvo.hpp>

// Diffuse light that reaches around the edge of shadow, as it does in rope and sailcloth.
struct wrapped_diffuse {
    float wrap = 0.3F;
    template <class Real>
    yurvo::reflected<Real> operator()(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& in) const {
        const Real cosine = (dot(s.normal, in.to_light) + wrap) / (1 + wrap);
        return {.diffuse = in.light * max(cosine, Real(0)), .specular = {}};
    }
};

int main(int argc, char** argv) {
    if (argc > 1) { // with arguments it is the whole tool: own_model draw harbour -o a.png --model wrapped
        return yurvo::command_line(argc, argv, yurvo::models{{"wrapped", wrapped_diffuse{}}});
    }
    yurvo::scene buoy;
    buoy.view = {.eye = {0, 0, 4}, .width = 9, .height = 1};
    buoy.view.fov = yurvo::radians(4.2);
    buoy.ambient_strength = 0;
    buoy.materials.push_back({.name = "paint"});
    buoy.objects.push_back({.name = "buoy", .shape = yurvo::field_shape{}});
    yurvo::named_light moon{.name = "moon"};
    moon.light.kind = yurvo::light_kind::directional;
    moon.light.shines = {-1, 0, 0}; // from the right
    buoy.lights.push_back(moon);

    // From the dark side to the lit one, across the edge of shadow in the middle.
    const yurvo::picture hard = draw(buoy, yurvo::lambert<>{});
    const yurvo::picture soft = draw(buoy, wrapped_diffuse{});
    for (int x = 0; x < buoy.view.width; ++x) {
        std::printf("%.2f  %.2f\n", hard.color(x, 0).r, soft.color(x, 0).r);
    }
}
