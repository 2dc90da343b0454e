// The smallest program: a scene from its file, drawn, and whether it is right.
#include <cstdio>

#include <yurvo/yurvo.hpp>

int main(int argc, char** argv) {
    const yurvo::scene quay =
        yurvo::read_scene(argc > 1 ? argv[1] : "scenes/reference/lantern-quay-inverse-square.toml");
    const yurvo::picture drawn = yurvo::draw(quay);
    const yurvo::rgb<float> foot = drawn.color(drawn.width / 2, drawn.height / 2);
    std::printf("%dx%d pixels; at the foot of the lantern: %.3f %.3f %.3f\n", drawn.width, drawn.height,
                foot.r, foot.g, foot.b);
}
