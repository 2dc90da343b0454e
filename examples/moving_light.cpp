// A light that moves: the same scene with the lantern lifted, and the inverse square in the numbers.
#include <cstdio>

#include <yurvo/yurvo.hpp>

int main() {
    yurvo::scene quay = yurvo::verify::find_reference("lantern-quay-inverse-square")->scene;
    quay.ambient_strength = 0;
    quay.view.eye = {0, 8, 0.001}; // straight down, so that the middle of the picture is the lantern's foot
    quay.view.width = 1;
    quay.view.height = 1;
    for (const double height : {1.0, 2.0, 3.0, 4.0}) {
        quay.lights[0].light.position = {0, height, 0};
        std::printf("lantern at %.0f m: %.5f\n", height, yurvo::draw(quay).color(0, 0).r);
    }
}
