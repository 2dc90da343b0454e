// Your own model (wrapped_diffuse.hpp) in a picture, and the whole tool with it. examples/CMakeLists.txt has
// it compiled for every instruction set, so that it runs as fast as the built-in ones.
#include <cstdio>

#include <yurvo/model.hpp>
#include <yurvo/yurvo.hpp>

#include "wrapped_diffuse.hpp"

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
