// The shading formulas alone, without scene or pipeline, in double: a point on the quay worked out by hand.
#include <cstdio>

#include <yurvo/shading/shade.hpp>

using namespace yurvo;

int main() {
    light lantern;
    lantern.position = {0, 2, 0};
    lantern.intensity = 4;

    surface<double> quay;
    quay.position = {1, 0, 0};
    quay.normal = {0, 1, 0};
    quay.to_eye = formula::to_eye(quay.position, {0, 3, 6});
    quay.base = {0.5, 0.4, 0.3};
    quay.specular = rgb<double>(0.25);
    quay.shininess = 16;

    const arrival<double> in = arrive<formula>(make_ready<double>(lantern), quay.position);
    std::printf("distance %.6f, falloff × intensity %.6f\n", in.distance, in.brightness);
    std::printf("cosine %.6f\n", formula::diffuse_cosine(quay.normal, in.to_light));

    const reflected<double> one = blinn_phong{}(quay, in);
    const outgoing<double> lit = finish_terms(quay, one, {});
    std::printf("diffuse %.6f, specular %.6f\n", lit.tinted.r, lit.untinted.r);
}
